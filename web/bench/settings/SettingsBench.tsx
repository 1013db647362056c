"use client";
/**
 * The job's own settings: names, units, coordinates, tolerances, number ranges; kept as a template for the next job.
 */
import { useEffect, useRef } from "react";
import { STATION_STYLES, stationText } from "@bramble/core/math/station-text";
import { AREA_UNITS, settingOf, UNIT_NAMES, VOLUME_UNITS, type SettingField, type Tolerances } from "@bramble/core";
import { ANGLE_STYLE_NAMES, ANGLE_STYLES } from "@bramble/core/math/angles";
import { PlaceLink } from "../../controls/PlaceLink";
import { useParts } from "../../lib/store";
import { areaUnitShort, decimalsOf, volumeUnitShort } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { Bench } from "../Bench";
import { Choice } from "../../controls/fields/Choice";
import { LengthField, TextField } from "../../controls/fields/fields";
import { Checks } from "./Checks";
import { Coordinates } from "./Coordinates";
import { Section, type SetSetting } from "./fields";
import { Numbers } from "./Numbers";
import { Templates } from "./Templates";
import { TakenWords } from "../../controls/fields/TakenWords";

const TOLERANCE_NAMES: [keyof Tolerances, string, string][] = [
  ["precision", "Precision", "a shot worse than this is told"],
  ["repeat", "Repeat", "shots on one point, or on control, may differ by this"],
  ["coincident", "Coincident", "points this close are one vertex of a surface"],
  ["crossing", "Crossing", "levels of two breaklines at one position may differ by this"],
  ["arc", "Arc", "a shot may lie this far from its arc"],
  ["chord", "Chord", "an arc becomes chords no farther from it"],
];

export function SettingsBench() {
  const { job, change } = useParts("job", "change");
  const set = (field: SettingField, value: unknown) => {
    const old = (job as unknown as Record<string, unknown>)[field] ?? null;
    if (old !== value) void change({ type: "setting", field, old, new: value });
  };
  // A setting that is gone to, from a finding or the ledger, has the keyboard.
  const body = useRef<HTMLDivElement>(null);
  const [wanted, setWanted] = useKept<SettingField | undefined>("settings.field", undefined);
  useEffect(() => {
    if (!wanted) return;
    const section = body.current?.querySelector<HTMLElement>(`[data-holds~="${wanted}"]`);
    section?.scrollIntoView({ block: "start" });
    section?.querySelector<HTMLElement>("input, select, textarea")?.focus({ preventScroll: true });
    setWanted(undefined);
  }, [wanted, setWanted]);
  return (
    <Bench title="Job settings" about="Every change is in the ledger and can be undone">
      <div ref={body} className="min-h-0 flex-1 overflow-auto px-4 pb-8">
        <AboutJob set={set} />
        <Units set={set} />
        <Coordinates set={set} />
        <TolerancesPart set={set} />
        <Checks set={set} />
        <Numbers set={set} />
        <Section title="Code book">
          <p className="text-soft">
            {(job.book.codes ?? []).length} codes, {(job.book.aliases ?? []).length} aliases. It belongs to the job; a
            template brings it to the next one.{" "}
            <PlaceLink className="text-bramble underline" place="book">
              Open the code book
            </PlaceLink>
          </p>
        </Section>
        <Templates />
      </div>
    </Bench>
  );
}

function AboutJob({ set }: { set: SetSetting }) {
  const { job } = useParts("job");
  const text = (
    field: "name" | "client" | "crew" | "date",
    label: string,
    more: { width?: string; placeholder?: string; pattern?: RegExp; must?: string } = {},
  ) => (
    <TextField
      key={field}
      label={label}
      value={job[field] ?? ""}
      {...more}
      onChange={(v) => set(field, v === "" ? null : v)}
    />
  );
  return (
    <Section title="Job" holds={["name", "client", "crew", "date", "note"]}>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        {text("name", "Name", { width: "w-full", must: "A job needs a name." })}
        {text("client", "Client reference", { width: "w-full" })}
        {text("crew", "Crews", { width: "w-full" })}
        {text("date", "Date", { width: "w-full", placeholder: "2031-04-17", pattern: /^\d{4}-\d{2}-\d{2}$/ })}
      </div>
      <div className="mt-2">
        <TakenWords
          label="Notes"
          className="h-14 w-full"
          most={10_000}
          value={job.note ?? ""}
          take={(v) => set("note", v === "" ? null : v)}
        />
      </div>
    </Section>
  );
}

function Units({ set }: { set: SetSetting }) {
  const { job } = useParts("job");
  const unitArea: Record<string, string> = { unit: areaUnitShort(job.unit), ha: "hectares", acre: "acres" },
    unitVolume: Record<string, string> = { unit: volumeUnitShort(job.unit), yd: "cubic yards", acft: "acre-feet" };
  return (
    <Section title="Units and order" holds={["order", "angle", "areaUnit", "volumeUnit", "stations"]}>
      <div className="flex flex-wrap items-end gap-3">
        <div>
          <span className="label block">Length unit</span>
          <span
            className="mt-0.5 flex h-7 items-center"
            title="Coordinates stay as they came in, so the unit is chosen with the job"
          >
            {UNIT_NAMES[job.unit]}
          </span>
        </div>
        <Choice
          label="Coordinates"
          value={job.order}
          onChange={(v) => set("order", v)}
          options={[
            ["NE", "northing first"],
            ["EN", "easting first"],
          ]}
        />
        <Choice
          label="Angles"
          value={settingOf(job, "angle")}
          onChange={(v) => set("angle", v)}
          options={ANGLE_STYLES.map((a) => [a, ANGLE_STYLE_NAMES[a]])}
        />
        <Choice
          label="Areas in"
          value={settingOf(job, "areaUnit")}
          onChange={(v) => set("areaUnit", v)}
          options={AREA_UNITS.map((a) => [a, unitArea[a]!])}
        />
        <Choice
          label="Volumes in"
          value={settingOf(job, "volumeUnit")}
          onChange={(v) => set("volumeUnit", v)}
          options={VOLUME_UNITS.map((a) => [a, unitVolume[a]!])}
        />
        <Choice
          label="Stations"
          value={settingOf(job, "stations")}
          onChange={(v) => set("stations", v)}
          options={STATION_STYLES.map((a) => [a, `as ${stationText(1560.1, job.unit, a)}`])}
        />
      </div>
    </Section>
  );
}

function TolerancesPart({ set }: { set: SetSetting }) {
  const { job } = useParts("job");
  return (
    <Section
      title="Tolerances"
      holds={["tolerance"]}
      about={`in ${job.unit}; another unit may be typed, such as 15 mm`}
    >
      <div className="grid grid-cols-3 gap-x-4 gap-y-3">
        {TOLERANCE_NAMES.map(([key, name, what]) => (
          <div key={key}>
            <LengthField
              label={name}
              value={job.tolerance[key]}
              unit={job.unit}
              positive={key !== "coincident" && key !== "crossing"}
              width="w-full"
              decimals={decimalsOf(job.unit) + 1}
              onChange={(x) => set("tolerance", { ...job.tolerance, [key]: x })}
            />
            <p className="label mt-0.5 leading-snug">{what}</p>
          </div>
        ))}
      </div>
    </Section>
  );
}
