// npm run screenshots: a picture of each main view with the demo job, at 1280 by 800, into docs/screenshots.
import { execFileSync } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { root } from "./lib/bundle.mjs";
import { ensureDebian, ensureNpm, hasProgram } from "./lib/sh.mjs";
import { startCluster } from "./lib/cluster.mjs";

ensureNpm();
ensureDebian(["chromium", "poppler-utils"], () => fs.existsSync("/usr/bin/chromium") && hasProgram("pdftoppm"));
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
    args: [
      "--no-sandbox",
      "--disable-dev-shm-usage",
      "--use-gl=angle",
      "--use-angle=swiftshader",
      "--enable-unsafe-swiftshader",
      "--ignore-gpu-blocklist",
      "--disable-background-networking",
    ],
  });
  const jobs = await (await fetch(`${server.url}/api/jobs`)).json();
  const { id } = jobs.find((j) => j.name === "Gorsefold Quarry");

  const picture = async (name, place, act = async () => undefined, { theme = "light" } = {}) => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, timezoneId: "UTC" });
    await context.addInitScript((t) => {
      localStorage.setItem("author", "Petra Lindqvist");
      localStorage.setItem("theme", t);
    }, theme);
    const page = await context.newPage();
    await page.goto(place === "" ? server.url : `${server.url}/jobs/${id}/${place}`);
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
    await page
      .getByLabel("File to take in")
      .setInputFiles({
        name: "crew-b-again.csv",
        mimeType: "text/csv",
        buffer: fs.readFileSync(path.join(root, "demo/gorsefold/gorsefold-day2.csv")),
      });
    await page.getByRole("heading", { name: "What would come" }).waitFor();
  });
  await picture("settings", "settings");
  await picture("points", "points", async (page) => {
    await page.getByLabel("Filter points").fill("HEAPTOP");
    await page.getByRole("gridcell", { name: "HEAPTOP", exact: true }).first().click();
    await page.getByRole("gridcell", { name: "HEAPTOP", exact: true }).first().dblclick();
  });
  await picture("sets", "points", async (page) => {
    await page.getByRole("tab", { name: /^Sets/ }).click();
    await page.getByRole("button", { name: "poor precision" }).click();
    await page.getByTestId("set-counts").waitFor();
  });
  await picture("findings", "points", async (page) => {
    await page.keyboard.press("f");
    await page.getByRole("option", { name: /24 shots in a row/ }).click();
    await page.getByRole("listbox", { name: "Findings" }).focus();
    await page.getByRole("img", { name: /24 shots lie about/ }).waitFor();
    await page.keyboard.press("1");
    await page.getByRole("table", { name: "Effect of the repair" }).waitFor();
  });
  await picture("rehearsal", "points", async (page) => {
    await page.getByRole("button", { name: "Rehearse" }).click();
    await page.keyboard.press("f");
    await takeRepair(page);
    await page.getByRole("table", { name: "Volumes and surfaces in the rehearsal" }).getByText(/net/).first().waitFor();
    await page.keyboard.press("l");
  });
  await picture("lines", "lines", async (page) => {
    await page.getByRole("button", { name: "KERB 1" }).click();
    await page.getByRole("tab", { name: /Pieces/ }).click();
    await page.getByRole("table", { name: "Pieces of KERB 1" }).waitFor();
  });
  await picture("added", "lines", async (page) => {
    await page.getByRole("button", { name: "Add to drawing" }).click();
    await page
      .getByRole("button", { name: /^bearings, distances of WALL/i })
      .first()
      .click();
    await quiet(page);
    await page
      .getByRole("button", { name: /^weighbridge, to be kept/i })
      .first()
      .click();
  });
  await picture("book", "book", async (page) => {
    await page.getByRole("button", { name: "Edit HEDGE" }).click();
    await page.getByTestId("code-picture").waitFor();
  });
  await picture("surface", "surface", async (page) => {
    await page.getByLabel("Ground", { exact: true }).selectOption("slopes");
    await page.getByRole("button", { name: "Section" }).click();
    await quiet(page);
    const box = await page.getByTestId("sheet").boundingBox();
    await page.mouse.move(box.x + 60, box.y + 60);
    await page.mouse.down();
    await page.mouse.move(box.x + 600, box.y + 330, { steps: 4 });
    await page.mouse.up();
    const chart = await page.getByRole("img", { name: /^Section of/ }).boundingBox();
    await page.mouse.move(chart.x + 0.8 * chart.width, chart.y + chart.height / 2);
  });
  await picture("volumes", "volumes", async (page) => {
    await page.getByRole("button", { name: "stage and basin" }).click();
    await page.getByText("Shots that move it most").waitFor();
    await page.getByRole("button", { name: "Go there" }).click();
  });
  await picture("storage", "volumes", async (page) => {
    await page.getByRole("button", { name: "sump", exact: true }).click();
    await page.getByRole("button", { name: "Go there" }).click();
    await page.getByLabel("Seen as").selectOption("both");
    await page.locator('[data-testid="relief"][data-frame]').waitFor();
    await page.getByRole("button", { name: "90.400" }).click();
    await page.locator('[data-testid="storage-held"][data-level="90.4"]').waitFor();
    const box = await page.getByTestId("relief").boundingBox();
    await page.mouse.move(box.x + 0.62 * box.width, box.y + 0.62 * box.height);
    await page.mouse.wheel(0, -600);
    await page.waitForTimeout(1500);
  });
  await picture("as-built", "volumes", async (page) => {
    await page.getByRole("tab", { name: /As built/ }).click();
    await page.getByTestId("built-words").waitFor();
    await page.getByLabel("Write cut and fill beside each point").check();
    await page.getByRole("button", { name: "Go there" }).click();
  });
  await report(id);
  await picture("handover", "handover", async (page) => {
    await page.getByRole("button", { name: "sheet.pdf", exact: true }).click();
    const sheet = page.getByRole("img", { name: /^Picture of sheet/ });
    await sheet.waitFor();
    await sheet.scrollIntoViewIfNeeded();
    await page.waitForTimeout(1500);
  });
  await picture(
    "relief-dark",
    "surface",
    async (page) => {
      await page.getByLabel("Ground", { exact: true }).selectOption("levels");
      await page.getByLabel("Seen as").selectOption("relief");
      await page.locator('[data-testid="relief"][data-frame]').waitFor();
      const box = await page.getByTestId("relief").boundingBox();
      await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
      await page.mouse.wheel(0, -250);
      await page.waitForTimeout(1500);
    },
    { theme: "dark" },
  );
  // The last, since it changes the job.
  await picture("states", "points", async (page) => {
    await page.getByRole("tab", { name: /Ledger/ }).click();
    await page.getByRole("button", { name: "Name this state" }).click();
    await page.getByLabel("Name of the state").fill("as received");
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Compare with now" }).waitFor();
    await page.getByRole("tab", { name: /Findings/ }).click();
    await takeRepair(page);
    await settled(page);
    await page.getByRole("tab", { name: /Ledger/ }).click();
    await page.getByRole("button", { name: "Compare with now" }).click();
    await page.getByRole("table", { name: "Figures between the states" }).waitFor();
  });
} finally {
  await browser?.close();
  server?.stop();
  cluster.stop();
  fs.rmSync(folder, { recursive: true, force: true });
}

