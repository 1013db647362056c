"use client";
/**
 * One code of the book beside its picture. The picture follows while a field is typed; a field is kept when it is left.
 */
import { useState, type ReactNode } from "react";
import type { AttributeDefinition, CodeBook, CodeEntry, Unit } from "@bramble/core";
import { numberTyped } from "@bramble/core/math/typed";
import { readTemplate } from "@bramble/core/drawing/label";
import { symbolOf } from "@bramble/core/drawing/symbols";
import { plainNumber } from "@bramble/core/math/round";
import { useTyped } from "../use-typed";
import { PLAIN_COLOR } from "../../lib/view";
import { Choice } from "../Choice";
import { CodePicture } from "./CodePicture";
import { StyleField, SymbolField } from "./Swatch";

type Put = (part: Partial<CodeEntry>, keep?: boolean) => void;

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
    setShown(entry);
    setDraft(entry);
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
  const numbers = (draft.attributes ?? []).filter((a) => a.type === "number");
  const groups = [...new Set((book.codes ?? []).map((c) => c.group ?? "").filter(Boolean))];
  const template = draft.label ? readTemplate(draft.label) : undefined;
  const problem = template && "problem" in template ? template.problem : missingNames(draft);
  const text = (label: string, field: "name" | "group" | "layer", width = "w-full") => (
    <label className="block min-w-0">
      <span className="label block">{label}</span>
      <input
        className={`field mt-0.5 ${width}`}
        value={draft[field] ?? ""}
        maxLength={100}
        list={field === "group" ? "book-groups" : undefined}
        onChange={(event) => put({ [field]: event.target.value || undefined }, false)}
        onBlur={leave}
        onKeyDown={leaveOnEnter}
      />
    </label>
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_210px] gap-4 px-4 py-3" data-testid="code-form">
      <datalist id="book-groups">
        {groups.map((g) => (
          <option key={g} value={g} />
        ))}
      </datalist>
      <div className="min-w-0 space-y-3">
        <div className="grid grid-cols-[110px_minmax(0,1fr)_90px] gap-2">
          <CodeName code={entry.code} rename={rename} />
          {text("Name", "name")}
          <Choice
            label="Draws"
            value={kind}
            width="w-full"
            onChange={(v) => put({ kind: v as CodeEntry["kind"] })}
            options={[
              ["point", "a point"],
              ["line", "a line"],
              ["area", "an area"],
            ]}
          />
          {text("Group", "group")}
          {text("Layer", "layer")}
          <label className="block">
            <span className="label block">Colour</span>
            <input
              type="color"
              className="field mt-0.5 w-full p-0.5"
              value={color}
              onChange={(event) => put({ color: event.target.value }, false)}
              onBlur={leave}
            />
          </label>
        </div>
        {isPoint ? (
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
        ) : (
          <div className="grid grid-cols-3 gap-2">
            <StyleField value={draft.style} color={color} onChange={(style) => put({ style })} />
            <Choice
              label="In the terrain"
              value={draft.breakline ?? "none"}
              width="w-full"
              onChange={(v) => put({ breakline: v as CodeEntry["breakline"] })}
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
              onChange={(v) => put({ opens: v as CodeEntry["opens"] })}
              options={[
                ["auto", "by itself"],
                ["cue", "by its cue only"],
              ]}
            />
          </div>
        )}
        <div className="flex flex-wrap items-end gap-3">
          <label className="flex h-7 items-center gap-2">
            <input
              type="checkbox"
              checked={draft.ground ?? true}
              onChange={(event) => put({ ground: event.target.checked })}
            />
            Its shots are on the ground
          </label>
          {!isPoint && (
            <NumberField
              label={`Longest segment ${unit}`}
              value={draft.maxSegment}
              onChange={(maxSegment) => put({ maxSegment })}
              width="w-24"
            />
          )}
        </div>
        <Part
          title="Note"
          about="fixed words, {attributes}, {number}, {elevation:2}; [ ] is left out when its value is missing"
        >
          <input
            className="field w-full font-mono text-[12px]"
            aria-label="Note template"
            value={draft.label ?? ""}
            maxLength={200}
            placeholder="{kind}[ {height:1} m]"
            aria-invalid={problem !== undefined}
            onChange={(event) => put({ label: event.target.value || undefined }, false)}
            onBlur={() => problem === undefined && leave()}
            onKeyDown={leaveOnEnter}
          />
          {problem && (
            <p role="alert" className="mt-1 text-[11.5px] text-red">
              {problem}
            </p>
          )}
          <div className="mt-2 flex flex-wrap gap-2">
            <Choice
              label="Stands"
              value={draft.labelAt?.place ?? "auto"}
              onChange={(v) => put({ labelAt: { ...draft.labelAt, place: v === "auto" ? undefined : (v as "right") } })}
              options={
                isPoint
                  ? [
                      ["auto", "where there is room"],
                      ["right", "right"],
                      ["left", "left"],
                      ["above", "above"],
                      ["below", "below"],
                      ["centre", "on the symbol"],
                    ]
                  : [
                      ["auto", kind === "area" ? "within" : "beside the line"],
                      ["right", "on its right"],
                      ["left", "on its left"],
                      ["above", "above"],
                      ["below", "below"],
                      ["centre", kind === "area" ? "in the middle" : "on the line"],
                    ]
              }
            />
            {isPoint && (
              <Choice
                label="Begins"
                value={draft.labelAt?.align ?? "middle"}
                onChange={(v) =>
                  put({ labelAt: { ...draft.labelAt, align: v === "middle" ? undefined : (v as "start") } })
                }
                options={[
                  ["middle", "centred"],
                  ["start", "at the symbol"],
                  ["end", "ends at the symbol"],
                ]}
              />
            )}
            {kind === "line" && (
              <NumberField
                label={`Repeated every ${unit}`}
                value={draft.labelAt?.every}
                onChange={(every) => put({ labelAt: { ...draft.labelAt, every } })}
                width="w-28"
              />
            )}
            <NumberField
              label="Text height mm"
              value={draft.labelAt?.height}
              placeholder="1.8"
              least={0.5}
              onChange={(height) => put({ labelAt: { ...draft.labelAt, height } })}
              width="w-24"
            />
          </div>
        </Part>
        <Attributes
          list={draft.attributes ?? []}
          put={put}
          draftOnly={(attributes) => put({ attributes }, false)}
          leave={leave}
        />
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

