"use client";
/** Another book is taken: beforehand it is said what it brings, and whether it comes into the job's book or in its place. */
import type { CodeBook } from "@bramble/core";
import { compareBooks } from "@bramble/core/codes/compare";
import { plural, someOf } from "@bramble/core/math/words";
import { unless } from "../../controls/unless";

export interface Offer {
  book: CodeBook;
  /** Where it comes from, within a sentence. */
  from: string;
  /** What of it could not be read, in sentences; blank for nothing. */
  more: string;
  /** That its lengths were converted to the job's unit, in a sentence; blank where they were not. */
  converted: string;
}

export function TakeBook({
  now,
  offer,
  take,
  leave,
}: {
  now: CodeBook;
  offer: Offer;
  take: (offer: Offer, merged: boolean) => void;
  leave: () => void;
}) {
  const c = compareBooks(now, offer.book);
  const nothing = c.fresh.length + c.changed.length + c.words === 0;
  const list = (codes: string[]) => (codes.length ? ` (${someOf(codes, 4)})` : "");
  return (
    <section aria-label="Take a book" className="basis-full border-l-2 border-bramble bg-paper px-3 py-2">
      <p>
        From {offer.from}: {plural(c.fresh.length, "new code")}
        {list(c.fresh)}, {c.changed.length} changed{list(c.changed)}, {c.same} the same
        {c.words ? `, ${plural(c.words, "alias or spelling", "aliases and spellings")}` : ""}.{" "}
        {c.gone.length > 0 && `${plural(c.gone.length, "code")} of the job${list(c.gone)} it has not.`}{" "}
        {offer.converted}
        {offer.more}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <button
          className="button button-main"
          {...unless(nothing && "It has nothing that the job’s book has not.")}
          onClick={() => take(offer, true)}
        >
          Merge: keep mine, add and change
        </button>
        <button className="button" onClick={() => take(offer, false)}>
          Replace the book{c.gone.length ? `, ${plural(c.gone.length, "code goes", "codes go")}` : ""}
        </button>
        <button className="button" onClick={leave}>
          Leave it
        </button>
      </div>
    </section>
  );
}
