"use client";
/** What is noticed of a file before it is taken in, and said aloud. */
import type { Look } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import type { Incoming } from "../../lib/incoming";
import { when } from "../../lib/units-shown";
import { Failed } from "../Bench";
import { RepeatedDelivery } from "./Clashes";
import { Exchanged } from "./Exchanged";
import type { Looking } from "./use-looking";
import { useSameFile } from "./use-same-file";

export function Noticed({ of, incoming, leave }: { of: Looking; incoming: Incoming; leave: () => void }) {
  const { look, problem, progress, answers, exchange, stop } = of,
    sameFile = useSameFile(incoming);
  return (
    <>
      {progress !== undefined && (
        <ReadingOn
          progress={progress}
          cancel={() => {
            stop();
            leave();
          }}
        />
      )}
      {problem && (
        <div className="mb-3">
          <Failed>{problem}</Failed>
        </div>
      )}
      {sameFile && (
        <p role="alert" className={ALERT}>
          This very file was taken in already, as “{sameFile.file}” on {when(sameFile.taken)} by {sameFile.author}.
        </p>
      )}
      {look?.repeated && !incoming.again && !sameFile && <RepeatedDelivery repeated={look.repeated} />}
      {look && !problem && look.exchanged.length > 0 && (
        <Exchanged rows={look.exchanged} points={look.points} can={look.layout !== undefined} exchange={exchange} />
      )}
      {look && !problem && <FarAway values={look.values.filter((v) => v.what === "position")} />}
      {answers.length > 0 && (
        <p role="alert" className={ALERT}>
          {plural(answers.length, "number is", "numbers are")} used twice, first {answers[0]!.number} in row{" "}
          {answers[0]!.row}. Say below what happens then.
        </p>
      )}
    </>
  );
}

const ALERT = "mb-3 border-l-2 border-amber bg-amber-wash px-3 py-2 text-amber";

function ReadingOn({ progress, cancel }: { progress: number; cancel: () => void }) {
  return (
    <div className="mb-3 flex items-center gap-3">
      <progress className="h-1.5 flex-1 accent-(--bramble)" value={progress} aria-label="Reading the file" />
      <span className="text-soft tabular-nums">{Math.round(100 * progress)} %</span>
      <button className="button h-6" onClick={cancel}>
        Cancel
      </button>
    </div>
  );
}

const MOST_FAR = 3;

/** Points far from all others are said aloud: on the sheet they would be a dot beyond its edge. */
function FarAway({ values }: { values: Look["values"] }) {
  if (values.length === 0) return null;
  return (
    <div role="alert" className={ALERT}>
      {values.slice(0, MOST_FAR).map((v) => (
        <p key={v.row}>
          Point {v.number} (row {v.row}) {v.text}
        </p>
      ))}
      {values.length > MOST_FAR && <p>and {values.length - MOST_FAR} more, among the values below.</p>}
    </div>
  );
}
