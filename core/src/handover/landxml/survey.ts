/** Raw observations as they were received: setups with their backsights, readings in both faces. */
import type { ByteText } from "../../math/byte-text";
import type { Survey } from "../../records/survey";
import type { HandoverSource } from "../source";
import { attributes } from "../xml";
import { position } from "./positions";

const degrees = (radians: number) => (Number.isNaN(radians) ? undefined : (radians * 180) / Math.PI);
const given = (x: number) => (Number.isNaN(x) ? undefined : x);

export function writeSurvey(out: ByteText, s: HandoverSource): void {
  s.delivered.forEach(({ survey }, k) => {
    if (!survey) return;
    const { id } = s.intakes[k]!;
    out.line(`<Survey${attributes({ desc: id })}>`);
    out.line(`<SurveyHeader${attributes({ name: id })}/>`);
    // Two deliveries may have setups of one name.
    writeSetups(out, survey, (setup) => `${id} ${setup}`);
    writeReadings(out, survey, (setup) => `${id} ${setup}`, descriptionsOf(s, k));
    out.line("</Survey>");
  });
}

function writeSetups(out: ByteText, survey: Survey, idOf: (setup: string) => string): void {
  const at = (p?: readonly [number, number, number]) => (p ? position(p[1], p[0], p[2]) : "");
  for (const x of survey.setups) {
    const id = idOf(x.id);
    out.line(
      `<InstrumentSetup${attributes({ id, stationName: x.station, instrumentHeight: given(x.instrumentHeight) })}>`,
    );
    out.line(`<InstrumentPoint${attributes({ pntRef: x.station })}>${at(x.stationAt)}</InstrumentPoint>`);
    for (const b of x.backsights) {
      const of = { azimuth: degrees(b.azimuth), circle: degrees(b.circle), setupID: id };
      out.line(
        `<Backsight${attributes(of)}><BacksightPoint${attributes({ pntRef: b.number })}>${at(b.at)}</BacksightPoint></Backsight>`,
      );
    }
    out.line("</InstrumentSetup>");
  }
}

function writeReadings(
  out: ByteText,
  { setups, observations: o, numbers }: Survey,
  idOf: (setup: string) => string,
  descriptionOf: (number: string) => string,
): void {
  for (let from = 0; from < o.count;) {
    const setup = o.setup[from]!,
      id = idOf(setups[setup]!.id);
    out.line(`<ObservationGroup${attributes({ id: `${id} ${from + 1}`, setupID: id })}>`);
    let k = from;
    for (; k < o.count && o.setup[k] === setup; k++) {
      const number = numbers[o.target[k]!]!;
      const of = {
        setupID: id,
        targetHeight: o.targetHeight[k]!,
        azimuth: degrees(o.azimuth[k]!),
        horizAngle: degrees(o.circle[k]!),
        slopeDistance: o.slope[k]!,
        zenithAngle: degrees(o.zenith[k]!),
        directFace: String(o.face[k] === 1),
      };
      out.line(
        `<RawObservation${attributes(of)}><TargetPoint${attributes({ name: number, desc: descriptionOf(number) })}/></RawObservation>`,
      );
    }
    from = k;
    out.line("</ObservationGroup>");
  }
}

/** What a number of the delivery is described by now. */
function descriptionsOf({ table: t }: HandoverSource, intake: number): (number: string) => string {
  const found = new Map<string, string>();
  for (let i = 0; i < t.count; i++)
    if (t.intake[i] === intake) found.set(t.cameAs?.[t.id[i]!] ?? t.number[i]!, t.texts[t.description[i]!]!);
  return (number) => found.get(number) ?? "";
}
