/**
 * The look at a file before it is taken in, beside the page: opened once, then looked at again for every change of how
 * to read it.
 */
import { lookAt, refusal, Refusal, textOfRows, type Look, type LookJob, type RecipeIntake } from "@bramble/core";
import { emptyLook } from "@bramble/core/job/told/look";
import { guessFormat, openTables } from "@bramble/core/intake/deliver";
import { readGeoid, type Geoid } from "@bramble/core/intake/geoid";
import { likenessOf, recognise, type KnownLayout } from "@bramble/core/intake/recognise";
import type { Tables } from "@bramble/core/intake/tables";

export type ToLook =
  | { type: "open"; file: string; bytes: ArrayBuffer; known: KnownLayout[] }
  | { type: "job"; job: LookJob; geoid?: { name: string; bytes: ArrayBuffer } }
  | { type: "look"; serial: number; given: RecipeIntake };

export type FromLook =
  | { type: "opened"; recognised?: KnownLayout }
  | { type: "progress"; serial: number; fraction: number }
  | {
      type: "looked";
      serial: number;
      look: Look;
      refusedText: [number, string][];
      likeness: string;
      milliseconds: number;
    };

let bytes = new Uint8Array(0),
  file = "";
let job: LookJob | undefined, geoid: Geoid | undefined;
let opened: { format: string; tables: Tables | undefined } | undefined;
const MOST_REFUSED = 20_000;

const say = (message: FromLook) => self.postMessage(message);

self.onmessage = ({ data }: MessageEvent<ToLook>) => {
  if (data.type === "open") {
    bytes = new Uint8Array(data.bytes);
    file = data.file;
    say({ type: "opened", recognised: recognise(bytes, data.known) });
  } else if (data.type === "job") {
    job = data.job;
    geoid = data.geoid && readGeoid(data.geoid.name, new Uint8Array(data.geoid.bytes));
  } else void look(data.serial, data.given);
};

async function look(serial: number, given: RecipeIntake): Promise<void> {
  if (!job) return;
  const begun = performance.now();
  const format = given.format ?? guessFormat(bytes);
  let made: Look;
  try {
    if (bytes.length === 0) throw refusal("file-empty", { file });
    if (opened?.format !== format) opened = { format, tables: await openTables(file, bytes, format) };
    const progress = (fraction: number) => say({ type: "progress", serial, fraction });
    made = lookAt(job, bytes, given, { firstId: 1, geoid, tables: opened.tables, progress });
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    made = emptyLook(format, e.message);
  }
  const rows = made.refused.slice(0, MOST_REFUSED).map((r) => r.row);
  const refusedText =
    made.format === "delimited" || made.format === "fixed" || made.format === "landxml"
      ? [...textOfRows(bytes, rows)]
      : [];
  say({
    type: "looked",
    serial,
    look: made,
    refusedText,
    likeness: made.layout ? likenessOf(bytes, made.layout) : "",
    milliseconds: performance.now() - begun,
  });
}
