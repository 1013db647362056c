import { expect, test, type Page } from "./test";
import { as, editCell, goTo, newJob, settled, takeIn } from "./helpers";

const TEXT = [
  "1,7000,3000,10,TOP1",
  "2,7000,3060,10.5,TOP1",
  "3,7030,3000,11,HEDGE1",
  "4,7030,3060,11,HEDGE1",
  "5,7015,3030,14,SPOT",
  "6,7017,3040,18,TREE",
].join("\n");

const goToWord = async (page: Page, word: string, choice: RegExp) => {
  await page.getByRole("button", { name: "Go to G" }).click();
  await page.getByRole("combobox", { name: "Go to" }).fill(word);
  await page.getByRole("option", { name: choice }).click();
};

test("a point's story, the go-to that says why a point is not seen, and one older entry taken back", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Stories");
  await takeIn(page, "day1.txt", TEXT, 6);
  await goTo(page, "Points");
  await editCell(page, "2", "Elevation", "10.75");
  await editCell(page, "2", "Number", "2A");
  await editCell(page, "5", "Elevation", "14.2");
  await settled(page);
  await page.getByRole("gridcell", { name: "2A", exact: true }).click();
  await page.getByRole("button", { name: "Story" }).click();
  const story = page.getByRole("region", { name: "Story of point 2A" });
  await expect(story).toContainText("with day1.txt, row 2, as 2");
  await expect(story).toContainText("in: TOP is ground");
  await expect(story.getByRole("button", { name: "TOP 1" })).toBeVisible();
  await expect(story).toContainText(/elevation 10\.5 m → 10\.75 m/);
  await expect(story).toContainText(/number 2 → 2A/);
  await page.getByRole("button", { name: "Out of surfaces" }).click();
  await expect(story).toContainText("out: an edit keeps it out; its elevation stays");
  await expect(story).toContainText(/use in surfaces by code → out always/);

  // By the number of the field, although it has another now.
  await goToWord(page, "2", /2, which is 2A now/);
  await expect(page.getByRole("row", { selected: true }).first()).toContainText("2A");
  await page.getByRole("gridcell", { name: "6", exact: true }).first().click();
  await page.getByRole("button", { name: "Delete" }).click();
  await settled(page);
  await goToWord(page, "6", /6, deleted/);
  await expect(page.getByRole("status").filter({ hasText: "Point 6 is deleted." })).toBeVisible();
  await page.getByRole("button", { name: "Bring it back" }).click();
  await settled(page);
  await expect(page.getByRole("gridcell", { name: "6", exact: true }).first()).toBeVisible();
  await page.getByLabel("Only these").selectOption("code TOP");
  await expect(page.getByRole("complementary", { name: "Legend" })).toContainText("2 points");
  await goToWord(page, "5", /^Point\s*5$/);
  await expect(page.getByRole("status").filter({ hasText: "Point 5 is faint: only TOP are shown." })).toBeVisible();

  // Of the ledger one older entry, by itself; where the same was changed since it says so.
  await page.getByRole("tab", { name: /^Ledger/ }).click();
  const first = page.getByRole("row", { name: /Point 2A, elevation\s*10\.5 m\s*10\.75 m/ });
  await first.getByRole("button", { name: /Take back entry/ }).click();
  await settled(page);
  await expect(first.getByRole("button", { name: /Do again entry/ })).toBeVisible();
  await expect(page.getByRole("gridcell", { name: "10.500" })).toBeVisible();
  await editCell(page, "5", "Elevation", "14.9");
  await settled(page);
  await page
    .getByRole("row", { name: /Point 5, elevation\s*14 m\s*14\.2 m/ })
    .getByRole("button", { name: /Take back entry/ })
    .click();
  await expect(
    page.getByRole("status").filter({ hasText: /cannot be taken back as it was.*it is now 14\.9/ }),
  ).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Whole ledger as text" }).click(),
  ]);
  const chunks: Buffer[] = [];
  for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
  const report = Buffer.concat(chunks).toString("utf8");
  expect(report).toMatch(/^Ledger of Stories\n/);
  expect(report).toMatch(
    /Petra: Elevation of 1 point changed \(taken back since\)\n {4}Point 2A, elevation: 10\.5 m -> 10\.75 m/,
  );
});

test("a point of a delivery that is withdrawn is found, and it is said why it is not seen", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Withdrawn");
  await takeIn(page, "day1.txt", TEXT, 6);
  await takeIn(page, "day2.txt", "71A,7000,3000,10,SPOT\n72,7000,3010,10,SPOT", 2);
  await goTo(page, "Intake");
  await page.getByRole("article", { name: "Intake day2" }).getByRole("button", { name: "Withdraw" }).click();
  await expect(page.getByRole("region", { name: "Withdrawn" })).toContainText("day2.txt");
  await goTo(page, "Points");
  await goToWord(page, "71a", /71A, in day2\.txt, which is withdrawn/);
  await page.getByRole("region", { name: "Withdrawn" }).getByRole("button", { name: "Restore" }).click();
  await settled(page);
  await goToWord(page, "71a", /^Point\s*71A$/);
});
