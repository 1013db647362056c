"use client";
/** Fields of one code: each is kept when it is left. */
import type { ReactNode } from "react";
import type { AttributeDefinition, CodeEntry } from "@bramble/core";
import { numberTyped } from "@bramble/core/math/typed";
import { leaveOnEnter } from "../../controls/fields";
import { useText } from "../../controls/use-text";
import { useTyped } from "../../controls/use-typed";

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

export function CodeName({ code, rename }: { code: string; rename: (code: string) => void }) {
  const { text, setText, taken } = useText(code);
  const wrong = !/^[A-Z][A-Z0-9_-]*$/.test(text);
  return (
    <label className="block">
      <span className="label block">Code</span>
      <input
        className="field mt-0.5 w-full font-medium"
        value={text}
        maxLength={60}
        aria-invalid={wrong}
        title={wrong ? "A letter first, then letters, digits, _ or -" : undefined}
        onChange={(event) => setText(event.target.value.toUpperCase())}
        onBlur={() => {
          if (wrong) setText(code);
          else if (text !== code) rename(text);
          taken();
        }}
        onKeyDown={leaveOnEnter}
      />
    </label>
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
  const { text, setText, taken, touched } = useTyped(fixed);
  const x = numberTyped(text),
    wrong = text.trim() !== "" && (!Number.isFinite(x) || (positive === true && x <= 0));
  return (
    <div>
      <span className="label block">
        {label} {attribute ? "" : unit}
      </span>
      <div className="mt-0.5 flex gap-1">
        {(attributes.length > 0 || attribute) && (
          <select
            className="field min-w-0 flex-1 px-1"
            aria-label={`${label} from`}
            value={attribute ?? ""}
            onChange={(event) => onChange(event.target.value ? { attribute: event.target.value } : undefined)}
          >
            <option value="">fixed</option>
            {attributes.map((a) => (
              <option key={a.name} value={a.name}>
                {a.name}
              </option>
            ))}
          </select>
        )}
        {!attribute && (
          <input
            className={`field num ${attributes.length ? "w-14" : "w-full"}`}
            aria-label={`${label}, ${unit}`}
            value={text}
            placeholder={String(own)}
            aria-invalid={wrong}
            onChange={(event) => setText(event.target.value)}
            onBlur={() => {
              taken();
              if (!wrong && touched && (text.trim() === "" ? undefined : x) !== fixed)
                onChange(text.trim() === "" ? undefined : { fixed: x });
            }}
            onKeyDown={leaveOnEnter}
          />
        )}
      </div>
    </div>
  );
}
