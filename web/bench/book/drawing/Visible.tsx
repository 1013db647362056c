"use client";
/** Which kinds, groups and layers are drawn, and in which order they lie on one another. */
import { useMemo, useState } from "react";
import type { CodeKind, DrawingSettings } from "@bramble/core";
import { kindsInOrder } from "@bramble/core/drawing/order";
import { plural } from "@bramble/core/math/words";
import { useParts } from "../../../lib/store";
import { moved } from "../../../controls/fields/EditableList";
import { Tick } from "../../../controls/fields/Tick";

const KIND_NAMES: Record<CodeKind, string> = { point: "points", line: "lines", area: "areas" };

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

export function Visible({ drawing, put }: { drawing: DrawingSettings; put: (part: Partial<DrawingSettings>) => void }) {
  const { job } = useParts("job");
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
            <Tick
              words={KIND_NAMES[kind]}
              on={!hidden.kinds?.includes(kind)}
              set={(on) => flip("kinds", kind, on)}
              className="flex min-w-0 flex-1 items-center gap-2"
            />
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
              <Tick
                words={g || "without a group"}
                on={!hidden.groups?.includes(g)}
                set={(on) => flip("groups", g, on)}
                className="flex min-w-0 flex-1 items-center gap-2"
              />
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
                    <Tick
                      words={<span className="truncate">{l}</span>}
                      on={!hidden.layers?.includes(l)}
                      set={(on) => flip("layers", l, on)}
                      className="flex min-w-0 flex-1 items-center gap-2"
                    />
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
