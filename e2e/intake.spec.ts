import { expect, test } from "./test";
import writeXlsx from "write-excel-file/node";
import { surveyXml } from "../core/test/survey";
import { makeJob, as, cell, choose, editCell, goTo, intakeRequest, newJob, problem, settled, takeIn } from "./helpers";

test.beforeEach(({ page }) => as(page, "Petra"));

test("columns are corrected over the first rows, and exchanged axes are put right by one key", async ({ page }) => {
  await newJob(page, "Columns", { order: "EN" });
  await choose(
    page,
    "odd.txt",
    "Crew C;rover;;;\nNo;East;North;Level;Text\n7;2011,25;5040,5;61,25;SPOT\n8;2012,5;5041,75;;SPOT\nx;east;5040;61;SPOT\n",
  );
  await expect(page.getByLabel("Delimiter")).toHaveValue(";");
  await expect(page.getByLabel("Decimal sign")).toHaveValue(",");
  await expect(page.getByLabel("Meaning of column 2")).toHaveValue("easting");
  await expect(page.getByText("Row 5: the easting is “east”, which is not a number")).toBeVisible();
  await page.getByRole("button", { name: "Exchange northing and easting" }).click();
  await expect(page.getByLabel("Meaning of column 2")).toHaveValue("northing");
  await page.getByLabel("Meaning of column 3").selectOption("skip");
  await expect(problem(page)).toContainText("no column for easting");
  await expect(page.getByRole("button", { name: /^Take in/ })).toBeDisabled();
  await page.getByLabel("Meaning of column 3").selectOption("easting");
  await page.getByRole("button", { name: "Take in 2 points" }).click();
  await expect(page.getByRole("status")).toContainText("2 points taken in from “odd.txt”; 1 row refused");
  await goTo(page, "Points");
  await expect(page.getByRole("gridcell", { name: "5040.500", exact: true })).toBeVisible();
});

test("a press that comes before what was typed last is looked at takes nothing in", async ({ page }) => {
  await newJob(page, "Quick press");
  await choose(page, "quick.txt", "1,10,20,5,SPOT\n2,11,21,5,SPOT\n3,12,22,5,SPOT\n");
  const take = page.getByRole("button", { name: "Take in 3 points" });
  await expect(take).toBeEnabled();
  await page.getByLabel("Lines before the rows").fill("1");
  // The press comes as soon as the page knows that the field was left, before any look could have been made anew.
  await take.evaluate(async (button: HTMLElement) => {
    (document.activeElement as HTMLElement).blur();
    await new Promise<void>((known) => queueMicrotask(known));
    button.click();
  });
  await page.getByRole("button", { name: "Take in 2 points" }).click();
  await expect(page.getByRole("status")).toContainText("2 points taken in from “quick.txt”");
});

test("numbers used twice stop the intake until it is said what happens to them; it can be withdrawn and come back", async ({
  page,
}) => {
  await newJob(page, "Clashes");
  await takeIn(page, "day1.txt", "1,10,20,5,SPOT\n2,11,21,5,SPOT\n", 2);
  await goTo(page, "Intake");
  await choose(page, "day2.txt", "2,12,22,5,SPOT\n3,13,23,5,SPOT\n");
  await expect(page.getByText("1 number is used twice, first 2 in row 1")).toBeVisible();
  await expect(page.getByRole("button", { name: "Take in 2 points" })).toBeDisabled();
  await page.getByLabel("Numbers that are there already").selectOption("add");
  await page.getByRole("button", { name: "Take in 2 points" }).click();
  await expect(page.getByRole("article", { name: "Intake day2" })).toContainText(
    "number 2 was there already, taken in as 1002",
  );
  await page.getByRole("article", { name: "Intake day2" }).getByRole("button", { name: "Withdraw" }).click();
  await page.getByRole("region", { name: "Withdrawn" }).getByRole("button", { name: "Restore" }).click();
  await settled(page);
  await expect(page.getByRole("article", { name: "Intake day2" })).toBeVisible();
});

