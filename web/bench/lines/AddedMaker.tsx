"use client";
/** Words beside a position, or the distance between two, added to the drawing; what was added is listed with it. */
import { useEffect, useRef, useState } from "react";
import type { Added, Anchor } from "@bramble/core/drawing/added/model";
import { freeAddedName } from "@bramble/core/drawing/added/name";
import { refOf } from "@bramble/core/points/refs";
import type { Snap } from "@bramble/core/lines/snap";
import { formatFixed } from "@bramble/core/math/round";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { Choice } from "../../controls/fields/Choice";
import { Tick } from "../../controls/fields/Tick";
import { LengthField } from "../../controls/fields/fields";
import { AddedList } from "./AddedList";
import { MakerForm } from "./MakerForm";
import { unless } from "../../controls/unless";
import { Typed } from "../../controls/fields/Typed";

type Kind = "words" | "dimension" | "symbol";

/** A position needs a click; a symbol may do without its second. */
const CLICKS: Record<Kind, number> = { words: 1, dimension: 2, symbol: 2 };
/** Where words begin, right of and above their position, mm on the sheet. */
const BESIDE = 9;
const PICK: Record<Kind, string> = { words: "Pick where", dimension: "Pick both ends", symbol: "Pick its point" };

export function AddedMaker({ leave }: { leave: () => void }) {
  const { job, layout, picking, set, change } = useParts("job", "layout", "picking", "set", "change"),
    [kind, setKind] = useState<Kind>("words"),
    { at, setAt, pick } = usePicked(kind),
    [words, setWords] = useState(""),
    [leader, setLeader] = useState(true),
    [right, setRight] = useState<number | undefined>(0),
    [hasSize, setHasSize] = useState(false),
    [size, setSize] = useState<{ long: number | undefined; wide: number | undefined }>({ long: 1, wide: 1 });
  const { long = NaN, wide = NaN } = size,
    isSize = [long, wide].every((x) => x >= 0.001 && x <= 10_000);
  const isReady = {
    words: at.length === 1 && words.trim() !== "",
    dimension: at.length === 2 && right !== undefined,
    symbol: hasSize ? at.length > 0 && isSize : at.length === 2,
  }[kind];
  const anchorOf = ({ e, n, point }: Snap): Anchor =>
    point === undefined ? { at: [e, n] } : { point: refOf(job.points, job.intakes, point) };
  const keep = () => {
    if (!isReady) return;
    const name = freeAddedName(kind, job.added),
      [first, second] = at.map(anchorOf),
      beside = Math.round(BESIDE * (layout?.unitsPerMm ?? 0.5) * 1000) / 1000;
    let added: Added;
    if (kind === "words")
      // They begin beside what they speak of, clear of most symbols, and are dragged from there.
      added = { name, words: words.trim(), to: first!, by: [beside, beside], ...(leader ? { leader: true } : {}) };
    else if (kind === "dimension") added = { name, dimension: [first!, second!], right: right! };
    else
      added = {
        name,
        symbol: refOf(job.points, job.intakes, at[0]!.point!),
        ...(hasSize ? { size: [long, wide] } : {}),
        ...(second ? { toward: second } : {}),
      };
    if (!change({ type: "named", part: "added", name, old: null, new: added })) return;
    setAt([]);
    setWords("");
    set({ preview: [], notice: { text: `“${name}” is added to the drawing.`, tone: "settled" } });
  };
  return (
    <MakerForm label="Add to the drawing" keep={keep}>
      <div className="flex flex-wrap items-end gap-2">
        <Choice
          label="What"
          value={kind}
          onChange={(v) => {
            setKind(v);
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
            <Typed label="Words" text={words} onType={setWords} width="w-full" box="min-w-40 flex-1" most={500} />
            <Tick words="Leader" on={leader} set={setLeader} className="flex h-7 items-center gap-1.5" />
          </>
        ) : kind === "dimension" ? (
          <LengthField
            label={`Line to the right, ${job.unit}`}
            value={right ?? 0}
            unit={job.unit}
            onChange={setRight}
            typing={setRight}
          />
        ) : (
          <>
            <Tick words="Its own size" on={hasSize} set={setHasSize} />
            {hasSize &&
              (["long", "wide"] as const).map((side) => (
                <LengthField
                  key={side}
                  label={`${side === "long" ? "Length" : "Width"}, ${job.unit}`}
                  value={size[side] ?? 1}
                  unit={job.unit}
                  positive
                  onChange={(x) => setSize({ ...size, [side]: x })}
                  typing={(x) => setSize({ ...size, [side]: x })}
                />
              ))}
          </>
        )}
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
        <button className="button button-main" {...unless(!isReady && "See below what it still needs.")}>
          Add it
        </button>
      </div>
      <Status at={at} />
      <AddedList />
    </MakerForm>
  );
}

/** The positions that were clicked, seen on the sheet while there are any. */
function usePicked(kind: Kind) {
  const { set } = useParts("set"),
    [at, setAt] = useState<Snap[]>([]),
    clicks = CLICKS[kind];
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
  return { at, setAt, pick };
}

function Status({ at }: { at: readonly Snap[] }) {
  const { job } = useParts("job"),
    d = decimalsOf(job.unit);
  return (
    <p role="status" className="mt-2 min-h-5 text-soft">
      {at.length === 0
        ? "It stands on the sheet, on plans and in drawing files. A click on a text of the sheet picks it, to move or turn."
        : at
            .map((x) =>
              x.point === undefined
                ? `N ${formatFixed(x.n, d)} E ${formatFixed(x.e, d)}`
                : `point ${job.points.number[x.point]}`,
            )
            .join(" to ")}
    </p>
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
