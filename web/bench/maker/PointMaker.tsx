"use client";
/** Making a point in any way, in every place of work: typed, picked on the sheet, or both; seen before it is made. */
import { useEffect, useMemo, useRef } from "react";
import { attributesOfPreset, type Preset } from "@bramble/core/construct/preset";
import { gapsOfNumbers, nextFreeNumber, numberedFrom } from "@bramble/core/job/change/next-number";
import { WAYS, type WayName } from "@bramble/core/construct/model";
import { formatFixed } from "@bramble/core/math/round";
import { numberIndex } from "@bramble/core/points/index";
import { Choice } from "../../controls/fields/Choice";
import { Tick } from "../../controls/fields/Tick";
import { Typed } from "../../controls/fields/Typed";
import { unless } from "../../controls/unless";
import { useJob, useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { decimalsOf } from "../../lib/units-shown";
import { anotherWay, BLANK, readDraft, type Draft } from "./draft";
import { makePoint } from "./make-point";
import { MakerForm } from "../lines/MakerForm";
import { Presets } from "./Presets";
import { WhichOfTwo } from "./WhichOfTwo";
import { inWords, useMaker, type Meant } from "./use-maker";
import { LevelFields, WayFields } from "./WayFields";

/** Opens the maker with a draft; what is selected fills its points where nothing else does. */
export function openMaker(draft?: Draft): void {
  const { job, points, kept, keep } = useJob.getState();
  // The sheet is picked on for one thing at a time.
  keep("measuring", undefined);
  const aside = draft ?? (kept["maker.aside"] as Draft | undefined);
  keep("maker.aside", undefined);
  if (aside) return keep("maker", aside);
  const rows = (points.size > 3 ? [] : [...points]).map((id) => job.points.number[job.points.id.indexOf(id)]!);
  const way: WayName =
      rows.length === 3 ? "fourth" : rows.length === 2 ? "ratio" : rows.length === 1 ? "azimuth" : "at",
    keys =
      { fourth: ["fourth.0", "fourth.1", "fourth.2"], ratio: ["between.0", "between.1"], azimuth: ["from"] }[
        way as string
      ] ?? [];
  const texts = Object.fromEntries([
    ...keys.map((key, k) => [key, rows[k]!]),
    ...(way === "ratio" ? [["ratio", "0.5"]] : []),
  ]);
  keep("maker", { ...BLANK, way, texts });
}

/** The maker where it is open, above whatever the bench shows. */
export function OpenMaker() {
  const [draft, setDraft] = useKept<Draft | undefined>("maker", undefined);
  return draft ? <PointMaker draft={draft} setDraft={setDraft} leave={() => setDraft(undefined)} /> : null;
}

const WAY_CHOICES = Object.entries(WAYS).map(([key, { name }]) => [key as WayName, name] as const);

function PointMaker({ draft, setDraft, leave }: { draft: Draft; setDraft: (next: Draft) => void; leave: () => void }) {
  const { job, set, select } = useParts("job", "set", "select"),
    [presetName, setPresetName] = useKept("maker.preset", ""),
    preset = job.presets?.find((p) => p.name === presetName),
    [own, setOwn] = useKept<Partial<Preset>>("maker.own", {}),
    [typed, setTyped] = useKept<string | undefined>("maker.number", undefined),
    [atOnce, setAtOnce] = useKept("maker.atOnce", false),
    [gapsShown, showGaps] = useKept("maker.gaps", false),
    first = useRef<HTMLDivElement>(null);
  const like: Partial<Preset> = { ...preset, ...own },
    offered = useMemo(
      () => nextFreeNumber(job, like.number ?? numberedFrom(job, like.kind ?? "computed")),
      [job, like.number, like.kind],
    ),
    number = (typed ?? offered).trim(),
    description = like.description ?? "",
    isTaken = numberIndex(job.points).has(number);

  /** Points are made one after another: each number is asked for when the last is there. */
  const making = useRef<Promise<void>>(Promise.resolve());
  const made = (meant: Meant) => {
    making.current = making.current.then(async () => {
      const { job } = useJob.getState(),
        number = (typed ?? nextFreeNumber(job, like.number ?? numberedFrom(job, like.kind ?? "computed"))).trim();
      const id = await makePoint({
        number,
        ...meant,
        description,
        ...(like.kind ? { kind: like.kind } : {}),
        attributes: attributesOfPreset(like as Preset),
        text: `Point ${number} made: ${inWords(job, meant)}`,
      });
      if (id === undefined) return;
      select({ points: [id] });
      set({ notice: { text: `Point ${number} made. Undo takes it out again.`, tone: "settled" } });
      setTyped(undefined);
      if (like.ask) setOwn({ ...own, description: "" });
      setDraft(cleared(draft));
    });
  };
  // In a series each click makes a point, unless something is still to be said of it.
  const pickedAtOnce = (next: Draft) => {
    const read = readDraft(next, maker.context);
    if (!atOnce || like.ask || isTaken || !("by" in read) || !next.picked) return;
    const { e, n, z } = next.picked,
      level = typeof read.elevation === "number" ? read.elevation : z;
    made({ ...read, at: [e, n, level] });
  };
  const maker = useMaker(draft, setDraft, undefined, pickedAtOnce);
  const { meant, armed, arm, fields } = maker,
    ready = meant && !isTaken && number !== "" && !(like.ask && description.trim() === "");
  // The first field has the keyboard when it opens; coordinates are picked at once.
  useEffect(() => {
    first.current?.querySelector("input")?.focus();
    if (draft.way === "at") arm("at");
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [draft.way]);
  return (
    <div
      ref={first}
      onKeyDown={(event) => {
        if (event.key === "Escape" && !armed) leave();
        else if (event.key === "Escape") arm(undefined);
        else if (event.altKey && /^[1-9]$/.test(event.key) && job.presets?.[Number(event.key) - 1])
          setPresetName(job.presets[Number(event.key) - 1]!.name);
        else return;
        event.stopPropagation();
        event.preventDefault();
      }}
    >
      <Presets
        preset={preset}
        like={like}
        choose={(name) => {
          setPresetName(name);
          setOwn({});
          setTyped(undefined);
        }}
        own={own}
        setOwn={setOwn}
      />
      <MakerForm below label="Make a point" keep={() => ready && made(meant)}>
        <div className="flex flex-wrap items-end gap-2">
          <Choice
            label="Way"
            width="max-w-52"
            value={draft.way}
            onChange={(way) => {
              arm(undefined);
              setDraft(anotherWay(draft, way));
            }}
            options={WAY_CHOICES}
          />
          <WayFields {...fields} />
          {draft.way === "at" && (
            <button
              type="button"
              className={`button ${armed === "at" ? "button-main" : ""}`}
              aria-pressed={armed === "at"}
              onClick={() => arm(armed === "at" ? undefined : "at")}
            >
              {armed === "at" ? "Stop picking" : "Pick a position"}
            </button>
          )}
          {draft.way === "at" && (
            <Tick
              words="Make one at each click"
              on={atOnce}
              set={setAtOnce}
              className="flex h-7 items-center gap-1.5"
            />
          )}
        </div>
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <LevelFields {...fields} hasSlope={maker.hasSlope} setLevel={(level) => setDraft({ ...draft, level })} />
          <Typed label="Number" text={typed ?? offered} onType={setTyped} wrong={isTaken} width="w-24" most={100} />
          <Typed
            label={like.ask ? "Description, asked each time" : "Description"}
            text={description}
            onType={(text) => setOwn({ ...own, description: text })}
            wrong={like.ask === true && description.trim() === ""}
            width="w-full"
            box="min-w-32 flex-1"
            most={200}
            placeholder="code, such as SPOT"
          />
        </div>
        <div className="mt-2 flex items-start gap-2">
          <div role="status" className="min-h-10 min-w-0 flex-1 text-soft" data-testid="point-position">
            {isTaken ? (
              <p className="text-amber">There is a point {number} already.</p>
            ) : (
              <Said maker={maker} words={meant && inWords(job, meant)} />
            )}
            {gapsShown && <Gaps take={setTyped} />}
          </div>
          <button type="button" className="button" aria-expanded={gapsShown} onClick={() => showGaps(!gapsShown)}>
            Gaps
          </button>
          <button type="button" className="button" onClick={leave}>
            Leave it
          </button>
          <button className="button button-main" {...unless(!ready && "The line beside it says what it still needs.")}>
            Make the point
          </button>
        </div>
      </MakerForm>
    </div>
  );
}

/** What is made next begins where this one did: its way and level stay, what tells the one point goes. */
const cleared = ({ way, texts, level }: Draft): Draft =>
  way === "at" ? { way, texts: {}, level: level === "typed" ? "none" : level } : { way, texts, level };

/** Where it would be, which of two is meant, what is wrong or still needed. */
function Said({ maker, words }: { maker: ReturnType<typeof useMaker>; words: string | undefined }) {
  const { job } = useParts("job"),
    d = decimalsOf(job.unit),
    { given, problem, draft } = maker,
    text = ([e, n, z]: readonly [number, number, number]) => {
      const plan = [`N ${formatFixed(n, d)}`, `E ${formatFixed(e, d)}`];
      return `${(job.order === "EN" ? plan.reverse() : plan).join(", ")}, ${Number.isNaN(z) ? (draft.level === "surface" ? "off the surface: its level is missing" : "without a level") : `level ${formatFixed(z, d)} ${job.unit}`}`;
    };
  if (problem) return <p className="text-amber">{problem.problem}</p>;
  if (!given)
    return (
      <p>
        {draft.way === "at"
          ? "Type coordinates, or pick a position on the sheet."
          : "Fill the fields; points by number, or by a click on the sheet while their field is marked."}
      </p>
    );
  const { at, problem: none } = given.construed;
  if (none) return <p className="text-amber">{none}</p>;
  if (at.length === 1)
    return (
      <p>
        {text(at[0]!)}
        {draft.picked?.said && `, ${draft.picked.said}`}
        <span className="block truncate">{words}</span>
      </p>
    );
  return <WhichOfTwo maker={maker} text={text} />;
}

/** Numbers that no point has, amid those that there are; told on demand. */
function Gaps({ take }: { take: (number: string) => void }) {
  const { job } = useParts("job"),
    { gaps, more } = useMemo(() => gapsOfNumbers(job.points, 12), [job.points]);
  if (gaps.length === 0) return <p>There is no gap amid the numbers.</p>;
  return (
    <p>
      Free amid the others:{" "}
      {gaps.map(([from, to]) => (
        <button key={from} type="button" className="mr-2 text-bramble underline" onClick={() => take(String(from))}>
          {from === to ? from : `${from}–${to}`}
        </button>
      ))}
      {more > 0 && `and ${more} more gaps`}
    </p>
  );
}
