import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: ".",
  // A window is busy in one thread: two of them keep two cores busy.
  workers: 2,
  // A busy machine takes its time; what hangs is ended all the same.
  timeout: 120_000,
  expect: { timeout: 15_000 },
  retries: 0,
  outputDir: "../test-results",
  reporter: [["list"], ["json"]],
  use: {
    baseURL: process.env.BASE_URL,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: "/usr/bin/chromium-headless-shell",
      args: [
        "--no-sandbox",
        "--disable-dev-shm-usage",
        "--use-gl=angle",
        "--use-angle=swiftshader",
        "--enable-unsafe-swiftshader",
        "--ignore-gpu-blocklist",
        "--disable-background-networking",
        // Where software stands in for a graphics card, only what the sheet draws with it is left to it.
        "--disable-gpu-compositing",
        "--disable-gpu-rasterization",
        "--disable-accelerated-2d-canvas",
      ],
    },
  },
});
