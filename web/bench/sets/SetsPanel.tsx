"use client";
/** The job's point sets: rules in words, what they take now, why a point is in, and who uses them. */
import { useEffect, useState } from "react";
import { keepSet, Refusal, renameSet, thingRemoved, usersOf, type PointSet, type SetRule } from "@bramble/core";
import { useFound } from "../../lib/use-found";
import { ruleSentence, type Reason } from "@bramble/core/sets/explain";
import { rowOf } from "@bramble/core/points/table";
import { boxOfPoints } from "../../lib/box";
import { sayMade, thing } from "../../lib/say-made";
import { useJob, useParts } from "../../lib/store";
import { grouped } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { BEFORE, useKnown } from "../../lib/use-known";
import { NameForm } from "../../controls/fields/NameForm";
import { keptSet } from "./keep";
import { Counts } from "./Counts";
import { Membership } from "./Membership";
import { RuleForm } from "./RuleForm";
import { useRule } from "./use-rule";
import { unless } from "../../controls/unless";

export function SetsPanel() {
  const { job, view } = useParts("job", "view"),
    { known, before } = useKnown(),
    { numberOf } = useFound();
  const [chosen, setChosen] = useKept("sets.chosen", ""),
    [making, setMaking] = useState(false);
  const open = job.sets.find((s) => s.name === chosen);
  const make = async (name: string) => {
    if (!keptSet({ name, rule: { all: [{ codes: ["*"] }] } })) return;
    setChosen(name);
    setMaking(false);
    sayMade(name, `Set “${name}” is made.`);
  };
  return (
    <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
      {making ? (
        <NameForm
          label="Name of the set"
          action="Make it"
          first=""
          taken={job.sets.map((s) => s.name)}
          make={make}
          leave={() => setMaking(false)}
        />
      ) : (
        <div className="flex items-center gap-3 pb-2">
          <p className="flex-1 text-soft">
            A set is a rule: it holds the points that fit it now. Surfaces, labels and files name sets.
          </p>
          <button className="button" onClick={() => setMaking(true)}>
            New set
          </button>
        </div>
      )}
      <table className="plain">
        <thead>
          <tr>
            <th>Set</th>
            <th>Points for which</th>
            <th className="num w-20">Points</th>
          </tr>
        </thead>
        <tbody>
          {job.sets.map((s) => {
            const failure = view.sets.find((x) => x.name === s.name)?.failure,
              held = known?.sets.find((x) => x.name === s.name)?.points;
            return (
              <tr key={s.name} aria-selected={s.name === chosen}>
                <td className="max-w-40 truncate">
                  <button className="font-medium hover:text-bramble" onClick={() => setChosen(s.name)}>
                    {s.name}
                  </button>
                </td>
                <td className="max-w-70 truncate" title={ruleSentence(s.rule, numberOf)}>
                  {ruleSentence(s.rule, numberOf)}
                </td>
                <td className={`num ${before ? BEFORE : ""}`}>
                  {held !== undefined ? (
                    grouped(held)
                  ) : failure ? (
                    <span className="text-amber" title={failure.message}>
                      –
                    </span>
                  ) : (
                    "…"
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {job.sets.length === 0 && <p className="py-3 text-soft">No set yet. A filter of the table can be kept as one.</p>}
      {open && <OneSet key={open.name} set={open} renamed={setChosen} />}
    </div>
  );
}

/** Why a rule cannot be kept as it is. */
function incomplete(rule: SetRule): string | undefined {
  if ("inside" in rule && rule.inside.length < 3) return "Draw the ring; until then the set stays as it was.";
  const parts = "all" in rule ? rule.all : "any" in rule ? rule.any : "not" in rule ? [rule.not] : [];
  return parts.map(incomplete).find(Boolean);
}

function OneSet({ set, renamed }: { set: PointSet; renamed: (name: string) => void }) {
  const { job, points, change, select, show } = useParts("job", "points", "change", "select", "show");
  const [draft, setDraft] = useState<SetRule>(),
    [problem, setProblem] = useState(""),
    [renaming, setRenaming] = useState(false);
  const taken = useRule(set.rule),
    users = usersOf(job, "sets", set.name);
  const attempt = (make: () => Parameters<typeof change>[0]) => {
    try {
      setProblem("");
      return change(make());
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      setProblem(e.message);
      return false;
    }
  };
  const put = (rule: SetRule) => {
    const why = incomplete(rule);
    setDraft(why ? rule : undefined);
    if (why) setProblem(why);
    else attempt(() => keepSet(job, { ...set, rule }));
  };
  const rows = taken && "rows" in taken ? taken.rows : undefined;
  const showThem = () => {
    if (!rows) return;
    select({ points: Array.from(rows, (i) => job.points.id[i]!) });
    show(boxOfPoints(job.points, rows));
  };
  return (
    <section aria-label={`Set ${set.name}`} className="mt-4 border-t border-rule pt-3">
      <div className="flex flex-wrap items-center gap-2 pb-2">
        <h2 className="heading min-w-20 flex-1 truncate" {...thing(set.name)}>
          {set.name}
        </h2>
        <button className="button px-2" onClick={showThem} {...unless(!rows?.length && "The set holds no point now.")}>
          Select its points
        </button>
        <button className="button px-2" onClick={() => setRenaming(!renaming)}>
          Rename
        </button>
        <button
          className="button px-2"
          onClick={() => attempt(() => thingRemoved(job, "sets", set.name)) && renamed("")}
        >
          Remove
        </button>
      </div>
      {renaming && (
        <NameForm
          label="New name"
          action="Rename"
          first={set.name}
          taken={job.sets.map((s) => s.name)}
          make={async (name) => {
            if (attempt(() => renameSet(job, set.name, name))) renamed(name);
          }}
          leave={() => setRenaming(false)}
        />
      )}
      <RuleForm rule={draft ?? set.rule} change={put} without={[set.name]} />
      {problem && (
        <p role="alert" className="pt-2 text-amber">
          {problem}
        </p>
      )}
      {taken && "problem" in taken && (
        <p role="alert" className="pt-2 text-amber">
          {taken.problem}
        </p>
      )}
      {taken && "tally" in taken && <Counts tally={taken.tally} total={taken.rows.length} any={"any" in set.rule} />}
      <p className="pt-2 text-soft">{users.length ? `Used by ${users.join(", ")}.` : "Nothing uses it yet."}</p>
      <Membership set={set.name} />
      {points.size === 1 && <Why rule={{ set: set.name }} point={[...points][0]!} />}
    </section>
  );
}

/** Why the selected point is in the set, or is not. */
function Why({ rule, point }: { rule: SetRule; point: number }) {
  const { job, view } = useParts("job", "view");
  const [reason, setReason] = useState<Reason>();
  useEffect(() => {
    let current = true;
    void useJob
      .getState()
      .ask({ what: "why", rule, point })
      .then((r) => current && setReason(r));
    return () => {
      current = false;
    };
    // The rule is a new object at each render: what it says tells whether it is another.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [JSON.stringify(rule), point, view, job.sets]);
  const row = rowOf(job.points, point);
  if (!reason || row < 0) return null;
  return (
    <div className="pt-3" data-testid="set-why">
      <p className="font-medium">
        Point {job.points.number[row]} is {reason.holds ? "in" : "not in"}:
      </p>
      <Reasons of={reason.of} />
    </div>
  );
}

function Reasons({ of }: { of: readonly Reason[] }) {
  return (
    <ul className="pl-3">
      {of.map((r, k) => (
        <li key={k}>
          <span className={r.holds ? "text-leaf" : "text-amber"}>{r.holds ? "holds" : "fails"}:</span> {r.says}
          {r.of.length > 0 && <Reasons of={r.of} />}
        </li>
      ))}
    </ul>
  );
}