for (const [what, content, sentence] of [
  ["an empty file", "", "is empty"],
  ["a binary file", Buffer.from([7, 0, 3, 4, 0, 0, 8]), "is not text"],
  [
    "text that is no points",
    "Dear all,\nthe crew is late today.\nPlease wait.\n",
    "The layout has no column for easting and northing. Say which column that is.",
  ],
] as [string, string | Buffer, string][]) {
  test(`${what} is refused in a sentence, and nothing is stored`, async ({ page }) => {
    await newJob(page, `Refused ${what}`);
    await choose(page, "field.txt", content);
    await expect(problem(page)).toContainText(sentence);
    await expect(page.getByRole("button", { name: /^Take in/ })).toBeDisabled();
    await page.getByRole("button", { name: "Leave it" }).click();
    await expect(page.getByText("Nothing has come from the field yet")).toBeVisible();
  });
}

test("the server refuses what the page would not send: too large, binary, unknown fields, other sites", async ({
  page,
  request,
}) => {
  await newJob(page, "Server");
  const id = Number(/jobs\/(\d+)/.exec(page.url())![1]);
  const send = (data: Buffer, options: object, headers: Record<string, string> = {}) => {
    const asked = intakeRequest(data, options);
    return request.post(`/api/jobs/${id}/intakes`, { ...asked, headers: { ...asked.headers, ...headers } });
  };
  const large = await send(Buffer.alloc(9_000_000, "1,2,3\n"), { file: "large.txt" });
  expect(large.status()).toBe(413);
  expect((await large.json()).message).toContain("this office takes up to 8.0 MB");
  expect((await send(Buffer.from([1, 0, 2]), { file: "b.txt" })).status()).toBe(400);
  expect((await (await send(Buffer.from("1,2,3"), { file: "../b.txt" })).json()).message).toContain("no folders");
  expect(
    (await (await send(Buffer.from("1,2,3"), { file: "b.txt", layout: { delimter: ";" } })).json()).message,
  ).toContain("Did you mean “delimiter”?");
  expect(
    (await (await send(Buffer.from("1,2,3"), { file: "b.txt" }, { origin: "http://elsewhere.example" })).json())
      .message,
  ).toContain("Another site asked");
  expect(
    (
      await (
        await request.post(`/api/jobs/${id}/changes`, {
          headers: { "x-author": "Petra" },
          data: {
            type: "named",
            part: "volumes",
            name: "v",
            old: null,
            new: { name: "v", surface: "s", level: "high" },
          },
        })
      ).json()
    ).message,
  ).toBe('volumes.level: "high" is not a number.');
  expect(
    (await (await request.post(`/api/jobs/${id}/changes`, { data: { type: "points", edits: [] } })).json()).message,
  ).toContain("who is at the keyboard");
  expect((await (await request.get("/api/jobs/987654")).json()).message).toContain("There is no job");
  const { intakes, ledger } = await (await request.get(`/api/jobs/${id}`)).json();
  expect([intakes, ledger]).toEqual([[], []]);
});

