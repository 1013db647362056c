"use client";
/** One comparison: what is compared, within what, its figures and what defends them. */
import type { Edit } from "./edit";
import { thingRemoved, type VolumeRecipe } from "@bramble/core";
import { kindOf } from "@bramble/core/volumes/model";
import { balanceWords } from "@bramble/core/volumes/words";
import type { DifferenceMap } from "@bramble/core/volumes/map";
import { attempt } from "../../lib/attempt";
import { boxOf, type Box } from "../../lib/box";
import { Coming } from "../../controls/Coming";
import { thing } from "../../lib/say-made";
import { useParts } from "../../lib/store";
import { BEFORE } from "../../lib/use-known";
import { Failed } from "../Bench";
import { Areas } from "./Areas";
import { Figures } from "./Figures";
import { LevelChart } from "./LevelChart";
import { Shots } from "./Shots";
import { StorageView } from "./StorageView";
import { What } from "./What";
import { Tick } from "../../controls/fields/Tick";

/** Where a map lies; its corners without a level (NaN) are outside it. */
function boxOfMap({ corners, origin: [oe, on] }: DifferenceMap): Box | undefined {
  const mapped = (k: number, x: number) => (Number.isNaN(corners[3 * k + 2]!) ? NaN : x);
  return boxOf(
    corners.length / 3,
    (k) => mapped(k, corners[3 * k]! + oe),
    (k) => mapped(k, corners[3 * k + 1]! + on),
  );
}

export function OneComparison({ recipe }: { recipe: VolumeRecipe }) {
  const { job, view, change, layers, toggle, show, deriving, stopped } = useParts(
    "job",
    "view",
    "change",
    "layers",
    "toggle",
    "show",
    "deriving",
    "stopped",
  );
  const result = view.volumes.find((v) => v.name === recipe.name),
    value = result?.value,
    looked = view.looked?.name === recipe.name ? view.looked : undefined,
    u = job.unit;
  const edit: Edit = (part) =>
    void change({ type: "named", part: "volumes", name: recipe.name, old: recipe, new: { ...recipe, ...part } });
  const balance = looked?.opinions.balance;
  return (
    <>
      <div className="mt-6 flex items-baseline gap-3">
        <h2 className="heading" {...thing(recipe.name)}>
          {recipe.name}
        </h2>
        <span className="flex-1" />
        {looked?.map && looked.map.triangles.length > 0 && (
          <button className="button button-plain" onClick={() => show(boxOfMap(looked.map!))}>
            Go there
          </button>
        )}
        <button
          className="button button-plain"
          onClick={() => attempt(() => thingRemoved(job, "volumes", recipe.name))}
        >
          Remove
        </button>
      </div>
      <What recipe={recipe} edit={edit} />
      <Areas recipe={recipe} edit={edit} />
      {result?.failure && <Failed>{result.failure.message}</Failed>}
      {!result && (
        <p className="mt-4">
          <Coming />
        </p>
      )}
      {value && (
        <div className={deriving || stopped ? BEFORE : ""}>
          {value.storage ? (
            <StorageView recipe={recipe} result={value} />
          ) : (
            <Figures recipe={recipe} result={value} looked={looked} edit={edit} />
          )}
          {balance && (
            <p className="mt-2">
              {balanceWords(balance, `“${recipe.to}”`, u)}
              {recipe.bulking && ", with the factors"}.{" "}
              {"level" in balance && (
                <button
                  className="text-bramble underline"
                  onClick={() => edit({ level: Number(balance.level.toFixed(6)) })}
                >
                  Take this level
                </button>
              )}
            </p>
          )}
          <Tick
            words={kindOf(recipe) === "storage" ? "Show the water on the sheet" : "Map of cut and fill on the sheet"}
            on={layers.map}
            set={() => toggle("map")}
            className="mt-3 flex items-center gap-2"
          />
          {looked?.curve && recipe.level !== undefined && (
            <LevelChart curve={looked.curve} level={recipe.level} unit={u} shown={job.volumeUnit ?? "unit"} />
          )}
          {!value.storage && <Shots looked={looked} />}
        </div>
      )}
    </>
  );
}
