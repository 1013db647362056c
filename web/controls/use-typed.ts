"use client";
import { formatFixed, plainNumber } from "@bramble/core/math/round";
import { useText } from "./use-text";

/**
 * The text of a number's field. Until it is typed in, it is the number as people read it, which may have fewer digits
 * than the number has: what was not touched is not to be stored. A number changed elsewhere takes the place of what
 * stands in the field, unless that is being typed.
 */
export function useTyped(value: number | undefined, decimals?: number) {
  const own =
    value === undefined
      ? ""
      : decimals === undefined
        ? plainNumber(value)
        : plainNumber(Number(formatFixed(value, decimals)) || value);
  const field = useText(own);
  return { ...field, touched: field.text !== own };
}
