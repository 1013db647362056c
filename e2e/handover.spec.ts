/** What leaves: files composed on the bench, a package whose manifest is true, what is new since the last time. */
import { execFileSync } from "node:child_process";
import fs from "node:fs";
import { expect, test, type Page } from "./test";
import { goTo, jobWithSurface, LATTICE, raise, settled } from "./helpers";

const lines = (page: Page) => page.getByLabel("First rows of the file");

/** Makes a file of the handover and gives where the browser saved it. */
async function make(page: Page, file: string): Promise<{ name: string; path: string }> {
  const download = page.waitForEvent("download", { timeout: 60_000 });
  await page.getByRole("button", { name: `Make ${file}`, exact: true }).click();
  const saved = await download;
  return { name: saved.suggestedFilename(), path: (await saved.path())! };
}

test("the usual files leave as one package, whose manifest says what is in it", async ({ page }, info) => {
  await jobWithSurface(page, "Handed over", LATTICE);
  await goTo(page, "Handover");
  await expect(page.getByText("Nothing leaves yet.")).toBeVisible();
  await page.getByRole("button", { name: "Add the usual files" }).click();
  const files = page.getByRole("table", { name: "Files of the handover" });
  await expect(files.getByRole("row")).toHaveCount(8);
  await expect(files.getByRole("row", { name: /handover.zip/ })).toContainText("never");
  await settled(page);
  const { name, path } = await make(page, "{job}-handover.zip");
  expect(name).toBe("handed-over-handover.zip");

  const folder = info.outputPath("package");
  execFileSync("unzip", ["-q", path, "-d", folder]);
  const manifest = JSON.parse(fs.readFileSync(`${folder}/manifest.json`, "utf8"));
  const points = manifest.points as number;
  expect(manifest).toMatchObject({ job: "Handed over", unit: "m" });
  expect(manifest.files.map((f: { file: string }) => f.file)).toEqual([
    "handed-over-points.csv",
    "handed-over-sheet.pdf",
    "handed-over-plan.dxf",
    "handed-over-survey.xml",
    "handed-over-lines.csv",
    "handed-over-codes.json",
  ]);
  for (const f of manifest.files) {
    expect(execFileSync("sha256sum", [`${folder}/${f.file}`], { encoding: "utf8" }).split(" ")[0]).toBe(f.sha256);
    expect(fs.statSync(`${folder}/${f.file}`).size).toBe(f.bytes);
  }
  expect(manifest.files[0].counts).toEqual({ rows: points });
  expect(manifest.files[1].counts).toMatchObject({ pages: 1 });
  expect(manifest.files[3].counts).toMatchObject({ points, surfaces: 1 });
  expect(fs.readFileSync(`${folder}/handed-over-points.csv`, "utf8").trim().split("\n")).toHaveLength(points + 1);
  execFileSync("xmllint", ["--noout", `${folder}/handed-over-survey.xml`]);

  // It is kept with the job, of the state that it is of; then the job moves on.
  const made = page.getByRole("table", { name: "Files made" }),
    seq = manifest.entry as number;
  await expect(made.getByRole("row", { name: /handed-over-handover.zip/ })).toContainText(`after entry ${seq}`);
  await expect(files.getByRole("row", { name: /plan.dxf/ })).toContainText("of the job as it is");
  await goTo(page, "Points");
  await raise(page, "3", "11.5");
  await settled(page);
  await goTo(page, "Handover");
  await expect(files.getByRole("row", { name: /plan.dxf/ })).toContainText("1 entry ago");
  await made.getByRole("button", { name: "moved on since by 1 entry: what changed" }).click();
  const states = page.getByRole("dialog");
  await expect(states).toContainText("Two states of the job");
  await expect(states.getByRole("table").first()).toBeVisible({ timeout: 30_000 });
  await states.getByRole("button", { name: "Close" }).click();
});

