/** What lies between the places: nothing in progress is lost, and what is told leads to where it is mended. */
import { expect, test, type Page } from "./test";
import { execFileSync } from "node:child_process";
import fs from "node:fs";
import { makeJob, as, cell, choose, editCell, goTo, newJob, pixelOnSheet, settled, takeIn } from "./helpers";

const TEXT =
  "1,7000,3000,10,HEDGE1\n2,7010,3010,11,HEDGE1\n3,7020,3000,12,HEDGE1 end\n4,7005,3020,0,SPOT\n5,7015,3022,11,TREE 4\n";
const grid = (page: Page) => page.getByRole("grid", { name: "Points" });
const active = (page: Page) =>
  grid(page).evaluate((el) => document.getElementById(el.getAttribute("aria-activedescendant") ?? "")?.textContent);

test.beforeEach(({ page }) => as(page, "Petra"));

test("filter, sort, cell, chosen code, a half-drawn line and a look with its answers are there after other places", async ({
  page,
}) => {
  await newJob(page, "In progress");
  await takeIn(page, "day1.txt", TEXT, 5);
  await goTo(page, "Points");
  await page.getByLabel("Filter points").fill("1-4");
  await page.getByRole("columnheader", { name: /Elevation/ }).click();
  await (await cell(page, "2", "Note")).click();
  await goTo(page, "Lines");
  await page.getByRole("button", { name: "Draw a line" }).click();
  await page.getByLabel("Points, in order").fill("4, 5");
  await page.getByRole("link", { name: "Book", exact: true }).click();
  await page.getByRole("button", { name: "Edit WALL", exact: true }).click();

  await goTo(page, "Intake");
  await choose(page, "day2.txt", "1,7000.5,3000,10,HEDGE1\n9,7001,3001,10,POOL\n");
  await page.getByLabel("Answer for 1 in row 1").selectOption("mean");
  await goTo(page, "Points");
  await expect(page.getByLabel("Filter points")).toHaveValue("1-4");
  await expect(page.getByText("4 of 5")).toBeVisible();
  expect(await grid(page).getByRole("row").nth(1).getByRole("gridcell").first().textContent()).toBe("4");
  await grid(page).focus();
  await page.keyboard.type("lid");
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(await cell(page, "2", "Note")).toHaveText("lid");
  await goTo(page, "Lines");
  await expect(page.getByLabel("Points, in order")).toHaveValue("4, 5");
  await page.getByRole("link", { name: "Book", exact: true }).click();
  await expect(page.getByTestId("code-form").getByLabel("Code", { exact: true })).toHaveValue("WALL");

  await page
    .getByRole("navigation", { name: "Places" })
    .getByRole("link", { name: /^Intake/ })
    .click();
  await expect(page.getByLabel("Answer for 1 in row 1")).toHaveValue("mean");
  await page.getByRole("button", { name: "Take in 2 points" }).click();
  await settled(page);
  await goTo(page, "Points");
  await page.getByRole("button", { name: "Show all" }).click();
  await expect(await cell(page, "1", "Northing")).toHaveText("7000.250");
});

