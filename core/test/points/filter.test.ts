import fc from "fast-check";
import { filterWords } from "../../src/points/filter";

const POINTS = [
  ["12", "SPOT", "SPOT"],
  ["112", "SPOT", "SPOT"],
  ["7", "TREE", "TREE 12 birch"],
  ["K1", "", ""],
  ["k2", "", ""],
  ["K3", "CTRL", "CTRL"],
  ["K10", "", ""],
  ["12-15", "HEDGE", "HEDGE2 end"],
  ["13", "HEDGE", "HEDGE1"],
  ["A,B", "", ""],
] as const;
const found = (text: string) => {
  const words = filterWords(text);
  return POINTS.filter(([n, c, d]) => words.some((w) => w.means(n, c, d))).map(([n]) => n);
};

describe("the filter of points", () => {
  test.each<[string, string[]]>([
    ["12", ["12", "112", "7", "12-15"]],
    ["k1", ["K1", "K10"]],
    ["K1-K3", ["K1", "k2", "K3"]],
    ["k1-3", ["K1", "k2", "K3"]],
    ["K3 - K1", ["K1", "k2", "K3"]],
    ["12-15", ["12", "12-15", "13"]],
    ["K1, K2", ["K1", "k2"]],
    ["K1, ctrl, 12", ["12", "K1", "K3"]],
    ["HEDGE*", ["12-15", "13"]],
    ["K?, 112", ["112", "K1", "k2", "K3"]],
    ['"A,B"', ["A,B"]],
    ['"12"', ["12"]],
    ['7, "A,B",', ["7", "A,B"]],
    ["birch", ["7"]],
    ["K1-L3", []],
    ["  ", []],
  ])("%s", (text, numbers) => expect(found(text)).toEqual(numbers));

  test("the very number is named, also in other letters", () => {
    const [word] = filterWords("k1");
    expect(["K1", "K10", "k1"].map((n) => word!.isNamed(n))).toEqual([true, false, true]);
    expect(filterWords("12-15")[0]!.isNamed("12-15")).toBe(true);
    expect(filterWords("12-15")[0]!.isNamed("12")).toBe(false);
  });

  test("any text is read, and any number in quotes finds itself and nothing else", () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), fc.string(), (number, other) => {
        expect(() => filterWords(number)).not.toThrow();
        const [word, ...more] = filterWords(`"${number.replaceAll('"', '""')}"`);
        expect(more).toEqual([]);
        expect(word!.means(number, "", "")).toBe(true);
        expect(word!.means(other, number, number)).toBe(other === number);
      }),
    );
  });
});
