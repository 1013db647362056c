"use client";
/** Keeps how this file is read under a name, for the next one like it. */
import { useState } from "react";
import type { IntakeOptions, Look } from "@bramble/core";
import { postJson } from "../../lib/client";
import { NameForm } from "../../controls/fields/NameForm";

export function KeepLayout({
  look,
  given,
  likeness,
  kept,
}: {
  look: Look;
  given: IntakeOptions;
  likeness: string;
  kept: string | undefined;
}) {
  const [naming, setNaming] = useState(false),
    [said, setSaid] = useState(kept ? `Read as “${kept}”, a layout that the office keeps.` : "");
  if (!look.layout || (look.format !== "delimited" && look.format !== "fixed")) return null;
  const keep = async (name: string) => {
    try {
      await postJson("/api/office/layout", {
        name,
        body: { format: look.format, layout: look.layout, ...(given.unit ? { unit: given.unit } : {}), likeness },
      });
      setSaid(`Kept as “${name}”: the next file like this one is read so by itself.`);
      setNaming(false);
    } catch (e) {
      setSaid((e as Error).message);
    }
  };
  return (
    <div className="flex min-h-7 items-center gap-3">
      {naming ? (
        <NameForm
          label="Name of the layout"
          action="Keep it"
          first={kept ?? ""}
          taken={[]}
          make={keep}
          leave={() => setNaming(false)}
        />
      ) : (
        <button className="button button-plain" onClick={() => setNaming(true)}>
          Keep this layout for next time
        </button>
      )}
      {said && !naming && (
        <p role="status" className="text-soft">
          {said}
        </p>
      )}
    </div>
  );
}
