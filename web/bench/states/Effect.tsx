"use client";
/** What a repair would do, in figures, before it is taken. */
import { lengthText, type Trial } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { kindOf } from "@bramble/core/volumes/model";
import { figuresTold } from "@bramble/core/volumes/words";
import { useParts } from "../../lib/store";
import { volume } from "../../lib/units-shown";
import type { TrialSeen } from "../../lib/use-trial";

/** Rows that are shown at once. */
const MOST = 4,
  MOST_FINDINGS = 6;

export function Effect({ trial, take }: { trial: TrialSeen; take: () => void }) {
  if (!trial) return <p className="mt-2 text-soft">Its effect is being worked out …</p>;
  if ("problem" in trial)
    return (
      <p role="alert" className="mt-2 text-red">
        {trial.problem}
      </p>
    );
  return (
    <div className="mt-1.5">
      <button className="button button-main h-7" onClick={take}>
        Take this repair <kbd className="ml-1.5 opacity-80">Enter</kbd>
      </button>
      <table className="mt-1.5 w-full" aria-label="Effect of the repair">
        <tbody>
          <Points trial={trial} />
          <Lines trial={trial} />
          <Volumes trial={trial} />
          {trial.gone.length > 0 && <Row what="Findings that go" to={String(trial.gone.length)} />}
          {trial.come.map((text) => (
            <Row key={text} what="New finding" to={text} tone="text-amber" />
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Points of which the same becomes the same are one line. */
function Points({ trial }: { trial: Trial }) {
  const alike = new Map<string, { what: string; from: string; to: string; count: number }>();
  for (const { what, from, to } of trial.points) {
    const field = what.slice(what.indexOf(", ") + 2),
      key = `${field}\0${from}\0${to}`,
      known = alike.get(key);
    if (known) known.count++;
    else alike.set(key, { what, from, to, count: 1 });
  }
  const rows = [...alike.values()],
    more = rows.slice(MOST).reduce((sum, r) => sum + r.count, trial.morePoints);
  return (
    <>
      {rows.slice(0, MOST).map((r) => (
        <Row
          key={r.what}
          what={r.count === 1 ? r.what : `${plural(r.count, "point")}${r.what.slice(r.what.indexOf(", "))}`}
          from={r.from}
          to={r.to}
        />
      ))}
      {more > 0 && <Row what={`and ${more} more`} to="" />}
    </>
  );
}

export function Lines({ trial }: { trial: Pick<Trial, "lines"> }) {
  const { job } = useParts("job"),
    { lines } = trial;
  const length = (x: number | null) => (x === null ? "not drawn" : lengthText(x, job.unit));
  return (
    <>
      {lines.slice(0, MOST).map((l, k) => (
        <Row
          key={`${l.name} ${k}`}
          what={`Line ${l.name}`}
          from={length(l.was)}
          to={l.was !== null && l.was === l.now ? "other levels" : length(l.now)}
        />
      ))}
      {lines.length > MOST && <Row what={`and ${lines.length - MOST} more lines`} to="" />}
    </>
  );
}

export function Volumes({ trial }: { trial: Trial }) {
  const { job } = useParts("job"),
    say = (x: number) => volume(x, job.unit, job.volumeUnit);
  return trial.volumes.map((v) => {
    if (!v.was || !v.now || v.was.net === v.now.net) return null;
    const recipe = job.volumes.find((r) => r.name === v.name),
      { name, sign } = figuresTold(recipe ? kindOf(recipe) : "level")[2]!,
      by = sign * (v.now.net - v.was.net);
    const text = `${by > 0 ? "+" : ""}${say(by)}, then ${say(sign * v.now.net)}`;
    // A figure and its unit stay in one line.
    return (
      <Row key={v.name} what={`${v.name}, ${name.split(",")[0]!.toLowerCase()}`} to={text.replaceAll(" ", "\u00a0")} />
    );
  });
}

export function Row({ what, from = "", to, tone = "" }: { what: string; from?: string; to: string; tone?: string }) {
  return (
    <tr className="border-b border-rule-soft align-baseline">
      <th scope="row" className="w-[46%] py-0.5 pr-2 text-left font-normal text-soft">
        {what}
      </th>
      <td className={`py-0.5 text-right tabular-nums ${tone}`}>
        {from && <span className="text-soft">{from} → </span>}
        {to}
      </td>
    </tr>
  );
}

export function Findings({ title, list, tone }: { title: string; list: string[]; tone: string }) {
  if (list.length === 0) return null;
  return (
    <>
      <h3 className="label">
        {title} <span className={`tabular-nums ${tone}`}>{list.length}</span>
      </h3>
      <ul className="pb-1">
        {list.slice(0, MOST_FINDINGS).map((text) => (
          <li key={text} className={tone}>
            {text}
          </li>
        ))}
        {list.length > MOST_FINDINGS && <li className="text-soft">and {list.length - MOST_FINDINGS} more</li>}
      </ul>
    </>
  );
}
