"use client";
/** The fields of one way of making a point, from the list of ways; points by number, or picked on the sheet. */
import type { ReactNode } from "react";
import { wayNamed, type FieldKind } from "@bramble/core/construct/model";
import { settingOf } from "@bramble/core";
import { Choice, optionsOf } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";
import { useParts } from "../../lib/store";
import { LEVELS, RAYS, type Draft, type LevelKind, type RayKind } from "./draft";

export interface Fields {
  draft: Draft;
  /** The field that the next click on the sheet fills. */
  armed: string | undefined;
  arm: (key: string) => void;
  put: (texts: Record<string, string>) => void;
  /** What is wrong with one of them. */
  problem: { at: string; problem: string } | undefined;
  /** Lines by their words; and those of them that are of the job. */
  lines: readonly string[];
  ofJob: readonly string[];
}

const NTH = ["first", "second", "third"];

/** A number of a point: while it has the keyboard a click on the sheet fills it. */
function PointText({ name, label, ...f }: Fields & { name: string; label: string }) {
  return (
    <div
      onFocusCapture={() => f.arm(name)}
      className={f.armed === name ? "rounded-sm focus-within:outline-0 outline-1 outline-offset-2 outline-bramble" : ""}
    >
      <PlainText {...f} name={name} label={label} width="w-20" />
    </div>
  );
}

function PlainText({
  draft,
  put,
  problem,
  name,
  label,
  width = "num w-24",
  placeholder,
}: Fields & { name: string; label: string; width?: string; placeholder?: string }) {
  return (
    <Typed
      label={label}
      text={draft.texts[name] ?? ""}
      onType={(text) => put({ [name]: text })}
      wrong={problem?.at === name}
      width={width}
      most={100}
      {...(placeholder ? { placeholder } : {})}
    />
  );
}

export function WayFields(f: Fields) {
  const { job } = useParts("job"),
    u = job.unit,
    style = settingOf(job, "angle"),
    likeAngle = style === "azimuth-gon" ? "gon" : style === "bearing-dms" ? "N 45 30 E" : "47.5 or 47°30′";
  const shown: Record<FieldKind, (key: string, words: string, optional: boolean) => ReactNode> = {
    position: (key) => {
      const both = [
        <PlainText key="n" {...f} name={`${key}.n`} label={`Northing, ${u}`} width="num w-28" />,
        <PlainText key="e" {...f} name={`${key}.e`} label={`Easting, ${u}`} width="num w-28" />,
      ];
      return job.order === "EN" ? both.reverse() : both;
    },
    point: (key, words) => <PointText {...f} name={key} label={words} />,
    two: (key, words) => [0, 1].map((k) => <PointText key={k} {...f} name={`${key}.${k}`} label={k ? "and" : words} />),
    three: (key, words) =>
      [0, 1, 2].map((k) => (
        <PointText key={k} {...f} name={`${key}.${k}`} label={k ? NTH[k]! : `${words} ${NTH[0]}`} />
      )),
    azimuth: (key, words) => <PlainText {...f} name={key} label={words} width="num w-28" placeholder={likeAngle} />,
    angle: (key, words) => <PlainText {...f} name={key} label={words} width="num w-28" placeholder="90" />,
    length: (key, words, optional) => (
      <PlainText {...f} name={key} label={`${words}, ${u}`} {...(optional ? { placeholder: "0" } : {})} />
    ),
    ratio: (key, words) => <PlainText {...f} name={key} label={words} placeholder="0.5" />,
    corner: (key, words) => (
      <Choice
        label={words}
        value={f.draft.texts[key] ?? "3"}
        onChange={(v) => f.put({ [key]: v })}
        options={[
          ["3", "third, beside the second"],
          ["4", "fourth, beside the first"],
        ]}
      />
    ),
    line: (key, words) => <LineChoice {...f} name={key} label={words} />,
    "line of the job": (key, words) => <LineChoice {...f} lines={f.ofJob} name={key} label={words} />,
    rays: (key) => [0, 1].map((k) => <RayFields key={k} {...f} name={`${key}.${k}`} likeAngle={likeAngle} />),
    near: () => null,
  };
  return (
    <>
      {Object.entries(wayNamed(f.draft.way).fields).map(([key, { is, words, optional }]) => (
        <div key={key} className="contents">
          {shown[is](key, words, optional ?? false)}
        </div>
      ))}
    </>
  );
}

function LineChoice({ draft, put, lines, name, label }: Fields & { name: string; label: string }) {
  return (
    <Choice
      label={label}
      width="max-w-52"
      ask="choose a line"
      value={draft.texts[name] ?? ""}
      onChange={(v) => put({ [name]: v })}
      options={lines.map((l) => [l, l] as const)}
    />
  );
}

function RayFields({ name, likeAngle, ...f }: Fields & { name: string; likeAngle: string }) {
  const { job } = useParts("job"),
    kind = (f.draft.texts[`${name}.is`] as RayKind | undefined) ?? "azimuth",
    of = name.endsWith(".0") ? "First" : "Second";
  return (
    <div role="group" aria-label={`${of} of the two that meet`} className="flex flex-wrap items-end gap-2">
      <Choice label={of} value={kind} onChange={(v) => f.put({ [`${name}.is`]: v })} options={optionsOf(RAYS)} />
      {kind === "line" ? (
        <>
          <PointText {...f} name={`${name}.line.0`} label="Point" />
          <PointText {...f} name={`${name}.line.1`} label="and" />
          <PlainText
            {...f}
            name={`${name}.right`}
            label={`Moved right, ${job.unit}`}
            placeholder="0"
            width="num w-20"
          />
        </>
      ) : (
        <>
          <PointText {...f} name={`${name}.from`} label="Point" />
          {kind === "azimuth" ? (
            <PlainText {...f} name={`${name}.azimuth`} label="Azimuth" width="num w-28" placeholder={likeAngle} />
          ) : (
            <PlainText {...f} name={`${name}.distance`} label={`Distance, ${job.unit}`} />
          )}
        </>
      )}
    </div>
  );
}

/** Where its level comes from. */
export function LevelFields({
  setLevel,
  hasSlope,
  ...f
}: Fields & { setLevel: (kind: LevelKind) => void; hasSlope: boolean }) {
  const { job } = useParts("job"),
    { level } = f.draft,
    kinds = optionsOf(LEVELS).filter(
      ([k]) => k === level || ((k !== "along" || hasSlope) && (k !== "surface" || job.surfaces.length > 0)),
    );
  return (
    <>
      <Choice label="Level" value={level} onChange={setLevel} options={kinds} />
      {level === "typed" && <PlainText {...f} name="level" label={`Elevation, ${job.unit}`} />}
      {level === "of" && <PointText {...f} name="level.of" label="Level of point" />}
      {level === "surface" && (
        <Choice
          label="Surface"
          ask="choose a surface"
          value={f.draft.texts["level.surface"] ?? ""}
          onChange={(v) => f.put({ "level.surface": v })}
          options={job.surfaces.map((s) => [s.name, s.name] as const)}
        />
      )}
      {level !== "none" && level !== "typed" && (
        <PlainText {...f} name="level.up" label={`Up, ${job.unit}`} placeholder="0" width="num w-20" />
      )}
    </>
  );
}
