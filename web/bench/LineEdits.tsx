"use client";
/** The shots of one line with what each says, and office edits: every one is a cue added to a shot, kept in the ledger. */
import type { EditableChange } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { decodeCueEdits, encodeCueEdits } from "@bramble/core/points/cue-edits";
import { useJob } from "../lib/store";
import { decimalsOf } from "../lib/units-shown";
import type { LineShown } from "../lib/view";

type Job = ReturnType<typeof useJob.getState>["job"];
export interface CueStep { place: number; add?: string[]; remove?: string[] }

/** The change that adds and takes away cues of shots in one line. */
export function cueChange(job: Job, line: Pick<LineShown, "code" | "run">, steps: readonly CueStep[]): EditableChange {
  const t = job.points, element = line.code + line.run;
  return {
    type: "points",
    edits: steps.map(({ place, add, remove }) => {
      const old = t.texts[t.cues[place]!]!;
      return { id: t.id[place]!, field: "cues" as const, old, new: encodeCueEdits([...decodeCueEdits(old), { element, ...(add ? { add } : {}), ...(remove ? { remove } : {}) }]) };
    }),
  };
}

/** What joins one line to another: the last shot of the first goes on at the nearer end of the second. Undefined when an end is a made corner. */
export function joinChange(job: Job, first: LineShown, second: LineShown): EditableChange | undefined {
  const t = job.points, last = first.shots.at(-1), [a, b] = [second.shots[0], second.shots.at(-1)];
  if (last === undefined || a === undefined || b === undefined || first.closed || second.closed) return undefined;
  const far = (i: number) => Math.hypot(t.e[i]! - t.e[last]!, t.n[i]! - t.n[last]!);
  return cueChange(job, first, [{ place: last, add: [`join=${t.number[far(a) <= far(b) ? a : b]}`], remove: ["end"] }]);
}

/** Taking a shot out; what others of the line say of it is said of its neighbour then, so that the line stays one. */
export function withoutShot(line: Pick<LineShown, "shots" | "cues">, k: number, numberOf: (place: number) => string): CueStep[] {
  const number = numberOf(line.shots[k]!), before = line.shots[k - 1], after = line.shots[k + 1];
  const steps: CueStep[] = [{ place: line.shots[k]!, add: ["lone"] }];
  line.shots.forEach((place, j) => {
    if (j === k) return;
    for (const [cue, neighbour] of [["join", after], ["after", before]] as const) {
      const said = `${cue}=${number}`;
      if (line.cues[j]!.split(" ").includes(said)) steps.push({ place, remove: [said], ...(neighbour !== undefined && neighbour !== place ? { add: [`${cue}=${numberOf(neighbour)}`] } : {}) });
    }
  });
  return steps;
}

export function LineShots({ line }: { line: LineShown }) {
  const { job, change, select, points } = useJob();
  const t = job.points, d = decimalsOf(job.unit);
  if (line.companion) return null;
  const byCrew = line.intake >= 0, open = byCrew && !line.closed;
  const split = (k: number) => void change(cueChange(job, line, [{ place: line.shots[k]!, add: ["end"] }, { place: line.shots[k + 1]!, add: ["new"] }]));
  const takeOut = (k: number) => void change(cueChange(job, line, withoutShot(line, k, (i) => t.number[i]!)));
  const close = () => void change(cueChange(job, line, [{ place: line.shots.at(-1)!, add: ["loop"], remove: ["end"] }]));
  const reopen = () => void change(cueChange(job, line, [{ place: line.shots.at(-1)!, add: ["end"], remove: ["loop"] }]));
  const loops = line.cues.at(-1)?.split(" ").includes("loop");
  return (
    <section aria-label="Shots of the line" className="mt-3">
      <div className="flex items-center gap-2">
        <h3 className="label flex-1">Shots, and what each says of this line</h3>
        {open && line.shots.length > 2 && <button className="button h-6" onClick={close}>Close it</button>}
        {byCrew && loops && <button className="button h-6" onClick={reopen}>Open it</button>}
      </div>
      <table className="plain mt-1">
        <thead><tr><th>Point</th><th className="num">Level {job.unit}</th><th>Cues</th><th /></tr></thead>
        <tbody>
          {line.shots.slice(0, 500).map((i, k) => (
            <tr key={`${i} ${k}`} aria-selected={points.has(t.id[i]!) && points.size === 1}>
              <td><button className="font-medium hover:text-bramble" onClick={() => select({ points: [t.id[i]!], lines: useJob.getState().lines })}>{t.number[i]}</button></td>
              <td className="num">{formatFixed(t.z[i]!, d)}</td><td className="text-soft">{line.cues[k]}</td>
              <td className="text-right whitespace-nowrap">
                {open && k < line.shots.length - 1 && k > 0 && <button className="button button-plain h-6" aria-label={`Split after ${t.number[i]}`} onClick={() => split(k)}>Split after</button>}
                {byCrew && <button className="button button-plain h-6" aria-label={`Take ${t.number[i]} out of the line`} onClick={() => takeOut(k)}>Take out</button>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {line.shots.length > 500 && <p className="text-soft">and {line.shots.length - 500} more shots</p>}
    </section>
  );
}
