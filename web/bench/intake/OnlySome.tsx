"use client";
/** Some of a file's rows alone: by numbers, codes, times, or what the sheet's window shows. */
import type { IntakeOptions, OnlyRows } from "@bramble/core";
import { RingButton } from "../RingButton";
import { TakenText } from "../../controls/fields/TakenText";
import { toPlan } from "../../sheet/camera";
import { useReadout } from "../../sheet/readout-store";

export function OnlySome({
  only = {},
  hasTimes,
  change,
}: {
  only: OnlyRows | undefined;
  hasTimes: boolean;
  change: (part: Partial<IntakeOptions>) => void;
}) {
  const chosen = Object.keys(only).length > 0;
  const put = (part: Partial<OnlyRows>) => {
    const next = Object.fromEntries(Object.entries({ ...only, ...part }).filter(([, v]) => v !== undefined));
    change({ only: Object.keys(next).length ? next : undefined });
  };
  const takeWindow = () => {
    const { plan } = useReadout.getState();
    const corner = (x: number, y: number): [number, number] => toPlan(plan, x, y);
    put({ inside: [corner(0, 0), corner(plan.width, 0), corner(plan.width, plan.height), corner(0, plan.height)] });
  };
  return (
    <details className="mt-3" open={chosen}>
      <summary className="label w-fit py-1 hover:text-bramble">
        {chosen ? "Only some of its rows" : "Take in only some of its rows"}
      </summary>
      <div className="flex flex-wrap items-end gap-2 pt-1">
        <Field
          label="Numbers"
          value={only.numbers ?? ""}
          placeholder="12, 40-52"
          put={(text) => put({ numbers: text || undefined })}
        />
        <Field
          label="Codes"
          value={only.codes?.join(", ") ?? ""}
          placeholder="TREE, TOP*"
          put={(text) => {
            const codes = text
              .split(/[\s,;]+/)
              .map((c) => c.trim())
              .filter(Boolean);
            put({ codes: codes.length ? codes : undefined });
          }}
        />
        {hasTimes && (
          <>
            <Field
              label="From"
              value={only.from ?? ""}
              placeholder="2031-04-17 08:00"
              put={(text) => put({ from: text || undefined })}
            />
            <Field
              label="To"
              value={only.to ?? ""}
              placeholder="2031-04-17 12:00"
              put={(text) => put({ to: text || undefined })}
            />
          </>
        )}
        <button className="button" onClick={takeWindow}>
          Inside the sheet’s window
        </button>
        <RingButton
          name={only.inside ? "Another ring on the sheet" : "Draw a ring on the sheet"}
          take={(inside) => put({ inside })}
        />
        {only.inside && (
          <span className="flex h-7 items-center text-soft">inside a ring of {only.inside.length} corners</span>
        )}
        {chosen && (
          <button className="button" onClick={() => change({ only: undefined })}>
            All rows
          </button>
        )}
      </div>
    </details>
  );
}

function Field({
  label,
  value,
  placeholder,
  put,
}: {
  label: string;
  value: string;
  placeholder: string;
  put: (text: string) => void;
}) {
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <TakenText
        label={`Only ${label.toLowerCase()}`}
        hint={placeholder}
        value={value}
        take={(text) => put(text.trim())}
        className="field mt-0.5 h-7 w-36"
      />
    </label>
  );
}
