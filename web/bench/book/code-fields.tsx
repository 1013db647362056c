"use client";
/** Fields of one code: each is kept when it is left. */
import type { ReactNode } from "react";
import type { AttributeDefinition, CodeEntry } from "@bramble/core";
import { numberReading, orNothing, type Reading } from "../../controls/fields/reading";
import { Taken } from "../../controls/fields/Taken";
import { Choice } from "../../controls/fields/Choice";

/** Puts parts into the code; with `keep` false only into its picture, until the field is left. */
export type Put = (part: Partial<CodeEntry>, keep?: boolean) => void;

export function Part({ title, about, children }: { title: string; about?: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="font-medium">
        {title} {about && <span className="label font-normal">{about}</span>}
      </h2>
      <div className="mt-1">{children}</div>
    </section>
  );
}

/** Codes are capitals; what is typed becomes so. */
const CODE: Reading<string> = {
  write: (code) => code,
  read(text) {
    const value = text.trim().toUpperCase();
    return /^[A-Z][A-Z0-9_-]*$/.test(value) ? { value } : { problem: "A letter first, then letters, digits, _ or -" };
  },
};

export function CodeName({ code, rename }: { code: string; rename: (code: string) => void }) {
  return (
    <Taken
      label="Code"
      width="w-full font-medium uppercase"
      most={60}
      back
      reading={CODE}
      value={code}
      onChange={rename}
    />
  );
}

/** A fixed value, or one that a shot's attribute gives. */
export function FixedOrMeasured({
  label,
  unit,
  fixed,
  attribute,
  own,
  attributes,
  positive,
  onChange,
}: {
  label: string;
  unit: string;
  fixed: number | undefined;
  attribute: string | undefined;
  own: number;
  attributes: AttributeDefinition[];
  positive?: boolean;
  onChange: (v: { fixed?: number; attribute?: string } | undefined) => void;
}) {
  const reading = orNothing(
    numberReading((x) => !positive || x > 0, positive ? "A number above 0, or nothing" : "A number, or nothing"),
  );
  return (
    <div>
      <span className="label block">
        {label} {attribute ? "" : unit}
      </span>
      <div className="mt-0.5 flex gap-1">
        {(attributes.length > 0 || attribute) && (
          <Choice
            label={`${label} from`}
            named={false}
            low={false}
            width="min-w-0 flex-1 px-1"
            value={attribute ?? ""}
            onChange={(v) => onChange(v ? { attribute: v } : undefined)}
            options={[["", "fixed"], ...attributes.map((a) => [a.name, a.name] as const)]}
          />
        )}
        {!attribute && (
          <Taken
            label={`${label}, ${unit}`}
            named={false}
            back
            className={`field num ${attributes.length ? "w-14" : "w-full"}`}
            placeholder={String(own)}
            reading={reading}
            value={fixed}
            onChange={(x) => onChange(x === undefined ? undefined : { fixed: x })}
          />
        )}
      </div>
    </div>
  );
}
