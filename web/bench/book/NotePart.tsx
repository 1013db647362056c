"use client";
/** The note beside a code's points or lines: its template, where it stands and how large. */
import type { CodeEntry, Unit } from "@bramble/core";
import { readTemplate } from "@bramble/core/drawing/label";
import { Choice } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";
import { OptionalNumberField } from "../../controls/fields/fields";
import { Part, type Put } from "./code-fields";

export function NotePart({ draft, unit, put, leave }: { draft: CodeEntry; unit: Unit; put: Put; leave: () => void }) {
  const kind = draft.kind ?? "point",
    isPoint = kind === "point";
  const template = draft.label ? readTemplate(draft.label) : undefined;
  const problem = template && "problem" in template ? template.problem : missingNames(draft);
  return (
    <Part
      title="Note"
      about="fixed words, {attributes}, {number}, {elevation:2}; [ ] is left out when its value is missing"
    >
      <Typed
        label="Note template"
        named={false}
        className="field w-full font-mono text-[12px]"
        text={draft.label ?? ""}
        most={200}
        placeholder="{kind}[ {height:1} m]"
        onType={(label) => put({ label: label || undefined }, false)}
        take={() => problem === undefined && leave()}
        problem={problem}
      />
      <div className="mt-2 flex flex-wrap gap-2">
        <Choice
          label="Stands"
          value={draft.labelAt?.place ?? "auto"}
          onChange={(v) => put({ labelAt: { ...draft.labelAt, place: v === "auto" ? undefined : v } })}
          options={
            isPoint
              ? [
                  ["auto", "where there is room"],
                  ["right", "right"],
                  ["left", "left"],
                  ["above", "above"],
                  ["below", "below"],
                  ["centre", "on the symbol"],
                ]
              : [
                  ["auto", kind === "area" ? "within" : "beside the line"],
                  ["right", "on its right"],
                  ["left", "on its left"],
                  ["above", "above"],
                  ["below", "below"],
                  ["centre", kind === "area" ? "in the middle" : "on the line"],
                ]
          }
        />
        {isPoint && (
          <Choice
            label="Begins"
            value={draft.labelAt?.align ?? "middle"}
            onChange={(v) => put({ labelAt: { ...draft.labelAt, align: v === "middle" ? undefined : v } })}
            options={[
              ["middle", "centred"],
              ["start", "at the symbol"],
              ["end", "ends at the symbol"],
            ]}
          />
        )}
        {kind === "line" && (
          <OptionalNumberField
            label={`Repeated every ${unit}`}
            value={draft.labelAt?.every}
            onChange={(every) => put({ labelAt: { ...draft.labelAt, every } })}
            width="w-28"
          />
        )}
        <OptionalNumberField
          label="Text height mm"
          value={draft.labelAt?.height}
          placeholder="1.8"
          least={0.5}
          onChange={(height) => put({ labelAt: { ...draft.labelAt, height } })}
          width="w-24"
        />
      </div>
    </Part>
  );
}

const ALWAYS = ["code", "name", "number", "elevation", "note"],
  OF_LINES = ["length", "area", "run", "line"];

function missingNames(entry: CodeEntry): string | undefined {
  const read = entry.label ? readTemplate(entry.label) : undefined;
  if (!read || !("template" in read)) return undefined;
  const known = [
    ...ALWAYS,
    ...(entry.kind === "line" || entry.kind === "area" ? OF_LINES : []),
    ...(entry.attributes ?? []).map((a) => a.name),
  ];
  const missing = read.template.names.find((n) => !known.some((k) => k.toLowerCase() === n.toLowerCase()));
  return missing === undefined
    ? undefined
    : `{${missing}} is no attribute of this code. There are ${known.map((k) => `{${k}}`).join(", ")}.`;
}
