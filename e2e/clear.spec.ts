/** What a person sees and reaches: boxes that hold what is in them, ways by key, words where something cannot be done. */
import { expect, test } from "./test";
import {
  as,
  choose,
  cell,
  colorsAround,
  goTo,
  jobWith,
  jobWithSurface,
  LATTICE,
  newJob,
  openAs,
  pixelOnSheet,
  settled,
  takeIn,
} from "./helpers";

test("the page of jobs: two keys to a new job, and a button that cannot be pressed says why", async ({ page }) => {
  await openAs(page, "Petra", "/");
  const make = page.getByRole("button", { name: "Make the job" });
  await expect(make).toBeDisabled();
  await expect(make).toHaveAttribute("title", "Give the job a name first.");
  await expect(make).toHaveAttribute("aria-description", "Give the job a name first.");
  await page.locator("body").press("Tab");
  await expect(page.getByRole("link", { name: "To the new job" })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Name", { exact: true })).toBeFocused();
  await page.keyboard.type("By keys");
  await expect(make).toBeEnabled();
  await expect(make).not.toHaveAttribute("title");
});

test("shortcuts fit their box; the Look leaves half of the sheet; a look at a file gives the keyboard back", async ({
  page,
}) => {
  await as(page, "Petra");
  await newJob(page, "Gorsefold, the yard behind the weighbridge");
  // The name stands whole, in two lines.
  const name = page.getByTitle("Gorsefold, the yard behind the weighbridge").locator("span");
  expect(await name.evaluate((el) => el.scrollHeight <= el.clientHeight + 1)).toBe(true);
  await page.keyboard.press("?");
  const box = page.getByRole("dialog", { name: "Shortcuts" }),
    list = box.locator("dl");
  expect(await list.evaluate((el) => el.scrollHeight <= el.clientHeight && el.scrollWidth <= el.clientWidth)).toBe(
    true,
  );
  const frame = (await box.boundingBox())!;
  expect(frame.y + frame.height).toBeLessThan(800);
  await page.keyboard.press("Escape");
  await choose(page, "day1.txt", LATTICE.join("\n"));
  await page.getByRole("button", { name: "Leave it" }).click();
  await expect(page.getByRole("button", { name: "Choose files" })).toBeFocused();
  await takeIn(page, "day1.txt", LATTICE.join("\n"), LATTICE.length);
  await expect(page.getByRole("button", { name: "Choose files" })).toBeFocused();
  const look = page.getByRole("button", { name: "Look of the sheet" });
  await look.click();
  const panel = page.getByRole("complementary", { name: "Look of the sheet" });
  const [sheet, over] = [(await page.getByTestId("sheet").boundingBox())!, (await panel.boundingBox())!];
  expect(over.width).toBeLessThan(sheet.width / 2);
  await panel.getByRole("checkbox", { name: "Numbers, levels" }).press("Escape");
  await expect(panel).toBeHidden();
  await expect(look).toBeFocused();
  // At a small window what one chooses from keeps its width, and the row scrolls.
  await page.setViewportSize({ width: 640, height: 400 });
  for (const select of ["Only these", "Colours", "Seen as"])
    expect((await page.getByLabel(select).boundingBox())!.width).toBeGreaterThan(80);
  await page.setViewportSize({ width: 1280, height: 800 });
});

test("points that lie astray are shown beside the job; a reload leaves nobody behind", async ({ page }) => {
  await as(page, "Petra");
  await newJob(page, "Astray");
  const astray = LATTICE.slice(0, 3).map((row, k) => {
    const [, n, e, z, code] = row.split(",");
    return [500 + k, e, n, z, code].join(",");
  });
  await takeIn(page, "day1.txt", [...LATTICE, ...astray].join("\n"), LATTICE.length + 3);
  await page.keyboard.press("f");
  await page.getByRole("option", { name: /exchanged for points/ }).click();
  for (const [e, n] of [
    [7000, 3010],
    [3050, 7050],
  ] as const) {
    await expect
      .poll(async () => {
        const box = (await page.getByTestId("sheet").boundingBox())!,
          [x, y] = await pixelOnSheet(page, e, n);
        return x > box.x && x < box.x + box.width && y > box.y && y < box.y + box.height;
      })
      .toBe(true);
  }
  await page.reload();
  await settled(page);
  await expect(page.getByText(/^Also here/)).toHaveCount(0);
  await page.reload();
  await settled(page);
  await expect(page.getByText(/^Also here/)).toHaveCount(0);
});

test("what is shown alone stands out from the surface's edge, spot levels and words", async ({ page }) => {
  const id = await jobWithSurface(page, "Alone", LATTICE),
    put = (change: object) =>
      page.request.post(`/api/jobs/${id}/changes`, { data: change, headers: { "x-author": "Petra" } });
  const added = { name: "w", words: "WWWWWWWW", to: { at: [3055, 7055] }, height: 8 };
  expect((await put({ type: "named", part: "added", name: "w", old: null, new: added })).ok()).toBe(true);
  await goTo(page, "Points");
  await (await cell(page, "5", "Number")).click();
  const darkest = async (e: number, n: number, reach: number) => {
    const [x, y] = await pixelOnSheet(page, e, n);
    return Math.min(...colorsAround(await page.screenshot(), x, y, reach).map(([r, g, b]) => r + g + b));
  };
  await settled(page);
  await expect.poll(() => darkest(3055, 7055, 12)).toBeLessThan(250);
  const edgeBefore = await darkest(3055, 7000, 3);
  await page.getByLabel("Only these").selectOption("selection ");
  await expect.poll(() => darkest(3055, 7055, 12)).toBeGreaterThan(500);
  expect(await darkest(3055, 7000, 3)).toBeGreaterThan(edgeBefore + 100);
});

test("a window that asks for the stream anew has left its former place; others stay", async ({ request }) => {
  const id = await jobWith(request, LATTICE.slice(0, 3).join("\n")),
    open = async (who: string, name: string) => {
      const query = new URLSearchParams({ after: "1", who, window: name }),
        answer = await fetch(`${process.env.BASE_URL}/api/jobs/${id}/stream?${query}`),
        reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
      let told = "";
      return {
        /** Reads on until it is told how many windows somebody has, among all or by themselves. */
        async here(event: "all-here" | "here", windows: Record<string, number>): Promise<void> {
          while (!told.includes(`event: ${event}\ndata: ${JSON.stringify(windows)}\n`)) {
            const { value, done } = await reader.read();
            if (done) throw new Error(`the stream ended, told ${told}`);
            told += value;
          }
          told = "";
        },
        async ended(): Promise<boolean> {
          for (;;) if ((await reader.read()).done) return true;
        },
        leave: () => reader.cancel(),
      };
    };
  const former = await open("Ada", "one");
  await former.here("all-here", { Ada: 1 });
  const ben = await open("Ben", "two");
  await ben.here("all-here", { Ada: 1, Ben: 1 });
  const again = await open("Ada", "one");
  await again.here("all-here", { Ben: 1, Ada: 1 });
  expect(await former.ended()).toBe(true);
  const second = await open("Ada", "three");
  await second.here("all-here", { Ben: 1, Ada: 2 });
  await ben.here("here", { Ada: 2 });
  for (const s of [ben, again, second]) await s.leave();
});
