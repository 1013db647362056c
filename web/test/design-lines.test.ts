/** The lists of lines that something is laid across or held against. */
import { designLines, MOST_LISTED, unlisted } from "../lib/design-lines";
import type { LineShown } from "../lib/view";

const lines = (count: number) =>
  Array.from({ length: count }, (_, k) => ({ key: `k${k}`, code: "HEDGE", run: String(k) }) as LineShown);
const job = { intakes: [], delivered: [] };

test("all lines of a job are listed; of very many the first and what is selected, and it is said", () => {
  const few = { lines: lines(MOST_LISTED) },
    many = { lines: lines(MOST_LISTED + 700) },
    last = `k${MOST_LISTED + 699}`;
  expect([designLines(job, few, new Set()).size, unlisted(few)]).toEqual([MOST_LISTED, undefined]);
  expect(designLines(job, many, new Set()).size).toBe(MOST_LISTED);
  expect([...designLines(job, many, new Set([last])).values()].at(-1)).toEqual({
    code: "HEDGE",
    run: String(MOST_LISTED + 699),
  });
  expect(unlisted(many)).toBe("and 700 more: select the line on the sheet first");
  expect([...designLines(job, many, new Set(), true).keys()][0]).toBe("lines HEDGE, the nearest");
});
