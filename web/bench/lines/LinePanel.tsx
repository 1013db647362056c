"use client";
/** One line: its facts, what can be done with it, why each piece is there, and its shots. */
import { useEffect, useState, type ReactNode } from "react";
import {
  addParallel,
  AREA_UNITS,
  closeLine,
  completeLine,
  insertShot,
  namesIn,
  recodeLine,
  removeLine,
  reverseLine,
  sentenceOf,
  settingOf,
  splitLine,
  steerShot,
  takeOutShot,
  unitFactor,
  UNITS,
  type AreaUnit,
  type HandLine,
  type Unit,
} from "@bramble/core";
import { lengthTyped } from "@bramble/core/math/typed";
import { compileBook } from "@bramble/core/codes/book";
import { cueOfWord } from "@bramble/core/codes/cue-edits";
import type { PieceFacts } from "@bramble/core/lines/explain";
import { lineName } from "@bramble/core/lines/model";
import { directionText } from "@bramble/core/math/angles";
import { formatFixed, plainNumber } from "@bramble/core/math/round";
import { numberIndex } from "@bramble/core/points/index";
import { goToFinding } from "../../lib/findings";
import { useJob, useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { area, areaUnitShort, decimalsOf, UNIT_SHORT } from "../../lib/units-shown";
import { lineAt, type LineShown } from "../../lib/view";
import { Fact } from "../Bench";
import { make } from "./make";
import { Stations } from "./Stations";
import { Written } from "./Written";
import { TakenText } from "../TakenText";
import { unless } from "../../controls/unless";

type Doing = "code" | "parallel" | "width" | undefined;
const MOST = 500;

export function LinePanel({ line, change }: { line: LineShown; change: (hand: HandLine) => void }) {
  const { job, view } = useParts("job", "view");
  const [doing, setDoing] = useState<Doing>(),
    [tab, setTab] = useKept<"shots" | "pieces" | "stations">("lines.tab", "shots"),
    // A parallel has no shots of its own.
    shownTab = line.companion && tab === "shots" ? "pieces" : tab;
  const [lengths, setLengths] = useKept<Unit>("lines.lengths", job.unit),
    [areas, setAreas] = useKept<AreaUnit>("lines.areas", settingOf(job, "areaUnit"));
  const t = job.points,
    d = decimalsOf(job.unit),
    u = job.unit;
  const long = (x: number) => `${formatFixed(x * unitFactor(u, lengths), decimalsOf(lengths))} ${UNIT_SHORT[lengths]}`;
  const hand = job.lines.find((l) => l.name === line.hand),
    open = !line.closed;
  const act = (name: string, go: () => void, more: { pressed?: boolean } = {}) => (
    <button className="button h-6" aria-pressed={more.pressed} onClick={go}>
      {name}
    </button>
  );
  return (
    <div className="min-h-0 flex-1 overflow-auto border-t border-rule px-4 py-3">
      <div className="float-right flex gap-1">
        <select
          className="field h-6 px-1 text-soft"
          aria-label="Lengths in"
          value={lengths}
          onChange={(event) => setLengths(event.target.value as Unit)}
        >
          {UNITS.map((x) => (
            <option key={x} value={x}>
              {UNIT_SHORT[x]}
            </option>
          ))}
        </select>
        {line.area !== undefined && (
          <select
            className="field h-6 px-1 text-soft"
            aria-label="Areas in"
            value={areas}
            onChange={(event) => setAreas(event.target.value as AreaUnit)}
          >
            {AREA_UNITS.map((x) => (
              <option key={x} value={x}>
                {areaUnitShort(u, x)}
              </option>
            ))}
          </select>
        )}
      </div>
      <h2 className="heading">
        {lineName(line)}{" "}
        <span className="font-sans text-[13px] font-normal text-soft">
          {line.name};{" "}
          {line.companion
            ? "a parallel"
            : line.hand !== undefined
              ? "drawn by hand"
              : `from ${job.intakes[line.intake]?.file}`}
        </span>
      </h2>
      <dl className="rows mt-2 grid grid-cols-2 gap-x-8">
        <Fact name={line.closed ? "Perimeter in plan" : "Plan length"} strong>
          {long(line.length)}
        </Fact>
        <Fact name="Slope length">
          {Number.isNaN(line.slopeLength) ? "a level is missing" : long(line.slopeLength)}
        </Fact>
        {line.companion ? (
          <Fact name="Parallel to">{lineName(view.lines[lineAt(view, line.companion.of)!]!)}</Fact>
        ) : (
          <Fact name="From, to">
            {t.number[line.shots[0]!]} to {t.number[line.shots.at(-1)!]}
          </Fact>
        )}
        {line.companion && (
          <Fact name={line.companion.right > 0 ? "To the right" : "To the left"}>
            {formatFixed(Math.abs(line.companion.right), d)} {u}, {line.companion.up >= 0 ? "+" : "−"}
            {formatFixed(Math.abs(line.companion.up), d)} up
          </Fact>
        )}
        <Fact name="Level difference">{levelDifference(line.ends[1] - line.ends[0], d, u)}</Fact>
        {line.area !== undefined && (
          <Fact name="Area" strong>
            {area(line.area, u, areas)}
          </Fact>
        )}
        <Fact name="In the terrain">{line.breakline === "none" ? "no breakline" : `${line.breakline} breakline`}</Fact>
      </dl>
      <Written line={line} />
      {!line.companion && (
        <div className="mt-3 flex flex-wrap gap-1.5" role="group" aria-label="Edits of the line">
          {hand && act("Change its points", () => change(hand))}
          {open && line.shots.length > 2 && act("Close it", () => make(closeLine(job, line, true)))}
          {line.closed &&
            (line.cues.at(-1)?.includes("loop") || hand?.closed) &&
            act("Open it", () => make(closeLine(job, line, false)))}
          {act("Reverse", () => make(reverseLine(job, line)))}
          {line.shots.length === 3 &&
            (open || line.kind === "area") &&
            !line.cues.some((c) => /(^| )(quad|box=)/.test(c)) &&
            act("Complete the building", () => make(completeLine(job, line)))}
          {open &&
            line.shots.length === 2 &&
            act("Complete a rectangle", () => setDoing(doing === "width" ? undefined : "width"), {
              pressed: doing === "width",
            })}
          {act("Parallel", () => setDoing(doing === "parallel" ? undefined : "parallel"), {
            pressed: doing === "parallel",
          })}
          {act("Change code", () => setDoing(doing === "code" ? undefined : "code"), { pressed: doing === "code" })}
          {act("Remove the line", () => make(removeLine(job, line)))}
        </div>
      )}
      {doing === "code" && <Recode line={line} leave={() => setDoing(undefined)} />}
      {doing === "parallel" && <Parallel line={line} leave={() => setDoing(undefined)} />}
      {doing === "width" && <Width line={line} leave={() => setDoing(undefined)} />}
      {view.findings
        .filter((f) => f.lines.includes(line.key))
        .map((f) => (
          <p key={f.key} className="mt-1 text-amber">
            {sentenceOf(f, namesIn(t, view.lines))}{" "}
            <button className="underline" onClick={() => goToFinding(f)}>
              Zoom to it
            </button>
          </p>
        ))}
      <div className="mt-3 flex gap-4 border-b border-rule" role="tablist" aria-label="Shots, pieces or stations">
        {(
          [
            ["shots", "Shots and cues"],
            ["pieces", "Pieces, and why each is there"],
            ["stations", "Stations"],
          ] as const
        ).map(
          ([key, name]) =>
            (key !== "shots" || !line.companion) && (
              <button
                key={key}
                role="tab"
                aria-selected={shownTab === key}
                className="h-7 border-b-2 border-transparent text-soft aria-selected:border-bramble aria-selected:text-ink"
                onClick={() => setTab(key)}
              >
                {name}
              </button>
            ),
        )}
      </div>
      {shownTab === "pieces" && <Pieces line={line} />}
      {shownTab === "shots" && <Shots line={line} />}
      {shownTab === "stations" && (
        <Stations
          unfolded
          key={line.key}
          line={{
            code: line.code,
            ...(line.run && { run: line.run }),
            ...(job.intakes[line.intake] && { intake: job.intakes[line.intake]!.id }),
          }}
        />
      )}
    </div>
  );
}

function levelDifference(rise: number, decimals: number, unit: string): string {
  return Number.isNaN(rise)
    ? "a level is missing"
    : `${rise > 0 ? "+" : ""}${formatFixed(rise, decimals).replace("-", "−")} ${unit}`;
}

function Small({
  label,
  children,
  action,
  ready,
  go,
}: {
  label: string;
  children: ReactNode;
  action: string;
  ready: boolean;
  go: () => void;
}) {
  return (
    <form
      aria-label={label}
      className="mt-2 flex flex-wrap items-end gap-2 border-l-2 border-bramble pl-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) go();
      }}
    >
      {children}
      <button className="button button-main" {...unless(!ready && "Say first what is left open beside it.")}>
        {action}
      </button>
    </form>
  );
}

