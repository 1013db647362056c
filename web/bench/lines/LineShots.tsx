"use client";
/** The shots of a line with their cues; what can be done at each. */
import { useEffect, useState } from "react";
import { insertShot, splitLine, steerShot, takeOutShot } from "@bramble/core";
import { compileBook } from "@bramble/core/codes/book";
import { cueOfWord } from "@bramble/core/codes/cue-edits";
import { formatFixed } from "@bramble/core/math/round";
import { numberIndex } from "@bramble/core/points/index";
import { TakenText } from "../../controls/fields/TakenText";
import { Typed } from "../../controls/fields/Typed";
import { useJob, useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import type { LineShown } from "../../lib/view";
import { make } from "./make";

/** Of a long line the first are listed. */
const MOST = 500;

const say = (text: string) => useJob.getState().set({ notice: { text, tone: "problem" } });

/** After which shot a point is to be inserted, its number typed or picked on the sheet. */
function useInsert(line: LineShown) {
  const { set } = useParts("set");
  const [inserting, setInserting] = useState<{ after: number; text: string }>();
  const end = () => {
    setInserting(undefined);
    set({ picking: undefined });
  };
  useEffect(() => () => set({ picking: undefined }), [set]);
  return {
    inserting,
    end,
    begin(after: number) {
      setInserting({ after, text: "" });
      set({
        picking: {
          hint: "Click the point to insert, or type its number; Esc ends",
          points: true,
          take: (snap) =>
            snap.point !== undefined && setInserting({ after, text: useJob.getState().job.points.number[snap.point]! }),
        },
      });
    },
    type: (text: string) => setInserting((now) => now && { ...now, text }),
    insert() {
      const { job } = useJob.getState(),
        number = inserting!.text.trim(),
        row = numberIndex(job.points).get(number);
      if (row === undefined) return say(`There is no point ${number}.`);
      if (make(insertShot(job, line, row, inserting!.after))) end();
    },
  };
}

export function Shots({ line }: { line: LineShown }) {
  const { job, select, points } = useParts("job", "select", "points");
  const at = useInsert(line),
    t = job.points,
    d = decimalsOf(job.unit),
    book = compileBook(job.book);
  /** False puts back what there is. */
  const steer = (k: number, text: string): boolean => {
    const words = text.trim().split(/\s+/).filter(Boolean),
      bad = words.find((w) => !cueOfWord(w, book));
    if (words.join(" ") === line.cues[k]) return false;
    if (bad === undefined) return make(steerShot(job, line, k, words.join(" ")));
    say(`“${bad}” is no cue. The cue words stand in the code book.`);
    return false;
  };
  return (
    <section aria-label="Shots of the line">
      <table className="plain mt-1">
        <thead>
          <tr>
            <th>Point</th>
            <th className="num">Level {job.unit}</th>
            <th>Cues</th>
            <th>
              <span className="sr-only">What may be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {line.shots.slice(0, MOST).map((i, k) => (
            <tr key={`${i} ${k}`} aria-selected={points.has(t.id[i]!) && points.size === 1}>
              <td>
                <button
                  className="font-medium hover:text-bramble"
                  onClick={() => select({ points: [t.id[i]!], lines: useJob.getState().lines })}
                >
                  {t.number[i]}
                </button>
              </td>
              <td className="num">{formatFixed(t.z[i]!, d)}</td>
              <td>
                <TakenText
                  className="field h-6 w-full border-transparent bg-transparent hover:border-rule focus:border-rule"
                  label={`Cues of ${t.number[i]}`}
                  value={line.cues[k] ?? ""}
                  take={(text) => steer(k, text)}
                />
              </td>
              <td className="text-right whitespace-nowrap">
                {at.inserting?.after === k ? (
                  <Insert at={at} text={at.inserting.text} />
                ) : (
                  <button
                    className="button button-plain h-6"
                    aria-label={`Insert after ${t.number[i]}`}
                    onClick={() => at.begin(k)}
                  >
                    Insert after
                  </button>
                )}
                <AtShot line={line} k={k} number={t.number[i]!} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {line.shots.length > MOST && <p className="text-soft">and {line.shots.length - MOST} more shots</p>}
    </section>
  );
}

function Insert({ at, text }: { at: ReturnType<typeof useInsert>; text: string }) {
  return (
    <form
      className="inline-flex gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        at.insert();
      }}
    >
      <Typed
        label="Point to insert"
        named={false}
        width="w-20"
        placeholder="point"
        autoFocus
        text={text}
        onType={at.type}
        drop={at.end}
      />
      <button className="button h-6">Insert</button>
    </form>
  );
}

/** What can be done at one shot. */
function AtShot({ line, k, number }: { line: LineShown; k: number; number: string }) {
  const { job } = useParts("job"),
    last = line.shots.length - 1,
    inner = !line.closed && k > 0;
  const act = (words: string, label: string, go: () => void, title?: string) => (
    <button className="button button-plain h-6" aria-label={label} title={title} onClick={go}>
      {words}
    </button>
  );
  return (
    <>
      {inner &&
        k < last &&
        act("Split here", `Split at ${number}`, () => make(splitLine(job, line, k)), "Both parts meet at this shot")}
      {inner &&
        k < last - 1 &&
        act(
          "Gap after",
          `Split after ${number}, with a gap`,
          () => make(splitLine(job, line, k, true)),
          "The rest begins at the next shot; the piece between goes",
        )}
      {act("Take out", `Take ${number} out of the line`, () => make(takeOutShot(job, line, k)))}
    </>
  );
}
