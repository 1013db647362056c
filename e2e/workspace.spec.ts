import { expect, test } from "./test";
import {
  as,
  cell,
  colorsAround,
  editCell,
  goTo,
  isNear,
  newJob,
  nextFrame,
  openAs,
  pixelOnSheet,
  problem,
  settled,
  takeIn,
} from "./helpers";

const text =
  "1,7000,3000,10,HEDGE\n2,7010,3010,11,HEDGE\n3,7020,3000,12,HEDGE end\n4,7005,3020,0,SPOT\n5,7015,3022,11,TREE\n";

test("the demo job: all six places with real content, findings that zoom, the go-to field", async ({ page }) => {
  await openAs(page, "Petra", "/");
  await page.getByRole("link", { name: "Gorsefold Quarry" }).click();
  await settled(page);
  const places: [string, RegExp][] = [
    ["Intake", /gorsefold-day2\.csv/],
    ["Points", /2\s*\d\d\d in all/],
    ["Lines", /STACKTOP/],
    ["Surface", /existing ground/],
    ["Volumes", /to stage level 98/],
    ["Handover", /drawing\.dxf/],
  ];
  for (const [place, content] of places) {
    await goTo(page, place);
    await expect(page.getByRole("region", { name: "Bench" })).toContainText(content);
  }
  await page.keyboard.press("f");
  const zero = page.getByRole("listbox", { name: "Findings" }).getByRole("option", { name: /zero elevation/ });
  await nextFrame(page, () => zero.click());
  await goTo(page, "Points");
  await page.getByLabel("Which", { exact: true }).selectOption("selected");
  await expect(page.getByRole("gridcell", { name: "0.000", exact: true })).toBeVisible();

  await page.getByRole("button", { name: "Close the tray" }).click();
  await page.getByRole("button", { name: "Go to G" }).click();
  await page.getByRole("combobox").fill("hedge 1");
  await page.keyboard.press("Enter");
  await goTo(page, "Lines");
  await expect(page.getByRole("heading", { level: 2, name: /HEDGE 1/ })).toBeVisible();
});

test("what is selected on the sheet is selected in the table, and the other way round", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Selection");
  await takeIn(page, "day1.txt", text, 5);
  await goTo(page, "Points");
  await page.getByTestId("sheet").focus();
  await nextFrame(page, () => page.keyboard.press("Home"));
  const [x, y] = await pixelOnSheet(page, 3022, 7015);
  await page.mouse.click(x, y);
  await expect(page.getByRole("row", { selected: true })).toContainText("TREE");
  await expect(page.getByText("5 in all, 1 selected")).toBeVisible();
  await (await cell(page, "4", "Number")).click();
  const [px, py] = await pixelOnSheet(page, 3020, 7005);
  await expect
    .poll(async () => colorsAround(await page.screenshot(), px, py, 7).some((c) => isNear(c, "#861d4e", 30)))
    .toBe(true);
  await page.mouse.move(px, py);
  await expect(page.getByTestId("readout")).toContainText("Point 4");
});

test("the ring of a finding goes with its list; Go to has its old words selected; a sorted table begins at its top", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Ring");
  const more = Array.from({ length: 80 }, (_, k) => `${k + 6},${7030 + k},3000,12,SPOT\n`).join("");
  await takeIn(page, "day1.txt", text + more, 85);
  await goTo(page, "Points");
  await page.keyboard.press("f");
  await page
    .getByRole("option", { name: /Point 4/ })
    .first()
    .click();
  const isRinged = async () => {
    const [x, y] = await pixelOnSheet(page, 3020, 7005);
    return colorsAround(await page.screenshot(), x + 14, y, 1).some((c) => isNear(c, "#985a00"));
  };
  await expect.poll(isRinged).toBe(true);
  await page.getByRole("button", { name: "Close the tray" }).click();
  await expect.poll(isRinged).toBe(false);
  await page.keyboard.press("f");
  await expect.poll(isRinged).toBe(true);
  await page.getByRole("button", { name: "Close the tray" }).click();

  await page.keyboard.press("g");
  await page.getByRole("combobox", { name: "Go to" }).fill("hedge");
  await page.keyboard.press("Escape");
  await page.keyboard.press("g");
  await page.keyboard.type("tree");
  await expect(page.getByRole("combobox", { name: "Go to" })).toHaveValue("tree");
  await page.keyboard.press("Escape");

  const grid = page.getByRole("grid", { name: "Points" }),
    top = () => grid.evaluate((el) => el.scrollTop);
  await grid.evaluate((el) => (el.scrollTop = 900));
  await expect.poll(top).toBeGreaterThan(500);
  await page.getByRole("columnheader", { name: /^Northing/ }).click();
  await expect.poll(top).toBe(0);
});

