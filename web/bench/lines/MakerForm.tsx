"use client";
import type { ReactNode } from "react";

/** The form above the list in which a line, a point or what else is added is made; Enter keeps it. */
export function MakerForm({
  label,
  keep,
  below = false,
  children,
}: {
  label: string;
  keep: () => void;
  /** It goes on below what is said of it. */
  below?: boolean;
  children: ReactNode;
}) {
  return (
    <form
      aria-label={label}
      className={`shrink-0 border-rule bg-paper px-4 pb-3 ${below ? "border-b pt-2" : "border-y pt-3"}`}
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      {children}
    </form>
  );
}
