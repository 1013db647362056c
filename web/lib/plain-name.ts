/** A job's name as the beginning of a file's name: small letters without their marks, digits, dashes. */
export function plainName(job: string): string {
  const plain = job
    .normalize("NFKD")
    .replace(/\p{Mark}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
  return plain.slice(0, 60) || "job";
}
