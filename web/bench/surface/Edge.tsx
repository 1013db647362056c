"use client";
/** Where a surface ends: its edge, the holes in it, and the longest side that its outline may have. */
import { useState } from "react";
import { lengthText, type RingWanted } from "@bramble/core";
import { formatGrouped } from "@bramble/core/math/round";
import { outlineOf } from "@bramble/core/surface/outline";
import { useParts } from "../../lib/store";
import { area } from "../../lib/units-shown";
import { lineAt } from "../../lib/view";
import { Choice } from "../../controls/fields/Choice";
import { CornersButton } from "../CornersButton";
import { LengthField } from "../../controls/fields/fields";
import { RingButton } from "../RingButton";
import { RingOfFile } from "./FromFile";
import type { PartProps } from "./parts";
import { Slider } from "../../controls/fields/Slider";

type Kind = "hull" | "fit" | "ring" | "code";
type Ring = [number, number][];

export function Edge({ recipe, edit, look, would }: PartProps) {
  const { job, view } = useParts("job", "view");
  const edge = recipe.edge ?? "hull",
    [choosing, setChoosing] = useState<"ring" | "code">();
  const kind: Kind = edge === "hull" ? "hull" : "fit" in edge ? "fit" : "ring" in edge ? "ring" : "code";
  const built = view.surfaces.find((s) => s.name === recipe.name)?.value;
  const codes = [...new Set(view.lines.filter((l) => l.closed).map((l) => l.code))].sort();
  const put = (next: PartProps["recipe"]["edge"]) => {
    setChoosing(undefined);
    edit({ edge: next });
  };
  const choose = (v: Kind) => {
    if (v === "hull") put("hull");
    else if (v === "fit") put({ fit: firstGap(built) });
    else setChoosing(v);
  };
  const holes = recipe.holes ?? [];
  return (
    <section aria-label="Edge" className="mt-4">
      <div className="flex flex-wrap items-end gap-3">
        <Choice
          label="Edge"
          value={choosing ?? kind}
          onChange={choose}
          options={[
            ["hull", "round all points"],
            ["fit", "fitted to points and lines"],
            ["ring", "a drawn ring"],
            ["code", "closed lines of a code"],
          ]}
        />
        {kind === "fit" && !choosing && <Gap fit={(edge as { fit: number }).fit} put={put} look={look} />}
        {kind === "ring" && !choosing && (
          <CornersButton of="edge" ring={(edge as { ring: Ring }).ring} take={(ring) => put({ ring })} />
        )}
        {(choosing ?? kind) === "ring" && <RingSource put={(ring) => put({ ring })} built={built} />}
        {(choosing ?? kind) === "code" && (
          <Choice
            label="Lines coded"
            value={kind === "code" ? (edge as { code: string }).code : ""}
            onChange={(code) => code && put({ code })}
            options={[["", codes.length ? "choose" : "no closed line there"], ...codes.map((c) => [c, c] as const)]}
          />
        )}
      </div>
      <p className="mt-1 text-soft">
        {kind === "ring"
          ? `Frozen: a ring of ${(edge as { ring: Ring }).ring.length} corners, which stays as it was drawn.`
          : `Tied to its rule: it follows the ${kind === "code" ? "lines" : "points"}.`}
        {would &&
          ` It would hold ${formatGrouped(would.points, 0)} points on ${area(would.area, job.unit, job.areaUnit)}` +
            `${would.outside ? `, ${formatGrouped(would.outside, 0)} outside` : ""}.`}
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <LengthField
          label={`Longest side, ${job.unit} (0: any)`}
          value={recipe.longestSide ?? 0}
          unit={job.unit}
          onChange={(x) => edit({ longestSide: x > 0 ? x : undefined })}
          typing={(x) => look(x === undefined || x < 0 ? undefined : { longestSide: x > 0 ? x : undefined })}
        />
        {holes.map((h, k) => (
          <span key={k} className="flex h-7 items-center gap-1.5 rounded-sm border border-rule px-2">
            <span className="text-soft">hole</span>
            {"ring" in h ? `${h.ring.length} corners` : `all ${h.code}`}
            {"ring" in h && (
              <CornersButton of={`hole ${k}`} ring={h.ring} take={(ring) => edit({ holes: holes.with(k, { ring }) })} />
            )}
            <button
              className="text-soft hover:text-bramble"
              aria-label={`Take hole ${k + 1} away`}
              onClick={() => edit({ holes: holes.filter((_, i) => i !== k) })}
            >
              ×
            </button>
          </span>
        ))}
        <RingButton name="Draw a hole" take={(ring) => edit({ holes: [...holes, { ring }] })} />
        <RingOfFile label="Hole from a line of a file" take={(ring) => edit({ holes: [...holes, { ring }] })} />
        <HoleFromLines codes={codes} add={(h) => edit({ holes: [...holes, h] })} />
      </div>
    </section>
  );
}

