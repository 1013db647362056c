"use client";
import type { ReactNode } from "react";
import { Dialog } from "radix-ui";

/** A panel over the window for short things that are asked for by a key. */
export function Overlay({
  open,
  close,
  title,
  width = 440,
  onClosed,
  children,
}: {
  open: boolean;
  close: () => void;
  title: string;
  /** Pixels. */
  width?: number;
  /** Before the focus goes back to where it was. */
  onClosed?: (event: Event) => void;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={onClosed}
          style={{ width }}
          className={[
            "fixed top-[12vh] left-1/2 z-40 flex max-h-[80vh] max-w-[94vw] -translate-x-1/2 flex-col",
            "rounded-sm border border-rule bg-bench p-4 shadow-xl",
          ].join(" ")}
        >
          <Dialog.Title className="heading">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
