"use client";
/** What became of the job between two states. */
import { Fragment } from "react";
import { lengthText, type Moved, type StateStep } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import type { JobCompared } from "../../sent/job-compared";
import { useParts } from "../../lib/store";
import { area, grouped, volume } from "../../lib/units-shown";
import { Findings, Lines, Row } from "./Effect";

/** Rows of points that are shown. */
const MOST = 12;

/** `here` when the later state is what the sheet shows. */
export function ComparedStates({ told: t, here = false }: { told: JobCompared; here?: boolean }) {
  const { points: p } = t,
    same = t.figures.length + t.steps.length + t.lines.length + t.gone.length + t.come.length === 0;
  const count = p.made.length + p.gone.length + p.changed.length;
  if (same && count === 0 && t.surfaces.length === 0)
    return (
      <p className="text-soft">
        {t.entries.length === 0
          ? "They are one and the same state."
          : `${plural(t.entries.length, "entry", "entries")} between them, `}
        {t.entries.length > 0 && "and points, lines, findings, surfaces and volumes are as they were."}
      </p>
    );
  return (
    <div className="grid gap-4 pb-1">
      <Figures told={t} />
      <div className="grid grid-cols-2 items-start gap-x-8 gap-y-3">
        <Points told={t} here={here} />
        <div>
          {t.lines.length > 0 && (
            <>
              <h3 className="label">
                Lines that are others <span className="tabular-nums">{grouped(t.lines.length)}</span>
              </h3>
              <table className="mb-3 w-full" aria-label="Lines between the states">
                <tbody className="align-top">
                  <Lines trial={t} />
                </tbody>
              </table>
            </>
          )}
          <Findings title="Findings that went" list={t.gone} tone="text-leaf" />
          <Findings title="Findings that came" list={t.come} tone="text-amber" />
        </div>
      </div>
    </div>
  );
}

const NAMES: Record<Moved["figure"], string> = {
  net: "net",
  cut: "cut",
  fill: "fill",
  area: "area",
  outside: "points beyond the tolerance",
  mean: "mean difference",
};

/** Each figure that is another, and beneath it the entries that moved it. */
function Figures({ told: t }: { told: JobCompared }) {
  const { job } = useParts("job");
  const say = (m: Moved, x: number | null, signed = false) => {
    if (x === null) return "none";
    const sign = signed && x > 0 ? "+" : "";
    if (m.of === "volume") return sign + volume(x, job.unit, job.volumeUnit);
    if (m.of === "surface") return sign + area(x, job.unit, job.areaUnit);
    return sign + (m.figure === "outside" ? String(x) : lengthText(x, job.unit));
  };
  const by = (m: Moved) => (m.was === null || m.now === null ? "" : say(m, m.now - m.was, true));
  if (t.figures.length + t.steps.length === 0)
    return <p className="text-soft">Volumes, areas of surfaces and as-built checks are as they were.</p>;
  const isSame = (a: Moved, b: Moved) => a.of === b.of && a.name === b.name && a.figure === b.figure;
  // What went away and came back is told by its steps.
  const all = [...t.figures];
  for (const m of t.steps.flatMap((s) => s.moved)) if (!all.some((x) => isSame(x, m))) all.push({ ...m, now: m.was });
  return (
    <table className="plain" aria-label="Figures between the states">
      <thead>
        <tr>
          <th>Figure</th>
          <th className="num w-32">Was</th>
          <th className="num w-32">Is</th>
          <th className="num w-32">Moved by</th>
          <th className="w-[40%]">By which entry of the ledger</th>
        </tr>
      </thead>
      <tbody>
        {all.map((m) => {
          const steps = t.steps.flatMap((step) => {
            const x = step.moved.find((moved) => isSame(moved, m));
            return x ? [{ step, x }] : [];
          });
          const [only] = steps,
            single = steps.length === 1 && only!.x.was === m.was && only!.x.now === m.now;
          const key = `${m.of} ${m.name} ${m.figure}`;
          return (
            <Fragment key={key}>
              <tr className={steps.length > 1 ? "font-semibold" : ""}>
                <td>{figureName(m)}</td>
                <td className="num">{say(m, m.was)}</td>
                <td className="num">{say(m, m.now)}</td>
                <td className="num">{by(m)}</td>
                <td className="text-soft">
                  {single ? entryText(only!.step, t) : steps.length > 1 ? `${steps.length} steps` : ""}
                </td>
              </tr>
              {!single &&
                steps.map(({ step, x }) => (
                  <tr key={`${key} ${step.first}`} className="text-soft">
                    <td />
                    <td className="num">{say(x, x.was)}</td>
                    <td className="num">{say(x, x.now)}</td>
                    <td className="num">{by(x)}</td>
                    <td>{entryText(step, t)}</td>
                  </tr>
                ))}
            </Fragment>
          );
        })}
      </tbody>
    </table>
  );
}

function figureName({ of, name, figure }: Moved): string {
  const what = of === "surface" ? `Surface ${name}` : of === "check" ? `Check ${name}` : name;
  return `${what}, ${NAMES[figure]}`;
}

/** An entry with its number, who made it and what it did; a run by its first and last. */
function entryText({ first, last }: StateStep, { entries }: JobCompared): string {
  const at = entries.find((e) => e.seq === first);
  return first === last
    ? `${first} ${at ? `${at.author}: ${at.text}` : ""}`
    : `${first} to ${last}, ${plural(last - first + 1, "entry", "entries")} together`;
}

function Points({ told: { points: p }, here }: { told: JobCompared; here: boolean }) {
  const { select } = useParts("select"),
    there = [...p.made, ...p.changed];
  const counts = [
    [p.made.length, "came"],
    [p.gone.length, "went"],
    [p.changed.length, "changed"],
  ] as const;
  return (
    <div>
      <h3 className="label">
        Points:{" "}
        {counts.map(([n, word], k) => (
          <span key={word} className="tabular-nums">
            {k > 0 && ", "}
            {grouped(n)} {word}
          </span>
        ))}
      </h3>
      {here && there.length > 0 && (
        <button className="button my-1 h-6" onClick={() => select({ points: there })}>
          Select those that are there on the sheet
        </button>
      )}
      <table className="w-full" aria-label="Points between the states">
        <tbody className="align-top">
          {p.details.slice(0, MOST).map((d, k) => (
            <Row key={k} what={d.what} from={d.was} to={d.now} />
          ))}
          {p.cells > MOST && <Row what={`and ${grouped(p.cells - MOST)} more`} to="" />}
        </tbody>
      </table>
    </div>
  );
}
