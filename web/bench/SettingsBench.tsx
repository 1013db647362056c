"use client";
/**
 * The job's own settings: names, units, coordinates, tolerances, number ranges; kept as a template for the next job.
 */
import Link from "next/link";
import { useEffect, useMemo, useState, type ReactNode } from "react";
import {
  AREA_UNITS,
  DEFAULT_CURVATURE,
  settingOf,
  templateFields,
  UNIT_NAMES,
  VOLUME_UNITS,
  type CrewRange,
  type SettingField,
  type Tolerances,
} from "@bramble/core";
import { ANGLE_STYLE_NAMES, ANGLE_STYLES } from "@bramble/core/math/angles";
import { getJson, postFileTo, postJson, remove } from "../lib/client";
import { nextFreeNumber } from "../lib/next-number";
import { useJob } from "../lib/store";
import { AREA_SHORT, VOLUME_SHORT } from "../lib/units-shown";
import { Bench, Failed } from "./Bench";
import { Choice } from "./Choice";
import { LengthField } from "./LengthField";
import { NameForm } from "./NameForm";
import { useTyped } from "./use-typed";

const TOLERANCE_NAMES: [keyof Tolerances, string, string][] = [
  ["precision", "Precision", "a shot worse than this is told"],
  ["repeat", "Repeat", "shots on one point, or on control, may differ by this"],
  ["coincident", "Coincident", "points this close are one vertex of a surface"],
  ["crossing", "Crossing", "levels of two breaklines at one place may differ by this"],
  ["arc", "Arc", "a shot may lie this far from its arc"],
  ["chord", "Chord", "an arc becomes chords no farther from it"],
];

export function SettingsBench() {
  const { job, jobId, change } = useJob();
  const set = (field: SettingField, value: unknown) => {
    const old = (job as unknown as Record<string, unknown>)[field] ?? null;
    if (old !== value) void change({ type: "setting", field, old, new: value });
  };
  const text = (
    field: "name" | "client" | "crew" | "date",
    label: string,
    more: { width?: string; placeholder?: string; pattern?: RegExp; must?: boolean } = {},
  ) => (
    <TextField
      key={field}
      label={label}
      value={job[field] ?? ""}
      {...more}
      onChange={(v) => set(field, v === "" ? null : v)}
    />
  );
  const unitArea: Record<string, string> = { unit: AREA_SHORT[job.unit], ha: "hectares", acre: "acres" },
    unitVolume: Record<string, string> = { unit: VOLUME_SHORT[job.unit], yd: "cubic yards" };
  return (
    <Bench title="Job settings" about="Every change is in the ledger and can be undone">
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-8">
        <Section title="Job">
          <div className="grid grid-cols-2 gap-x-4 gap-y-2">
            {text("name", "Name", { width: "w-full", must: true })}
            {text("client", "Client reference", { width: "w-full" })}
            {text("crew", "Crews", { width: "w-full" })}
            {text("date", "Date", { width: "w-full", placeholder: "2031-04-17", pattern: /^\d{4}-\d{2}-\d{2}$/ })}
          </div>
          <NoteField value={job.note ?? ""} onChange={(v) => set("note", v === "" ? null : v)} />
        </Section>
        <Section title="Units and order">
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
          </div>
        </Section>
        <Coordinates set={set} />
        <Section title="Tolerances" about={`in ${job.unit}; another unit may be typed, such as 15 mm`}>
          <div className="grid grid-cols-3 gap-x-4 gap-y-3">
            {TOLERANCE_NAMES.map(([key, name, what]) => (
              <div key={key}>
                <LengthField
                  label={name}
                  value={job.tolerance[key]}
                  unit={job.unit}
                  positive={key !== "coincident" && key !== "crossing"}
                  width="w-full"
                  onChange={(x) => set("tolerance", { ...job.tolerance, [key]: x })}
                />
                <p className="label mt-0.5 leading-snug">{what}</p>
              </div>
            ))}
          </div>
        </Section>
        <Numbers set={set} />
        <Section title="Code book">
          <p className="text-soft">
            {(job.book.codes ?? []).length} codes, {(job.book.aliases ?? []).length} aliases. It belongs to the job; a
            template brings it to the next one.{" "}
            <Link className="text-bramble underline" href={`/jobs/${jobId}/book`}>
              Open the code book
            </Link>
          </p>
        </Section>
        <Templates />
      </div>
    </Bench>
  );
}

function Section({ title, about, children }: { title: string; about?: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="border-t border-rule py-3 first:border-0 first:pt-0">
      <h2 className="heading pb-2">
        {title} {about && <span className="font-sans text-[13px] font-normal text-soft">{about}</span>}
      </h2>
      {children}
    </section>
  );
}

