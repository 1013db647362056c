/** A point that the office makes, with what it follows and what a preset gives it, as one change. */
import type { OneChange, EditableChange } from "@bramble/core/job/change/change";
import type { By, Construction, LevelBy } from "@bramble/core/construct/model";
import { nextFreeNumber, numberedFrom } from "@bramble/core/job/change/next-number";
import { lineName } from "@bramble/core/lines/model";
import { addToNumber } from "@bramble/core/points/numbers";
import type { LineShown } from "../../lib/view";
import { encodeAttributes } from "@bramble/core/points/attributes";
import type { PointKind } from "@bramble/core/records/kinds";
import { useJob } from "../../lib/store";

export interface PointWanted {
  number: string;
  by: By;
  elevation?: number | LevelBy;
  /** Where it stands by that now. */
  at: readonly [e: number, n: number, z: number];
  description: string;
  kind?: Exclude<PointKind, "reference">;
  attributes?: Readonly<Record<string, string>>;
  /** What was done, for the ledger: “901 made: 12 az 47°30′ 12.250”. */
  text: string;
}

/** What a point follows; undefined where all of it was typed. */
export function followed(
  point: number,
  { by, elevation }: Pick<PointWanted, "by" | "elevation">,
): Construction | undefined {
  const follows = { ...("at" in by ? {} : { by }), ...(typeof elevation === "object" ? { elevation } : {}) };
  return Object.keys(follows).length ? { point, ...follows } : undefined;
}

/** Makes it; its id, or undefined where it cannot be made, which is then said. */
export async function makePoint(wanted: PointWanted): Promise<number | undefined> {
  const made = await changesOf(wanted);
  if (!made) return undefined;
  const { id, changes } = made,
    one: EditableChange = changes.length === 1 ? changes[0]! : { type: "several", text: wanted.text, changes };
  return useJob.getState().change(one) ? id : undefined;
}

/** Points for the corners that cues made of a line, one change of all of them. */
export async function numberCorners(line: LineShown): Promise<void> {
  const { ask, job, change, set, select } = useJob.getState(),
    corners = await ask({ what: "corners", line: line.key });
  let number = nextFreeNumber(job, numberedFrom(job, "computed"));
  const [ids, all, numbers]: [number[], OneChange[], string[]] = [[], [], []];
  for (const { at, by, elevation } of corners) {
    const made = await changesOf({
      number,
      by,
      at,
      description: "",
      text: "",
      ...(elevation === undefined ? {} : { elevation }),
    });
    if (!made) return;
    ids.push(made.id);
    all.push(...made.changes);
    numbers.push(number);
    number = addToNumber(number, 1);
  }
  if (!ids.length)
    return set({ notice: { text: `${lineName(line)} has no corner that a point could be made of.`, tone: "plain" } });
  const text = `Made corners of ${lineName(line)} numbered ${numbers.join(", ")}`;
  if (!change({ type: "several", text, changes: all })) return;
  select({ points: ids, lines: [line.key] });
  set({ notice: { text: `${text}. Undo takes them out again.`, tone: "settled" } });
}

async function changesOf(wanted: PointWanted): Promise<{ id: number; changes: OneChange[] } | undefined> {
  const { pointToMake } = useJob.getState(),
    [e, n, z] = wanted.at,
    points = await pointToMake({ ...wanted, e, n, z: typeof wanted.elevation === "object" ? NaN : z });
  if (!points) return undefined;
  const id = points.id[0]!,
    follows = followed(id, wanted),
    attributes = encodeAttributes(wanted.attributes ?? {});
  const changes: OneChange[] = [
    { type: "add", points },
    ...(attributes
      ? [{ type: "points" as const, edits: [{ id, field: "attributes" as const, old: "", new: attributes }] }]
      : []),
    ...(follows
      ? [{ type: "named" as const, part: "computed" as const, name: String(id), old: null, new: follows }]
      : []),
  ];
  return { id, changes };
}
