"use client";
/** One line under everything: where the cursor is, what is there, the scale, and whether all is saved. */
import { useShallow } from "zustand/react/shallow";
import { METRES, settingOf, UNIT_NAMES_MANY, type Unit } from "@bramble/core";
import { directionShort } from "@bramble/core/math/angles";
import { formatFixed } from "@bramble/core/math/round";
import type { Underfoot } from "@bramble/core/surface/locate";
import { useJob, useParts } from "../lib/store";
import { openLine } from "../lib/subjects";
import { area, decimalsOf } from "../lib/units-shown";
import { useKept } from "../lib/use-kept";
import { lineAt, lineCalled, type View } from "../lib/view";
import { lineUnder } from "../sheet/line-under";
import { useReadout } from "../sheet/readout-store";

export function Readout() {
  const { at, under, others, hit, scale } = useReadout(
    useShallow(({ at, under, others, hit, scale }) => ({ at, under, others, hit, scale })),
  );
  const { job, view, deriving, derivedIn, surface } = useParts("job", "view", "deriving", "derivedIn", "surface");
  const d = decimalsOf(job.unit);
  const northing = at ? formatFixed(at[1], d) : "–",
    easting = at ? formatFixed(at[0], d) : "–";
  const pair =
    job.order === "NE"
      ? [
          ["N", northing],
          ["E", easting],
        ]
      : [
          ["E", easting],
          ["N", northing],
        ];
  const what = !hit
    ? ""
    : "point" in hit
      ? `Point ${job.points.number[hit.point]}${view.codes[view.code[hit.point] ?? 0] ? ` · ${view.codes[view.code[hit.point]!]}` : ""}`
      : at
        ? lineTold(view, hit.line, at, job.unit)
        : "";
  return (
    <footer
      className="print:hidden flex h-7 shrink-0 items-center gap-5 border-t border-rule px-4 text-[12px] tabular-nums"
      data-testid="readout"
    >
      {pair.map(([k, v]) => (
        <span key={k} className="w-28 max-[760px]:w-20">
          <span className="text-soft">{k}</span> {v}
        </span>
      ))}
      <span className="w-32 max-[760px]:w-24">
        <span className="text-soft">Level</span> {under ? `${formatFixed(under.level, d)} ${job.unit}` : "–"}
      </span>
      <Slope under={under} />
      <span className="min-w-0 flex-1 truncate">
        {what || <SelectedLine />}
        {!what && under && surface ? <span className="text-soft"> on {surface}</span> : null}
        {others.map((o) => (
          <span key={o.name}>
            {" · "}
            <span className="text-soft">{o.name}</span> {formatFixed(o.level, d)} {job.unit}
            {under && ` (${signed(o.level - under.level, d)})`}
          </span>
        ))}
      </span>
      <span className="whitespace-nowrap text-soft">
        1 :{" "}
        {Math.round((METRES[job.unit] / scale) * (96 / 0.0254))
          .toLocaleString("en-GB")
          .replaceAll(",", "\u202f")}
      </span>
      <span className="text-soft">{UNIT_NAMES_MANY[job.unit]}</span>
      <Others />
      <Saved deriving={deriving} derivedIn={derivedIn} />
    </footer>
  );
}

/** A line under the cursor: its layer, its own level there, and its gradient in its own direction. */
function lineTold(view: View, k: number, [e, n]: readonly [number, number], unit: Unit): string {
  const line = view.lines[k];
  if (!line) return "";
  const { level, gradient } = lineUnder(view, k, e, n);
  return [
    `Line ${lineCalled(line)}`,
    line.layer === line.code ? "" : `layer ${line.layer}`,
    Number.isNaN(level) ? "no level of its own" : `${formatFixed(level, decimalsOf(unit))} ${unit}`,
    Number.isNaN(gradient) ? "" : `${signed(100 * gradient, 1)} %`,
  ]
    .filter(Boolean)
    .join(" · ");
}

const signed = (x: number, decimals: number) => `${x < 0 ? "" : "+"}${formatFixed(x, decimals)}`.replace("-", "−");

