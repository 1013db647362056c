import { execFileSync } from "node:child_process";
import fs from "node:fs";
import { expect, test } from "./test";
import { compareWith, goTo, jobWithSurface, LATTICE } from "./helpers";

test("a report is ordered, made by the queue, downloaded, says of which state it is, and is taken away", async ({
  page,
}) => {
  const id = await jobWithSurface(page, "Reported", LATTICE);
  await goTo(page, "Volumes");
  await page.getByRole("tab", { name: "Report" }).click();
  await expect(page.getByText("There is no comparison yet")).toBeVisible();
  await compareWith(page, 9);
  const seq = await compareWith(page, 12);
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
  await compareWith(page, 11);
  await expect(made.getByRole("row", { name: /reported-volumes.pdf/ })).toContainText("moved on since by 1 entry");
  await made.getByRole("button", { name: "Remove reported-volumes.pdf" }).click();
  await expect(link).toHaveCount(0);
  await made.getByRole("button", { name: "Remove reported-volumes.xlsx" }).click();
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