test("Go to leaves the keyboard where it went: typing edits the point, a line shows its facts", async ({ page }) => {
  await newJob(page, "Go to");
  const many = Array.from({ length: 300 }, (_, k) => `${k + 100},${7000 + k},3100,5,SPOT`).join("\n");
  await takeIn(page, "day1.txt", TEXT + many, 305);
  await goTo(page, "Handover");
  await page.keyboard.press("g");
  const field = page.getByRole("combobox", { name: "Go to" });
  for (const name of ["Intake", "Handover", "Code book", "Job settings"])
    await expect(page.getByRole("option", { name: new RegExp(`${name}$`) })).toBeVisible();
  await field.fill("350");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1, name: "Points" })).toBeVisible();
  const row = page.getByRole("row", { selected: true });
  await expect(row).toContainText("7250.000");
  await expect(grid(page)).toBeFocused();
  await page.keyboard.type("6.5");
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(await cell(page, "350", "Elevation")).toHaveText("6.500");
  // Upwards the row stands below the heading that stays on top.
  await page.keyboard.press("Control+g");
  await field.fill("101");
  await page.keyboard.press("Enter");
  const top = (await grid(page).boundingBox())!.y;
  await expect.poll(async () => (await (await cell(page, "101", "Number")).boundingBox())!.y - top).toBeGreaterThan(20);

  // A filter that hides the point gives way to it.
  await page.getByLabel("Filter points").fill("TREE");
  await page.getByRole("button", { name: /^Go to G/ }).click();
  await field.fill("102");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("row", { selected: true })).toContainText("102");
  await goTo(page, "Handover");
  await page.getByRole("button", { name: /^Go to G/ }).click();
  await field.fill("hedge 1");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 2, name: /HEDGE 1/ })).toBeVisible();
  // In any other place the foot tells of it, and leads back.
  await goTo(page, "Volumes");
  const told = page.getByTestId("readout").getByRole("button", { name: /^Line HEDGE 1: 28\.284 m/ });
  await told.click();
  await expect(page.getByRole("heading", { level: 2, name: /HEDGE 1/ })).toBeVisible();
});

test("the table does what a spreadsheet does", async ({ page, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await newJob(page, "Spreadsheet");
  await takeIn(page, "day1.txt", TEXT, 5);
  await goTo(page, "Points");
  await (await cell(page, "1", "Elevation")).click();
  await page.keyboard.press("Enter");
  expect(await active(page)).toBe("11.000");
  await page.keyboard.press("Shift+Enter");
  expect(await active(page)).toBe("10.000");
  // Tab walks on, Enter goes on below where the walk began; arrows keep what was typed over a cell.
  await page.keyboard.type("20");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  expect(await active(page)).toBe("11.000");
  await page.keyboard.type("21,5");
  await page.keyboard.press("ArrowDown");
  expect(await active(page)).toBe("12.000");
  await settled(page);
  await expect(await cell(page, "2", "Elevation")).toHaveText("21.500");
  await page.keyboard.press("Delete");
  await settled(page);
  await expect(await cell(page, "3", "Elevation")).toHaveText("");
  const note = await cell(page, "3", "Note");
  await note.dblclick();
  await page.keyboard.type("by the gate");
  await page.keyboard.press("Enter");
  await expect(note).toHaveText("by the gate");
  // The number is opened deliberately.
  await (await cell(page, "3", "Number")).click();
  await page.keyboard.type("9");
  await expect(page.getByRole("textbox", { name: /Number of point/ })).toHaveCount(0);
  await page.keyboard.press("Delete");
  await expect(page.getByRole("alert").filter({ hasText: "A point needs a number" })).toBeVisible();
  await page.keyboard.press("Escape");
  // Headings by key.
  for (let k = 0; k < 6; k++) await page.keyboard.press("ArrowUp");
  expect(await active(page)).toContain("Number");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  expect(await grid(page).getByRole("row").nth(1).getByRole("gridcell").first().textContent()).toBe("5");
  await page.keyboard.press("Enter");

  // All selected rows are copied; a paste beyond the table asks first, and an old refusal goes with a new paste.
  await (await cell(page, "1", "Number")).click();
  await (await cell(page, "2", "Number")).click({ modifiers: ["Shift"] });
  await page.keyboard.press("Control+c");
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied.split("\n").map((l) => l.split("\t")[0])).toEqual(["Number", "1", "2"]);
  const paste = async (text: string) => {
    await page.evaluate((t) => navigator.clipboard.writeText(t), text);
    await page.keyboard.press("Control+v");
  };
  await (await cell(page, "4", "Elevation")).click();
  await paste("high");
  await expect(page.getByRole("alert").filter({ hasText: "Nothing was changed" })).toBeVisible();
  await paste("1\n2\n3");
  await expect(page.getByRole("alert").filter({ hasText: "1 row of what was pasted would fall beyond" })).toBeVisible();
  await expect(page.getByRole("alert").filter({ hasText: "Nothing was changed" })).toHaveCount(0);
  await page.getByRole("button", { name: "Paste what fits" }).click();
  await settled(page);
  await expect(await cell(page, "5", "Elevation")).toHaveText("2.000");
});

