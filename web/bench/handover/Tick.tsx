/** Something that is wanted or not. */
export function Tick({
  words,
  on,
  set,
  title,
}: {
  words: string;
  on: boolean;
  set: (on: boolean) => void;
  title?: string;
}) {
  return (
    <label className="flex h-7 items-center gap-2" title={title}>
      <input type="checkbox" checked={on} onChange={(event) => set(event.target.checked)} />
      {words}
    </label>
  );
}
