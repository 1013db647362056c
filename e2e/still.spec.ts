/** Nothing moves under the pointer, a key means one thing, and nobody overwrites another unseen. */
import { expect, test, type Page } from "./test";
import { as, cell, goTo, newJob, openAs, settled, takeIn } from "./helpers";

const FILE = Array.from({ length: 12 }, (_, k) => `${k + 1},${10 * k},${5 * k},${100 + k / 10},SPOT`).join("\n");

test("a double click edits the cell of its first click; what is told lies over the table and moves none of its rows", async ({
  page,
}) => {
  await as(page, "Ada");
  await newJob(page, "Still rows", { order: "EN" });
  await takeIn(page, "day1.csv", FILE, 12);
  await goTo(page, "Points");
  const level = await cell(page, "7", "Elevation"),
    box = (await level.boundingBox())!,
    [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.up();
  // Selected now, with all that can be done to it; the row is where it was.
  await expect(page.getByRole("button", { name: "Renumber" })).toBeEnabled();
  expect((await level.boundingBox())!.y).toBe(box.y);
  await page.mouse.down({ clickCount: 2 });
  await page.mouse.up({ clickCount: 2 });
  await expect(page.getByLabel("Elevation m of point 7")).toBeFocused();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("much");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("grid").locator("..").getByRole("alert")).toBeVisible();
  expect((await level.boundingBox())!.y).toBe(box.y);
  await page.keyboard.press("Escape");
});

test("a cell that the program opened takes no single key for its value unasked", async ({ page }) => {
  await as(page, "Ada");
  await newJob(page, "One key", { order: "EN" });
  await takeIn(page, "day1.csv", `${FILE}\n99,3,3,0,SPOT\n`, 13);
  await goTo(page, "Points");
  await page.keyboard.press("f");
  const list = page.getByRole("listbox", { name: "Findings" });
  await list.getByRole("option").filter({ hasText: "zero" }).click();
  await list.focus();
  // Enter takes a repair alone; none is chosen.
  await page.keyboard.press("Enter");
  await expect(list).toBeFocused();
  await page.keyboard.press("Shift+Enter");
  await expect(page.getByRole("grid", { name: "Points" })).toBeFocused();
  await page.keyboard.press("1");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "Only “1” was typed" })).toBeVisible();
  await page.keyboard.press("Escape");
  await settled(page);
  await expect(await cell(page, "99", "Elevation")).toHaveText("0.000");
  // Gone to by the person themselves, a figure is typed over it.
  await page.keyboard.press("ArrowUp");
  await page.keyboard.type("8");
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(page.getByRole("gridcell", { name: "8.000", exact: true })).toHaveCount(1);
});

test("a cell that another changes while it is open says so, and Enter asks", async ({ page, browser }) => {
  await as(page, "Ada");
  await newJob(page, "Two at one cell", { order: "EN" });
  await takeIn(page, "day1.csv", FILE, 12);
  await goTo(page, "Points");
  await (await cell(page, "3", "Elevation")).dblclick();
  const field = page.getByLabel("Elevation m of point 3");
  await field.fill("100.5");
  const context = await browser.newContext(),
    other = await context.newPage();
  await openAs(other, "Ben", page.url());
  await expect(other.getByRole("gridcell", { name: "100.200", exact: true })).toBeVisible();
  await (await cell(other, "3", "Elevation")).dblclick();
  await other.getByLabel("Elevation m of point 3").fill("101.25");
  await other.keyboard.press("Enter");
  await settled(other);
  const said = page.getByRole("alert").filter({ hasText: "changed this cell meanwhile" });
  await expect(said).toContainText("Ben changed this cell meanwhile: it is now “101.250”");
  await expect(field).toHaveValue("100.5");
  await field.press("Enter");
  await expect(said).toContainText("Enter once more stores yours");
  await expect(await cell(other, "3", "Elevation")).toHaveText("101.250");
  await field.press("Enter");
  await settled(page);
  await expect(await cell(other, "3", "Elevation")).toHaveText("100.500");
  await context.close();
});

test("what one types in a field stays there when another stores it; what came is said beside it", async ({
  page,
  browser,
}) => {
  await as(page, "Ada");
  await newJob(page, "Two at one field", { order: "EN" });
  const place = page.url().replace("intake", "settings");
  await page.goto(place);
  const client = page.getByLabel("Client reference"),
    notes = page.getByLabel("Notes");
  await client.pressSequentially("Trust");
  const context = await browser.newContext(),
    other = await context.newPage();
  await openAs(other, "Ben", place);
  await other.getByLabel("Client reference").fill("Stage Ltd");
  await other.getByLabel("Client reference").press("Enter");
  await settled(other);
  await expect(page.getByText("Meanwhile it became “Stage Ltd”")).toBeVisible();
  await client.pressSequentially("ees");
  await expect(client).toHaveValue("Trustees");
  await page.getByRole("button", { name: "Take theirs" }).click();
  await expect(client).toHaveValue("Stage Ltd");
  await notes.pressSequentially("Gate locked");
  await other.getByLabel("Notes").fill("Key at the lodge");
  await other.getByLabel("Notes").blur();
  await settled(other);
  await expect(page.getByText("Meanwhile it became “Key at the lodge”")).toBeVisible();
  await notes.pressSequentially(" at night");
  await notes.blur();
  await settled(page);
  await expect(other.getByLabel("Notes")).toHaveValue("Gate locked at night");

  // In a row of a list too: the cue words of the book.
  for (const one of [page, other]) {
    await one.goto(place.replace("settings", "book"));
    await one.getByRole("tab", { name: /^Cue/ }).click();
  }
  const words = (one: Page) => one.getByLabel("Words for end");
  await words(page).fill("end stop");
  await words(other).fill("end fin");
  await words(other).press("Enter");
  await settled(other);
  await expect(page.getByText("Meanwhile it became “end fin”")).toBeVisible();
  await words(page).pressSequentially(" fin");
  await expect(words(page)).toHaveValue("end stop fin");
  await words(page).press("Enter");
  await settled(page);
  await expect(words(other)).toHaveValue("end stop fin");
  await context.close();
});
