"use client";
import { Overlay } from "./Overlay";
import { SHORTCUTS } from "./use-shortcuts";

export function Shortcuts({ open, close }: { open: boolean; close: () => void }) {
  return (
    <Overlay open={open} close={close} title="Shortcuts">
      <dl className="mt-3 grid grid-cols-[120px_1fr] gap-y-1">
        {SHORTCUTS.map(([key, what]) => [
          <dt key={key} className="font-medium">
            {key}
          </dt>,
          <dd key={`${key} what`}>{what}</dd>,
        ])}
      </dl>
    </Overlay>
  );
}
