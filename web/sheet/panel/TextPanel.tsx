"use client";
/** The text that is picked on the sheet: turned, resized, hidden, put back; it is dragged, or moved by keys, there. */
import { useState } from "react";
import { editText, type TextEdit } from "@bramble/core/drawing/added/edit";
import { useParts } from "../../lib/store";
import { textKey } from "../text-at";

export function TextPanel() {
  const { job, view, layout, textPicked, set, change } = useParts(
    "job",
    "view",
    "layout",
    "textPicked",
    "set",
    "change",
  );
  const text = layout?.texts.find((t) => textKey(t) === textPicked),
    sources = { table: job.points, intakes: job.intakes, lines: view.lines, added: job.added };
  const put = (edit: TextEdit | null) => {
    const made = text && editText(text, edit, sources);
    if (made) void change({ type: "named", part: "added", name: made.name, old: made.before, new: made.after });
  };
  if (!text || !editText(text, {}, sources)) return null;
  const turn = Math.round((-text.angle * 180) / Math.PI);
  return (
    <section
      aria-label="The text"
      className="absolute right-3 bottom-3 z-[6] flex flex-wrap items-end gap-2 border border-rule bg-paper px-3 py-2 print:hidden"
    >
      <span className="max-w-48 self-center truncate font-medium">{text.lines.join(" ")}</span>
      <Figure
        key={`turned ${turn}`}
        label="Turned, °"
        value={turn}
        least={-360}
        most={360}
        take={(x) => put({ turn: x })}
      />
      <Figure
        key={`high ${text.height}`}
        label="Height, mm"
        value={text.height}
        least={0.5}
        most={50}
        take={(x) => put({ height: x })}
      />
      {text.is !== "added" && (
        <button
          className="button"
          onClick={() => {
            put({ hidden: true });
            set({ textPicked: undefined });
          }}
        >
          Hide
        </button>
      )}
      {text.added !== undefined && (
        <button className="button" onClick={() => put(null)}>
          {text.is === "added" ? "Take away" : "Put back"}
        </button>
      )}
      <button
        className="button button-plain"
        aria-label="Leave the text"
        onClick={() => set({ textPicked: undefined })}
      >
        ×
      </button>
    </section>
  );
}

function Figure({
  label,
  value,
  least,
  most,
  take,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  take: (x: number) => void;
}) {
  const [text, setText] = useState(String(value));
  const x = Number(text.replace(",", ".")),
    wrong = text.trim() === "" || !(x >= least && x <= most);
  const keep = () => !wrong && x !== value && take(x);
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className="field num mt-0.5 w-16"
        inputMode="decimal"
        value={text}
        aria-invalid={wrong}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === "Enter" && keep()}
      />
    </label>
  );
}