const ALWAYS = ["code", "name", "number", "elevation", "note"],
  OF_LINES = ["length", "area", "run", "line"];

function missingNames(entry: CodeEntry): string | undefined {
  const read = entry.label ? readTemplate(entry.label) : undefined;
  if (!read || !("template" in read)) return undefined;
  const known = [
    ...ALWAYS,
    ...(entry.kind === "line" || entry.kind === "area" ? OF_LINES : []),
    ...(entry.attributes ?? []).map((a) => a.name),
  ];
  const missing = read.template.names.find((n) => !known.some((k) => k.toLowerCase() === n.toLowerCase()));
  return missing === undefined
    ? undefined
    : `{${missing}} is no attribute of this code. There are ${known.map((k) => `{${k}}`).join(", ")}.`;
}

function leaveOnEnter(event: React.KeyboardEvent<HTMLInputElement>): void {
  if (event.key === "Enter") event.currentTarget.blur();
}

export function Part({ title, about, children }: { title: string; about?: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="font-medium">
        {title} {about && <span className="label font-normal">{about}</span>}
      </h2>
      <div className="mt-1">{children}</div>
    </section>
  );
}

function CodeName({ code, rename }: { code: string; rename: (code: string) => void }) {
  const [text, setText] = useState(code),
    [shown, setShown] = useState(code);
  if (shown !== code) {
    setShown(code);
    setText(code);
  }
  const wrong = !/^[A-Z][A-Z0-9_-]*$/.test(text);
  return (
    <label className="block">
      <span className="label block">Code</span>
      <input
        className="field mt-0.5 w-full font-medium"
        value={text}
        maxLength={60}
        aria-invalid={wrong}
        title={wrong ? "A letter first, then letters, digits, _ or -" : undefined}
        onChange={(event) => setText(event.target.value.toUpperCase())}
        onBlur={() => (wrong ? setText(code) : text !== code && rename(text))}
        onKeyDown={leaveOnEnter}
      />
    </label>
  );
}

