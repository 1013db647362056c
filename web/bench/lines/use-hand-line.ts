"use client";
/** What is in the form of a line by hand: a half-drawn line is still there after a visit to another place. */
import { useMemo } from "react";
import { writeNumbers, type HandLine } from "@bramble/core";
import { useFound } from "../../lib/use-found";
import { endingDigits } from "@bramble/core/math/words";
import { orderedNumbers } from "@bramble/core/points/numbers";
import { useKept } from "../../lib/use-kept";

export type Completing = "" | "closed" | "quad" | "box";

export interface HandLineDraft {
  code: string;
  run: string;
  /** Its points as they are typed. */
  text: string;
  /** Those of them that are the middles of arcs, as they were picked. */
  middles: readonly string[];
  complete: Completing;
  width: string;
}

/** `line` is one that is changed; a new one begins with a code and nothing else. */
export function useHandLine(line: HandLine | undefined, firstCode: string) {
  const { numberOf } = useFound();
  const first = useMemo((): HandLineDraft => {
    const code = line?.code ?? "",
      end = endingDigits(code),
      [stem, digits] = [code.slice(0, end), code.slice(end)];
    return {
      code: stem || firstCode,
      run: digits,
      text: writeNumbers((line?.points ?? []).map(numberOf)),
      middles: [],
      complete: line?.closed ? "closed" : "",
      width: "",
    };
  }, [line, firstCode, numberOf]);
  const [begun, setBegun] = useKept<HandLineDraft | undefined>(`lines.drawing ${line?.name ?? ""}`, undefined);
  return {
    draft: begun ?? first,
    put: (part: Partial<HandLineDraft>) => setBegun((now) => ({ ...(now ?? first), ...part })),
    /** One point more at its end, the middle of an arc or not. */
    add: (number: string, isMiddle = false) =>
      setBegun((now) => {
        const from = now ?? first;
        const list = orderedNumbers(from.text.trim().replace(/,\s*$/, ""));
        return {
          ...from,
          text: writeNumbers([...list, number]),
          middles: isMiddle ? [...from.middles, number] : from.middles,
        };
      }),
    forget: () => setBegun(undefined),
  };
}
