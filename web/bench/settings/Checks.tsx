"use client";
/** Which findings the job looks for, and the limits from which they are told. */
import {
  decimalsOf,
  FINDING_KINDS,
  isLookedFor,
  limitsOf,
  type ChecksGiven,
  type FindingKind,
  type LimitedKind,
} from "@bramble/core";
import { useParts } from "../../lib/store";
import { LengthField } from "../LengthField";
import { NumberField, Section, type SetSetting } from "../../controls/fields";

/** Limits by kind: their names, what they mean, and whether they are lengths. */
const LIMITS: { kind: LimitedKind; field: string; name: string; what: string; is: "length" | "times" | "shots" }[] = [
  {
    kind: "spike",
    field: "least",
    name: "Spike from",
    what: "a level this far off its neighbours' is told",
    is: "length",
  },
  {
    kind: "spike",
    field: "limit",
    name: "Spike, times the noise",
    what: "and this many times the noise round about",
    is: "times",
  },
  {
    kind: "height-run",
    field: "least",
    name: "Height run from",
    what: "shots in a row off by this are told",
    is: "length",
  },
  {
    kind: "height-run",
    field: "shots",
    name: "Height run, shots",
    what: "so many at least that bear it out",
    is: "shots",
  },
  {
    kind: "no-ground-near",
    field: "within",
    name: "Ground near a mark",
    what: "a ground shot is expected this near a point kept out",
    is: "length",
  },
  {
    kind: "shots-far-apart",
    field: "apart",
    name: "Shots at most apart",
    what: "ground between shots farther apart is told; 0: not looked for",
    is: "length",
  },
];

export function Checks({ set }: { set: SetSetting }) {
  const { job } = useParts("job"),
    given = job.checks ?? {};
  const keep = (next: ChecksGiven) => set("checks", Object.keys(next).length ? next : null);
  const limit = (kind: LimitedKind, field: string, value: number) => {
    const own = given[kind];
    keep({ ...given, [kind]: { ...(own === false ? {} : own), [field]: value } });
  };
  const look = (kind: FindingKind, on: boolean) => {
    const { [kind]: _, ...rest } = given;
    keep(on ? rest : { ...rest, [kind]: false });
  };
  return (
    <Section title="Checks" holds={["checks"]} about={`limits in ${job.unit}; what is not looked for is not told`}>
      <div className="grid grid-cols-3 gap-x-4 gap-y-3">
        {LIMITS.filter((l) => isLookedFor(l.kind, given)).map(({ kind, field, name, what, is }) => {
          const value = (limitsOf(kind, given, job.unit) as unknown as Record<string, number>)[field]!;
          return (
            <div key={name}>
              {is === "length" ? (
                <LengthField
                  label={name}
                  value={value}
                  unit={job.unit}
                  positive={kind !== "shots-far-apart"}
                  width="w-full"
                  decimals={decimalsOf(job.unit)}
                  onChange={(x) => limit(kind, field, x)}
                />
              ) : (
                <NumberField
                  label={name}
                  value={value}
                  allowed={(x) => (is === "shots" ? Number.isInteger(x) && x >= 2 && x <= 1_000_000 : x > 0)}
                  hint={is === "shots" ? "A whole number from 2 on." : "A number above 0, such as 6."}
                  onChange={(x) => limit(kind, field, x)}
                />
              )}
              <p className="label mt-0.5 leading-snug">{what}</p>
            </div>
          );
        })}
      </div>
      <details className="mt-3">
        <summary className="cursor-default text-soft hover:text-bramble">
          What is looked for: {FINDING_KINDS.filter((k) => isLookedFor(k, given)).length} of {FINDING_KINDS.length}{" "}
          kinds
        </summary>
        <div className="mt-2 grid grid-cols-3 gap-x-4 gap-y-1">
          {FINDING_KINDS.map((kind) => (
            <label key={kind} className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={isLookedFor(kind, given)}
                onChange={(event) => look(kind, event.target.checked)}
              />
              {kind.replaceAll("-", " ")}
            </label>
          ))}
        </div>
      </details>
    </Section>
  );
}
