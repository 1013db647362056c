"use client";
import { Overlay } from "../controls/Overlay";
import { SHORTCUTS } from "./use-shortcuts";

export function Shortcuts({ open, close }: { open: boolean; close: () => void }) {
  return (
    <Overlay open={open} close={close} title="Shortcuts" width={860}>
      <dl className="-mx-2 mt-2 min-h-0 columns-[360px] gap-x-8 overflow-auto rounded-sm p-2" tabIndex={0}>
        {SHORTCUTS.map(([key, what]) => (
          <div key={key} className="grid break-inside-avoid grid-cols-[116px_minmax(0,1fr)] gap-x-2 pb-1">
            <dt className="font-medium">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Overlay>
  );
}
