"use client";
/** What the colours mean now, and what is shown alone; in the corner of the sheet. */
import { useParts } from "../../lib/store";
import { grouped } from "../../lib/units-shown";
import { meaningOf, MEANINGS } from "../meaning";

export function Legend() {
  const { job, view, colorBy, only, onlyRows, setRows, set } = useParts(
    "job",
    "view",
    "colorBy",
    "only",
    "onlyRows",
    "setRows",
    "set",
  );
  const meaning = meaningOf(colorBy, { job, view, setRows });
  if (!meaning && !only) return null;
  const alone = onlyRows?.reduce((sum, x) => sum + x, 0);
  return (
    <aside
      aria-label="Legend"
      className="absolute bottom-3 left-8 z-[5] max-h-[70%] max-w-[70%] overflow-auto rounded-sm border border-rule bg-paper px-3 py-2 text-[12px] print:hidden"
    >
      {only && (
        <p className="flex items-baseline gap-3">
          <span className="font-medium">
            Only {only.name}
            {alone !== undefined && (
              <span className="text-soft"> · {alone === 1 ? "1 point" : `${grouped(alone)} points`}</span>
            )}
          </span>
          <button className="text-bramble underline" onClick={() => set({ only: undefined })}>
            Show all (Esc)
          </button>
        </p>
      )}
      {meaning && (
        <>
          <p className={`label ${only ? "mt-1.5" : ""}`}>
            Colours {colorBy.startsWith("set ") ? "by set" : MEANINGS[colorBy as keyof typeof MEANINGS]}
          </p>
          <ul>
            {meaning.classes
              .filter((c) => c.count > 0)
              .map((c) => (
                <li key={c.name} className="flex items-center gap-2">
                  <span aria-hidden className="h-2.5 w-2.5 shrink-0" style={{ background: c.color }} />
                  <span className="min-w-0 flex-1 truncate">{c.name}</span>
                  <span className="pl-3 tabular-nums text-soft">{grouped(c.count)}</span>
                </li>
              ))}
          </ul>
        </>
      )}
    </aside>
  );
}