export function NumberField({
  label,
  value,
  onChange,
  width,
  placeholder,
  least = 0,
}: {
  label: string;
  value: number | undefined;
  onChange: (x: number | undefined) => void;
  width: string;
  placeholder?: string;
  least?: number;
}) {
  const { text, setText, reset, touched } = useTyped(value);
  const x = numberTyped(text),
    wrong = text.trim() !== "" && !(Number.isFinite(x) && x > 0 && x >= least);
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className={`field num mt-0.5 ${width}`}
        value={text}
        placeholder={placeholder ?? "none"}
        aria-invalid={wrong}
        title={wrong ? "A number above 0, or nothing" : undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          if (wrong) reset();
          else if (touched && (text.trim() === "" ? undefined : x) !== value)
            onChange(text.trim() === "" ? undefined : x);
        }}
        onKeyDown={leaveOnEnter}
      />
    </label>
  );
}

/** A fixed value, or one that a shot's attribute gives. */
function FixedOrMeasured({
  label,
  unit,
  fixed,
  attribute,
  own,
  attributes,
  positive,
  onChange,
}: {
  label: string;
  unit: string;
  fixed: number | undefined;
  attribute: string | undefined;
  own: number;
  attributes: AttributeDefinition[];
  positive?: boolean;
  onChange: (v: { fixed?: number; attribute?: string } | undefined) => void;
}) {
  const { text, setText, touched } = useTyped(fixed);
  const x = numberTyped(text),
    wrong = text.trim() !== "" && (!Number.isFinite(x) || (positive === true && x <= 0));
  return (
    <div>
      <span className="label block">
        {label} {attribute ? "" : unit}
      </span>
      <div className="mt-0.5 flex gap-1">
        {(attributes.length > 0 || attribute) && (
          <select
            className="field min-w-0 flex-1 px-1"
            aria-label={`${label} from`}
            value={attribute ?? ""}
            onChange={(event) => onChange(event.target.value ? { attribute: event.target.value } : undefined)}
          >
            <option value="">fixed</option>
            {attributes.map((a) => (
              <option key={a.name} value={a.name}>
                {a.name}
              </option>
            ))}
          </select>
        )}
        {!attribute && (
          <input
            className={`field num ${attributes.length ? "w-14" : "w-full"}`}
            aria-label={`${label}, ${unit}`}
            value={text}
            placeholder={String(own)}
            aria-invalid={wrong}
            onChange={(event) => setText(event.target.value)}
            onBlur={() => {
              if (!wrong && touched && (text.trim() === "" ? undefined : x) !== fixed)
                onChange(text.trim() === "" ? undefined : { fixed: x });
            }}
            onKeyDown={leaveOnEnter}
          />
        )}
      </div>
    </div>
  );
}

