"use client";
/** A line's own name and colour; names whose line is not drawn any more. */
import { useMemo, useState } from "react";
import { nameGone, nameLine } from "@bramble/core";
import { lineNamed, type LinesNamed } from "@bramble/core/lines/names";
import { lineName } from "@bramble/core/lines/model";
import { findPoints } from "@bramble/core/points/refs";
import { ColorField } from "../../controls/fields/ColorField";
import { Typed } from "../../controls/fields/Typed";
import { unless } from "../../controls/unless";
import { useParts } from "../../lib/store";
import type { LineShown } from "../../lib/view";
import { Small } from "./LineForms";

/** Letters that a line's own name has at most. */
const LONGEST = 200;

export function OwnNameForm({ line, leave }: { line: LineShown; leave: () => void }) {
  const { job, change } = useParts("job", "change");
  const [name, setName] = useState(line.ownName ?? ""),
    [color, setColor] = useState(line.color),
    ofCode = job.book.codes?.find((c) => c.code.toUpperCase() === line.code)?.color;
  const next = nameLine(job, line, { name: name.trim(), ...(color === ofCode ? {} : { color }) });
  return (
    <Small
      label="Name and colour"
      action="Call it so"
      ready={next !== undefined}
      go={() => next && change(next) && leave()}
    >
      <Typed label="Its own name" width="w-44" autoFocus text={name} onType={setName} most={LONGEST} />
      <ColorField label="Colour" value={color} onChange={setColor} typing={setColor} className="h-7 w-12" />
      <button
        type="button"
        className="button"
        {...unless((ofCode === undefined || color === ofCode) && "It has the colour of its code.")}
        onClick={() => setColor(ofCode!)}
      >
        As its code
      </button>
    </Small>
  );
}

/** Names that nothing is called by: their line goes by another code, run or first shot now. */
export function LostNames() {
  const { job, view, change } = useParts("job", "view", "change");
  const lost = useMemo(() => {
    const told = new Set(view.findings.filter((f) => f.kind === "name-lost").map((f) => f.key));
    return told.size ? job.names.filter((n) => told.has(`name-lost: ${lineNamed(n.line)}`)) : [];
  }, [job.names, view.findings]);
  if (lost.length === 0) return null;
  const { numberOf } = findPoints(job.points, job.intakes),
    of = (line: LinesNamed) =>
      "hand" in line
        ? `“${line.hand}” drawn by hand`
        : `${lineName(line)}${"from" in line ? ` from ${numberOf(line.from)}` : ""}`;
  return (
    <ul className="mx-4 mt-2 border-l-2 border-amber pl-3" aria-label="Names of lines that are not drawn">
      {lost.map((n) => (
        <li key={lineNamed(n.line)} className="flex items-center gap-2 leading-7">
          <span className="min-w-0 truncate">
            {n.name === undefined ? `The colour ${n.color}` : `“${n.name}”`} is for {of(n.line)}, which is not drawn.
          </span>
          <button className="button h-6" onClick={() => change(nameGone(n))}>
            Remove it
          </button>
        </li>
      ))}
    </ul>
  );
}
