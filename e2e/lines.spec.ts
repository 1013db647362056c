import { expect, test } from "./test";
import { as, choose, editCell, goTo, newJob, pixelOnSheet, settled, takeIn } from "./helpers";

const TEXT = [1, 2, 3, 4, 5, 6]
  .map((n) => `${n},${10 * n},${20 + (n % 2) * 5},5,HEDGE2${n === 6 ? " end" : ""}`)
  .join("\n");

test.beforeEach(({ page }) => as(page, "Petra"));

test("a line is split, closed and joined by cues that survive another reading of its file, and are undone", async ({
  page,
}) => {
  await newJob(page, "Linework", { order: "EN" });
  await takeIn(page, "day1.csv", TEXT, 6);
  await goTo(page, "Lines");
  const table = page.getByRole("region", { name: "Bench" }).getByRole("table").first();
  await page.getByRole("button", { name: "HEDGE 2" }).click();
  await page.getByRole("button", { name: "Split at 3" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toHaveCount(2);

  await goTo(page, "Intake");
  await page.getByRole("article", { name: "Intake day1" }).getByRole("button", { name: "Read again" }).click();
  await page.getByLabel("Kind of points").selectOption("design");
  await page.getByRole("button", { name: "Read again 6 points" }).click();
  await expect(page.getByRole("status")).toContainText("was read again");
  await settled(page);
  await goTo(page, "Lines");
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toHaveCount(2);

  await page.getByRole("button", { name: "HEDGE 2" }).first().click();
  await page
    .getByRole("button", { name: "HEDGE 2" })
    .nth(1)
    .click({ modifiers: ["Control"] });
  await page.getByRole("button", { name: "Join them" }).click();
  const join = page.getByRole("form", { name: "Join HEDGE 2 and HEDGE 2" });
  // Four ways, the ends that lie nearest first.
  await expect(join.getByRole("radio")).toHaveCount(4);
  await expect(join.locator("label").first()).toContainText("0.000 m");
  await join.getByRole("radio").nth(3).check();
  await join.getByRole("radio").first().check();
  await join.getByRole("button", { name: "Join them there" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toHaveCount(1);
  await page.getByRole("button", { name: "HEDGE 2" }).click();
  await page.getByRole("button", { name: "Take 4 out of the line" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toContainText("5");
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /HEDGE 2/ })).toHaveCount(2);
});

test("made corners, a parallel of the book and a smooth curve are drawn and told", async ({ page }) => {
  await newJob(page, "Cues", { order: "EN" });
  await choose(
    page,
    "day1.csv",
    [
      "1,0,0,5,SLAB1",
      "2,10,0,5,SLAB1 box=4",
      "3,20,0,5,KERB",
      "4,30,0,5,KERB end",
      "5,40,0,5,WATER flow",
      "6,50,5,5,WATER",
      "7,45,15,5,WATER loop",
    ].join("\n"),
  );
  await page.getByRole("button", { name: "Take in 7 points" }).click();
  await expect(page.getByRole("status")).toContainText("7 points taken in");
  await goTo(page, "Lines");
  const row = (name: RegExp) =>
    page.getByRole("region", { name: "Bench" }).getByRole("table").first().getByRole("row", { name });
  await expect(row(/SLAB 1/)).toContainText("40.0");
  await expect(row(/KERBTOP/)).toContainText("parallel");
  await expect(row(/WATER/)).toContainText("closed, curved");
  await page.getByRole("button", { name: "KERBTOP" }).click();
  await expect(page.getByRole("region", { name: "Bench" })).toContainText("Parallel toKERB");
  await goTo(page, "Points");
  await editCell(page, "2", "Description", "SLAB1 box=6");
  await goTo(page, "Lines");
  await expect(row(/SLAB 1/)).toContainText("60.0");
});

const PLOT = [
  "1,0,0,10,SPOT",
  "2,10,1,11,SPOT",
  "3,20,0,12,SPOT",
  "4,30,1,13,SPOT",
  "5,5,-10,8,HEDGE1",
  "6,5,15,9,HEDGE1 end",
  "7,40,0,5,SPOT",
  "8,50,0,5,SPOT",
  "9,51,6,5,SPOT",
].join("\n");

test("a line by hand: seen before it is kept, in nearest order, changed, there after its file is read again", async ({
  page,
}) => {
  await newJob(page, "By hand", { order: "EN" });
  await takeIn(page, "day1.csv", PLOT, 9);
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Draw a line" }).click();
  const form = page.getByRole("form", { name: "Line by hand" }),
    facts = page.getByTestId("hand-line-facts");
  await form.getByRole("combobox", { name: "Code", exact: true }).selectOption("WALL");
  await form.getByLabel("Points, in order").fill("1, 4, 77");
  await expect(facts).toContainText("There is no point 77.");
  await form.getByLabel("Points, in order").fill("1; 4");
  await expect(form.getByRole("button", { name: "Draw the line" })).toBeDisabled();
  await form.getByLabel("Points, in order").fill("1, 3, 2, 4");
  await expect(facts).toContainText("4 points");
  await expect(form).toContainText("The numbers zigzag");
  await form.getByRole("button", { name: "Take the nearest order" }).click();
  await expect(form.getByLabel("Points, in order")).toHaveValue("1-4");
  await form.getByRole("button", { name: "Draw the line" }).click();
  await settled(page);
  const table = page.getByRole("region", { name: "Bench" }).getByRole("table").first();
  await expect(table.getByRole("row", { name: /WALL/ })).toContainText("by hand");

  await goTo(page, "Intake");
  await page.getByRole("article", { name: "Intake day1" }).getByRole("button", { name: "Read again" }).click();
  await page.getByLabel("Kind of points").selectOption("design");
  await page.getByRole("button", { name: "Read again 9 points" }).click();
  await expect(page.getByRole("status")).toContainText("was read again");
  await settled(page);
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "WALL", exact: true }).click();
  await page.getByRole("button", { name: "Insert after 2" }).click();
  await page.getByLabel("Point to insert").fill("5");
  await page.getByRole("button", { name: "Insert", exact: true }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /WALL/ })).toContainText("5");
  await page.getByRole("button", { name: "WALL", exact: true }).click();
  await page.getByLabel("Cues of 5").fill("jump");
  await page.getByLabel("Cues of 5").press("Enter");
  await expect(page.getByRole("status").filter({ hasText: "“jump” is no cue" }).first()).toBeVisible();
  await page.getByLabel("Cues of 5").fill("via");
  await page.getByLabel("Cues of 5").press("Enter");
  await settled(page);
  await expect(table.getByRole("row", { name: /WALL/ })).toContainText("1 arc");
  await page.getByRole("button", { name: "WALL", exact: true }).click();
  await page.getByRole("tab", { name: /Pieces/ }).click();
  await expect(page.getByRole("table", { name: "Pieces of WALL" })).toContainText("arc through 5 (via)");
  await page.getByRole("button", { name: "Reverse" }).click();
  await settled(page);
  await page.getByRole("button", { name: "WALL", exact: true }).click();
  await expect(page.getByRole("region", { name: "Bench" })).toContainText("From, to4 to 1");
  await page.getByRole("button", { name: "Remove the line" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /WALL/ })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(table.getByRole("row", { name: /WALL/ })).toHaveCount(1);
});

