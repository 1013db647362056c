"use client";
/** One line under everything: where the cursor is, what is there, the scale, and whether all is saved. */
import { useShallow } from "zustand/react/shallow";
import { METRES, settingOf } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { lineName } from "@bramble/core/lines/model";
import { useJob, useParts } from "../lib/store";
import { openLine } from "../lib/subjects";
import { area, decimalsOf } from "../lib/units-shown";
import { lineAt } from "../lib/view";
import { useReadout } from "../sheet/readout-store";

export function Readout() {
  const { at, under, hit, scale } = useReadout(useShallow(({ at, under, hit, scale }) => ({ at, under, hit, scale })));
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
      : `Line ${view.lines[hit.line] ? lineName(view.lines[hit.line]!) : ""}`;
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
      <span className="w-24 max-[760px]:hidden">
        <span className="text-soft">Slope</span> {under ? `${formatFixed(under.slope * 100, 1)} %` : "–"}
      </span>
      <span className="min-w-0 flex-1 truncate">
        {what || <SelectedLine />}
        {!what && under && surface ? <span className="text-soft"> on {surface}</span> : null}
      </span>
      <span className="whitespace-nowrap text-soft">
        1 :{" "}
        {Math.round((METRES[job.unit] / scale) * (96 / 0.0254))
          .toLocaleString("en-GB")
          .replaceAll(",", "\u202f")}
      </span>
      <span className="text-soft">
        {job.unit === "m" ? "metres" : job.unit === "ft" ? "international feet" : "US survey feet"}
      </span>
      <Others />
      <Saved deriving={deriving} derivedIn={derivedIn} />
    </footer>
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
      Line {lineName(line)}: {facts.join(", ")}
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
  const { saving, waiting, clashes, stuck, live, status } = useParts(
    "saving",
    "waiting",
    "clashes",
    "stuck",
    "live",
    "status",
  );
  const count = waiting.length + clashes.length;
  const text =
    count > 0 && (stuck || clashes.length)
      ? `${count} not saved`
      : saving || count
        ? "Saving …"
        : status !== "ready"
          ? "Opening …"
          : !live
            ? "Not connected; may be behind"
            : deriving
              ? "Following …"
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
