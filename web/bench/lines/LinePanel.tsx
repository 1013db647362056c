"use client";
/** One line: its facts, what can be done with it, why each piece is there, and its shots. */
import { useState } from "react";
import {
  AREA_UNITS,
  closeLine,
  completeLine,
  namesIn,
  removeLine,
  reverseLine,
  sentenceOf,
  settingOf,
  unitFactor,
  UNITS,
  type AreaUnit,
  type HandLine,
  type Unit,
} from "@bramble/core";
import { lineName } from "@bramble/core/lines/model";
import { formatFixed } from "@bramble/core/math/round";
import { Choice } from "../../controls/fields/Choice";
import { goToFinding } from "../../lib/findings";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { area, areaUnitShort, decimalsOf, UNIT_SHORT } from "../../lib/units-shown";
import { lineAt, lineCalled, type LineShown } from "../../lib/view";
import { Fact } from "../Bench";
import { numberCorners } from "../maker/make-point";
import { Beside, Fillet, Mirror, PointsAlong } from "./geometry/forms";
import { Parallel, Recode, Width } from "./LineForms";
import { OwnNameForm } from "./LineNames";
import { Pieces } from "./LinePieces";
import { Shots } from "./LineShots";
import { make } from "./make";
import { Stations } from "./Stations";
import { Written } from "./Written";

const TABS = [
  ["shots", "Shots and cues"],
  ["pieces", "Pieces, and why each is there"],
  ["stations", "Stations"],
] as const;

export function LinePanel({ line, change }: { line: LineShown; change: (hand: HandLine) => void }) {
  const { job } = useParts("job");
  const [tab, setTab] = useKept<(typeof TABS)[number][0]>("lines.tab", "shots"),
    // A parallel has no shots of its own.
    shown = line.companion && tab === "shots" ? "pieces" : tab;
  return (
    <div className="min-h-0 flex-1 overflow-auto border-t border-rule px-4 py-3">
      <Facts line={line} />
      <Written line={line} />
      {!line.companion && <Edits line={line} change={change} />}
      <FindingsOfLine line={line} />
      <div className="mt-3 flex gap-4 border-b border-rule" role="tablist" aria-label="Shots, pieces or stations">
        {TABS.map(
          ([key, name]) =>
            (key !== "shots" || !line.companion) && (
              <button
                key={key}
                role="tab"
                aria-selected={shown === key}
                className="h-7 border-b-2 border-transparent text-soft aria-selected:border-bramble aria-selected:text-ink"
                onClick={() => setTab(key)}
              >
                {name}
              </button>
            ),
        )}
      </div>
      {shown === "pieces" && <Pieces line={line} />}
      {shown === "shots" && <Shots line={line} />}
      {shown === "stations" && (
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

/** Where it comes from, its measures in the units chosen, and whether it is in the terrain. */
function Facts({ line }: { line: LineShown }) {
  const { job, view } = useParts("job", "view");
  const [lengths, setLengths] = useKept<Unit>("lines.lengths", job.unit),
    [areas, setAreas] = useKept<AreaUnit>("lines.areas", settingOf(job, "areaUnit"));
  const t = job.points,
    u = job.unit,
    d = decimalsOf(u);
  const long = (x: number) => `${formatFixed(x * unitFactor(u, lengths), decimalsOf(lengths))} ${UNIT_SHORT[lengths]}`;
  return (
    <>
      <div className="float-right flex gap-1">
        <Choice
          label="Lengths in"
          named={false}
          width="px-1 text-soft"
          value={lengths}
          onChange={setLengths}
          options={UNITS.map((x) => [x, UNIT_SHORT[x]] as const)}
        />
        {line.area !== undefined && (
          <Choice
            label="Areas in"
            named={false}
            width="px-1 text-soft"
            value={areas}
            onChange={setAreas}
            options={AREA_UNITS.map((x) => [x, areaUnitShort(u, x)] as const)}
          />
        )}
      </div>
      <h2 className="heading">
        {lineCalled(line)}{" "}
        <span className="font-sans text-[13px] font-normal text-soft">
          {line.ownName === undefined ? "" : `${lineName(line)}, `}
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
    </>
  );
}

/** Cues that make corners. */
const MADE = /(^| )(quad|box=)/;

type Doing = "code" | "name" | "parallel" | "width" | "fillet" | "beside" | "mirror" | "along";

function Edits({ line, change }: { line: LineShown; change: (hand: HandLine) => void }) {
  const { job } = useParts("job");
  const [doing, setDoing] = useState<Doing>();
  const hand = job.lines.find((l) => l.name === line.hand),
    open = !line.closed,
    leave = () => setDoing(undefined);
  const act = (name: string, go: () => void, pressed?: boolean) => (
    <button className="button h-6" aria-pressed={pressed} onClick={go}>
      {name}
    </button>
  );
  /** What opens its form, and closes it again. */
  const ask = (name: string, what: Doing) =>
    act(name, () => setDoing(doing === what ? undefined : what), doing === what);
  return (
    <>
      <div className="mt-3 flex flex-wrap gap-1.5" role="group" aria-label="Edits of the line">
        {hand && act("Change its points", () => change(hand))}
        {open && line.shots.length > 2 && act("Close it", () => make(closeLine(job, line, true)))}
        {line.closed &&
          (line.cues.at(-1)?.includes("loop") || hand?.closed) &&
          act("Open it", () => make(closeLine(job, line, false)))}
        {act("Reverse", () => make(reverseLine(job, line)))}
        {line.shots.length === 3 &&
          (open || line.kind === "area") &&
          !line.cues.some((c) => MADE.test(c)) &&
          act("Complete the building", () => make(completeLine(job, line)))}
        {open && line.shots.length === 2 && ask("Complete a rectangle", "width")}
        {line.cues.some((c) => MADE.test(c)) && act("Number its made corners", () => void numberCorners(line))}
        {ask("Parallel", "parallel")}
        {line.shots.length > 2 && ask("Round a corner", "fillet")}
        {ask("Square or parallel", "beside")}
        {ask("Mirror", "mirror")}
        {ask("Points along it", "along")}
        {ask("Name and colour", "name")}
        {ask("Change code", "code")}
        {act("Remove the line", () => make(removeLine(job, line)))}
      </div>
      {doing === "name" && <OwnNameForm key={line.key} line={line} leave={leave} />}
      {doing === "code" && <Recode line={line} leave={leave} />}
      {doing === "parallel" && <Parallel line={line} leave={leave} />}
      {doing === "width" && <Width line={line} leave={leave} />}
      {doing === "fillet" && <Fillet key={line.key} line={line} leave={leave} />}
      {doing === "beside" && <Beside key={line.key} line={line} leave={leave} />}
      {doing === "mirror" && <Mirror key={line.key} line={line} leave={leave} />}
      {doing === "along" && <PointsAlong key={line.key} line={line} leave={leave} />}
    </>
  );
}

function FindingsOfLine({ line }: { line: LineShown }) {
  const { job, view } = useParts("job", "view");
  return view.findings
    .filter((f) => f.lines.includes(line.key))
    .map((f) => (
      <p key={f.key} className="mt-1 text-amber">
        {sentenceOf(f, namesIn(job.points, view.lines))}{" "}
        <button className="underline" onClick={() => goToFinding(f)}>
          Zoom to it
        </button>
      </p>
    ));
}

function levelDifference(rise: number, decimals: number, unit: string): string {
  return Number.isNaN(rise)
    ? "a level is missing"
    : `${rise > 0 ? "+" : ""}${formatFixed(rise, decimals).replace("-", "−")} ${unit}`;
}
