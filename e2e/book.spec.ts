import fs from "node:fs";
import { expect, test, type Page } from "./test";
import { as, goTo, newJob, settled, takeIn } from "./helpers";

const TEXT = [
  "1,0,0,5,TREE 6 8 birch",
  "2,20,0,5,TREE 4 5 oak",
  "3,0,30,5,WALL1",
  "4,30,30,5,WALL1",
  "5,30,50,5,WALL1 end",
  "6,50,10,5,MAUER3",
  "7,60,10,5,MAUER3 end",
  "8,70,0,5,TREA 3",
].join("\n");

test.beforeEach(({ page }) => as(page, "Petra"));

async function openBook(page: Page, tab?: string): Promise<void> {
  await goTo(page, "Lines");
  await page.getByRole("link", { name: "Code book" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Code book" })).toBeVisible();
  if (tab) await page.getByRole("tab", { name: tab }).click();
}
const notes = (page: Page) =>
  page.getByRole("list", { name: "Notes on the sheet" }).getByRole("listitem").allTextContents();

test("a code is edited beside its picture, which follows the typing; the job is drawn anew at once and undone", async ({
  page,
}) => {
  await newJob(page, "Book", { order: "EN" });
  await takeIn(page, "day1.csv", TEXT, 8);
  await expect.poll(() => notes(page)).toEqual(["birch 8.0 m", "oak 5.0 m"]);
  await openBook(page);
  await page.getByLabel("Search codes").fill("tree");
  await page.getByRole("button", { name: "Edit TREE" }).click();
  const picture = page.getByTestId("code-picture"),
    template = page.getByLabel("Note template");
  await expect(picture).toHaveAttribute("data-note", "kind 4.2 m");
  const before = await picture.screenshot();
  await template.fill("{kind}, crown {spread:2} {unit");
  await expect(page.getByRole("alert").filter({ hasText: "is not closed" })).toBeVisible();
  await template.fill("{kind}, crown {spread:2} {girth}");
  await expect(page.getByRole("alert").filter({ hasText: "{girth} is no attribute of this code" })).toBeVisible();
  await template.fill("{kind}, crown {spread:2} m");
  // Nothing is stored while it is typed, and the picture shows it already.
  await expect(picture).toHaveAttribute("data-note", "kind, crown 4.20 m");
  expect(await notes(page)).toEqual(["birch 8.0 m", "oak 5.0 m"]);
  await template.press("Enter");
  await settled(page);
  await expect.poll(() => notes(page)).toEqual(["birch, crown 6.00 m", "oak, crown 4.00 m"]);
  await page.getByRole("button", { name: "Symbol", exact: true }).click();
  await page.getByRole("option", { name: "conifer" }).click();
  await settled(page);
  expect(Buffer.compare(await picture.screenshot(), before)).not.toBe(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect.poll(() => notes(page)).toEqual(["birch 8.0 m", "oak 5.0 m"]);
  await expect(template).toHaveValue("{kind}[ {height:1} m]");
});

test("line styles, companions and attributes are changed; a new code starts from another; a rename takes its aliases along", async ({
  page,
}) => {
  await newJob(page, "Codes", { order: "EN" });
  await takeIn(page, "day1.csv", TEXT, 8);
  await openBook(page);
  await page.getByRole("button", { name: "Edit WALL", exact: true }).click();
  await page.getByRole("button", { name: "Line style" }).click();
  await page.getByRole("option", { name: "teeth" }).click();
  await page.getByRole("button", { name: "Add a companion" }).click();
  await settled(page);
  await expect(page.getByTestId("sheet-described")).toContainText("parallel to WALL 1");
  await page.getByLabel("Right of companion 1").fill("-0.4");
  await page.getByLabel("Right of companion 1").press("Enter");
  await page.getByRole("button", { name: "Add an attribute" }).click();
  await page.getByLabel("Type of value1").selectOption("choice");
  await page.getByLabel("Choices of value1").fill("stone, brick");
  await page.getByLabel("Choices of value1").press("Tab");
  await settled(page);
  await page.getByRole("button", { name: "Add a code" }).click();
  await expect(page.getByLabel("Start from")).toHaveValue("WALL");
  await page.getByLabel("New code").fill("Mauer");
  await page.getByRole("button", { name: "Add it" }).click();
  await settled(page);
  await expect(page.getByTestId("code-form").getByLabel("Code", { exact: true })).toHaveValue("MAUER");
  await expect(page.getByTestId("code-form").getByText("2 shots of this job.")).toBeVisible();
  await page.getByTestId("code-form").getByLabel("Code", { exact: true }).fill("RAMPART");
  await page.getByTestId("code-form").getByLabel("Code", { exact: true }).press("Enter");
  await settled(page);
  await expect(page.getByTestId("code-form").getByText("Not used in this job.")).toBeVisible();
  await page.getByRole("button", { name: "Remove RAMPART" }).click();
  await expect(page.getByRole("status").filter({ hasText: "RAMPART is no longer in the book" }).first()).toBeVisible();
});

test("a word that the book does not know is tried against an alias and read by it", async ({ page }) => {
  await newJob(page, "Aliases", { order: "EN" });
  await takeIn(page, "day1.csv", TEXT, 8);
  await openBook(page, "Aliases");
  const unknown = page.getByRole("region", { name: "Unknown words" });
  await expect(unknown.getByRole("row", { name: /MAUER/ })).toContainText("2");
  await page.getByRole("textbox", { name: "Written" }).fill("MA*");
  await expect(page.getByTestId("alias-trial")).toHaveText("Reads 2 shots of MAUER.");
  await page.getByRole("textbox", { name: "Written" }).fill("XX");
  await expect(page.getByTestId("alias-trial")).toHaveText("None of the job's unknown words is written so.");
  await page.getByRole("textbox", { name: "Written" }).fill("MA*");
  await page.getByRole("combobox", { name: "Read as", exact: true }).selectOption("WALL");
  await page.getByRole("button", { name: "Add the alias" }).click();
  await settled(page);
  await expect(unknown.getByRole("row", { name: /MAUER/ })).toHaveCount(0);
  await expect(page.getByTestId("sheet-described")).toContainText("WALL 3");
  await unknown.getByRole("button", { name: "Read as TREE" }).click();
  await settled(page);
  await expect(unknown).toContainText("the book knows every word of the job");
});

test("cue words have the crew's spellings, and one word never means two things", async ({ page }) => {
  await newJob(page, "Cue words", { order: "EN" });
  await takeIn(page, "day1.csv", "1,0,0,5,WALL\n2,10,0,5,WALL\n3,10,10,5,WALL schluss", 3);
  await openBook(page, "Cue words");
  await page.getByLabel("Words for loop").fill("loop end");
  await page.getByLabel("Words for loop").press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "“end” means end already." })).toBeVisible();
  await page.getByLabel("Words for loop").fill("loop schluss");
  await page.getByLabel("Words for loop").press("Enter");
  await settled(page);
  await expect(page.getByTestId("sheet-described").getByRole("row", { name: /WALL/ })).toContainText("closed");
});

