// @long: left out of npm run test:quick.
/** What became of a job between two of its states, held against each state worked out anew. */
import fc from "fast-check";
import type { EditField } from "../../src/records/fields";
import { applyChange, compareStates, runChain, type EditableChange, type JobState, type Stop } from "../../src";
import { fieldValue, type EditValue } from "../../src/points/edits";
import { stateOf } from "../job";

const start = stateOf(
  Array.from({ length: 16 }, (_, k) => ({ number: k + 1, e: 10 * (k % 4), n: 10 * (k >> 2), z: 5, code: "SPOT" })),
  {
    surfaces: [{ name: "ground" }],
    volumes: [{ name: "pad", surface: "ground", level: 4 }],
    differences: [{ name: "held", points: "1-4", surface: "ground", tolerance: 0.01 }],
  },
);
const edit = (s: JobState, row: number, field: EditField, value: EditValue): EditableChange => ({
  type: "points",
  edits: [{ id: s.points.id[row]!, field, old: fieldValue(s.points, row, field), new: value }],
});
const deed = fc.oneof(
  fc.record({ row: fc.nat(15), field: fc.constant("elevation" as const), value: fc.constantFrom(3, 5, 8, null) }),
  fc.record({ row: fc.nat(15), field: fc.constant("note" as const), value: fc.constantFrom("", "seen") }),
  fc.record({ row: fc.nat(15), field: fc.constant("deleted" as const), value: fc.boolean() }),
  fc.record({ level: fc.constantFrom(3, 4) }),
);
type Deed = typeof deed extends fc.Arbitrary<infer T> ? T : never;

function changeOf(s: JobState, d: Deed): EditableChange {
  if (!("level" in d)) return edit(s, d.row, d.field, d.value);
  const [old] = s.volumes;
  return { type: "named", part: "volumes", name: "pad", old: old!, new: { ...old!, level: d.level } as never };
}

/** Net, cut, fill, area, points outside and mean difference, each by its name; what there is of them. */
function figures(s: JobState): Map<string, number> {
  const d = runChain(s),
    [v, a, c] = [d.volumes[0]!, d.surfaces[0]!, d.differences[0]!],
    out = new Map<string, number>();
  if (v.ok) for (const key of ["net", "cut", "fill"] as const) out.set(key, v.value[key]);
  if (a.ok) out.set("area", a.value.report.area);
  if (c.ok) {
    out.set("outside", [...c.value.outside].filter((x) => x === 1).length);
    if (!Number.isNaN(c.value.figures.mean)) out.set("mean", c.value.figures.mean);
  }
  return out;
}

test("each entry that moved a figure is found, with what it was before and after; together they make the whole", () =>
  fc.assert(
    fc.property(
      fc.array(deed, { minLength: 1, maxLength: 9 }),
      fc.nat(7),
      fc.integer({ min: 0, max: 20 }),
      (deeds, mark, runs) => {
        const states: JobState[] = [start],
          entries = deeds.map((d, k) => {
            const change = changeOf(states[k]!, d);
            states.push(applyChange(states[k]!, change));
            return { seq: k + 1, change };
          });
        const last = deeds.length,
          // As beside a delivery, states between are given too.
          seqs = [...new Set([0, ...(mark < last ? [mark, mark + 1] : []), last])],
          stops: Stop[] = seqs.map((seq) => ({ seq, state: states[seq]! })),
          was = states.map(figures);
        for (const most of [1000, runs]) {
          const seen = compareStates(stops, entries, most);
          const sums = new Map<string, number>();
          for (const { first, last, moved } of seen.steps) {
            if (most === 1000) expect(first).toBe(last);
            expect(moved.length).toBeGreaterThan(0);
            for (const m of moved) {
              expect([m.was, m.now]).toEqual([was[first - 1]!.get(m.figure) ?? null, was[last]!.get(m.figure) ?? null]);
              sums.set(m.figure, (sums.get(m.figure) ?? 0) + (m.now ?? 0) - (m.was ?? 0));
            }
          }
          // Entries are in their order and none is told twice.
          const told = seen.steps.flatMap(({ first, last }) => [first, last]);
          expect(told).toEqual(told.toSorted((a, b) => a - b));
          for (const f of ["net", "cut", "fill", "area", "outside", "mean"]) {
            const [a, b] = [was[0]!.get(f) ?? null, was[last]!.get(f) ?? null],
              figure = seen.figures.find((m) => m.figure === f);
            if (figure) expect([figure.was, figure.now]).toEqual([a, b]);
            else expect(Math.abs((a ?? 0) - (b ?? 0))).toBeLessThan(1e-9);
            expect(sums.get(f) ?? 0).toBeCloseTo((b ?? 0) - (a ?? 0), 9);
          }
        }
      },
    ),
    { numRuns: 60 },
  ));

