/** Points by references that outlive another reading of their delivery, another number, and giving way. */
import fc from "fast-check";
import {
  findPoints,
  isMade,
  numberSaid,
  numbersOfRefs,
  refByNumber,
  refOf,
  refOfMade,
  refsOfNumbers,
  settledRef,
  whoIsCalled,
  type RefColumns,
} from "../../src/points/refs";
import { GONE_DELETED, GONE_GAVE_WAY } from "../../src/points/table";

interface Point {
  intake: number;
  number: string;
  /** The number that it came with, where it has another now. */
  came?: string;
  deleted?: number;
}
/** Rows of each delivery begin with 1; ids are no rows. */
function tableOf(points: readonly Point[]): RefColumns {
  const rows = new Map<number, number>(),
    id = (i: number) => 100 + 3 * i,
    cameAs = Object.fromEntries(points.flatMap((p, i) => (p.came === undefined ? [] : [[id(i), p.came]])));
  return {
    count: points.length,
    id: Int32Array.from(points, (_, i) => id(i)),
    intake: Int32Array.from(points, (p) => p.intake),
    row: Int32Array.from(points, ({ intake }) => {
      rows.set(intake, (rows.get(intake) ?? 0) + 1);
      return rows.get(intake)!;
    }),
    number: points.map((p) => p.number),
    deleted: Uint8Array.from(points, (p) => p.deleted ?? 0),
    ...(Object.keys(cameAs).length ? { cameAs } : {}),
  } as RefColumns;
}
/** Two deliveries, one with a colon in its name. */
const intakes = [{ id: "day1" }, { id: "day:2" }];
const word = fc.constantFrom("1", "12", "a:7", "*number:1", "x y", "*");
const points = fc.uniqueArray(
  fc.record({ intake: fc.integer({ min: -1, max: 1 }), number: word, isGone: fc.boolean() }),
  { maxLength: 12, selector: (p) => p.number },
);

test("each living point is found by its reference alone, whatever it is called later; one that is deleted by none", () =>
  fc.assert(
    fc.property(points, fc.boolean(), (list, renumbered) => {
      const t = tableOf(list.map((p) => ({ ...p, deleted: p.isGone ? GONE_DELETED : 0 }))),
        later = tableOf(
          list.map((p, i) => ({
            ...p,
            deleted: p.isGone ? GONE_DELETED : 0,
            ...(renumbered ? { number: `n${i}`, came: p.number } : {}),
          })),
        ),
        found = findPoints(later, intakes);
      list.forEach((p, i) => {
        const ref = refOf(t, intakes, i);
        expect(refOf(later, intakes, i)).toBe(ref);
        expect(found.rowOf(ref)).toBe(p.isGone ? -1 : i);
        expect(found.rowOf(ref, true)).toBe(i);
        expect(found.numberOf(ref)).toBe(later.number[i]);
        expect(numberSaid(ref)).toBe(p.number);
      });
    }),
  ));

test("after another reading a reference finds the same row of the file, under its new id and number", () => {
  const t = tableOf([
      { intake: 0, number: "12" },
      { intake: 1, number: "12b" },
    ]),
    ref = refOf(t, intakes, 1),
    again = { ...t, id: Int32Array.of(100, 500), number: ["12", "1012"] };
  expect(findPoints(again, intakes).rowOf(ref)).toBe(1);
  expect(findPoints(again, intakes).numberOf(ref)).toBe("1012");
});

test("rows stay those of their delivery when deliveries change their order", () => {
  const t = tableOf([
      { intake: 0, number: "1" },
      { intake: 1, number: "2" },
    ]),
    both = [0, 1].map((i) => refOf(t, intakes, i));
  expect(both.map((ref) => findPoints(t, intakes).rowOf(ref))).toEqual([0, 1]);
  // The very column of rows, another one of deliveries.
  const turned = { ...t, intake: Int32Array.of(1, 0) } as RefColumns;
  expect(both.map((ref) => findPoints(turned, intakes.toReversed()).rowOf(ref))).toEqual([0, 1]);
});

