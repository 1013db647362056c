"use client";
/** The chosen finding: what it rests on, the repairs with their effect before they are taken, and its acceptance. */
import { Constructed } from "../../bench/maker/Constructed";
import { useImperativeHandle, useState, type Ref } from "react";
import {
  acceptanceOf,
  openedAgain,
  withPoint,
  type Accepted,
  type EditableChange,
  type Finding,
  type OneChange,
} from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { namesNow } from "../../lib/findings";
import { useJob, useParts } from "../../lib/store";
import { leadsTo, openFinding } from "../../lib/subjects";
import { useKept } from "../../lib/use-kept";
import { useTrial } from "../../lib/use-trial";
import { AcceptForm } from "./AcceptForm";
import { AttributeForm } from "./AttributeForm";
import { EvidenceChart } from "./EvidenceChart";
import { Effect } from "../../bench/states/Effect";
import { useFacts } from "./use-finding";

const OPEN = {
  move: "Open the moves",
  cell: "Open the cell",
  line: "Open the line",
  setup: "Open the setup",
  setting: "Open the setting",
  intake: "Open the intake",
};
/** Keys that choose a repair: figures, then letters that mean nothing else there. */
const CHOOSING = "123456789bcehijmnpqrtuvwyz";
/** A change holds no more than this. */
const MOST_AT_ONCE = 900;

export interface DetailKeys {
  /** Whether the key meant something here. */
  key(key: string): boolean;
}

interface About {
  /** The keys of the list that are meant for the finding. */
  ref: Ref<DetailKeys>;
  alike: readonly Finding[];
  backToList: () => void;
}

const REPAIR = "flex w-full items-baseline gap-2 px-1 py-0.5 text-left hover:text-bramble";

export function FindingDetail({ f, ...about }: About & { f: Finding | undefined }) {
  return (
    <section aria-label="The chosen finding" className="flex w-[50%] min-w-0 shrink-0 flex-col border-l border-rule">
      {f ? (
        <Chosen key={f.key} f={f} {...about} />
      ) : (
        <p className="p-4 text-soft">
          Up and down go from one finding to the next, and the sheet goes along. A figure chooses a repair, Enter takes
          it, A accepts the finding, Shift Enter opens where it is mended.
        </p>
      )}
    </section>
  );
}

