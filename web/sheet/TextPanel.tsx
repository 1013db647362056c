"use client";
/** The text that is picked on the sheet: said anew, turned, resized, hidden, put back; it is dragged, or moved by keys. */
import { useState } from "react";
import { editText, type TextEdit } from "@bramble/core/drawing/added/edit";
import { NumberField } from "../controls/fields";
import { useParts } from "../lib/store";
import { textKey } from "../lib/text-at";

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
  const own = job.added.find((a) => a.name === text.added),
    hasTurn = !own || "text" in own || "words" in own;
  const turn = Math.round((-text.angle * 180) / Math.PI);
  return (
    <section
      aria-label="The text"
      className="absolute right-3 bottom-3 z-[6] flex flex-wrap items-end gap-2 border border-rule bg-paper px-3 py-2 print:hidden"
    >
      {own && "words" in own ? (
        <WordsField key={`${own.name} ${own.words}`} words={own.words} take={(words) => put({ words })} />
      ) : (
        <span className="max-w-48 self-center truncate font-medium">{text.lines.join(" ")}</span>
      )}
      {hasTurn && (
        <NumberField
          label="Turned, °"
          value={turn}
          allowed={(x) => Math.abs(x) <= 360}
          hint="From -360 to 360."
          width="w-16"
          onChange={(x) => put({ turn: x })}
        />
      )}
      <NumberField
        label="Height, mm"
        value={text.height}
        allowed={(x) => x >= 0.5 && x <= 50}
        hint="From 0.5 to 50."
        width="w-16"
        onChange={(x) => put({ height: x })}
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
          {text.is === "added" ? "Remove" : "Put back"}
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

/** Words in as many lines as are wanted, taken when the field is left. */
function WordsField({ words, take }: { words: string; take: (words: string) => void }) {
  const [text, setText] = useState(words);
  return (
    <label className="block">
      <span className="label block">Words</span>
      <textarea
        className="field mt-0.5 block h-auto w-56 resize-none py-1"
        rows={Math.min(4, text.split("\n").length)}
        value={text}
        maxLength={2000}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          if (!text.trim()) setText(words);
          else if (text.trim() !== words) take(text);
        }}
      />
    </label>
  );
}
