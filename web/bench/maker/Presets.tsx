"use client";
/** What points made one after another have in common: taken by its name, changed in place, kept under a name. */
import { useState } from "react";
import type { Preset } from "@bramble/core/construct/preset";
import { Choice, optionsOf } from "../../controls/fields/Choice";
import { NameForm } from "../../controls/fields/NameForm";
import { Tick } from "../../controls/fields/Tick";
import { TextField } from "../../controls/fields/fields";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";

const KINDS = { computed: "computed", design: "design", control: "control", measured: "measured" } as const;

export function Presets({
  preset,
  like,
  choose,
  own,
  setOwn,
}: {
  preset: Preset | undefined;
  /** The preset with what was changed of it for now. */
  like: Partial<Preset>;
  choose: (name: string) => void;
  own: Partial<Preset>;
  setOwn: (own: Partial<Preset>) => void;
}) {
  const { job, change } = useParts("job", "change"),
    [open, setOpen] = useKept("maker.more", false),
    [naming, setNaming] = useState(false),
    presets = job.presets ?? [];
  const put = (next: Preset[]) =>
    change({ type: "setting", field: "presets", old: job.presets ?? null, new: next.length ? next : null });
  const kept = (name: string): Preset => {
    const { name: _, ...rest } = like;
    return Object.fromEntries(
      Object.entries({ name, ...rest }).filter(([, v]) => v !== undefined && v !== ""),
    ) as unknown as Preset;
  };
  const isOther = preset && JSON.stringify(kept(preset.name)) !== JSON.stringify(preset);
  return (
    <div className="border-t border-rule bg-paper px-4 pt-2">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="heading mr-auto">Make a point</h2>
        <Choice
          label="Preset"
          named={false}
          value={preset?.name ?? ""}
          onChange={choose}
          options={[["", "no preset"] as const, ...presets.map((p) => [p.name, p.name] as const)]}
        />
        <button type="button" className="button h-6" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Less" : "Kind, attributes …"}
        </button>
        {isOther && (
          <button
            type="button"
            className="button h-6"
            onClick={() => {
              if (put(presets.map((p) => (p === preset ? kept(p.name) : p)))) setOwn({});
            }}
          >
            Change “{preset.name}”
          </button>
        )}
        <button type="button" className="button h-6" aria-expanded={naming} onClick={() => setNaming(!naming)}>
          Keep as a preset
        </button>
        {preset && (
          <button
            type="button"
            className="button button-plain h-6"
            onClick={() => {
              put(presets.filter((p) => p !== preset));
              choose("");
            }}
          >
            Remove “{preset.name}”
          </button>
        )}
      </div>
      {open && (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <Choice
            label="Kind"
            value={like.kind ?? "computed"}
            onChange={(kind) => setOwn({ ...own, kind })}
            options={optionsOf(KINDS)}
          />
          <TextField
            label="Numbers from"
            width="w-24"
            placeholder="as the job"
            value={like.number ?? ""}
            onChange={(v) => setOwn({ ...own, number: v === "" ? (undefined as never) : v })}
          />
          <TextField
            label="Attributes"
            width="w-44"
            placeholder="kind = oak; height = 7"
            value={Object.entries(like.attributes ?? {})
              .map(([k, v]) => `${k} = ${v}`)
              .join("; ")}
            onChange={(text) => setOwn({ ...own, attributes: attributesTyped(text) })}
          />
          <Tick
            words="Ask for the description"
            on={like.ask ?? false}
            set={(on) => setOwn({ ...own, ask: (on || undefined) as never })}
            className="flex h-7 items-center gap-1.5"
          />
          <Tick
            words="To be set out"
            on={like.setOut ?? false}
            set={(on) => setOwn({ ...own, setOut: (on || undefined) as never })}
            className="flex h-7 items-center gap-1.5"
          />
        </div>
      )}
      {naming && (
        <div className="mt-2">
          <NameForm
            label="Name of the preset"
            action="Keep it"
            first={preset?.name ?? like.description ?? ""}
            taken={[]}
            replaces={presets.map((p) => p.name)}
            make={async (name) => {
              const at = presets.findIndex((p) => p.name === name);
              if (!put(at < 0 ? [...presets, kept(name)] : presets.with(at, kept(name)))) return;
              choose(name);
              setNaming(false);
            }}
            leave={() => setNaming(false)}
          />
        </div>
      )}
    </div>
  );
}

/** `kind = oak; height = 7`, one after another. */
function attributesTyped(text: string): Record<string, string> {
  return Object.fromEntries(
    text.split(";").flatMap((part) => {
      const at = part.indexOf("="),
        [key, value] = [part.slice(0, at).trim(), part.slice(at + 1).trim()];
      return at > 0 && key && value ? [[key, value]] : [];
    }),
  );
}
