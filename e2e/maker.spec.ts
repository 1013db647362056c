/** Points that the office makes: by picks with two solutions, written in the go-to field, in a series, and following their sources. */
import { cell, editCell, goTo, newJob, openAs, pixelOnSheet, settled, takeIn } from "./helpers";
import { expect, test, type Page } from "./test";

const FILE = [
  "12,100.000,100.000,10.000,SPOT",
  "13,100.000,140.000,14.000,SPOT",
  "14,120.000,120.000,12.000,SPOT",
  "20,130.000,100.000,5.000,SPOT",
].join("\n");

async function begin(page: Page, name: string) {
  await openAs(page, "Petra", "/");
  await newJob(page, name);
  await takeIn(page, "day1.csv", FILE, 4);
}
async function clickAt(page: Page, e: number, n: number) {
  const [x, y] = await pixelOnSheet(page, e, n);
  await page.mouse.move(x, y);
  await page.mouse.click(x, y);
}
/** What the table says of a point. */
async function says(page: Page, number: string, column: string, text: string) {
  await goTo(page, "Points");
  await expect(await cell(page, number, column)).toHaveText(text);
}
/** The keyboard is nowhere in particular. */
const leaveFields = (page: Page) => page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
const goToField = async (page: Page, text: string) => {
  await leaveFields(page);
  await page.keyboard.press("g");
  await page.getByRole("combobox", { name: "Go to" }).fill(text);
};

