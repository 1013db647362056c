"use client";
/** The path across the top: six places in the order of work, each with its count and its open findings. */
import Link from "next/link";
import { usePathname } from "next/navigation";
import { useMemo } from "react";
import { nextStep } from "@bramble/core";
import { livingCount } from "@bramble/core/points/table";
import { useAuthor } from "../lib/author";
import { useParts } from "../lib/store";
import { grouped } from "../lib/units-shown";
import { BEFORE, useKnown } from "../lib/use-known";
import { PlaceLink } from "../controls/PlaceLink";
import { ThemeSwitch } from "./ThemeSwitch";
import { PLACE_NAMES, PLACES, type PlaceName } from "../lib/places";
import { unless } from "../controls/unless";

/** In a narrow window the places have a row of their own. */
const NARROW =
    "max-[900px]:order-last max-[900px]:h-9 max-[900px]:basis-full max-[900px]:border-t max-[900px]:border-rule-soft",
  HERE = "font-semibold text-bramble";

export function PathBar({ openGoTo, openShortcuts }: { openGoTo: () => void; openShortcuts: () => void }) {
  const { job, intakes, ledger, waiting, undo, redo } = useParts(
      "job",
      "jobId",
      "intakes",
      "ledger",
      "waiting",
      "undo",
      "redo",
    ),
    { known, before } = useKnown(),
    author = useAuthor();
  const here = usePathname().split("/")[3];
  const points = useMemo(() => livingCount(job.points), [job.points]);
  const counts: Record<PlaceName, number | undefined> = {
    intake: intakes.length,
    points,
    lines: known?.lines,
    surface: job.surfaces.length,
    volumes: job.volumes.length,
    handover: job.handover.length,
  };
  // Undo takes back what this person did, and nobody else's work.
  const own = ledger.filter((l) => l.author === author),
    back = nextStep(own, "undo"),
    lastOwn = own.find((l) => l.seq === (back?.of ?? back?.target)),
    canUndo = waiting.length > 0 || back !== undefined,
    canRedo = nextStep(own, "redo") !== undefined;
  return (
    <header className="print:hidden flex min-h-12 shrink-0 flex-wrap items-stretch border-b border-rule">
      <div className="flex h-12 max-w-64 min-w-0 shrink items-stretch max-[1180px]:max-w-40">
        <Link
          href="/"
          className="flex items-center pr-1 pl-4 hover:text-bramble"
          title="All jobs"
          aria-label="All jobs"
        >
          <Sprig />
        </Link>
        <span className="flex min-w-0 items-center px-1.5" title={job.name}>
          <span className="line-clamp-2 font-serif text-[15px] leading-[1.15] font-semibold">{job.name || "…"}</span>
        </span>
      </div>
      <nav aria-label="Places" className={`flex h-12 min-w-0 flex-1 items-stretch justify-center ${NARROW}`}>
        {PLACES.map((place, k) => {
          const active = here === place,
            open = known?.at[place] ?? 0;
          return (
            <PlaceLink
              key={place}
              place={place}
              aria-current={active ? "page" : undefined}
              className={`relative flex items-center gap-1.5 px-2.5 max-[1180px]:px-2 ${active ? HERE : "hover:text-bramble"}`}
            >
              {k > 0 && <span aria-hidden className="absolute top-1/2 -left-1 h-px w-2 bg-soft opacity-50" />}
              <span>{PLACE_NAMES[place]}</span>
              <span
                className={`text-[11.5px] text-soft tabular-nums max-[1100px]:sr-only ${place === "lines" && before ? BEFORE : ""}`}
              >
                {counts[place] === undefined ? "…" : grouped(counts[place])}
              </span>
              {open > 0 && (
                <span
                  className={`rounded-sm bg-amber-wash px-1 text-[11px] font-semibold text-amber tabular-nums ${before ? BEFORE : ""}`}
                  title={`${open} findings to look at${before ? ", as last known" : ""}`}
                >
                  {open}
                  <span className="sr-only"> findings</span>
                </span>
              )}
              {active && <span aria-hidden className="absolute inset-x-2 bottom-0 h-[3px] rounded-t-sm bg-bramble" />}
            </PlaceLink>
          );
        })}
      </nav>
      <div className="flex h-12 shrink-0 items-center gap-1 px-3 max-[900px]:ml-auto max-[900px]:px-1">
        <AsideLink place="book" here={here} name="Book" title="Code book (9)" />
        <AsideLink place="settings" here={here} name="Settings" title="Job settings (0)" />
        <ThemeSwitch />
        <button className="button px-2.5" onClick={openGoTo} title="Go to a point, line, place or action (G)">
          Go to <kbd className="text-[11px] text-soft">G</kbd>
        </button>
        <button
          className="button px-2.5"
          onClick={() => void undo()}
          title={`Take back the last that you did${lastOwn ? `: ${lastOwn.text}` : ""} (Ctrl Z)`}
          {...unless(!canUndo && "There is nothing of yours to take back.")}
        >
          Undo
        </button>
        <button
          className="button px-2.5"
          onClick={() => void redo()}
          title="Do it again (Ctrl Y)"
          {...unless(!canRedo && "You took nothing back that could be done again.")}
        >
          Redo
        </button>
        <button className="button px-2.5" onClick={openShortcuts} aria-label="Shortcuts" title="Shortcuts (?)">
          ?
        </button>
      </div>
    </header>
  );
}

/** A place that is beside the path: what it holds belongs to every place. */
function AsideLink({
  place,
  here,
  name,
  title,
}: {
  place: string;
  here: string | undefined;
  name: string;
  title: string;
}) {
  const active = here === place;
  return (
    <PlaceLink
      place={place}
      aria-current={active ? "page" : undefined}
      title={title}
      className={`relative flex h-full items-center px-1.5 ${active ? "font-semibold text-bramble" : "hover:text-bramble"}`}
    >
      {name}
      {active && <span aria-hidden className="absolute inset-x-1 bottom-0 h-[3px] rounded-t-sm bg-bramble" />}
    </PlaceLink>
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
