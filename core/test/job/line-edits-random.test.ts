// @long: left out of npm run test:quick.
/**
 * Any row of office edits: written down as a recipe it runs to the same lines, on corrected data too, and undone one
 * by one nothing is left of it.
 */
import fc from "fast-check";
import {
  addParallel,
  applyChange,
  closeLine,
  completeLine,
  insertShot,
  inverse,
  joinLines,
  keepHandLine,
  openRecipe,
  recodeLine,
  removeLine,
  reverseLine,
  runChain,
  splitLine,
  steerShot,
  takeOutShot,
  trimLine,
  writeRecipe,
  type DrawnLine,
  type EditableChange,
  type JobState,
  type LineEdit,
} from "../../src";
import { refOf } from "../../src/points/refs";
import { givenLine, stateOf, type Row } from "../job";

const shot = fc.record({
  e: fc.integer({ min: 0, max: 90 }),
  n: fc.integer({ min: 0, max: 90 }),
  says: fc.constantFrom(
    "HEDGE1",
    "HEDGE1",
    "HEDGE2",
    "TOP1",
    "BED3",
    "SPOT",
    "HEDGE1 via",
    "TOP1 flow",
    "HEDGE2 end",
    "HEDGE1 new",
    "HEDGE1/TOP1",
    "SPOT; with / a note",
  ),
});
const step = fc.record({
  op: fc.constantFrom(
    "split",
    "join",
    "close",
    "open",
    "out",
    "insert",
    "reverse",
    "remove",
    "recode",
    "parallel",
    "complete",
    "box",
    "hand",
    "trim",
    "steer",
  ),
  line: fc.nat(9),
  other: fc.nat(9),
  k: fc.nat(9),
  point: fc.nat(19),
  words: fc.constantFrom("via", "flow", "", "end", "via flow"),
});

function drawnLines(s: JobState): DrawnLine[] {
  const d = runChain(s);
  return d.lines.map((l) => {
    const hand = s.lines.find((h) => h.name === l.hand);
    const own = (i: number) =>
      d.coded.parsed[d.coded.description[i]!]!.elements.find((e) => e.code === l.code && e.run === l.run)
        ?.cues.map((c) => (c.value === undefined ? c.action : `${c.action}=${c.value}`))
        .join(" ") ?? "";
    return {
      ...l,
      cues: l.companion ? [] : l.shots.map((i) => (hand ? (hand.cues?.[s.points.number[i]!] ?? "") : own(i))),
    };
  });
}

function editOf(
  s: JobState,
  x: { op: string; line: number; other: number; k: number; point: number; words: string },
): LineEdit {
  const lines = drawnLines(s),
    line = lines[x.line % Math.max(1, lines.length)],
    other = lines[x.other % Math.max(1, lines.length)],
    point = x.point % s.points.count;
  if (x.op === "hand" || !line || !other)
    return keepHandLine(
      s,
      givenLine(s, {
        code: "WALL",
        points: `${1 + (x.point % s.points.count)}, ${1 + (x.k % s.points.count)}, 1-3`,
        cues: { 2: "via" },
      }),
    );
  const k = x.k % Math.max(1, line.shots.length);
  switch (x.op) {
    case "split":
      return splitLine(s, line, k);
    case "join":
      return line === other ? { refused: "" } : joinLines(s, line, other);
    case "close":
      return closeLine(s, line, true);
    case "open":
      return closeLine(s, line, false);
    case "out":
      return takeOutShot(s, line, k);
    case "insert":
      return insertShot(s, line, point, k - 1);
    case "reverse":
      return reverseLine(s, line);
    case "remove":
      return removeLine(s, line);
    case "recode":
      return recodeLine(s, line, `PATH${x.k}`);
    case "parallel":
      return addParallel(s, line, x.k - 4.5, 0.25, x.words === "" ? undefined : "toe");
    case "complete":
      return completeLine(s, line);
    case "box":
      return completeLine(s, line, x.k - 4.5);
    case "trim":
      return trimLine(
        s,
        line,
        Math.min(k, line.shots.length - 2),
        { number: s.points.number[point]!, ref: refOf(s.points, s.intakes, point) },
        x.k % 2 ? "before" : "after",
      );
    default:
      return steerShot(s, line, k, x.words);
  }
}

/** Lines with their shots and pieces, by name: all that the drawing shows. */
const shown = (s: JobState) =>
  runChain(s).lines.map((l) => [
    l.code,
    l.run,
    l.closed,
    l.hand,
    l.shots.map((i) => s.points.number[i]),
    l.pieces.map((p) => [p.type, p.from, p.to]),
  ]);

test("edits hold as a recipe, and undone one by one leave the job as it was", () => {
  fc.assert(
    fc.property(
      fc.array(shot, { minLength: 3, maxLength: 14 }),
      fc.array(step, { minLength: 1, maxLength: 6 }),
      (shots, steps) => {
        const rows = shots.map((x, k): Row => ({ number: k + 1, e: x.e + k / 7, n: x.n, z: k, code: x.says }));
        const text = rows.map((r) => `${r.number},${r.e},${r.n},${r.z},"${r.code}"`).join("\n"),
          bytes = new TextEncoder().encode(text);
        const first = stateOf(rows),
          before = [first],
          made: EditableChange[] = [];
        for (const x of steps) {
          const now = before.at(-1)!,
            edit = editOf(now, x);
          if (!("change" in edit)) {
            expect(typeof edit.refused).toBe("string");
            continue;
          }
          before.push(applyChange(now, edit.change));
          made.push(edit.change);
        }
        const last = before.at(-1)!;
        expect(
          shown(
            openRecipe(
              writeRecipe(last, first.points, () => "day1.csv"),
              () => bytes,
            ).state,
          ),
        ).toEqual(shown(last));
        // Points are never lost, whatever became of lines.
        expect(last.points.deleted.some((d) => d === 1)).toBe(false);
        let state = last;
        for (let k = made.length - 1; k >= 0; k--) {
          state = applyChange(state, inverse(made[k]!) as EditableChange);
          expect(shown(state)).toEqual(shown(before[k]!));
        }
        expect(state.lines).toEqual([]);
      },
    ),
    { numRuns: 150 },
  );
});
