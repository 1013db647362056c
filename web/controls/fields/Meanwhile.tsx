"use client";

/** What a field became elsewhere while somebody types in it. */
export function Meanwhile({ text, take }: { text: string | undefined; take: () => void }) {
  if (text === undefined) return null;
  return (
    <span role="status" className="block text-[11.5px] text-amber">
      Meanwhile it became {text === "" ? "blank" : `“${text}”`}; what you typed takes its place.{" "}
      {/* Before the field is left, which would store it. */}
      <button type="button" className="underline" onPointerDown={(event) => event.preventDefault()} onClick={take}>
        Take theirs
      </button>
    </span>
  );
}