test("points are picked on the sheet, a building is completed, a parallel goes through a point", async ({ page }) => {
  await newJob(page, "Picked", { order: "EN" });
  await takeIn(page, "day1.csv", PLOT, 9);
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Draw a line" }).click();
  const form = page.getByRole("form", { name: "Line by hand" });
  await form.getByRole("combobox", { name: "Code", exact: true }).selectOption("HUT");
  await form.getByRole("button", { name: "Pick on the sheet" }).click();
  for (const [e, n] of [
    [40, 0],
    [50, 0],
    [51, 6],
  ] as const) {
    const [x, y] = await pixelOnSheet(page, e, n);
    await page.mouse.click(x + 2, y - 2);
    await expect(form.getByLabel("Points, in order")).toHaveValue(
      new RegExp(e === 40 ? "^7$" : e === 50 ? "^7, 8$" : "^7-9$"),
    );
  }
  await form.getByLabel("At its end").selectOption("quad");
  await expect(page.getByTestId("hand-line-facts")).toContainText("closed, area 60.0");
  await form.getByRole("button", { name: "Draw the line" }).click();
  await settled(page);
  const row = (name: RegExp) =>
    page.getByRole("region", { name: "Bench" }).getByRole("table").first().getByRole("row", { name });
  await expect(row(/HUT/)).toContainText("60.0");

  await page.getByRole("button", { name: "HEDGE 1" }).click();
  await page.getByRole("button", { name: "Parallel", exact: true }).click();
  await page.getByRole("button", { name: "Through a point" }).click();
  const [x, y] = await pixelOnSheet(page, 10, 1);
  await page.mouse.click(x, y);
  await expect(page.getByLabel(/^To the right/)).toHaveValue("5");
  await page.getByRole("form", { name: "Parallel" }).getByLabel("As").selectOption("PATH");
  await page.getByRole("button", { name: "Draw it" }).click();
  await settled(page);
  await expect(row(/PATH/)).toContainText("parallel");
});

