/**
 * One job in two windows: each sees what the other does, nothing is lost when the connection is, and nothing is shown
 * as saved that is not.
 */
import { expect, test, type Browser, type Page } from "./test";
import { as, cell, change, editCell, goTo, jobWith, newJob, openAs, settled, takeIn } from "./helpers";

const PLOT = "1,0,0,10,SPOT\n2,20,0,11,SPOT\n3,20,20,12,SPOT\n4,0,20,13,SPOT";

/** Ada and Ben, each in a browser of their own, with the same job open. */
async function two(browser: Browser, name: string): Promise<[Page, Page]> {
  const [a, b] = [await (await browser.newContext()).newPage(), await (await browser.newContext()).newPage()];
  await as(a, "Ada");
  await newJob(a, name, { order: "EN" });
  await takeIn(a, "day1.csv", PLOT, 4);
  await goTo(a, "Points");
  await openAs(b, "Ben", a.url());
  await settled(b);
  return [a, b];
}

/** Types a level without waiting for it to be stored. */
async function typeLevel(page: Page, point: string, level: string): Promise<void> {
  const c = await cell(page, point, "Elevation");
  await c.click();
  await page.keyboard.press("F2");
  await c.getByRole("textbox").fill(level);
  await page.keyboard.press("Enter");
}

const level = async (page: Page, point: string) => (await cell(page, point, "Elevation")).textContent();
const undo = (page: Page) => page.getByRole("button", { name: "Undo" }).click();

test("a level, a line, an intake and its withdrawal come to the other window; each takes back their own", async ({
  browser,
}) => {
  const [a, b] = await two(browser, "Two windows");
  await expect(a.getByTestId("others")).toContainText("Ben");
  await expect(b.getByTestId("others")).toContainText("Ada");

  await editCell(a, "2", "Elevation", "15");
  await expect.poll(() => level(b, "2")).toBe("15.000");
  await editCell(b, "3", "Elevation", "16");
  await expect.poll(() => level(a, "3")).toBe("16.000");

  // Ben draws a line by hand; Ada sees it.
  await goTo(b, "Lines");
  await b.getByRole("button", { name: "Draw a line" }).click();
  const form = b.getByRole("form", { name: "Line by hand" });
  await form.getByLabel("Points, in order").fill("1, 3");
  await form.getByLabel("Code").selectOption("HEDGE");
  await b.getByRole("button", { name: "Draw the line" }).click();
  await settled(b);
  await goTo(a, "Lines");
  const drawn = (page: Page) => page.getByRole("region", { name: "Bench" }).getByRole("row", { name: /HEDGE/ });
  await expect(drawn(a)).toHaveCount(1);

  // Ada's undo takes her level back, not Ben's line, and says so in both ledgers.
  await undo(a);
  await settled(a);
  await goTo(b, "Points");
  await expect.poll(() => level(b, "2")).toBe("11.000");
  await expect(drawn(a)).toHaveCount(1);
  await b.getByRole("tab", { name: /Ledger/ }).click();
  await expect(b.getByRole("row", { name: /Elevation of 1 point changed: taken back/ })).toContainText("Ada");
  await undo(b);
  await expect(drawn(a)).toHaveCount(0);
  expect(await level(b, "3")).toBe("16.000");
  await b.getByRole("button", { name: "Close the tray" }).click();

  // A delivery comes to both; its own person's undo asks before it takes it back.
  await goTo(a, "Intake");
  await takeIn(a, "day2.csv", "50,5,5,10,SPOT\n51,6,6,10,SPOT", 2);
  await goTo(b, "Intake");
  await expect(b.getByRole("region", { name: "Bench" })).toContainText("day2.csv");
  await undo(a);
  await a.getByRole("button", { name: "Take “day2.csv” back" }).click();
  await expect(b.getByRole("region", { name: "Withdrawn" })).toContainText("day2.csv");
  await expect(a.getByRole("region", { name: "Withdrawn" })).toContainText("day2.csv");
  await goTo(b, "Points");
  await expect(b.getByText("4 in all")).toBeVisible();
});

test("a window whose stream is cut says so, and catches up in order when it is back", async ({ browser }) => {
  const [a, b] = await two(browser, "Cut off");
  await b.context().setOffline(true);
  await expect(b.getByTestId("saved")).toHaveText("Not connected; may be behind");
  await editCell(a, "2", "Elevation", "15");
  await editCell(a, "2", "Elevation", "17");
  await editCell(a, "4", "Elevation", "18");
  expect(await level(b, "2")).toBe("11.000");
  await b.context().setOffline(false);
  await expect.poll(() => level(b, "4")).toBe("18.000");
  expect(await level(b, "2")).toBe("17.000");
  await settled(b);
});