test("cells are edited from the keyboard: units, wrong input, paste, and a taken number", async ({ page, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await as(page, "Petra");
  await newJob(page, "Cells");
  await takeIn(page, "day1.txt", text, 5);
  await goTo(page, "Points");
  await editCell(page, "4", "Elevation", "33 ft");
  await expect(await cell(page, "4", "Elevation")).toHaveText("10.058");
  const level = await cell(page, "5", "Elevation");
  await level.click();
  await page.keyboard.type("high");
  await page.keyboard.press("Enter");
  await expect(problem(page)).toContainText("“high” is no length");
  await page.keyboard.press("Escape");
  await expect(level).toHaveText("11.000");

  await (await cell(page, "1", "Elevation")).click();
  await page.evaluate(() => navigator.clipboard.writeText("20.5\n21.5\n22.5"));
  await page.keyboard.press("Control+v");
  await settled(page);
  await expect(await cell(page, "3", "Elevation")).toHaveText("22.500");
  await page.getByRole("tab", { name: /Ledger/ }).click();
  await expect(page.getByRole("row", { name: /Elevation of 3 points changed/ })).toBeVisible();

  await editCell(page, "2", "Number", "1").catch(() => undefined);
  await expect(problem(page)).toContainText("Point 1 is there already");
});

test("the whole table is reached without a mouse", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Keys");
  await takeIn(page, "day1.txt", text, 5);
  await goTo(page, "Points");
  await page.getByRole("grid", { name: "Points" }).focus();
  for (const key of ["ArrowDown", "ArrowRight", "ArrowRight", "ArrowRight"]) await page.keyboard.press(key);
  await page.keyboard.type("44.25");
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(await cell(page, "2", "Elevation")).toHaveText("44.250");
  // Enter and Tab take a cell once, and nothing of it clashes.
  await page.keyboard.type("12.5");
  await page.keyboard.press("Tab");
  await settled(page);
  const { ledger } = await (await page.request.get(`/api/jobs/${/jobs\/(\d+)/.exec(page.url())![1]}`)).json();
  expect(ledger.map((l: { text: string }) => l.text)).toEqual([
    "Elevation of 1 point changed",
    "Elevation of 1 point changed",
    "“day1.txt” taken in",
  ]);
  await expect(page.getByRole("region", { name: "Not saved" })).toBeHidden();
  await page.keyboard.press("Control+z");
  await settled(page);
  await page.keyboard.press("Escape");
  await page.keyboard.press(" ");
  await expect(page.getByRole("row", { selected: true })).toContainText("7020.000");
  await page.keyboard.press("Control+z");
  await settled(page);
  await expect(await cell(page, "2", "Elevation")).toHaveText("11.000");
});

test("a job in US survey feet shows its unit everywhere", async ({ page }) => {
  await openAs(page, "Petra", "/");
  await page.getByRole("link", { name: "Gorsefold, gate yard" }).click();
  await settled(page);
  await expect(page.getByRole("columnheader", { name: "Elevation ftUS" })).toBeVisible();
  await goTo(page, "Volumes");
  await expect(page.getByTestId("volume-figures")).toContainText("ftUS³");
});

test("while the job is opened again its figures are the last known, marked so; none is ever said to be nothing", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Known");
  await takeIn(page, "day1.txt", text, 5);
  const lines = page.getByRole("link", { name: /^Lines/ }),
    shown = async () => (await lines.innerText()).replace(/\s+/g, " ");
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  await goTo(page, "Volumes");
  await page.getByLabel("Name of the comparison").fill("down to 10");
  await page.getByRole("button", { name: "Make it", exact: true }).click();
  await settled(page);
  const row = page.getByRole("row", { name: /down to 10/ }).first(),
    [figures, count] = [(await row.innerText()).replace(/\s+/g, " "), await shown()];
  expect(figures).toMatch(/\d/);
  // The program that computes is held back while the job is opened again.
  await page.addInitScript(() => {
    const { postMessage } = Worker.prototype,
      held: (() => void)[] = [];
    Worker.prototype.postMessage = function (this: Worker, ...sent: unknown[]) {
      held.push(() => postMessage.apply(this, sent as [unknown]));
    };
    addEventListener("let-go", () => {
      Worker.prototype.postMessage = postMessage;
      for (const send of held) send();
    });
  });
  await page.reload();
  await expect(row).toBeVisible();
  expect((await row.innerText()).replace(/\s+/g, " ")).toBe(figures);
  expect(await shown()).toBe(count);
  await expect(row).toHaveCSS("font-style", "italic");
  await expect(page.getByTestId("as-last-known")).toHaveText("as last known");
  await expect(page.getByText("cannot be made")).toHaveCount(0);
  await goTo(page, "Lines");
  await expect(page.getByText(/\b0 lines|No lines yet/)).toHaveCount(0);
  await expect(page.getByText("Reading the codes …")).toBeVisible();
  await goTo(page, "Surface");
  await expect(page.getByText("being made …", { exact: true })).toBeVisible();
  await page.evaluate(() => dispatchEvent(new Event("let-go")));
  await settled(page);
  await goTo(page, "Volumes");
  expect((await row.innerText()).replace(/\s+/g, " ")).toBe(figures);
  await expect(row).toHaveCSS("font-style", "normal");
  await expect(page.getByTestId("as-last-known")).toBeHidden();
});

test("what is made is said and has the keyboard; findings say in words how bad they are", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Told");
  await takeIn(page, "day1.txt", text, 5);
  const status = page.getByRole("status"),
    made = async (words: string, heading: string) => {
      await expect(status.filter({ hasText: words })).toBeVisible();
      await expect(page.getByRole("heading", { level: 2, name: heading })).toBeFocused();
    };
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await made("Surface “existing ground” is made, with its contours.", "existing ground");
  await goTo(page, "Volumes");
  await page.getByLabel("Name of the comparison").fill("to 6");
  await page.getByRole("button", { name: "Make it", exact: true }).click();
  await made("Comparison “to 6” is made.", "to 6");
  await settled(page);
  await page.keyboard.press("f");
  const findings = page.getByRole("listbox", { name: "Findings" });
  await expect(findings.getByRole("option", { name: /^(error|warning): zero elevation/ })).toBeVisible();
});
