/** The shapes of files that are handed over, each format with what may be said of it (handover/formats.ts). */
import type { HandoverFormat } from "../../../handover/files";
import { fileName, HANDOVER_FORMATS } from "../../../handover/formats";
import type { Says } from "../../../handover/says";
import { oneOf, record, type Schema } from "../../../shape";

const NAMES = Object.keys(HANDOVER_FORMATS) as HandoverFormat[],
  shapesOf = (says: Says = {}) => Object.fromEntries(Object.entries(says).map(([said, { shape }]) => [said, shape]));

export const handoverSchema: Schema = NAMES.reduceRight<Schema>(
  (otherwise, format) => {
    const { says, must } = HANDOVER_FORMATS[format] as { says: Says; must?: Says };
    return {
      if: { type: "object", properties: { format: { const: format } }, required: ["format"] },
      then: record({ file: fileName, format: oneOf(format), ...shapesOf(must), ...shapesOf(says) }, [
        "file",
        "format",
        ...Object.keys(must ?? {}),
      ]),
      else: otherwise,
    };
  },
  { type: "object", properties: { file: fileName, format: oneOf(...NAMES) }, required: ["file", "format"] },
);
