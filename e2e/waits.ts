/** How long a person waits in the browser, by the page's own marks and the browser's event timing. Milliseconds. */
import { expect, type Page } from "./test";
import { intakeRequest, settled } from "./helpers";

/** A job of so many levels on rolling ground, with a surface and its contours, so far apart; its id. */
export async function bigJob(page: Page, size: number, interval = 1): Promise<number> {
  const side = Math.sqrt(size) * 4;
  const rows = Array.from({ length: size }, (_, k) => {
    const e = (((k * 7919) % 1000003) / 1000003) * side,
      n = (((k * 104729) % 1000033) / 1000033) * side;
    return `${k + 1},${(3000 + e).toFixed(2)},${(7000 + n).toFixed(2)},${(100 + 8 * Math.sin(e / 90)).toFixed(2)},SPOT`;
  });
  const { id } = (await (
    await page.request.post("/api/jobs", { data: { name: `Size ${size}`, unit: "m", order: "EN", book: "general" } })
  ).json()) as { id: number };
  const taken = await page.request.post(`/api/jobs/${id}/intakes`, intakeRequest(rows.join("\n"), { file: "big.csv" }));
  expect(taken.status()).toBe(201);
  for (const [part, body] of [
    ["surfaces", { name: "ground" }],
    ["contours", { surface: "ground", interval }],
    ["volumes", { name: "ground", surface: "ground", level: 101 }],
  ] as const)
    await page.request.post(`/api/jobs/${id}/changes`, {
      headers: { "x-author": "Petra" },
      data: { type: "named", part, name: "ground", old: null, new: body },
    });
  return id;
}

/** What `watch` keeps: the longest frame, the longest until a click was taken up, and until its answer was painted. */
interface Seen {
  longest: number;
  taken: number;
  answered: number;
}

/** Keeps what is waited for longest, from the page's start on. */
export async function watch(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const seen = { longest: 0, taken: 0, answered: 0 };
    (window as unknown as { waits: typeof seen }).waits = seen;
    new PerformanceObserver((list) => {
      for (const e of list.getEntries() as PerformanceEventTiming[]) {
        if (!["pointerdown", "pointerup", "click"].includes(e.name)) continue;
        seen.taken = Math.max(seen.taken, e.processingStart - e.startTime);
        seen.answered = Math.max(seen.answered, e.duration);
      }
    }).observe({ type: "event", durationThreshold: 16 } as PerformanceObserverInit);
    let last = performance.now();
    const look = () => {
      const now = performance.now();
      // A page that is behind another window draws no frames.
      if (document.visibilityState === "visible") seen.longest = Math.max(seen.longest, now - last);
      last = now;
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
}

const seenIn = (page: Page) => page.evaluate(() => (window as unknown as { waits: Seen }).waits);

export const forget = (page: Page) =>
  page.evaluate(() => {
    performance.clearMarks();
    Object.assign((window as unknown as { waits: object }).waits, { longest: 0, taken: 0, answered: 0 });
  });

/** The page's marks since they were cleared, the first of each name. */
const marksIn = (page: Page) =>
  page.evaluate(() =>
    Object.fromEntries(
      performance
        .getEntriesByType("mark")
        .toReversed()
        .map((m) => [m.name.replace("bramble: ", ""), m.startTime]),
    ),
  );

/** From the call of the page until the sheet is drawn, and the longest frame meanwhile. */
export async function firstDrawn(page: Page): Promise<{ drawn: number; longest: number }> {
  await expect(page.getByTestId("saved")).toHaveText("Saved", { timeout: 180_000 });
  await expect.poll(async () => Object.keys(await marksIn(page)), { timeout: 60_000 }).toContain("sheet drawn");
  return { drawn: (await marksIn(page))["sheet drawn"]!, longest: (await seenIn(page)).longest };
}

/** A level typed over a cell and entered; a click at the moment that the worker has followed. */
export async function editLevel(page: Page, level: number): Promise<Record<string, number>> {
  await page.getByRole("grid", { name: "Points" }).getByRole("row").nth(5).getByRole("gridcell").nth(3).click();
  await settled(page);
  for (const key of level.toFixed(3)) await page.keyboard.type(key, { delay: 20 });
  await forget(page);
  await page.keyboard.press("Enter");
  await expect.poll(async () => Object.keys(await marksIn(page)), { intervals: [20] }).toContain("followed");
  await page.getByRole("button", { name: "Look of the sheet" }).click();
  await settled(page);
  await expect.poll(async () => Object.keys(await marksIn(page))).toContain("sheet drawn");
  // The browser tells of an event some time after it was answered.
  await expect.poll(async () => (await seenIn(page)).answered).toBeGreaterThan(0);
  const at = await marksIn(page),
    { longest, taken, answered } = await seenIn(page);
  await page.getByRole("button", { name: "Look of the sheet" }).click();
  const after = (name: string) => at[name]! - at.edited!;
  return {
    painted: after("table painted"),
    followed: after("followed"),
    drawn: after("sheet drawn"),
    "click taken": taken,
    "click answered": answered,
    "longest frame": longest,
  };
}

/** A frame in which one word of the page becomes another and nothing else happens: the yardstick of this machine. */
export async function plainFrame(page: Page): Promise<number> {
  return page.evaluate(async () => {
    const word = document.body.appendChild(document.createElement("span"));
    Object.assign(word.style, { position: "fixed", bottom: "0", right: "0" });
    const took: number[] = [];
    for (let k = 0; k < 15; k++) {
      const begun = performance.now();
      word.textContent = String(k);
      await new Promise((painted) => requestAnimationFrame(() => setTimeout(painted)));
      took.push(performance.now() - begun);
    }
    word.remove();
    return took.sort((a, b) => a - b)[7]!;
  });
}

/** The median of each figure. */
export function medians(runs: readonly Record<string, number>[]): Record<string, number> {
  const names = Object.keys(runs[0]!);
  return Object.fromEntries(
    names.map((name) => [name, runs.map((r) => r[name]!).sort((a, b) => a - b)[runs.length >> 1]!]),
  );
}
