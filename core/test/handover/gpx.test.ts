// @long: left out of npm run test:quick, since it reads with programs that it does not install.
/** GPX, read by GDAL. */
import fs from "node:fs";
import { XMLParser } from "fast-xml-parser";
import { writeFile } from "../../src/job/leave/handover";
import { derive } from "../job";
import { derived, made, rows, run, state } from "./yard";

describe("GPX", () => {
  interface Gdal {
    features: { properties: Record<string, string | number>; geometry: { type: string; coordinates: number[] } }[];
  }
  const read = (file: string, layer: string) =>
    JSON.parse(
      run("ogr2ogr", "-f", "GeoJSON", "-s_srs", "EPSG:4258", "-t_srs", "EPSG:25832", "/vsistdout/", file, layer),
    ) as Gdal;

  test("GDAL reads every point as a waypoint in its position, and every line as a track with its levels", async () => {
    const file = await made({ file: "a.gpx", format: "gpx" }),
      points = read(file, "waypoints").features,
      tracks = read(file, "tracks").features;
    expect(points.map((f) => f.properties["name"])).toEqual(rows.map((r) => r.number));
    rows.forEach(({ e, n, z }, k) => {
      const [x, y] = points[k]!.geometry.coordinates;
      expect(x).toBeCloseTo(e, 3);
      expect(y).toBeCloseTo(n, 3);
      expect(points[k]!.properties["ele"]).toBe(z);
    });
    expect(points[3]!.properties).toMatchObject({ cmt: 'SPOT; by the "gate", é 水 <&>', type: "SPOT", ele: 99 });
    expect(tracks.map((f) => f.properties["type"])).toEqual(["TOP", "BED", "HEDGE"]);
    // The bed is closed: it ends where it began, and its corner without a level has none.
    const bed = read(file, "track_points").features.filter((f) => f.properties["track_fid"] === 1);
    expect(bed.map((f) => f.properties["ele"])).toEqual([97.5, 96.5, undefined, 97.5]);
    expect(bed[3]!.geometry).toEqual(bed[0]!.geometry);
  });

  test("names are whole whatever their letters; lines alone where points are not wanted; metres of a job in feet", async () => {
    const text = fs.readFileSync(await made({ file: "l.gpx", format: "gpx", holds: ["lines"] }), "utf8");
    expect(text).not.toContain("<wpt");
    expect(text.match(/<trk>/g)).toHaveLength(3);
    const parsed = new XMLParser().parse(text) as { gpx: { metadata: { name: string } } };
    expect(parsed.gpx.metadata.name).toBe("Plot <A> & yard");
    const feet = 1 / 0.3048,
      far = rows.map((r) => ({ ...r, e: r.e * feet, n: r.n * feet, z: r.z === undefined ? r.z : r.z * feet })),
      imperial = derive(far, { unit: "ft", system: "EPSG:25832" }),
      file = await made({ file: "ft.gpx", format: "gpx" }, imperial.state, imperial.derived);
    expect(read(file, "waypoints").features[0]!.properties["ele"]).toBeCloseTo(92.5, 9);
    await expect(writeFile({ file: "n.gpx", format: "gpx" }, { ...state, system: undefined }, derived)).rejects.toThrow(
      "the job has no coordinate system",
    );
  });
});
