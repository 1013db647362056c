"use client";
/** The pairs of a fit: found by number, by nearness after a first fit, picked or typed, each taken out with what that does. */
import { useEffect, useState } from "react";
import { METRES } from "@bramble/core";
import type { FitTold, MoveTold } from "@bramble/core/job/told/moving";
import type { Snap } from "@bramble/core/lines/snap";
import { turnWords } from "@bramble/core/math/angles";
import { formatFixed } from "@bramble/core/math/round";
import { lengthTyped } from "@bramble/core/math/typed";
import { plural } from "@bramble/core/math/words";
import { numberIndex } from "@bramble/core/points/index";
import type { MovePair } from "@bramble/core/points/moves";
import { refOf } from "@bramble/core/points/refs";
import { Choice } from "../../controls/fields/Choice";
import { Tick } from "../../controls/fields/Tick";
import { Typed } from "../../controls/fields/Typed";
import { unless } from "../../controls/unless";
import { useJob, useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { useFound } from "../../lib/use-found";
import { draftNow } from "./begin";
import type { MoveDraft } from "./draft";

interface Of {
  draft: MoveDraft;
  setDraft: (next: MoveDraft) => void;
}

export function FitForm({ draft, setDraft, told }: Of & { told: MoveTold | undefined }) {
  return (
    <>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <Choice
          label="Scale"
          value={draft.scale}
          onChange={(scale) => setDraft({ ...draft, scale })}
          options={[
            ["1", "kept at 1"],
            ["free", "fitted too"],
          ]}
        />
        <Choice
          label="Levels"
          value={draft.levels}
          onChange={(levels) => setDraft({ ...draft, levels })}
          options={[
            ["none", "stay"],
            ["shift", "by their mean difference"],
            ["plane", "by a plane"],
          ]}
        />
      </div>
      <FindPairs draft={draft} setDraft={setDraft} />
      {draft.pairs.length > 0 && <PairTable draft={draft} setDraft={setDraft} fit={told?.fit} />}
    </>
  );
}

const samePair = (a: MovePair, b: MovePair) => a.from === b.from && a.to === b.to;

function FindPairs({ draft, setDraft }: Of) {
  const { job, ask, set } = useParts("job", "ask", "set"),
    [strip, setStrip] = useState(""),
    [within, setWithin] = useState(""),
    [typed, setTyped] = useState({ from: "", to: "" }),
    u = job.unit,
    counted = draft.pairs.filter((p) => !p.out).length,
    index = numberIndex(job.points),
    distance = lengthTyped(within, u);
  const add = (more: MovePair[]) => {
    const now = draftNow();
    if (!now) return 0;
    const fresh = more.filter((p) => !now.pairs.some((x) => samePair(x, p)));
    setDraft({ ...now, pairs: [...now.pairs, ...fresh] });
    return fresh.length;
  };
  const find = async (asked: { by: "number"; strip?: string } | { by: "near"; within: number }) => {
    const move = {
      name: draft.name,
      points: draft.points,
      ...(counted >= 2
        ? { fit: { pairs: draft.pairs, ...(draft.scale === "free" ? { scale: "free" as const } : {}) } }
        : { transform: { move: [0, 0, 0] as const } }),
    };
    const pairs = await ask({ what: "pairs", move, asked, old: draft.old, taken: draft.pairs });
    const found = add(pairs);
    set({
      notice: found
        ? { text: `${plural(found, "pair")} found.`, tone: "settled" }
        : { text: "No further pair was found.", tone: "plain" },
    });
  };
  const row = (number: string) => index.get(number.trim()) ?? -1,
    ref = (number: string) => refOf(job.points, job.intakes, row(number)),
    isWrong = (number: string) => number.trim() !== "" && row(number) < 0;
  return (
    <div className="mt-2 grid gap-1.5">
      <div className="flex flex-wrap items-end gap-2">
        <Typed
          label="By number, without"
          width="w-24"
          text={strip}
          placeholder="*-A or A*"
          most={50}
          onType={setStrip}
        />
        <button
          type="button"
          className="button"
          onClick={() => void find({ by: "number", ...(strip.includes("*") ? { strip: strip.trim() } : {}) })}
          {...unless(
            !strip.includes("*") && "Say what stands before or behind the number, with a star for the number: *-A.",
          )}
        >
          Find by number
        </button>
        <Typed
          label={`Nearest within, ${u}`}
          width="num w-24"
          text={within}
          placeholder={u === "m" ? "0.5" : "1.5"}
          most={50}
          onType={setWithin}
          wrong={within.trim() !== "" && !(distance! > 0)}
        />
        <button
          type="button"
          className="button"
          onClick={() => void find({ by: "near", within: distance ?? 0.5 / METRES[u] })}
          {...unless(within.trim() !== "" && !(distance! > 0) && "A distance above 0.")}
        >
          {counted >= 2 ? "Find after this fit" : "Find as they are"}
        </button>
      </div>
      <div className="flex flex-wrap items-end gap-2">
        <Typed
          label="Point that moves"
          width="w-24"
          text={typed.from}
          most={100}
          onType={(from) => setTyped({ ...typed, from })}
          wrong={isWrong(typed.from)}
        />
        <Typed
          label="comes to point"
          width="w-24"
          text={typed.to}
          most={100}
          onType={(to) => setTyped({ ...typed, to })}
          wrong={isWrong(typed.to)}
        />
        <button
          type="button"
          className="button"
          onClick={() => {
            add([{ from: ref(typed.from), to: ref(typed.to) }]);
            setTyped({ from: "", to: "" });
          }}
          {...unless(
            row(typed.from) < 0 || row(typed.to) < 0
              ? "Type the numbers of two points of the job."
              : row(typed.from) === row(typed.to) && "A point is no pair with itself.",
          )}
        >
          Add the pair
        </button>
        <PickPairs add={add} />
      </div>
    </div>
  );
}

/** Pairs by clicks on the sheet, one point after the other, until Esc. */
function PickPairs({ add }: { add: (more: MovePair[]) => number }) {
  const { job, set } = useParts("job", "set"),
    [first, setFirst] = useState<string | null>();
  useEffect(() => {
    if (first === undefined) return;
    set({
      picking: {
        hint: first === null ? "Click a point that moves; Esc ends" : "Click the point that it comes to; Esc ends",
        points: true,
        left: () => {
          setFirst(undefined);
          set({ picking: undefined });
        },
        take: ({ point }: Snap) => {
          if (point === undefined)
            return set({ notice: { text: "A pair is of two points: click nearer to one.", tone: "plain" } });
          const ref = refOf(job.points, job.intakes, point);
          if (first === null) return setFirst(ref);
          if (first !== ref) add([{ from: first, to: ref }]);
          setFirst(null);
        },
      },
    });
  });
  useEffect(() => () => useJob.getState().set({ picking: undefined }), []);
  return (
    <button
      type="button"
      className="button"
      aria-pressed={first !== undefined}
      onClick={() => {
        if (first !== undefined) set({ picking: undefined });
        setFirst(first === undefined ? null : undefined);
      }}
    >
      Pick pairs
    </button>
  );
}

/** Pairs with what is left at each after the fit; the largest is the first to be doubted. */
function PairTable({ draft, setDraft, fit }: Of & { fit: FitTold | undefined }) {
  const { job } = useParts("job"),
    { numberOf, rowOf: rowOfRef } = useFound(),
    t = job.points,
    d = decimalsOf(job.unit),
    u = job.unit,
    figure = (x: number | undefined) =>
      x === undefined || Number.isNaN(x) ? "–" : formatFixed(x, d).replace("-", "−"),
    levels = draft.levels !== "none";
  const left = (p: MovePair) =>
    fit?.residuals.find((r) => r.from === t.id[rowOfRef(p.from)] && r.to === t.id[rowOfRef(p.to)]);
  const plan = (p: MovePair) => {
    const r = left(p);
    return r && !r.out ? Math.hypot(r.dE, r.dN) : -1;
  };
  const worst = draft.pairs.length > 2 ? Math.max(...draft.pairs.map(plan)) : Infinity;
  const put = (of: MovePair, next: MovePair | undefined) =>
    setDraft({ ...draft, pairs: draft.pairs.flatMap((p) => (samePair(p, of) ? (next ? [next] : []) : [p])) });
  return (
    <>
      <table className="plain mt-2" aria-label="Pairs">
        <thead>
          <tr>
            <th className="w-8" aria-label="Counts" />
            <th>Moves</th>
            <th>Comes to</th>
            <th className="num">dN</th>
            <th className="num">dE</th>
            {levels && <th className="num">dZ</th>}
            <th className="num">Plan, {u}</th>
            <th className="num" title="RMS in plan of the others, were this pair taken out">
              RMS without
            </th>
            <th className="w-8" aria-label="Remove" />
          </tr>
        </thead>
        <tbody>
          {draft.pairs.map((p) => {
            const r = left(p),
              names = [numberOf(p.from), numberOf(p.to)],
              off = p.out ? "text-soft" : "";
            return (
              <tr key={`${p.from} ${p.to}`}>
                <td>
                  <Tick
                    label={`Count ${names.join(" and ")}`}
                    on={!p.out}
                    set={(on) => put(p, { from: p.from, to: p.to, ...(on ? {} : { out: true }) })}
                  />
                </td>
                <td className={off}>{names[0]}</td>
                <td className={off}>{names[1]}</td>
                <td className={`num ${off}`}>{figure(r?.dN)}</td>
                <td className={`num ${off}`}>{figure(r?.dE)}</td>
                {levels && <td className={`num ${off}`}>{figure(r?.dZ)}</td>}
                <td className={`num ${off} ${plan(p) === worst && worst > 0 ? "font-semibold" : ""}`}>
                  {figure(r && Math.hypot(r.dE, r.dN))}
                </td>
                <td className="num text-soft">{figure(r?.without)}</td>
                <td>
                  <button
                    type="button"
                    className="button button-plain h-6 px-1.5"
                    aria-label={`Remove the pair ${names.join(" and ")}`}
                    title="Remove the pair"
                    onClick={() => put(p, undefined)}
                  >
                    ×
                  </button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {fit && (
        <p role="status" className="mt-1" data-testid="fit-told">
          {[
            `Turned ${turnWords(fit.rotation)}`,
            ...(draft.scale === "free"
              ? [
                  `scaled by ${formatFixed(fit.scale, 7)} (${formatFixed((fit.scale - 1) * 1e6, 1).replace("-", "−")} ppm)`,
                ]
              : []),
            `RMS ${figure(fit.rmsPlan)} ${u} in plan`,
            ...(levels && !Number.isNaN(fit.rmsLevel) ? [`${figure(fit.rmsLevel)} ${u} in level`] : []),
          ].join(", ")}
          .{" "}
          {draft.pairs.filter((p) => !p.out).length === 2 &&
            draft.scale === "free" &&
            "Two pairs leave nothing over: a third would show whether they are right."}
        </p>
      )}
    </>
  );
}
