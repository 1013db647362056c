"use client";
/**
 * How the job is drawn: its scale, what is written beside points, which groups, layers and kinds are drawn and in which
 * order.
 */
import { useMemo, useState } from "react";
import type { CodeKind, DrawingSettings, PointLabels } from "@bramble/core";
import { DEFAULT_POINT_LABELS, kindsInOrder, TEXT_HEIGHT } from "@bramble/core/drawing/layout";
import { GROUND } from "@bramble/core/sets/sets";
import { plural } from "@bramble/core/math/words";
import { boxOfPoints, useJob } from "../../lib/store";
import { PLAN_SCALES } from "../../sheet/SheetControls";
import { Choice } from "../Choice";
import { NumberField } from "./CodeForm";

export function Drawing() {
  const { job, change, set } = useJob();
  const drawing = job.drawing ?? {};
  const put = (part: Partial<DrawingSettings>) => {
    const next = Object.fromEntries(Object.entries({ ...drawing, ...part }).filter(([, v]) => v !== undefined));
    void change({
      type: "setting",
      field: "drawing",
      old: job.drawing ?? null,
      new: Object.keys(next).length ? next : null,
    });
  };
  return (
    <div className="max-w-2xl space-y-5">
      <section aria-label="Scale">
        <h2 className="heading pb-2">Scale</h2>
        <Choice
          label="Symbols, line weights and texts are for a plan"
          value={String(drawing.scale ?? "")}
          width="w-56"
          options={[
            ["", "as the sheet is seen"],
            ...[...new Set([...PLAN_SCALES, ...(drawing.scale ? [drawing.scale] : [])])].map((s): [string, string] => [
              String(s),
              `at 1 : ${s}`,
            ]),
          ]}
          onChange={(v) => {
            const scale = v === "" ? undefined : Number(v);
            put({ scale });
            set({ paperScale: scale });
          }}
        />
      </section>
      <Labels
        list={drawing.points ?? DEFAULT_POINT_LABELS}
        sets={["*", GROUND, ...job.sets.map((s) => s.name)]}
        put={(points) => put({ points })}
      />
      <Visible drawing={drawing} put={put} />
      <Unplaced />
    </div>
  );
}

