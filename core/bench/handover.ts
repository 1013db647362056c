/** Files that leave, written and read back, against working out all that they hold. */
import { Chain, type JobState, type PlanFile } from "../src";
import { writeDelimited } from "../src/handover/delimited";
import { pointsTable } from "../src/handover/columns";
import { writeGeoJson } from "../src/handover/geojson";
import { writeLandXml } from "../src/handover/landxml/write";
import type { HandoverFile, FileOf } from "../src/handover/files";
import { planPages } from "../src/handover/plan/plan";
import { proveDelimited } from "../src/handover/proof/tables";
import { proveGeoJson, proveLandXml } from "../src/handover/proof/geometry";
import { handoverSource, planSource } from "../src/job/leave/handover-source";
import { jobOf } from "./changes";
import { least, tell } from "./measure";

export function benchHandover(size: number): void {
  const state: JobState = jobOf(size),
    derived = new Chain().run(state, true),
    sourceOf = (file: HandoverFile) => handoverSource(file, state, derived);
  const csv: FileOf<"csv"> = { file: "a.csv", format: "csv" },
    landxml = { file: "a.xml", format: "landxml" } as const,
    geojson = { file: "a.geojson", format: "geojson" } as const,
    plan: PlanFile = { file: "a.pdf", format: "pdf", paper: "A1" };
  const text = () => pointsTable(csv, sourceOf(csv), sourceOf(csv).rows),
    bytes = {
      csv: writeDelimited(text(), csv),
      landxml: writeLandXml(landxml, sourceOf(landxml)),
      geojson: writeGeoJson(geojson, sourceOf(geojson)),
    };
  const times = least(
    [
      { name: "chain", run: () => new Chain().run(state, true) },
      { name: "points as text", run: () => writeDelimited(text(), csv) },
      { name: "points as text, read back", run: () => proveDelimited("a.csv", bytes.csv, text(), csv) },
      { name: "LandXML", run: () => writeLandXml(landxml, sourceOf(landxml)) },
      { name: "LandXML, read back", run: () => proveLandXml(landxml, bytes.landxml, sourceOf(landxml)) },
      { name: "GeoJSON", run: () => writeGeoJson(geojson, sourceOf(geojson)) },
      { name: "GeoJSON, read back", run: () => proveGeoJson(geojson, bytes.geojson, sourceOf(geojson)) },
      { name: "pages of a plan", run: () => Array.from(planPages(plan, planSource(plan, state, derived, ""))) },
    ],
    size > 100_000 ? 3 : 5,
  );
  for (const [name, ms] of times)
    if (name !== "chain") tell(name, size, ms, "lines, surface, contours and volume", times.get("chain")!);
}
