/** Names of files by a pattern: `{job}`, `{client}`, `{date}` and `{entry}` stand for what the job has. */
import { refusal } from "../errors";
import type { HandoverFile, PackageFile } from "./files";

export const NAME_WORDS = ["job", "client", "date", "entry"] as const;

/** What names are made of; the entry is that of the ledger which the job is after, a recipe has none. */
export interface NameFacts {
  name: string;
  client?: string;
  date?: string;
}

/** The name under which a file leaves whose name is this pattern. */
export function leavingName(pattern: string, { name, client, date }: NameFacts, entry?: number): string {
  const of = {
    job: plainName(name),
    client: plainName(client ?? "", "client"),
    date: date ?? "undated",
    entry: entry === undefined ? "recipe" : String(entry),
  };
  return pattern.replace(/\{(job|client|date|entry)\}/g, (_, word: keyof typeof of) => of[word]);
}

/** Names of devices on some systems, whatever their ending: a file of such a name opens nowhere there. */
const DEVICE = /^(con|prn|aux|nul|(com|lpt)[0-9¹²³])(\.|$)/i;

/** Whether a part of a path is a name, and no way out and no device. */
const isPlainPart = (part: string): boolean => !/^\.*$/.test(part) && !DEVICE.test(part);

/** Whether a file of this name stays in the folder or archive that it is put into, and can be written on any system. */
export function staysInside(name: string): boolean {
  return !/^[A-Za-z]:|\\|\p{Cc}/u.test(name) && name.split("/").every(isPlainPart);
}

/** A text as a part of a file's name: small letters without their marks, digits, dashes. */
export function plainName(text: string, otherwise = "job"): string {
  const plain = text
    .normalize("NFKD")
    .replace(/\p{Mark}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
  return plain.slice(0, 60) || otherwise;
}

/** The files that a package holds, in the order of the handover. Throws a Refusal where one of them is not there. */
export function filesOf(file: PackageFile, handover: readonly HandoverFile[]): Exclude<HandoverFile, PackageFile>[] {
  const singles = handover.filter((f) => f.format !== "package");
  for (const name of file.files ?? [])
    if (!singles.some((f) => f.file === name)) {
      if (handover.some((f) => f.file === name)) throw refusal("handover-circle", { file: file.file });
      throw refusal("reference-missing", { path: `handover “${file.file}”`, what: "file", name });
    }
  const held = file.files ? singles.filter((f) => file.files!.includes(f.file)) : singles;
  if (held.length === 0) throw refusal("handover-empty", { file: file.file });
  return held;
}