test("what is not stored is marked in table and foot, kept over a reload, and stored when the server is there again", async ({
  browser,
}) => {
  const [a, b] = await two(browser, "Kept");
  // Only what is stored fails: the page itself comes.
  await b.route(/\/changes$/, (route) => route.abort());
  await typeLevel(b, "2", "14.5");
  await expect(b.getByTestId("saved")).toHaveText("1 not saved");
  await expect(b.getByRole("region", { name: "Not saved" })).toContainText("Elevation of 1 point changed");
  await expect(await cell(b, "2", "Elevation")).toHaveAttribute("data-unsaved", "true");
  expect(await level(a, "2")).toBe("11.000");
  await b.reload();
  await expect(b.getByTestId("saved")).toHaveText("1 not saved");
  await expect.poll(() => level(b, "2")).toBe("14.500");
  await b.unroute(/\/changes$/);
  await b.getByRole("button", { name: "Try now" }).click();
  await settled(b);
  await expect.poll(() => level(a, "2")).toBe("14.500");
  await expect(b.getByRole("region", { name: "Not saved" })).toBeHidden();
});

test("a clash on one field shows both values, and the person takes one of them", async ({ browser }) => {
  const [a, b] = await two(browser, "Clash");
  await b.context().setOffline(true);
  await typeLevel(b, "2", "16");
  await typeLevel(b, "3", "17");
  await editCell(a, "2", "Elevation", "15");
  await editCell(a, "3", "Elevation", "14");
  await b.context().setOffline(false);
  const asked = b.getByRole("region", { name: "Not saved" });
  await expect(asked).toContainText("The elevation of point 2 was changed meanwhile by Ada: it is now 15.");
  await asked.getByRole("button", { name: "Take mine: 16" }).click();
  await asked.getByRole("button", { name: "Keep 14" }).click();
  await settled(b);
  await expect.poll(() => level(a, "2")).toBe("16.000");
  expect([await level(b, "2"), await level(b, "3"), await level(a, "3")]).toEqual(["16.000", "14.000", "14.000"]);
});

test("a change refused for good is marked, and given up by the person", async ({ browser }) => {
  const [a, b] = await two(browser, "Given up");
  // Both call a point 9, Ben while his window is away: only one of them can be it.
  await b.context().setOffline(true);
  const number = await cell(b, "2", "Number");
  await number.click();
  await b.keyboard.press("F2");
  await number.getByRole("textbox").fill("9");
  await b.keyboard.press("Enter");
  await editCell(a, "3", "Number", "9");
  await b.context().setOffline(false);
  const asked = b.getByRole("region", { name: "Not saved" });
  await expect(asked).toContainText("9");
  await asked.getByRole("button", { name: "Leave it" }).click();
  await settled(b);
  await expect(b.getByRole("gridcell", { name: "2", exact: true }).first()).toBeVisible();
  await expect(b.getByRole("gridcell", { name: "9", exact: true })).toHaveCount(1);
});

test("somebody's large change comes without its body; the ledger shows the beginning of it when asked", async ({
  page,
  request,
}) => {
  await as(page, "Petra");
  const count = 3000,
    rows = Array.from({ length: count }, (_, k) => `${k + 1},${k},${k % 60},5,SPOT`),
    id = await jobWith(request, `${rows.join("\n")}\n`);
  await page.goto(`/jobs/${id}/points`);
  await settled(page);
  const note = "looked at again after the rain ".repeat(4),
    edits = rows.map((_, k) => ({ id: k + 1, field: "note", old: "", new: `${note}${k + 1}` })),
    made = await change(request, id, { type: "points", edits });
  expect(made.ok()).toBe(true);
  await expect(await cell(page, "1", "Note")).toContainText("after the rain");
  const [entry] = (await (await request.get(`/api/jobs/${id}/ledger`)).json()) as { change: object }[];
  expect(entry!.change).toMatchObject({ type: "large" });
  await page.getByRole("tab", { name: /^Ledger/ }).click();
  await page.getByRole("button", { name: /^Show the first 200 of 0\.\d MB$/ }).click();
  await expect(page.getByRole("button", { name: "Point 1, note" })).toBeFocused();
  const last = page.getByRole("row").filter({ hasText: "Point 200, note" });
  await expect(last).toContainText(`${note.trim()} 200`);
  await expect(page.getByText("These are the first 200")).toBeVisible();
  await expect(page.getByText("Point 201, note")).toHaveCount(0);
});
