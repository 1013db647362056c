"use client";
/**
 * The live picture of one code: a sample line with a curve and a corner, or the symbol with its note, drawn by the same
 * way as the sheet.
 */
import { useEffect, useMemo, useRef } from "react";
import { openRecipe, runChain, type CodeBook, type CodeEntry, type Derived, type JobState } from "@bramble/core";
import { layOutTexts } from "@bramble/core/drawing/layout";
import { lineShown } from "../../lib/line-shown";
import { EMPTY_VIEW, type View } from "../../lib/view";
import { drawDrafting, inSight } from "../../sheet/drafting";
import { sheetColors } from "../../lib/theme";

/** Pixels for a millimetre of paper: larger than life. */
const PX_PER_MM = 6.4,
  SCALE = 500;

/** A value that an attribute may have, for the sample. */
function sampleValue(a: NonNullable<CodeEntry["attributes"]>[number]): string {
  if (a.type === "choice") return a.choices?.[0] ?? "kind";
  if (a.type !== "number") return a.name;
  return a.unit === "m" || a.unit === "ft" || a.unit === "ftUS" ? "4.2" : a.unit === "mm" ? "300" : "12";
}

/** The code alone in a small job of its own. */
function sampleJob(entry: CodeEntry, book: CodeBook): { state: JobState; derived: Derived } {
  const quoted = (v: string) => (/[\s/;"]/.test(v) ? `"${v.replaceAll('"', '""')}"` : v);
  const says = (entry.attributes ?? []).map((a) => ` ${a.name}=${quoted(sampleValue(a))}`).join("");
  const positions =
    entry.kind === "area"
      ? [
          [2, 2],
          [13, 2.5],
          [12.5, 9],
          [3, 8.5],
        ]
      : entry.kind === "line"
        ? [
            [1, 3],
            [6, 2.4],
            [8, 8.6],
            [11, 8],
            [14.5, 4],
          ]
        : [[8, 6]];
  const cue = (k: number) =>
    entry.kind === "area"
      ? k === 3
        ? " loop"
        : ""
      : entry.kind === "line"
        ? ["", " flow", "", " still", " end"][k]!
        : "";
  const first = entry.opens === "cue" && entry.kind !== "point" ? " new" : "";
  const rows = positions.map(
    ([e, n], k) =>
      `${k + 1},${1000 + e!},${2000 + n!},101.25,"${`${entry.code}1${k === 0 ? first + says : ""}${cue(k)}; note`.replaceAll('"', '""')}"`,
  );
  const codes = [...(book.codes ?? []).filter((c) => c.code.toUpperCase() !== entry.code.toUpperCase()), entry];
  const bytes = new TextEncoder().encode(rows.join("\n"));
  const { state } = openRecipe(
    {
      recipe: 1,
      codeBook: { codes },
      intakes: [
        {
          id: "sample",
          file: "sample.csv",
          layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
        },
      ],
    },
    () => bytes,
  );
  return { state, derived: runChain(state) };
}

export function CodePicture({ entry, book }: { entry: CodeEntry; book: CodeBook }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const sample = useMemo(() => {
    try {
      return sampleJob(entry, book);
    } catch {
      // While a field is half typed the last picture stays.
      return undefined;
    }
  }, [entry, book]);
  useEffect(() => {
    const draw = () => {
      const el = canvas.current,
        ctx = el?.getContext("2d");
      if (!el || !ctx || !sample) return;
      const width = el.clientWidth,
        height = el.clientHeight,
        ratio = devicePixelRatio;
      el.width = width * ratio;
      el.height = height * ratio;
      ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
      const colors = sheetColors(),
        unitsPerMm = SCALE / 1000,
        { state, derived: d } = sample;
      const view: View = {
        ...EMPTY_VIEW,
        symbols: d.symbols,
        chains: d.chains,
        lines: d.lines.map((l) => lineShown(l, d, () => "")),
      };
      const lines = view.lines.map((l) => ({
        code: l.code,
        kind: l.kind,
        group: l.group,
        layer: l.layer,
        style: l.style,
        closed: l.closed,
      }));
      const layout = layOutTexts(
        {
          table: state.points,
          symbols: d.symbols,
          notes: d.notes,
          lines,
          chains: d.chains,
          contours: [],
          drawing: {},
          sets: new Map(),
          want: { notes: true, points: false, contours: false },
        },
        unitsPerMm,
      );
      const plan = {
        e: entry.kind === "line" || entry.kind === "area" ? 1007.8 : 1011.5,
        n: 2005.8,
        scale: PX_PER_MM / unitsPerMm,
        width,
        height,
      };
      ctx.fillStyle = colors.sheet;
      ctx.fillRect(0, 0, width, height);
      drawDrafting(
        ctx,
        {
          plan,
          colors,
          table: state.points,
          view,
          drawing: {},
          unitsPerMm,
          layout,
          show: { points: true, lines: true, shots: true },
          look: undefined,
          // It is small: a long note is seen as far as it goes.
          onlyWhole: false,
        },
        inSight(view, state.points, plan, {}),
      );
    };
    draw();
    void document.fonts.ready.then(draw);
    const observer = new MutationObserver(draw);
    observer.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    return () => observer.disconnect();
  }, [sample, entry.kind]);
  const note = sample?.derived.notes[0]?.text;
  return (
    <figure className="m-0">
      <canvas
        ref={canvas}
        className="block h-52 w-full border border-rule bg-sheet"
        role="img"
        aria-label={`${entry.code} as it is drawn${note ? `, with the note “${note}”` : ""}`}
        data-testid="code-picture"
        data-note={note ?? ""}
      />
      <figcaption className="label mt-1">as on a plan at 1 : {SCALE}, enlarged</figcaption>
    </figure>
  );
}