function Recode({ line, leave }: { line: LineShown; leave: () => void }) {
  const { job } = useParts("job");
  const [code, setCode] = useState(line.code),
    [run, setRun] = useState(line.run);
  return (
    <Small
      label="Change code"
      action="Change it"
      ready={code + run !== line.code + line.run && code !== ""}
      go={() => make(recodeLine(job, line, code + run)) && leave()}
    >
      <label className="block">
        <span className="label block">Code</span>
        <select className="field mt-0.5" value={code} onChange={(event) => setCode(event.target.value)}>
          {[
            ...new Set([
              line.code,
              ...(job.book.codes ?? []).filter((c) => c.kind === "line" || c.kind === "area").map((c) => c.code),
            ]),
          ].map((c) => (
            <option key={c} value={c}>
              {c}
            </option>
          ))}
        </select>
      </label>
      <label className="block">
        <span className="label block">Run</span>
        <input
          className="field num mt-0.5 w-16"
          value={run}
          inputMode="numeric"
          onChange={(event) => setRun(event.target.value.replace(/\D/g, ""))}
        />
      </label>
    </Small>
  );
}

function Parallel({ line, leave }: { line: LineShown; leave: () => void }) {
  const { job, ask, set, picking } = useParts("job", "ask", "set", "picking");
  const [right, setRight] = useState(""),
    [up, setUp] = useState("0"),
    [code, setCode] = useState("");
  const r = lengthTyped(right, job.unit),
    z = lengthTyped(up, job.unit);
  useEffect(() => () => set({ picking: undefined }), [set]);
  const through = () =>
    set({
      picking: picking
        ? undefined
        : {
            hint: "Click the point that the parallel goes through; Esc ends",
            points: false,
            take: (snap) => {
              set({ picking: undefined });
              void ask({ what: "right of", line: line.key, e: snap.e, n: snap.n }).then(
                (x) => x !== undefined && setRight(plainNumber(x)),
              );
            },
          },
    });
  return (
    <Small
      label="Parallel"
      action="Draw it"
      ready={r !== undefined && r !== 0 && z !== undefined}
      go={() => make(addParallel(job, line, r!, z!, code || undefined)) && leave()}
    >
      <label className="block">
        <span className="label block">To the right {job.unit} (left −)</span>
        <input
          className="field num mt-0.5 w-28"
          value={right}
          autoFocus
          aria-invalid={right !== "" && !r}
          onChange={(event) => setRight(event.target.value.replace("−", "-"))}
        />
      </label>
      <button type="button" className={`button ${picking ? "button-main" : ""}`} onClick={through}>
        {picking ? "Stop picking" : "Through a point"}
      </button>
      <label className="block">
        <span className="label block">Higher by {job.unit}</span>
        <input
          className="field num mt-0.5 w-20"
          value={up}
          aria-invalid={z === undefined}
          onChange={(event) => setUp(event.target.value.replace("−", "-"))}
        />
      </label>
      <label className="block">
        <span className="label block">As</span>
        <select className="field mt-0.5" value={code} onChange={(event) => setCode(event.target.value)}>
          <option value="">the same code</option>
          {(job.book.codes ?? [])
            .filter((c) => c.kind === "line" || c.kind === "area")
            .map((c) => (
              <option key={c.code} value={c.code}>
                {c.code}
              </option>
            ))}
        </select>
      </label>
    </Small>
  );
}

