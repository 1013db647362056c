/**
 * Yup's rules made from the descriptions of the core (shape.ts), so that a field, its limits and the words for what
 * is wrong with it stand there alone.
 */
import { checkShape } from "@bramble/core";
import type { Schema as Shape } from "@bramble/core/shape";
import { mixed, type AnyObject, type Schema } from "yup";

/** Anything that fits a description; `path` begins what is said of it. Left out it is undefined. */
export function shaped<T = unknown>(shape: Shape, path: string): Schema<T | undefined> {
  return mixed<T & AnyObject>().test("shape", function (value: unknown) {
    const wrong = value === undefined ? undefined : checkShape(shape, value, path);
    return wrong ? this.createError({ message: wrong.message }) : true;
  }) as unknown as Schema<T | undefined>;
}

/** The fields of a description of a record, each as Yup has it. */
export function fieldsOf(shape: Shape, path: string, but: readonly string[] = []): Record<string, Schema> {
  const { properties = {} } = shape as { properties?: Record<string, Shape> };
  return Object.fromEntries(
    Object.entries(properties)
      .filter(([field]) => !but.includes(field))
      .map(([field, own]) => [field, shaped(own, `${path}.${field}`)]),
  );
}
