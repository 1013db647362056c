"use client";
/** A line by hand: a code and a number list, seen on the sheet before it is kept. */
import { useEffect, useMemo } from "react";
import { freeLineName, keepHandLine, keepStretches, writeNumbers, type HandLine } from "@bramble/core";
import { lengthTyped } from "@bramble/core/math/typed";
import { compileBook } from "@bramble/core/codes/book";
import { drawHandLine } from "@bramble/core/lines/assemble";
import { planOfLine } from "@bramble/core/lines/flatten";
import { formatFixed } from "@bramble/core/math/round";
import { plural, someOf } from "@bramble/core/math/words";
import { orderedNumbers, readNumberList } from "@bramble/core/points/numbers";
import { findPoints, refByNumber, whoIsCalled } from "@bramble/core/points/refs";
import { numberIndex } from "@bramble/core/points/index";
import { rowOf } from "@bramble/core/points/table";
import { boxOfPoints } from "../../lib/box";
import { useJob, useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { Choice } from "../../controls/fields/Choice";
import { make } from "./make";
import { Jumps, Zigzag } from "./WayOfNumbers";
import { useHandLine, type HandLineDraft } from "./use-hand-line";
import { MakerForm } from "./MakerForm";
import { unless } from "../../controls/unless";
import { Typed } from "../../controls/fields/Typed";

/** What the next pick is, and what comes after it. */
const PICKED = {
  corner: { hint: "Click the points in their order; C: an arc; Esc ends", then: "corner" },
  middle: { hint: "Click the middle of the arc; T: straight on; Esc ends", then: "end" },
  end: { hint: "Click the end of the arc; T: straight on from there; Esc ends", then: "middle" },
} as const;

/** `line` is one that is changed; a new one is drawn without. */
export function HandLineForm({ line, leave: left }: { line?: HandLine; leave: () => void }) {
  const { job, picking, set, points: selected } = useParts("job", "picking", "set", "points");
  const t = job.points,
    book = job.book;
  const drawable = (book.codes ?? []).filter((c) => c.kind === "line" || c.kind === "area");
  const { draft, put, add, forget } = useHandLine(line, drawable[0]?.code ?? "");
  const { code, run, text, complete, width } = draft;
  const of = useDrawnLine(line, draft),
    { rows, hand, unread, wide, ready } = of;
  const setText = (next: string) => put({ text: next });
  const leave = () => {
    forget();
    left();
  };
  /** The next pick is a corner, or the middle or the end of an arc. */
  const pickNext = (next: keyof typeof PICKED): void =>
    set({
      picking: {
        hint: PICKED[next].hint,
        points: true,
        keys: { c: () => pickNext("middle"), t: () => pickNext("corner") },
        take(snap) {
          if (snap.point === undefined) return;
          add(useJob.getState().job.points.number[snap.point]!, next === "middle");
          pickNext(PICKED[next].then);
        },
      },
    });
  const pick = () => (picking ? set({ picking: undefined }) : pickNext("corner"));
  const keep = () => {
    const name = line?.name ?? freeLineName(new Set(job.lines.map((l) => l.name)));
    if (!ready || !make(keepHandLine(job, { ...hand, name }))) return;
    set({ notice: { text: `${code}${run} is ${line ? "changed" : "drawn"}.`, tone: "settled" } });
    leave();
  };
  const keepEach = (stretches: readonly (readonly [number, number])[]) => {
    const name = line?.name ?? freeLineName(new Set(job.lines.map((l) => l.name)));
    if (!ready || !make(keepStretches(job, { ...hand, name }, stretches))) return;
    set({ notice: { text: `${code}${run} is drawn in ${stretches.length} stretches.`, tone: "settled" } });
    leave();
  };
  return (
    <MakerForm label="Line by hand" keep={keep}>
      <div className="flex flex-wrap items-end gap-2">
        <Choice
          label="Code"
          value={code}
          onChange={(v) => put({ code: v })}
          options={(drawable.some((c) => c.code === code) || code === ""
            ? drawable
            : [{ code, name: "" }, ...drawable]
          ).map((c) => [c.code, c.name ? `${c.code}, ${c.name}` : c.code])}
          width="w-36"
        />
        <Typed
          label="Run"
          text={run}
          onType={(text) => put({ run: text.replace(/\D/g, "") })}
          width="num w-14"
          numeric
        />
        <Typed
          label="Points, in order"
          text={text}
          onType={setText}
          wrong={unread}
          width="w-full"
          box="min-w-40 flex-1"
          placeholder="12, 40-52"
          autoFocus
        />
        <button
          type="button"
          className={`button ${picking ? "button-main" : ""}`}
          aria-pressed={picking !== undefined}
          onClick={pick}
        >
          {picking ? "Stop picking" : "Pick on the sheet"}
        </button>
        {selected.size > 1 && text === "" && (
          <button
            type="button"
            className="button"
            onClick={() => setText(writeNumbers([...selected].map((id) => t.number[rowOf(t, id)]!)))}
          >
            The {selected.size} selected
          </button>
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <Choice
          label="At its end"
          value={complete}
          onChange={(v) => put({ complete: v })}
          options={[
            ["", "it stays open"],
            ["closed", "it returns to its first"],
            ["quad", "fourth corner of a building (from three)"],
            ["box", "rectangle (from two and a width)"],
          ]}
        />
        {complete === "box" && (
          <Typed
            label={`Width to the right, ${job.unit}`}
            text={width}
            onType={(text) => put({ width: text.replace("−", "-") })}
            wrong={width !== "" && !wide}
            width="num w-28"
            placeholder="3.5, left −3.5"
          />
        )}
        <span className="flex-1" />
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
        <button className="button button-main" {...unless(!ready && "See below what it still needs.")}>
          {line ? "Change the line" : "Draw the line"}
        </button>
      </div>
      <DrawnFacts draft={draft} of={of} />
      {complete === "" && <Jumps rows={rows} whole={rows.length === hand.points.length} take={keepEach} />}
      <Zigzag rows={rows} decimals={decimalsOf(job.unit)} put={(list) => setText(writeNumbers(list))} />
    </MakerForm>
  );
}

type Drawn = ReturnType<typeof useDrawnLine>;

/** The line as it is typed so far, drawn on the sheet before it is kept, and gone with the form. */
function useDrawnLine(line: HandLine | undefined, { code, run, text, middles, complete, width }: HandLineDraft) {
  const { job, set } = useParts("job", "set"),
    { points: t, intakes, book } = job;
  const index = useMemo(() => numberIndex(t), [t]);
  const numbers = useMemo(() => (text.trim() ? orderedNumbers(text) : []), [text]);
  const unread = text.trim() !== "" && !readNumberList(text.trim().replace(/,\s*$/, ""));
  const rows = numbers.flatMap((n) => index.get(n) ?? []),
    lost = numbers.filter((n) => !index.has(n));
  const wide = complete === "box" ? lengthTyped(width, job.unit) : undefined;
  const hand = useMemo((): HandLine => {
    const who = whoIsCalled(t, intakes, line?.points ?? []),
      points = numbers.map((n) => who(n) ?? refByNumber(n)),
      last = points.filter((_, k) => index.has(numbers[k]!)).at(-1),
      cues = { ...line?.cues };
    for (const n of middles) {
      const ref = numbers.includes(n) ? points[numbers.indexOf(n)]! : undefined;
      if (ref !== undefined && !cues[ref]?.split(" ").includes("via"))
        cues[ref] = [cues[ref], "via"].filter(Boolean).join(" ");
    }
    if (last !== undefined && complete === "quad") cues[last] = [cues[last], "quad"].filter(Boolean).join(" ");
    if (last !== undefined && complete === "box" && wide)
      cues[last] = [cues[last], `box=${wide}`].filter(Boolean).join(" ");
    return {
      ...(line?.name ? { name: line.name } : {}),
      code: code + run,
      points,
      ...(Object.keys(cues).length ? { cues } : {}),
      ...(complete === "closed" ? { closed: true } : {}),
    };
  }, [numbers, index, line, middles, complete, wide, code, run, t, intakes]);
  const drawn = useMemo(
    () =>
      rows.length > 1
        ? drawHandLine(t, hand, job.tolerance, job.unit, compileBook(book), findPoints(t, intakes))
        : undefined,
    [t, intakes, hand, job.tolerance, job.unit, book, rows.length],
  );
  useEffect(() => {
    set({ preview: (drawn?.lines ?? []).map((l) => planOfLine(l, job.tolerance.chord)) });
  }, [drawn, job.tolerance.chord, set]);
  useEffect(() => () => set({ preview: [], picking: undefined }), [set]);
  const tooMany = !unread && text.trim() !== "" && numbers.length === 0;
  const ready =
    code !== "" &&
    (drawn?.lines[0]?.pieces.length ?? 0) > 0 &&
    !unread &&
    (complete !== "box" || (rows.length === 2 && wide !== undefined && wide !== 0)) &&
    (complete !== "quad" || rows.length === 3);
  return { rows, lost, unread, tooMany, wide, hand, drawn, ready };
}

/** What is drawn so far, or what is wrong with the numbers, or what it still needs. */
function DrawnFacts({ draft: { complete }, of }: { draft: HandLineDraft; of: Drawn }) {
  const { job, show } = useParts("job", "show"),
    { rows, lost, unread, tooMany, drawn } = of,
    d = decimalsOf(job.unit),
    main = drawn?.lines[0],
    arcs = main?.pieces.filter((p) => p.type === "arc").length ?? 0;
  return (
    <p role="status" className="mt-2 min-h-5 text-soft" data-testid="hand-line-facts">
      {unread
        ? "Write numbers with commas and ranges, such as 12, 40-52."
        : tooMany
          ? "A range names more than a million points."
          : lost.length
            ? `There is no point ${someOf(lost)}. `
            : ""}
      {main &&
        `${[
          plural(rows.length, "point"),
          `${formatFixed(main.length, d)} ${job.unit}`,
          ...(arcs > 0 ? [plural(arcs, "arc")] : []),
          ...(main.closed ? ["closed", `area ${formatFixed(main.area ?? 0, 1)}`] : []),
          ...(drawn!.lines.length > 1 ? [`with ${plural(drawn!.lines.length - 1, "parallel")}`] : []),
        ].join(", ")}. `}
      {main && (
        <button type="button" className="text-bramble underline" onClick={() => show(boxOfPoints(job.points, rows))}>
          Show it
        </button>
      )}
      {complete === "quad" && rows.length !== 3 && " A building is completed from exactly three corners."}
      {complete === "box" && rows.length !== 2 && " A rectangle is completed from exactly two corners."}
    </p>
  );
}