test("the book goes out as JSON and as a table and comes back; the office keeps it for other jobs", async ({
  page,
}, info) => {
  await newJob(page, "Copies", { order: "EN" });
  await openBook(page);
  const save = async (name: string) => {
    await page.getByRole("button", { name: "Copies of the book" }).click();
    const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name }).click()]);
    const file = info.outputPath(download.suggestedFilename());
    await download.saveAs(file);
    return file;
  };
  const json = await save("Save as JSON"),
    table = await save("Save as a table");
  expect(JSON.parse(fs.readFileSync(json, "utf8")).codes.length).toBeGreaterThan(60);
  fs.writeFileSync(
    table,
    fs
      .readFileSync(table, "utf8")
      .replace(/^TREE,Tree,/m, "TREE,Old tree,")
      .replace(/\nPOND,.*/, ""),
  );
  await page.getByLabel("A code book's file").setInputFiles(table);
  const offer = page.getByRole("region", { name: "Take a book" });
  await expect(offer).toContainText("0 new codes, 1 changed (TREE)");
  await expect(offer).toContainText("1 code of the job (POND) it has not");
  await offer.getByRole("button", { name: "Merge: keep mine, add and change" }).click();
  await expect(page.getByRole("status").filter({ hasText: "The book has what" }).first()).toBeVisible();
  await settled(page);
  await page.getByLabel("Search codes").fill("pond");
  await expect(page.getByRole("button", { name: "Edit POND" })).toBeVisible();
  await page.getByLabel("Search codes").fill("tree");
  await expect(page.getByRole("cell", { name: "Old tree" })).toBeVisible();
  await page
    .getByLabel("A code book's file")
    .setInputFiles({
      name: "bad.json",
      mimeType: "application/json",
      buffer: Buffer.from('{"codes":[{"code":"A","colour":"#ffffff"}]}'),
    });
  await expect(page.getByRole("status").filter({ hasText: "Did you mean “color”?" }).first()).toBeVisible();
  await page.getByLabel("A code book's file").setInputFiles(json);
  await offer.getByRole("button", { name: "Replace the book" }).click();
  await expect(page.getByRole("cell", { name: "Old tree" })).toHaveCount(0);
  await page.getByLabel("Used here").check();
  await expect(page.getByText(/^0 of \d+$/)).toBeVisible();
  await page.getByLabel("Used here").uncheck();

  await page.getByRole("button", { name: "Copies of the book" }).click();
  await page.getByRole("button", { name: "Keep this book in the office" }).click();
  await page.getByLabel("Name of the book").fill("Petra's book");
  await page.getByRole("button", { name: "Keep it" }).click();
  await page.getByRole("button", { name: "Take Petra's book" }).click();
  await expect(offer).toContainText("From the office's “Petra's book”: 0 new codes, 0 changed");
  await expect(offer.getByRole("button", { name: /^Merge/ })).toBeDisabled();
  await offer.getByRole("button", { name: "Leave it" }).click();
  // A second of the same name is asked about.
  await page.getByRole("button", { name: "Copies of the book" }).click();
  await page.getByRole("button", { name: "Keep this book in the office" }).click();
  await page.getByLabel("Name of the book").fill("Petra's book");
  await expect(page.getByRole("button", { name: "Replace “Petra's book”" })).toBeVisible();
});

