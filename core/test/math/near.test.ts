/** The spatial index against a plain search, with coordinates as large as a country's. */
import fc from "fast-check";
import { boxIndex, pointIndex } from "../../src/math/near";

const far = fc.integer({ min: 0, max: 4000 }).map((k) => 6_233_100.0005 + k / 1000);
const box = fc
  .tuple(far, far, far, far)
  .map(([a, b, c, d]): [number, number, number, number] => [
    Math.min(a, c),
    Math.min(b, d),
    Math.max(a, c),
    Math.max(b, d),
  ]);
const rising = (list: number[]) => list.sort((a, b) => a - b);

test("boxes: all that meet a rectangle and no others; one without a corner is near nothing", () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.oneof(
          { weight: 9, arbitrary: box },
          { weight: 1, arbitrary: fc.constant<[number, number, number, number]>([NaN, 0, 1, 1]) },
        ),
        { maxLength: 80 },
      ),
      box,
      (boxes, [w, s, e, n]) => {
        const index = boxIndex(boxes.length, (k) => boxes[k]!);
        const meets = boxes.flatMap(([a, b, c, d], k) => (a <= e && c >= w && b <= n && d >= s ? [k] : []));
        expect(rising(index.search(w, s, e, n))).toEqual(meets);
      },
    ),
  ));

test("points: all living ones in a rectangle, and the index follows columns that changed", () =>
  fc.assert(
    fc.property(fc.array(fc.tuple(far, far, fc.boolean()), { maxLength: 120 }), box, (list, [w, s, e, n]) => {
      const t = {
        e: Float64Array.from(list, (p) => p[0]),
        n: Float64Array.from(list, (p) => p[1]),
        deleted: Uint8Array.from(list, (p) => (p[2] ? 1 : 0)),
      };
      const within = (gone: Uint8Array) =>
        list.flatMap((p, k) => (!gone[k] && p[0] >= w && p[0] <= e && p[1] >= s && p[1] <= n ? [k] : []));
      expect(rising(pointIndex(t).range(w, s, e, n))).toEqual(within(t.deleted));
      const revived = { ...t, deleted: new Uint8Array(list.length) };
      expect(rising(pointIndex(revived).range(w, s, e, n))).toEqual(within(revived.deleted));
    }),
  ));
