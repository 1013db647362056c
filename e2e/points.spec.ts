/** The Points place: renumbering, conditions and sets, many points at once, attributes. */
import { expect, test, type Page } from "./test";
import { as, cell, editCell, goTo, newJob, pixelOnSheet, settled, takeIn } from "./helpers";

const grid = (page: Page) => page.getByRole("grid", { name: "Points" });

test.beforeEach(({ page }) => as(page, "Petra"));

test("a point with another number: what names it follows, seen before; a series for all that are selected", async ({
  page,
}) => {
  await newJob(page, "Renumber", { order: "EN" });
  await takeIn(
    page,
    "day1.csv",
    "1,0,0,5,HEDGE\n2,10,0,5,HEDGE end\n3,20,5,5,SPOT\n4,30,5,5,SPOT\n5,40,9,5,WALL from=1\n6,50,9,5,WALL",
    6,
  );
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Draw a line" }).click();
  const drawn = page.getByRole("form", { name: "Line by hand" });
  await drawn.getByRole("combobox", { name: "Code", exact: true }).selectOption("WALL");
  await drawn.getByLabel("Points, in order").fill("3, 4, 1");
  await drawn.getByRole("button", { name: "Draw the line" }).click();
  await settled(page);
  // A set that names points by their numbers; the line knows its own by themselves.
  await page.request.post(`/api/jobs/${page.url().split("/")[4]}/changes`, {
    headers: { "x-author": "Petra" },
    data: { type: "named", part: "sets", name: "ends", old: null, new: { name: "ends", rule: { numbers: "1, 3" } } },
  });
  await page.reload();
  await settled(page);
  await goTo(page, "Points");
  const number = await cell(page, "1", "Number");
  await number.dblclick();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("3");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "Point 3 is there already" })).toBeVisible();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("P 1");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("bench-panel").getByRole("alert")).toContainText('Set “ends”: 1, 3 → "P 1", 3');
  await page.getByRole("button", { name: "Renumber with all that follows" }).click();
  await settled(page);
  const described = page.getByTestId("sheet-described");
  await expect(described.locator("tr", { hasText: "WALL" }).first()).toContainText("P 1 5 6");
  await expect(described.getByRole("row", { name: /WALL 3 4 P 1/ })).toHaveCount(1);

  // All, from 100 on: one change, one undo.
  await grid(page).getByRole("row").nth(1).getByRole("gridcell").first().click();
  await grid(page)
    .getByRole("row")
    .nth(6)
    .getByRole("gridcell")
    .first()
    .click({ modifiers: ["Shift"] });
  await page.getByRole("button", { name: "Renumber", exact: true }).click();
  const form = page.getByRole("form", { name: "Renumber" });
  await form.getByLabel("Number 6 selected from").fill("100");
  await expect(form).toContainText("P 1 → 100 … 6 → 105");
  await expect(form).toContainText("1 thing that names");
  await form.getByRole("button", { name: "Renumber" }).click();
  await settled(page);
  await expect(described.locator("tr", { hasText: "WALL" }).first()).toContainText("100 104 105");
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(described.locator("tr", { hasText: "WALL" }).first()).toContainText("P 1 5 6");
});

