/** Files as they may be added to the handover: what each is, and how it begins. */
import { DEFAULT_COLUMNS, DEFAULT_DECIMALS, HANDOVER_FORMATS, kindOfFile, type HandoverFile } from "@bramble/core";

export interface Kind {
  /** In the list of what may be added. */
  title: string;
  /** What it is good for, in one line. */
  about: string;
  /** A new one without its name. */
  begin: Omit<HandoverFile, "file">;
  /** The middle of its name. */
  called: string;
}

const kind = (title: string, about: string, called: string, begin: object): Kind => ({
  title,
  about,
  called,
  begin: begin as Kind["begin"],
});

export const KINDS: readonly Kind[] = [
  kind("Points as text", "columns and order by choice, for any program", "points", {
    format: "csv",
    columns: DEFAULT_COLUMNS,
    decimals: DEFAULT_DECIMALS,
  }),
  kind("Workbook", "points, lines and areas as sheets", "points", { format: "xlsx" }),
  kind("Plan sheet", "PDF to scale with title block, grid and legend", "sheet", { format: "pdf" }),
  kind("DXF drawing", "lines, symbols, notes, contours, triangles for drafting", "plan", { format: "dxf" }),
  kind("LandXML", "points, lines, surfaces, raw observations for design", "survey", { format: "landxml" }),
  kind("GeoPackage", "points, lines, areas, contours as tables for mapping", "survey", { format: "gpkg" }),
  kind("GeoJSON", "the same as one text for the web", "survey", { format: "geojson" }),
  kind("KML", "for a globe; needs a coordinate system", "survey", { format: "kml" }),
  kind("List of lines", "lengths and slope lengths", "lines", { format: "list", of: "lines" }),
  kind("List of areas", "areas and perimeters", "areas", { format: "list", of: "areas" }),
  kind("Setup report", "backsights, faces and checks of each setup", "setups", { format: "list", of: "setups" }),
  kind("Report of volumes", "figures, maps and sections of the comparisons", "volumes", {
    format: "report",
    as: "pdf",
  }),
  kind("Back to the crew", "one page of what is open and where", "questions", {
    format: "report",
    as: "pdf",
    of: "crew",
  }),
  kind("Questions as points", "the positions to measure again, as text", "questions", {
    format: "list",
    of: "questions",
  }),
  kind("Code book", "codes, layers and notes as the job has them", "codes", { format: "codebook" }),
  kind("Ledger", "what was done to the job, entry by entry", "ledger", { format: "ledger" }),
  kind("Recipe", "the job written down; runs without the application", "recipe", { format: "recipe" }),
  kind("Package", "all files in one archive with a manifest", "handover", { format: "package" }),
];

const LIST_WORDS = {
  lines: "list of lines",
  areas: "list of areas",
  setups: "setup report",
  questions: "questions as points",
};

/** What a file is, in words. */
export function wordsOf(file: HandoverFile): string {
  if (file.format === "list") return LIST_WORDS[file.of];
  if (file.format === "report" && file.of === "crew") return "back to the crew";
  if (file.format === "recipe" && file.with) return "recipe with its files";
  return HANDOVER_FORMATS[file.format].name;
}

/** A new file of a kind under a name that no other has. */
export function fileOf({ begin, called }: Kind, taken: readonly HandoverFile[]): HandoverFile {
  const { ending } = kindOfFile({ file: "", ...begin } as HandoverFile),
    name = (k: number) => `{job}-${called}${k > 1 ? `-${k}` : ""}.${ending}`;
  let k = 1;
  while (taken.some((f) => f.file === name(k))) k++;
  return { ...begin, file: name(k) } as HandoverFile;
}

/** What most jobs hand over. */
export const USUAL = [
  "Points as text",
  "Plan sheet",
  "DXF drawing",
  "LandXML",
  "List of lines",
  "Code book",
  "Package",
];
