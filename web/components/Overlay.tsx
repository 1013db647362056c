"use client";
import type { ReactNode } from "react";
import { Dialog } from "radix-ui";

/** A panel over the window for short things that are asked for by a key. */
export function Overlay({
  open,
  close,
  title,
  wide,
  onClosed,
  children,
}: {
  open: boolean;
  close: () => void;
  title: string;
  wide?: boolean;
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
          className={`fixed top-[12vh] left-1/2 z-40 ${wide ? "w-[560px]" : "w-[440px]"} max-w-[94vw] -translate-x-1/2 rounded-sm border border-rule bg-bench p-4 shadow-xl`}
        >
          <Dialog.Title className="heading">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
