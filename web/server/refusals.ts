/** What may go wrong, as a refusal with its sentence. */
import { refusal, Refusal } from "@bramble/core";
import { databaseRefusal } from "@bramble/db";
import { ValidationError } from "yup";

/** Undefined for what nobody foresaw. */
export function asRefusal(e: unknown): Refusal | undefined {
  if (e instanceof Refusal) return e;
  if (e instanceof ValidationError) return refusal("request-wrong", { why: e.errors[0] ?? e.message });
  return databaseRefusal(e);
}