/** A text taken when the field is left or Enter is pressed. */
function TextField({
  label,
  value,
  onChange,
  width = "w-48",
  placeholder,
  pattern,
  must,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  width?: string;
  placeholder?: string;
  pattern?: RegExp;
  must?: boolean;
}) {
  const [text, setText] = useState(value),
    [shown, setShown] = useState(value);
  if (shown !== value) {
    setShown(value);
    setText(value);
  }
  const wrong =
    (must === true && text.trim() === "") ||
    (text.trim() !== "" && pattern !== undefined && !pattern.test(text.trim()));
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className={`field mt-0.5 ${width}`}
        value={text}
        maxLength={200}
        placeholder={placeholder}
        aria-invalid={wrong}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => !wrong && onChange(text.trim())}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
      {wrong && (
        <span role="alert" className="block text-[11.5px] text-red">
          {must ? "A job needs a name." : `Write it as ${placeholder}.`}
        </span>
      )}
    </label>
  );
}

function NoteField({ value, onChange }: { value: string; onChange: (v: string) => void }) {
  return (
    <label className="mt-2 block">
      <span className="label block">Notes</span>
      <textarea
        key={value}
        className="field mt-0.5 w-full py-1"
        style={{ height: 56 }}
        defaultValue={value}
        maxLength={10000}
        onBlur={(event) => onChange(event.target.value.trim())}
      />
    </label>
  );
}

/** Coordinate system, geoid, scale factor, curvature. */
function Coordinates({ set }: { set: (field: SettingField, value: unknown) => void }) {
  const { job, jobId } = useJob();
  const [problem, setProblem] = useState("");
  const curvature = job.curvature === false ? false : { ...DEFAULT_CURVATURE, ...job.curvature };
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      await postFileTo(`/api/jobs/${jobId}/files?name=${encodeURIComponent(file.name)}`, file);
      setProblem("");
      set("geoid", file.name);
    } catch (e) {
      setProblem((e as Error).message);
    }
  };
  return (
    <Section title="Coordinates" about={job.system ? "" : "a plain local grid"}>
      <div className="flex flex-wrap items-end gap-3">
        <TextField
          label="Coordinate system"
          value={job.system ?? ""}
          placeholder="EPSG:25832"
          pattern={/^EPSG:\d+$/}
          width="w-32"
          onChange={(v) => set("system", v === "" ? null : v)}
        />
        <div>
          <span className="label block">Geoid grid (GTX)</span>
          <span className="mt-0.5 flex h-7 items-center gap-2">
            {job.geoid && <span className="max-w-40 truncate">{job.geoid}</span>}
            <label className="button h-7 cursor-pointer">
              {job.geoid ? "Another" : "Choose a grid"}
              <input
                type="file"
                className="sr-only"
                aria-label="Geoid grid"
                onChange={(event) => void take(event.target.files?.[0])}
              />
            </label>
            {job.geoid && (
              <button className="button button-plain" onClick={() => set("geoid", null)}>
                None
              </button>
            )}
          </span>
        </div>
        <NumberField
          label="Scale factor of distances"
          value={settingOf(job, "scaleFactor")}
          allowed={(x) => x >= 0.5 && x <= 2}
          hint="A factor near 1, such as 0.9996."
          onChange={(x) => set("scaleFactor", x)}
        />
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <label className="flex h-7 items-center gap-2">
          <input
            type="checkbox"
            checked={curvature !== false}
            onChange={(event) => set("curvature", event.target.checked ? { ...DEFAULT_CURVATURE } : false)}
          />
          Correct levels for the earth&apos;s curvature
        </label>
        {curvature !== false && (
          <>
            <NumberField
              label="Refraction coefficient"
              value={curvature.k}
              allowed={(x) => Math.abs(x) <= 5}
              hint="0.13 is usual; 0 for none."
              onChange={(k) => set("curvature", { ...curvature, k })}
            />
            <NumberField
              label="Earth radius m"
              value={curvature.radius}
              allowed={(x) => x > 1e6 && x < 1e8}
              hint="A radius in metres, such as 6371000."
              onChange={(radius) => set("curvature", { ...curvature, radius })}
            />
          </>
        )}
      </div>
      {problem && <Failed>{problem}</Failed>}
    </Section>
  );
}

function NumberField({
  label,
  value,
  allowed,
  hint,
  onChange,
}: {
  label: string;
  value: number;
  allowed: (x: number) => boolean;
  hint: string;
  onChange: (x: number) => void;
}) {
  const { text, setText, touched } = useTyped(value);
  const x = Number(text.replace(",", ".")),
    wrong = text.trim() === "" || !Number.isFinite(x) || !allowed(x);
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className="field num mt-0.5 w-32"
        value={text}
        aria-invalid={wrong}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => touched && !wrong && x !== value && onChange(x)}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
      {wrong && (
        <span role="alert" className="block text-[11.5px] text-red">
          {hint}
        </span>
      )}
    </label>
  );
}

