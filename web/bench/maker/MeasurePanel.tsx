"use client";
/** Measuring between positions picked on the sheet or points by number, in every place of work. */
import { useEffect, useState } from "react";
import { METRES, settingOf } from "@bramble/core";
import { freeAddedName } from "@bramble/core/drawing/added/name";
import type { Anchor } from "@bramble/core/drawing/added/model";
import { measurementOf, type Leg, type Measured } from "@bramble/core/job/told/measured";
import type { Snap } from "@bramble/core/lines/snap";
import { directionText } from "@bramble/core/math/angles";
import { formatFixed } from "@bramble/core/math/round";
import { stationText } from "@bramble/core/math/station-text";
import { numberIndex } from "@bramble/core/points/index";
import { refOf } from "@bramble/core/points/refs";
import { rowOf } from "@bramble/core/points/table";
import { Choice } from "../../controls/fields/Choice";
import { Tick } from "../../controls/fields/Tick";
import { Typed } from "../../controls/fields/Typed";
import { unless } from "../../controls/unless";
import { designLines } from "../../lib/design-lines";
import { useJob, useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { area, decimalsOf } from "../../lib/units-shown";

/** A position that is measured: of a point by its id, which goes on being measured where it stands. */
export type Spot = { point: number } | { e: number; n: number; z: number };

/** Opens it with positions, or with the points that are selected where these are few. */
export function openMeasuring(spots?: Spot[]): void {
  const { points, keep, kept } = useJob.getState();
  if (kept.measuring && !spots) return keep("measuring", undefined);
  // The sheet is picked on for one thing at a time: what was being made waits.
  if (kept.maker) keep("maker.aside", kept.maker);
  keep("maker", undefined);
  keep("measuring", spots ?? (points.size <= 20 ? [...points].map((point) => ({ point })) : []));
}

export function OpenMeasuring() {
  const [spots, setSpots] = useKept<Spot[] | undefined>("measuring", undefined);
  return spots ? <Measuring spots={spots} setSpots={setSpots} leave={() => setSpots(undefined)} /> : null;
}

function Measuring({ spots, setSpots, leave }: { spots: Spot[]; setSpots: (next: Spot[]) => void; leave: () => void }) {
  const { job, view, lines: selected, set, ask, change } = useParts("job", "view", "lines", "set", "ask", "change"),
    [number, setNumber] = useState(""),
    [closed, setClosed] = useKept("measuring.closed", false),
    [along, setAlong] = useKept("measuring.along", ""),
    [beside, setBeside] = useState<{ station: number; offset: number }>(),
    t = job.points,
    d = decimalsOf(job.unit),
    lines = designLines(job, view, selected),
    line = lines.get(along);
  const at = spots.flatMap((s): Measured[] => {
      if (!("point" in s)) return [[s.e, s.n, s.z]];
      const i = rowOf(t, s.point);
      return i < 0 || t.deleted[i] ? [] : [[t.e[i]!, t.n[i]!, t.z[i]!]];
    }),
    m = measurementOf(at, closed),
    last = at.at(-1);
  usePicks(spots, setSpots);
  useEffect(() => {
    const way = at.flatMap(([e, n]) => [e, n]);
    set({
      preview: at.length > 1 ? [closed && at.length > 2 ? [...way, at[0]![0], at[0]![1]] : way] : [],
      marks: at.map(([e, n]) => ({ e, n, words: "", meant: true })),
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [JSON.stringify(at), closed, set]);
  useEffect(() => () => set({ preview: [], marks: [], picking: undefined }), [set]);
  useEffect(() => {
    let current = true;
    if (line && last) void ask({ what: "beside", line, e: last[0], n: last[1] }).then((x) => current && setBeside(x));
    else setBeside(undefined);
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [along, last?.[0], last?.[1], ask]);
  const add = () => {
    const row = numberIndex(t).get(number.trim());
    if (row === undefined || t.deleted[row]) return;
    setSpots([...spots, { point: t.id[row]! }]);
    setNumber("");
  };
  const isThere = numberIndex(t).has(number.trim()),
    texts = m ? factsOf(m.across, m, job, closed, beside) : [],
    name = (s: Spot) =>
      "point" in s ? (t.number[rowOf(t, s.point)] ?? "gone") : `N ${formatFixed(s.n, d)} E ${formatFixed(s.e, d)}`;
  const anchor = (s: Spot): Anchor =>
    "point" in s ? { point: refOf(t, job.intakes, rowOf(t, s.point)) } : { at: [s.e, s.n] };
  const keep = () => {
    if (spots.length !== 2) return;
    const name = freeAddedName("dimension", job.added),
      added = { name, dimension: [anchor(spots[0]!), anchor(spots[1]!)] as [Anchor, Anchor], right: 0 };
    if (change({ type: "named", part: "added", name, old: null, new: added }))
      set({ notice: { text: `“${name}” is kept on the drawing.`, tone: "settled" } });
  };
  const copied = [spots.map(name).join(" to "), ...texts.map(([what, value]) => `${what} ${value}`)].join(", ");
  return (
    <section
      aria-label="Measure"
      className="shrink-0 border-y border-rule bg-paper px-4 py-2"
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.stopPropagation();
        leave();
      }}
    >
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="heading mr-auto">Measure</h2>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <Typed
            label="Point to measure to"
            named={false}
            text={number}
            onType={setNumber}
            wrong={number.trim() !== "" && !isThere}
            className="field h-6 w-28"
            placeholder="point number"
            autoFocus
            most={100}
          />
        </form>
        <Tick words="Closed" on={closed} set={setClosed} className="flex items-center gap-1.5" />
        <button
          className="button h-6"
          onClick={() => setSpots(spots.slice(0, -1))}
          {...unless(spots.length === 0 && "Nothing is picked yet.")}
        >
          Take the last back
        </button>
        <button
          className="button h-6"
          onClick={() => setSpots([])}
          {...unless(spots.length === 0 && "Nothing is picked yet.")}
        >
          Anew
        </button>
        <button className="button button-plain h-6" onClick={leave}>
          Close
        </button>
      </div>
      <p role="status" className="mt-1 text-soft">
        {spots.length === 0
          ? "Click positions on the sheet, or type the numbers of points."
          : spots.length <= 6
            ? spots.map(name).join(" – ")
            : `${spots.slice(0, 3).map(name).join(" – ")} … ${name(spots.at(-1)!)}, ${spots.length} positions`}
      </p>
      {m && (
        <>
          <dl className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(11rem,1fr))] gap-x-4" data-testid="measured">
            {texts.map(([what, value, other]) => (
              <div key={what} className="flex items-baseline gap-2">
                <dt className="text-soft">{what}</dt>
                <dd className="font-medium tabular-nums">{value}</dd>
                {other && <dd className="text-[11.5px] text-soft tabular-nums">{other}</dd>}
              </div>
            ))}
          </dl>
          <div className="mt-1 flex flex-wrap items-end gap-2">
            <Choice
              label="Against the line"
              named={false}
              width="max-w-52"
              value={along}
              onChange={setAlong}
              options={[["", "against no line"] as const, ...[...lines.keys()].map((l) => [l, l] as const)]}
            />
            <button
              className="button h-6"
              onClick={() =>
                void navigator.clipboard
                  .writeText(copied)
                  .then(() =>
                    set({ notice: { text: "What was measured is copied as a line of text.", tone: "settled" } }),
                  )
              }
            >
              Copy
            </button>
            <button
              className="button h-6"
              onClick={keep}
              {...unless(spots.length !== 2 && "A dimension has two positions.")}
            >
              Keep on the drawing
            </button>
          </div>
        </>
      )}
    </section>
  );
}

/** Clicks on the sheet go on until it is closed. */
function usePicks(spots: Spot[], setSpots: (next: Spot[]) => void): void {
  const { job, set } = useParts("job", "set");
  useEffect(() => {
    const last = spots.at(-1);
    set({
      picking: {
        hint: "Click the next position; Tab for others near it, Esc ends",
        points: false,
        ...(last && !("point" in last) ? { from: [last.e, last.n] as [number, number] } : {}),
        left: () => useJob.getState().keep("measuring", undefined),
        take: ({ e, n, z, point }: Snap) =>
          setSpots([...spots, point === undefined ? { e, n, z } : { point: job.points.id[point]! }]),
      },
    });
  }, [spots, setSpots, job, set]);
}

/** Figures with their unit, and another unit beside them. */
function factsOf(
  across: Leg,
  m: NonNullable<ReturnType<typeof measurementOf>>,
  job: ReturnType<typeof useJob.getState>["job"],
  closed: boolean,
  beside: { station: number; offset: number } | undefined,
): [what: string, value: string, other?: string][] {
  const d = decimalsOf(job.unit),
    metres = METRES[job.unit],
    other = (x: number) =>
      job.unit === "m" ? `${formatFixed(x / METRES.ft, 2)} ft` : `${formatFixed(x * metres, 3)} m`,
    length = (what: string, x: number): [string, string, string?][] =>
      Number.isNaN(x) ? [] : [[what, `${formatFixed(x, d).replace("-", "−")} ${job.unit}`, other(x)]],
    several = m.legs.length > 1;
  const facts: [string, string, string?][] = [
    ...length(several ? "Plan, along" : "Plan", m.plan),
    ...(several ? length("Plan, across", across.plan) : []),
    ...(Math.abs(m.slope - m.plan) < 1e-9 ? [] : length(several ? "Slope, along" : "Slope", m.slope)),
    ...(job.scaleFactor && job.scaleFactor !== 1 ? length("On the ground", m.plan / job.scaleFactor) : []),
  ];
  if (!Number.isNaN(across.azimuth)) facts.push(["Azimuth", directionText(across.azimuth, settingOf(job, "angle"))]);
  facts.push(...length("Level difference", across.rise));
  if (!Number.isNaN(across.gradient) && across.gradient !== 0)
    facts.push([
      "Gradient",
      `${formatFixed(100 * across.gradient, 2).replace("-", "−")} %`,
      `1 in ${formatFixed(1 / Math.abs(across.gradient), 1)}`,
    ]);
  if (m.ring) {
    facts.push(
      ["Area", area(m.ring.area, job.unit, settingOf(job, "areaUnit"))],
      ...length("Perimeter", m.ring.perimeter),
    );
    facts.push(["Centre", `N ${formatFixed(m.ring.centre[1], d)} E ${formatFixed(m.ring.centre[0], d)}`]);
  } else if (closed && m.legs.length > 1) facts.push(["Area", "none: the ring crosses itself"]);
  if (beside)
    facts.push(
      ["Station", stationText(beside.station, job.unit, settingOf(job, "stations"))],
      [beside.offset < 0 ? "Left" : "Right", `${formatFixed(Math.abs(beside.offset), d)} ${job.unit}`],
    );
  return facts;
}
