/** The display list: what is drawn, in which order, hidden or not. */
import fc from "fast-check";
import { displayList, type DisplaySource } from "../../src/drawing/display";
import { derive } from "../job";

const { state, derived } = derive([
  { number: 1, e: 0, n: 0, z: 1, code: "HEDGE1" },
  { number: 2, e: 10, n: 0, z: 1, code: "HEDGE1" },
  { number: 3, e: 0, n: 10, z: 1, code: "BED1" },
  { number: 4, e: 10, n: 10, z: 1, code: "BED1" },
  { number: 5, e: 5, n: 15, z: 1, code: "BED1 loop" },
  { number: 6, e: 3, n: 3, z: 1, code: "TREE 4 7" },
  { number: 7, e: 30, n: 3, z: 1, code: "SPOT" },
]);
const source = (drawing: DisplaySource["drawing"] = {}): DisplaySource => ({
  lines: derived.lines.map((l) => ({
    kind: l.entry.kind,
    group: l.entry.group ?? "",
    layer: l.code,
    style: l.entry.style,
  })),
  symbols: derived.symbols,
  drawing,
  unitsPerMm: 0.5,
});
const told = (s: DisplaySource, ...among: [Iterable<number>?, Iterable<number>?]) =>
  displayList(s, ...among).map((p) =>
    p.is === "line"
      ? `${p.look.layer}${p.hidden ? " hidden" : ""}`
      : p.is === "symbol"
        ? `${state.points.number[p.point]}${p.hidden ? " hidden" : ""}`
        : p.text.lines.join(),
  );

test("areas lie below lines, symbols above both, unless the job says otherwise", () => {
  const usual = told(source());
  expect(usual.slice(0, 2)).toEqual(["BED", "HEDGE"]);
  expect(usual.slice(2).sort()).toEqual(["1", "2", "3", "4", "5", "6", "7"]);
  expect(told(source({ kindOrder: ["point", "area", "line"] })).slice(-2)).toEqual(["BED", "HEDGE"]);
  expect(told(source({ layerOrder: ["TREE", "SPOT"] })).slice(-2)).toEqual(["6", "7"]);
  expect(told(source({ layerOrder: ["SPOT", "TREE"] })).slice(-2)).toEqual(["7", "6"]);
});

test("hidden things are in the list and say so; some of it is asked for by place and row", () => {
  expect(told(source({ hidden: { layers: ["HEDGE"] } }))).toContain("HEDGE hidden");
  expect(told(source({ hidden: { kinds: ["area"] } }))).toContain("BED hidden");
  const hedge = derived.lines.findIndex((l) => l.code === "HEDGE"),
    tree = derived.symbols.point.indexOf(5);
  expect(told(source(), [hedge], [tree])).toEqual(["HEDGE", "6"]);
  // A crown of 4 m is 8 mm at 1 : 500, turned as its shot says.
  const [crown] = displayList(source(), [], [tree]);
  expect(crown).toMatchObject({ is: "symbol", hidden: false, size: expect.any(Number) });
});

test("every line and symbol is there once, whatever the order, and texts come last", () => {
  const layers = fc.shuffledSubarray(["HEDGE", "BED", "TREE", "SPOT"]);
  const layout = { texts: [{ lines: ["a note"] }] } as unknown as DisplaySource["layout"];
  fc.assert(
    fc.property(layers, fc.shuffledSubarray(["point", "line", "area"] as const), (layerOrder, kindOrder) => {
      const list = told({ ...source({ layerOrder, kindOrder: [...kindOrder] }), layout });
      expect(list.at(-1)).toBe("a note");
      expect(list.toSorted()).toEqual(told({ ...source(), layout }).toSorted());
    }),
  );
});
