"use client";
/** Which findings the job looks for, and the limits from which they are told. */
import { decimalsOf, isLookedFor, limitsOf, type ChecksGiven } from "@bramble/core";
import {
  FINDING_KINDS,
  kindOfFinding,
  LIMITED_KINDS,
  type FindingKind,
  type LimitedKind,
} from "@bramble/core/finding-kinds";
import { useParts } from "../../lib/store";
import { LengthField, NumberField } from "../../controls/fields/fields";
import { Section, type SetSetting } from "./fields";
import { Tick } from "../../controls/fields/Tick";

const LIMITS = LIMITED_KINDS.flatMap((kind) =>
  Object.entries(kindOfFinding(kind).limits!).map(([field, limit]) => ({ kind, field, ...limit })),
);

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
        {LIMITS.filter((l) => isLookedFor(l.kind, given)).map(({ kind, field, name, means, is, zero }) => {
          const value = (limitsOf(kind, given, job.unit) as unknown as Record<string, number>)[field]!;
          return (
            <div key={name}>
              {is === "length" ? (
                <LengthField
                  label={name}
                  value={value}
                  unit={job.unit}
                  positive={!zero}
                  width="w-full"
                  decimals={decimalsOf(job.unit)}
                  onChange={(x) => limit(kind, field, x)}
                />
              ) : (
                <NumberField
                  label={name}
                  value={value}
                  allowed={(x) => (is === "count" ? Number.isInteger(x) && x >= 2 && x <= 1_000_000 : x > 0)}
                  hint={is === "count" ? "A whole number from 2 on." : "A number above 0, such as 6."}
                  onChange={(x) => limit(kind, field, x)}
                />
              )}
              <p className="label mt-0.5 leading-snug">{means}</p>
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
            <Tick
              key={kind}
              words={kind.replaceAll("-", " ")}
              on={isLookedFor(kind, given)}
              set={(on) => look(kind, on)}
              className="flex items-center gap-2"
            />
          ))}
        </div>
      </details>
    </Section>
  );
}
