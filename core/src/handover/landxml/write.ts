/**
 * LandXML 1.2 (the open schema of landxml.org): points, lines as plan features with arcs as curves, surfaces with their
 * breaklines, boundaries and contours, raw observations as received. Coordinates stand as northing, easting, level and
 * are the shortest decimals that read back as the same doubles.
 */
import { attributeNames, attributeOf, codeOf } from "../../codes/read";
import { ByteText } from "../../math/byte-text";
import { KINDS } from "../../records/kinds";
import { descriptionOf } from "../../points/table";
import { pointRows } from "../features";
import { heldBy, type FileOf } from "../files";
import type { HandoverSource } from "../source";
import { attributes } from "../xml";
import { writePlanFeatures } from "./lines";
import { position } from "./positions";
import { writeSurfaces } from "./surfaces";
import { writeSurvey } from "./survey";

/** Units of the schema; angles are written in decimal degrees. */
const UNITS = {
  m: `<Metric areaUnit="squareMeter" linearUnit="meter" volumeUnit="cubicMeter" temperatureUnit="celsius" pressureUnit="milliBars"`,
  ft: `<Imperial areaUnit="squareFoot" linearUnit="foot" volumeUnit="cubicFeet" temperatureUnit="fahrenheit" pressureUnit="inHG"`,
  ftUS: `<Imperial areaUnit="squareFoot" linearUnit="USSurveyFoot" volumeUnit="cubicFeet" temperatureUnit="fahrenheit" pressureUnit="inHG"`,
};

export function writeLandXml(file: FileOf<"landxml">, s: HandoverSource): Uint8Array {
  const holds = new Set(heldBy(file)),
    out = new ByteText();
  out.line('<?xml version="1.0" encoding="UTF-8"?>');
  out.line(
    `<LandXML xmlns="http://www.landxml.org/schema/LandXML-1.2" version="1.2" date="${s.date ?? "1970-01-01"}" ` +
      'time="00:00:00" language="English" readOnly="false">',
  );
  out.line(`<Units>${UNITS[s.unit]} angularUnit="decimal degrees" directionUnit="decimal degrees"/></Units>`);
  if (s.system)
    out.line(`<CoordinateSystem${attributes({ epsgCode: s.system.replace("EPSG:", ""), desc: s.system })}/>`);
  out.line(`<Project${attributes({ name: s.name, desc: s.client })}/>`);
  out.line('<Application name="Rough Bramble"/>');
  if (holds.has("survey")) writeSurvey(out, s);
  if (holds.has("points")) writePoints(out, s);
  if (holds.has("lines")) writePlanFeatures(out, s);
  if (holds.has("surfaces") || holds.has("contours")) writeSurfaces(out, s, holds);
  out.line("</LandXML>");
  return out.bytes();
}

const STANDING: Partial<Record<(typeof KINDS)[number], string>> = { control: "control", design: "proposed" };

function writePoints(out: ByteText, s: HandoverSource): void {
  const { table: t } = s,
    rows = pointRows(s),
    names = attributeNames(t, s.coded);
  if (rows.length === 0) return;
  out.line("<CgPoints>");
  for (const i of rows) {
    const code = codeOf(s.coded, i),
      description = descriptionOf(t, i),
      time = t.time[i]!;
    const of = attributes({
      name: t.number[i]!,
      code,
      desc: description === code ? undefined : description,
      pntSurv: STANDING[KINDS[t.kind[i]!]!] ?? "existing",
      timeStamp: Number.isNaN(time) ? undefined : new Date(time).toISOString().slice(0, 19),
    });
    const properties = names.flatMap((label) => {
      const value = attributeOf(t, s.coded, i, label);
      return value === "" ? [] : `<Property${attributes({ label, value })}/>`;
    });
    const more = properties.length ? `<Feature code="attributes">${properties.join("")}</Feature>` : "";
    out.line(`<CgPoint${of}>${position(t.n[i]!, t.e[i]!, t.z[i]!)}${more}</CgPoint>`);
  }
  out.line("</CgPoints>");
}
