/** A yard whose files are read by programs that are not ours; a folder for them, and how the programs are asked. */
import { execFileSync } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { writeFile, type OwnFile } from "../../src/job/leave/handover";
import type { JobState } from "../../src/job/model/model";
import { derive, type Row } from "../job";

/** A made-up yard on a grid of the north: a kerb with an arc, a planting bed, a hedge without levels, ground. */
export const ORIGIN = { e: 512_000, n: 5_640_000 };
export const at = (e: number, n: number, z: number | undefined, number: string, code: string): Row => ({
  number,
  e: ORIGIN.e + e,
  n: ORIGIN.n + n,
  z,
  code,
});
export const rows: Row[] = [
  at(0.125, 0.25, 92.5, "1", "TOP"),
  at(20.5, 4, 93.25, "2", "TOP via"),
  at(40.5, 0.75, 94, "3", "TOP"),
  at(5, 30, 99, "4", 'SPOT; by the "gate", é 水 <&>'),
  at(35, 32, 97.5, "5", "BED"),
  at(45, 36, 96.5, "6", "BED"),
  at(40, 44, undefined, "7", "BED loop"),
  at(10, 50, 98.123456789, "8", "HEDGE flow"),
  at(20, 52, 98.2, "9", "HEDGE"),
  at(30, 50, 98.25, "10", "HEDGE"),
  at(50, 50, 101, "=11", "SPOT"),
];
export const job = derive(rows, {
  name: "Plot <A> & yard",
  date: "2031-04-18",
  system: "EPSG:25832",
  surfaces: [{ name: "ground", breaklines: { codes: ["*"] } }],
  contours: [{ surface: "ground", interval: 0.5 }],
});
export const { state, derived } = job;
const ground = derived.surfaces[0]!,
  contours = derived.contours[0]!;
if (!ground.ok || !contours.ok) throw new Error("the yard has its ground");
export const mesh = ground;
export const TRIANGLES = mesh.value.surface.tri.length / 3,
  CONTOURS = contours.value.level.length;

export let folder: string;
beforeAll(() => (folder = fs.mkdtempSync(path.join(os.tmpdir(), "handover-"))));
afterAll(() => fs.rmSync(folder, { recursive: true }));

/** Writes a file and gives where it is. */
export async function made(file: OwnFile, of: JobState = state, d = derived): Promise<string> {
  const to = path.join(folder, file.file);
  fs.writeFileSync(to, (await writeFile(file, of, d)).bytes);
  return to;
}
export const run = (command: string, ...args: string[]) =>
  execFileSync(command, args, { encoding: "utf8", stdio: ["ignore", "pipe", "pipe"], maxBuffer: 1e8 });
/** What GDAL reads of a file, as GeoJSON, without a change of coordinates. */
export function gdal(file: string, layer?: string) {
  const text = run(
    "ogr2ogr",
    "-f",
    "GeoJSON",
    "-lco",
    "COORDINATE_PRECISION=15",
    "-t_srs",
    "EPSG:25832",
    "-s_srs",
    "EPSG:25832",
    "/vsistdout/",
    file,
    ...(layer ? [layer] : []),
  );
  return (JSON.parse(text) as { features: GdalFeature[] }).features;
}
export interface GdalFeature {
  properties: Record<string, string | number | null>;
  geometry: { type: string; coordinates: number[] & number[][] & number[][][] };
}