/** Gaps from a tenth of a unit to a thousand, evenly by their ratio. */
const toSlider = (gap: number) => Math.round(100 * Math.log10(10 * gap)),
  ofSlider = (v: number) => Number((10 ** (v / 100) / 10).toPrecision(3));

/** The widest gap that a fitted edge spans: dragged, and seen on the sheet before it is let go. */
function Gap({ fit, put, look }: { fit: number; put: (edge: { fit: number }) => void; look: PartProps["look"] }) {
  const { job } = useParts("job");
  const [dragged, setDragged] = useState<number>();
  const keep = () => {
    if (dragged !== undefined && dragged !== fit) put({ fit: dragged });
    setDragged(undefined);
  };
  return (
    <>
      <label className="block">
        <span className="label block">Widest gap</span>
        <Slider
          label="Widest gap"
          className="mt-0.5 w-44"
          least={0}
          most={400}
          words={lengthText(dragged ?? fit, job.unit)}
          value={toSlider(dragged ?? fit)}
          drag={(at) => {
            const gap = ofSlider(at);
            setDragged(gap);
            look({ edge: { fit: gap } });
          }}
          keep={keep}
        />
      </label>
      <LengthField
        label={`Gap, ${job.unit}`}
        value={dragged ?? fit}
        unit={job.unit}
        positive
        width="w-20"
        onChange={(x) => put({ fit: x })}
        typing={(x) => look(x === undefined || x <= 0 ? undefined : { edge: { fit: x } })}
      />
    </>
  );
}

/** A gap that spans what lies as usual between points, and little more. */
function firstGap(built: { report: { area: number; points: number } } | undefined): number {
  if (!built) return 25;
  return Number((4 * Math.sqrt(built.report.area / built.report.points)).toPrecision(2));
}

/** A ring is drawn, taken from the selected line, or frozen from the edge as it is now. */
function RingSource({
  put,
  built,
}: {
  put: (ring: Ring) => void;
  built: { surface: Parameters<typeof outlineOf>[0] } | undefined;
}) {
  const { view, lines } = useParts("view", "lines");
  const [key] = lines,
    index = lines.size === 1 ? lineAt(view, key!) : undefined,
    line = index === undefined ? undefined : view.lines[index];
  const fromLine = () => {
    const { xyz, starts } = view.chains,
      ring: Ring = [];
    for (let v = starts[index!]!; v < starts[index! + 1]! - 1; v++) ring.push([xyz[3 * v]!, xyz[3 * v + 1]!]);
    put(ring);
  };
  return (
    <div className="flex flex-wrap gap-2">
      <RingButton name="Draw the edge" take={put} />
      <RingOfFile label="Closed line of a file" take={put} />
      {line?.closed && (
        <button className="button" onClick={fromLine}>
          From {line.code} {line.run}
        </button>
      )}
      {built && (
        <button
          className="button"
          title="The edge as it is now, as a ring of its own"
          onClick={() => put(longest(outlineOf(built.surface)))}
        >
          Freeze it as it is
        </button>
      )}
    </div>
  );
}

/** The longest of some closed ways, as corners. */
function longest(ways: readonly number[][]): Ring {
  const way = ways.reduce((a, b) => (b.length > a.length ? b : a), []);
  return Array.from({ length: way.length / 2 - 1 }, (_, k): [number, number] => [way[2 * k]!, way[2 * k + 1]!]);
}

function HoleFromLines({ codes, add }: { codes: readonly string[]; add: (hole: RingWanted) => void }) {
  if (codes.length === 0) return null;
  return (
    <Choice
      label="Holes from closed lines"
      named={false}
      low={false}
      value=""
      ask="Holes from closed lines …"
      onChange={(code) => add({ code })}
      options={codes.map((c) => [c, c] as const)}
    />
  );
}
