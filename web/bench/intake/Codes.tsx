"use client";
/** Codes as the file writes them: known, by alias, unknown with the nearest name and one key that makes it an alias. */
import type { CodeBook, LookedCode } from "@bramble/core";
import { useJob, useParts } from "../../lib/store";

const MOST = 80;

/** Lets the book read what was written as another code; a change of the job that can be undone. */
export function makeAlias(written: string, code: string): boolean {
  const { job, change } = useJob.getState();
  const book: CodeBook = { ...job.book, aliases: [...(job.book.aliases ?? []), { from: written, to: code }] };
  return change({ type: "setting", field: "book", old: job.book, new: book });
}

export function Codes({ codes }: { codes: readonly LookedCode[] }) {
  const { job } = useParts("job");
  const unknown = codes.filter((c) => c.by === "unknown"),
    aliases = codes.filter((c) => c.by === "alias" || c.by === "cut-off");
  const counts = [
    `${codes.length - unknown.length} known to the book`,
    ...(aliases.length ? [`${aliases.length} of them by alias or cut short`] : []),
    ...(unknown.length ? [`${unknown.length} not known`] : []),
  ];
  const first = unknown.find((c) => c.nearest);
  if (codes.length === 0) return null;
  return (
    <section aria-label="Codes" className="mt-4">
      <h2 className="heading">
        Codes <span className="font-sans text-[13px] font-normal text-soft">{counts.join(", ")}</span>
      </h2>
      <table className="plain mt-1">
        <thead>
          <tr>
            <th>Written</th>
            <th className="num w-16">Shots</th>
            <th>Read as</th>
            <th className="w-64" />
          </tr>
        </thead>
        <tbody>
          {codes.slice(0, MOST).map((c) => (
            <tr key={`${c.by} ${c.written} ${c.code}`}>
              <td className="font-medium">{c.written}</td>
              <td className="num">{c.count}</td>
              <td className={c.by === "unknown" ? "text-amber" : "text-soft"}>
                {c.by === "unknown"
                  ? "not in the book: plain points"
                  : c.by === "code"
                    ? ((job.book.codes ?? []).find((x) => x.code.toUpperCase() === c.code)?.name ?? c.code)
                    : `${c.code}, ${c.by === "alias" ? "by its alias" : "a name cut short"}`}
              </td>
              <td className="py-0.5">
                {c.by === "unknown" && (
                  <span className="flex items-center gap-1">
                    {c.nearest && (
                      <button className="button h-6 px-2" onClick={() => void makeAlias(c.written, c.nearest!)}>
                        Read as {c.nearest}
                        {c === first && <kbd className="text-[11px] text-soft">A</kbd>}
                      </button>
                    )}
                    <select
                      className="field h-6 w-24 px-1 text-soft"
                      aria-label={`Read ${c.written} as`}
                      value=""
                      onChange={(event) => void makeAlias(c.written, event.target.value)}
                    >
                      <option value="" disabled>
                        {c.nearest ? "another" : "read as"}
                      </option>
                      {(job.book.codes ?? []).map((x) => (
                        <option key={x.code} value={x.code}>
                          {x.code}
                        </option>
                      ))}
                    </select>
                  </span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {codes.length > MOST && <p className="text-soft">and {codes.length - MOST} more, all known</p>}
    </section>
  );
}
