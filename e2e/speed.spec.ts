/**
 * What a user waits for, by the page's own marks, printed with its ratio to a plain frame of the page; `npm run bench`
 * runs this with larger jobs. A machine that is busy must not fail a test: what is asserted holds on any, each step comes
 * and the sheet is never blank.
 */
import fs from "node:fs";
import { expect, test } from "./test";
import { change, openAs } from "./helpers";
import { bigJob, editLevel, firstDrawn, medians, plainFrame, watch } from "./waits";

const SIZES = (process.env.WAIT_SIZES ?? "20000").split(",").map(Number),
  /** How often each is waited for: the middle is told where it is for the numbers. */
  ROUNDS = process.env.WAIT_SIZES ? { levels: 5, plans: 3 } : { levels: 2, plans: 1 };

for (const size of SIZES) {
  test(`one level changed at ${size} points: painted, followed and drawn, and the sheet never blank`, async ({
    page,
  }) => {
    test.setTimeout(180_000 + size);
    const id = await bigJob(page, size);
    await watch(page);
    await openAs(page, "Petra", `/jobs/${id}/points`);
    const first = await firstDrawn(page);
    const frame = await plainFrame(page),
      runs: Record<string, number>[] = [];
    for (let k = 0; k < ROUNDS.levels; k++) runs.push(await editLevel(page, 101.5 + k / 8));
    const waits = medians(runs);
    const said = Object.entries({
      ...waits,
      "first drawn": first.drawn,
      "longest frame until then": first.longest,
    }).map(([name, ms]) => `${name} ${Math.round(ms)} ms (${(ms / frame).toFixed(1)})`);
    console.log(
      `${size} points, medians of ${ROUNDS.levels} (plain frames of ${Math.round(frame)} ms): ${said.join(", ")}`,
    );
    expect(waits.painted).toBeGreaterThan(0);
    expect(waits.drawn).toBeGreaterThan(0);

    // Looked at apart, since reading the picture takes its time: the canvas of texts holds something in each frame.
    await page.evaluate(() => {
      const canvas = document.querySelector<HTMLCanvasElement>("[data-testid='sheet-text']")!,
        seen = window as unknown as { blank: number; looked: number };
      Object.assign(seen, { blank: 0, looked: 0 });
      const look = () => {
        const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, 12);
        if (!data.some((x) => x !== 0)) seen.blank++;
        seen.looked++;
        requestAnimationFrame(look);
      };
      requestAnimationFrame(look);
    });
    await editLevel(page, 99);
    const { blank, looked } = await page.evaluate(() => {
      const { blank, looked } = window as unknown as { blank: number; looked: number };
      return { blank, looked };
    });
    expect(looked).toBeGreaterThan(2);
    expect(blank).toBe(0);
  });
}

for (const size of SIZES.filter((s) => s === 20_000 || s === 200_000))
  test(`a plan of ${size} points and 400 contours through the queue, from the click to the file`, async ({ page }) => {
    test.setTimeout(180_000 + size);
    // So that there are somewhat more than 400 contours.
    const id = await bigJob(page, size, size > 20_000 ? 0.12 : 0.045),
      file = { file: "plan.pdf", format: "pdf", paper: "A1" };
    const kept = await change(page.request, id, {
      type: "named",
      part: "handover",
      name: file.file,
      old: null,
      new: file,
    });
    expect(kept.ok()).toBe(true);
    await watch(page);
    await openAs(page, "Petra", `/jobs/${id}/handover`);
    await firstDrawn(page);
    const frame = await plainFrame(page),
      make = page.getByRole("button", { name: "Make plan.pdf" }),
      runs: { made: number }[] = [];
    for (let k = 0; k < ROUNDS.plans; k++) {
      await expect(make).toBeEnabled();
      const download = page.waitForEvent("download", { timeout: 120_000 }),
        from = await page.evaluate(() => performance.now());
      await make.click();
      const saved = await (await download).path(),
        made = (await page.evaluate(() => performance.now())) - from;
      expect(fs.readFileSync(saved).subarray(0, 5).toString()).toBe("%PDF-");
      runs.push({ made });
    }
    const { made } = medians(runs);
    console.log(
      `plan of ${size} points, median of ${ROUNDS.plans}: made ${Math.round(made!)} ms (${Math.round(made! / frame)} plain frames)`,
    );
  });