/** Of the findings, which are open, that of a target height written wrongly, and its first repair. */
async function takeRepair(page) {
  await page.getByRole("option", { name: /24 shots in a row/ }).click();
  await page.getByRole("listbox", { name: "Findings" }).focus();
  await page.getByRole("img", { name: /24 shots lie about/ }).waitFor();
  await page.keyboard.press("1");
  await page.getByRole("table", { name: "Effect of the repair" }).waitFor();
  await page.keyboard.press("Enter");
}

/** A page of the report, as the queue makes it. */
async function report(id) {
  const made = `${server.url}/api/jobs/${id}/made`,
    wanted = { what: "volumes", format: "pdf", file: "report.pdf", comparisons: ["stage and basin"] };
  const order = await fetch(made, {
    method: "POST",
    headers: { "content-type": "application/json", "x-author": "Petra Lindqvist" },
    body: JSON.stringify(wanted),
  });
  const { id: file } = await order.json();
  for (;;) {
    const { state } = (await (await fetch(made)).json()).find((f) => f.id === file);
    if (state === "made") break;
    if (state === "failed") throw new Error("the report could not be made");
    await new Promise((again) => setTimeout(again, 500));
  }
  const pdf = path.join(folder, "report.pdf");
  fs.writeFileSync(pdf, Buffer.from(await (await fetch(`${made}/${file}`)).arrayBuffer()));
  const out = path.join(root, "docs/screenshots/report");
  execFileSync("pdftoppm", ["-r", "90", "-f", "2", "-l", "2", "-singlefile", "-png", pdf, out]);
  console.log("docs/screenshots/report.png");
}

async function settled(page) {
  await page.locator('[data-testid="saved"]', { hasText: "Saved" }).waitFor();
}

/** The sheet has drawn its last frame when two looks at its count agree. */
async function quiet(page) {
  const count = () => page.getByTestId("sheet").getAttribute("data-frame");
  for (let last = ""; ;) {
    const now = await count();
    if (now === last) return;
    last = now;
    await page.evaluate(
      () => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(r)))),
    );
  }
}