test("points that came, went and changed are told by identity; lines and findings with them", () => {
  const changes: ((s: JobState) => EditableChange)[] = [
    (s) => edit(s, 0, "deleted", true),
    (s) => edit(s, 1, "description", "ODDWORD"),
    (s) => edit(s, 2, "elevation", 25),
    (s) => edit(s, 2, "elevation", 5),
    (s) => edit(s, 3, "elevation", 7.25),
  ];
  const states = [start];
  for (const change of changes) states.push(applyChange(states.at(-1)!, change(states.at(-1)!)));
  const [a, b] = [states[0]!, states.at(-1)!],
    entries = changes.map((change, k) => ({ seq: k + 1, change: change(states[k]!) })),
    { id } = start.points;
  const there = compareStates([{ seq: 0, state: a }, { seq: 5, state: b }], entries); // prettier-ignore
  expect(there.points).toMatchObject({ made: [], gone: [id[0]], changed: [id[1], id[3]] });
  expect(there.points.details).toEqual([
    { id: id[1], what: "Point 2, description", was: "SPOT", now: "ODDWORD" },
    { id: id[3], what: "Point 4, elevation", was: "5.000 m", now: "7.250 m" },
  ]);
  expect(there.come.join()).toContain("ODDWORD");
  // What went up and came down again moved nothing in the end, and each way is told.
  expect(there.steps.map((s) => s.first)).toEqual(expect.arrayContaining([1, 3, 4, 5]));
  const net = (k: number) => there.steps.find((s) => s.first === k)!.moved.find((m) => m.figure === "net")!;
  expect(net(3).was).toBe(net(4).now);
  const back = compareStates([{ seq: 0, state: b }, { seq: 0, state: a }], []); // prettier-ignore
  expect(back.points).toMatchObject({ made: [id[0]], gone: [] });
  expect(back.gone.join()).toContain("ODDWORD");
});

test("states that are the same differ in nothing", () => {
  const seen = compareStates([{ seq: 3, state: start }], []);
  expect(seen).toEqual({
    points: { made: [], gone: [], changed: [], cells: 0, details: [] },
    figures: [],
    steps: [],
    lines: [],
    gone: [],
    come: [],
    surfaces: [],
  });
});

test("points of a delivery that was read again are told by their rows in it, though their ids are new", () => {
  const t = start.points,
    id = t.id.map((x) => x + 1000),
    again: JobState = { ...start, points: { ...t, id, z: t.z.map((z, i) => (i === 3 ? z + 1 : z)) } };
  const { points } = compareStates([{ seq: 0, state: start }, { seq: 1, state: again }], []); // prettier-ignore
  expect(points).toEqual({
    made: [],
    gone: [],
    changed: [id[3]],
    cells: 1,
    details: [{ id: id[3], what: "Point 4, elevation", was: "5.000 m", now: "6.000 m" }],
  });
});

test("lines of a delivery that was read again are told by their names in it, those drawn alike not at all", () => {
  const row = (number: number, e: number, code: string) => ({ number, e, n: 10 * number, z: 5, code });
  const job = stateOf([row(1, 0, "HEDGE1"), row(2, 0, "HEDGE1"), row(3, 50, "HEDGE2"), row(4, 50, "HEDGE2")]),
    t = job.points,
    id = t.id.map((x) => x + 1000),
    again: JobState = { ...job, points: { ...t, id, n: t.n.map((n, i) => (i === 3 ? n + 7 : n)) } };
  const { lines } = compareStates([{ seq: 0, state: job }, { seq: 1, state: again }], []); // prettier-ignore
  expect(lines).toEqual([{ name: "HEDGE 2", was: 10, now: 17 }]);
});

test("what sums leave of nothing is no figure that moved", () => {
  // East for north: the same ground, summed in another order.
  const [uneven, turned] = [false, true].map((isTurned) =>
    stateOf(
      Array.from({ length: 400 }, (_, k) => {
        const [a, b] = [5000 + 5 * Math.floor(k / 20), 2000 + 5 * (k % 20)],
          z = 10 + 2 * Math.sin((k % 20) / 3) + Math.cos(Math.floor(k / 20) / 4);
        return { number: k + 1, e: isTurned ? b : a, n: isTurned ? a : b, z, code: "SPOT" };
      }),
      { surfaces: [{ name: "ground" }], volumes: [{ name: "pad", surface: "ground", level: 10 }] },
    ),
  ) as [JobState, JobState];
  const { figures } = compareStates([{ seq: 0, state: uneven }, { seq: 1, state: turned }], []); // prettier-ignore
  expect(figures).toEqual([]);
});
