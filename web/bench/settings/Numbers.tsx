"use client";
import { useMemo } from "react";
import type { CrewRange } from "@bramble/core";
import { nextFreeNumber } from "@bramble/core/job/change/next-number";
import { useParts } from "../../lib/store";
import { Section, type SetSetting } from "./fields";
import { TextField } from "../../controls/fields";
import { TakenText } from "../TakenText";

/** Number ranges of the crews, and the next number that is free. */
export function Numbers({ set }: { set: SetSetting }) {
  const { job } = useParts("job");
  const crews = job.crews ?? [];
  const put = (k: number, part: Partial<CrewRange>) =>
    set(
      "crews",
      crews.map((c, i) => (i === k ? { ...c, ...part } : c)),
    );
  const whole = (text: string) => (/^\d{1,12}$/.test(text.trim()) ? Number(text) : undefined);
  const free = useMemo(() => nextFreeNumber(job), [job]);
  return (
    <Section title="Point numbers" holds={["crews", "nextNumber"]}>
      <div className="flex items-end gap-4">
        <TextField
          label="Next number from"
          value={job.nextNumber ?? ""}
          placeholder="1"
          width="w-28"
          onChange={(v) => set("nextNumber", v === "" ? null : v)}
        />
        <p className="flex h-7 items-center text-soft">
          next free: <span className="ml-1 font-medium text-ink tabular-nums">{free}</span>
        </p>
      </div>
      <table className="plain mt-3 max-w-md" aria-label="Number ranges">
        <thead>
          <tr>
            <th>Crew</th>
            <th className="num">From</th>
            <th className="num">To</th>
            <th>
              <span className="sr-only">What may be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {crews.map((c, k) => (
            <tr key={k}>
              <td>
                <TakenText
                  className="field h-6 w-24"
                  label={`Crew ${k + 1}`}
                  value={c.crew}
                  maxLength={80}
                  take={(text) => (text.trim() ? put(k, { crew: text.trim() }) : false)}
                />
              </td>
              {(["from", "to"] as const).map((end) => (
                <td key={end} className="num">
                  <TakenText
                    className="field num h-6 w-28"
                    label={`${end === "from" ? "First" : "Last"} number of crew ${c.crew}`}
                    value={String(c[end])}
                    take={(text) => {
                      const x = whole(text);
                      if (x === undefined) return false;
                      put(k, { [end]: x });
                    }}
                  />
                </td>
              ))}
              <td>
                <button
                  className="button button-plain"
                  onClick={() =>
                    set(
                      "crews",
                      crews.filter((_, i) => i !== k),
                    )
                  }
                >
                  Remove
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button
        className="button mt-2"
        onClick={() => {
          const last = crews.at(-1),
            from = last ? last.to + 1 : 1;
          set("crews", [
            ...crews,
            {
              crew: String.fromCharCode(65 + (crews.length % 26)),
              from,
              to: from + (last ? last.to - last.from : 4999),
            },
          ]);
        }}
      >
        Add a range
      </button>
    </Section>
  );
}
