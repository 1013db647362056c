/** Points by the names that outlive another reading of their delivery. */
import fc from "fast-check";
import { refIndex, refOf } from "../../src/points/refs";
import { GONE_DELETED } from "../../src/points/table";

/** Two deliveries, one with a colon in its name, and points of the office; rows of both begin with 1. */
const intakes = [{ id: "day1" }, { id: "day:2" }];
const table = fc.array(fc.tuple(fc.integer({ min: -1, max: 1 }), fc.boolean()), { maxLength: 40 }).map((points) => {
  const rows = new Map<number, number>();
  const row = points.map(([intake]) => {
    rows.set(intake, (rows.get(intake) ?? 0) + 1);
    return rows.get(intake)!;
  });
  return {
    count: points.length,
    id: Int32Array.from(points, (_, i) => 100 + 3 * i),
    intake: Int32Array.from(points, ([intake]) => intake),
    row: Int32Array.from(row),
    deleted: Uint8Array.from(points, ([, gone]) => (gone ? GONE_DELETED : 0)),
  };
});

test("each living point is found by its name alone, one that is deleted by none", () =>
  fc.assert(
    fc.property(table, (t) => {
      const find = refIndex(t as never, intakes);
      for (let i = 0; i < t.count; i++) expect(find(refOf(t as never, intakes, i))).toBe(t.deleted[i] ? -1 : i);
    }),
  ));

test.each(["", "day1", "day1:", "day1:1x", "day2:1", "*made:1", "*made:100", "*number:1", "day1:99999999999"])(
  "“%s” is nobody's name",
  (ref) => {
    const t = { count: 1, id: [100], intake: [0], row: [1], deleted: [0] };
    expect(refIndex(t as never, intakes)(ref)).toBe(-1);
    expect(refIndex(t as never, intakes)("day1:1")).toBe(0);
  },
);
