/** What the office has added to the demo's drawing so far. */
import type { Added } from "@bramble/core/drawing/added/model";
import { CREW_A, CREW_B, type Shot } from "./crews.ts";

/** `survey` is crew A's file, whose lines name its shots; crew B's has a header and a line for each. */
export function demoAdditions(survey: string, a: readonly Shot[], b: readonly Shot[]): Added[] {
  const lines = survey.split("\n"),
    indexOf = (shots: readonly Shot[], description: string) => {
      const at = shots.findIndex((s) => s.description === description);
      if (at < 0) throw new Error(`no shot is described ${description}`);
      return at;
    };
  const ofA = (description: string) => {
    const { number } = a[indexOf(a, description)]!;
    return `${CREW_A.id}:${lines.findIndex((l) => l.includes(`<TargetPoint name="${number}"`)) + 1}`;
  };
  const ofB = (description: string, more = 0) => `${CREW_B.id}:${indexOf(b, description) + 2 + more}`;
  const tree = b.findIndex((s) => s.attributes?.kind === "ash") + 2;
  return [
    { name: "dry wall", measures: { code: "WALL", run: "1", from: ofB("WALL1") }, show: ["bearing", "distance"] },
    { name: "weighbridge sides", measures: { code: "SLAB", run: "1", from: ofA("SLAB1") }, show: ["distance"] },
    { name: "hut area", measures: { code: "HUT", run: "1", from: ofA("HUT1") }, show: ["area"] },
    { name: "ramp width", dimension: [{ point: ofA("ROAD1/TOE4") }, { point: ofA("ROAD2/TOE5") }], right: 6 },
    { name: "weighbridge", words: "Weighbridge, to be kept", to: { point: ofA("SLAB1") }, by: [4, 9], leader: true },
    {
      name: "way in",
      words: "Way in for the crowd",
      to: { point: ofB("TRACK2", 1) },
      by: [8, -16],
      turn: -83,
      height: 2.5,
    },
    { name: "shrubs", symbol: ofB('SHRUB; two, by the "old" post'), size: [9, 4], toward: { at: [3368, 7036] } },
    { name: "note of the ash", text: { note: `${CREW_B.id}:${tree}` }, by: [5.5, 2] },
  ];
}
