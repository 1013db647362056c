"use client";
/** Which lines are breaklines of a surface, where they cross, and how they are thinned and densified. */
import { useState, type ReactNode } from "react";
import { lengthText, sameJson, type LineWanted } from "@bramble/core";
import type { PointRef } from "@bramble/core/points/refs";
import type { PiecesLeftOut } from "@bramble/core/surface/model";
import { useFound } from "../../lib/use-found";
import { breaklineCodes, lineWanted } from "@bramble/core/surface/breaklines";
import { plural } from "@bramble/core/math/words";
import { useParts } from "../../lib/store";
import { Choice } from "../../controls/fields/Choice";
import { LengthField } from "../../controls/fields/fields";
import { LinesOfFiles } from "./FromFile";
import type { PartProps } from "./parts";

type Recipe = NonNullable<PartProps["recipe"]["breaklines"]>;

export function Breaklines({ recipe, edit, look, would, children }: PartProps & { children: ReactNode }) {
  const { job, view, lines: selected } = useParts("job", "view", "lines"),
    { numberOf } = useFound();
  const given = recipe.breaklines ?? {},
    [typing, setTyping] = useState<"thin" | "densify">();
  const put = (part: Partial<Recipe>) => edit({ breaklines: { ...given, ...part } });
  const typed = (field: "thin" | "densify") => (x: number | undefined) => {
    setTyping(x === undefined ? undefined : field);
    look(x === undefined || x < 0 ? undefined : { breaklines: { ...given, [field]: x } });
  };
  const chosen = view.lines.flatMap((l) => (selected.has(l.key) ? [lineWanted(l, job.intakes)] : []));
  const add = (to: "also" | "except") => {
    const known = new Set((given[to] ?? []).map((x) => JSON.stringify(x))),
      more = chosen.filter((x) => !known.has(JSON.stringify(x)));
    const other = to === "also" ? "except" : "also",
      rest = (given[other] ?? []).filter((x) => !chosen.some((c) => JSON.stringify(c) === JSON.stringify(x)));
    put({ [to]: [...(given[to] ?? []), ...more], [other]: rest } as Partial<Recipe>);
  };
  const addOfFile = (line: LineWanted) => {
    const also = given.also ?? [];
    if (!also.some((x) => sameJson(x, line))) put({ also: [...also, line] });
  };
  const without = (from: "also" | "except", k: number) =>
    put({ [from]: (given[from] ?? []).filter((_, i) => i !== k) } as Partial<Recipe>);
  return (
    <section aria-label="Points and breaklines" className="mt-2">
      <div className="flex flex-wrap items-end gap-3">
        {children}
        <Choice
          label="Breaklines"
          value={breaklineCodes(recipe).length ? "all" : "none"}
          onChange={(v) => put({ codes: v === "all" ? ["*"] : [] })}
          options={[
            ["all", "all that the code book says"],
            ["none", "none"],
          ]}
        />
        <Choice
          label="Where breaklines cross"
          value={given.crossing ?? "mean"}
          onChange={(v) => put({ crossing: v })}
          options={[
            ["mean", "the mean level"],
            ["higher", "the higher"],
            ["lower", "the lower"],
          ]}
        />
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <LengthField
          label={`Nearly straight within, ${job.unit}`}
          value={given.thin ?? 0}
          unit={job.unit}
          onChange={(thin) => put({ thin })}
          typing={typed("thin")}
        />
        <LengthField
          label={`Longest piece, ${job.unit} (0: any)`}
          value={given.densify ?? 0}
          unit={job.unit}
          onChange={(densify) => put({ densify })}
          typing={typed("densify")}
        />
      </div>
      {would && typing === "thin" && (
        <p className="mt-1 text-soft" role="status">
          {plural(would.thinned.count, "vertex would be left out", "vertices would be left out")}, a level changed by{" "}
          {lengthText(would.thinned.most, job.unit)} at most.
        </p>
      )}
      {would && typing === "densify" && (
        <p className="mt-1 text-soft" role="status">
          {plural(would.densified, "vertex would be added", "vertices would be added")}.
        </p>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {(["also", "except"] as const).flatMap((part) =>
          (given[part] ?? []).map((x, k) => (
            <span key={`${part} ${k}`} className="flex h-7 items-center gap-1.5 rounded-sm border border-rule px-2">
              <span className="text-soft">{part === "also" ? "also" : "not"}</span>
              {nameOf(x, numberOf)}
              <button
                className="text-soft hover:text-bramble"
                aria-label={`Take ${nameOf(x, numberOf)} out of the list`}
                onClick={() => without(part, k)}
              >
                ×
              </button>
            </span>
          )),
        )}
        <LinesOfFiles take={addOfFile} />
        {chosen.length > 0 && (
          <>
            <button className="button h-7" onClick={() => add("also")}>
              {plural(chosen.length, "selected line")} in
            </button>
            <button className="button h-7" onClick={() => add("except")}>
              {plural(chosen.length, "selected line")} out
            </button>
          </>
        )}
      </div>
    </section>
  );
}

function nameOf(x: LineWanted | PiecesLeftOut, numberOf: (ref: PointRef) => string): string {
  if ("pieces" in x) return x.pieces.map((p) => p.map(numberOf).join("–")).join(", ");
  return "file" in x
    ? `${x.line ?? "lines"} of ${x.file}`
    : [x.code, x.run, x.intake && `(${x.intake})`].filter(Boolean).join(" ");
}
