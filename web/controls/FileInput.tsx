"use client";
/** The browser's own choice of a file, out of sight: a button of ours opens it by its ref. */
import type { RefObject } from "react";

export function FileInput({
  input,
  label,
  accept,
  many = false,
  take,
}: {
  input: RefObject<HTMLInputElement | null>;
  /** What the file is, for those who do not see the button. */
  label: string;
  /** Endings with their points, by commas. */
  accept?: string;
  /** Whether several are chosen at once. */
  many?: boolean;
  take(files: File[]): void;
}) {
  return (
    <input
      ref={input}
      type="file"
      accept={accept}
      multiple={many}
      className="sr-only"
      aria-label={label}
      tabIndex={-1}
      onChange={({ target }) => {
        if (target.files?.length) take([...target.files]);
        // The same file can be chosen again.
        target.value = "";
      }}
    />
  );
}
