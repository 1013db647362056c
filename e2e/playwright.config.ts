import { defineConfig } from "@playwright/test";

/** One server with a database of its own for each that tests at once: none sees what another does to the demo job. */
const servers = (process.env.BASE_URL ?? "").split(","),
  databases = (process.env.DATABASE_URL ?? "").split(","),
  own = Number(process.env.TEST_PARALLEL_INDEX ?? 0);
if (process.env.TEST_PARALLEL_INDEX !== undefined) process.env.DATABASE_URL = databases[own];

export default defineConfig({
  testDir: ".",
  workers: servers.length,
  timeout: 60_000,
  expect: { timeout: 15_000 },
  retries: 0,
  outputDir: "../test-results",
  reporter: [["list"], ["json"]],
  use: {
    baseURL: servers[own],
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-dev-shm-usage",
        "--use-gl=angle",
        "--use-angle=swiftshader",
        "--enable-unsafe-swiftshader",
        "--ignore-gpu-blocklist",
        "--disable-background-networking",
      ],
    },
  },
});