test("numbers, ranges and codes are filtered by, the very number first", async ({ page }) => {
  await newJob(page, "Filter");
  await takeIn(page, "day1.txt", "112,1,1,1,SPOT\nK1,2,2,2,SPOT\nK2,3,3,3,CTRL\n12,4,4,4,TREE 12\nK9,5,5,5,SPOT\n", 5);
  await goTo(page, "Points");
  const numbers = async () =>
    (await grid(page).getByRole("row").all()).length > 0 &&
    grid(page)
      .getByRole("row")
      .evaluateAll((rows) => rows.slice(1).map((r) => r.querySelector("[role=gridcell]")!.textContent));
  const filter = page.getByLabel("Filter points");
  await filter.fill("12");
  await expect.poll(numbers).toEqual(["12", "112"]);
  await filter.fill("K1-K5");
  await expect.poll(numbers).toEqual(["K1", "K2"]);
  await filter.fill("K1, TREE, K77");
  await expect.poll(numbers).toEqual(["K1", "12"]);
  await expect(page.getByText("No point is called “K77”.")).toBeVisible();
});

test("findings and the ledger lead to what they speak of, in words", async ({ page }) => {
  await newJob(page, "Leads");
  await takeIn(page, "day1.txt", TEXT, 5);
  await goTo(page, "Points");
  await editCell(page, "2", "Elevation", "11.25");
  await goTo(page, "Volumes");
  await page.keyboard.press("f");
  const zero = page.getByRole("listbox", { name: "Findings" }).getByRole("option", { name: /zero elevation/ });
  await zero.click();
  await page.getByRole("button", { name: "Open the cell" }).click();
  await expect(grid(page)).toBeFocused();
  expect(await active(page)).toBe("0.000");
  await page.keyboard.type("12.5");
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(zero).toHaveCount(0);

  await page.getByRole("tab", { name: /Ledger/ }).click();
  await page.getByLabel("Filter the ledger").fill("point 2");
  const entry = page.getByRole("row", { name: /Elevation of 1 point changed/ });
  await expect(entry).toHaveCount(1);
  await expect(entry).toContainText(/Point 2, elevation\s*11 m\s*11\.25 m/);
  await goTo(page, "Lines");
  await entry.getByRole("button", { name: "Point 2, elevation" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Points" })).toBeVisible();
  await expect(page.getByRole("row", { selected: true }).first()).toContainText("11.250");
});

test("what the book does not know it learns in the look", async ({ page }) => {
  await newJob(page, "Learns");
  await choose(page, "day1.txt", "1,7000,3000,10,POOL\n2,7010,3010,11,TREE 4 7 birch tall\n3,7020,3000,12,TOP1 fin\n");
  const codes = page.getByRole("region", { name: "Codes" });
  await expect(codes).toBeVisible();
  // Looked at once: as long as nothing is answered, nothing is read or drawn again.
  await page.evaluate(() => {
    const sheet = document.querySelector("[data-testid=sheet]")!;
    (window as unknown as { frames: () => string | null }).frames = () => sheet.getAttribute("data-frame");
  });
  const still = () =>
    page.evaluate(async () => {
      const { frames } = window as unknown as { frames: () => string | null },
        before = frames();
      for (let k = 0; k < 40; k++) await new Promise(requestAnimationFrame);
      return frames() === before;
    });
  await expect.poll(still).toBe(true);
  await codes.getByLabel("What POOL is").selectOption({ label: "an area" });
  await expect(codes).toContainText("3 known to the book");
  const words = page.getByRole("table", { name: "Words not read" });
  await words.getByLabel("What fin is").selectOption({ label: "end" });
  await expect(words.getByLabel("What fin is")).toHaveCount(0);
  await words.getByLabel("What tall is").selectOption({ label: "a text" });
  await words.getByLabel("Name of the attribute that holds tall").fill("SHAPE");
  await words.getByRole("button", { name: "Add it to TREE" }).click();
  await expect(words).toHaveCount(0);
  await codes.getByRole("link", { name: "Open the code book" }).click();
  await page.getByLabel("Search codes").fill("POOL");
  await expect(page.getByRole("button", { name: "Edit POOL" })).toBeVisible();
  await page.goBack();
  await page.getByRole("button", { name: "Take in 3 points" }).click();
  await settled(page);
});

test("several files dropped anywhere are looked at one after another; one that came before is known", async ({
  page,
}) => {
  await newJob(page, "Dropped");
  await takeIn(page, "day1.txt", TEXT, 5);
  await goTo(page, "Volumes");
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.items.add(new File([text], "copy of day1.txt"));
    data.items.add(
      new File(
        ["1,7000,3000,10,HEDGE1\n2,7010,3010.5,11,HEDGE1\n3,7020,3000,12,HEDGE1 end\n8,1,1,1,SPOT"],
        "again.txt",
      ),
    );
    data.items.add(new File(["x"], `${"n".repeat(600)}.txt`));
    const over = { bubbles: true, cancelable: true, dataTransfer: data };
    document.querySelector("[data-testid=sheet]")!.dispatchEvent(new DragEvent("dragover", over));
    document.querySelector("[data-testid=sheet]")!.dispatchEvent(new DragEvent("drop", over));
  }, TEXT);
  await expect(page.getByRole("status")).toContainText("has a name of 604 letters");
  await expect(page.getByText("1 more file waits")).toBeVisible();
  await expect(page.getByRole("alert").filter({ hasText: "This very file was taken in already" })).toBeVisible();
  await page.getByRole("button", { name: "Leave it" }).click();
  await expect(page.getByTestId("repeated")).toContainText(
    "It repeats “day1.txt”: 1 point is new, 2 the same, 1 changed; 2 of it did not come again: 4, 5.",
  );
  await expect(page.getByTestId("clash-counts")).toHaveText("2 the same, set aside, 1 not answered");
  await page.getByLabel("Numbers that are there already").selectOption("replace");
  await expect(page.getByTestId("clash-counts")).toHaveText("2 the same, set aside, 1 replaced");
  await page.getByRole("button", { name: "Take in 4 points" }).click();
  await settled(page);
  await goTo(page, "Points");
  await expect(page.getByText("6 in all")).toBeVisible();
  await expect(await cell(page, "2", "Easting")).toHaveText("3010.500");
});

