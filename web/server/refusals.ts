/** What may go wrong, as a refusal with its sentence. */
import { refusal, Refusal } from "@bramble/core";
import { databaseRefusal } from "@bramble/db";
import { ValidationError } from "yup";

/** What the system says where a file cannot be written for want of room. */
const DISK_FULL: ReadonlySet<unknown> = new Set(["ENOSPC", "EDQUOT"]);

/** Undefined for what nobody foresaw. */
export function asRefusal(e: unknown): Refusal | undefined {
  if (e instanceof Refusal) return e;
  if (e instanceof ValidationError) return refusal("request-wrong", { why: e.errors[0] ?? e.message });
  if (DISK_FULL.has((e as { code?: unknown }).code)) return refusal("disk-full", { where: "server" });
  return databaseRefusal(e);
}
