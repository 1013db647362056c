import { expect, test } from "@playwright/test";
import { choose, goTo, newJob, openAs, problem, settled, takeIn } from "./helpers";

test.beforeEach(async ({ page }) => openAs(page, "Petra", "/"));

test("columns are corrected over the first rows, and exchanged axes are put right by one key", async ({ page }) => {
  await newJob(page, "Columns", { order: "EN" });
  await choose(page, "odd.txt", "Crew C;rover;;;\nNo;East;North;Level;Text\n7;2011,25;5040,5;61,25;SPOT\n8;2012,5;5041,75;;SPOT\nx;east;5040;61;SPOT\n");
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

test("numbers used twice stop the intake until it is said what happens to them; it can be withdrawn and come back", async ({ page }) => {
  await newJob(page, "Clashes");
  await takeIn(page, "day1.txt", "1,10,20,5,SPOT\n2,11,21,5,SPOT\n", 2);
  await goTo(page, "Intake");
  await choose(page, "day2.txt", "2,12,22,5,SPOT\n3,13,23,5,SPOT\n");
  await expect(page.getByText("1 number is used twice, first 2 in row 1")).toBeVisible();
  await expect(page.getByRole("button", { name: "Take in 2 points" })).toBeDisabled();
  await page.getByLabel("Numbers that are there already").selectOption("add");
  await page.getByRole("button", { name: "Take in 2 points" }).click();
  await expect(page.getByRole("article", { name: "Intake day2" })).toContainText("number 2 was there already, taken in as 1002");
  await page.getByRole("article", { name: "Intake day2" }).getByRole("button", { name: "Withdraw" }).click();
  await expect(page.getByText("Withdrawn: day2.txt")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect(page.getByRole("article", { name: "Intake day2" })).toBeVisible();
});

for (const [what, content, sentence] of [
  ["an empty file", "", "is empty"],
  ["a binary file", Buffer.from([80, 75, 3, 4, 0, 0, 8]), "is not text"],
  ["text that is no points", "Dear all,\nthe crew is late today.\nPlease wait.\n", "The layout has no column for easting and northing. Say which column that is."],
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

test("the server refuses what the page would not send: too large, binary, unknown fields, other sites", async ({ page, request }) => {
  await newJob(page, "Server");
  const id = Number(/jobs\/(\d+)/.exec(page.url())![1]);
  const send = (data: Buffer, options: object, headers: Record<string, string> = {}) => request.post(`/api/jobs/${id}/intakes`, {
    data, headers: { "x-author": "Petra", "x-intake": encodeURIComponent(JSON.stringify(options)), "content-type": "application/octet-stream", ...headers },
  });
  const large = await send(Buffer.alloc(9_000_000, "1,2,3\n"), { file: "large.txt" });
  expect(large.status()).toBe(413);
  expect((await large.json()).message).toContain("this office takes up to 8.0 MB");
  expect((await send(Buffer.from([1, 0, 2]), { file: "b.txt" })).status()).toBe(400);
  expect((await (await send(Buffer.from("1,2,3"), { file: "../b.txt" })).json()).message).toContain("no folders");
  expect((await (await send(Buffer.from("1,2,3"), { file: "b.txt", layout: { delimter: ";" } })).json()).message).toContain("Did you mean “delimiter”?");
  expect((await (await send(Buffer.from("1,2,3"), { file: "b.txt" }, { origin: "http://elsewhere.example" })).json()).message).toContain("Another site asked");
  expect((await (await request.post(`/api/jobs/${id}/changes`, { headers: { "x-author": "Petra" }, data: { type: "named", part: "volumes", name: "v", old: null, new: { name: "v", surface: "s", level: "high" } } })).json()).message).toBe('volumes.level: "high" is not a number.');
  expect((await (await request.post(`/api/jobs/${id}/changes`, { data: { type: "points", edits: [] } })).json()).message).toContain("who is at the keyboard");
  expect((await (await request.get("/api/jobs/987654")).json()).message).toContain("There is no job");
  const { intakes, ledger } = await (await request.get(`/api/jobs/${id}`)).json();
  expect([intakes, ledger]).toEqual([[], []]);
});
