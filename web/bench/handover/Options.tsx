"use client";
/** What each format lets one choose. */
import type { HandoverFile, TextStyle } from "@bramble/core";
import { HOLDS, pointsOf } from "@bramble/core";
import { useParts } from "../../lib/store";
import { Choice } from "../../controls/Choice";
import { wordsOf } from "./kinds";
import type { Edit } from "./edit";
import { PlanOptions } from "./PlanOptions";
import { PointsWanted } from "./PointsWanted";
import { Tick } from "./Tick";
import { unless } from "../../controls/unless";

type Of<F extends HandoverFile["format"]> = Extract<HandoverFile, { format: F }>;

export function Options({ file, edit }: { file: HandoverFile; edit: Edit }) {
  return (
    <div className="mt-3 flex flex-wrap items-end gap-3">
      {isOfPoints(file) && <PointsWanted value={pointsOf(file) ?? "*"} choose={(points) => edit({ points })} />}
      <Rest file={file} edit={edit} />
    </div>
  );
}

const isOfPoints = (file: HandoverFile) =>
  (file.format === "pdf" && (file.tables?.includes("points") ?? false)) || isOfAllPoints(file);

const isOfAllPoints = ({ format }: HandoverFile) =>
  ["csv", "xlsx", "dxf", "landxml", "geojson", "kml", "gpkg"].includes(format);

function Rest({ file, edit }: { file: HandoverFile; edit: Edit }) {
  switch (file.format) {
    case "csv":
      return (
        <>
          <Changed file={file} edit={edit as Edit<Of<"csv">>} />
          <Decimals value={file.decimals ?? 3} choose={(decimals) => edit({ decimals })} />
          <Style file={file} edit={edit} />
        </>
      );
    case "xlsx":
      return (
        <>
          <Changed file={file} edit={edit as Edit<Of<"csv">>} />
          <Decimals value={file.decimals ?? 3} choose={(decimals) => edit({ decimals })} />
        </>
      );
    case "dxf":
      return (
        <>
          <Choice
            label="Arcs"
            value={file.arcs ?? "arcs"}
            onChange={(arcs) => edit({ arcs })}
            options={[
              ["arcs", "as arcs"],
              ["chords", "as chords"],
            ]}
          />
          <Tick
            words="Triangles as 3D faces"
            on={file.triangles ?? true}
            set={(on) => edit({ triangles: on ? undefined : false })}
          />
          <Tick words="Contours" on={file.contours ?? true} set={(on) => edit({ contours: on ? undefined : false })} />
        </>
      );
    case "landxml":
    case "geojson":
    case "gpkg":
    case "kml":
      return <Held file={file} edit={edit} />;
    case "list":
      return <ListOptions file={file} edit={edit} />;
    case "recipe":
      return (
        <Tick
          words="With the files that it names, in one archive"
          on={file.with === "files"}
          set={(on) => edit({ with: on ? "files" : undefined })}
        />
      );
    case "report":
      return (
        <Choice
          label="As"
          value={file.as}
          onChange={(as) => edit({ as })}
          options={[
            ["pdf", "PDF"],
            ["xlsx", "spreadsheet"],
          ]}
        />
      );
    case "pdf":
      return <PlanOptions file={file} edit={edit as Edit<Of<"pdf">>} />;
    case "package":
      return <PackageFiles file={file} edit={edit as Edit<Of<"package">>} />;
    default:
      return null;
  }
}

function Decimals({ value, choose }: { value: number; choose: (decimals: number) => void }) {
  return (
    <Choice
      label="Decimals"
      value={String(value)}
      onChange={(v) => choose(Number(v))}
      options={[0, 1, 2, 3, 4, 5, 6].map((k) => [String(k), String(k)])}
    />
  );
}

function Changed({ file, edit }: { file: Of<"csv"> | Of<"xlsx">; edit: Edit<Of<"csv">> }) {
  return (
    <Choice
      label="Which of them"
      value={file.only ?? "all"}
      onChange={(only) => edit({ only: only === "changed" ? only : undefined })}
      options={[
        ["all", "all"],
        ["changed", "new or changed since it was last made"],
      ]}
    />
  );
}

