"use client";
/** The path across the top: six places in the order of work, each with its count and its open findings. */
import Link from "next/link";
import { usePathname } from "next/navigation";
import { useMemo } from "react";
import { livingCount } from "@bramble/core/points/table";
import { useAuthor } from "../lib/author";
import { useJob } from "../lib/store";
import { homeOf, PLACE_NAMES, PLACES, type PlaceName } from "./places";

export function PathBar({ openGoTo, openShortcuts }: { openGoTo: () => void; openShortcuts: () => void }) {
  const { job, view, jobId, intakes, ledger, waiting, undo, redo } = useJob(),
    author = useAuthor();
  const here = usePathname().split("/")[3];
  const points = useMemo(() => livingCount(job.points), [job.points]);
  const counts: Record<PlaceName, number> = {
    intake: intakes.length,
    points,
    lines: view.lines.length,
    surface: job.surfaces.length,
    volumes: job.volumes.length,
    handover: job.handover.length,
  };
  const findings = useMemo(() => {
    const per = new Map<PlaceName, number>();
    for (const f of view.findings)
      if (f.severity !== "note") per.set(homeOf(f.kind), (per.get(homeOf(f.kind)) ?? 0) + 1);
    return per;
  }, [view.findings]);
  // Undo takes back what this person did, and nobody else's work.
  const own = ledger.filter((l) => l.author === author),
    lastOwn = own.find((l) => l.kind === "change" && !l.undone);
  const canUndo = waiting.length > 0 || lastOwn !== undefined;
  const canRedo = own.some((l) => l.kind === "change" && l.undone && l.seq > (lastOwn?.seq ?? 0));
  return (
    <header className="flex h-12 shrink-0 items-stretch border-b border-rule">
      <div className="flex min-w-0 max-w-64 shrink items-stretch">
        <Link
          href="/"
          className="flex items-center pr-1 pl-4 hover:text-bramble"
          title="All jobs"
          aria-label="All jobs"
        >
          <Sprig />
        </Link>
        <Link
          href={`/jobs/${jobId}/settings`}
          aria-current={here === "settings" ? "page" : undefined}
          className={`flex min-w-0 items-center px-1.5 hover:text-bramble ${here === "settings" ? "text-bramble" : ""}`}
          title="Job settings (0)"
        >
          <span className="truncate font-serif text-[17px] font-semibold">{job.name || "…"}</span>
        </Link>
      </div>
      <nav aria-label="Places" className="flex min-w-0 flex-1 items-stretch justify-center">
        {PLACES.map((place, k) => {
          const active = here === place,
            open = findings.get(place) ?? 0;
          return (
            <Link
              key={place}
              href={`/jobs/${jobId}/${place}`}
              aria-current={active ? "page" : undefined}
              className={`relative flex items-center gap-1.5 px-3 ${active ? "font-semibold text-bramble" : "hover:text-bramble"}`}
            >
              {k > 0 && <span aria-hidden className="absolute top-1/2 -left-1 h-px w-2 bg-soft opacity-50" />}
              <span>{PLACE_NAMES[place]}</span>
              <span className="text-[11.5px] tabular-nums text-soft">
                {counts[place].toLocaleString("en-GB").replaceAll(",", "\u202f")}
              </span>
              {open > 0 && (
                <span
                  className="rounded-sm bg-amber-wash px-1 text-[11px] font-semibold tabular-nums text-amber"
                  title={`${open} findings to look at`}
                >
                  {open}
                  <span className="sr-only"> findings</span>
                </span>
              )}
              {active && <span aria-hidden className="absolute inset-x-2 bottom-0 h-[3px] rounded-t-sm bg-bramble" />}
            </Link>
          );
        })}
      </nav>
      <div className="flex shrink-0 items-center gap-1 px-3">
        <button className="button" onClick={openGoTo} title="Go to a point, line, place or action (G)">
          Go to <kbd className="text-[11px] text-soft">G</kbd>
        </button>
        <button
          className="button px-2.5"
          disabled={!canUndo}
          onClick={() => void undo()}
          title={`Take back the last that you did${lastOwn ? `: ${lastOwn.text}` : ""} (Ctrl Z)`}
        >
          Undo
        </button>
        <button className="button px-2.5" disabled={!canRedo} onClick={() => void redo()} title="Do it again (Ctrl Y)">
          Redo
        </button>
        <button className="button px-2.5" onClick={openShortcuts} aria-label="Shortcuts" title="Shortcuts (?)">
          ?
        </button>
      </div>
    </header>
  );
}

/** The mark: a bramble sprig of three strokes. */
function Sprig() {
  return (
    <svg
      width="20"
      height="20"
      viewBox="0 0 20 20"
      fill="none"
      stroke="var(--bramble)"
      strokeWidth="1.7"
      strokeLinecap="round"
      aria-hidden
      className="shrink-0"
    >
      <path d="M3 17C8 15 12 10 16 3" />
      <path d="M7.5 13.6 5 9.6M11.4 9.6l4.2 1.2" />
      <circle cx="4.6" cy="8.2" r="1.5" fill="var(--bramble)" stroke="none" />
    </svg>
  );
}
