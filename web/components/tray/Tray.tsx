"use client";
/** The slide-up tray: findings to look at, and the ledger of every change. */
import { Tabs } from "radix-ui";
import { useParts } from "../../lib/store";
import { BEFORE, useKnown } from "../../lib/use-known";
import { Findings } from "./Findings";
import { Ledger } from "./Ledger";

type Open = "findings" | "ledger" | undefined;

export function Tray({ open, setOpen }: { open: Open; setOpen: (o: Open) => void }) {
  const { ledger, held, rehearse } = useParts("ledger", "held", "rehearse"),
    { known, before } = useKnown(),
    serious = known?.serious ?? 0;
  const tab =
    "h-full border-b-2 border-transparent px-3 hover:text-bramble data-[state=active]:border-bramble data-[state=active]:font-semibold data-[state=active]:text-bramble";
  return (
    <Tabs.Root value={open ?? ""} onValueChange={(v) => setOpen(v as Open)} asChild>
      <section aria-label="Findings and ledger" className="shrink-0 border-t border-rule bg-paper print:hidden">
        <div className="flex h-8 items-center px-1">
          <Tabs.List aria-label="Tray" className="flex h-full">
            <Tabs.Trigger
              value="findings"
              className={tab}
              onMouseDown={() => open === "findings" && setOpen(undefined)}
            >
              Findings{" "}
              <span className={`tabular-nums text-soft ${before ? BEFORE : ""}`}>{known ? known.open : "…"}</span>
              {serious > 0 && (
                <span className={`ml-1.5 text-[11.5px] font-semibold tabular-nums text-amber ${before ? BEFORE : ""}`}>
                  {serious} to look at
                </span>
              )}
            </Tabs.Trigger>
            <Tabs.Trigger value="ledger" className={tab} onMouseDown={() => open === "ledger" && setOpen(undefined)}>
              Ledger <span className="tabular-nums text-soft">{ledger.length}</span>
            </Tabs.Trigger>
          </Tabs.List>
          <span className="flex-1" />
          {!held && (
            <button
              className="button button-plain h-6"
              title="Try changes without storing them, and see what becomes of lines, findings and volumes (R)"
              onClick={rehearse}
            >
              Rehearse
            </button>
          )}
          {open && (
            <button className="button button-plain h-6" onClick={() => setOpen(undefined)}>
              Close the tray
            </button>
          )}
        </div>
        <Tabs.Content value="findings" className="h-72 border-t border-rule bg-bench">
          <Findings />
        </Tabs.Content>
        <Tabs.Content value="ledger" className="h-56 overflow-auto border-t border-rule bg-bench">
          <Ledger />
        </Tabs.Content>
      </section>
    </Tabs.Root>
  );
}
