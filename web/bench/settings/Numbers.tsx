"use client";
import { useMemo } from "react";
import type { CrewRange } from "@bramble/core";
import { nextFreeNumber } from "@bramble/core/job/change/next-number";
import { useParts } from "../../lib/store";
import { Section, type SetSetting } from "./fields";
import { TextField } from "../../controls/fields/fields";
import { TakenText } from "../../controls/fields/TakenText";
import { EditableList, type ListColumn } from "../../controls/fields/EditableList";
import { numberReading } from "../../controls/fields/reading";
import { Choice } from "../../controls/fields/Choice";
import { KINDS } from "@bramble/core/records/kinds";
import { Taken } from "../../controls/fields/Taken";

const NUMBER = numberReading((x) => Number.isInteger(x) && x >= 0 && x < 1e12, "A whole number from 0 on.");

/** Number ranges of the crews, and the next number that is free. */
export function Numbers({ set }: { set: SetSetting }) {
  const { job } = useParts("job");
  const crews = job.crews ?? [];
  /** As long as the last one, and behind it. */
  const nextRange = (): CrewRange => {
    const last = crews.at(-1),
      from = last ? last.to + 1 : 1;
    return {
      crew: String.fromCharCode(65 + (crews.length % 26)),
      from,
      to: from + (last ? last.to - last.from : 4999),
    };
  };
  const free = useMemo(() => nextFreeNumber(job), [job]);
  return (
    <Section title="Point numbers" holds={["crews", "nextNumber", "nextNumbers"]}>
      <div className="flex items-end gap-4">
        <TextField
          label="Next number from"
          value={job.nextNumber ?? ""}
          placeholder="the highest"
          width="w-28"
          onChange={(v) => set("nextNumber", v === "" ? null : v)}
        />
        <p className="flex h-7 items-center text-soft">
          next free: <span className="ml-1 font-medium text-ink tabular-nums">{free}</span>
        </p>
      </div>
      <EditableList
        label="Next numbers by kind"
        width="mt-3 max-w-md"
        rows={job.nextNumbers ?? []}
        put={(next) => set("nextNumbers", next.length ? next : null)}
        named={(n) => `the next number of ${n.kind} points`}
        add={{
          words: "Number a kind by itself",
          row: () => ({ kind: KINDS.find((k) => !job.nextNumbers?.some((n) => n.kind === k)) ?? "design", next: "1" }),
        }}
        columns={[
          {
            title: "Kind",
            field: (n, put, k) => (
              <Choice
                label={`Kind ${k + 1}`}
                named={false}
                value={n.kind}
                onChange={(kind) => !job.nextNumbers?.some((x) => x.kind === kind) && put({ kind })}
                options={KINDS.map((x) => [x, x] as const)}
              />
            ),
          },
          {
            title: "From",
            field: (n, put) => (
              <TakenText
                className="field h-6 w-24"
                label={`First number of ${n.kind} points`}
                value={n.next}
                maxLength={100}
                take={(text) => (text.trim() ? put({ next: text.trim() }) : false)}
              />
            ),
          },
          {
            title: "Next",
            is: "num",
            field: (n) => <span className="tabular-nums">{nextFreeNumber(job, n.next)}</span>,
          },
        ]}
      />
      <EditableList
        label="Number ranges"
        width="mt-3 max-w-md"
        rows={crews}
        put={(next) => set("crews", next)}
        named={(c) => `the range of crew ${c.crew}`}
        add={{ words: "Add a range", row: nextRange }}
        columns={[
          {
            title: "Crew",
            field: (c, put, k) => (
              <TakenText
                className="field h-6 w-24"
                label={`Crew ${k + 1}`}
                value={c.crew}
                maxLength={80}
                take={(text) => (text.trim() ? put({ crew: text.trim() }) : false)}
              />
            ),
          },
          ...(["from", "to"] as const).map((end): ListColumn<CrewRange> => ({
            title: end === "from" ? "From" : "To",
            is: "num",
            field: (c, put) => (
              <Taken
                label={`${end === "from" ? "First" : "Last"} number of crew ${c.crew}`}
                named={false}
                back
                width="num w-28"
                reading={NUMBER}
                value={c[end]}
                onChange={(x) => put({ [end]: x })}
              />
            ),
          })),
        ]}
      />
    </Section>
  );
}
