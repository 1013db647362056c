import { execFileSync } from "node:child_process";
import fs from "node:fs";
import { expect, test } from "@playwright/test";
import { goTo, newJob, openAs, settled, takeIn } from "./helpers";

/** A lattice of 10 m at level 10. */
const TEXT = Array.from({ length: 121 }, (_, k) => {
  const [row, col] = [Math.floor(k / 11), k % 11];
  return `${k + 1},${7000 + 10 * row},${3000 + 10 * col},10,SPOT`;
}).join("\n");

test("a report is ordered, made by the queue, downloaded, says of which state it is, and is taken away", async ({
  page,
}) => {
  await openAs(page, "Petra", "/");
  await newJob(page, "Reported");
  await takeIn(page, "day1.txt", TEXT, 121);
  await goTo(page, "Volumes");
  await page.getByRole("tab", { name: "Report" }).click();
  await expect(page.getByText("There is no comparison yet")).toBeVisible();
  await goTo(page, "Surface");
  await page.getByRole("button", { name: "Make it from the ground points" }).click();
  await settled(page);
  const id = page.url().split("/")[4]!;
  const put = async (name: string, level: number) => {
    const change = {
      type: "named",
      part: "volumes",
      name,
      old: null,
      new: { name, surface: "existing ground", level },
    };
    const made = await page.request.post(`/api/jobs/${id}/changes`, { data: change, headers: { "x-author": "Petra" } });
    return ((await made.json()) as { seq: number }).seq;
  };
  await put("to 9", 9);
  const seq = await put("to 12", 12);
  await settled(page);
  await goTo(page, "Volumes");
  const tab = page.getByRole("tab", { name: "Report" }),
    made = page.getByRole("table", { name: "Reports made" });
  await tab.click();
  await page.getByRole("checkbox", { name: "to 12" }).uncheck();
  await page.getByRole("button", { name: "Make it as PDF" }).click();
  await expect(made.getByRole("row", { name: /reported-volumes.pdf/ })).toBeVisible();
  const link = made.getByRole("link", { name: "reported-volumes.pdf" });
  await expect(link).toBeVisible({ timeout: 60_000 });
  await expect(made.getByRole("row", { name: /reported-volumes.pdf/ })).toContainText(`after entry ${seq}`);
  const download = page.waitForEvent("download");
  await link.click();
  const file = (await (await download).path())!;
  const words = execFileSync("pdftotext", ["-layout", file, "-"], { encoding: "utf8" }).replace(/\s+/g, " ");
  // A square of 100 m, 1 m above the level.
  for (const expected of ["Reported", "From “existing ground” to level 9", "10 000.0", "Petra", `after entry ${seq}`])
    expect(words).toContain(expected);
  expect(words).not.toContain("to 12");

  // As a spreadsheet, with all of them.
  await page.getByRole("checkbox", { name: "to 12" }).check();
  await page.getByRole("button", { name: "Make it as a spreadsheet" }).click();
  const sheet = made.getByRole("link", { name: "reported-volumes.xlsx" });
  await expect(sheet).toBeVisible({ timeout: 60_000 });
  const again = page.waitForEvent("download");
  await sheet.click();
  expect(
    fs
      .readFileSync((await (await again).path())!)
      .subarray(0, 2)
      .toString(),
  ).toBe("PK");

  // The job moves on: the report says so. Then it is taken away.
  await put("to 11", 11);
  await settled(page);
  await expect(made.getByRole("row", { name: /reported-volumes.pdf/ })).toContainText("moved on since by 1 entry");
  await made.getByRole("button", { name: "Take away reported-volumes.pdf" }).click();
  await expect(link).toHaveCount(0);
  await made.getByRole("button", { name: "Take away reported-volumes.xlsx" }).click();
  await expect(page.getByText("None yet.")).toBeVisible();

  // A comparison that is gone when its turn comes is said, and odd orders are refused.
  const order = (data: object) => page.request.post(`/api/jobs/${id}/made`, { data, headers: { "x-author": "Petra" } });
  const wanted = { what: "volumes", format: "pdf", file: "r.pdf", comparisons: ["nothing"] };
  expect((await order(wanted)).status()).toBe(201);
  await tab.click();
  await page.getByRole("tab", { name: /Comparisons/ }).click();
  await tab.click();
  await expect(made).toContainText("None of the comparisons that the report is to tell of is in the job", {
    timeout: 60_000,
  });
  for (const wrong of [
    { ...wanted, file: "../r.pdf" },
    { ...wanted, file: "r.xlsx" },
    { ...wanted, comparisons: [] },
    { ...wanted, format: "exe" },
    { ...wanted, more: 1 },
  ])
    expect((await order(wrong)).status()).toBe(400);
  expect((await page.request.get(`/api/jobs/${id}/made/999999`)).status()).toBe(404);
  expect((await page.request.get(`/api/jobs/${id}/made/x`)).status()).toBe(400);
});
