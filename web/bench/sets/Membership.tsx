"use client";
/** What joined or left a set lately, when, and by which entry of the ledger. */
import { useEffect, useState } from "react";
import { namesIn, sentenceOf } from "@bramble/core";
import type { MembershipHistory } from "@bramble/core/job/told/membership";
import { useJob, useParts } from "../../lib/store";
import { when } from "../../lib/units-shown";

/** Entries looked back over. */
const LATEST = 30;

export function Membership({ set }: { set: string }) {
  const { job, view, ledger, select } = useParts("job", "view", "ledger", "select");
  const [asked, setAsked] = useState(false),
    [found, setFound] = useState<MembershipHistory>();
  useEffect(() => {
    if (!asked) return;
    let current = true;
    const entries = ledger.slice(0, LATEST).map(({ seq, change }) => ({ seq, change }));
    void useJob
      .getState()
      .ask({ what: "membership", set, entries })
      .then((is) => current && is && setFound(is));
    return () => {
      current = false;
    };
  }, [asked, set, ledger]);
  if (!asked)
    return (
      <button className="button button-plain mt-3 h-6 px-1" onClick={() => setAsked(true)}>
        What joined or left lately
      </button>
    );
  const names = namesIn(job.points, view.lines),
    say = (points: readonly number[]) => sentenceOf({ words: [{ points }] }, names),
    entryOf = (seq: number) => ledger.find((l) => l.seq === seq);
  return (
    <section aria-label="Joined and left" className="mt-3">
      <h3 className="label pb-1">Joined and left</h3>
      {!found ? (
        <p className="text-soft">Being looked up …</p>
      ) : (
        <>
          {found.steps.map((s) => {
            const entry = entryOf(s.seq);
            return (
              <p key={s.seq} className="border-b border-rule-soft py-1">
                <span className="text-soft">
                  {entry && `${when(entry.at)}, ${entry.author}, `}entry {s.seq}: {entry?.text}.{" "}
                </span>
                {s.joined.length > 0 && (
                  <button className="mr-3 hover:text-bramble" onClick={() => select({ points: s.joined })}>
                    Joined: {say(s.joined)}
                  </button>
                )}
                {s.left.length > 0 && (
                  <button className="hover:text-bramble" onClick={() => select({ points: s.left })}>
                    Left: {say(s.left)}
                  </button>
                )}
              </p>
            );
          })}
          <p className="pt-1 text-soft">
            {found.steps.length === 0 ? "Nobody joined or left" : "That is all"}
            {found.end === undefined
              ? ledger.length > LATEST
                ? ` in the latest ${LATEST} entries.`
                : " since the job began."
              : ` after entry ${found.end}, ${entryOf(found.end)?.text ?? "a delivery"}.`}
          </p>
        </>
      )}
    </section>
  );
}
