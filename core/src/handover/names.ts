/** Names of files by a pattern: `{job}`, `{client}`, `{date}` and `{entry}` stand for what the job has. */

export interface NameFacts {
  job: string;
  client: string;
  /** The job's date; "undated" where it has none. */
  date: string | undefined;
  /** The entry of the ledger that the job is after; a recipe has none. */
  entry: number | undefined;
}

export const NAME_WORDS = ["job", "client", "date", "entry"] as const;

/** The name that a pattern gives. */
export function fileNameOf(pattern: string, { job, client, date, entry }: NameFacts): string {
  const of = {
    job: plainName(job),
    client: plainName(client, "client"),
    date: date ?? "undated",
    entry: entry === undefined ? "recipe" : String(entry),
  };
  return pattern.replace(/\{(job|client|date|entry)\}/g, (_, word: keyof typeof of) => of[word]);
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