function Chosen({ ref, f, alike, backToList }: About & { f: Finding }) {
  const { change, pointToMake } = useParts("change", "pointToMake");
  const facts = useFacts(f);
  const [chosen, setChosen] = useState<number>(),
    [accepting, setAccepting] = useState<"one" | "all">(),
    [reason, setReason] = useKept("findings.reason", ""),
    [filling, setFilling] = useState(false),
    [filled, setFilled] = useState<EditableChange>();
  const offered = chosen === undefined ? undefined : facts?.repairs[chosen],
    repair = offered?.change,
    wanted = filling ? filled : repair,
    trial = useTrial(wanted),
    { attribute } = f.data;
  const same = alike.filter((x) => x.kind === f.kind && x.accepted === undefined);

  const take = async () => {
    if (!wanted) return;
    const makes = filling ? undefined : offered?.makes,
      made = makes && (await pointToMake(makes));
    if (makes && !made) return;
    change(made ? withPoint(wanted, made) : wanted);
    backToList();
  };
  const accept = (all: boolean) => {
    if (reason.trim() === "") return;
    for (const c of acceptances(all ? same : [f], reason.trim())) change(c);
    setAccepting(undefined);
    backToList();
  };
  useImperativeHandle(ref, () => ({
    key(key) {
      const k = CHOOSING.indexOf(key);
      if (facts?.repairs[k]) setChosen(k === chosen ? undefined : k);
      else if (key === "1" && typeof attribute === "string" && f.accepted === undefined) setFilling(true);
      else if (key === "Enter" && repair) void take();
      // Enter takes a repair and nothing else: what it opened would have the keyboard, and the next figure for its value.
      else if (key === "Shift Enter" && leadsTo(f)) openFinding(f);
      else if (key === "a" && f.accepted === undefined) setAccepting("one");
      else if (key === "A" && same.length > 1) setAccepting("all");
      else if (key === "Escape" && (repair || accepting)) {
        setChosen(undefined);
        setAccepting(undefined);
      } else return false;
      return true;
    },
  }));

  return (
    <div className="flex min-h-0 flex-1">
      {facts?.evidence && <EvidenceChart evidence={facts.evidence} f={f} />}
      <div className="min-w-0 flex-1 overflow-auto px-3 py-2">
        {f.accepted !== undefined && (
          <p className="flex items-center gap-3">
            <span className="min-w-0 flex-1 text-leaf">Accepted: {f.accepted}</span>
            <button className="button h-6" onClick={() => reopen(f)}>
              Open it again
            </button>
          </p>
        )}
        {f.kind === "computed-lost" && f.points[0] !== undefined && <Constructed id={f.points[0]} />}
        {typeof attribute === "string" && f.accepted === undefined && (
          <AttributeForm
            f={f}
            attribute={attribute}
            open={filling}
            setOpen={(open) => {
              setFilling(open);
              if (!open) backToList();
            }}
            made={setFilled}
            take={() => void take()}
          />
        )}
        {facts?.repairs.length === 0 &&
          f.kind !== "computed-lost" &&
          f.accepted === undefined &&
          typeof attribute !== "string" && (
            <p className="text-soft">No repair is known here: mend it where it leads to, or accept it.</p>
          )}
        <ol aria-label="Repairs" className="space-y-1">
          {facts?.repairs.map((r, k) => (
            <li key={r.name}>
              <button
                className={`${REPAIR} ${k === chosen ? "bg-bramble-wash font-medium" : ""}`}
                aria-pressed={k === chosen}
                onClick={() => setChosen(k === chosen ? undefined : k)}
              >
                <kbd className="w-4 shrink-0 text-soft">{CHOOSING[k]}</kbd>
                {r.name}
              </button>
            </li>
          ))}
        </ol>
        {wanted && <Effect trial={trial} take={() => void take()} />}
        {accepting ? (
          <AcceptForm
            count={accepting === "all" ? same.length : 1}
            kind={f.kind}
            reason={reason}
            setReason={setReason}
            accept={() => accept(accepting === "all")}
            leave={() => {
              setAccepting(undefined);
              backToList();
            }}
          />
        ) : (
          <Answers f={f} same={same.length} accept={setAccepting} />
        )}
      </div>
    </div>
  );
}

/** What may be done about a finding beside its repairs; `same` counts the open ones of its kind. */
function Answers({ f, same, accept }: { f: Finding; same: number; accept: (which: "one" | "all") => void }) {
  const to = leadsTo(f);
  return (
    <div className="mt-2 flex flex-wrap gap-2">
      {f.accepted === undefined && (
        <button className="button h-6" onClick={() => accept("one")}>
          Accept …
        </button>
      )}
      {f.accepted === undefined && same > 1 && (
        <button className="button button-plain h-6" onClick={() => accept("all")}>
          Accept all {same} of this kind …
        </button>
      )}
      {to && (
        <button
          className="button button-plain h-6"
          title={`${OPEN[to]}, where it is mended (Shift Enter)`}
          onClick={() => openFinding(f)}
        >
          {OPEN[to]}
        </button>
      )}
    </div>
  );
}

/** Acceptances as changes: those of one deed together, as many as one change may hold. */
function acceptances(findings: readonly Finding[], reason: string): EditableChange[] {
  const { accepted } = useJob.getState().job,
    byName = new Map(accepted.map((a) => [a.name, a])),
    names = namesNow();
  const ones = findings.map((f): OneChange => {
    const made: Accepted = acceptanceOf(f, reason, (key) => names.line(key));
    return { type: "named", part: "accepted", name: made.name, old: byName.get(made.name) ?? null, new: made };
  });
  if (ones.length === 1) return ones;
  const out: EditableChange[] = [];
  for (let k = 0; k < ones.length; k += MOST_AT_ONCE) {
    const changes = ones.slice(k, k + MOST_AT_ONCE);
    out.push({ type: "several", text: `${plural(changes.length, "finding")} accepted`, changes });
  }
  return out;
}

/** Takes back what settles a finding, and nothing that settles another. */
function reopen(f: Finding): void {
  const { job, view, change } = useJob.getState();
  for (const { old, new: kept } of openedAgain(f, job.accepted, view.lines, job.unit))
    change({ type: "named", part: "accepted", name: old.name, old, new: kept });
}