test("conditions of the filter, kept as a set; a set says why, is renamed with its users, and deleted points come back", async ({
  page,
}) => {
  await newJob(page, "Sets", { order: "EN" });
  await takeIn(page, "day1.csv", "1,0,0,5,SPOT\n2,10,0,15,SPOT\n3,20,5,25,TREE 4\n4,30,5,,SPOT", 4);
  await goTo(page, "Points");
  const numbers = grid(page).getByRole("row").locator("[aria-colindex='1']"),
    bench = page.getByTestId("bench-panel");
  await page.getByRole("button", { name: "Conditions" }).click();
  await page.getByLabel("Add a condition").selectOption("elevation");
  await page.getByLabel("Elevation m from").fill("10");
  await page.getByLabel("Elevation m from").press("Enter");
  await expect(numbers).toHaveText(["2", "3"]);
  await page.getByLabel("Add a condition").selectOption("codes");
  await page.getByLabel("Code", { exact: true }).last().fill("TREE");
  await page.getByLabel("Code", { exact: true }).last().press("Enter");
  await expect(numbers).toHaveText(["3"]);
  await page.getByLabel("Code: is or is not").selectOption("is not");
  await expect(numbers).toHaveText(["2"]);
  await numbers.first().click();
  await page.keyboard.press("Alt+k");
  await page.getByLabel("Name of the set").fill("high spots");
  await page.getByLabel("Name of the set").press("Enter");
  await expect(bench.getByRole("row", { name: /high spots/ })).toContainText("elevation from 10, and not code TREE");
  await expect(bench.getByTestId("set-counts")).toContainText("1 point in it.");
  // Why the tree is not in it, and that nothing is left when one more is asked.
  await page.evaluate(() => document.querySelector<HTMLElement>("[data-testid=sheet]")!.focus());
  await page.mouse.click(...(await pixelOnSheet(page, 20, 5)));
  await expect(bench.getByTestId("set-why")).toContainText("Point 3 is not in");
  await expect(bench.getByTestId("set-why")).toContainText("fails: not code TREE");
  await bench.getByLabel("Add a condition").selectOption("numbers");
  await bench.getByLabel("Number", { exact: true }).fill("4");
  await bench.getByLabel("Number", { exact: true }).press("Enter");
  await expect(bench.getByTestId("set-counts")).toContainText("No point is in it.");
  await expect(bench.getByTestId("set-counts")).toContainText("number 4: 1, left with those before 0");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(bench.getByTestId("set-counts")).toContainText("1 point in it.");
  await settled(page);
  // Chosen points: those that are selected, then others by their numbers.
  await bench.getByLabel("Add a condition").selectOption("points");
  const chosen = bench.getByLabel("Points", { exact: true });
  await expect(chosen).toHaveValue("3");
  await chosen.fill("3, 99");
  await chosen.press("Enter");
  await expect(bench).toContainText("There is no point 99.");
  await chosen.fill("2, 3");
  await chosen.press("Enter");
  await expect(bench.getByTestId("set-counts")).toContainText("points 2, 3: 2, left with those before 1");
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(bench.getByTestId("set-counts")).not.toContainText("points");
  await settled(page);

  // A surface uses it: renamed with it, and not taken away.
  const made = await page.request.post(`/api/jobs/${page.url().split("/")[4]}/changes`, {
    headers: { "x-author": "Petra" },
    data: { type: "named", part: "surfaces", name: "top", old: null, new: { name: "top", points: "high spots" } },
  });
  expect(made.status()).toBe(200);
  await expect(bench).toContainText("Used by the surface “top”.");
  await bench.getByRole("button", { name: "Rename", exact: true }).click();
  await bench.getByLabel("New name").fill("summits");
  await bench.getByLabel("New name").press("Enter");
  await expect(bench.getByRole("heading", { name: "summits" })).toBeVisible();
  await expect(bench).toContainText("Used by the surface “top”.");
  await bench.getByRole("button", { name: "Remove" }).click();
  await expect(bench).toContainText("is used by the surface “top”: choose another there, or remove that first.");

  await page.getByRole("tab", { name: "Table" }).click();
  await page.getByRole("button", { name: "Show all" }).click();
  await expect(numbers).toHaveText(["1", "2", "3", "4"]);
  await grid(page).getByRole("row").nth(1).getByRole("gridcell").first().click();
  await page.getByRole("button", { name: "Delete" }).click();
  await expect(numbers).toHaveText(["2", "3", "4"]);
  await page.getByRole("button", { name: "Conditions" }).click();
  await page.getByLabel("Add a condition").selectOption("deleted");
  await expect(numbers).toHaveText(["1"]);
  await grid(page).getByRole("row").nth(1).getByRole("gridcell").nth(3).click();
  await page.keyboard.type("7");
  await expect(page.getByTestId("bench-panel").getByRole("alert")).toContainText("Point 1 is deleted: bring it back");
  await page.getByRole("button", { name: "Bring back" }).click();
  await page.getByRole("button", { name: "Show all" }).click();
  await expect(numbers).toHaveText(["1", "2", "3", "4"]);
});