function Labels({ list, sets, put }: { list: PointLabels[]; sets: string[]; put: (list: PointLabels[]) => void }) {
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
      <table className="plain mt-1 [&_td]:px-1 [&_th]:px-1">
        <thead>
          <tr>
            <th>Points of</th>
            <th>Number</th>
            <th>Code</th>
            <th>Elevation</th>
            <th className="num">Decimals</th>
            <th className="num">Height mm</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {list.map((l, k) => (
            <tr key={k}>
              <td>
                <select
                  className="field h-6"
                  aria-label={`Set of row ${k + 1}`}
                  value={l.set}
                  onChange={(event) => at(k, { set: event.target.value })}
                >
                  {[...new Set([...sets, l.set])].map((s) => (
                    <option key={s} value={s}>
                      {s === "*" ? "all points" : s}
                    </option>
                  ))}
                </select>
              </td>
              {(["number", "code", "elevation"] as const).map((f) => (
                <td key={f}>
                  <input
                    type="checkbox"
                    aria-label={`${f} of row ${k + 1}`}
                    checked={l[f] ?? false}
                    onChange={(event) => at(k, { [f]: event.target.checked })}
                  />
                </td>
              ))}
              <td className="num">
                <select
                  className="field h-6"
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
              </td>
              <td className="num">
                <span className="[&_.label]:sr-only">
                  <NumberField
                    label={`Height of row ${k + 1}`}
                    value={l.height}
                    placeholder={String(TEXT_HEIGHT)}
                    least={0.5}
                    width="w-16 h-6"
                    onChange={(height) => at(k, { height })}
                  />
                </span>
              </td>
              <td className="text-right whitespace-nowrap">
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
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button className="button mt-2 h-6" onClick={() => put([...list, { set: "*", number: true, elevation: true }])}>
        Add a row
      </button>
    </section>
  );
}

const KIND_NAMES: Record<CodeKind, string> = { point: "points", line: "lines", area: "areas" };

/** A list moved by one; from the uppermost to the lowest, as things lie on paper. */
function moved<T>(list: readonly T[], k: number, by: number): T[] {
  const next = list.slice(),
    [one] = next.splice(k, 1);
  next.splice(k + by, 0, one!);
  return next;
}

function UpDown({ name, k, count, move }: { name: string; k: number; count: number; move: (by: number) => void }) {
  return (
    <>
      {k > 0 && (
        <button className="button button-plain h-6" aria-label={`${name} up`} onClick={() => move(-1)}>
          Up
        </button>
      )}
      {k < count - 1 && (
        <button className="button button-plain h-6" aria-label={`${name} down`} onClick={() => move(1)}>
          Down
        </button>
      )}
    </>
  );
}

function Visible({ drawing, put }: { drawing: DrawingSettings; put: (part: Partial<DrawingSettings>) => void }) {
  const { job } = useJob();
  const [opened, setOpened] = useState<string>();
  const hidden = drawing.hidden ?? {},
    kinds = kindsInOrder(drawing).reverse();
  /** From the uppermost to the lowest: those in the order given, then the others. */
  const sorted = (names: string[], order: readonly string[] = []) => [
    ...order.filter((n) => names.includes(n)).reverse(),
    ...names.filter((n) => !order.includes(n)),
  ];
  const groups = useMemo(
    () => sorted([...new Set((job.book.codes ?? []).map((c) => c.group ?? ""))], drawing.order),
    [job.book, drawing.order],
  );
  const layersOf = (g: string) =>
    sorted(
      [...new Set((job.book.codes ?? []).filter((c) => (c.group ?? "") === g).map((c) => c.layer ?? c.code))],
      drawing.layerOrder,
    );
  const flip = <K extends "groups" | "layers" | "kinds">(what: K, value: string, drawn: boolean) => {
    const now = (hidden[what] ?? []) as string[],
      next = drawn ? now.filter((x) => x !== value) : [...now, value];
    const all = Object.fromEntries(
      Object.entries({ ...hidden, [what]: next }).filter(([, v]) => (v as string[]).length),
    );
    put({ hidden: Object.keys(all).length ? all : undefined });
  };
  const moveLayer = (g: string, k: number, by: number) => {
    const own = moved(layersOf(g), k, by).reverse();
    put({ layerOrder: [...(drawing.layerOrder ?? []).filter((l) => !own.includes(l)), ...own] });
  };
  return (
    <section aria-label="What is drawn">
      <h2 className="heading">
        What is drawn{" "}
        <span className="font-sans text-[13px] font-normal text-soft">
          from the uppermost to the lowest: kinds, within them groups, within them layers
        </span>
      </h2>
      <ul className="rows mt-1" aria-label="Kinds">
        {kinds.map((kind, k) => (
          <li key={kind} className="row gap-2">
            <label className="flex min-w-0 flex-1 items-center gap-2">
              <input
                type="checkbox"
                checked={!hidden.kinds?.includes(kind)}
                onChange={(event) => flip("kinds", kind, event.target.checked)}
              />
              {KIND_NAMES[kind]}
            </label>
            <UpDown
              name={KIND_NAMES[kind]}
              k={k}
              count={kinds.length}
              move={(by) => put({ kindOrder: moved(kinds, k, by).reverse() })}
            />
          </li>
        ))}
      </ul>
      <ul className="rows mt-3" aria-label="Groups">
        {groups.map((g, k) => (
          <li key={g}>
            <div className="row gap-2">
              <label className="flex min-w-0 flex-1 items-center gap-2">
                <input
                  type="checkbox"
                  checked={!hidden.groups?.includes(g)}
                  onChange={(event) => flip("groups", g, event.target.checked)}
                />
                {g || "without a group"}
              </label>
              <UpDown
                name={g || "Without a group"}
                k={k}
                count={groups.length}
                move={(by) => put({ order: moved(groups, k, by).reverse() })}
              />
              <button
                className="button button-plain h-6 w-24 justify-end"
                aria-expanded={opened === g}
                onClick={() => setOpened(opened === g ? undefined : g)}
              >
                {plural(layersOf(g).length, "layer")}
              </button>
            </div>
            {opened === g && (
              <ul className="pl-6" aria-label={`Layers of ${g || "no group"}`}>
                {layersOf(g).map((l, n, all) => (
                  <li key={l} className="row gap-2">
                    <label className="flex min-w-0 flex-1 items-center gap-2">
                      <input
                        type="checkbox"
                        checked={!hidden.layers?.includes(l)}
                        onChange={(event) => flip("layers", l, event.target.checked)}
                      />
                      <span className="truncate">{l}</span>
                    </label>
                    <UpDown name={l} k={n} count={all.length} move={(by) => moveLayer(g, n, by)} />
                  </li>
                ))}
              </ul>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Texts that found no place at the present scale. */
function Unplaced() {
  const { layout, job, view, select, show } = useJob();
  if (!layout) return null;
  const notes = layout.unplaced.filter((u) => u.is === "note"),
    labels = layout.unplaced.length - notes.length;
  const go = (u: (typeof notes)[number]) => {
    const places = u.point >= 0 ? [u.point] : (view.lines[u.line]?.shots ?? []);
    select({ points: places.map((i) => job.points.id[i]!), lines: u.line >= 0 ? [view.lines[u.line]!.key] : [] });
    show(boxOfPoints(job.points, places));
  };
  return (
    <section aria-label="Without a place" data-testid="unplaced">
      <h2 className="heading">
        Without a place{" "}
        <span className="font-sans text-[13px] font-normal text-soft">
          {layout.notes === 0
            ? "no notes at this scale"
            : `${layout.notes - notes.length} of ${plural(layout.notes, "note")} placed`}
          {layout.crowded
            ? "; texts are left out where there is no room for most of them"
            : layout.labels
              ? `; ${layout.labels - labels} of ${plural(layout.labels, "label")} of points`
              : ""}
        </span>
      </h2>
      <ul className="rows mt-1">
        {layout.unplaced.slice(0, 200).map((u, k) => (
          <li key={k} className="row gap-2">
            <span className="min-w-0 flex-1 truncate">{u.text}</span>
            <span className="text-soft">
              {u.point >= 0 ? `point ${job.points.number[u.point]}` : view.lines[u.line]?.code}
            </span>
            <button className="button button-plain h-6" onClick={() => go(u)}>
              Zoom to it
            </button>
          </li>
        ))}
      </ul>
      {layout.unplaced.length > 200 && <p className="text-soft">and {layout.unplaced.length - 200} more</p>}
    </section>
  );
}
