/** How the chain remembers: what is gone is forgotten, what stays is not made again; stages come in their order. */
import { applyChange, Chain, type JobState } from "../../src";
import { Kept, Plan } from "../../src/job/chain/stages";
import { thingRenamed } from "../../src/job/change/rename";
import { stateOf } from "../job";

const start = stateOf(
  Array.from({ length: 30 }, (_, k) => ({ number: k + 1, e: 5 * (k % 6), n: 7 * Math.floor(k / 6), z: 5 + (k % 4) })),
  {
    sets: [{ name: "some", rule: { numbers: "1-20" } }],
    surfaces: [{ name: "ground" }],
    contours: [{ surface: "ground", interval: 0.5 }],
    volumes: [{ name: "pad", surface: "ground", level: 6 }],
    differences: [{ name: "held", points: "some", surface: "ground", tolerance: 0.1 }],
    drawing: { surfaces: [{ surface: "ground", smooth: true }] },
  },
);

test("things renamed again and again leave nothing behind", () => {
  const made: string[] = [],
    chain = new Chain((name) => made.push(name));
  let state: JobState = start,
    names: Record<string, string> = { surfaces: "ground", sets: "some", volumes: "pad" };
  const sizes = Array.from({ length: 20 }, (_, k) => {
    for (const part of ["surfaces", "sets", "volumes"] as const) {
      state = applyChange(state, thingRenamed(state, part, names[part]!, `${part} ${k}`));
      names = { ...names, [part]: `${part} ${k}` };
    }
    const d = chain.run(state);
    expect([d.surfaces, d.volumes, d.madeSets, d.differences, d.drawnContours].flat().every((m) => m.ok)).toBe(true);
    return chain.remembered;
  });
  expect(Math.max(...sizes.slice(4))).toBe(sizes[4]);
  // What stays is remembered, however often nothing changes.
  chain.run(state);
  chain.run(state);
  const least = chain.remembered;
  made.length = 0;
  for (let k = 0; k < 5; k++) chain.run(state);
  expect([made, chain.remembered]).toEqual([[], least]);
  // One level changed: the surface is followed from what is kept of it, as if nothing had lain between.
  const edited = applyChange(state, {
    type: "points",
    edits: [{ id: state.points.id[8]!, field: "elevation", old: state.points.z[8]!, new: 5.5 }],
  });
  chain.run(edited);
  expect(made.filter((name) => name.startsWith("surface"))).not.toContain("surface surfaces 19, triangles");
  expect(chain.run(edited).volumes).toEqual(new Chain().run(edited).volumes);
});

test("a trial and the way back find what was there", () => {
  const made: string[] = [],
    chain = new Chain((name) => made.push(name));
  chain.run(start);
  chain.run({ ...start, surfaces: [], contours: [], volumes: [], differences: [] });
  made.length = 0;
  chain.run(start);
  expect(made.filter((name) => /^(surface|volume|points of surface)/.test(name))).toEqual([]);
});

test("a stage is given what it reads; one that reads what is made later does not compile", () => {
  type Values = { a: number; b: number; c: number };
  const begun = Plan.from<Values, "a">(),
    kept = new Kept();
  const plan = begun.stage("b", ["a"], (v) => v.a + 1).stage("c", ["a", "b"], (v) => v.a * v.b);
  expect(plan.run({ a: 2 }, kept)).toEqual({ a: 2, b: 3, c: 6 });
  // @ts-expect-error c is not there yet
  begun.stage("b", ["c"], (v) => v.c);
  // @ts-expect-error b is read and not said
  begun.stage("c", ["a"], (v) => v.b);
  // @ts-expect-error a is there already
  begun.stage("a", ["a"], (v) => v.a);
});
