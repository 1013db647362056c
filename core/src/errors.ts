/**
 * The one catalogue of refusals: what cannot be done, in a sentence that says what, where and what to do,
 * with the same facts as data for a program. Findings (things noticed in good data) are in finding.ts.
 */
const catalogue = {
  "file-empty": (d: { file: string }) => `“${d.file}” is empty. Choose the file that the crew sent.`,
  "file-binary": (d: { file: string; at: number }) =>
    `“${d.file}” is not text: byte ${d.at} is zero. Choose a text file of points.`,
  "file-too-large": (d: { file: string; bytes: number; limit: number }) =>
    `“${d.file}” has ${megabytes(d.bytes)} MB; this office takes up to ${megabytes(d.limit)} MB. Split it, or raise the limit.`,
  "file-xml": (d: { file: string; row: number; why: string }) => `“${d.file}”, row ${d.row}: ${d.why}.`,
  "file-format": (d: { file: string; what: string; why: string }) =>
    `“${d.file}” cannot be read as ${d.what}: ${d.why}.`,
  "file-container": (d: { file: string; what: string; why: string }) =>
    `“${d.file}” cannot be opened as ${d.what}: ${d.why}. Ask for the file again, or take in another format.`,
  "file-unpacks": (d: { file: string; bytes: number; limit: number }) =>
    `“${d.file}” would unpack to ${megabytes(d.bytes)} MB; this office takes up to ${megabytes(d.limit)} MB. It was not opened.`,
  "file-table": (d: { file: string; table: string; tables: string[] }) =>
    d.tables.length === 0
      ? `“${d.file}” holds no table with rows.`
      : `“${d.file}” has no table “${d.table}”. It has ${d.tables
          .slice(0, 8)
          .map((t) => `“${t}”`)
          .join(", ")}.`,
  "file-geoid": (d: { file: string; why: string }) => `The geoid grid “${d.file}” cannot be used: ${d.why}.`,
  "system-unknown": (d: { system: string }) =>
    `“${d.system}” is not a coordinate system that is known here. Write it as EPSG: and its number, such as EPSG:25832.`,
  "system-missing": (d: { file: string }) =>
    `“${d.file}” gives latitudes and longitudes, ` +
    "and the job has no coordinate system to bring them into. Set it in the job's settings.",
  "line-missing": (d: { file: string }) => `“${d.file}” gives stations and offsets. Say which line they refer to.`,
  "line-unknown": (d: { file: string; line: string }) =>
    `“${d.file}” refers to the line “${d.line}”, which no file of this job has.`,
  "file-line-too-long": (d: { file: string; row: number }) =>
    `“${d.file}”, row ${d.row}: one line is longer than a megabyte. This is no list of points.`,
  "file-no-rows": (d: { file: string }) =>
    `“${d.file}” has no row that gives a point. Check the delimiter and what each column means.`,
  "file-unreadable": (d: { file: string; why: string }) => `“${d.file}” cannot be opened: ${d.why}.`,
  "layout-columns": (d: { missing: string[] }) =>
    `The layout has no column for ${d.missing.join(" and ")}. Say which column that is.`,
  "layout-column-twice": (d: { column: string }) => `Two columns are both “${d.column}”. Set one of them to skip.`,
  "number-clash": (d: { intake: string; number: string; row: number }) =>
    `Intake “${d.intake}”, row ${d.row}: point ${d.number} is there already. Choose what happens to numbers used twice.`,
  "recipe-json": (d: { file: string; why: string }) => `“${d.file}” is not JSON: ${d.why}.`,
  "recipe-field": (d: { path: string; why: string; nearest?: string }) =>
    `${d.path || "The recipe"}: ${d.why}${d.nearest ? `. Did you mean “${d.nearest}”?` : "."}`,
  "recipe-outside": (d: { path: string; file: string }) =>
    `${d.path}: “${d.file}” lies outside the folder it must stay in.`,
  "surface-too-few": (d: { surface: string; points: number }) =>
    `Surface “${d.surface}” has ${["no points", "one point"][d.points] ?? `${d.points} points`} with an elevation; ` +
    "it needs three that are not on one line.",
  "surface-on-one-line": (d: { surface: string; points: number }) =>
    `All ${d.points} points of surface “${d.surface}” lie on one line, so there is no triangle between them.`,
  "surface-nothing-left": (d: { surface: string }) =>
    `The edge and holes of surface “${d.surface}” leave nothing of it. Draw them over its points, or take them away.`,
  "surface-triangles": (d: { surface: string; why: string }) => `Surface “${d.surface}”: ${d.why}.`,
  "area-wrong": (d: { what: string; why: string; e: number; n: number }) =>
    `${d.what} ${d.why}${Number.isFinite(d.e) ? `, at E ${d.e.toFixed(3)} N ${d.n.toFixed(3)}` : ""}. Draw it anew.`,
  "area-lines": (d: { what: string; code: string; why: string }) =>
    `${d.what} is bounded by the lines ${d.code}, and ${d.why}. Close the line, or name another.`,
  "area-lost": (d: { e: number; n: number }) =>
    `An area's side from E ${d.e.toFixed(3)} N ${d.n.toFixed(3)} on could not be followed. Draw it anew, its corners farther apart.`,
  "toe-outside": (d: { name: string; e: number; n: number }) =>
    `The toe of “${d.name}” leaves the surface at E ${d.e.toFixed(3)} N ${d.n.toFixed(3)}. Draw it on the surface.`,
  "storage-levels": (d: { name: string; why: string }) => `The storage “${d.name}”: ${d.why}.`,
  "volume-apart": (d: { name: string; what: string }) =>
    `“${d.name}” has no area: ${d.what} have nothing in common. Compare what lies over one another.`,
  "difference-apart": (d: { name: string; points: number; against: "surface" | "line" | "points" }) =>
    d.points === 0
      ? d.against === "points"
        ? `“${d.name}”: no point as built has one as designed. Choose other points, or another way of pairing them.`
        : `“${d.name}” has no points. Choose a set or numbers that are there.`
      : `“${d.name}”: none of its points ${d.against === "surface" ? "lies on the surface with an elevation" : "has a position"}.`,
  "reference-missing": (d: { path: string; what: string; name: string }) =>
    `${d.path}: there is no ${d.what} “${d.name}”.`,
  "source-failed": (d: { name: string; source: string }) =>
    `“${d.name}” cannot be made because surface “${d.source}” could not be made.`,
  "change-outdated": (d: {
    what: string;
    theirs: string;
    mine?: string;
    author?: string;
    clash?: { id: number; field: string; theirs: unknown; mine: unknown };
  }) =>
    `${d.what} was changed meanwhile${d.author ? ` by ${d.author}` : ""}: it is now ${d.theirs}.` +
    `${d.mine === undefined ? " Your change was not stored" : ` Yours, ${d.mine}, was not stored`}; ` +
    `look again and repeat it if it still applies.`,
  "job-busy": (d: { seconds: number; who?: string }) =>
    `${d.who ? `A change by ${d.who}` : "Another change of this job"} has been on its way for ${d.seconds} seconds, ` +
    "and this one would not wait longer. Nothing of it was stored; try again.",
  "storing-slow": (d: { seconds: number }) =>
    `The database took longer than ${d.seconds} seconds over one step and was stopped. ` +
    "Nothing was stored; try again, or split the work.",
  "storing-unknown": () => "The answer was lost on its way: it is not known whether this was stored. It is looked up.",
  "change-unstored": () => "Nothing of this was stored. Do it again.",
  "database-away": () => "The database does not answer. Nothing was stored; it is tried again until it answers.",
  "disk-full": (d: { where: "database" | "server" }) =>
    `The disk of the ${d.where} is full. Nothing was stored: make room there, then try again.`,
  "database-short": (d: { what: string }) =>
    `The database has no ${d.what} left just now. Nothing was stored; try again in a moment.`,
  "database-read-only": () =>
    "The database takes nothing in at present: it may only be read. Nothing was stored; who looks after it knows why.",
  "database-newer": (d: { names: string[] }) =>
    `The database was last used by a newer version of Rough Bramble, which changed it by ${d.names.join(", ")}. ` +
    "Start that version, or restore a backup of before; this one does not touch it.",
  "work-long": (d: { what: string; seconds: number }) =>
    `${d.what} took longer than ${d.seconds} seconds and was ended. Nothing was stored; split it and try again.`,
  "work-large": (d: { what: string; limit: number }) =>
    `${d.what} needed more than ${megabytes(d.limit)} MB of memory and was ended. ` +
    "Nothing was stored; split it and try again.",
  "work-ended": (d: { what: string }) => `${d.what} ended unexpectedly. Nothing was stored; try again.`,
  "work-many": () => "Too much is asked for at once. Nothing was stored; try again in a moment.",
  "upload-slow": (d: { file: string; seconds: number }) =>
    `Nothing more of “${d.file}” came for ${d.seconds} seconds. Nothing was stored; try again.`,
  "upload-gave-way": (d: { file: string }) =>
    `“${d.file}” came slowly while others waited, and gave its place to them. Nothing was stored; try again.`,
  "point-follows": (d: { number: string }) =>
    `Point ${d.number} follows what it was constructed from. Change its construction in its story, or let it stand where it is.`,
  "point-fitted": (d: { number: string; move: string }) =>
    `“${d.move}” is fitted by where point ${d.number} was, and brings it here. Take its pair out of the fit first, or change the point without the move.`,
  "change-reference": (d: { number: string }) =>
    `Point ${d.number} came from a drawing and is read-only. Withdraw its intake, or take the place in as a point of its own.`,
  "change-number-taken": (d: { number: string }) =>
    `Point ${d.number} is there already. Give this point another number.`,
  "numbers-open": (d: { numbers: readonly string[]; earlier: string; later: string }) => {
    const [few, more] = [d.numbers.slice(0, 5).join(", "), d.numbers.length - 5];
    return `${d.numbers.length === 1 ? "Number" : "Numbers"} ${few}${more > 0 ? ` and ${more} more` : ""} would be there twice, in “${d.earlier}” and in “${d.later}”, which came later and has no answer for them. Give those points other numbers first, or read “${d.later}” again with an answer.`;
  },
  "change-unknown": (d: { what: string }) => `${d.what} is not in this job any more. Look again.`,
  "change-leaves": (d: { why: string }) =>
    `${d.why.replace(/\.$/, "")}, which would not be there. Nothing was stored: change or remove that first.`,
  "package-broken": (d: { why: string }) =>
    `The job cannot be written down so that it opens again, and no file was made: ${d.why}`,
  "reading-same": (d: { file: string }) => `“${d.file}” is read in this way already.`,
  "undo-nothing": (d: { author: string; kind: "undo" | "redo" }) =>
    d.kind === "undo"
      ? `Nothing that ${d.author} did is left to take back.`
      : `Nothing that ${d.author} took back is left to do again.`,
  "undo-delivery": (d: { file: string; deed: string; seq: number; kind: "undo" | "redo" }) =>
    d.kind === "undo"
      ? `The last that you did: ${d.deed}. A delivery is taken back only when you say so; all that hangs on “${d.file}” goes with it.`
      : `The last that you took back: ${d.deed}. A delivery is done again only when you say so.`,
  "undo-order": (d: { deed: string; why: string }) => `${d.deed}: this cannot be taken back as it was. ${d.why}`,
  "only-unread": (d: { what: "numbers" | "time"; text: string }) =>
    d.what === "numbers"
      ? `“${d.text}” is no list of numbers. Write them with commas and ranges, such as 12, 40-52.`
      : `“${d.text}” is no time. Write it as 2031-04-17 08:00 or 08:00.`,
  "files-many": (d: { most: number }) => `A job keeps at most ${d.most} made files. Take some of them away first.`,
  "handover-system": (d: { file: string }) =>
    `“${d.file}” is in latitude and longitude, and the job has no coordinate system. Set it in the job's settings.`,
  "handover-position": (d: { file: string; system: string; e: number; n: number }) =>
    `“${d.file}”: E ${d.e.toFixed(3)} N ${d.n.toFixed(3)} has no latitude and longitude in ${d.system}. ` +
    "Check the coordinate system in the job's settings.",
  "handover-large": (d: { file: string; what: string; instead: string }) =>
    `“${d.file}” would have ${d.what}, more than its format can hold. ${d.instead}.`,
  "handover-proof": (d: { file: string; why: string }) =>
    `“${d.file}” was read back before it left, and ${d.why}. It was not handed over; please report this.`,
  "handover-application": (d: { file: string; what: string }) =>
    `“${d.file}” is a ${d.what}, which only the application writes. Leave it out of the handover to run the rest.`,
  "handover-part": (d: { file: string; part: string; why: string }) =>
    `“${d.file}” cannot be made because of “${d.part}”: ${d.why}`,
  "handover-circle": (d: { file: string }) =>
    `The package “${d.file}” cannot hold a package. Leave it out of its files.`,
  "handover-empty": (d: { file: string }) =>
    `The package “${d.file}” has nothing to hold. Add files to the handover first.`,
  "handover-no-points": (d: { file: string; points: string }) =>
    `“${d.file}” would hold no points: “${d.points}” names none that is there. Choose a set or numbers of the job.`,
  "plan-empty": (d: { file: string }) => `“${d.file}” has nothing to draw: the job has no points yet.`,
  "plan-sheets": (d: { file: string; sheets: number; limit: number; scale: number }) =>
    `“${d.file}” would need ${d.sheets} sheets at 1 : ${d.scale}, more than ${d.limit}. ` +
    "Choose larger paper or a smaller scale.",
  "plan-grid": (d: { file: string; step: string; scale: number; least: string }) =>
    `The grid of “${d.file}”, every ${d.step}, is too fine for 1 : ${d.scale}. Give it at least ${d.least}.`,
  "report-empty": () => "None of the comparisons that the report is to tell of is in the job any more.",
  "file-unwanted": () => "The file was taken away while it was being made.",
  "job-unknown": (d: { job: string }) => `There is no job “${d.job}”. Open one from the list.`,
  "request-wrong": (d: { why: string }) => `${d.why}.`,
  "author-missing": () => "Say who is at the keyboard first, so that the ledger can name you.",
} as const;

type Catalogue = typeof catalogue;
export type RefusalCode = keyof Catalogue;
export type RefusalData<C extends RefusalCode> = Parameters<Catalogue[C]> extends [infer D] ? D : Record<string, never>;

/** A typed refusal: `message` for the person, `code` and `data` for the program. */
export class Refusal extends Error {
  constructor(
    readonly code: RefusalCode,
    readonly data: Record<string, unknown>,
    message: string,
  ) {
    super(message);
    this.name = "Refusal";
  }

  toJSON() {
    return { code: this.code, message: this.message, data: this.data };
  }
}

/** Makes a refusal of the catalogue. */
export function refusal<C extends RefusalCode>(code: C, data: RefusalData<C>): Refusal {
  const say = catalogue[code] as (d: RefusalData<C>) => string;
  return new Refusal(code, data as Record<string, unknown>, say(data));
}

export const refusalCodes = Object.keys(catalogue) as RefusalCode[];

function megabytes(bytes: number): string {
  return (bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0);
}