function Attributes({
  list,
  put,
  draftOnly,
  leave,
}: {
  list: AttributeDefinition[];
  put: Put;
  draftOnly: (list: AttributeDefinition[]) => void;
  leave: () => void;
}) {
  const at = (k: number, part: Partial<AttributeDefinition>) =>
    list.map((a, i) =>
      i === k
        ? (Object.fromEntries(
            Object.entries({ ...a, ...part }).filter(([, v]) => v !== undefined && v !== ""),
          ) as unknown as AttributeDefinition)
        : a,
    );
  const free = () => {
    let k = list.length + 1;
    while (list.some((a) => a.name === `value${k}`)) k++;
    return `value${k}`;
  };
  return (
    <Part title="Attributes" about="in the order in which values are written">
      {list.length > 0 && (
        <table className="plain [&_td]:px-0.5 [&_th]:px-1">
          <thead>
            <tr>
              <th>Name</th>
              <th>Type</th>
              <th>Unit</th>
              <th>Required</th>
              <th>Choices</th>
              <th>
                <span className="sr-only">What may be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.map((a, k) => (
              <tr key={k}>
                <td>
                  <input
                    className="field h-6 w-full"
                    aria-label={`Attribute ${k + 1}`}
                    value={a.name}
                    maxLength={60}
                    onChange={(event) =>
                      draftOnly(at(k, { name: event.target.value.replace(/[{}[\]:;=\s]/g, "") || a.name }))
                    }
                    onBlur={leave}
                    onKeyDown={leaveOnEnter}
                  />
                </td>
                <td>
                  <select
                    className="field h-6 px-1"
                    aria-label={`Type of ${a.name}`}
                    value={a.type ?? "text"}
                    onChange={(event) =>
                      put({
                        attributes: at(k, {
                          type: event.target.value as "text",
                          choices: event.target.value === "choice" ? (a.choices ?? ["one", "two"]) : undefined,
                        }),
                      })
                    }
                  >
                    <option value="number">number</option>
                    <option value="text">text</option>
                    <option value="choice">choice</option>
                  </select>
                </td>
                <td>
                  {a.type === "number" && (
                    <input
                      className="field h-6 w-12"
                      aria-label={`Unit of ${a.name}`}
                      value={a.unit ?? ""}
                      maxLength={10}
                      onChange={(event) => draftOnly(at(k, { unit: event.target.value }))}
                      onBlur={leave}
                    />
                  )}
                </td>
                <td className="text-center">
                  <input
                    type="checkbox"
                    aria-label={`${a.name} is required`}
                    checked={a.required ?? false}
                    onChange={(event) => put({ attributes: at(k, { required: event.target.checked || undefined }) })}
                  />
                </td>
                <td>
                  {a.type === "choice" && (
                    <input
                      className="field h-6 w-full"
                      aria-label={`Choices of ${a.name}`}
                      defaultValue={(a.choices ?? []).join(", ")}
                      onBlur={(event) =>
                        put({
                          attributes: at(k, {
                            choices: event.target.value
                              .split(",")
                              .map((s) => s.trim())
                              .filter(Boolean),
                          }),
                        })
                      }
                    />
                  )}
                </td>
                <td>
                  <button
                    type="button"
                    className="button button-plain h-6"
                    aria-label={`Remove attribute ${a.name}`}
                    onClick={() => put({ attributes: list.filter((_, i) => i !== k) })}
                  >
                    Remove
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <button
        type="button"
        className="button mt-1 h-6"
        onClick={() => put({ attributes: [...list, { name: free(), type: "text" }] })}
      >
        Add an attribute
      </button>
    </Part>
  );
}

function Companions({
  list,
  unit,
  codes,
  put,
}: {
  list: NonNullable<CodeEntry["companions"]>;
  unit: Unit;
  codes: string[];
  put: Put;
}) {
  const at = (k: number, part: Partial<(typeof list)[number]>) => list.map((c, i) => (i === k ? { ...c, ...part } : c));
  const number = (k: number, field: "right" | "up", label: string) => (
    <td key={field} className="num">
      <input
        className="field num h-6 w-20"
        aria-label={`${label} of companion ${k + 1}`}
        defaultValue={plainNumber(list[k]![field])}
        key={list[k]![field]}
        onBlur={(event) => {
          const x = numberTyped(event.target.value);
          if (!Number.isFinite(x) || event.target.value.trim() === "" || (field === "right" && x === 0))
            event.target.value = plainNumber(list[k]![field]);
          else if (event.target.value !== plainNumber(list[k]![field])) put({ companions: at(k, { [field]: x }) });
        }}
        onKeyDown={leaveOnEnter}
      />
    </td>
  );
  return (
    <Part title="Companions" about="parallel lines that come with each of its lines">
      {list.length > 0 && (
        <table className="plain [&_td]:px-1 [&_th]:px-1">
          <thead>
            <tr>
              <th className="num">Right {unit}</th>
              <th className="num">Up {unit}</th>
              <th>Code</th>
              <th>
                <span className="sr-only">What may be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.map((c, k) => (
              <tr key={k}>
                {number(k, "right", "Right")}
                {number(k, "up", "Up")}
                <td>
                  <select
                    className="field h-6"
                    aria-label={`Code of companion ${k + 1}`}
                    value={c.code ?? ""}
                    onChange={(event) =>
                      put({
                        companions: at(k, { code: event.target.value || undefined }).map(({ code, ...x }) =>
                          code ? { ...x, code } : x,
                        ),
                      })
                    }
                  >
                    <option value="">its own</option>
                    {[...new Set([...codes, ...(c.code ? [c.code] : [])])].map((x) => (
                      <option key={x} value={x}>
                        {x}
                      </option>
                    ))}
                  </select>
                </td>
                <td>
                  <button
                    type="button"
                    className="button button-plain h-6"
                    aria-label={`Remove companion ${k + 1}`}
                    onClick={() => put({ companions: list.filter((_, i) => i !== k) })}
                  >
                    Remove
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <button
        type="button"
        className="button mt-1 h-6"
        onClick={() => put({ companions: [...list, { right: 0.5, up: 0 }] })}
      >
        Add a companion
      </button>
    </Part>
  );
}
