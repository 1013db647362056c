"use client";
/** Lines: all that is drawn from codes and by hand, the selected one with its facts and edits, and new ones. */
import { lineName } from "@bramble/core/lines/model";
import { plural } from "@bramble/core/math/words";
import type { HandLine } from "@bramble/core";
import { PlaceLink } from "../../controls/PlaceLink";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { BEFORE, useKnown } from "../../lib/use-known";
import { EMPTY_VIEW, lineAt, type LineShown } from "../../lib/view";
import { Bench } from "../Bench";
import { AddedMaker } from "./AddedMaker";
import { CoursesForm } from "./courses/CoursesForm";
import { HandLineForm } from "./HandLineForm";
import { LinePanel } from "./LinePanel";
import { LostNames } from "./LineNames";
import { LinesTable } from "./LinesTable";
import { Pair } from "./Pair";
import { openMaker } from "../maker/PointMaker";
import { Typed } from "../../controls/fields/Typed";

type Making = { what: "line"; line?: HandLine } | { what: "added" };

const MAKERS = [
  ["line", "Draw a line"],
  ["added", "Add to drawing"],
] as const;

export function LinesBench() {
  const { view } = useParts("view"),
    { known, before: isBefore } = useKnown(),
    [making, setMaking] = useKept<Making | undefined>("lines.making", undefined),
    [by, setBy] = useKept<Drawing>("lines.by", "points"),
    leave = () => setMaking(undefined);
  const about = known && (
    <span className={isBefore ? BEFORE : ""}>
      {plural(known.lines, "line")}
      {known.byHand ? `, ${known.byHand} by hand` : ""}
    </span>
  );
  if (view === EMPTY_VIEW)
    return (
      <Bench title="Lines" about={about} figures>
        <p className="px-4 text-soft">Reading the codes …</p>
      </Bench>
    );
  const actions = MAKERS.map(([what, words]) => (
    <button
      key={what}
      className={`button ${making?.what === what ? "border-bramble text-bramble" : ""}`}
      aria-pressed={making?.what === what}
      onClick={() => setMaking({ what })}
    >
      {words}
    </button>
  ));
  return (
    <Bench
      title="Lines"
      about={about}
      figures
      actions={
        <>
          {actions}
          <button className="button" onClick={() => openMaker()}>
            Make a point
          </button>
        </>
      }
    >
      {making?.what === "added" && <AddedMaker leave={leave} />}
      {making?.what === "line" && (
        <>
          {!making.line && <DrawnBy by={by} set={setBy} />}
          {!making.line && by === "courses" ? (
            <CoursesForm leave={leave} />
          ) : (
            <HandLineForm key={making.line?.name ?? "new"} line={making.line} leave={leave} />
          )}
        </>
      )}
      <LostNames />
      {view.lines.length > 0 ? (
        <Lines change={(line) => setMaking({ what: "line", line })} />
      ) : isBefore ? (
        <p className="px-4 text-soft">Reading the codes …</p>
      ) : (
        <p className="px-4 text-soft">
          No lines yet. Shots whose code is a line or an area in the{" "}
          <PlaceLink className="underline" place="book">
            Code book
          </PlaceLink>{" "}
          are joined by themselves when they are taken in. Others can be drawn by hand.
        </p>
      )}
    </Bench>
  );
}

const DRAWN_BY = [
  ["points", "Through points"],
  ["courses", "By courses of a document"],
] as const;
type Drawing = (typeof DRAWN_BY)[number][0];

/** What a new line is drawn by. */
function DrawnBy({ by, set }: { by: Drawing; set: (by: Drawing) => void }) {
  return (
    <div className="flex shrink-0 gap-4 border-b border-rule px-4" role="tablist" aria-label="What it is drawn by">
      {DRAWN_BY.map(([key, name]) => (
        <button
          key={key}
          role="tab"
          aria-selected={by === key}
          className="h-7 border-b-2 border-transparent text-soft aria-selected:border-bramble aria-selected:text-ink"
          onClick={() => set(key)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

/** The list, and what can be done with the one that is selected, or with the two. */
function Lines({ change }: { change: (line: HandLine) => void }) {
  const { view, lines: chosen } = useParts("view", "lines"),
    [filter, setFilter] = useKept("lines.filter", ""),
    wanted = filter.toLowerCase();
  const list = view.lines
    .map((l, k) => ({ l, k }))
    .filter(({ l }) => !filter || `${lineName(l)} ${l.name} ${l.ownName ?? ""}`.toLowerCase().includes(wanted));
  // After a change some of those selected may be gone.
  const there = [...chosen].flatMap((key) => view.lines[lineAt(view, key) ?? -1] ?? []),
    pair = chosen.size === 2 && there.length === 2 ? (there as [LineShown, LineShown]) : undefined,
    one = chosen.size === 1 ? there[0] : undefined;
  return (
    <>
      <div className="flex shrink-0 items-center px-4 py-2">
        <Typed
          label="Filter lines"
          named={false}
          text={filter}
          onType={setFilter}
          className="field w-44 shrink-0"
          placeholder="Code or name"
        />
        <span className="mx-3 min-w-0 truncate text-soft">
          {filter ? `${list.length} of ${view.lines.length}` : "Ctrl-click a second one to join or trim"}
        </span>
        <PlaceLink className="button ml-auto shrink-0" place="book">
          Code book
        </PlaceLink>
      </div>
      <LinesTable list={list} short={one !== undefined} />
      {one && <LinePanel line={one} change={change} />}
      {pair && <Pair pair={pair} />}
    </>
  );
}
