"use client";
/** Words beside a position, or the distance between two, added to the drawing; what was added is listed with it. */
import { useEffect, useState } from "react";
import type { Added, Anchor } from "@bramble/core/drawing/added/model";
import { refOf } from "@bramble/core/points/refs";
import type { Snap } from "@bramble/core/lines/snap";
import { formatFixed } from "@bramble/core/math/round";
import { readTypedLength } from "@bramble/core/math/typed";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { Choice } from "../Choice";
import { AddedList } from "./AddedList";

type Kind = "words" | "dimension";

export function AddedMaker({ leave }: { leave: () => void }) {
  const { job, picking, set, change } = useParts("job", "picking", "set", "change"),
    [kind, setKind] = useState<Kind>("words"),
    [at, setAt] = useState<Snap[]>([]),
    [words, setWords] = useState(""),
    [leader, setLeader] = useState(true),
    [right, setRight] = useState("");
  const needs = kind === "words" ? 1 : 2,
    d = decimalsOf(job.unit),
    off = right.trim() === "" ? 0 : readTypedLength(right, job.unit),
    wrong = typeof off !== "number" && "problem" in off;
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
  const pick = (so: Snap[]) =>
    set({
      picking: {
        hint:
          so.length === 0
            ? "Click a position, best a point: what is added follows it; Esc ends"
            : "Click the second position; Esc ends",
        points: false,
        take(snap) {
          const next = [...so, snap];
          setAt(next);
          if (next.length < needs) pick(next);
          else set({ picking: undefined });
        },
      },
    });
  const anchorOf = ({ e, n, point }: Snap): Anchor =>
    point === undefined ? { at: [e, n] } : { point: refOf(job.points, job.intakes, point) };
  const keep = () => {
    if (at.length < needs || wrong || (kind === "words" && words.trim() === "")) return;
    const name = freeName(kind, job.added),
      // Words begin a little beside what they speak of, and are dragged from there.
      by = 1.5;
    const added: Added =
      kind === "words"
        ? { name, words: words.trim(), to: anchorOf(at[0]!), by: [by, by], ...(leader ? { leader: true } : {}) }
        : {
            name,
            dimension: [anchorOf(at[0]!), anchorOf(at[1]!)],
            right: typeof off === "number" ? off : "value" in off ? off.value : 0,
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
          {picking ? "Stop picking" : needs === 1 ? "Pick where" : "Pick both ends"}
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
        ) : (
          <label className="block">
            <span className="label block">Line to the right, {job.unit}</span>
            <input
              className="field num mt-0.5 w-24"
              placeholder="0"
              value={right}
              aria-invalid={wrong}
              onChange={(event) => setRight(event.target.value)}
            />
          </label>
        )}
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
        <button
          className="button button-main"
          disabled={at.length < needs || wrong || (kind === "words" && words.trim() === "")}
        >
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

function freeName(kind: Kind, added: readonly Added[]): string {
  let k = 1;
  while (added.some((a) => a.name === `${kind} ${k}`)) k++;
  return `${kind} ${k}`;
}
