/**
 * GPX 1.1 (topografix.com/GPX/1/1, an open schema), for handheld receivers: points as waypoints, lines and areas as
 * tracks, in longitude and latitude (WGS 84 as the projection has it), elevations in metres as they stand. What follows
 * a number of a point in the field is its comment; contours and surfaces have no place in the format.
 */
import { codeOf } from "../codes/read";
import { ByteText } from "../math/byte-text";
import { descriptionOf } from "../points/table";
import { toDegrees } from "./degrees";
import { lineFeatures, pointRows } from "./features";
import { heldBy, type FileOf } from "./files";
import type { HandoverSource } from "./source";
import { xmlText } from "./xml";

/** A waypoint or a track before it is placed: east, north, level triples in the job's unit. */
export interface Mark {
  is: "wpt" | "trk";
  name: string;
  comment: string;
  type: string;
  xyz: ArrayLike<number>;
}

/** Waypoints first, as the schema has them. */
export function* gpxMarks(file: FileOf<"gpx">, s: HandoverSource): Generator<Mark> {
  const holds = new Set(heldBy(file)),
    { table: t } = s;
  if (holds.has("points"))
    for (const i of pointRows(s))
      yield {
        is: "wpt",
        name: t.number[i]!,
        comment: s.labels.get(i) ?? descriptionOf(t, i),
        type: codeOf(s.coded, i),
        xyz: [t.e[i]!, t.n[i]!, t.z[i]!],
      };
  if (holds.has("lines"))
    for (const f of lineFeatures(s))
      yield { is: "trk", name: f.name, comment: f.meaning ?? "", type: f.line.code, xyz: f.xyz };
}

/** Throws a Refusal where the job has no coordinate system. */
export function writeGpx(file: FileOf<"gpx">, s: HandoverSource): Uint8Array {
  const inDegrees = toDegrees(file.file, s),
    out = new ByteText();
  const at = (is: string, xyz: ArrayLike<number>, k: number, within: string) => {
    const [longitude, latitude, metres] = inDegrees(xyz[k]!, xyz[k + 1]!, xyz[k + 2]!),
      ele = Number.isNaN(metres) ? "" : `<ele>${metres}</ele>`;
    return `<${is} lat="${latitude}" lon="${longitude}">${ele}${within}</${is}>`;
  };
  out.line('<?xml version="1.0" encoding="UTF-8"?>');
  out.line('<gpx version="1.1" creator="Rough Bramble" xmlns="http://www.topografix.com/GPX/1/1">');
  out.line(`<metadata><name>${xmlText(s.name)}</name></metadata>`);
  for (const { is, name, comment, type, xyz } of gpxMarks(file, s)) {
    const comments = comment && `<cmt>${xmlText(comment)}</cmt>`,
      types = type && `<type>${xmlText(type)}</type>`,
      words = `<name>${xmlText(name)}</name>${comments}${types}`;
    if (is === "wpt") out.line(at(is, xyz, 0, words));
    else {
      out.line(`<trk>${words}<trkseg>`);
      for (let k = 0; k < xyz.length; k += 3) out.line(at("trkpt", xyz, k, ""));
      out.line("</trkseg></trk>");
    }
  }
  out.line("</gpx>");
  return out.bytes();
}
