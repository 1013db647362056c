/** A job goes to another office and comes in there, by hand. */
import { expect, test } from "./test";
import fs from "node:fs";
import http from "node:http";
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

test("a file that waits in line behind others' says so on the page, and comes in when one gives way", async ({
  page,
  baseURL,
}) => {
  await as(page, "Petra");
  await page.goto("/");
  // Six people send the first bytes of something large, and then no more.
  const slow = Array.from({ length: 6 }, (_, k) => {
    const headers = { "x-author": `Slow ${k}`, "content-type": "application/octet-stream", "content-length": 1e6 },
      sending = http.request(`${baseURL}/api/jobs`, { method: "POST", headers });
    sending.on("error", () => undefined);
    sending.write("PK");
    return sending;
  });
  try {
    await expect
      .poll(async () => {
        await page
          .getByLabel("A recipe with its files")
          .setInputFiles({ name: "late.zip", mimeType: "application/zip", buffer: Buffer.from("no archive") });
        const said = page.getByRole("status").filter({ hasText: "waits in line" }),
          refused = page.getByRole("alert").filter({ hasText: "archive" });
        await expect(said.or(refused)).toBeVisible();
        return said.isVisible();
      })
      .toBe(true);
    await expect(page.getByRole("alert").filter({ hasText: "archive" })).toBeVisible({ timeout: 30_000 });
  } finally {
    for (const s of slow) s.destroy();
  }
});
