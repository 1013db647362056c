/** Where the shots of a field stand on its lines. */
import type { LevelField } from "./field";

/** A place of a shot on a line. */
export interface Member {
  string: number;
  at: number;
}

export interface Members {
  /** None where a shot stands on no line. */
  of(shot: number): readonly Member[];
}

export function membersOf(field: LevelField): Members {
  const all = new Map<number, Member[]>(),
    none: Member[] = [];
  field.strings.forEach((s, string) =>
    s.shots.forEach((shot, at) => {
      const known = all.get(shot);
      if (known) known.push({ string, at });
      else all.set(shot, [{ string, at }]);
    }),
  );
  return { of: (shot) => all.get(shot) ?? none };
}