test("the whole look at a text: axes, clashes, an alias by one key, refused rows, the layout next time", async ({
  page,
}) => {
  await newJob(page, "Whole look", { order: "EN" });
  // Ten points are enough for judging where others lie.
  const more = [101, 102, 103, 104, 105, 106].map((n, k) => `${n},${3105 + 8 * k},${7105 + 9 * k},6,SPOT`);
  await takeIn(
    page,
    "first.txt",
    ["1,3100,7100,5,SPOT", "2,3110,7100,5,SPOT", "3,3100,7130,6,SPOT", "4,3150,7150,6,SPOT", ...more].join("\n"),
    10,
  );
  await goTo(page, "Intake");
  const rows = [
    "pt;north;east;lev;code;remark",
    "1;3101;7101;5,5;SPOT;",
    "2;3111;7101;5,5;SPOT;",
    "3;3101;7131;6,5;HEGDE1;",
    "4;3151;7151;6,5;HEGDE1;",
    "9;3120;7110;900;SPOT;far",
    "z;;7110;1;SPOT;",
  ];
  await choose(page, "rover.csv", rows.join("\n"));
  const bench = page.getByRole("region", { name: "Bench" });
  await expect(problem(page).first()).toContainText("Northing and easting look exchanged. 5 of 5 points");
  await page.keyboard.press("e");
  await expect(page.getByText("look exchanged")).toHaveCount(0);
  await expect(page.getByLabel("Meaning of column 2")).toHaveValue("easting");
  await expect(bench).toContainText("elevation 900.000 m is far from the rest, about 6.000 m");

  await expect(page.getByRole("button", { name: "Read as HEDGE" })).toBeVisible();
  await page.keyboard.press("a");
  await expect(page.getByRole("region", { name: "Codes" })).toContainText("HEDGE, by its alias");
  await expect(page.getByRole("region", { name: "Lines that will come" })).toContainText("HEDGE");

  await expect(problem(page)).toContainText("4 numbers are used twice");
  const answer = (number: string, how: string) => page.getByLabel(`Answer for ${number} in row`).selectOption(how);
  await answer("1", "keep-first");
  await answer("2", "replace");
  await answer("3", "add");
  await expect(problem(page)).toContainText("1 number is used twice, first 4 in row 5");
  await expect(page.getByRole("button", { name: "Take in 5 points" })).toBeDisabled();
  await answer("4", "add");

  const saved = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save the refused rows" }).click();
  const download = await saved;
  expect(download.suggestedFilename()).toBe("rover-refused.csv");
  expect((await (await download.createReadStream()).toArray()).join("")).toContain(
    '7,"the easting is missing","z;;7110;1;SPOT;"',
  );

  await page.getByRole("button", { name: "Keep this layout for next time" }).click();
  await page.getByLabel("Name of the layout").fill("rover, exchanged");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByText("Kept as “rover, exchanged”")).toBeVisible();
  await page.getByRole("button", { name: "Take in 5 points" }).click();
  await expect(page.getByRole("status").filter({ hasText: "taken in" })).toContainText(
    "from “rover.csv”; 1 row refused",
  );
  await settled(page);
  await goTo(page, "Points");
  expect(await (await cell(page, "1", "Easting")).textContent()).toBe("3100.000");
  expect(await (await cell(page, "2", "Easting")).textContent()).toBe("3111.000");
  await expect(page.getByRole("gridcell", { name: "1003", exact: true })).toBeVisible();
  await expect(page.getByRole("gridcell", { name: "1004", exact: true })).toBeVisible();

  await goTo(page, "Intake");
  await choose(page, "rover-2.csv", [rows[0], "21;3105;7105;5,5;SPOT;"].join("\n"));
  await expect(page.getByText("Read as “rover, exchanged”")).toBeVisible();
  await expect(page.getByLabel("Meaning of column 2")).toHaveValue("easting");
});

const K1 = { number: "K1", e: 3100, n: 7100, z: 95 },
  K2 = { number: "K2", e: 3160, n: 7180, z: 97 };
const targets = [
  { number: "11", e: 3120, n: 7110, z: 94.5, height: 1.65, faces: 1 },
  { number: "12", e: 3130, n: 7090, z: 94, height: 1.65, faces: 1 },
  { number: "13", e: 3090, n: 7080, z: 93, height: 1.65, faces: 1 },
];
const survey = () =>
  surveyXml(
    [K1, K2],
    [{ id: "S1", at: K1, height: 1.5, zero: 1.2, backsight: K2, targets, collimation: 20e-6, index: 10e-6 }],
  );

test("raw observations: the look shows the setups, and an instrument height corrected moves every shot", async ({
  page,
}) => {
  await newJob(page, "Observations");
  await choose(page, "day1.xml", survey());
  await expect(page.getByRole("table", { name: "Setups" })).toContainText("K2");
  await page.getByRole("button", { name: "S1", exact: true }).click();
  await expect(page.getByText("Backsight K2: direction off")).toBeVisible();
  await page.getByRole("button", { name: "Take in 5 points" }).click();
  await expect(page.getByRole("status")).toContainText("5 points taken in");
  await goTo(page, "Points");
  expect(await (await cell(page, "11", "Elevation")).textContent()).toBe("94.500");
  await editCell(page, "12", "Target height", "2.15");
  expect(await (await cell(page, "12", "Elevation")).textContent()).toBe("93.500");
  await goTo(page, "Intake");
  await page.getByRole("tab", { name: "Setups 1" }).click();
  await page.getByRole("button", { name: "S1", exact: true }).click();
  // A backsight typed and taken by Enter is one change: one undo takes it back, and the field shows it.
  const sights = page.getByLabel("Backsights");
  await sights.fill("11");
  await sights.press("Enter");
  await settled(page);
  await page.getByRole("tab", { name: /Ledger/ }).click();
  await expect(page.getByRole("row", { name: /Setup “.*” made/ })).toHaveCount(1);
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(sights).toHaveValue("K2");
  await page.getByRole("button", { name: "Close the tray" }).click();
  await page.getByLabel("Instrument height m").fill("1.60");
  // The misclosure is seen before it is kept.
  await expect(page.getByText(/With an instrument height of 1\.600 m:.*its shots rise by 0\.100 m/)).toBeVisible();
  await page.keyboard.press("Enter");
  await settled(page);
  await goTo(page, "Points");
  expect(await (await cell(page, "11", "Elevation")).textContent()).toBe("94.600");
  expect(await (await cell(page, "K1", "Elevation")).textContent()).toBe("95.000");
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  expect(await (await cell(page, "11", "Elevation")).textContent()).toBe("94.500");
});