test("while a line is drawn a key begins arcs and another goes straight on, seen as it comes", async ({ page }) => {
  await newJob(page, "Arcs", { order: "EN" });
  await takeIn(page, "day1.csv", "1,0,0,5,SPOT\n2,10,0,5,SPOT\n3,20,10,5,SPOT\n4,30,0,5,SPOT\n5,40,0,5,SPOT", 5);
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Draw a line" }).click();
  const form = page.getByRole("form", { name: "Line by hand" }),
    click = async (e: number, n: number) => {
      const [x, y] = await pixelOnSheet(page, e, n);
      await page.mouse.click(x, y);
    };
  await form.getByRole("combobox", { name: "Code", exact: true }).selectOption("HEDGE");
  await form.getByRole("button", { name: "Pick on the sheet" }).click();
  await click(0, 0);
  await click(10, 0);
  await expect(form.getByLabel("Points, in order")).toHaveValue("1, 2");
  await page.keyboard.press("c");
  await click(20, 10);
  await expect(form.getByLabel("Points, in order")).toHaveValue("1-3");
  await page.keyboard.press("t");
  await click(30, 0);
  await click(40, 0);
  // Half a turn of 10 between two straight pieces.
  await expect(page.getByTestId("hand-line-facts")).toContainText("5 points, 51.416 m, 1 arc.");
  await page.keyboard.press("Escape");
  await form.getByRole("button", { name: "Draw the line" }).click();
  await settled(page);
  await expect(
    page.getByRole("region", { name: "Bench" }).getByRole("table").first().getByRole("row", { name: /HEDGE/ }),
  ).toContainText("51.416");
});

test("a point is made where two lines cross, and a line is trimmed there; undo takes both back", async ({ page }) => {
  await newJob(page, "Crossing", { order: "EN" });
  await takeIn(page, "day1.csv", `${PLOT}\n20,-5,5,10,WALL\n21,15,5,14,WALL end`, 11);
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Make a point" }).click();
  const [x, y] = await pixelOnSheet(page, 5, 5);
  await page.mouse.move(x + 3, y + 2);
  await page.mouse.click(x + 3, y + 2);
  await expect(page.getByTestId("point-position")).toContainText("at a crossing");
  await expect(page.getByLabel("Elevation, m")).toHaveValue(/^(12\.000|8\.600)$/);
  await expect(page.getByRole("textbox", { name: "Number", exact: true })).toHaveValue("22");
  await page.getByRole("textbox", { name: "Number", exact: true }).fill("4");
  await expect(page.getByTestId("point-position")).toContainText("There is a point 4 already.");
  await page.getByRole("textbox", { name: "Number", exact: true }).fill("X1");
  await page.getByLabel("Description").fill("SPOT");
  await page.getByRole("button", { name: "Make the point" }).click();
  await expect(page.getByRole("status").filter({ hasText: "Point X1 made" }).first()).toBeVisible();
  await page.getByRole("button", { name: "Leave it" }).click();

  await page.getByRole("button", { name: "WALL", exact: true }).click();
  await page.getByRole("button", { name: "HEDGE 1" }).click({ modifiers: ["Control"] });
  await page.getByRole("button", { name: "Trim WALL at HEDGE 1" }).click();
  await page.getByRole("button", { name: "Keep what comes before" }).click();
  await settled(page);
  const wall = page
    .getByRole("region", { name: "Bench" })
    .getByRole("table")
    .first()
    .getByRole("row", { name: /WALL/ });
  await expect(wall).toContainText("10.000");
  for (let k = 0; k < 2; k++) {
    await page.getByRole("button", { name: "Undo" }).click();
    await settled(page);
  }
  await expect(wall).toContainText("20.000");
});

