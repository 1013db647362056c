import { derive, type Row } from "../../core/test/job";
import { meshAt } from "../sheet/mesh-at";

/** A square with a breakline along one side of its middle, and a point far off to the east. */
const rows: Row[] = [
  { number: "1", e: 0, n: 0, z: 1 },
  { number: "2", e: 10, n: 0, z: 1 },
  { number: "3", e: 11, n: 10, z: 1 },
  { number: "4", e: 0, n: 9, z: 1 },
  { number: "5", e: 30, n: 5, z: 1 },
];
const made = derive(rows, { surfaces: [{ name: "s" }] }).derived.surfaces[0]!;
if (!made.ok) throw made.refusal;
const { surface } = made.value;
const numbers = (vertices: readonly number[]) => vertices.map((v) => rows[surface.point[v]!]!.number).sort();

test("the nearest side is meant, and one on the edge says that it has no other diagonal", () => {
  const inner = meshAt(surface, "side", 5, 4.8)!;
  expect(["1 3", "2 4"]).toContain(numbers(inner.vertices).join(" "));
  expect(inner.problem).toBe("");
  const edge = meshAt(surface, "side", 5, 0.1)!;
  expect(numbers(edge.vertices)).toEqual(["1", "2"]);
  expect(edge.problem).toMatch(/lies on the edge/);
  // The two triangles at 2–3 lie in a quadrilateral that is not convex: point 5 sees past both of them.
  expect(meshAt(surface, "side", 40, 40)).toBeUndefined();
});

test("a triangle is meant by its corners", () => {
  const east = meshAt(surface, "triangle", 20, 5)!;
  expect(numbers(east.vertices)).toEqual(["2", "3", "5"]);
  expect(east.problem).toBe("");
});

test("a side of a breakline stays, and corners that no point makes cannot be named", () => {
  const line: Row[] = [
    { number: "a", e: 2, n: 5, z: 1, code: "TOP1" },
    { number: "b", e: 8, n: 5, z: 1, code: "TOP1" },
  ];
  const of = (more: object) => {
    const s = derive([...rows, ...line], { surfaces: [{ name: "s", ...more }] }).derived.surfaces[0]!;
    if (!s.ok) throw s.refusal;
    return s.value.surface;
  };
  expect(meshAt(of({ breaklines: { codes: ["*"] } }), "side", 5, 5.01)!.problem).toMatch(/belongs to a breakline/);
  const dense = of({ breaklines: { codes: ["*"], densify: 2 } });
  expect(meshAt(dense, "triangle", 5, 5.5)!.problem).toMatch(/no point of the job/);
});
