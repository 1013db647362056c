"use client";
/** What is written beside points, set by set. */
import { GROUND } from "@bramble/core";
import { SetChoice } from "../../sets/SetChoice";
import type { PointLabels } from "@bramble/core";
import { TEXT_HEIGHT } from "@bramble/core/drawing/layout";
import { OptionalNumberField } from "../../../controls/fields";
import { moved } from "./moved";

export function Labels({ list, put }: { list: PointLabels[]; put: (list: PointLabels[]) => void }) {
  const at = (k: number, part: Partial<PointLabels>) =>
    put(
      list.map((l, i) =>
        i === k
          ? (Object.fromEntries(
              Object.entries({ ...l, ...part }).filter(([, v]) => v !== undefined && v !== false),
            ) as unknown as PointLabels)
          : l,
      ),
    );
  return (
    <section aria-label="Beside points">
      <h2 className="heading">
        Beside points{" "}
        <span className="font-sans text-[13px] font-normal text-soft">
          the first row whose set holds a point speaks for it; notes come from the codes
        </span>
      </h2>
      <ul className="rows mt-1" aria-label="Texts beside points">
        {list.map((l, k) => (
          <li key={k} className="space-y-1 border-b border-rule-soft py-1.5">
            <div className="flex items-center gap-1">
              <SetChoice
                label={`Set of row ${k + 1}`}
                named={false}
                className="h-6 min-w-0 flex-1"
                value={l.set}
                fixed={[
                  ["*", "all points"],
                  [GROUND, "ground points"],
                ]}
                choose={(set) => at(k, { set })}
              />
            </div>
            <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
              {(["number", "code", "elevation"] as const).map((f) => (
                <label key={f} className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    aria-label={`${f} of row ${k + 1}`}
                    checked={l[f] ?? false}
                    onChange={(event) => at(k, { [f]: event.target.checked })}
                  />
                  {f}
                </label>
              ))}
            </div>
            <div className="flex items-center gap-1.5 text-soft">
              <select
                className="field h-6 px-1"
                aria-label={`Decimals of row ${k + 1}`}
                value={l.decimals ?? 2}
                onChange={(event) =>
                  at(k, { decimals: Number(event.target.value) === 2 ? undefined : Number(event.target.value) })
                }
              >
                {[0, 1, 2, 3].map((d) => (
                  <option key={d}>{d}</option>
                ))}
              </select>
              decimals,
              <span className="[&_.label]:sr-only">
                <OptionalNumberField
                  label={`Height of row ${k + 1}`}
                  value={l.height}
                  placeholder={String(TEXT_HEIGHT)}
                  least={0.5}
                  width="w-12 h-6"
                  onChange={(height) => at(k, { height })}
                />
              </span>
              <span className="flex-1 whitespace-nowrap">mm high</span>
              {k > 0 && (
                <button
                  className="button button-plain h-6"
                  aria-label={`Row ${k + 1} up`}
                  onClick={() => put(moved(list, k, -1))}
                >
                  Up
                </button>
              )}
              <button
                className="button button-plain h-6"
                aria-label={`Remove row ${k + 1}`}
                onClick={() => put(list.filter((_, i) => i !== k))}
              >
                Remove
              </button>
            </div>
          </li>
        ))}
      </ul>
      <button className="button mt-2 h-6" onClick={() => put([...list, { set: "*", number: true, elevation: true }])}>
        Add a row
      </button>
    </section>
  );
}
