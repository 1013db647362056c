/**
 * KML 2.2 (OGC 07-147r2): points, lines, areas and contours in longitude and latitude, in a folder for each layer;
 * colours are those of the code book. Layers that are hidden on the sheet are there and not shown. Surfaces have no
 * place in the format.
 */
import { attributeNames, codeOf } from "../codes/read";
import { ByteText } from "../math/byte-text";
import { descriptionOf } from "../points/table";
import { toDegrees, type ToDegrees } from "./degrees";
import { attributesOfPoint, contourFeatures, filledLevels, lineFeatures, pointRows } from "./features";
import { heldBy, type FileOf } from "./files";
import { isHidden, type HandoverSource } from "./source";
import { xmlText } from "./xml";

/** A placemark before it is placed: east, north, level triples in the job's unit. */
export interface Placemark {
  folder: string;
  hidden: boolean;
  kind: "Point" | "LineString" | "Polygon";
  name: string;
  description: string;
  color: string | undefined;
  facts: Record<string, string>;
  xyz: ArrayLike<number>;
}

/** Placemarks in the order of the file: folder by folder as they first come. */
export function kmlPlacemarks(file: FileOf<"kml">, s: HandoverSource): Placemark[] {
  const folders = new Map<string, Placemark[]>();
  for (const p of inOrder(file, s)) (folders.get(p.folder) ?? folders.set(p.folder, []).get(p.folder)!).push(p);
  return [...folders.values()].flat();
}

function* inOrder(file: FileOf<"kml">, s: HandoverSource): Generator<Placemark> {
  const holds = new Set(heldBy(file)),
    { table: t } = s,
    names = attributeNames(t, s.coded);
  if (holds.has("points"))
    for (const i of pointRows(s)) {
      const entry = s.coded.parsed[s.coded.description[i]!]!.elements[0]?.entry,
        code = codeOf(s.coded, i),
        z = t.z[i]!;
      yield {
        folder: entry?.layer ?? (code || "points"),
        hidden: entry !== undefined && isHidden(s, entry),
        kind: "Point",
        name: t.number[i]!,
        description: s.labels.get(i) ?? descriptionOf(t, i),
        color: entry?.color,
        facts: { code, elevation: Number.isNaN(z) ? "" : String(z), ...attributesOfPoint(s, i, names) },
        xyz: [t.e[i]!, t.n[i]!, z],
      };
    }
  if (holds.has("lines"))
    for (const f of lineFeatures(s))
      yield {
        folder: f.layer,
        hidden: f.hidden,
        kind: f.isArea ? "Polygon" : "LineString",
        name: f.name,
        description: f.line.entry.name ?? "",
        color: f.color,
        facts: { code: f.line.code, run: f.line.run, length: String(f.line.length) },
        xyz: f.xyz,
      };
  if (holds.has("contours"))
    for (const c of contourFeatures(s.contours))
      yield {
        folder: `contours of ${c.surface}`,
        hidden: false,
        kind: "LineString",
        name: String(c.level),
        description: "",
        color: c.index ? "#7a5a2e" : "#9b7b4f",
        facts: {},
        xyz: c.xyz,
      };
}

const INK = "#3a3a3a";

export function writeKml(file: FileOf<"kml">, s: HandoverSource): Uint8Array {
  const inDegrees = toDegrees(file.file, s),
    placemarks = kmlPlacemarks(file, s),
    styles = new Map<string, string>(),
    out = new ByteText();
  out.line('<?xml version="1.0" encoding="UTF-8"?>');
  out.line(`<kml xmlns="http://www.opengis.net/kml/2.2"><Document><name>${xmlText(s.name)}</name>`);
  for (const { color = INK } of placemarks)
    if (!styles.has(color)) {
      styles.set(color, `s${styles.size + 1}`);
      out.line(style(color, styles.get(color)!));
    }
  let folder: string | undefined;
  for (const p of placemarks) {
    if (p.folder !== folder) {
      if (folder !== undefined) out.line("</Folder>");
      folder = p.folder;
      out.line(`<Folder><name>${xmlText(folder)}</name>`);
    }
    out.line(placemark(p, styles.get(p.color ?? INK)!, inDegrees));
  }
  if (folder !== undefined) out.line("</Folder>");
  out.line("</Document></kml>");
  return out.bytes();
}

function geometry({ kind, xyz }: Placemark, inDegrees: ToDegrees): string {
  const levels = filledLevels(xyz),
    all: string[] = [];
  for (let k = 0; k < xyz.length / 3; k++) all.push(tuple(inDegrees(xyz[3 * k]!, xyz[3 * k + 1]!, levels?.[k] ?? NaN)));
  const coordinates = `<coordinates>${all.join(" ")}</coordinates>`,
    way =
      kind === "Polygon" ? `<outerBoundaryIs><LinearRing>${coordinates}</LinearRing></outerBoundaryIs>` : coordinates;
  // Without a level it lies on the ground.
  return `<${kind}>${levels ? "<altitudeMode>absolute</altitudeMode>" : ""}${way}</${kind}>`;
}

const tuple = ([longitude, latitude, height]: readonly number[]) =>
  Number.isNaN(height) ? `${longitude},${latitude}` : `${longitude},${latitude},${height}`;

function placemark(p: Placemark, styleId: string, inDegrees: ToDegrees): string {
  const data = Object.entries(p.facts)
    .filter(([, value]) => value !== "")
    .map(([key, value]) => `<Data name="${xmlText(key)}"><value>${xmlText(value)}</value></Data>`);
  return [
    `<Placemark><name>${xmlText(p.name)}</name>`,
    p.hidden ? "<visibility>0</visibility>" : "",
    p.description ? `<description>${xmlText(p.description)}</description>` : "",
    `<styleUrl>#${styleId}</styleUrl>`,
    data.length ? `<ExtendedData>${data.join("")}</ExtendedData>` : "",
    `${geometry(p, inDegrees)}</Placemark>`,
  ].join("");
}

/** Colours of the format are written from the last to the first: opacity, blue, green, red. */
function style(color: string, id: string): string {
  const [r, g, b] = [color.slice(1, 3), color.slice(3, 5), color.slice(5, 7)],
    abgr = `${b}${g}${r}`.toLowerCase();
  return [
    `<Style id="${id}"><IconStyle><color>ff${abgr}</color><scale>0.6</scale></IconStyle>`,
    `<LineStyle><color>ff${abgr}</color><width>2</width></LineStyle>`,
    `<PolyStyle><color>40${abgr}</color></PolyStyle></Style>`,
  ].join("");
}
