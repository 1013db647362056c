/** A move as it is typed, and what it says. */
import { settingOf, type JobState } from "@bramble/core";
import { readDirection, type AngleStyle } from "@bramble/core/math/angles";
import { movementOf } from "@bramble/core/math/similarity";
import { plainNumber } from "@bramble/core/math/round";
import { numberTyped, readTypedLength } from "@bramble/core/math/typed";
import type { Move, MovePair, PointsToMove } from "@bramble/core/points/moves";

export type Texts = Record<"dN" | "dE" | "up" | "turn" | "scale" | "aboutN" | "aboutE", string>;

export interface MoveDraft {
  name: string;
  /** The name of the move that is changed; none where a new one is made. */
  old?: string;
  points: PointsToMove;
  way: "move" | "fit";
  texts: Texts;
  pairs: MovePair[];
  scale: "1" | "free";
  levels: "none" | "shift" | "plane";
}

const BLANK: Texts = { dN: "", dE: "", up: "", turn: "", scale: "", aboutN: "", aboutE: "" };

export const newDraft = (name: string, points: PointsToMove): MoveDraft => ({
  name,
  points,
  way: "move",
  texts: BLANK,
  pairs: [],
  scale: "1",
  levels: "none",
});

/** The next name that is free: Move 1, Move 2, … */
export function freeMoveName(moves: readonly Move[]): string {
  const taken = new Set(moves.map((m) => m.name));
  let k = 1;
  while (taken.has(`Move ${k}`)) k++;
  return `Move ${k}`;
}

/** A move that is there, to be changed. */
export function draftOfMove(m: Move): MoveDraft {
  const { move = [0, 0, 0], rotate = 0, scale = 1, about } = m.transform ?? {},
    said = (x: number, none: number) => (x === none ? "" : plainNumber(x));
  return {
    ...newDraft(m.name, m.points),
    old: m.name,
    way: m.fit ? "fit" : "move",
    texts: {
      dE: said(move[0], 0),
      dN: said(move[1], 0),
      up: said(move[2], 0),
      turn: said(rotate, 0),
      scale: said(scale, 1),
      aboutE: about ? plainNumber(about[0]) : "",
      aboutN: about ? plainNumber(about[1]) : "",
    },
    ...(m.fit
      ? { pairs: m.fit.pairs, scale: m.fit.scale === "free" ? "free" : "1", levels: m.fit.levels ?? "none" }
      : {}),
  };
}

export type ReadMove = { move: Move } | { needs: string } | { problem: string; at: keyof Texts };

/** The move that is meant, or what is missing or wrong. */
export function readMove(draft: MoveDraft, job: JobState): ReadMove {
  const { name, points, texts } = draft,
    about = { name: name.trim(), points };
  if (draft.way === "fit") {
    const counted = draft.pairs.filter((p) => !p.out).length;
    if (counted < 2) return { needs: "A fit needs two pairs at least, a level fit by a plane three." };
    return {
      move: {
        ...about,
        fit: { pairs: draft.pairs, ...(draft.scale === "free" ? { scale: "free" } : {}), levels: draft.levels },
      },
    };
  }
  const values: Partial<Record<keyof Texts, number>> = {};
  for (const key of Object.keys(BLANK) as (keyof Texts)[]) {
    if (texts[key].trim() === "") continue;
    const read =
      key === "turn"
        ? angleTyped(texts[key], settingOf(job, "angle"))
        : key === "scale"
          ? scaleTyped(texts[key])
          : readTypedLength(texts[key], job.unit);
    if ("problem" in read) return { problem: read.problem, at: key };
    values[key] = read.value;
  }
  const { dE = 0, dN = 0, up = 0, turn, scale, aboutE, aboutN } = values,
    turns = turn !== undefined || scale !== undefined;
  if (turns && (aboutE === undefined || aboutN === undefined))
    return { needs: "Say about which position: type it, or pick it on the sheet." };
  const transform = {
    ...(dE || dN || up ? { move: [dE, dN, up] as const } : {}),
    ...(turn === undefined ? {} : { rotate: turn }),
    ...(scale === undefined ? {} : { scale }),
    ...(turns ? { about: [aboutE!, aboutN!] as const } : {}),
  };
  const { plan, rise } = movementOf(transform);
  if (!rise && plan.sin === 0 && plan.cos === 1 && plan.from[0] === plan.to[0] && plan.from[1] === plan.to[1])
    return { needs: "Say by how much: a move, a turn, a scale or a rise." };
  return { move: { ...about, transform } };
}

/** An angle that something is turned by, clockwise: to the right, or with a minus to the left. */
function angleTyped(text: string, style: AngleStyle): { value: number } | { problem: string } {
  const plain = text.trim().replace(/^[−-]/, "-"),
    left = plain.startsWith("-"),
    read = readDirection(
      left ? plain.slice(1) : plain.replace(/^\+/, ""),
      style === "azimuth-gon" ? style : "azimuth-dms",
    );
  if (read === undefined) return { problem: "An angle such as 12.5, 12°30′ or −0°00′30″." };
  const degrees = Number(((read / Math.PI) * 180).toFixed(9));
  return { value: left ? -degrees : degrees };
}

function scaleTyped(text: string): { value: number } | { problem: string } {
  // Parts per million are how a scale is spoken of where it is near one.
  const plain = text.replaceAll("−", "-").trim(),
    isPpm = plain.toLowerCase().endsWith("ppm"),
    value = isPpm ? 1 + numberTyped(plain.slice(0, -3)) * 1e-6 : numberTyped(plain);
  return value >= 1e-6 && value <= 1e6 ? { value } : { problem: "A scale such as 0.99985, or 120 ppm." };
}
