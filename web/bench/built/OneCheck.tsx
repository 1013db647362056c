"use client";
/** One as-built check: its points, its design, its tolerance; how its points lie, as bars and as a table. */
import { METRES, type AsBuilt, type DifferenceRecipe } from "@bramble/core";
import type { Numbers } from "@bramble/core/points/numbers";
import { formatFixed } from "@bramble/core/math/round";
import { boxOfPoints } from "../../lib/box";
import { designLines, unlisted, wordsOfLine } from "../../lib/design-lines";
import { Coming } from "../../controls/Coming";
import { thing } from "../../lib/say-made";
import { useParts } from "../../lib/store";
import { BEFORE } from "../../lib/use-known";
import { told } from "../../sheet/built";
import { decimalsOf } from "../../lib/units-shown";
import { Failed } from "../Bench";
import { Choice } from "../../controls/fields/Choice";
import { LengthField, TextField } from "../../controls/fields/fields";
import { SetChoice } from "../sets/SetChoice";
import { Stations } from "../lines/Stations";
import { BuiltChart } from "./BuiltChart";
import { BuiltRows } from "./BuiltRows";
import { TakenText } from "../../controls/fields/TakenText";
import { Tick } from "../../controls/fields/Tick";

export function OneCheck({
  recipe,
  texts,
  setTexts,
}: {
  recipe: DifferenceRecipe;
  texts: boolean;
  setTexts: (on: boolean) => void;
}) {
  const { job, view, change, show, deriving, stopped } = useParts(
      "job",
      "view",
      "change",
      "show",
      "deriving",
      "stopped",
    ),
    shown = view.differences.find((d) => d.name === recipe.name),
    value = shown?.value,
    u = job.unit;
  const put = (next: DifferenceRecipe) =>
    void change({ type: "named", part: "differences", name: recipe.name, old: recipe, new: next });
  return (
    <>
      <div className="mt-6 flex items-baseline gap-3">
        <h2 className="heading flex-1" {...thing(recipe.name)}>
          {recipe.name}
        </h2>
        {value && (
          <button className="button button-plain" onClick={() => show(boxOfPoints(job.points, toldRows(value)))}>
            Go there
          </button>
        )}
        <button
          className="button button-plain"
          onClick={() => void change({ type: "named", part: "differences", name: recipe.name, old: recipe, new: null })}
        >
          Remove
        </button>
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <PointsWanted label="Points" value={recipe.points} put={(points) => put({ ...recipe, points })} />
        <Against recipe={recipe} put={put} />
        {recipe.against !== undefined && <Pairing recipe={recipe} put={put} />}
        <Tolerances recipe={recipe} put={put} />
      </div>
      {shown?.failure && <Failed>{shown.failure.message}</Failed>}
      {!shown && (
        <p className="mt-4">
          <Coming />
        </p>
      )}
      {value && (
        <div className={deriving || stopped ? BEFORE : ""}>
          <Words of={value} />
          <Tick
            words={
              value.against === "surface"
                ? "Write cut and fill beside each point"
                : "Write the difference beside each point"
            }
            on={texts}
            set={setTexts}
            className="mt-2 flex items-center gap-2"
          />
          <BuiltChart of={value} unit={u} />
          {recipe.line && <Stations line={recipe.line} />}
          <BuiltRows of={value} />
        </div>
      )}
    </>
  );
}

/** The rows of the points that have something to tell. */
const toldRows = (a: AsBuilt) => a.rows.filter((_, k) => !Number.isNaN(told(a, k)));

function Words({ of: a }: { of: AsBuilt }) {
  const { job } = useParts("job"),
    d = decimalsOf(job.unit),
    text = (x: number) => `${formatFixed(x, d).replace("-", "−")} ${job.unit}`,
    outside = a.outside.reduce((sum, x) => sum + x, 0),
    silent = a.rows.length - a.figures.count,
    hasLevel = a.level.some((x) => !Number.isNaN(x)),
    what = hasLevel ? "above the design" : a.pairs ? "apart in plan" : "right of the line",
    within = a.pairs
      ? `${formatFixed(a.pairs.tolerance, d)} ${job.unit} in plan and ±${formatFixed(a.tolerance, d)} ${job.unit} in level`
      : `±${formatFixed(a.tolerance, d)} ${job.unit}`,
    alone = a.pairs?.unmatched;
  return (
    <p className="mt-3" data-testid="built-words">
      <span className={outside ? "font-semibold text-amber" : "font-semibold text-leaf"}>
        {outside === 0
          ? `All ${a.pairs ? `${a.rows.length} pairs` : a.figures.count} within ${within}.`
          : `${outside} of ${a.pairs ? `${a.rows.length} pairs` : a.figures.count} beyond ${within}.`}
      </span>{" "}
      In the mean {text(a.figures.mean)} {what}, from {text(a.figures.min)} to {text(a.figures.max)}; RMS{" "}
      {text(a.figures.rms)}.
      {silent > 0 &&
        (a.pairs
          ? ` Of ${silent} a level is missing.`
          : ` ${silent} ${silent === 1 ? "point has" : "points have"} nothing to tell: off the design, or without an elevation.`)}
      {alone && <Alone words="built without a design" rows={alone.points} />}
      {alone && <Alone words="designed and not built" rows={alone.against} />}
    </p>
  );
}