function Width({ line, leave }: { line: LineShown; leave: () => void }) {
  const { job } = useParts("job");
  const [width, setWidth] = useState(""),
    w = lengthTyped(width, job.unit);
  return (
    <Small
      label="Complete a rectangle"
      action="Complete it"
      ready={w !== undefined && w !== 0}
      go={() => make(completeLine(job, line, w!)) && leave()}
    >
      <label className="block">
        <span className="label block">Width to the right {job.unit} (left −)</span>
        <input
          className="field num mt-0.5 w-32"
          value={width}
          autoFocus
          onChange={(event) => setWidth(event.target.value.replace("−", "-"))}
        />
      </label>
    </Small>
  );
}

function Pieces({ line }: { line: LineShown }) {
  const { job, view, ask } = useParts("job", "view", "ask");
  const [pieces, setPieces] = useState<PieceFacts[]>();
  useEffect(() => {
    let here = true;
    void ask({ what: "pieces", line: line.key }).then((p) => here && setPieces(p));
    return () => void (here = false);
  }, [line.key, view.lines, ask]);
  const d = decimalsOf(job.unit),
    name = (i: number) => (i < 0 ? "corner" : job.points.number[i]);
  if (!pieces) return null;
  return (
    <>
      <table className="plain mt-1 [&_td]:px-1.5 [&_th]:px-1.5" aria-label={`Pieces of ${lineName(line)}`}>
        <thead>
          <tr>
            <th>From, to</th>
            <th>Is</th>
            <th className="num">Plan {job.unit}</th>
            <th className="num">Slope {job.unit}</th>
            <th className="num">Direction</th>
            <th className="num">Rise</th>
            <th>Why</th>
          </tr>
        </thead>
        <tbody>
          {pieces.slice(0, MOST).map((p, k) => (
            <tr key={k}>
              <td className="whitespace-nowrap">
                {name(p.from)}, {name(p.to)}
              </td>
              <td className="whitespace-nowrap text-soft">
                {p.type}
                {p.radius !== undefined ? ` r ${formatFixed(p.radius, 2)}` : ""}
              </td>
              <td className="num">{formatFixed(p.length, d)}</td>
              <td className="num">{Number.isNaN(p.slopeLength) ? "–" : formatFixed(p.slopeLength, d)}</td>
              <td className="num whitespace-nowrap">{directionText(p.azimuth, settingOf(job, "angle"))}</td>
              <td className="num">{Number.isNaN(p.rise) ? "–" : formatFixed(p.rise, d).replace("-", "−")}</td>
              <td className="max-w-44 truncate text-soft" title={p.why}>
                {p.why}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {pieces.length > MOST && <p className="text-soft">and {pieces.length - MOST} more pieces</p>}
    </>
  );
}

function Shots({ line }: { line: LineShown }) {
  const { job, select, points, set } = useParts("job", "select", "points", "set");
  const [inserting, setInserting] = useState<{ after: number; text: string }>();
  const t = job.points,
    d = decimalsOf(job.unit),
    book = compileBook(job.book);
  const endInsert = () => {
    setInserting(undefined);
    set({ picking: undefined });
  };
  /** The point is typed, or picked on the sheet. */
  const beginInsert = (after: number) => {
    setInserting({ after, text: "" });
    set({
      picking: {
        hint: "Click the point to insert, or type its number; Esc ends",
        points: true,
        take: (snap) =>
          snap.point !== undefined && setInserting({ after, text: useJob.getState().job.points.number[snap.point]! }),
      },
    });
  };
  useEffect(() => () => set({ picking: undefined }), [set]);
  const insert = () => {
    const row = numberIndex(t).get(inserting!.text.trim());
    if (row === undefined)
      return void useJob
        .getState()
        .set({ notice: { text: `There is no point ${inserting!.text.trim()}.`, tone: "problem" } });
    if (make(insertShot(job, line, row, inserting!.after))) endInsert();
  };
  /** False puts back what there is. */
  const steer = (k: number, text: string): boolean => {
    const words = text.trim().split(/\s+/).filter(Boolean),
      bad = words.find((w) => !cueOfWord(w, book));
    if (words.join(" ") === line.cues[k]) return false;
    if (bad === undefined) return make(steerShot(job, line, k, words.join(" ")));
    useJob
      .getState()
      .set({ notice: { text: `“${bad}” is no cue. The cue words stand in the code book.`, tone: "problem" } });
    return false;
  };
  return (
    <section aria-label="Shots of the line">
      <table className="plain mt-1">
        <thead>
          <tr>
            <th>Point</th>
            <th className="num">Level {job.unit}</th>
            <th>Cues</th>
            <th>
              <span className="sr-only">What may be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {line.shots.slice(0, MOST).map((i, k) => (
            <tr key={`${i} ${k}`} aria-selected={points.has(t.id[i]!) && points.size === 1}>
              <td>
                <button
                  className="font-medium hover:text-bramble"
                  onClick={() => select({ points: [t.id[i]!], lines: useJob.getState().lines })}
                >
                  {t.number[i]}
                </button>
              </td>
              <td className="num">{formatFixed(t.z[i]!, d)}</td>
              <td>
                <TakenText
                  className="field h-6 w-full border-transparent bg-transparent hover:border-rule focus:border-rule"
                  label={`Cues of ${t.number[i]}`}
                  value={line.cues[k] ?? ""}
                  take={(text) => steer(k, text)}
                />
              </td>
              <td className="text-right whitespace-nowrap">
                {inserting?.after === k ? (
                  <form
                    className="inline-flex gap-1"
                    onSubmit={(event) => {
                      event.preventDefault();
                      insert();
                    }}
                  >
                    <input
                      className="field h-6 w-20"
                      aria-label="Point to insert"
                      placeholder="point"
                      autoFocus
                      value={inserting.text}
                      onChange={(event) => setInserting({ after: k, text: event.target.value })}
                      onKeyDown={(event) => event.key === "Escape" && endInsert()}
                    />
                    <button className="button h-6">Insert</button>
                  </form>
                ) : (
                  <button
                    className="button button-plain h-6"
                    aria-label={`Insert after ${t.number[i]}`}
                    onClick={() => beginInsert(k)}
                  >
                    Insert after
                  </button>
                )}
                {!line.closed && k < line.shots.length - 1 && k > 0 && (
                  <button
                    className="button button-plain h-6"
                    aria-label={`Split at ${t.number[i]}`}
                    title="Both parts meet at this shot"
                    onClick={() => make(splitLine(job, line, k))}
                  >
                    Split here
                  </button>
                )}
                {!line.closed && k < line.shots.length - 2 && k > 0 && (
                  <button
                    className="button button-plain h-6"
                    aria-label={`Split after ${t.number[i]}, with a gap`}
                    title="The rest begins at the next shot; the piece between goes"
                    onClick={() => make(splitLine(job, line, k, true))}
                  >
                    Gap after
                  </button>
                )}
                <button
                  className="button button-plain h-6"
                  aria-label={`Take ${t.number[i]} out of the line`}
                  onClick={() => make(takeOutShot(job, line, k))}
                >
                  Take out
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {line.shots.length > MOST && <p className="text-soft">and {line.shots.length - MOST} more shots</p>}
    </section>
  );
}
