"use client";
/** The browser's own choice of a file, out of sight: a button of ours opens it by its ref. */
import type { RefObject } from "react";

export function FileInput({
  input,
  label,
  accept,
  take,
}: {
  input: RefObject<HTMLInputElement | null>;
  /** What the file is, for those who do not see the button. */
  label: string;
  /** Endings with their points, by commas. */
  accept: string;
  take(file: File): void;
}) {
  return (
    <input
      ref={input}
      type="file"
      accept={accept}
      className="sr-only"
      aria-label={label}
      tabIndex={-1}
      onChange={({ target }) => {
        const file = target.files?.[0];
        if (file) take(file);
        // The same file can be chosen again.
        target.value = "";
      }}
    />
  );
}