test("a line has a name and a colour of its own, which leave with it and are undone; a name without its line is told", async ({
  page,
}) => {
  await newJob(page, "Plots", { order: "EN" });
  await takeIn(page, "day1.csv", "1,0,0,5,BED1\n2,20,0,5,BED1\n3,20,12,5,BED1 loop\n4,40,0,5,BED2\n5,60,0,5,BED2", 5);
  await goTo(page, "Lines");
  const bench = page.getByRole("region", { name: "Bench" }),
    table = bench.getByRole("table").first();
  await table.getByRole("button", { name: "BED 1" }).click();
  await page.getByRole("button", { name: "Name and colour" }).click();
  const form = page.getByRole("form", { name: "Name and colour" });
  await form.getByLabel("Its own name").fill("Plot 14");
  await form.getByLabel("Colour").fill("#8a5a2b");
  await form.getByRole("button", { name: "Call it so" }).click();
  await settled(page);
  await expect(bench.getByRole("heading", { name: /^Plot 14 BED 1/ })).toBeVisible();
  await expect(table.getByRole("row", { name: /BED 1 Plot 14/ })).toBeVisible();
  await expect(page.locator('tr[data-line="BED 1"]')).toHaveAttribute("data-color", "#8a5a2b");
  await page.keyboard.press("g");
  await page.keyboard.type("plot 1");
  await expect(page.getByRole("option", { name: "Plot 14, BED 1" })).toBeVisible();
  await page.keyboard.press("Escape");

  // Under another code the line keeps it; with its first shot taken away the name has no line.
  await page.getByRole("button", { name: "Change code" }).click();
  await page.getByRole("form", { name: "Change code" }).getByLabel("Run").fill("7");
  await page.getByRole("button", { name: "Change it" }).click();
  await settled(page);
  await expect(table.getByRole("row", { name: /BED 7 Plot 14/ })).toBeVisible();
  await goTo(page, "Points");
  await editCell(page, "1", "Description", "SPOT");
  await goTo(page, "Lines");
  const lost = page.getByRole("list", { name: "Names of lines that are not drawn" });
  await expect(lost).toContainText("“Plot 14” is for BED 7 from 1, which is not drawn.");
  await lost.getByRole("button", { name: "Remove it" }).click();
  await settled(page);
  await expect(lost).toBeHidden();
  for (const row of [undefined, undefined, /BED 1 Plot 14/, /^BED 1 (?!Plot 14)/]) {
    await page.getByRole("button", { name: "Undo" }).click();
    await settled(page);
    if (row) await expect(table.getByRole("row", { name: row })).toBeVisible();
  }
});

