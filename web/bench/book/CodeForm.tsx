"use client";
/**
 * One code of the book beside its picture. The picture follows while a field is typed; a field is kept when it is left.
 */
import { useState } from "react";
import type { CodeBook, CodeEntry, Unit } from "@bramble/core";
import { symbolOf } from "@bramble/core/drawing/symbols";
import { PLAIN_COLOR } from "../../lib/view";
import { withOwn } from "@bramble/core/job/sync/with-own";
import { Choice } from "../../controls/fields/Choice";
import { Attributes } from "./Attributes";
import { CodeName, FixedOrMeasured, type Put } from "./code-fields";
import { ColorField } from "../../controls/fields/ColorField";
import { OptionalNumberField } from "../../controls/fields/fields";
import { Typed } from "../../controls/fields/Typed";
import { CodePicture } from "./CodePicture";
import { Companions } from "./Companions";
import { NotePart } from "./NotePart";
import { StyleField, SymbolField } from "./Swatch";
import { Tick } from "../../controls/fields/Tick";

export function CodeForm({
  entry,
  book,
  unit,
  used,
  keep,
  rename,
}: {
  entry: CodeEntry;
  book: CodeBook;
  unit: Unit;
  used: number;
  keep: (next: CodeEntry) => void;
  rename: (code: string) => void;
}) {
  const [draft, setDraft] = useState(entry),
    [shown, setShown] = useState(entry);
  if (shown !== entry) {
    // What another changes of the code comes; what is being typed here stays.
    setShown(entry);
    setDraft(withOwn(entry, shown, draft));
  }
  const put: Put = (part, now = true) => {
    const next = cleared({ ...draft, ...part });
    setDraft(next);
    if (now) keep(next);
  };
  const leave = () => keep(draft);
  const kind = draft.kind ?? "point",
    color = draft.color ?? PLAIN_COLOR,
    isPoint = kind === "point";
  const groups = [...new Set((book.codes ?? []).map((c) => c.group ?? "").filter(Boolean))];
  const text = (label: string, field: "name" | "group" | "layer") => (
    <Typed
      label={label}
      box="min-w-0"
      width="w-full"
      text={draft[field] ?? ""}
      most={100}
      {...(field === "group" ? { offers: groups.map((g) => [g] as const) } : {})}
      onType={(typed) => put({ [field]: typed || undefined }, false)}
      take={leave}
    />
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_210px] gap-4 px-4 py-3" data-testid="code-form">
      <div className="min-w-0 space-y-3">
        <div className="grid grid-cols-[110px_minmax(0,1fr)_90px] gap-2">
          <CodeName code={entry.code} rename={rename} />
          {text("Name", "name")}
          <Choice
            label="Draws"
            value={kind}
            width="w-full"
            onChange={(v) => put({ kind: v })}
            options={[
              ["point", "a point"],
              ["line", "a line"],
              ["area", "an area"],
            ]}
          />
          {text("Group", "group")}
          {text("Layer", "layer")}
          <ColorField
            label="Colour"
            className="w-full"
            value={color}
            typing={(tried) => put({ color: tried }, false)}
            onChange={(chosen) => put({ color: chosen })}
          />
        </div>
        {isPoint ? <AsPoint draft={draft} color={color} put={put} /> : <AsLine draft={draft} color={color} put={put} />}
        <div className="flex flex-wrap items-end gap-3">
          <Tick words="Its shots are on the ground" on={draft.ground ?? true} set={(on) => put({ ground: on })} />
          {!isPoint && (
            <OptionalNumberField
              label={`Longest segment ${unit}`}
              value={draft.maxSegment}
              onChange={(maxSegment) => put({ maxSegment })}
              width="w-24"
            />
          )}
        </div>
        <NotePart draft={draft} unit={unit} put={put} leave={leave} />
        <Attributes list={draft.attributes ?? []} put={put} leave={leave} />
        {!isPoint && (
          <Companions
            list={draft.companions ?? []}
            unit={unit}
            codes={(book.codes ?? []).filter((c) => c.kind === "line" || c.kind === "area").map((c) => c.code)}
            put={put}
          />
        )}
      </div>
      <div className="min-w-0">
        <div className="sticky top-3">
          <CodePicture entry={draft} book={book} />
          <p className="mt-2 text-soft">
            {used === 0 ? "Not used in this job." : `${used} ${used === 1 ? "shot" : "shots"} of this job.`}
          </p>
        </div>
      </div>
    </div>
  );
}

interface Drawn {
  draft: CodeEntry;
  color: string;
  put: Put;
}

/** Its symbol, fixed or as an attribute says. */
function AsPoint({ draft, color, put }: Drawn) {
  const numbers = (draft.attributes ?? []).filter((a) => a.type === "number");
  return (
    <div className="grid grid-cols-[1fr_1fr_1.3fr] gap-2">
      <SymbolField value={draft.symbol} color={color} onChange={(symbol) => put({ symbol })} />
      <FixedOrMeasured
        label="Size"
        unit="mm"
        fixed={draft.size?.fixed}
        attribute={draft.size?.attribute}
        own={symbolOf(draft.symbol ?? "spot")?.size ?? 1.2}
        attributes={numbers}
        positive
        onChange={(size) => put({ size })}
      />
      <FixedOrMeasured
        label="Turned"
        unit="°"
        fixed={draft.rotation?.fixed}
        attribute={draft.rotation?.attribute}
        own={0}
        attributes={numbers}
        onChange={(rotation) => put({ rotation })}
      />
    </div>
  );
}

/** Its style, whether it breaks the terrain, and whether it begins by itself. */
function AsLine({ draft, color, put }: Drawn) {
  return (
    <div className="grid grid-cols-3 gap-2">
      <StyleField value={draft.style} color={color} onChange={(style) => put({ style })} />
      <Choice
        label="In the terrain"
        value={draft.breakline ?? "none"}
        width="w-full"
        onChange={(v) => put({ breakline: v })}
        options={[
          ["fixed", "fixed breakline"],
          ["draped", "draped breakline"],
          ["none", "no breakline"],
        ]}
      />
      <Choice
        label="Opens"
        value={draft.opens ?? "auto"}
        width="w-full"
        onChange={(v) => put({ opens: v })}
        options={[
          ["auto", "by itself"],
          ["cue", "by its cue only"],
        ]}
      />
    </div>
  );
}

/** Empty parts are left out, so that the book holds only what was said. */
function cleared(entry: CodeEntry): CodeEntry {
  const labelAt = Object.fromEntries(Object.entries(entry.labelAt ?? {}).filter(([, v]) => v !== undefined));
  const next = {
    ...entry,
    labelAt: Object.keys(labelAt).length ? labelAt : undefined,
    attributes: entry.attributes?.length ? entry.attributes : undefined,
    companions: entry.companions?.length ? entry.companions : undefined,
  };
  return Object.fromEntries(Object.entries(next).filter(([, v]) => v !== undefined)) as unknown as CodeEntry;
}
