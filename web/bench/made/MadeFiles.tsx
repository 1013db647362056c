"use client";
/** Files that were made of the job and are kept with it: when, by whom, of which state, and whether it moved on since. */
import { useState } from "react";
import type { Unit } from "@bramble/core";
import type { MadeFile } from "@bramble/db";
import { plural } from "@bramble/core/math/words";
import { plainNumber } from "@bramble/core/math/round";
import { CompareStates } from "../states/CompareStates";
import { useParts } from "../../lib/store";
import { when } from "../../lib/units-shown";
import type { MadeFiles } from "./use-made-files";

export function MadeFilesTable({
  made,
  what,
  title,
}: {
  made: MadeFiles;
  what: MadeFile["wanted"]["what"];
  title: string;
}) {
  const { problem, forget, addressOf } = made,
    files = made.files?.filter((f) => f.wanted.what === what),
    [compare, setCompare] = useState<number>();
  return (
    <>
      <h2 className="heading mt-6">{title}</h2>
      {problem && (
        <p role="alert" className="text-red">
          {problem}
        </p>
      )}
      {files?.length === 0 && <p className="text-soft">None yet. Each is kept here with the state that it is of.</p>}
      {files === undefined && !problem && <p className="late text-soft">Looking for them …</p>}
      {files && files.length > 0 && (
        <table className="plain mt-1" aria-label={title}>
          <thead>
            <tr>
              <th>File</th>
              <th>When</th>
              <th>Who</th>
              <th>Of the job</th>
              <th>
                <span className="sr-only">What may be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {files.map((f) => (
              <FileRow
                key={f.id}
                file={f}
                address={addressOf(f.id)}
                forget={() => void forget(f.id)}
                compare={setCompare}
              />
            ))}
          </tbody>
        </table>
      )}
      {compare !== undefined && <CompareStates first={compare} close={() => setCompare(undefined)} />}
    </>
  );
}

export const isUnderWay = (f: MadeFile) => f.state === "waiting" || f.state === "making";

function FileRow({
  file: f,
  address,
  forget,
  compare,
}: {
  file: MadeFile;
  address: string;
  forget: () => void;
  compare: (seq: number) => void;
}) {
  const { job } = useParts("job"),
    under = isUnderWay(f);
  return (
    <tr>
      <td>
        {f.state === "made" ? (
          <a className="text-bramble underline" href={address} download>
            {f.file}
          </a>
        ) : (
          f.file
        )}
        <span className="block text-soft">{factsOf(f, job.unit)}</span>
      </td>
      <td className="whitespace-nowrap">{when(f.made ?? f.asked)}</td>
      <td className="max-w-28 truncate">{f.author}</td>
      <td>
        {under ? (
          <span role="status" className="flex items-center gap-2">
            <progress className="h-2 w-24 accent-(--bramble)" value={f.share} max={1} aria-label={`Making ${f.file}`} />
            <span className="text-soft">{f.state === "waiting" ? "waits for its turn" : f.doing}</span>
          </span>
        ) : f.state === "failed" ? (
          <span className="text-red">{f.why}</span>
        ) : (
          <StateOf file={f} compare={compare} />
        )}
      </td>
      <td className="text-right">
        <button
          className="button button-plain h-6"
          aria-label={`${under ? "Stop" : "Remove"} ${f.file}`}
          onClick={forget}
        >
          {under ? "Stop" : "Remove"}
        </button>
      </td>
    </tr>
  );
}

/** Its size and what it holds, as it was read back. */
function factsOf({ size, wanted, told }: MadeFile, unit: Unit): string {
  const counts = Object.entries(told?.counts ?? {})
    .filter(([, n]) => n > 0)
    .map(([what, n]) => `${n} ${what}`);
  return [
    ...(size === null ? [] : [size < 10_000 ? plural(size, "byte") : `${Math.ceil(size / 1000)} kB`]),
    ...(wanted.what === "volumes" ? [plural(wanted.comparisons.length, "comparison")] : counts),
    ...(told?.largestDifference ? [`read back within ${plainNumber(told.largestDifference)} ${unit}`] : []),
    ...(told?.unwritten ? [`${plural(told.unwritten, "character")} the encoding does not have`] : []),
  ].join(", ");
}

/** Of which state a file is, and how far the job has moved on since. */
function StateOf({ file, compare }: { file: MadeFile; compare: (seq: number) => void }) {
  const { job, version } = useParts("job", "version"),
    seq = file.seq ?? 0,
    names = job.states.filter((s) => s.seq === seq).map((s) => `“${s.name}”`);
  return (
    <>
      {[...names, `after entry ${seq}`].join(", ")}
      {version > seq && (
        <button className="button button-plain h-6 px-1 text-amber!" onClick={() => compare(seq)}>
          moved on since by {plural(version - seq, "entry", "entries")}: what changed
        </button>
      )}
    </>
  );
}
