"use client";
/** One as-built check: its points, its design, its tolerance; how its points lie, as bars and as a table. */
import type { AsBuilt, DifferenceRecipe } from "@bramble/core";
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
import { LengthField } from "../../controls/fields/fields";
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
  const isSet =
      typeof recipe.points === "string" && ["*", "*ground", ...job.sets.map((s) => s.name)].includes(recipe.points),
    numbers = typeof recipe.points === "string" ? recipe.points : recipe.points.join(", ");
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
        <SetChoice
          label="Points"
          value={isSet ? (recipe.points as string) : "numbers"}
          fixed={[
            ["*ground", "ground points"],
            ["*", "all points"],
            ["numbers", "by number"],
          ]}
          choose={(points) => put({ ...recipe, points: points === "numbers" ? "1-100" : points })}
        />
        {!isSet && (
          <label className="block">
            <span className="label block">Numbers</span>
            <TakenText
              className="field mt-0.5 w-40"
              label="Numbers"
              value={numbers}
              take={(text) => (text.trim() ? put({ ...recipe, points: text.trim() }) : false)}
            />
          </label>
        )}
        <Against recipe={recipe} put={put} />
        <LengthField
          label={`Tolerance, ${u}`}
          value={recipe.tolerance}
          unit={u}
          positive
          width="w-24"
          decimals={4}
          onChange={(tolerance) => put({ ...recipe, tolerance })}
        />
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
    what = a.level.some((x) => !Number.isNaN(x)) ? "above the design" : "right of the line";
  return (
    <p className="mt-3" data-testid="built-words">
      <span className={outside ? "font-semibold text-amber" : "font-semibold text-leaf"}>
        {outside === 0
          ? `All ${a.figures.count} within ±${formatFixed(a.tolerance, d)} ${job.unit}.`
          : `${outside} of ${a.figures.count} beyond ±${formatFixed(a.tolerance, d)} ${job.unit}.`}
      </span>{" "}
      In the mean {text(a.figures.mean)} {what}, from {text(a.figures.min)} to {text(a.figures.max)}; RMS{" "}
      {text(a.figures.rms)}.
      {silent > 0 &&
        ` ${silent} ${silent === 1 ? "point has" : "points have"} nothing to tell: off the design, or without an elevation.`}
    </p>
  );
}

/** A surface, or a line of the job or of a file. */
function Against({ recipe, put }: { recipe: DifferenceRecipe; put: (next: DifferenceRecipe) => void }) {
  const { job, view, lines: selected } = useParts("job", "view", "lines"),
    { surface: _, line: __, ...rest } = recipe,
    lines = designLines(job, view, selected, true),
    now = recipe.surface !== undefined ? `surface ${recipe.surface}` : wordsOfLine(lines, recipe.line!);
  return (
    <Choice
      label="Against"
      width="max-w-52"
      value={now}
      onChange={(v) => {
        const line = lines.get(v);
        if (line) put({ ...rest, line });
        else if (v.startsWith("surface ")) put({ ...rest, surface: v.slice("surface ".length) });
      }}
      options={[
        ...job.surfaces.map((s) => [`surface ${s.name}`, `surface ${s.name}`] as const),
        ...[...lines.keys()].map((k) => [k, k] as const),
        ...(recipe.surface === undefined && !lines.has(now) ? ([[now, now]] as const) : []),
      ]}
      more={unlisted(view)}
    />
  );
}
