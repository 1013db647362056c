/** Points moved and fitted: seen before, taken, changed, a pair taken out, typed over, undone. */
import { cell, editCell, goTo, newJob, openAs, settled, takeIn } from "./helpers";
import { expect, test } from "./test";

const FILE = [
  "1-A,100.000,100.000,10.000,SPOT",
  "2-A,140.000,100.000,11.000,SPOT",
  "3-A,100.000,150.000,12.000,SPOT",
  "4,120.000,120.000,12.000,SPOT",
  "1,105.000,103.000,10.000,SPOT",
  "2,145.000,103.000,11.000,SPOT",
  "3,105.000,153.500,12.000,SPOT",
].join("\n");

test("a delivery is fitted to control, one pair taken out, a point typed where it stands, all undone", async ({
  page,
}) => {
  await openAs(page, "Petra", "/");
  await newJob(page, "Moved");
  await takeIn(page, "day1.csv", FILE, 7);
  await goTo(page, "Points");
  // What came is selected: these alone.
  await (await cell(page, "1-A", "Number")).click();
  for (const number of ["2-A", "3-A", "4"])
    await (await cell(page, number, "Number")).click({ modifiers: ["ControlOrMeta"] });
  await page.getByRole("button", { name: "Move", exact: true }).click();
  const form = page.getByRole("form", { name: "New move" });
  await form.getByText("Fitted to points that stay").click();
  await expect(form.getByRole("button", { name: "Move them" })).toBeDisabled();
  await form.getByLabel("By number, without").fill("*-A");
  await form.getByRole("button", { name: "Find by number" }).click();
  const pairs = form.getByRole("table", { name: "Pairs" });
  await expect(pairs.getByRole("row")).toHaveCount(4);
  // The third is half a metre off: without it nothing is left over.
  await expect(form.getByTestId("fit-told")).not.toContainText("RMS 0.000");
  await form.getByLabel("Count 3-A and 3").click();
  await expect(form.getByTestId("fit-told")).toContainText("RMS 0.000 m in plan");
  await expect(form.getByTestId("move-told")).toContainText("4 points move: the farthest goes 5.831 m in plan");
  await form.getByRole("button", { name: "Move them" }).click();
  await expect(page.getByRole("tab", { name: "Moves 1" })).toBeVisible();
  await page.getByRole("tab", { name: "Table" }).click();
  await expect(await cell(page, "4", "Easting")).toHaveText("123.000");
  // Typed where it stands: that is where it stands.
  await editCell(page, "4", "Easting", "126");
  await expect(await cell(page, "4", "Easting")).toHaveText("126.000");
  // What the fit is made of is not.
  await editCell(page, "1-A", "Easting", "5");
  await expect(page.getByText("Take its pair out of the fit first")).toBeVisible();
  await page.keyboard.press("Escape");
  await settled(page);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(await cell(page, "4", "Easting")).toHaveText("123.000");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(await cell(page, "4", "Easting")).toHaveText("120.000");
});

test("a delivery is moved by what is typed with its unit, about a typed position; removed, it stands as received", async ({
  page,
}) => {
  await openAs(page, "Petra", "/");
  await newJob(page, "Shifted");
  await takeIn(page, "day1.csv", FILE, 7);
  await goTo(page, "Points");
  await page.getByRole("tab", { name: "Moves" }).click();
  await page.getByRole("button", { name: "New move" }).click();
  const form = page.getByRole("form", { name: "New move" });
  await form.getByLabel("Moves", { exact: true }).selectOption({ label: "day1.csv" });
  await form.getByLabel("To the north, m").fill("10 ft");
  await expect(form.getByTestId("move-told")).toContainText("7 points move: the farthest goes 3.048 m in plan");
  await form.getByLabel("Turned to the right").fill("abc");
  await expect(form.getByRole("status").filter({ hasText: "An angle such as" })).toBeVisible();
  await form.getByLabel("Turned to the right").fill("90");
  await expect(form.getByText("Say about which position")).toBeVisible();
  await form.getByLabel("About northing, m").fill("100");
  await form.getByLabel("About easting, m").fill("100");
  await form.getByRole("button", { name: "Move them" }).click();
  await page.getByRole("tab", { name: "Table" }).click();
  // 40 m to the north of it comes to the east of it, and then to the north by ten feet.
  await expect(await cell(page, "2-A", "Easting")).toHaveText("140.000");
  await expect(await cell(page, "2-A", "Northing")).toHaveText("103.048");
  await settled(page);
  await page.getByRole("tab", { name: "Moves 1" }).click();
  await page.getByRole("button", { name: "Remove Move 1" }).click();
  await expect(page.getByText("Nothing is moved.")).toBeVisible();
  await page.getByRole("tab", { name: "Table" }).click();
  await expect(await cell(page, "2-A", "Northing")).toHaveText("140.000");
});

test("a fit whose control is deleted is a finding that leads to the moves", async ({ page }) => {
  await openAs(page, "Petra", "/");
  await newJob(page, "Lost");
  await takeIn(page, "day1.csv", FILE, 7);
  await goTo(page, "Points");
  await (await cell(page, "4", "Number")).click();
  await page.getByRole("button", { name: "Move", exact: true }).click();
  const form = page.getByRole("form", { name: "New move" });
  await form.getByText("Fitted to points that stay").click();
  for (const [from, to] of [
    ["1-A", "1"],
    ["2-A", "2"],
  ] as const) {
    await form.getByLabel("Point that moves").fill(from);
    await form.getByLabel("comes to point").fill(to);
    await form.getByRole("button", { name: "Add the pair" }).click();
  }
  await form.getByRole("button", { name: "Move them" }).click();
  await page.getByRole("tab", { name: "Table" }).click();
  await expect(await cell(page, "4", "Easting")).toHaveText("123.000");
  await (await cell(page, "1", "Number")).click();
  await page.getByRole("button", { name: "Delete" }).click();
  await expect(await cell(page, "4", "Easting")).toHaveText("120.000");
  await page.keyboard.press("f");
  await page.getByRole("option", { name: /“Move 1” is not carried out/ }).click();
  await page.getByRole("button", { name: "Open the moves" }).click();
  await expect(page.getByRole("cell", { name: "Move 1", exact: true })).toBeVisible();
});