test("what is drawn: groups hidden, labels by set, a plan's scale; notes without a place are listed", async ({
  page,
}) => {
  await newJob(page, "Drawing", { order: "EN" });
  await takeIn(page, "day1.csv", TEXT, 8);
  await openBook(page, "Drawing");
  const described = page.getByTestId("sheet-described");
  await expect(described).toContainText("WALL 1");
  await page.getByRole("region", { name: "What is drawn" }).getByRole("checkbox", { name: "Boundary" }).uncheck();
  await settled(page);
  await expect(described).not.toContainText("WALL 1");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(described).toContainText("WALL 1");
  const kinds = page.getByRole("list", { name: "Kinds" }).getByRole("listitem");
  await page.getByRole("button", { name: "points down" }).click();
  await settled(page);
  await expect(kinds).toHaveText([/^lines/, /^points/, /^areas/]);
  await page.getByLabel("Symbols, line weights and texts are for a plan").selectOption("2000");
  await settled(page);
  await page.getByRole("button", { name: "Look of the sheet" }).click();
  await expect(page.getByLabel("Sizes on paper for")).toHaveValue("2000");
  await page.getByRole("complementary", { name: "Look of the sheet" }).getByRole("button", { name: "Close" }).click();
  // Two crowns and their notes are a few millimetres apart at this scale: all have a place, or are told.
  await expect(page.getByTestId("unplaced")).toContainText(/\d of 2 notes placed/);
  await page.getByLabel("number of row 1").uncheck();
  await settled(page);
  await expect(page.getByLabel("elevation of row 1")).toBeChecked();
});
