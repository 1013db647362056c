"use client";
/** Words beside a position, or the distance between two, added to the drawing; what was added is listed with it. */
import { useEffect, useRef, useState } from "react";
import type { Unit } from "@bramble/core/math/units";
import type { Added, Anchor } from "@bramble/core/drawing/added/model";
import { refOf } from "@bramble/core/points/refs";
import type { Snap } from "@bramble/core/lines/snap";
import { formatFixed } from "@bramble/core/math/round";
import { readTypedLength } from "@bramble/core/math/typed";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { Choice } from "../Choice";
import { AddedList } from "./AddedList";

type Kind = "words" | "dimension" | "symbol";

/** A position needs a click; a symbol may do without its second. */
const CLICKS: Record<Kind, number> = { words: 1, dimension: 2, symbol: 2 };
/** Where words begin, right of and above their position, mm on the sheet. */
const BESIDE = 9;
const PICK: Record<Kind, string> = { words: "Pick where", dimension: "Pick both ends", symbol: "Pick its point" };

export function AddedMaker({ leave }: { leave: () => void }) {
  const { job, layout, picking, set, change } = useParts("job", "layout", "picking", "set", "change"),
    [kind, setKind] = useState<Kind>("words"),
    [at, setAt] = useState<Snap[]>([]),
    [words, setWords] = useState(""),
    [leader, setLeader] = useState(true),
    [right, setRight] = useState(""),
    [long, setLong] = useState(""),
    [wide, setWide] = useState("");
  const clicks = CLICKS[kind],
    d = decimalsOf(job.unit),
    off = lengthIn(right, job.unit, 0),
    size = [lengthIn(long, job.unit), lengthIn(wide, job.unit)] as const,
    hasSize = long.trim() !== "" || wide.trim() !== "",
    wrongSize = hasSize && !size.every((x) => x !== undefined && x >= 0.001 && x <= 10_000);
  const isReady = {
    words: at.length === 1 && words.trim() !== "",
    dimension: at.length === 2 && off !== undefined,
    symbol: at.length > 0 && !wrongSize && (hasSize || at.length === 2),
  }[kind];
  useEffect(() => () => set({ picking: undefined, preview: [] }), [set]);
  useEffect(() => {
    const r = 0.4;
    set({
      preview: [
        ...at.flatMap(({ e, n }) => [
          [e - r, n, e + r, n],
          [e, n - r, e, n + r],
        ]),
        ...(at.length === 2 ? [[at[0]!.e, at[0]!.n, at[1]!.e, at[1]!.n]] : []),
      ],
    });
  }, [at, set]);
  // Kept beside the state: a second click may come before the first is answered.
  const clicked = useRef<Snap[]>([]);
  const pick = (so: Snap[]) => {
    clicked.current = so;
    set({
      picking: {
        hint: hintOf(kind, so.length),
        points: kind === "symbol" && so.length === 0,
        take(snap) {
          const next = [...clicked.current, snap].slice(0, clicks);
          setAt(next);
          if (next.length < clicks) return pick(next);
          clicked.current = next;
          set({ picking: undefined });
        },
      },
    });
  };
  const anchorOf = ({ e, n, point }: Snap): Anchor =>
    point === undefined ? { at: [e, n] } : { point: refOf(job.points, job.intakes, point) };
  const keep = () => {
    if (!isReady) return;
    const name = freeName(kind, job.added),
      [first, second] = at.map(anchorOf),
      beside = Math.round(BESIDE * (layout?.unitsPerMm ?? 0.5) * 1000) / 1000;
    let added: Added;
    if (kind === "words")
      // They begin beside what they speak of, clear of most symbols, and are dragged from there.
      added = { name, words: words.trim(), to: first!, by: [beside, beside], ...(leader ? { leader: true } : {}) };
    else if (kind === "dimension") added = { name, dimension: [first!, second!], right: off! };
    else
      added = {
        name,
        symbol: refOf(job.points, job.intakes, at[0]!.point!),
        ...(hasSize ? { size: [size[0]!, size[1]!] } : {}),
        ...(second ? { toward: second } : {}),
      };
    if (!change({ type: "named", part: "added", name, old: null, new: added })) return;
    setAt([]);
    setWords("");
    set({ preview: [] });
  };
  return (
    <form
      aria-label="Add to the drawing"
      className="shrink-0 border-y border-rule bg-paper px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <div className="flex flex-wrap items-end gap-2">
        <Choice
          label="What"
          value={kind}
          onChange={(v) => {
            setKind(v as Kind);
            setAt([]);
          }}
          options={[
            ["words", "words"],
            ["dimension", "a dimension"],
            ["symbol", "a symbol's size and turn"],
          ]}
        />
        <button
          type="button"
          className={`button ${picking ? "button-main" : ""}`}
          aria-pressed={picking !== undefined}
          onClick={() => {
            if (picking) return set({ picking: undefined });
            setAt([]);
            pick([]);
          }}
        >
          {picking ? "Stop picking" : PICK[kind]}
        </button>
        {kind === "words" ? (
          <>
            <label className="block min-w-40 flex-1">
              <span className="label block">Words</span>
              <input
                className="field mt-0.5 w-full"
                value={words}
                maxLength={500}
                onChange={(event) => setWords(event.target.value)}
              />
            </label>
            <label className="flex h-7 items-center gap-1.5">
              <input type="checkbox" checked={leader} onChange={(event) => setLeader(event.target.checked)} />
              Leader
            </label>
          </>
        ) : kind === "dimension" ? (
          <Length label={`Line to the right, ${job.unit}`} text={right} put={setRight} wrong={off === undefined} />
        ) : (
          <>
            <Length label={`Length, ${job.unit}`} text={long} put={setLong} wrong={wrongSize} />
            <Length label={`Width, ${job.unit}`} text={wide} put={setWide} wrong={wrongSize} />
          </>
        )}
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
        <button className="button button-main" disabled={!isReady}>
          Add it
        </button>
      </div>
      <p role="status" className="mt-2 min-h-5 text-soft">
        {at.length === 0
          ? "It stands on the sheet, on plans and in drawing files; a click on its letters there moves, turns or hides it, as any other text."
          : at
              .map((x) =>
                x.point === undefined
                  ? `N ${formatFixed(x.n, d)} E ${formatFixed(x.e, d)}`
                  : `point ${job.points.number[x.point]}`,
              )
              .join(" to ")}
      </p>
      <AddedList />
    </form>
  );
}

function hintOf(kind: Kind, clicked: number): string {
  if (kind === "symbol")
    return clicked === 0
      ? "Click the point whose symbol it is; Esc ends"
      : "Click where it is turned to, or Esc where its turn stays";
  return clicked === 0
    ? "Click a position, best a point: what is added follows it; Esc ends"
    : "Click the second position; Esc ends";
}

/** What is typed, in the job's unit; undefined where it is no length. */
function lengthIn(text: string, unit: Unit, blank?: number): number | undefined {
  if (text.trim() === "") return blank;
  const read = readTypedLength(text, unit);
  return "value" in read ? read.value : undefined;
}

function Length({
  label,
  text,
  put,
  wrong,
}: {
  label: string;
  text: string;
  put: (text: string) => void;
  wrong: boolean;
}) {
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className="field num mt-0.5 w-24"
        placeholder="0"
        value={text}
        aria-invalid={wrong}
        onChange={(event) => put(event.target.value)}
      />
    </label>
  );
}

function freeName(kind: Kind, added: readonly Added[]): string {
  let k = 1;
  while (added.some((a) => a.name === `${kind} ${k}`)) k++;
  return `${kind} ${k}`;
}