describe("where the very point does not stand", () => {
  const first = tableOf([{ intake: 0, number: "12" }]),
    ref = refOf(first, intakes, 0);
  test("the one to which it gave way does", () => {
    const t = tableOf([
      { intake: 0, number: "12", deleted: GONE_GAVE_WAY },
      { intake: 1, number: "12" },
    ]);
    expect(findPoints(t, intakes).rowOf(ref)).toBe(1);
    // What the office took out is out.
    t.deleted[0] = GONE_GAVE_WAY | GONE_DELETED;
    expect(findPoints(t, intakes).rowOf(ref)).toBe(-1);
  });
  test("with its delivery gone, the one that came with its number does, whatever that is called now", () => {
    const t = tableOf([
        { intake: 0, number: "5" },
        { intake: 0, number: "112", came: "12" },
        { intake: 0, number: "12", came: "900" },
      ]),
      found = findPoints(t, [{ id: "day1, corrected" }]);
    expect(found.rowOf(ref)).toBe(1);
    expect(found.numberOf(ref)).toBe("12");
    expect(found.rowOf("day1:1")).toBe(-1);
  });
  test("one that is known by number alone is whoever has it now", () => {
    const t = tableOf([
        { intake: 0, number: "112", came: "12" },
        { intake: 0, number: "12", came: "900" },
      ]),
      found = findPoints(t, intakes);
    expect([found.rowOf(refByNumber("12")), found.rowOf(refByNumber("900"))]).toEqual([1, -1]);
    expect(settledRef(t, intakes)(refByNumber("12"))).toBe(refOf(t, intakes, 1));
    expect(settledRef(t, intakes)(refByNumber("13"))).toBe(refByNumber("13"));
    expect(refsOfNumbers(t, intakes)("12")).toBe(refOf(t, intakes, 1));
    expect(refsOfNumbers(t, intakes)("13")).toBe(refByNumber("13"));
  });
  test("a recipe says a number that nobody has, not one that another took since", () => {
    const t = tableOf([
        { intake: 0, number: "12", deleted: GONE_DELETED },
        { intake: 0, number: "12", came: "40" },
        { intake: 0, number: "12~gone" },
        { intake: 0, number: "7", deleted: GONE_DELETED },
      ]),
      numberOf = numbersOfRefs(t, intakes);
    expect([0, 1, 3].map((i) => numberOf(refOf(t, intakes, i)))).toEqual(["12~gone~gone", "12", "7"]);
  });
});

test("a number that is typed means who is referred to already, else who has it now, else nobody", () => {
  const t = tableOf([
      { intake: 0, number: "12" },
      { intake: 0, number: "13", deleted: GONE_DELETED },
      { intake: 0, number: "14", deleted: GONE_DELETED },
      { intake: 1, number: "14" },
    ]),
    known = [`day1:1`, refOf(t, intakes, 1), refOf(t, intakes, 2)],
    who = whoIsCalled(t, intakes, known);
  expect(["12", "13", "14", "15"].map(who)).toEqual(["day1:1", known[1], refOf(t, intakes, 3), undefined]);
});

test("a point that the office made is told by its id", () => {
  const t = tableOf([{ intake: -1, number: "A" }]);
  expect(refOfMade(100, "A")).toBe(refOf(t, intakes, 0));
  expect([isMade(refOfMade(100, "A"), 100), isMade(refOfMade(100, "A"), 10), isMade("day1:100", 100)]).toEqual([
    true,
    false,
    false,
  ]);
});

test.each(["", "day1", "day1:", "day1:1x", "day2:1", "*made:1", "*made:100", "*number:1", "day1:99999999999"])(
  "“%s” is nobody's name",
  (ref) => {
    const found = findPoints(tableOf([{ intake: 0, number: "12" }]), intakes);
    expect([found.rowOf(ref), found.rowOf("day1:1")]).toEqual([-1, 0]);
  },
);

test("what a reference calls its point without the job", () =>
  expect(["day1:7\t12", "day:2:7", "*number:a:3", "*made:5\tK1", "*made:5", "?"].map(numberSaid)).toEqual([
    "12",
    "row 7 of day:2",
    "a:3",
    "K1",
    "a point made here",
    "?",
  ]));