/** Number ranges of the crews, and the next number that is free. */
function Numbers({ set }: { set: (field: SettingField, value: unknown) => void }) {
  const { job } = useJob();
  const crews = job.crews ?? [];
  const put = (k: number, part: Partial<CrewRange>) =>
    set(
      "crews",
      crews.map((c, i) => (i === k ? { ...c, ...part } : c)),
    );
  const whole = (text: string) => (/^\d{1,12}$/.test(text.trim()) ? Number(text) : undefined);
  const free = useMemo(() => nextFreeNumber(job), [job]);
  return (
    <Section title="Point numbers">
      <div className="flex items-end gap-4">
        <TextField
          label="Next number from"
          value={job.nextNumber ?? ""}
          placeholder="1"
          width="w-28"
          onChange={(v) => set("nextNumber", v === "" ? null : v)}
        />
        <p className="flex h-7 items-center text-soft">
          next free: <span className="ml-1 font-medium text-ink tabular-nums">{free}</span>
        </p>
      </div>
      <table className="plain mt-3 max-w-md" aria-label="Number ranges">
        <thead>
          <tr>
            <th>Crew</th>
            <th className="num">From</th>
            <th className="num">To</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {crews.map((c, k) => (
            <tr key={`${c.crew} ${k}`}>
              <td>
                <input
                  className="field h-6 w-24"
                  aria-label={`Crew ${k + 1}`}
                  defaultValue={c.crew}
                  maxLength={80}
                  onBlur={(event) =>
                    event.target.value.trim() &&
                    event.target.value !== c.crew &&
                    put(k, { crew: event.target.value.trim() })
                  }
                />
              </td>
              {(["from", "to"] as const).map((end) => (
                <td key={end} className="num">
                  <input
                    className="field num h-6 w-28"
                    aria-label={`${end === "from" ? "First" : "Last"} number of crew ${c.crew}`}
                    defaultValue={c[end]}
                    onBlur={(event) => {
                      const x = whole(event.target.value);
                      if (x === undefined) event.target.value = String(c[end]);
                      else if (x !== c[end]) put(k, { [end]: x });
                    }}
                  />
                </td>
              ))}
              <td>
                <button
                  className="button button-plain"
                  onClick={() =>
                    set(
                      "crews",
                      crews.filter((_, i) => i !== k),
                    )
                  }
                >
                  Remove
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button
        className="button mt-2"
        onClick={() => {
          const last = crews.at(-1),
            from = last ? last.to + 1 : 1;
          set("crews", [
            ...crews,
            {
              crew: String.fromCharCode(65 + (crews.length % 26)),
              from,
              to: from + (last ? last.to - last.from : 4999),
            },
          ]);
        }}
      >
        Add a range
      </button>
    </Section>
  );
}

/** The settings kept for the next job. */
function Templates() {
  const { job } = useJob();
  const [kept, setKept] = useState<string[]>([]),
    [naming, setNaming] = useState(false),
    [said, setSaid] = useState("");
  const load = () =>
    void getJson<{ name: string }[]>("/api/office/template").then(
      (list) => setKept(list.map((t) => t.name)),
      () => undefined,
    );
  useEffect(load, []);
  const keep = async (name: string) => {
    // Surfaces of files and sets of intakes belong to this job alone.
    const body = Object.fromEntries(
      templateFields()
        .map((f) => [f, (job as unknown as Record<string, unknown>)[f]])
        .filter(([, v]) => v !== undefined),
    ) as Record<string, unknown>;
    body.surfaces = job.surfaces.filter((s) => s.file === undefined);
    delete body.geoid;
    try {
      await postJson("/api/office/template", { name, body });
      setSaid(`Kept as template “${name}”. A new job can start from it.`);
      setNaming(false);
      load();
    } catch (e) {
      setSaid((e as Error).message);
    }
  };
  const forget = async (name: string) => {
    try {
      await remove(`/api/office/template?name=${encodeURIComponent(name)}`);
      setSaid(`Template “${name}” is no longer kept.`);
      load();
    } catch (e) {
      setSaid((e as Error).message);
    }
  };
  return (
    <Section title="Template" about="settings, code book, sets, surfaces and handover files for the next job">
      {naming ? (
        <NameForm
          label="Name of the template"
          action="Keep it"
          first={job.name}
          taken={[]}
          make={keep}
          leave={() => setNaming(false)}
        />
      ) : (
        <button className="button" onClick={() => setNaming(true)}>
          Keep as a template
        </button>
      )}
      {said && (
        <p role="status" className="mt-2 text-soft">
          {said}
        </p>
      )}
      {kept.length > 0 && (
        <ul className="mt-2">
          {kept.map((name) => (
            <li key={name} className="row max-w-md justify-between">
              <span>{name}</span>
              <button className="button button-plain" onClick={() => void forget(name)}>
                Do not keep
              </button>
            </li>
          ))}
        </ul>
      )}
    </Section>
  );
}
