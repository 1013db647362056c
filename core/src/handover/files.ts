/** Files of the handover, as their formats describe them (formats.ts). */
import { HANDOVER_FORMATS, type Kind } from "./formats";
import type { Holds } from "./model";
import { pointColumns, textStyle, type Control, type SaidFile, type SaidOf, type Says } from "./says";

type Formats = typeof HANDOVER_FORMATS;
export type HandoverFormat = keyof Formats;
type MustOf<F extends HandoverFormat> = Formats[F] extends { must?: infer M extends Says } ? M : never;

/** A file of a format. Its name within the handover may hold `{job}`, `{client}`, `{date}` and `{entry}` (names.ts). */
export type FileOf<F extends HandoverFormat> = { file: string; format: F } & SaidOf<Formats[F]["says"]> &
  Required<SaidOf<MustOf<F>>>;
export type HandoverFile = { [F in HandoverFormat]: FileOf<F> }[HandoverFormat];

/** How rows are written as text. */
export type TextStyle = SaidOf<typeof textStyle>;
/** Which columns of points, with how many decimals. */
export type PointColumns = SaidOf<typeof pointColumns>;
export type ListFile = FileOf<"list">;
export type PlanFile = FileOf<"pdf">;
export type ReportFile = FileOf<"report">;
export type PackageFile = FileOf<"package">;

const BROUGHT = ["ledger", "recipe", "report", "pdf"] as const;
/** What only that which runs the core can write. */
export type BroughtFile = Extract<HandoverFile, { format: (typeof BROUGHT)[number] }>;
export const isBrought = (file: HandoverFile): file is BroughtFile => BROUGHT.some((f) => f === file.format);

/** Of which points a file is, where it is of points that may be chosen. */
export const pointsOf = (file: HandoverFile): string | undefined => ("points" in file ? file.points : undefined);

/** The usual ending of a file's name, and what the file is to a browser. */
export function kindOfFile(file: HandoverFile): { ending: string; type: string } {
  if (file.format === "recipe" && file.with) return HANDOVER_FORMATS.package;
  if (file.format === "report" && file.as === "xlsx") return HANDOVER_FORMATS.xlsx;
  return HANDOVER_FORMATS[file.format];
}

/** One thing that may be said of a file, or that must be. */
export interface Saying {
  said: string;
  control: Control;
  must: boolean;
}

/** What may be said of a file, in the order in which it is asked. */
export function sayingsOf({ format }: HandoverFile): Saying[] {
  const { says, must = {} } = HANDOVER_FORMATS[format] as { says: Says; must?: Says };
  return Object.entries({ ...must, ...says }).flatMap(([said, { control }]) =>
    control ? [{ said, control, must: said in must }] : [],
  );
}

/** What of the geometry a file holds. */
export function heldBy(file: HandoverFile): readonly Holds[] {
  if ("holds" in file && file.holds) return file.holds;
  const { held } = HANDOVER_FORMATS[file.format] as { held?(file: SaidFile): Holds[] };
  if (held) return held(file);
  return sayingsOf(file).flatMap(({ control }) => (control.as === "holds" ? control.of : []));
}

/** Whether a file cannot be made in a job without a coordinate system. */
export const needsSystem = (file: HandoverFile): boolean =>
  (HANDOVER_FORMATS[file.format] as { inDegrees?(file: SaidFile): boolean }).inDegrees?.(file) ?? false;

/** What the handover may be given, in the order in which it is offered. */
export const HANDOVER_KINDS: readonly (Kind & { format: HandoverFormat })[] = Object.entries(HANDOVER_FORMATS).flatMap(
  ([format, { kinds }]) => kinds.map((kind) => ({ ...kind, format: format as HandoverFormat })),
);

/** What a file is, in words. */
export function wordsOfFile(file: HandoverFile): string {
  if (file.format === "recipe" && file.with) return "recipe with its files";
  const kinds: readonly Kind[] = HANDOVER_FORMATS[file.format].kinds,
    of = "of" in file ? file.of : undefined,
    { title } = kinds.find((k) => of !== undefined && k.begin["of"] === of) ?? kinds[0]!;
  // Names such as DXF and LandXML keep their letters.
  return /^[A-Z][a-z]*(?![A-Za-z])/.test(title) ? title[0]!.toLowerCase() + title.slice(1) : title;
}

/** A new file of a kind under a name that no other has. */
export function newFile(
  { format, called, begin }: (typeof HANDOVER_KINDS)[number],
  taken: readonly HandoverFile[],
): HandoverFile {
  const file = { format, ...begin, file: "" } as HandoverFile,
    { ending } = kindOfFile(file),
    name = (k: number) => `{job}-${called}${k > 1 ? `-${k}` : ""}.${ending}`;
  let k = 1;
  while (taken.some((f) => f.file === name(k))) k++;
  return { ...file, file: name(k) };
}
