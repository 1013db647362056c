/** The cue `past`: the object stands ahead of the shot, seen from the crew's previous shot (FIELD-CODES.md). */
import { readLength } from "../math/reach";
import { asShot, shotsByIntake, type ShotColumns } from "../points/shots";
import type { Position, PointTable } from "../points/table";
import { notice, pts, say, type Noticed } from "../finding";
import type { CompiledBook } from "./book";
import { readCodes, type CodedPoints } from "./read";
import type { ParsedDescription } from "./description";

/** AHEAD, RIGHT and UP of a `past`, in the job's unit; undefined when it is not written so. */
export function pastValue(value: string | undefined): Position | undefined {
  const parts = (value ?? "").split(",").map((s) => s.trim());
  const numbers = parts.map(readLength);
  if ((parts.length !== 1 && parts.length !== 3) || numbers.some(Number.isNaN)) return undefined;
  return [numbers[0]!, numbers[1] ?? 0, numbers[2] ?? 0];
}

/** The `past` that a shot's description carries, of whichever of its elements. */
export function pastOf(parsed: ParsedDescription | undefined): { value: string | undefined } | undefined {
  for (const e of parsed?.elements ?? []) for (const c of e.cues) if (c.action === "past") return { value: c.value };
  return undefined;
}

/**
 * The table with points that say `past` where their objects are, and what was shot kept beside. Directions are from the
 * previous shot as shot to this one as shot. The same table when no description says so. Inputs are not changed.
 */
export function placePast(given: PointTable, book: CompiledBook): PointTable {
  const t = asShot(given);
  // Words are looked for before anything is parsed: few jobs have such a shot.
  const spelt = book.spellingsOf("past");
  if (!t.texts.some((text) => text.includes("=") && spelt.some((word) => text.toLowerCase().includes(word)))) return t;
  const { parsed, description } = readCodes(t, book);
  const says = parsed.map((p) => pastOf(p));
  if (!says.some(Boolean)) return t;
  const shotAt = new Map<number, Position>(),
    e = t.e.slice(),
    n = t.n.slice(),
    z = t.z.slice();
  for (const shots of shotsByIntake(t)) {
    shots.forEach((i, k) => {
      const said = says[description[i]!],
        moved = said && pastValue(said.value),
        before = shots[k - 1];
      if (!moved || before === undefined) return;
      const [ahead, right, up] = moved;
      const de = t.e[i]! - t.e[before]!,
        dn = t.n[i]! - t.n[before]!,
        length = Math.hypot(de, dn);
      if (length === 0) return;
      shotAt.set(t.id[i]!, [t.e[i]!, t.n[i]!, t.z[i]!]);
      e[i] = t.e[i]! + (de * ahead + dn * right) / length;
      n[i] = t.n[i]! + (dn * ahead - de * right) / length;
      z[i] = t.z[i]! + up;
    });
  }
  return shotAt.size ? { ...t, e, n, z, shotAt } : t;
}

/** Shots whose `past` does nothing, and why. `t` as placePast left it. */
export function ignoredPast(
  t: ShotColumns & Pick<PointTable, "id" | "e" | "n" | "shotAt">,
  coded: CodedPoints,
): Noticed[] {
  if (!coded.parsed.some((p) => pastOf(p))) return [];
  return shotsByIntake(t).flatMap((shots) =>
    Array.from(shots).flatMap((i, k) => {
      const said = pastOf(coded.parsed[coded.description[i]!]!);
      if (!said || t.shotAt?.has(t.id[i]!)) return [];
      const why = !pastValue(said.value)
        ? `“past=${said.value ?? ""}” is not written as past=AHEAD or past=AHEAD,RIGHT,UP`
        : k === 0
          ? "it is the crew's first shot, so that no direction is known"
          : "the shot before stands at the same position, so that no direction is known";
      return [
        notice("cue-ignored", "note", say`Point ${pts(i)}: ${why}; the cue does nothing.`, {
          points: [i],
          at: [t.e[i]!, t.n[i]!],
          subject: `past ${t.id[i]!}`,
        }),
      ];
    }),
  );
}