test("many points changed at once, seen before; columns chosen and remembered; sorted by several", async ({ page }) => {
  await newJob(page, "Many", { order: "EN" });
  await takeIn(page, "day1.csv", "1,0,0,5,SPOT\n2,10,0,5,TREE 4\n3,20,5,25,SPOT\n4,30,5,,SPOT", 4);
  await goTo(page, "Points");
  const row = (k: number) => grid(page).getByRole("row").nth(k),
    numbers = grid(page).getByRole("row").locator("[aria-colindex='1']");
  await row(1).getByRole("gridcell").first().click();
  await row(4)
    .getByRole("gridcell")
    .first()
    .click({ modifiers: ["Shift"] });
  await page.getByRole("button", { name: "Change", exact: true }).click();
  const form = page.getByRole("form", { name: "Change many" });
  await form.getByLabel("What changes").selectOption("elevation");
  await form.getByLabel("Value").fill("-0.5");
  await expect(form).toContainText("3 of 4 points change: 1: 5.000 → 4.500; 2: 5.000 → 4.500; 3: 25.000 → 24.500.");
  await expect(form).toContainText("1 point without a value stay");
  await form.getByRole("button", { name: "Change 3 points" }).click();
  await settled(page);
  await expect(await cell(page, "3", "Elevation")).toHaveText("24.500");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(await cell(page, "3", "Elevation")).toHaveText("25.000");

  // The uppermost of all that are shown fills those below it.
  await page.keyboard.press("Escape");
  await (await cell(page, "1", "Note")).click();
  await page.keyboard.type("checked");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Control+A");
  await page.keyboard.press("Control+D");
  await settled(page);
  await expect(await cell(page, "4", "Note")).toHaveText("checked");
  await expect(await cell(page, "2", "Note")).toHaveText("checked");

  await page.getByRole("columnheader", { name: /Elevation/ }).click();
  await page.getByRole("columnheader", { name: /Number/ }).click({ modifiers: ["Shift"] });
  await page.getByRole("columnheader", { name: /Number/ }).click({ modifiers: ["Shift"] });
  await expect(numbers).toHaveText(["4", "2", "1", "3"]);

  await page.getByRole("button", { name: "Columns" }).click();
  const columns = page.getByRole("region", { name: "Columns of the table" });
  await columns.getByLabel("Code’s name", { exact: true }).check();
  await columns.getByLabel("Kind", { exact: true }).uncheck();
  await columns.getByRole("button", { name: "Number later" }).click();
  const titles = () => grid(page).getByRole("columnheader").allTextContents();
  expect((await titles()).slice(0, 2).map((t) => t.split(" ")[0])).toEqual(["Easting", "Number"]);
  await page.reload();
  await settled(page);
  expect((await titles()).slice(0, 2).map((t) => t.split(" ")[0])).toEqual(["Easting", "Number"]);
  expect((await titles()).some((t) => t.startsWith("Kind"))).toBe(false);
  await expect(await cell(page, "2", "Code’s name")).not.toHaveText("");
});

test("a missing attribute is given in the table, with the type that its code asks for, and its finding is gone", async ({
  page,
}) => {
  await newJob(page, "Trees", { order: "EN" });
  await takeIn(page, "day1.csv", "1,0,0,5,TREE\n2,10,0,5,TREE 4\n3,20,5,5,SPOT", 3);
  await goTo(page, "Points");
  await page.keyboard.press("f");
  const missing = page.getByRole("listbox", { name: "Findings" }).getByRole("option", { name: /attribute missing/ });
  await expect(missing.first()).toBeVisible();
  const count = await missing.count();
  await page.keyboard.press("f");
  const spread = await cell(page, "1", "spread");
  await expect(await cell(page, "2", "spread")).toHaveText("4");
  await spread.click();
  await page.keyboard.type("wide");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("bench-panel").getByRole("alert")).toContainText("spread of this point is a number.");
  await page.keyboard.press("Control+A");
  await page.keyboard.type("3.5");
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(await cell(page, "1", "spread")).toHaveText("3.5");
  await page.getByRole("tab", { name: /^Ledger/ }).click();
  await expect(page.getByRole("row", { name: /Attributes of 1 point changed/ })).toContainText("spread 3.5");
  await page.getByRole("tab", { name: /^Findings/ }).click();
  await expect(missing).toHaveCount(count - 1);
  await page.reload();
  await settled(page);
  await expect(await cell(page, "1", "spread")).toHaveText("3.5");
});

