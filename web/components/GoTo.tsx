"use client";
/** The go-to field: a point number, a code, a line, a surface, a place, or the name of an action. */
import { useMemo, useState } from "react";
import { useRouter } from "next/navigation";
import { lineName } from "@bramble/core/lines/model";
import { boxOfPoints, useJob } from "../lib/store";
import { Overlay } from "./Overlay";
import { PLACE_NAMES, PLACES } from "./places";

interface Choice {
  kind: string;
  name: string;
  go: () => void;
}

const MOST = 12;

export function GoTo({
  open,
  close,
  openTray,
}: {
  open: boolean;
  close: () => void;
  openTray: (t: "findings" | "ledger") => void;
}) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const router = useRouter();
  const choices = useMemo(() => (open ? find(text) : []), [open, text]);

  function find(wanted: string): Choice[] {
    const q = wanted.trim().toLowerCase();
    const { job, view, jobId, select, show, undo, redo, set, toggle } = useJob.getState();
    const t = job.points;
    const out: Choice[] = [];
    const goPoints = (places: number[], lines: string[] = []) => {
      select({ points: places.map((i) => t.id[i]!), lines });
      show(boxOfPoints(t, places));
    };
    if (q) {
      const starts: number[] = [];
      for (let i = 0; i < t.count; i++) {
        if (t.deleted[i]) continue;
        const number = t.number[i]!.toLowerCase();
        if (number === q) out.unshift({ kind: "Point", name: t.number[i]!, go: () => goPoints([i]) });
        else if (starts.length < 5 && number.startsWith(q)) starts.push(i);
      }
      for (const i of starts) out.push({ kind: "Point", name: t.number[i]!, go: () => goPoints([i]) });
      view.lines.forEach((l) => {
        if (lineName(l).toLowerCase().startsWith(q))
          out.push({ kind: "Line", name: lineName(l), go: () => goPoints(l.shots, [l.key]) });
      });
      view.codes.forEach((c, k) => {
        if (!c || !c.toLowerCase().startsWith(q)) return;
        out.push({
          kind: "Code",
          name: `all ${c}`,
          go: () => {
            const places: number[] = [];
            for (let i = 0; i < t.count; i++) if (!t.deleted[i] && view.code[i] === k) places.push(i);
            goPoints(places);
          },
        });
      });
    }
    const actions: Choice[] = [
      ...PLACES.map((p) => ({ kind: "Place", name: PLACE_NAMES[p], go: () => router.push(`/jobs/${jobId}/${p}`) })),
      ...view.surfaces.map((s) => ({
        kind: "Surface",
        name: s.name,
        go: () => {
          set({ surface: s.name });
          router.push(`/jobs/${jobId}/surface`);
        },
      })),
      { kind: "Action", name: "Whole job", go: () => void window.dispatchEvent(new Event("sheet:fit")) },
      { kind: "Action", name: "Undo", go: () => void undo() },
      { kind: "Action", name: "Redo", go: () => void redo() },
      { kind: "Action", name: "Findings", go: () => openTray("findings") },
      { kind: "Action", name: "Ledger", go: () => openTray("ledger") },
      { kind: "Action", name: "Show or hide triangles", go: () => toggle("triangles") },
      { kind: "Action", name: "Show or hide contours", go: () => toggle("contours") },
      { kind: "Place", name: "Code book", go: () => router.push(`/jobs/${jobId}/book`) },
      { kind: "Place", name: "Job settings", go: () => router.push(`/jobs/${jobId}/settings`) },
      { kind: "Action", name: "Take in a file", go: () => router.push(`/jobs/${jobId}/intake`) },
      { kind: "Action", name: "All jobs", go: () => router.push("/") },
    ];
    out.push(...actions.filter((a) => !q || a.name.toLowerCase().includes(q)));
    return out.slice(0, MOST);
  }

  const take = (c: Choice | undefined) => {
    if (!c) return;
    close();
    setText("");
    setAt(0);
    c.go();
  };

  return (
    <Overlay open={open} close={close} title="Go to" wide>
      <input
        className="field mt-3 h-9 w-full text-[15px]"
        placeholder="Point number, code, line, surface or action"
        value={text}
        autoFocus
        role="combobox"
        aria-expanded="true"
        aria-controls="go-to-list"
        aria-activedescendant={choices[at] ? `go-to-${at}` : undefined}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") setAt(Math.min(at + 1, choices.length - 1));
          else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
          else if (event.key === "Enter") take(choices[at]);
          else return;
          event.preventDefault();
        }}
      />
      <ul id="go-to-list" role="listbox" className="mt-2 max-h-80 overflow-auto">
        {choices.map((c, k) => (
          <li
            key={`${c.kind} ${c.name} ${k}`}
            id={`go-to-${k}`}
            role="option"
            aria-selected={k === at}
            onMouseMove={() => setAt(k)}
            onClick={() => take(c)}
            className={`flex h-7 cursor-pointer items-center gap-3 rounded-sm px-2 ${k === at ? "bg-bramble-wash text-bramble" : ""}`}
          >
            <span className="w-16 text-[11.5px] text-soft">{c.kind}</span>
            {c.name}
          </li>
        ))}
        {choices.length === 0 && <li className="px-2 py-2 text-soft">Nothing in this job is called “{text}”.</li>}
      </ul>
    </Overlay>
  );
}
