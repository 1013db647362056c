/** Why each piece of a line is there, and its facts. */
import { azimuthOf } from "../math/angles";
import { plainNumber } from "../math/round";
import { levelOnArc } from "./arc";
import { planLength, slopeLength } from "./measure";
import type { Line } from "./model";

export interface PieceFacts {
  type: "straight" | "arc" | "curve";
  /** Table rows of the shots at its ends; −1 for a corner that no shot made. */
  from: number;
  to: number;
  length: number;
  /** NaN where a level is not known. */
  slopeLength: number;
  /** Of the chord, radians. */
  azimuth: number;
  rise: number;
  radius?: number;
  /** Radians, + to the right. */
  sweep?: number;
  why: string;
}

/** `cues` are the words of each shot's element, `numberOf` gives a point's number. */
export function explainLine(line: Line, cues: readonly string[], numberOf: (row: number) => string): PieceFacts[] {
  const cueAt = (row: number) => {
    const k = line.shots.indexOf(row);
    return k < 0 ? [] : (cues[k] ?? "").split(" ").filter(Boolean);
  };
  const steerAt = (row: number) => (line.steering?.[line.shots.indexOf(row)] ?? "").split(" ");
  const name = (row: number) => (row < 0 ? "a corner" : numberOf(row));
  const maker = line.shots
    .map((s) => ({ s, cue: cueAt(s).find((c) => c === "quad" || c.startsWith("box=")) }))
    .find((x) => x.cue);
  return line.pieces.map((p, k) => {
    const from = p.shots[0]!,
      to = p.shots.at(-1)!,
      between = p.shots.slice(1, -1).filter((s) => s >= 0);
    const facts = {
      type: p.type,
      from,
      to,
      length: planLength(p),
      slopeLength: slopeLength(p),
      azimuth: azimuthOf(p.from[0], p.from[1], p.to[0], p.to[1]),
      rise: (p.type === "arc" ? levelOnArc(p, 1) : p.to[2]) - p.from[2],
      ...(p.type === "arc" ? { radius: p.radius, sweep: p.sweep } : {}),
    };
    return { ...facts, why: why() };

    function why(): string {
      if (line.companion)
        return `parallel to its line, ${plainNumber(Math.abs(line.companion.right))} to the ${line.companion.right > 0 ? "right" : "left"}`;
      if (p.type === "curve") {
        const at = line.shots.indexOf(from),
          start = line.shots.slice(0, at + 1).findLast((s) => steerAt(s).includes("flow"));
        return `smooth curve${start === undefined ? "" : `: flow at ${name(start)}`}`;
      }
      if (p.type === "arc")
        return between.length
          ? `arc through ${between.map(name).join(", ")} (via)`
          : `arc without a corner (swing at ${name(to)})`;
      if (from < 0 || to < 0)
        return maker
          ? `corner made by ${maker.cue!.split("=")[0]} at ${name(maker.s)}`
          : "bevel or chord of a parallel";
      if (line.closed && k === line.pieces.length - 1) {
        const loop = line.shots.findLast((s) => cueAt(s).includes("loop"));
        return loop !== undefined
          ? `returns to its first shot (loop at ${name(loop)})`
          : line.hand !== undefined && line.entry.kind !== "area"
            ? "returns to its first shot: drawn closed"
            : "an area closes by itself";
      }
      const after = cueAt(to).find((c) => c.startsWith("after=")),
        said = cueAt(from).find((c) => c.startsWith("to=") || c.startsWith("join=")),
        came = cueAt(to).find((c) => c.startsWith("from="));
      if (after) return `${name(to)} comes after ${after.slice(6)} (${after})`;
      if (said && (said.startsWith("join=") || said.slice(3) === name(to))) return `goes on to ${name(to)} (${said})`;
      if (came && came.slice(5) === name(from)) return `comes from ${name(from)} (${came})`;
      return line.hand !== undefined ? "next in its list" : `next shot of ${line.code}${line.run}`;
    }
  });
}
