/**
 * Which points give way to which: a fact between deliveries, worked out from how each of them answers for its numbers. It is
 * no edit: when a delivery leaves, what gave way to it is there again.
 *
 * Deliveries speak in their order, whatever the office made before all of them. A point whose delivery answers “replace”
 * makes those that have its number give way; one whose delivery answers “keep first” gives way itself. Points that the
 * office took out make others give way as well: what was measured again stays measured again.
 */
import type { ClashPolicy, IntakeInfo } from "../intake/model";
import { GONE_DELETED, GONE_GAVE_WAY, type PointTable } from "./table";

/** A point as far as numbers are concerned. */
export interface Claimant {
  /** Turn of its delivery; −1 where the office made it. */
  turn: number;
  /** The number that it has, and the one that it came with. */
  number: string;
  came: string;
  /** The office took it out. */
  isOut: boolean;
}

/** How a delivery answers for a number of its own that is there already. */
export type AnswerOf = (turn: number, came: string) => ClashPolicy;

export const answersOf =
  (intakes: readonly Pick<IntakeInfo, "clash" | "answers">[]): AnswerOf =>
  (turn, came) => {
    const { answers, clash } = intakes[turn]!;
    return answers && Object.hasOwn(answers, came) ? answers[came]! : (clash ?? "stop");
  };

export interface GivingWay {
  /** 1 for each claimant that gives way. */
  away: Uint8Array;
  /** Two that have one number with no answer between them; the later one first. */
  open: [number, number][];
}

/** `all` are in the order of their turns, those of one turn in that of their rows. Linear. */
export function givingWay(all: readonly Claimant[], answerOf: AnswerOf): GivingWay {
  const away = new Uint8Array(all.length),
    open: [number, number][] = [],
    // Who has a number now, and who came with it and has it still, though the office may have taken it out.
    holder = new Map<string, number>(),
    came = new Map<string, number[]>();
  const giveWay = (k: number) => {
    away[k] = 1;
    if (holder.get(all[k]!.number) === k) holder.delete(all[k]!.number);
  };
  all.forEach((p, k) => {
    const before = holder.get(p.number),
      answer = p.turn < 0 ? "stop" : answerOf(p.turn, p.came);
    if (answer === "replace") {
      for (const earlier of came.get(p.came) ?? []) if (away[earlier] === 0) giveWay(earlier);
      if (before !== undefined && away[before] === 0) giveWay(before);
    } else if (answer === "keep-first" && before !== undefined) away[k] = 1;
    else if (before !== undefined && !p.isOut) open.push([k, before]);
    if (p.number === p.came) {
      const list = came.get(p.came);
      if (list) list.push(k);
      else came.set(p.came, [k]);
    }
    if (away[k] === 0 && !p.isOut && !holder.has(p.number)) holder.set(p.number, k);
  });
  return { away, open };
}

/**
 * The job's `deleted` column as it was before a delivery had its turn: later ones are not there yet, nor what gave way to
 * them; nor is the delivery itself.
 */
export function beforeTurn(
  t: Pick<PointTable, "count" | "id" | "intake" | "number" | "deleted" | "cameAs">,
  intakes: readonly Pick<IntakeInfo, "clash" | "answers">[],
  turn: number,
): Uint8Array<ArrayBuffer> {
  // Nobody gives way to nobody: the last delivery comes to what is there.
  if (turn >= intakes.length && !t.deleted.some((d) => d & GONE_GAVE_WAY)) return t.deleted.slice();
  const out = new Uint8Array(t.count),
    rows = Int32Array.from({ length: t.count }, (_, i) => i)
      .filter((i) => t.intake[i]! < turn)
      .sort((a, b) => t.intake[a]! - t.intake[b]! || a - b);
  const { away } = givingWay(
    Array.from(rows, (i) => ({
      turn: t.intake[i]!,
      number: t.number[i]!,
      came: t.cameAs?.[t.id[i]!] ?? t.number[i]!,
      isOut: (t.deleted[i]! & GONE_DELETED) !== 0,
    })),
    answersOf(intakes),
  );
  for (let i = 0; i < t.count; i++)
    out[i] = (t.deleted[i]! & ~GONE_GAVE_WAY) | (t.intake[i]! < turn ? 0 : GONE_GAVE_WAY);
  rows.forEach((i, k) => {
    if (away[k] === 1) out[i]! |= GONE_GAVE_WAY;
  });
  return out;
}
