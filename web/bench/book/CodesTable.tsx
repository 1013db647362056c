"use client";
/** The codes of the book, each as it is drawn and with its shots in the job. */
import type { CodeEntry } from "@bramble/core";
import { lineStyle } from "@bramble/core/drawing/line-styles";
import { symbolOf } from "@bramble/core/drawing/symbols";
import { PLAIN_COLOR } from "../../lib/view";
import { LineSwatch, SymbolSwatch } from "./Swatch";

export function CodesTable({
  list,
  entry,
  used,
  empty,
  choose,
}: {
  list: readonly CodeEntry[];
  entry: CodeEntry | undefined;
  used: ReadonlyMap<string, number>;
  /** The book has no code at all. */
  empty: boolean;
  choose: (code: string) => void;
}) {
  return (
    <div className="max-h-[36%] min-h-28 shrink-0 overflow-auto border-y border-rule">
      <table className="plain [&_td]:h-[26px]">
        <thead className="sticky top-0 bg-paper">
          <tr>
            <th className="w-32">Code</th>
            <th>Name</th>
            <th>Group</th>
            <th className="w-32">Drawn</th>
            <th className="num">Shots</th>
          </tr>
        </thead>
        <tbody>
          {list.map((c) => (
            <tr
              key={c.code}
              data-clickable
              aria-selected={c === entry}
              className="cursor-pointer"
              onClick={() => choose(c.code)}
            >
              <td>
                <button className="font-medium" aria-label={`Edit ${c.code}`}>
                  {c.code}
                </button>
              </td>
              <td className="max-w-36 truncate" title={c.name}>
                {c.name}
              </td>
              <td className="text-soft whitespace-nowrap">{c.group}</td>
              <td className="leading-none">
                {(c.kind ?? "point") === "point" ? (
                  <SymbolSwatch
                    symbol={symbolOf(c.symbol ?? "spot") ?? symbolOf("spot")!}
                    color={c.color ?? PLAIN_COLOR}
                    size={20}
                  />
                ) : (
                  <LineSwatch style={lineStyle(c.style)} color={c.color ?? PLAIN_COLOR} />
                )}
              </td>
              <td className="num">{used.get(c.code.toUpperCase()) ?? ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {list.length === 0 && (
        <p className="p-4 text-soft">
          {empty
            ? "The book is empty. Add a code, or take a book from the office or a file."
            : "No code is called that."}
        </p>
      )}
    </div>
  );
}
