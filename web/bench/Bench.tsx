import type { ReactNode } from "react";
import { useParts } from "../lib/store";

/** The frame of every bench: a heading with what there is, actions on the right, and the work below. */
export function Bench({
  title,
  about,
  actions,
  figures = false,
  children,
}: {
  title: string;
  about?: ReactNode;
  actions?: ReactNode;
  /** It shows figures that follow from the job: while they are of before, it is said under the heading. */
  figures?: boolean;
  children: ReactNode;
}) {
  const { deriving, stopped } = useParts("deriving", "stopped");
  return (
    <>
      <div className="relative flex min-h-12 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 px-4 py-2">
        <h1 className="heading">{title}</h1>
        <div className="min-w-20 flex-1 text-soft">{about}</div>
        {figures && (deriving || stopped) && (
          // Below the heading, where nothing gives way to it.
          <span
            role="status"
            className={`absolute bottom-0 left-4 text-[11px] leading-3 text-amber ${stopped ? "" : "late"}`}
            data-testid="as-last-known"
          >
            as last known
          </span>
        )}
        {actions}
      </div>
      {children}
    </>
  );
}

export function Fact({ name, children, strong }: { name: string; children: ReactNode; strong?: boolean }) {
  return (
    <div className="row justify-between gap-4">
      <dt className="text-soft">{name}</dt>
      <dd className={`num ${strong ? "font-semibold" : ""}`}>{children}</dd>
    </div>
  );
}

/** Why something could not be made, where it would have stood. */
export function Failed({ children }: { children: ReactNode }) {
  return (
    <p role="alert" className="mt-3 border-l-2 border-amber bg-amber-wash px-3 py-2 text-amber">
      {children}
    </p>
  );
}