test("a corner is rounded, a line extended to another, mirrored, and pegs set along it; each is drawn first and undone", async ({
  page,
}) => {
  await newJob(page, "Geometry", { order: "EN" });
  await takeIn(
    page,
    "day1.csv",
    "1,0,0,5,KERB1\n2,0,20,5,KERB1\n3,30,20,5,KERB1\n4,60,0,5,KERB2\n5,60,40,5,KERB2\n6,0,-10,5,SPOT\n7,60,-10,5,SPOT",
    7,
  );
  await goTo(page, "Lines");
  const bench = page.getByRole("region", { name: "Bench" }),
    table = bench.getByRole("table").first(),
    row = (name: string) => table.getByRole("row", { name: new RegExp(`^${name} `) }),
    undo = async () => {
      await page.getByRole("button", { name: "Undo" }).click();
      await settled(page);
    };
  await row("KERB 1").getByRole("button").click();
  await bench.getByRole("button", { name: "Round a corner" }).click();
  const fillet = page.getByRole("form", { name: "Round a corner" });
  await fillet.getByLabel("Corner at its shot").fill("2");
  await fillet.getByLabel("Radius, m").fill("25");
  await expect(bench.getByRole("status")).toHaveText(
    "A radius of 25.000 m reaches beyond the pieces there: at most 20.000 m.",
  );
  await expect(fillet.getByRole("button", { name: "Round it" })).toBeDisabled();
  await fillet.getByLabel("Radius, m").fill("5");
  await fillet.getByRole("button", { name: "Round it" }).click();
  await settled(page);
  // 50 less two tangents of 5, and a quarter of 5.
  await expect(row("KERB 1")).toContainText("47.854");
  await expect(row("KERB 1")).toContainText("open, by hand, 1 arc");
  await undo();
  await expect(row("KERB 1")).toContainText("50.000");

  await row("KERB 2")
    .getByRole("button")
    .click({ modifiers: ["Control"] });
  await page.getByRole("button", { name: "Extend KERB 1 to KERB 2" }).click();
  await settled(page);
  await expect(row("KERB 1")).toContainText("80.000");
  await undo();

  await row("KERB 1").getByRole("button").click();
  await bench.getByRole("button", { name: "Mirror" }).click();
  const mirror = page.getByRole("form", { name: "Mirror the line" });
  await mirror.getByLabel("At the line through two points").fill("6, 7");
  await mirror.getByRole("button", { name: "Mirror it" }).click();
  await settled(page);
  await expect(page.getByText("KERB 1 mirrored at 6 to 7. Undo takes all of it back.")).toBeVisible();
  await expect(table.getByRole("row", { name: /^KERB 1 / })).toHaveCount(2);
  await undo();

  await row("KERB 1").getByRole("button").click();
  await bench.getByRole("button", { name: "Points along it" }).click();
  const along = page.getByRole("form", { name: "Points along it" });
  await along.getByLabel("Parts").fill("5");
  await expect(along).toContainText("4 points");
  await along.getByLabel("Description").fill("PEG");
  await along.getByRole("button", { name: "Make them" }).click();
  await settled(page);
  await goTo(page, "Points");
  await expect(page.getByRole("grid").or(page.getByRole("table")).first()).toContainText("PEG");
  await undo();
});

test("a number list over two stretches says where it jumps, and is drawn as a line for each", async ({ page }) => {
  await newJob(page, "Stretches", { order: "EN" });
  await takeIn(
    page,
    "day1.csv",
    "1,0,0,5,SPOT\n2,5,0,5,SPOT\n3,10,0,5,SPOT\n4,110,0,5,SPOT\n5,115,0,5,SPOT\n6,120,0,5,SPOT",
    6,
  );
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Draw a line" }).click();
  const form = page.getByRole("form", { name: "Line by hand" });
  await form.getByRole("combobox", { name: "Code", exact: true }).selectOption("HEDGE");
  await form.getByLabel("Points, in order").fill("1-3");
  await expect(page.getByTestId("hand-line-facts")).toContainText("3 points, 10.000 m.");
  await expect(form).not.toContainText("it jumps");
  await form.getByLabel("Points, in order").fill("1-3, 4-6");
  await expect(form.getByRole("button", { name: "From 3 to 4 it jumps 100.000 m" })).toBeVisible();
  await form.getByRole("button", { name: "One line a stretch" }).click();
  await settled(page);
  const rows = page
    .getByRole("region", { name: "Bench" })
    .getByRole("table")
    .first()
    .getByRole("row", { name: /HEDGE/ });
  await expect(rows).toHaveCount(2);
  await expect(rows.first()).toContainText("10.000");
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(rows).toHaveCount(0);
});