test("the server gone: every place stays, what is done waits, and all comes back by itself", async ({ page }) => {
  await newJob(page, "Server gone");
  await takeIn(page, "day1.txt", TEXT, 5);
  await goTo(page, "Points");
  await page.context().setOffline(true);
  await expect(page.getByTestId("saved")).toHaveText("Not connected; may be behind");
  for (const place of ["Intake", "Lines", "Surface", "Volumes", "Handover"]) await goTo(page, place);
  await page.getByRole("link", { name: "Settings", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Job settings" })).toBeVisible();
  await goTo(page, "Points");
  const level = await cell(page, "2", "Elevation");
  await level.click();
  await page.keyboard.type("19");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("saved")).toHaveText("1 not saved");
  await page.context().setOffline(false);
  await settled(page);
  await expect(level).toHaveText("19.000");
});

test("the page prints the sheet alone, to the chosen scale, with its name", async ({ page }, info) => {
  await newJob(page, "Printed yard");
  await takeIn(page, "day1.txt", TEXT, 5);
  await page.getByRole("button", { name: "Look of the sheet" }).click();
  await page.getByLabel("Sizes on paper for").selectOption("500");
  await settled(page);
  const before = await page.getByTestId("sheet").getAttribute("data-view");
  const file = info.outputPath("sheet.pdf");
  fs.writeFileSync(file, await page.pdf({ preferCSSPageSize: true, printBackground: true }));
  const text = execFileSync("pdftotext", ["-layout", file, "-"], { encoding: "utf8" });
  expect(text).toContain("Printed yard");
  expect(text).toContain("1 : 500");
  expect(text).not.toContain("Take in files");
  const facts = execFileSync("pdfinfo", [file], { encoding: "utf8" });
  expect(facts).toMatch(/Pages:\s+1\n/);
  expect(facts).toMatch(/A4/);
  await expect.poll(() => page.getByTestId("sheet").getAttribute("data-view")).toBe(before);
});

test("jobs are found, copied, put away, removed and brought back; a new one takes control from another", async ({
  page,
}) => {
  await newJob(page, "Quarry north");
  await page
    .getByLabel("File to take in")
    .setInputFiles({
      name: "control.txt",
      mimeType: "text/plain",
      buffer: Buffer.from("K1,7000,3000,10,MARK\nK2,7050,3050,11,MARK\n"),
    });
  await page.getByLabel("Kind of points").selectOption("control");
  await page.getByRole("button", { name: "Take in 2 points" }).click();
  await settled(page);
  await page.getByRole("link", { name: "Settings", exact: true }).click();
  await page.getByLabel("Client reference").fill("Gorsefold Stone");
  await page.keyboard.press("Enter");
  await settled(page);

  await page.getByRole("link", { name: "All jobs" }).click();
  const client = page.getByRole("region", { name: "Gorsefold Stone" });
  await expect(client.getByRole("link", { name: "Quarry north" })).toBeVisible();
  await client.getByRole("button", { name: "Copy Quarry north" }).click();
  await client.getByRole("link", { name: "Quarry north, copy" }).click();
  await expect(page.getByText("2 in all")).toBeVisible();
  await page.getByRole("link", { name: "All jobs" }).click();
  await page.getByLabel("Find a job").fill("north, copy");
  await page.getByRole("button", { name: "Remove Quarry north, copy" }).click();
  await expect(page.getByText("No job here is called “north, copy”.")).toBeVisible();
  await page.getByRole("button", { name: /^Removed/ }).click();
  await page.getByRole("button", { name: "Bring back Quarry north, copy" }).click();
  await page.getByRole("button", { name: /^At work/ }).click();
  await page.getByRole("button", { name: "Archive Quarry north, copy" }).click();
  await page.getByRole("button", { name: /^Archived/ }).click();
  await expect(page.getByRole("link", { name: "Quarry north, copy" })).toBeVisible();

  await page.getByLabel("Control, code book and system from").selectOption({ label: "Gorsefold Stone: Quarry north" });
  await makeJob(page, "Quarry south");
  await goTo(page, "Points");
  await expect(await cell(page, "K2", "Kind")).toHaveText("control");
  await expect(await cell(page, "K2", "Easting")).toHaveText("3050.000");
});

test("of a file only the rows within a ring that is drawn on the sheet; a ring never crosses itself", async ({
  page,
}) => {
  await newJob(page, "Ring", { order: "EN" });
  await takeIn(page, "day1.csv", "1,0,0,5,SPOT\n2,100,0,5,SPOT\n3,100,100,5,SPOT\n4,0,100,5,SPOT", 4);
  await choose(page, "day2.csv", "11,20,20,5,SPOT\n12,80,20,5,SPOT\n13,80,80,5,SPOT\n14,20,80,5,SPOT");
  await page.getByText("Take in only some of its rows").click();
  await page.getByRole("button", { name: "Draw a ring on the sheet" }).click();
  const click = async (e: number, n: number) => page.mouse.click(...(await pixelOnSheet(page, e, n)));
  await click(10, 10);
  await click(90, 10);
  await click(90, 50);
  await click(50, -30); // would cross the first side: passed over
  await click(70, 90); // wrong, and taken back
  await page.keyboard.press("Backspace");
  await click(10, 50);
  await page.keyboard.press("Enter");
  await expect(page.getByText("inside a ring of 4 corners")).toBeVisible();
  await page.getByRole("button", { name: "Take in 2 points" }).click();
  await expect(page.getByRole("status")).toContainText("2 points taken in");
  await goTo(page, "Points");
  const numbers = page.getByRole("grid", { name: "Points" }).getByRole("row").locator("[aria-colindex='1']");
  await expect(numbers).toHaveText(["1", "2", "3", "4", "11", "12"]);
});
