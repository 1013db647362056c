// npm run screenshots: a picture of each main view with the demo job, at 1280 by 800, into docs/screenshots.
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { root } from "./lib/bundle.mjs";
import { ensureDebian, ensureNpm } from "./lib/sh.mjs";
import { startCluster } from "./lib/cluster.mjs";

ensureNpm();
ensureDebian(["chromium"], () => fs.existsSync("/usr/bin/chromium"));
const { chromium } = await import("@playwright/test");
const { serveDemo } = await import("./lib/serve.mjs");

const folder = fs.mkdtempSync(path.join(os.tmpdir(), "rough-bramble-pictures-"));
fs.chmodSync(folder, 0o755);
const cluster = await startCluster({ folder: path.join(folder, "postgresql"), durable: false });
let server, browser;
try {
  server = await serveDemo(cluster.url);
  browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-dev-shm-usage", "--use-gl=angle", "--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--ignore-gpu-blocklist", "--disable-background-networking"],
  });
  const jobs = await (await fetch(`${server.url}/api/jobs`)).json();
  const { id } = jobs.find((j) => j.name === "Gorsefold Quarry");
  const yard = jobs.find((j) => j.name !== "Gorsefold Quarry").id;

  const picture = async (name, place, act = async () => undefined, { job = id, theme = "light" } = {}) => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, timezoneId: "UTC" });
    await context.addInitScript((t) => {
      localStorage.setItem("author", "Petra Lindqvist");
      localStorage.setItem("theme", t);
    }, theme);
    const page = await context.newPage();
    await page.goto(place === "" ? server.url : `${server.url}/jobs/${job}/${place}`);
    if (place !== "") await settled(page);
    await act(page);
    if (place !== "") await quiet(page);
    await page.screenshot({ path: path.join(root, "docs/screenshots", `${name}.png`) });
    await context.close();
    console.log(`docs/screenshots/${name}.png`);
  };
  fs.mkdirSync(path.join(root, "docs/screenshots"), { recursive: true });
  await picture("jobs", "");
  await picture("intake", "intake");
  await picture("look-before-intake", "intake", async (page) => {
    await page.getByLabel("File to take in").setInputFiles({ name: "crew-b-again.csv", mimeType: "text/csv", buffer: fs.readFileSync(path.join(root, "demo/gorsefold/gorsefold-day2.csv")) });
    await page.getByRole("heading", { name: "What would come" }).waitFor();
  });
  await picture("setups", "intake", async (page) => {
    await page.getByRole("button", { name: "gorsefold-day1.xml" }).click();
    await page.getByRole("tab", { name: "Setups 2" }).click();
    await page.getByRole("button", { name: "S2", exact: true }).click();
  });
  await picture("fixed-width", "intake", async (page) => {
    const rows = Array.from({ length: 40 }, (_, i) => `${String(7001 + i).padStart(5)}${(7060 + i * 2.5).toFixed(3).padStart(10)}${(3110 + (i * 13) % 70).toFixed(3).padStart(10)}${(92.4 + i / 50).toFixed(3).padStart(9)}  ${i % 6 ? "SPOT" : "LAPM"}`);
    await page.getByLabel("File to take in").setInputFiles({ name: "crew-c.txt", mimeType: "text/plain", buffer: Buffer.from(["GORSEFOLD CREW C", "   No     North      East    Level  Code", ...rows].join("\n")) });
    await page.getByLabel("Format").selectOption("fixed");
    await page.getByTestId("rulers").waitFor();
    await page.getByRole("heading", { name: "What would come" }).waitFor();
  });
  await picture("settings", "settings");
  await picture("points", "points", async (page) => {
    await page.getByLabel("Filter points").fill("HEAPTOP");
    await page.getByRole("gridcell", { name: "HEAPTOP", exact: true }).first().click();
    await page.getByRole("gridcell", { name: "HEAPTOP", exact: true }).first().dblclick();
  });
  await picture("findings", "points", async (page) => {
    await page.keyboard.press("f");
    await page.getByRole("listitem").filter({ hasText: "DITCH 1 and TRACK 1" }).getByRole("button").click();
  });
  await picture("lines", "lines", (page) => page.getByRole("button", { name: "KERB 1" }).click());
  await picture("surface", "surface", (page) => page.getByLabel("Triangles drawn").check());
  await picture("volumes", "volumes", (page) => page.getByRole("img", { name: /Cut falls/ }).waitFor());
  await picture("handover", "handover", (page) => page.getByLabel("First rows of the file").waitFor());
  await picture("volumes-dark", "volumes", (page) => page.getByRole("img", { name: /Cut falls/ }).waitFor(), { theme: "dark" });
  await picture("feet", "surface", undefined, { job: yard });
} finally {
  await browser?.close();
  server?.stop();
  cluster.stop();
  fs.rmSync(folder, { recursive: true, force: true });
}

async function settled(page) {
  await page.locator('[data-testid="saved"]', { hasText: "Saved" }).waitFor();
}

/** The sheet has drawn its last frame when two looks at its count agree. */
async function quiet(page) {
  const count = () => page.getByTestId("sheet").getAttribute("data-frame");
  for (let last = ""; ; ) {
    const now = await count();
    if (now === last) return;
    last = now;
    await page.evaluate(() => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(r)))));
  }
}
