"use client";
/** The go-to field: a point number, a code, a line, a surface, a place, or the name of an action. */
import { useDeferredValue, useMemo, useRef, useState } from "react";
import { useRouter } from "next/navigation";
import { openMaker } from "../bench/maker/PointMaker";
import { openMeasuring } from "../bench/maker/MeasurePanel";
import { writtenMeasure, writtenPoint } from "../bench/maker/written-point";
import { choicesFor, type Choice, type Ways } from "../lib/go-to";
import { useWithdrawn } from "../lib/use-withdrawn";
import { Overlay } from "../controls/Overlay";

const waysOf = (leave: Ways["leave"], openTray: Ways["openTray"], openShortcuts: Ways["openShortcuts"]): Ways => ({
  leave,
  openTray,
  openShortcuts,
  makePoint: () => openMaker(),
  measure: () => openMeasuring(),
  written: (text) => writtenPoint(text) ?? writtenMeasure(text),
});

export function GoTo({
  open,
  close,
  openTray,
  openShortcuts,
}: {
  open: boolean;
  close: () => void;
  openTray: (t: "findings" | "ledger") => void;
  openShortcuts: () => void;
}) {
  const [text, setText] = useState(""),
    [at, setAt] = useState(0);
  const router = useRouter(),
    wanted = useDeferredValue(text);
  /** Set when a choice was taken: the keyboard stays where it led. */
  const taken = useRef(false);
  const withdrawn = useWithdrawn(open ? wanted : "");
  const here = useMemo(
    () => (open ? choicesFor(wanted, waysOf(router.push, openTray, openShortcuts)) : []),
    [open, wanted, router, openTray, openShortcuts],
  );
  const choices = [...here, ...withdrawn];
  const take = (c: Choice | undefined) => {
    if (!c) return;
    taken.current = true;
    close();
    setText("");
    setAt(0);
    c.go();
  };
  return (
    <Overlay
      open={open}
      close={close}
      title="Go to"
      width={560}
      onClosed={(event) => {
        if (taken.current) event.preventDefault();
        taken.current = false;
      }}
    >
      <input
        className="field mt-3 h-9 w-full text-[15px]"
        placeholder="Point number, code, line, surface, action, or a new point such as 12 az 47.5 12.25"
        aria-label="Go to"
        value={text}
        autoFocus
        // What was looked for last goes at the first key.
        onFocus={(event) => event.currentTarget.select()}
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
          // What was typed is looked up at once, also when the list has not followed yet.
          else if (event.key === "Enter")
            take(text === wanted ? choices[at] : choicesFor(text, waysOf(router.push, openTray, openShortcuts))[0]);
          else return;
          event.preventDefault();
        }}
      />
      <ul id="go-to-list" role="listbox" aria-label="Choices" className="mt-2 max-h-[60vh] overflow-auto">
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
      </ul>
      {choices.length === 0 && <p className="px-2 py-2 text-soft">Nothing in this job is called “{text}”.</p>}
    </Overlay>
  );
}
