/** Patches of a mesh: each triangle in one, within its box, also where triangles in the list lie far apart. */
import { PATCH, Patches } from "../../src/volumes/patches";

/** A lattice of squares, two triangles each, row by row; every so many triangles one is put off to the end, in no order. */
function lattice(side: number, putOff: number) {
  const x = new Float64Array((side + 1) ** 2).map((_, v) => v % (side + 1)),
    y = x.map((_, v) => Math.floor(v / (side + 1))),
    triangles: number[][] = [];
  for (let j = 0; j < side; j++)
    for (let i = 0; i < side; i++) {
      const v = j * (side + 1) + i;
      triangles.push([v, v + 1, v + side + 2], [v, v + side + 2, v + side + 1]);
    }
  const late = (k: number) => k % putOff === 0,
    last = triangles.filter((_, k) => late(k)),
    // In no order at all.
    mixed = last.map((_, k) => last[(7919 * k) % last.length]!),
    order = [...triangles.filter((_, k) => !late(k)), ...mixed];
  return { x, y, tri: Int32Array.from(order.flat()) };
}

test.each([
  [20, 7],
  [61, 19],
  [3, 2],
])("of %d squares a side, one in %d put off", (side, putOff) => {
  const mesh = lattice(side, putOff),
    patches = new Patches(mesh),
    seen = new Map<number, number>();
  let largest = 0;
  for (let p = 0; p < patches.count; p++) {
    const [w, s, e, n] = patches.boxes.subarray(4 * p, 4 * p + 4) as unknown as [number, number, number, number],
      list = patches.trianglesOf(p);
    largest = Math.max(largest, (e - w) * (n - s));
    expect(list.length).toBe(p < patches.count - 1 ? PATCH : mesh.tri.length / 3 - PATCH * p);
    expect(patches.meeting(w, s, e, n)).toContain(p);
    const isIn = (v: number) => mesh.x[v]! >= w && mesh.x[v]! <= e && mesh.y[v]! >= s && mesh.y[v]! <= n;
    for (const t of list) {
      seen.set(t, (seen.get(t) ?? 0) + 1);
      expect([patches.of[t], mesh.tri.subarray(3 * t, 3 * t + 3).every(isIn)]).toEqual([p, true]);
    }
  }
  expect(seen.size).toBe(mesh.tri.length / 3);
  expect([...seen.values()].every((count) => count === 1)).toBe(true);
  // Those put off lie together in patches of their own, not each patch all over the mesh.
  if (side > 50) expect(largest).toBeLessThan(0.4 * side ** 2);
});
