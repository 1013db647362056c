"use client";
/** The text that is picked on the sheet: said anew, turned, resized, hidden, put back; it is dragged, or moved by keys. */
import { editText, type TextEdit } from "@bramble/core/drawing/added/edit";
import { NumberField } from "../controls/fields/fields";
import { useParts } from "../lib/store";
import { textKey } from "../lib/text-at";
import { TakenWords } from "../controls/fields/TakenWords";

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
        <TakenWords
          key={`${own.name} ${own.words}`}
          label="Words"
          className="h-auto w-56 resize-none"
          rows={4}
          most={2000}
          value={own.words}
          take={(words) => (words ? put({ words }) : false)}
        />
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
