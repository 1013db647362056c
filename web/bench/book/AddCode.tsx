"use client";
/** A new code, from nothing or from one that there is. */
import { useState } from "react";
import type { CodeEntry } from "@bramble/core";
import { useParts } from "../../lib/store";
import { PLAIN_COLOR } from "../../lib/view";
import { Choice } from "../../controls/fields/Choice";
import { NameForm } from "../../controls/fields/NameForm";

export function AddCode({
  codes,
  first,
  group,
  done,
  leave,
}: {
  codes: readonly CodeEntry[];
  /** The code to start from, unless another is chosen. */
  first: string;
  /** The group that is looked at. */
  group: string;
  done: (code: string) => void;
  leave: () => void;
}) {
  const { change, set } = useParts("change", "set");
  const [base, setBase] = useState(first);
  const add = async (name: string) => {
    const code = name.toUpperCase();
    if (!/^[A-Z][A-Z0-9_-]*$/.test(code))
      return set({
        notice: { text: `“${name}” is no code: a letter first, then letters, digits, _ or -.`, tone: "problem" },
      });
    const from = codes.find((c) => c.code === base);
    const made: CodeEntry = from
      ? { ...from, code, name: `${from.name ?? from.code}, changed`, layer: from.layer?.replace(from.code, code) }
      : { code, kind: "point", symbol: "circle", color: PLAIN_COLOR, ...(group ? { group } : {}) };
    if (await change({ type: "named", part: "codes", name: code, old: null, new: made })) {
      done(code);
    }
  };
  return (
    <div className="flex items-end gap-2 border-t border-rule px-4 pt-2">
      <div className="pb-3">
        <Choice
          label="Start from"
          value={base}
          onChange={setBase}
          options={[["", "nothing"], ...codes.map((c) => [c.code, c.code] as const)]}
        />
      </div>
      <NameForm label="New code" action="Add it" first="" taken={codes.map((c) => c.code)} make={add} leave={leave} />
    </div>
  );
}
