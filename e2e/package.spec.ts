/** A job goes to another office and comes in there, by hand. */
import { expect, test } from "./test";
import fs from "node:fs";
import { as, goTo, newJob, settled, takeIn } from "./helpers";

test("a recipe saved with its files comes in as a job on the page of jobs; what is none is refused", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Goes elsewhere");
  await takeIn(page, "day1.csv", "1,10,20,5,SPOT\n2,30,40,6,SPOT\n", 2);
  await goTo(page, "Handover");
  const saving = page.waitForEvent("download");
  await page.getByRole("link", { name: "Save the recipe with its files" }).click();
  const file = await (await saving).path();

  await page.goto("/");
  const jobs = page.getByRole("link", { name: "Goes elsewhere", exact: true });
  // Counted once the list is there: the page comes before its jobs.
  await expect(jobs.first()).toBeVisible();
  const before = await jobs.count();
  await page
    .getByLabel("A recipe with its files")
    .setInputFiles({ name: "notes.zip", mimeType: "application/zip", buffer: fs.readFileSync(file).subarray(0, 500) });
  await expect(page.getByRole("alert").filter({ hasText: "cannot be opened as an archive" })).toBeVisible();
  await page
    .getByLabel("A recipe with its files")
    .setInputFiles({ name: "gate-yard.zip", mimeType: "application/zip", buffer: fs.readFileSync(file) });
  await page.waitForURL(/\/jobs\/\d+\/points/);
  await settled(page);
  await page.goto("/");
  await expect(jobs).toHaveCount(before + 1);
});