test("a block of cells is chosen, copied, filled and cleared; of a paste refused cells are named and the rest is one undo", async ({
  page,
}) => {
  await newJob(page, "Blocks", { order: "NE" });
  const rows = Array.from({ length: 40 }, (_, k) => `${k + 1},${7000 + k},3000,${10 + k},SPOT`).join("\n");
  await takeIn(page, "day1.csv", rows, 40);
  await goTo(page, "Points");
  const grid = page.getByRole("grid", { name: "Points" });
  await (await cell(page, "3", "Elevation")).click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowLeft");
  await expect(grid.locator("[data-block]")).toHaveCount(6);
  await expect(page.getByText("3 selected")).toBeVisible();
  const copied = await grid.evaluate((el) => {
    const data = new DataTransfer();
    el.dispatchEvent(new ClipboardEvent("copy", { clipboardData: data, bubbles: true, cancelable: true }));
    return data.getData("text/plain");
  });
  expect(copied).toBe("3000.000\t12.000\n3000.000\t13.000\n3000.000\t14.000");
  const paste = (text: string) =>
    grid.evaluate((el, t) => {
      const data = new DataTransfer();
      data.setData("text/plain", t);
      el.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
    }, text);
  // One value fills the block.
  await (await cell(page, "3", "Elevation")).click();
  await page.keyboard.press("Shift+ArrowDown");
  await paste("7.5 m");
  await settled(page);
  await expect(await cell(page, "3", "Elevation")).toHaveText("7.500");
  await expect(await cell(page, "4", "Elevation")).toHaveText("7.500");
  await expect(await cell(page, "5", "Elevation")).toHaveText("14.000");
  // What cannot be taken is named; the rest is taken when wished, and is one undo.
  await (await cell(page, "1", "Elevation")).click();
  await paste("20\nhigh\n22\n\n24");
  const alert = page.getByTestId("bench-panel").getByRole("alert");
  await expect(alert).toContainText("1 cell cannot be taken, 4 others can.");
  await expect(alert).toContainText(/Point 2, elevation “high”/);
  await alert.getByRole("button", { name: "Paste what fits" }).click();
  await settled(page);
  await expect(await cell(page, "1", "Elevation")).toHaveText("20.000");
  await expect(await cell(page, "2", "Elevation")).toHaveText("11.000");
  await expect(await cell(page, "4", "Elevation")).toHaveText("");
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(await cell(page, "1", "Elevation")).toHaveText("10.000");
  await expect(await cell(page, "4", "Elevation")).toHaveText("7.500");
  // The chosen cells are cleared.
  await (await cell(page, "3", "Elevation")).click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Delete");
  await settled(page);
  await expect(await cell(page, "3", "Elevation")).toHaveText("");
  await expect(await cell(page, "4", "Elevation")).toHaveText("");
});

test("a set is made where it is chosen; what joined or left it, by which entry", async ({ page }) => {
  await newJob(page, "In place", { order: "NE" });
  const rows = Array.from(
    { length: 25 },
    (_, k) => `${k + 1},${7000 + 10 * (k % 5)},${3000 + 10 * Math.floor(k / 5)},${10 + k},SPOT`,
  );
  await takeIn(page, "day1.csv", rows.join("\n"), 25);
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  await page.getByLabel("Points", { exact: true }).selectOption({ label: "a new set …" });
  await page.getByLabel("Name of the set").fill("low");
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(page.getByLabel("Points", { exact: true })).toHaveValue("low");
  const rule = page.getByRole("region", { name: "Rule of low" });
  await expect(rule).toBeVisible();
  await rule.getByLabel("Add a condition").selectOption("elevation");
  await rule.getByLabel("Elevation m to").fill("20.5");
  await rule.getByLabel("Elevation m to").press("Enter");
  await expect(page.getByRole("button", { name: "11 points" })).toBeVisible();
  await settled(page);

  await goTo(page, "Points");
  await editCell(page, "2", "Elevation", "50");
  await settled(page);
  await page.getByRole("tab", { name: /^Sets/ }).click();
  await page.getByRole("button", { name: "low", exact: true }).click();
  await page.getByRole("button", { name: "What joined or left lately" }).click();
  const history = page.getByRole("region", { name: "Joined and left" });
  await expect(history).toContainText(/Elevation of 1 point changed.*Left: 2/);
  await expect(history).toContainText(/after entry 1, “day1\.csv” taken in/);
});
