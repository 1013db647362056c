/**
 * The words that shapes are written in, as JSON schema: a recipe is validated by them and, part by part, what the
 * browser sends.
 */
import { REACH } from "./math/reach";

export type Schema = Record<string, unknown>;

export const text: Schema = { type: "string" };
/** Letters that a name has at most, a point's number among them: all are sought by it. */
export const LONGEST_NAME = 200;
/** Words on a page: as long as a name at most, and blank as well. */
export const shortText: Schema = { type: "string", maxLength: LONGEST_NAME };
export const name: Schema = { type: "string", minLength: 1, maxLength: LONGEST_NAME };
export const finite: Schema = { type: "number" };
/** A coordinate, a level or a length with a sign, in the job's unit. */
export const coordinate: Schema = { type: "number", minimum: -REACH, maximum: REACH };
export const rgb: Schema = { type: "string", pattern: "^#[0-9a-fA-F]{6}$", written: "a colour such as #7a5a2e" };
export const positive: Schema = { type: "number", exclusiveMinimum: 0 };
export const notNegative: Schema = { type: "number", minimum: 0 };
export const whole = (minimum: number, maximum: number): Schema => ({ type: "integer", minimum, maximum });
export const oneOf = (...values: unknown[]): Schema => ({ enum: values });
export const listOf = (items: Schema, more: Schema = {}): Schema => ({ type: "array", items, ...more });
export const record = (properties: Record<string, Schema>, required: string[] = []): Schema => ({
  type: "object",
  properties,
  required,
  additionalProperties: false,
});
/** One shape where a field is there, else another. */
export const has = (field: string, then: Schema, otherwise: Schema): Schema => ({
  if: { type: "object", required: [field] },
  then,
  else: otherwise,
});
/** A point by identity (points/refs.ts). */
export const pointRef: Schema = {
  type: "string",
  minLength: 1,
  maxLength: 500,
  pattern: "^.+:.+$",
  written: "a delivery and a row of its file, such as day1:12",
};
/** Points by their numbers: a list as it is written, or the exact numbers. */
export const numbers: Schema = {
  if: { type: "string" },
  then: { type: "string", minLength: 1, maxLength: 1_000_000 },
  else: listOf(name, { minItems: 1, maxItems: 1_000_000 }),
  written: 'numbers such as "1-5, K7", or a list of them',
};
export const position: Schema = { type: "array", items: coordinate, minItems: 2, maxItems: 2 };
