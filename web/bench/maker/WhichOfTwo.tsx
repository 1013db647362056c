"use client";
/** Which of two positions that fit is meant, as an alternative to a click on the sheet. */
import { Radio } from "../../controls/fields/Tick";
import type { Maker } from "./use-maker";

export function WhichOfTwo({
  maker: { given, chosen, choose },
  text,
}: {
  maker: Maker;
  /** A position in words. */
  text: (at: readonly [e: number, n: number, z: number]) => string;
}) {
  return (
    <fieldset>
      <legend className={chosen === undefined ? "text-amber" : ""}>
        Two positions fit: choose the one that is meant here, or on the sheet.
      </legend>
      {given?.construed.at.map((p, k) => (
        <Radio
          key={k}
          group="which of two"
          words={`${k + 1}: ${text(p)}`}
          on={chosen === k}
          set={() => choose(k)}
          className="flex items-center gap-2 text-ink"
        />
      ))}
    </fieldset>
  );
}