test("a line written in the go-to field makes a point that follows its source; undo takes both back", async ({
  page,
}) => {
  await begin(page, "Written");
  await goToField(page, "12 az 90 12.25 level of 12 up 0.5");
  await expect(page.getByRole("option", { name: /^Make point 21:/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status").filter({ hasText: "Point 21 made" })).toBeVisible();
  await says(page, "21", "Easting", "112.250");
  await says(page, "21", "Elevation", "10.500");
  // A source edited: what follows moves.
  await editCell(page, "12", "Easting", "101");
  await expect(await cell(page, "21", "Easting")).toHaveText("113.250");
  // Its own coordinate is changed in no cell.
  await editCell(page, "21", "Easting", "5");
  await expect(page.getByText("Point 21 follows what it was constructed from.")).toBeVisible();
  await page.keyboard.press("Escape");
  await settled(page);
  await leaveFields(page);
  await page.keyboard.press("Control+z");
  await expect(await cell(page, "21", "Easting")).toHaveText("112.250");
  await page.keyboard.press("Control+z");
  await expect(page.getByText("4 in all")).toBeVisible();
});

test("what is wrong with a written line is said, and what is none is looked for as before", async ({ page }) => {
  await begin(page, "Wrong lines");
  await goToField(page, "99 az 10 5");
  await expect(page.getByRole("option", { name: "Make There is no point 99." })).toBeVisible();
  await page.getByRole("combobox", { name: "Go to" }).fill("12");
  await expect(page.getByRole("option", { name: "Point 12", exact: true })).toBeVisible();
});

test("two circles: both positions are seen, one is chosen by a click; a source too far away is said", async ({
  page,
}) => {
  await begin(page, "Circles");
  await goToField(page, "meet 12 dist 25 and 13 dist 25");
  await page.keyboard.press("Enter");
  const form = page.getByRole("form", { name: "Make a point" });
  await expect(form.getByText("Two positions fit")).toBeVisible();
  await expect(form.getByRole("button", { name: "Make the point" })).toBeDisabled();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Home");
  await clickAt(page, 120, 116);
  await expect(form.getByRole("radio", { name: /N 115.000, E 120.000/ })).toBeChecked();
  await form.getByRole("button", { name: "Make the point" }).click();
  await says(page, "21", "Northing", "115.000");
  await form.getByLabel("Distance, m").first().fill("5");
  await expect(form.getByText("There is no such position: its circles are apart.")).toBeVisible();
});

test("points are picked for a way, one after another; from those selected the way is chosen", async ({ page }) => {
  await begin(page, "Picked");
  await goTo(page, "Points");
  await (await cell(page, "12", "Number")).click();
  await (await cell(page, "13", "Number")).click({ modifiers: ["Control"] });
  await leaveFields(page);
  await page.keyboard.press("p");
  const form = page.getByRole("form", { name: "Make a point" });
  await expect(form.getByLabel("Way", { exact: true })).toHaveValue("ratio");
  await form.getByLabel("Level").selectOption("along");
  await expect(form.getByText("N 100.000, E 120.000, level 12.000 m")).toBeVisible();
  await form.getByLabel("Way", { exact: true }).selectOption("foot");
  await form.getByLabel("Of point").fill("");
  await form.getByLabel("Of point").click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Home");
  await form.getByLabel("Of point").click();
  await clickAt(page, 120, 120);
  await expect(form.getByLabel("Of point")).toHaveValue("14");
});

test("a series with a preset: each click a point, with its code, kind and set-out", async ({ page }) => {
  await begin(page, "Series");
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Make a point" }).click();
  const form = page.getByRole("form", { name: "Make a point" });
  await form.getByLabel("Description").fill("PEG");
  await page.getByRole("button", { name: "Kind, attributes …" }).click();
  await page.getByLabel("Kind", { exact: true }).selectOption("design");
  await page.getByLabel("Numbers from").fill("D1");
  await page.getByLabel("To be set out").check();
  await page.getByRole("button", { name: "Keep as a preset" }).click();
  await page.getByLabel("Name of the preset").fill("Pegs");
  await page.getByRole("button", { name: "Keep it", exact: true }).click();
  await expect(page.getByLabel("Preset", { exact: true })).toHaveValue("Pegs");
  await form.getByLabel("Make one at each click").check();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Home");
  await form.getByRole("button", { name: /Pick a position|Stop picking/ }).click();
  if (await form.getByRole("button", { name: "Pick a position" }).isVisible())
    await form.getByRole("button", { name: "Pick a position" }).click();
  await clickAt(page, 105, 112);
  await expect(page.getByRole("status").filter({ hasText: "Point D1 made" })).toBeVisible();
  await clickAt(page, 133, 112);
  await expect(page.getByRole("status").filter({ hasText: "Point D2 made" })).toBeVisible();
  // Two clicks before the first is answered make two points.
  for (const n of [104, 125]) {
    const [x, y] = await pixelOnSheet(page, 128, n);
    await page.mouse.click(x, y);
  }
  await expect(page.getByRole("status").filter({ hasText: "Point D4 made" })).toBeVisible();
  await says(page, "D2", "Kind", "design");
  await says(page, "D3", "Easting", "128.000");
  await says(page, "D2", "Description", "PEG");
});

test("the story of a point shows its construction as a form; freed, it stands where it is", async ({ page }) => {
  await begin(page, "Story");
  await goToField(page, "between 12 13");
  await page.keyboard.press("Enter");
  await says(page, "21", "Easting", "120.000");
  await (await cell(page, "21", "Number")).click();
  await page.getByRole("button", { name: "Story" }).click();
  const story = page.getByRole("region", { name: "Story of point 21" });
  await expect(story.getByText("between 12 13")).toBeVisible();
  await story.getByRole("button", { name: "Change" }).click();
  await story.getByLabel("Share of the way").fill("0.25");
  await story.getByRole("button", { name: "Keep it" }).click();
  await expect(await cell(page, "21", "Easting")).toHaveText("110.000");
  // A level of its own, where it had none.
  await story.getByRole("button", { name: "Change" }).click();
  await story.getByLabel("Level", { exact: true }).selectOption("typed");
  await story.getByLabel("Elevation, m").fill("7.5");
  await story.getByRole("button", { name: "Keep it" }).click();
  await expect(await cell(page, "21", "Elevation")).toHaveText("7.500");
  await story.getByRole("button", { name: "Let it stand where it is" }).click();
  await expect(story.getByText("by coordinates")).toBeVisible();
  await expect(await cell(page, "21", "Easting")).toHaveText("110.000");
  await settled(page);
  await page.reload();
  await expect(await cell(page, "21", "Elevation")).toHaveText("7.500");
});

test("measuring: by number and by clicks, of a ring its area, against a line, kept as a dimension", async ({
  page,
}) => {
  await begin(page, "Measured");
  await goToField(page, "measure 12 13");
  await page.keyboard.press("Enter");
  const measured = page.getByTestId("measured");
  await expect(measured).toContainText("Plan40.000 m");
  await expect(measured).toContainText("131.23 ft");
  await expect(measured).toContainText("Slope40.200 m");
  await expect(measured).toContainText("Azimuth90°00′00″");
  await expect(measured).toContainText("Level difference4.000 m");
  await expect(measured).toContainText("1 in 10.0");
  await page.getByRole("button", { name: "Keep on the drawing" }).click();
  await expect(page.getByRole("status").filter({ hasText: "is kept on the drawing" })).toBeVisible();
  await page.getByLabel("Point to measure to").fill("14");
  await page.keyboard.press("Enter");
  await page.getByLabel("Closed").check();
  await expect(measured).toContainText("Area400.0 m²");
  // A click goes on, and M ends it.
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Home");
  await clickAt(page, 100, 130);
  await expect(page.getByRole("region", { name: "Measure" }).getByRole("status")).toContainText("12 – 13 – 14 – 20");
  await leaveFields(page);
  await page.keyboard.press("m");
  await expect(page.getByRole("region", { name: "Measure" })).toBeHidden();
});

test("deleting a source says what follows it, and pegs are held against their design", async ({ page }) => {
  await begin(page, "Lost");
  await goToField(page, "between 12 13");
  await page.keyboard.press("Enter");
  await says(page, "21", "Easting", "120.000");
  await (await cell(page, "12", "Number")).click();
  await page.getByRole("button", { name: "Delete", exact: true }).click();
  await expect(page.getByRole("region", { name: "Bench" }).getByRole("alert")).toContainText(
    "1 point follows what is deleted and would not be there any more: 21.",
  );
  await page.getByRole("button", { name: "Delete all the same" }).click();
  await expect(page.getByText("3 in all")).toBeVisible();
  await leaveFields(page);
  await page.keyboard.press("Control+z");
  await expect(page.getByText("5 in all")).toBeVisible();
  await goTo(page, "Volumes");
  await page.getByRole("tab", { name: /^As built/ }).click();
  await page.getByLabel("Name of the check").fill("pegs");
  await page.getByRole("button", { name: "Make it" }).click();
  await page.getByLabel("Points", { exact: true }).selectOption("numbers");
  await page.getByLabel("Numbers of points").fill("21");
  await page.keyboard.press("Tab");
  await page
    .getByLabel("Numbers of designed")
    .or(page.getByLabel("Designed", { exact: true }))
    .first()
    .waitFor();
  await page.getByLabel("Pairs").selectOption("nearest");
  await page.getByLabel("Within, m").fill("25");
  await page.keyboard.press("Tab");
  await expect(page.getByTestId("built-words")).toContainText("1 of 1 pairs beyond 0.020 m in plan");
});

test("the made corner of a completed building is numbered, and follows its shots", async ({ page }) => {
  await openAs(page, "Petra", "/");
  await newJob(page, "Corners");
  await takeIn(page, "day1.csv", "1,100,100,10,HUT1\n2,100,110,11,HUT1\n3,106,110,13,HUT1 quad", 3);
  await goTo(page, "Lines");
  await page.getByRole("region", { name: "Bench" }).getByRole("table").first().getByRole("button").first().click();
  await page.getByRole("button", { name: "Number its made corners" }).click();
  await expect(page.getByRole("status").filter({ hasText: "numbered 4" })).toBeVisible();
  await says(page, "4", "Northing", "106.000");
  await says(page, "4", "Elevation", "12.000");
  await editCell(page, "1", "Northing", "102");
  await expect(await cell(page, "4", "Northing")).toHaveText("108.000");
});

test("a point that is lost is told, and its construction mended where it is told", async ({ page }) => {
  await begin(page, "Apart");
  await goToField(page, "meet 12 dist 25 and 13 dist 25 near 14");
  await page.keyboard.press("Enter");
  await says(page, "21", "Northing", "115.000");
  await editCell(page, "13", "Easting", "190");
  await expect(page.getByText("4 in all")).toBeVisible();
  await leaveFields(page);
  await page.keyboard.press("f");
  await page.getByRole("option", { name: /Point 21 is not there: its circles are apart/ }).click();
  // In the tray, not among what is done to selected points.
  await expect(page.getByText(/^meet 12 dist 25/)).toBeVisible();
  await page.getByRole("button", { name: "Change", exact: true }).last().click();
  const form = page.getByRole("form", { name: "Construction of point 21" });
  await form.getByLabel("Distance, m").last().fill("75");
  await form.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByText("5 in all")).toBeVisible();
  await settled(page);
});
