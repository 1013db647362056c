"use client";
/** A rule as rows of conditions, each taken when its field is left. */
import { useEffect, useState } from "react";
import type { SetRule } from "@bramble/core";
import { ruleSentence } from "@bramble/core/sets/explain";
import { whoIsCalled } from "@bramble/core/points/refs";
import { refsOf } from "../../lib/rows";
import { useParts } from "../../lib/store";
import { useFound } from "../../lib/use-found";
import { RingButton } from "../RingButton";
import { TakenText } from "../../controls/fields/TakenText";
import {
  attributeTexts,
  blank,
  chosenIn,
  endsOf,
  KIND_NAMES,
  readAttribute,
  readEnds,
  readRow,
  rowsOfRule,
  rowText,
  ruleOfRows,
  type AttributeTexts,
  type FormRow,
  type RowKind,
} from "./values";
import { Choice } from "../../controls/fields/Choice";

const EVERY = Object.keys(KIND_NAMES) as RowKind[];

export function RuleForm({
  rule,
  change,
  without = [],
}: {
  rule: SetRule;
  change: (rule: SetRule) => void;
  /** Sets that cannot be asked for here. */
  without?: readonly string[];
}) {
  const { job, points } = useParts("job", "points"),
    { numberOf } = useFound(),
    form = rowsOfRule(rule);
  if (!form)
    return (
      <p className="text-soft">
        This rule is nested; it is kept as it came: <span className="text-ink">{ruleSentence(rule, numberOf)}</span>
      </p>
    );
  const { word, rows } = form;
  const put = (next: readonly FormRow[]) => change(ruleOfRows(word, next));
  return (
    <div className="flex flex-col gap-1.5">
      {rows.length > 1 && (
        <label className="flex items-center gap-2">
          <span className="label">A point is in when</span>
          <Choice
            label="A point is in when"
            named={false}
            low={false}
            value={word}
            onChange={(next) => change(ruleOfRows(next, rows))}
            options={[
              ["all", "all of these hold"],
              ["any", "one of these holds"],
            ]}
          />
        </label>
      )}
      {rows.map((row, k) => (
        <Row
          key={`${k} ${row.kind}`}
          row={row}
          without={without}
          put={(next) => put(rows.map((r, j) => (j === k ? next : r)))}
          remove={() => put(rows.filter((_, j) => j !== k))}
        />
      ))}
      <label className="flex items-center gap-2">
        <span className="sr-only">Add a condition</span>
        <Choice
          label="Add a condition"
          named={false}
          low={false}
          width="h-7 w-52"
          value=""
          ask="Add a condition …"
          onChange={(kind) => put([...rows, { not: false, kind, rule: blank(kind, job, refsOf(job, points)) }])}
          options={EVERY.map((kind) => [kind, KIND_NAMES[kind]] as const)}
        />
      </label>
    </div>
  );
}

function Row({
  row,
  put,
  remove,
  without,
}: {
  row: FormRow;
  put: (row: FormRow) => void;
  remove: () => void;
  without: readonly string[];
}) {
  const { job } = useParts("job");
  const [problem, setProblem] = useState("");
  const measured = row.kind === "elevation" || row.kind === "precision",
    name = measured ? `${KIND_NAMES[row.kind]} ${job.unit}` : KIND_NAMES[row.kind];
  const take = (read: { rule: SetRule } | { problem: string }) => {
    setProblem("problem" in read ? read.problem : "");
    if ("rule" in read && JSON.stringify(read.rule) !== JSON.stringify(row.rule)) put({ ...row, rule: read.rule });
  };
  const { numberOf } = useFound(),
    text = rowText(row, numberOf),
    ends = endsOf(row);
  return (
    <div>
      <div className="flex items-center gap-2" role="group" aria-label={`Condition: ${name}`}>
        <span className="w-36 shrink-0 truncate">{name}</span>
        <Choice
          label={`${name}: is or is not`}
          named={false}
          low={false}
          width="h-7 w-18 shrink-0"
          value={row.not ? "not" : "is"}
          onChange={(v) => put({ ...row, not: v === "not" })}
          options={[
            ["is", "is"],
            ["not", "is not"],
          ]}
        />
        <div className="flex min-w-0 flex-1 items-center gap-2">
          {text !== undefined && (
            <TakenText
              label={name}
              value={text}
              take={(t) => take(readRow(row.kind, t, whoIsCalled(job.points, job.intakes, chosenIn(row))))}
            />
          )}
          {ends && (
            <>
              <TakenText
                label={`${name} from`}
                hint="from"
                value={ends[0]}
                take={(t) => take(readEnds(row.kind, [t, ends[1]], job.unit))}
              />
              <TakenText
                label={`${name} to`}
                hint="to"
                value={ends[1]}
                take={(t) => take(readEnds(row.kind, [ends[0], t], job.unit))}
              />
            </>
          )}
          {row.kind === "attribute" && (
            <Attribute texts={attributeTexts(row.rule)} take={(t) => take(readAttribute(t))} />
          )}
          {row.kind === "inside" && <Ring rule={row.rule} take={(inside) => put({ ...row, rule: { inside } })} />}
          {row.kind === "set" && (
            <Choice
              label="Which set"
              named={false}
              low={false}
              width="h-7 min-w-0 flex-1"
              value={(row.rule as { set: string }).set}
              onChange={(v) => put({ ...row, rule: { set: v } })}
              options={[
                ["*ground", "ground"],
                ...job.sets.filter((s) => !without.includes(s.name)).map((s) => [s.name, s.name] as const),
              ]}
            />
          )}
        </div>
        <button
          type="button"
          className="button button-plain h-7 px-1.5"
          aria-label={`Take ${name} out`}
          onClick={remove}
        >
          ×
        </button>
      </div>
      {problem && (
        <p role="alert" className="pl-38 text-red">
          {problem}
        </p>
      )}
    </div>
  );
}

function Attribute({ texts, take }: { texts: AttributeTexts; take: (t: AttributeTexts) => void }) {
  return (
    <>
      <TakenText label="Attribute name" hint="name" value={texts.name} take={(name) => take({ ...texts, name })} />
      <TakenText label="Attribute like" hint="like" value={texts.is} take={(is) => take({ ...texts, is })} />
      <TakenText
        label="Attribute from"
        hint="from"
        value={texts.from}
        take={(from) => take({ ...texts, is: "", from })}
      />
      <TakenText label="Attribute to" hint="to" value={texts.to} take={(to) => take({ ...texts, is: "", to })} />
    </>
  );
}

function Ring({ rule, take }: { rule: SetRule; take: (ring: [number, number][]) => void }) {
  const { inside } = rule as { inside: [number, number][] },
    { set } = useParts("set");
  // The ring is seen on the sheet for as long as it is spoken of.
  useEffect(() => {
    set({ preview: inside.length ? [[...inside, inside[0]!].flat()] : [] });
    return () => set({ preview: [] });
  }, [inside, set]);
  return (
    <>
      <span className="text-soft">{inside.length ? `${inside.length} corners` : "no ring yet"}</span>
      <RingButton name={inside.length ? "Another ring" : "Draw a ring"} take={take} />
    </>
  );
}