/** Points that found no other, the first of many. */
function Alone({ words, rows }: { words: string; rows: Int32Array }) {
  const { job } = useParts("job");
  if (rows.length === 0) return null;
  const some = Array.from(rows.slice(0, 12), (i) => job.points.number[i]!).join(", ");
  return (
    <span>
      {" "}
      {rows.length} {words}: {some}
      {rows.length > 12 && " …"}.
    </span>
  );
}

/** A set, all points, or numbers. */
function PointsWanted({ label, value, put }: { label: string; value: Numbers; put: (next: string) => void }) {
  const { job } = useParts("job"),
    isSet = typeof value === "string" && ["*", "*ground", ...job.sets.map((s) => s.name)].includes(value);
  return (
    <>
      <SetChoice
        label={label}
        value={isSet ? value : "numbers"}
        fixed={[
          ["*ground", "ground points"],
          ["*", "all points"],
          ["numbers", "by number"],
        ]}
        choose={(points) => put(points === "numbers" ? "1-100" : points)}
      />
      {!isSet && (
        <label className="block">
          <span className="label block">Numbers</span>
          <TakenText
            className="field mt-0.5 w-40"
            label={`Numbers of ${label.toLowerCase()}`}
            value={typeof value === "string" ? value : value.join(", ")}
            take={(text) => (text.trim() ? put(text.trim()) : false)}
          />
        </label>
      )}
    </>
  );
}

interface Edited {
  recipe: DifferenceRecipe;
  put: (next: DifferenceRecipe) => void;
}

/** How points as built and as designed become pairs. */
function Pairing({ recipe, put }: Edited) {
  const { job } = useParts("job"),
    { within: _, ...rest } = recipe;
  return (
    <>
      <PointsWanted label="Designed" value={recipe.against!} put={(against) => put({ ...recipe, against })} />
      <Choice
        label="Pairs"
        value={recipe.by!}
        onChange={(by) => put(by === "number" ? { ...rest, by } : { ...rest, by, within: 0.5 / METRES[job.unit] })}
        options={[
          ["number", "by number"],
          ["nearest", "the nearest"],
        ]}
      />
      {recipe.by === "number" ? (
        <TextField
          label="Taken off"
          width="w-20"
          placeholder="AB*"
          pattern={/^[^*]*\*[^*]*$/}
          value={recipe.strip ?? ""}
          onChange={(strip) => {
            const { strip: __, ...plain } = recipe;
            put(strip ? { ...plain, strip } : plain);
          }}
        />
      ) : (
        <LengthField
          label={`Within, ${job.unit}`}
          value={recipe.within!}
          unit={job.unit}
          positive
          width="w-20"
          decimals={4}
          onChange={(within) => put({ ...recipe, within })}
        />
      )}
    </>
  );
}

function Tolerances({ recipe, put }: Edited) {
  const { job } = useParts("job"),
    { tolerance } = recipe,
    field = (label: string, value: number, to: (x: number) => DifferenceRecipe["tolerance"]) => (
      <LengthField
        label={`${label}, ${job.unit}`}
        value={value}
        unit={job.unit}
        positive
        width="w-24"
        decimals={4}
        onChange={(x) => put({ ...recipe, tolerance: to(x) })}
      />
    );
  if (typeof tolerance === "number") return field("Tolerance", tolerance, (x) => x);
  return (
    <>
      {field("In plan", tolerance.plan, (plan) => ({ ...tolerance, plan }))}
      {field("In level", tolerance.level, (level) => ({ ...tolerance, level }))}
    </>
  );
}

const POINTS = "points, by number or the nearest";

/** A surface, a line of the job or of a file, or points. */
function Against({ recipe, put }: Edited) {
  const { job, view, lines: selected } = useParts("job", "view", "lines"),
    { name, points, tolerance } = recipe,
    one = typeof tolerance === "number" ? tolerance : tolerance.level,
    lines = designLines(job, view, selected, true),
    now =
      recipe.against !== undefined
        ? POINTS
        : recipe.surface !== undefined
          ? `surface ${recipe.surface}`
          : wordsOfLine(lines, recipe.line!);
  return (
    <Choice
      label="Against"
      width="max-w-52"
      value={now}
      onChange={(v) => {
        const line = lines.get(v);
        if (v === POINTS) put({ name, points, against: "*", by: "number", tolerance: { plan: one, level: one } });
        else if (line) put({ name, points, tolerance: one, line });
        else if (v.startsWith("surface ")) put({ name, points, tolerance: one, surface: v.slice("surface ".length) });
      }}
      options={[
        ...job.surfaces.map((s) => [`surface ${s.name}`, `surface ${s.name}`] as const),
        [POINTS, POINTS] as const,
        ...[...lines.keys()].map((k) => [k, k] as const),
        ...(recipe.line && !lines.has(now) ? ([[now, now]] as const) : []),
      ]}
      more={unlisted(view)}
    />
  );
}
