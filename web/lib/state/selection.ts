/** What is selected everywhere at once, and where the sheet is to look. */
import type { Finding } from "@bramble/core";
import type { EditField } from "@bramble/core/records/fields";
import type { Box } from "../box";

/** A position to show: the sheet goes there when it changes. */
export interface Target extends Box {
  serial: number;
}

export interface Selection {
  /** Ids of the selected points. */
  points: ReadonlySet<number>;
  /** Keys of the selected lines. */
  lines: ReadonlySet<string>;
  finding: Finding | undefined;
  /** The finding's position has its ring: until the list in which it was chosen is closed. */
  isRinged: boolean;
  target: Target | undefined;
  /** The point whose row is to have the keyboard, and the cell of it, when it changes. */
  arrival: { point: number; field?: EditField; serial: number } | undefined;
  arriveAt(point: number, field?: EditField): void;
  select(what: { points?: Iterable<number>; lines?: Iterable<string>; finding?: Finding }): void;
  show(box: Box | undefined): void;
}