function Style({ file, edit }: { file: TextStyle; edit: Edit }) {
  const set = (part: TextStyle) => edit(part);
  return (
    <>
      <Choice
        label="Decimal sign"
        value={file.decimal ?? "."}
        // A comma that parts columns as well would put every number in quotes.
        onChange={(v) =>
          set(
            v === ","
              ? { decimal: ",", ...((file.delimiter ?? ",") === "," ? { delimiter: ";" } : {}) }
              : { decimal: undefined },
          )
        }
        options={[
          [".", "point"],
          [",", "comma"],
        ]}
      />
      <Choice
        label="Delimiter"
        value={file.delimiter ?? ","}
        onChange={(delimiter) => set({ delimiter })}
        options={[
          [",", "comma"],
          [";", "semicolon"],
          ["\t", "tab"],
          [" ", "blank"],
          ["|", "bar"],
        ]}
      />
      <Choice
        label="Encoding"
        value={file.encoding ?? "utf-8"}
        onChange={(v) => set({ encoding: v as TextStyle["encoding"] })}
        options={[
          ["utf-8", "UTF-8"],
          ["utf-8-mark", "UTF-8 with a mark"],
          ["latin1", "Western (Windows-1252)"],
        ]}
      />
      <Choice
        label="Line ends"
        value={file.lineEnd ?? "lf"}
        onChange={(v) => set({ lineEnd: v as TextStyle["lineEnd"] })}
        options={[
          ["lf", "LF"],
          ["crlf", "CR LF"],
        ]}
      />
      <Tick words="Header row" on={file.header ?? true} set={(header) => set({ header })} />
      <Tick
        words="Guard texts that a spreadsheet would compute"
        title="Texts that begin with =, +, - or @ and are no numbers are written behind an apostrophe"
        on={file.guard ?? false}
        set={(on) => set({ guard: on || undefined })}
      />
    </>
  );
}

const HELD_WORDS = {
  points: "Points",
  lines: "Lines and areas",
  surfaces: "Surfaces",
  contours: "Contours",
  survey: "Raw observations",
} as const;

function Held({ file, edit }: { file: Of<"landxml"> | Of<"geojson"> | Of<"gpkg"> | Of<"kml">; edit: Edit }) {
  const { job } = useParts("job");
  const may = HOLDS.filter(
      (x) => !(x === "survey" && file.format !== "landxml") && !(x === "surfaces" && file.format === "kml"),
    ),
    held: readonly string[] = file.holds ?? may;
  return (
    <>
      <fieldset className="flex flex-wrap gap-x-4" aria-label="What it holds">
        {may.map((x) => (
          <Tick
            key={x}
            words={HELD_WORDS[x]}
            on={held.includes(x)}
            set={(on) => {
              const next = may.filter((y) => (y === x ? on : held.includes(y)));
              if (next.length) edit({ holds: next.length === may.length ? undefined : next });
            }}
          />
        ))}
      </fieldset>
      {file.format === "geojson" && (
        <Choice
          label="Coordinates"
          value={file.coordinates ?? "job"}
          onChange={(v) => edit({ coordinates: v === "job" ? undefined : v })}
          options={[
            ["job", "as the job has them"],
            ["latitude-longitude", "latitude and longitude"],
          ]}
        />
      )}
      {(file.format === "kml" || (file.format === "geojson" && file.coordinates === "latitude-longitude")) &&
        !job.system && (
          <p className="w-full text-amber">
            The job has no coordinate system: set it in the settings, or this file cannot be made.
          </p>
        )}
    </>
  );
}

function ListOptions({ file, edit }: { file: Of<"list">; edit: Edit }) {
  const { job } = useParts("job");
  return (
    <>
      {file.of !== "questions" && (
        <Choice
          label="Lengths in"
          value={file.unit ?? job.unit}
          onChange={(unit) => edit({ unit: unit === job.unit ? undefined : unit })}
          options={[
            ["m", "metres"],
            ["ft", "international feet"],
            ["ftUS", "US survey feet"],
          ]}
        />
      )}
      {file.of === "areas" && (
        <Choice
          label="Areas in"
          value={file.areaUnit ?? job.areaUnit ?? "unit"}
          onChange={(areaUnit) => edit({ areaUnit })}
          options={[
            ["unit", "squares of that unit"],
            ["ha", "hectares"],
            ["acre", "acres"],
          ]}
        />
      )}
      <Decimals value={file.decimals ?? 3} choose={(decimals) => edit({ decimals })} />
      <Style file={file} edit={edit} />
    </>
  );
}

function PackageFiles({ file, edit }: { file: Of<"package">; edit: Edit<Of<"package">> }) {
  const { job } = useParts("job"),
    singles = job.handover.filter((f) => f.format !== "package"),
    held = file.files ?? singles.map((f) => f.file);
  if (singles.length === 0) return <p className="text-amber">There is no other file yet that it could hold.</p>;
  return (
    <fieldset className="w-full" aria-label="Files in the package">
      {singles.map((f) => (
        <label key={f.file} className="flex h-7 items-center gap-2">
          <input
            type="checkbox"
            checked={held.includes(f.file)}
            {...unless(held.length === 1 && held.includes(f.file) && "A package holds one file at least.")}
            onChange={(event) => {
              const next = singles
                .map((x) => x.file)
                .filter((x) => (x === f.file ? event.target.checked : held.includes(x)));
              edit({ files: next.length === singles.length ? undefined : next });
            }}
          />
          <span className="font-medium">{f.file}</span>
          <span className="text-soft">{wordsOf(f)}</span>
        </label>
      ))}
      <p className="mt-1 text-soft">
        With a manifest: sizes, SHA-256, what was counted when each was read back, and the state of the job.
      </p>
    </fieldset>
  );
}
