/**
 * What a user waits for, by the page's own marks. The figures are printed, and compared by eye and by `npm run bench`; a
 * machine that is busy must not fail a test. What is asserted holds on any: each step comes, and the sheet is never blank.
 */
import { expect, test, type Page } from "@playwright/test";
import { intakeRequest, openAs, settled } from "./helpers";

async function bigJob(page: Page, size: number): Promise<number> {
  const side = Math.sqrt(size) * 4;
  const rows = Array.from({ length: size }, (_, k) => {
    const e = (((k * 7919) % 1000003) / 1000003) * side,
      n = (((k * 104729) % 1000033) / 1000033) * side;
    return `${k + 1},${(3000 + e).toFixed(3)},${(7000 + n).toFixed(3)},${(100 + 8 * Math.sin(e / 90)).toFixed(3)},SPOT`;
  });
  const { id } = (await (
    await page.request.post("/api/jobs", { data: { name: `Size ${size}`, unit: "m", order: "EN", book: "general" } })
  ).json()) as { id: number };
  const taken = await page.request.post(`/api/jobs/${id}/intakes`, intakeRequest(rows.join("\n"), { file: "big.csv" }));
  expect(taken.status()).toBe(201);
  for (const [part, body] of [
    ["surfaces", { name: "ground" }],
    ["contours", { surface: "ground", interval: 1 }],
  ] as const)
    await page.request.post(`/api/jobs/${id}/changes`, {
      headers: { "x-author": "Petra" },
      data: { type: "named", part, name: "ground", old: null, new: body },
    });
  return id;
}

for (const size of [20_000, 50_000]) {
  test(`one level changed at ${size} points: painted, followed and drawn, and the sheet never blank`, async ({
    page,
  }) => {
    test.setTimeout(180_000);
    const id = await bigJob(page, size);
    await openAs(page, "Petra", `/jobs/${id}/points`);
    await settled(page);
    const cell = page.getByRole("grid", { name: "Points" }).getByRole("row").nth(5).getByRole("gridcell").nth(3);
    await cell.click();
    await settled(page);
    // Every frame is looked at: the canvas of texts and contours holds something in each.
    await page.evaluate(() => {
      const canvas = document.querySelector<HTMLCanvasElement>("[data-testid='sheet-text']")!,
        seen = window as unknown as { blank: number; longest: number };
      seen.blank = 0;
      seen.longest = 0;
      let last = performance.now();
      const look = () => {
        const now = performance.now();
        seen.longest = Math.max(seen.longest, now - last);
        last = now;
        const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, 12);
        if (!data.some((x) => x !== 0)) seen.blank++;
        requestAnimationFrame(look);
      };
      requestAnimationFrame(look);
    });
    await page.keyboard.type("101.5");
    await page.evaluate(() => performance.clearMarks());
    await page.keyboard.press("Enter");
    const marks = () =>
      page.evaluate(() =>
        // The first of each name; a later frame of the sheet only repeats it.
        Object.fromEntries(
          performance
            .getEntriesByType("mark")
            .toReversed()
            .map((m) => [m.name.replace("bramble: ", ""), Math.round(m.startTime)]),
        ),
      );
    await expect.poll(async () => Object.keys(await marks())).toContain("followed");
    const clicked = Date.now();
    await page.getByRole("button", { name: "Look of the sheet" }).click();
    const answered = Date.now() - clicked;
    await settled(page);
    await expect.poll(async () => Object.keys(await marks())).toContain("sheet drawn");
    const at = await marks(),
      { blank, longest } = await page.evaluate(() => {
        const { blank, longest } = window as unknown as { blank: number; longest: number };
        return { blank, longest };
      });
    const after = (name: string) => `${at[name]! - at.edited!} ms`;
    console.log(
      `${size} points: in the table ${after("table painted")}, followed ${after("followed")}, drawn ${after("sheet drawn")}; ` +
        `a click answered in ${answered} ms, the longest frame ${Math.round(longest)} ms`,
    );
    expect(at["table painted"]).toBeGreaterThan(at.edited!);
    expect(at["sheet drawn"]).toBeGreaterThan(at.edited!);
    expect(blank).toBe(0);
  });
}
