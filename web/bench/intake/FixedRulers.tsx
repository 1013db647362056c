"use client";
/** Fixed-width text with rulers over it: drag one to move it, press Enter on the scale to add one, Delete to take one away. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Column, FixedColumn } from "@bramble/core";
import { ColumnMeaning } from "./ColumnMeaning";

const SHOWN = 9;

export function FixedRulers({
  lines,
  firstLine,
  columns,
  attributes,
  onChange,
}: {
  lines: readonly string[];
  firstLine: number;
  columns: readonly FixedColumn[];
  attributes: readonly string[];
  onChange: (columns: FixedColumn[]) => void;
}) {
  const width = Math.min(400, Math.max(40, ...lines.map((l) => l.length)) + 2);
  const frame = useRef<HTMLDivElement>(null);
  const [dragged, setDragged] = useState<{ ruler: number; at: number }>();
  // Ruler k stands between column k and column k + 1.
  const rulers = columns.slice(1).map((c) => c.from);
  const at = (k: number) => (dragged?.ruler === k ? dragged.at : rulers[k]!);
  const characterAt = (event: { clientX: number }) => {
    const box = frame.current!.getBoundingClientRect();
    return Math.max(1, Math.min(width - 1, Math.round((event.clientX - box.left) / (box.width / width))));
  };
  const move = (k: number, character: number) => onChange(moved(columns, k, character, width));
  const onKey = (event: KeyboardEvent, k: number) => {
    if (event.key === "ArrowLeft") move(k, rulers[k]! - 1);
    else if (event.key === "ArrowRight") move(k, rulers[k]! + 1);
    else if (event.key === "Delete" || event.key === "Backspace") onChange(joined(columns, k));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="overflow-x-auto border border-rule bg-sheet" aria-label="Rulers over the first lines">
      <div className="sticky left-0 flex border-b border-rule bg-paper">
        <span className="w-14 shrink-0 px-2 py-1 text-right text-[11.5px] text-soft">Row</span>
        <span className="py-1 text-[11.5px] text-soft">
          {columns.length} columns. Click between two characters to add a ruler, drag it, press Delete to take it away.
        </span>
      </div>
      <div className="flex font-mono text-[12.5px] leading-[22px]">
        <div className="w-14 shrink-0 border-r border-rule-soft pr-2 text-right text-soft tabular-nums">
          {lines.slice(0, SHOWN).map((_, i) => (
            <div key={i} className={i < firstLine ? "opacity-50" : ""}>
              {i + 1}
            </div>
          ))}
        </div>
        <div
          ref={frame}
          className="relative shrink-0 cursor-copy whitespace-pre"
          style={{ width: `${width}ch` }}
          data-testid="rulers"
          onClick={(event) =>
            (event.target as HTMLElement).dataset.ruler === undefined && onChange(cut(columns, characterAt(event)))
          }
        >
          {columns.map((c, k) => (
            <span
              key={c.from}
              aria-hidden
              className={`absolute inset-y-0 ${k % 2 ? "bg-bench" : ""}`}
              style={{ left: `${c.from}ch`, width: `${Math.min(c.to, width) - c.from}ch` }}
            />
          ))}
          {lines.slice(0, SHOWN).map((l, i) => (
            <div key={i} className={`relative ${i < firstLine ? "text-soft opacity-60" : ""}`}>
              {l.slice(0, width) || " "}
            </div>
          ))}
          {rulers.map((_, k) => (
            <button
              key={k}
              role="slider"
              aria-label={`Ruler ${k + 1}`}
              aria-valuenow={at(k)}
              aria-valuemin={1}
              aria-valuemax={width}
              aria-orientation="horizontal"
              data-ruler={k}
              className="absolute inset-y-0 z-10 w-2 -translate-x-1/2 cursor-col-resize border-0 bg-transparent p-0 before:absolute before:inset-y-0 before:left-[3px] before:w-[2px] before:bg-bramble before:opacity-70 hover:before:opacity-100"
              style={{ left: `${at(k)}ch` }}
              onPointerDown={(event: PointerEvent<HTMLButtonElement>) => {
                event.currentTarget.setPointerCapture(event.pointerId);
                setDragged({ ruler: k, at: rulers[k]! });
              }}
              onPointerMove={(event) =>
                dragged?.ruler === k && setDragged({ ruler: k, at: within(columns, k, characterAt(event), width) })
              }
              onPointerUp={() => {
                if (dragged && dragged.at !== rulers[k]) move(k, dragged.at);
                setDragged(undefined);
              }}
              onKeyDown={(event) => onKey(event, k)}
            />
          ))}
        </div>
      </div>
      <Meanings columns={columns} attributes={attributes} onChange={onChange} />
    </div>
  );
}

type Columns = readonly FixedColumn[];

/** Where the ruler after column k may stand at the character: between those beside it. */
function within(columns: Columns, k: number, character: number, width: number): number {
  const low = columns[k]!.from + 1,
    high = (columns[k + 2]?.from ?? width + 1) - 1;
  return Math.max(low, Math.min(high, character));
}

function moved(columns: Columns, k: number, character: number, width: number): FixedColumn[] {
  const to = within(columns, k, character, width);
  return columns.map((c, i) => (i === k ? { ...c, to } : i === k + 1 ? { ...c, from: to } : c));
}

/** A column cut in two at a character; what comes behind the cut is passed over until its meaning is said. */
function cut(columns: Columns, character: number): FixedColumn[] {
  return columns.flatMap((c): FixedColumn[] =>
    c.from < character && character < c.to
      ? [
          { ...c, to: character },
          { from: character, to: c.to, is: "skip" },
        ]
      : [c],
  );
}

/** Without the ruler after column k. */
function joined(columns: Columns, k: number): FixedColumn[] {
  return [...columns.slice(0, k), { ...columns[k]!, to: columns[k + 1]!.to }, ...columns.slice(k + 2)];
}

/** What each column between the rulers means. */
function Meanings({
  columns,
  attributes,
  onChange,
}: {
  columns: Columns;
  attributes: readonly string[];
  onChange: (columns: FixedColumn[]) => void;
}) {
  return (
    <div className="flex flex-wrap gap-x-3 gap-y-1.5 border-t border-rule bg-paper p-2">
      {columns.map((c, k) => (
        <div key={c.from} className="w-34">
          <span className="label block tabular-nums">
            {c.from + 1} to {c.to >= 200 && k === columns.length - 1 ? "end" : c.to}
          </span>
          <ColumnMeaning
            k={k}
            value={c.is}
            attributes={attributes}
            onChange={(is: Column) =>
              onChange(
                columns.map((x, i) =>
                  i === k ? { ...x, is } : x.is === is && is !== "skip" ? { ...x, is: "skip" } : x,
                ),
              )
            }
          />
        </div>
      ))}
    </div>
  );
}
