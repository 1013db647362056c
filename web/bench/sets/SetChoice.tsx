"use client";
/** A set chosen where it is used, made there, and its rule changed there. */
import { useState } from "react";
import type { SetRule } from "@bramble/core";
import { useParts } from "../../lib/store";
import { grouped } from "../../lib/units-shown";
import { NameForm } from "../../controls/fields/NameForm";
import { keptSet } from "./keep";
import { RuleForm } from "./RuleForm";
import { Choice } from "../../controls/fields/Choice";

const NEW = "\u0000new";
const EVERY_CODE: SetRule = { all: [{ codes: ["*"] }] };

export function SetChoice({
  label,
  named = true,
  value,
  fixed,
  choose,
  begin = EVERY_CODE,
  className = "mt-0.5 max-w-52",
}: {
  label: string;
  /** Whether the label is written over the field; else it is for those who do not see it. */
  named?: boolean;
  value: string;
  /** What may be chosen beside sets, with its words. */
  fixed: readonly (readonly [value: string, words: string])[];
  choose: (value: string) => void;
  /** The rule that a set made here begins with. */
  begin?: SetRule;
  className?: string;
}) {
  const { job, view } = useParts("job", "view");
  const [making, setMaking] = useState(false),
    [open, setOpen] = useState(false);
  const set = job.sets.find((s) => s.name === value),
    held = view.sets.find((s) => s.name === value)?.value;
  const change = (rule: SetRule) => set && void keptSet({ ...set, rule });
  return (
    <div className="max-w-full">
      {named && (
        <span className="label block" aria-hidden>
          {label}
        </span>
      )}
      <div className="flex items-center gap-1.5">
        <Choice
          label={label}
          named={false}
          className={`field ${className}`}
          value={value}
          onChange={(v) => {
            if (v === NEW) setMaking(true);
            else choose(v);
          }}
          options={[
            ...fixed.map(([v, words]) => [v, words] as const),
            ...job.sets.map((s) => [s.name, `set: ${s.name}`] as const),
            ...(!set && !fixed.some(([v]) => v === value) ? [[value, value] as const] : []),
            [NEW, "a new set …"],
          ]}
        />
        {set && (
          <button
            type="button"
            className="button button-plain h-6 px-1 tabular-nums"
            aria-expanded={open}
            title="The rule of this set"
            onClick={() => setOpen(!open)}
          >
            {held === undefined ? "Rule" : `${grouped(held)} points`}
          </button>
        )}
      </div>
      {making && (
        <div className="mt-2 border-l-2 border-bramble pl-3">
          <NameForm
            label="Name of the set"
            action="Make it"
            first=""
            taken={job.sets.map((s) => s.name)}
            make={async (name) => {
              if (!keptSet({ name, rule: begin })) return;
              choose(name);
              setMaking(false);
              setOpen(true);
            }}
            leave={() => setMaking(false)}
          />
        </div>
      )}
      {open && set && (
        <section aria-label={`Rule of ${set.name}`} className="mt-2 border-l-2 border-bramble pl-3">
          <RuleForm rule={set.rule} change={change} without={[set.name]} />
        </section>
      )}
    </div>
  );
}
