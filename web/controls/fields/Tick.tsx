import type { ReactNode } from "react";
import type { unless } from "../unless";

/** Something that is wanted or not. */
export function Tick({
  words,
  label,
  on,
  set,
  title,
  className = "flex h-7 items-center gap-2",
  without,
}: {
  /** What stands beside it. */
  words?: ReactNode;
  /** What it is, for those who do not see where it stands; instead of words, or where they are too short. */
  label?: string;
  on: boolean;
  set: (on: boolean) => void;
  title?: string | undefined;
  className?: string;
  /** Why it cannot be changed now. */
  without?: ReturnType<typeof unless>;
}) {
  const box = (
    <input
      type="checkbox"
      {...(label ? { "aria-label": label } : {})}
      checked={on}
      onChange={(event) => set(event.target.checked)}
      {...without}
    />
  );
  if (words === undefined) return box;
  return (
    <label className={className} title={title}>
      {box}
      {words}
    </label>
  );
}

/** One of a few that stand side by side, of which one holds. */
export function Radio({
  group,
  words,
  on,
  set,
  autoFocus,
  className = "flex h-6 items-center gap-2",
}: {
  /** Those of one group exclude one another. */
  group: string;
  words: ReactNode;
  on: boolean;
  set: () => void;
  autoFocus?: boolean;
  className?: string;
}) {
  return (
    <label className={className}>
      <input type="radio" name={group} checked={on} autoFocus={autoFocus} onChange={set} />
      {words}
    </label>
  );
}