test("a spreadsheet: the sheet is picked, the columns are matched, rows are told by their number in it", async ({
  page,
}) => {
  await newJob(page, "Sheets");
  const sheet = (rows: (string | number | null)[][]) => rows.map((r) => r.map((value) => ({ value })));
  const book = await writeXlsx([
    { data: sheet([["About this list"]]) as never, sheet: "Notes" },
    {
      data: sheet([
        ["Point", "Easting", "Northing", "Elevation", "Code"],
        ["1", 3100.25, 7100.5, 95.125, "SPOT"],
        ["2", 3101, "seven", 95, "SPOT"],
        ["3", 3102, 7102, null, "TREE"],
      ]) as never,
      sheet: "Levels",
    },
  ]).toBuffer();
  await choose(page, "list.xlsx", book as Buffer);
  await page.getByRole("combobox", { name: "Sheet" }).selectOption("Levels");
  await expect(page.getByText("Row 3: the northing is “seven”, which is not a number")).toBeVisible();
  await expect(page.getByRole("button", { name: "Take in 2 points" })).toBeEnabled();
  await page.getByLabel("Meaning of column 5").selectOption("description");
  await page.getByRole("button", { name: "Take in 2 points" }).click();
  await expect(page.getByRole("status")).toContainText("2 points taken in");
  await goTo(page, "Points");
  expect(await (await cell(page, "1", "Easting")).textContent()).toBe("3100.250");
});