test("columns are put in order by dragging and by keys, rounded one by one; the look is the file", async ({ page }) => {
  await jobWithSurface(page, "Columns", LATTICE);
  await goTo(page, "Handover");
  await page.getByLabel("Add a file").selectOption("Points as text");
  await expect(lines(page)).toContainText("number,northing,easting,elevation,description");
  const handle = (column: string) => page.getByRole("button", { name: `Move ${column}` });
  // Easting is dragged above northing.
  await handle("description").scrollIntoViewIfNeeded();
  const [from, to] = [(await handle("easting").boundingBox())!, (await handle("northing").boundingBox())!];
  await page.mouse.move(from.x + 6, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(from.x + 6, from.y - 6, { steps: 4 });
  await page.mouse.move(to.x + 6, to.y + 4, { steps: 4 });
  await page.mouse.up();
  await expect(lines(page)).toContainText("number,easting,northing,elevation,description");
  // The description goes up by a key.
  await handle("description").focus();
  await page.keyboard.press("Space");
  await expect(handle("description")).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("ArrowUp");
  await expect(page.getByText("was moved over droppable area elevation")).toBeAttached();
  await page.keyboard.press("Space");
  await expect(lines(page)).toContainText("number,easting,northing,description,elevation");
  await page.getByLabel("Decimals of elevation").fill("1");
  await page.getByRole("button", { name: "Leave out northing" }).click();
  await page.getByLabel("Add a column").selectOption("name of the code");
  await page.getByLabel("Delimiter").selectOption(";");
  await expect(lines(page)).toContainText("number;easting;description;elevation;name");
  await expect(lines(page)).toContainText("1;3000.000;SPOT;10.0;Spot level");

  // Numbers as they are typed; a name by a pattern.
  await page.getByLabel("Points", { exact: true }).selectOption("numbers …");
  await page.getByLabel("Numbers and ranges").fill("2-4, 9");
  await page.keyboard.press("Enter");
  await expect(page.getByText("4 rows in all")).toBeVisible();
  await page.getByLabel(/^Name;/).fill("{job}-few-{entry}.txt");
  await page.keyboard.press("Enter");
  const files = page.getByRole("table", { name: "Files of the handover" });
  await expect(files).toContainText("{job}-few-{entry}.txt");
  await settled(page);
  const look = await lines(page).textContent(),
    { name, path } = await make(page, "{job}-few-{entry}.txt");
  expect(name).toMatch(/^columns-few-\d+\.txt$/);
  expect(fs.readFileSync(path, "utf8").trimEnd()).toBe(look);
});

test("only what is new or changed since it was last made; a file that cannot be made says why", async ({ page }) => {
  await jobWithSurface(page, "Changes", LATTICE);
  await goTo(page, "Handover");
  await page.getByLabel("Add a file").selectOption("Points as text");
  await page.getByLabel("Which of them").selectOption("changed");
  await settled(page);
  const name = "{job}-points.csv",
    first = await make(page, name);
  expect(fs.readFileSync(first.path, "utf8").trim().split("\n").length).toBeGreaterThan(20);
  await goTo(page, "Points");
  await raise(page, "3", "12.5");
  await settled(page);
  await goTo(page, "Handover");
  const second = await make(page, name),
    rows = fs.readFileSync(second.path, "utf8").trim().split("\n");
  expect(rows).toEqual(["number,northing,easting,elevation,description", "3,7000.000,3020.000,12.500,SPOT"]);
  // KML needs what the job does not have.
  await page.getByLabel("Add a file").selectOption("KML");
  await expect(page.getByText("The job has no coordinate system: set it")).toBeVisible();
  await settled(page);
  await page.getByRole("button", { name: "Make {job}-survey.kml" }).click();
  await expect(page.getByRole("table", { name: "Files made" })).toContainText(
    "is in latitude and longitude, and the job has no coordinate system",
    { timeout: 30_000 },
  );
});

test("layers hidden on the sheet: how they leave is asked once", async ({ page }) => {
  const id = await jobWithSurface(page, "Hidden", LATTICE);
  const change = (body: object) =>
    page.request.post(`/api/jobs/${id}/changes`, { data: body, headers: { "x-author": "Petra" } });
  const hidden = { hidden: { layers: ["GROUND-SPOT"] } };
  expect((await change({ type: "setting", field: "drawing", old: null, new: hidden })).ok()).toBe(true);
  await goTo(page, "Handover");
  const question = page.getByRole("group", { name: "Hidden on the sheet" });
  await expect(question).toContainText("How shall it leave?");
  await page.getByLabel("Add a file").selectOption("DXF drawing");
  const points = page.getByRole("row", { name: /^Points/ });
  await expect(points).not.toContainText(/\b0$/);
  await question.getByRole("radio", { name: "not there at all" }).check();
  await expect(question).not.toContainText("How shall it leave?");
  await expect(points).toContainText("0");
});

test("a plan sheet is composed on a picture of the page, moved by dragging, printed and searched", async ({
  page,
}, info) => {
  await jobWithSurface(page, "Printed", LATTICE);
  await goTo(page, "Handover");
  await page.getByLabel("Add a file").selectOption("Plan sheet");
  const picture = page.getByRole("img", { name: /^Picture of sheet 1/ }),
    choice = (name: string) => page.getByRole("combobox", { name });
  // 100 m on A3: 1 : 500 has no room in its height, 1 : 1000 would be too small.
  await expect(picture).toHaveAccessibleName(/at 1 : 500/);
  await choice("Paper").selectOption("A4");
  await choice("Scale").selectOption("250");
  await choice("Sheets").selectOption("several");
  await expect(page.getByText(/1 of \d+ sheets/)).toBeVisible();
  await page.getByRole("button", { name: "Next" }).click();
  await expect(page.getByRole("img", { name: /^Picture of sheet 2/ })).toBeVisible();
  await choice("Sheets").selectOption("one");
  await page.getByLabel("Title under the job’s name").fill("Levels of the yard");
  await page.keyboard.press("Enter");

  // Dragged 100 pixels to the right: the plan's middle goes west.
  await picture.scrollIntoViewIfNeeded();
  const box = (await picture.boundingBox())!;
  await page.mouse.move(box.x + 150, box.y + 150);
  await page.mouse.down();
  await page.mouse.move(box.x + 250, box.y + 150, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole("button", { name: "Back to the middle of the job" })).toBeVisible();
  await settled(page);
  const id = page.url().split("/")[4]!,
    recipe = await (await page.request.get(`/api/jobs/${id}/recipe`)).json(),
    [sheet] = recipe.handover as { at: [number, number]; scale: number; paper: string }[];
  expect(sheet).toMatchObject({ format: "pdf", paper: "A4", scale: 250, title: "Levels of the yard" });
  // The picture is 540 pixels of 297 mm wide.
  expect(sheet!.at[0]).toBeCloseTo(3050 - (100 * 297 * 0.25) / 540, 0);
  expect(sheet!.at[1]).toBeCloseTo(7050, 3);
  await picture.focus();
  await page.keyboard.press("ArrowUp");
  await settled(page);
  const now = await (await page.request.get(`/api/jobs/${id}/recipe`)).json();
  expect(now.handover[0].at[1]).toBeCloseTo(7050 - 10 * 0.25, 3);

  const { name, path } = await make(page, "{job}-sheet.pdf");
  expect(name).toBe("printed-sheet.pdf");
  const words = execFileSync("pdftotext", ["-layout", path, "-"], { encoding: "utf8" });
  for (const expected of ["Printed", "Levels of the yard", "1 : 250", "Spot level", "1 of 1"])
    expect(words).toContain(expected);
  expect(execFileSync("pdfinfo", [path], { encoding: "utf8" })).toContain("(A4)");
  await expect(page.getByRole("table", { name: "Files made" })).toContainText(/1 pages, \d+ texts/);
  await page.screenshot({ path: info.outputPath("plan.png") });
});
