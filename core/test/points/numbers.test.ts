/** Number lists: what is written reads back as the very same numbers, whatever they look like. */
import fc from "fast-check";
import { orderedNumbers, readNumberList, writeNumbers } from "../../src/points/numbers";

/** Numbers as they come: plain, with signs that mean something in a list, with blanks and quotes, of any length. */
const number = fc.oneof(
  fc.integer({ min: 0, max: 60 }).map(String),
  fc.constantFrom(
    "*",
    "12-15",
    "101-1",
    "101-2",
    "a,b",
    " lead",
    'in"side',
    '"',
    '""',
    "007",
    "0",
    "00",
    "A-7",
    "1 - 2",
    "1.5",
    "é",
    "点",
    "\t",
    "12345678901234567890",
    "12345678901234567891",
  ),
  fc.string({ minLength: 1, maxLength: 6 }),
);

test("any numbers written as a list read back in their order, and as a set name these and no others", () =>
  fc.assert(
    fc.property(fc.array(number, { minLength: 1, maxLength: 12 }), number, (numbers, other) => {
      const text = writeNumbers(numbers);
      expect(orderedNumbers(text)).toEqual(numbers);
      const list = readNumberList(text)!,
        set = new Set(numbers);
      for (const n of set) expect(list.has(n)).toBe(true);
      expect(list.has(other)).toBe(set.has(other));
      expect(list.size).toBe(set.size);
      // Given one by one they say the same.
      expect(orderedNumbers(numbers)).toEqual(numbers);
      expect(readNumberList(numbers)!.has(other)).toBe(set.has(other));
    }),
    { numRuns: 2000 },
  ));

test.each([
  [["12", "13", "14"], "12-14"],
  [["12", "13"], "12, 13"],
  [["12-15"], '"12-15"'],
  [["*"], '"*"'],
  [["101-1", "101-2"], '"101-1", "101-2"'],
  [['7"'], '"7"""'],
  [["008", "009", "010"], "008, 009, 010"],
] as const)("%j is written as %s", (numbers, text) => expect(writeNumbers(numbers)).toBe(text));

test("written by people: ranges either way, blanks, all; a range holds whole numbers without leading zeros only", () => {
  expect(orderedNumbers("3-1, 9,A7")).toEqual(["3", "2", "1", "9", "A7"]);
  const list = readNumberList(" 5 - 8 ,2-6, X")!;
  expect(["1", "2", "6", "8", "9", "07", "5.5", "X", "x"].map((n) => list.has(n))).toEqual([
    false,
    true,
    true,
    true,
    false,
    false,
    false,
    true,
    false,
  ]);
  expect([list.size, list.exact]).toEqual([8, undefined]);
  expect(["07", "7", "012"].map((n) => readNumberList("5-12")!.has(n))).toEqual([false, true, false]);
  expect(readNumberList("*")!.has("anything")).toBe(true);
  expect(readNumberList('1, "2-3"')!.exact).toEqual(["1", "2-3"]);
  for (const wrong of ["", "1,,2", '"open', '1 "2"', ",", '""']) expect(readNumberList(wrong)).toBeUndefined();
});

test("a range of any size is asked in no time, and never written out", () => {
  const list = readNumberList("1-99999999999999999999")!;
  expect([list.has("99999999999999999998"), list.has("100000000000000000000")]).toEqual([true, false]);
  expect(orderedNumbers("1-99999999999999999999")).toEqual([]);
});

test("ten thousand points are looked up among a hundred thousand ranges at once", () => {
  const ranges = Array.from({ length: 100_000 }, (_, k) => `${10 * k}-${10 * k + 3}`),
    list = readNumberList(ranges.join(", "))!;
  // One after another this took more than a minute.
  let held = 0;
  for (let k = 0; k < 10_000; k++) if (list.has(String(97 * k))) held++;
  expect(held).toBe(Array.from({ length: 10_000 }, (_, k) => (97 * k) % 10).filter((d) => d <= 3).length);
  expect(list.size).toBe(400_000);
});
