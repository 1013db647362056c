"use client";
/** What the table shows: words, code, intake, and conditions as sets have them; kept as a set if wanted. */
import { useMemo } from "react";
import { FINDING_KINDS } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { refsOf } from "../../lib/rows";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { NameForm } from "../../controls/fields/NameForm";
import type { RuleTaken } from "../../workers/chain.worker";
import { keptSet } from "../sets/keep";
import { Counts } from "../sets/Counts";
import { RuleForm } from "../sets/RuleForm";
import { elsewhere, EVERY_POINT, ruleOfFilter, type RowFilter } from "./rows";
import { Choice } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";

export function Filter({
  filter,
  setFilter,
  missing,
  taken,
  found,
  keeping,
  setKeeping,
}: {
  filter: RowFilter;
  setFilter: (f: RowFilter) => void;
  /** Words that no point is like. */
  missing: readonly string[];
  /** What the conditions take, or why they cannot be asked. */
  taken: RuleTaken | undefined;
  /** How many points the table shows. */
  found: number;
  /** Whether the name is asked for under which the filter is kept as a set. */
  keeping: boolean;
  setKeeping: (on: boolean) => void;
}) {
  const { job, view, intakes, points } = useParts("job", "view", "intakes", "points");
  const [, setTab] = useKept("points.tab", "table"),
    [, setChosen] = useKept("sets.chosen", "");
  const keep = async (name: string) => {
    if (!keptSet({ name, rule: ruleOfFilter(filter, refsOf(job, points), FINDING_KINDS) })) return;
    setKeeping(false);
    setChosen(name);
    setTab("sets");
  };
  return (
    <div className="shrink-0 px-4 pb-2">
      <div className="flex flex-wrap items-center gap-2">
        <Typed
          label="Filter points"
          named={false}
          text={filter.text}
          onType={(text) => setFilter({ ...filter, text: text })}
          className="field min-w-24 flex-1"
          placeholder="12, TOP*"
        />
        <Choice
          label="Code"
          named={false}
          low={false}
          width="w-30"
          value={filter.code}
          onChange={(v) => setFilter({ ...filter, code: v })}
          options={[["*", "every code"], ...[...view.codes].sort().map((c) => [c, c || "no code"] as const)]}
        />
        <Choice
          label="Intake"
          named={false}
          low={false}
          width="w-30"
          value={filter.intake}
          onChange={(v) => setFilter({ ...filter, intake: v })}
          options={[["*", "every intake"], ...intakes.map((k) => [k.id, k.id] as const)]}
        />
        <Choice
          label="Which"
          named={false}
          low={false}
          width="w-28"
          value={filter.only}
          onChange={(v) => setFilter({ ...filter, only: v })}
          options={[
            ["all", "all"],
            ["findings", "with findings"],
            ["selected", "selected"],
          ]}
        />
        {filter !== EVERY_POINT && (
          <button className="button px-2" onClick={() => setFilter(EVERY_POINT)}>
            Show all
          </button>
        )}
      </div>
      {filter.rule && (
        <div className="pt-2">
          <RuleForm rule={filter.rule} change={(rule) => setFilter({ ...filter, rule })} />
          {taken && "tally" in taken && found === 0 && (
            <Counts tally={taken.tally} total={taken.rows.length} any={"any" in filter.rule} />
          )}
        </div>
      )}
      {keeping && (
        <div className="pt-2">
          <NameForm
            label="Name of the set"
            action="Keep as a set"
            first=""
            taken={job.sets.map((s) => s.name)}
            make={keep}
            leave={() => setKeeping(false)}
          />
        </div>
      )}
      {missing.length > 0 && (
        <p role="status" className="pt-2 text-amber">
          No point is called {missing.map((w) => `“${w}”`).join(", ")}.
        </p>
      )}
      {found === 0 && <Elsewhere filter={filter} setFilter={setFilter} />}
      {taken && "problem" in taken && (
        <p role="alert" className="pt-2 text-amber">
          {taken.problem}
        </p>
      )}
    </div>
  );
}

/** Where else the word stands that no number, code or description has. */
function Elsewhere({ filter, setFilter }: { filter: RowFilter; setFilter: (f: RowFilter) => void }) {
  const { job, view } = useParts("job", "view");
  const others = useMemo(() => elsewhere({ job, view }, filter.text), [job, view, filter.text]);
  if (others.length === 0) return null;
  return (
    <p role="status" className="flex flex-wrap items-center gap-2 pt-2 text-amber">
      “{filter.text.trim()}” stands elsewhere:
      {others.map((p) => (
        <button
          key={p.where}
          className="button h-6"
          onClick={() => setFilter({ ...EVERY_POINT, rule: { all: [p.rule] } })}
        >
          {p.where} of {plural(p.count, "point")}
        </button>
      ))}
    </p>
  );
}
