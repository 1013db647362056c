"use client";
import type { ReactNode } from "react";

/** The form above the list in which a line, a point or what else is added is made; Enter keeps it. */
export function MakerForm({ label, keep, children }: { label: string; keep: () => void; children: ReactNode }) {
  return (
    <form
      aria-label={label}
      className="shrink-0 border-y border-rule bg-paper px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      {children}
    </form>
  );
}