const SLOPES = {
  percent: (s: number) => `${formatFixed(100 * s, 1)} %`,
  ratio: (s: number) => (s < 1e-4 ? "level" : `1 : ${formatFixed(1 / s, s < 0.1 ? 0 : 1)}`),
  degrees: (s: number) => `${formatFixed((180 / Math.PI) * Math.atan(s), 1)}°`,
} as const;
type SlopeAs = keyof typeof SLOPES;

/** How steep the ground is, as one likes it told, and which way it falls. */
function Slope({ under }: { under: Underfoot | undefined }) {
  const angle = settingOf(
      useJob((s) => s.job),
      "angle",
    ),
    [as, setAs] = useKept<SlopeAs>("readout.slope", "percent"),
    ways = Object.keys(SLOPES) as SlopeAs[];
  return (
    <button
      className="w-40 text-left hover:text-bramble max-[760px]:hidden"
      title="As percent, ratio or degrees; with the direction of its fall"
      onClick={() => setAs(ways[(ways.indexOf(as) + 1) % ways.length]!)}
    >
      <span className="text-soft">Slope</span> {under ? SLOPES[as](under.slope) : "–"}
      {under && !Number.isNaN(under.fall) && <span className="text-soft"> to {directionShort(under.fall, angle)}</span>}
    </button>
  );
}

/** The facts of the line that is selected, in whatever place one is. */
function SelectedLine() {
  const { job, view, lines } = useParts("job", "view", "lines");
  const [key, ...more] = lines;
  const line = key === undefined || more.length ? undefined : view.lines[lineAt(view, key) ?? -1];
  if (!line) return null;
  const d = decimalsOf(job.unit);
  const facts = [
    `${formatFixed(line.length, d)} ${job.unit}`,
    ...(line.area === undefined ? [] : [area(line.area, job.unit, settingOf(job, "areaUnit"))]),
    ...(Number.isNaN(line.slopeLength) ? [] : [`${formatFixed(line.slopeLength, d)} ${job.unit} along the slope`]),
  ];
  return (
    <button
      className="max-w-full truncate text-bramble hover:underline"
      title="Show the line with all its facts"
      onClick={() => openLine(line.key)}
    >
      Line {lineCalled(line)}: {facts.join(", ")}
    </button>
  );
}

/** Who else has the job open. */
function Others() {
  const others = useJob((s) => s.others);
  if (others.length === 0) return null;
  const times = new Map<string, number>();
  for (const name of others) times.set(name, (times.get(name) ?? 0) + 1);
  const names = [...times].map(([name, n]) => (n > 1 ? `${name} (${n} windows)` : name));
  return (
    <span
      className="max-w-60 truncate text-bramble"
      data-testid="others"
      title={`Also in this job: ${names.join(", ")}`}
    >
      Also here: {names.join(", ")}
    </span>
  );
}

/** Whether all that was changed is stored, and all that is stored is shown. */
function Saved({ deriving, derivedIn }: { deriving: boolean; derivedIn: number }) {
  const { saving, waiting, clashes, stuck, live, status, stopped, held } = useParts(
    "saving",
    "waiting",
    "clashes",
    "stuck",
    "live",
    "status",
    "stopped",
    "held",
  );
  const count = waiting.length + clashes.length - (held?.length ?? 0);
  const text =
    held && count === 0 && !saving
      ? deriving
        ? "Following …"
        : "Rehearsal, not stored"
      : count > 0 && (stuck || clashes.length)
        ? `${count} not saved`
        : saving || count
          ? "Saving …"
          : status !== "ready"
            ? "Opening …"
            : !live
              ? "Not connected; may be behind"
              : deriving
                ? "Following …"
                : stopped
                  ? "Saved, not followed"
                  : "Saved";
  return (
    <span
      className={text === "Saved" ? "text-leaf" : "font-medium text-amber"}
      data-testid="saved"
      data-derived-in={derivedIn.toFixed(1)}
    >
      {text}
    </span>
  );
}
