/** Positions as LandXML has them. */

/** Northing, easting, and the level where it is known. */
export function position(n: number, e: number, z: number): string {
  return Number.isNaN(z) ? `${n} ${e}` : `${n} ${e} ${z}`;
}

/** A list of positions: with levels where all of them are known. */
export function positionList(xyz: ArrayLike<number>, from = 0, to = xyz.length / 3): string {
  const known = Array.from({ length: to - from }, (_, k) => xyz[3 * (from + k) + 2]!).every((z) => !Number.isNaN(z)),
    name = known ? "PntList3D" : "PntList2D",
    all: string[] = [];
  for (let v = from; v < to; v++) all.push(position(xyz[3 * v + 1]!, xyz[3 * v]!, known ? xyz[3 * v + 2]! : NaN));
  return `<${name}>${all.join(" ")}</${name}>`;
}