test("fixed-width text: rulers are moved, added and taken away by keyboard and pointer", async ({ page }) => {
  await newJob(page, "Rulers");
  await choose(
    page,
    "list.txt",
    "1 7100.25 3100.50  95.1SPOT\n2 7101.25 3101.50  95.2TREE\n3 7102.25 3102.50      SPOT\n",
  );
  await page.getByLabel("Format").selectOption("fixed");
  const rulers = page.getByTestId("rulers");
  await expect(rulers.getByRole("slider")).toHaveCount(3);
  const box = (await rulers.boundingBox())!,
    width = await rulers.evaluate(
      (el) => el.getBoundingClientRect().width / Number(getComputedStyle(el).width && el.style.width.replace("ch", "")),
    );
  await page.mouse.click(box.x + 23 * width, box.y + 30);
  await expect(rulers.getByRole("slider")).toHaveCount(4);
  await page.getByLabel("Meaning of column 5").selectOption("description");
  await page.getByLabel("Meaning of column 4").selectOption("elevation");
  await expect(page.getByRole("button", { name: "Take in 3 points" })).toBeEnabled();
  await rulers.getByRole("slider", { name: "Ruler 1", exact: true }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(rulers.getByRole("slider", { name: "Ruler 1", exact: true })).toHaveAttribute("aria-valuenow", "2");
  await page.getByRole("button", { name: "Take in 3 points" }).click();
  await expect(page.getByRole("status")).toContainText("3 points taken in");
  await goTo(page, "Points");
  expect(await (await cell(page, "2", "Elevation")).textContent()).toBe("95.200");
});

test("an intake is looked into, read again in another way with its edits kept, and seen as received", async ({
  page,
}) => {
  await newJob(page, "Again", { order: "EN" });
  await takeIn(page, "day1.csv", "1,10,20,5,SPOT\n2,30,40,6,SPOT\nx,,1,2,SPOT\n", 2);
  await goTo(page, "Points");
  await editCell(page, "2", "Elevation", "66");
  await goTo(page, "Intake");
  const day1 = page.getByRole("article", { name: "Intake day1" });
  await day1.getByRole("tab", { name: "Rows" }).click();
  await expect(day1.getByRole("list", { name: "Rows of day1.csv" })).toContainText("the easting is missing");
  await day1.getByRole("tab", { name: "Bytes" }).click();
  await expect(day1.getByRole("list", { name: "Bytes of day1.csv" })).toContainText("31 2c 31 30");
  await day1.getByRole("button", { name: "Read again" }).click();
  await page.getByRole("button", { name: "Exchange northing and easting" }).click();
  await expect(page.getByLabel("Meaning of column 2")).toHaveValue("northing");
  await page
    .getByRole("button", { name: "Read again 3 points" })
    .or(page.getByRole("button", { name: "Read again 2 points" }))
    .click();
  await expect(page.getByRole("status")).toContainText("“day1.csv” was read again");
  await goTo(page, "Points");
  expect(await (await cell(page, "2", "Easting")).textContent()).toBe("40.000");
  expect(await (await cell(page, "2", "Elevation")).textContent()).toBe("66.000");
});

test("job settings: units typed anywhere, a template made of them, and a new job from it", async ({ page }) => {
  await newJob(page, "Settings");
  await page.keyboard.press("0");
  await expect(page.getByRole("heading", { name: "Job settings" })).toBeVisible();
  await page.getByRole("textbox", { name: "Repeat" }).fill("15 mm");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("textbox", { name: "Repeat" })).toHaveValue("0.015");
  await page.getByLabel("Angles").selectOption("bearing-dms");
  await page.getByLabel("Areas in").selectOption("ha");
  await page.getByLabel("Client reference").fill("Meadow trust 12");
  await page.getByLabel("Coordinate system").fill("EPSG:1");
  await page.keyboard.press("Enter");
  await expect(
    page.getByRole("status").filter({ hasText: "not a coordinate system that is known here" }).first(),
  ).toBeVisible();
  await expect(page.getByTestId("saved")).toHaveText("1 not saved");
  await page.getByRole("button", { name: "Leave it" }).click();
  await page.getByRole("button", { name: "Add a range" }).click();
  await settled(page);
  await page.getByRole("button", { name: "Keep as a template" }).click();
  await page.getByLabel("Name of the template").fill("Meadow");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByText("Kept as template “Meadow”")).toBeVisible();
  await page.goto("/");
  await makeJob(page, "From the template", { template: "Meadow" });
  await page.keyboard.press("0");
  await expect(page.getByRole("textbox", { name: "Repeat" })).toHaveValue("0.015");
  await expect(page.getByLabel("Angles")).toHaveValue("bearing-dms");
  await expect(page.getByLabel("First number of crew A")).toHaveValue("1");
});

test("a drawing comes in as reference: drawn under the job, its points read-only, its surface used", async ({
  page,
}) => {
  await newJob(page, "Drawing");
  const dxf = [
    0,
    "SECTION",
    2,
    "ENTITIES",
    0,
    "POINT",
    8,
    "OLD",
    10,
    3100,
    20,
    7100,
    30,
    5,
    0,
    "LINE",
    8,
    "EDGE",
    10,
    3100,
    20,
    7100,
    30,
    5,
    11,
    3140,
    21,
    7100,
    31,
    6,
    0,
    "3DFACE",
    8,
    "GROUND",
    10,
    3100,
    20,
    7100,
    30,
    1,
    11,
    3140,
    21,
    7100,
    31,
    1,
    12,
    3140,
    22,
    7140,
    32,
    1,
    13,
    3100,
    23,
    7140,
    33,
    3,
    0,
    "ENDSEC",
    0,
    "EOF",
  ].join("\n");
  await choose(page, "old.dxf", dxf);
  await expect(page.getByText("It brings 1 line and 1 surface as reference.")).toBeVisible();
  await page.getByRole("button", { name: "Take in 1 point" }).click();
  await page.getByRole("button", { name: "Use as a surface" }).click();
  await settled(page);
  await goTo(page, "Points");
  const elevation = await cell(page, "OLD-1", "Elevation");
  await elevation.click();
  await page.keyboard.press("F2");
  await elevation.getByRole("textbox").fill("9");
  await page.keyboard.press("Enter");
  await expect(
    page.getByRole("status").filter({ hasText: "came from a drawing and is read-only" }).first(),
  ).toBeVisible();
  await goTo(page, "Surface");
  await expect(page.getByText("1 600.0 m²").first()).toBeVisible();
});
