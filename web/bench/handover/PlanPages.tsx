"use client";
/** A picture of the pages of a plan, as they will be printed; the plan is dragged, or moved by keys, under its window. */
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { PlanFile, Preview } from "@bramble/core";
import { fromPaper } from "@bramble/core/handover/plan/sheets";
import { plural } from "@bramble/core/math/words";
import type { Edit } from "./edit";
import { drawPage } from "./page-canvas";
import { unless } from "../../controls/unless";

type Seen = Extract<Preview, { as: "pages" }>;

/** Pixels of the picture's larger side. */
const SIZE = 540,
  /** Millimetres of paper for a key. */
  STEP = 10;

export function PlanPages({ file, seen, edit }: { file: PlanFile; seen: Seen; edit: Edit<PlanFile> }) {
  const [shown, setShown] = useState(0),
    [moved, setMoved] = useState<[number, number]>([0, 0]),
    canvas = useRef<HTMLCanvasElement>(null),
    from = useRef<[number, number] | undefined>(undefined);
  const k = Math.min(shown, seen.pages.length - 1),
    page = seen.pages[k]!,
    pxPerMm = SIZE / Math.max(page.width, page.height),
    [width, height] = [page.width * pxPerMm, page.height * pxPerMm];
  useEffect(() => {
    const to = canvas.current?.getContext("2d");
    if (to) drawPage(to, page, pxPerMm, moved);
  }, [page, pxPerMm, moved]);
  // What is new is drawn where it was put.
  const [last, setLast] = useState(seen);
  if (last !== seen) {
    setLast(seen);
    setMoved([0, 0]);
  }
  /** Moves the plan on the paper by mm, to the right and up. */
  const move = ([dx, dy]: readonly [number, number]) => {
    const at = fromPaper({ turn: seen.turn, about: seen.at })(-dx * seen.unitsPerMm, -dy * seen.unitsPerMm);
    edit({ at: [round(at[0]), round(at[1])], ...(file.scale === undefined ? { scale: seen.scale } : {}) });
  };
  // Several sheets cover the whole job wherever they begin.
  const mayMove = !file.several;
  const down = (event: PointerEvent) => {
    if (!mayMove) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    from.current = [event.clientX, event.clientY];
  };
  const drag = (event: PointerEvent) => {
    if (from.current)
      setMoved([(event.clientX - from.current[0]) / pxPerMm, (from.current[1] - event.clientY) / pxPerMm]);
  };
  const up = () => {
    if (from.current && (moved[0] !== 0 || moved[1] !== 0)) move(moved);
    from.current = undefined;
  };
  const key = (event: KeyboardEvent) => {
    const way = ARROWS[event.key];
    if (!way || !mayMove) return;
    event.preventDefault();
    move([way[0] * STEP, way[1] * STEP]);
  };
  return (
    <figure className="mt-3">
      <canvas
        ref={canvas}
        role="img"
        tabIndex={mayMove ? 0 : undefined}
        aria-label={`Picture of ${page.name}, at 1 : ${seen.scale}${mayMove ? "; the arrow keys move the plan on it" : ""}`}
        className={`border border-rule bg-white ${mayMove ? "cursor-grab touch-none active:cursor-grabbing" : ""}`}
        style={{ width, height }}
        width={Math.round(width * devicePixelRatio)}
        height={Math.round(height * devicePixelRatio)}
        onPointerDown={down}
        onPointerMove={drag}
        onPointerUp={up}
        onKeyDown={key}
      />
      <figcaption className="mt-1 flex items-center gap-3 text-soft">
        <span>
          {file.paper ?? "A3"}, 1 : {seen.scale}
          {seen.turn !== 0 && `, turned ${Math.round((seen.turn * 180) / Math.PI)}° to the right`}
        </span>
        {seen.pages.length > 1 && (
          <>
            <button
              className="button h-6"
              {...unless(k === 0 && "This is the first sheet.")}
              onClick={() => setShown(k - 1)}
            >
              Before
            </button>
            <span className="tabular-nums">
              {k + 1} of {plural(seen.pages.length, "sheet")}
            </span>
            <button
              className="button h-6"
              {...unless(k === seen.pages.length - 1 && "This is the last sheet.")}
              onClick={() => setShown(k + 1)}
            >
              Next
            </button>
          </>
        )}
        {mayMove && file.at && (
          <button className="button button-plain h-6" onClick={() => edit({ at: undefined })}>
            Back to the middle of the job
          </button>
        )}
        {mayMove && !file.at && <span>drag the plan to where it is wanted</span>}
      </figcaption>
    </figure>
  );
}

const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Where a sheet lies needs no more than millimetres. */
const round = (x: number) => Math.round(x * 1000) / 1000;
