/**
 * What a user waits for, by the page's own marks, printed with its ratio to a plain frame of the page; `npm run bench`
 * runs this with larger jobs. A machine that is busy must not fail a test: what is asserted holds on any, each step comes
 * and the sheet is never blank.
 */
import { expect, test } from "@playwright/test";
import { openAs } from "./helpers";
import { bigJob, editLevel, firstDrawn, medians, plainFrame, watch } from "./waits";

const SIZES = (process.env.WAIT_SIZES ?? "20000,50000").split(",").map(Number);

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
    for (let k = 0; k < 5; k++) runs.push(await editLevel(page, 101.5 + k / 8));
    const waits = medians(runs);
    const said = Object.entries({
      ...waits,
      "first drawn": first.drawn,
      "longest frame until then": first.longest,
    }).map(([name, ms]) => `${name} ${Math.round(ms)} ms (${(ms / frame).toFixed(1)})`);
    console.log(`${size} points, medians of 5 (plain frames of ${Math.round(frame)} ms): ${said.join(", ")}`);
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
