/** GPX read back by the reader of XML, against the points and lines that it was to hold. */
import { readXml } from "../../intake/xml";
import { METRES } from "../../math/units";
import { fromDegrees } from "../degrees";
import type { FileOf } from "../files";
import { gpxMarks } from "../gpx";
import type { HandoverSource } from "../source";
import { Found, type Proof } from "./found";

export function proveGpx(file: FileOf<"gpx">, bytes: Uint8Array, s: HandoverSource): Proof {
  const found = new Found(file.file, 1e-5 / METRES[s.unit]),
    back = fromDegrees(s),
    marks = gpxMarks(file, s),
    counts = { wpt: 0, trk: 0 };
  let name = "",
    height = NaN,
    xyz: number[] = [];
  readXml(file.file, bytes, {
    close(x) {
      const what = x.name;
      if (what === "name") name = x.text;
      if (what === "ele") height = Number(x.text);
      if (what === "wpt" || what === "trkpt") {
        xyz.push(...back([Number(x.attributes["lon"]), Number(x.attributes["lat"]), height]));
        height = NaN;
      }
      if (what === "wpt" || what === "trk") {
        const wanted = marks.next().value ?? found.refuse("it holds more than was written");
        counts[what]++;
        found.text("what stands in it", wanted.is, what);
        found.text("a name", wanted.name, name);
        found.way(wanted.name, wanted.xyz, xyz);
        xyz = [];
      }
      x.text = "";
    },
  });
  if (!marks.next().done) found.refuse("it ends before all was read");
  found.count("points", counts.wpt, counts.wpt);
  found.count("lines", counts.trk, counts.trk);
  return found.proof;
}
