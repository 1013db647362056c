"use client";
/** The one window of a job: path, bench, sheet, tray and readout. */
import dynamic from "next/dynamic";
import { useCallback, useEffect, useState, type ReactNode } from "react";
import { usePathname } from "next/navigation";
import { Group, Panel, Separator } from "react-resizable-panels";
import { BENCHES } from "../bench/benches";
import { OpenMeasuring } from "../bench/maker/MeasurePanel";
import { OpenMaker } from "../bench/maker/PointMaker";
import { useJob } from "../lib/store";
import { useAuthor } from "../lib/author";
import { Sheet } from "../sheet/Sheet";
import { SectionPanel } from "../panel/SectionPanel";
import { Following } from "../panel/Following";
import { SheetControls } from "../panel/SheetControls";
import { AskAuthor } from "./AskAuthor";
import { DropAnywhere } from "./DropAnywhere";
import { GoTo } from "./GoTo";
import { PathBar } from "./PathBar";
import { Readout } from "./Readout";
import { Shortcuts } from "./Shortcuts";
import { Tray } from "./tray/Tray";
import { Rehearsal } from "./Rehearsal";
import { Unsaved } from "./Unsaved";
import { useShortcuts } from "./use-shortcuts";

/** What draws in 3D comes when it is looked at first. */
const Relief = dynamic<{ alone: boolean }>(
  () =>
    import("../sheet/relief/Relief").then(
      (m) => m.Relief,
      () => ReliefAway,
    ),
  { ssr: false },
);
const ReliefAway = () => (
  <p role="alert" className="m-4 border-l-2 border-red px-3 text-red">
    What draws in 3D could not be fetched: the server does not answer. The plan is there; reload the page once it is
    back.
  </p>
);

const NOTICE_COLORS = { problem: "bg-amber-wash text-amber", settled: "bg-paper text-leaf", plain: "bg-paper" };

export function Workspace({ id, children }: { id: number; children: ReactNode }) {
  const author = useAuthor();
  const open = useJob((s) => s.open);
  const status = useJob((s) => s.status),
    failure = useJob((s) => s.failure),
    notice = useJob((s) => s.notice),
    seenAs = useJob((s) => s.seenAs),
    // What is drawn or picked on the plan needs it.
    plan = useJob(
      (s) => s.seenAs !== "relief" || !!s.ring || !!s.mesh || !!s.corners || !!s.picking || s.section === "begun",
    );
  const [tray, setTray] = useState<"findings" | "ledger" | undefined>();
  const [dialog, setDialog] = useState<"go-to" | "shortcuts" | undefined>();
  const openShortcuts = useCallback(() => setDialog("shortcuts"), []);
  useEffect(() => {
    void open(id);
  }, [id, open]);
  const here = usePathname().split("/")[3] ?? "",
    Bench = BENCHES[here];
  useShortcuts({
    openGoTo: () => setDialog("go-to"),
    openShortcuts: () => setDialog("shortcuts"),
    toggleTray: (t) => setTray((now) => (now === t ? undefined : t)),
  });

  if (author === undefined) return null;
  if (author === "") return <AskAuthor />;
  return (
    <div className="flex h-dvh flex-col overflow-hidden print:block print:h-auto print:overflow-visible">
      <DropAnywhere />
      <PathBar openGoTo={() => setDialog("go-to")} openShortcuts={() => setDialog("shortcuts")} />
      <main className="min-h-0 flex-1 print:h-auto">
        <Group
          orientation="horizontal"
          id="workspace"
          className="h-full print:!block print:!h-auto print:!overflow-visible"
        >
          <Panel id="bench-panel" defaultSize="46%" minSize="320px" className="min-w-0 print:!hidden">
            <section aria-label="Bench" className="flex h-full min-h-0 flex-col bg-bench">
              {status === "failed" ? (
                <p role="alert" className="p-6 text-red">
                  {failure}
                </p>
              ) : status === "loading" ? (
                <p className="p-6 text-soft">Opening the job …</p>
              ) : (
                <>
                  <OpenMaker />
                  <OpenMeasuring />
                  {Bench ? <Bench /> : children}
                </>
              )}
            </section>
          </Panel>
          <Separator
            className="w-[5px] border-x border-rule bg-paper hover:bg-bramble-wash data-[separator=active]:bg-bramble print:hidden"
            aria-label="Width of the bench"
          />
          <Panel id="sheet-panel" minSize="320px" className="min-w-0 print:!h-auto print:!overflow-visible">
            <div className="relative flex h-full flex-col print:block print:h-auto">
              <SheetControls />
              <div className="relative h-0">
                <Following />
              </div>
              <div className={plan ? "min-h-0 flex-1" : "hidden print:block"}>
                <Sheet />
              </div>
              {seenAs !== "plan" && (
                <div className={`min-h-0 flex-1 print:hidden ${plan ? "border-t border-rule" : ""}`}>
                  <Relief alone={!plan} />
                </div>
              )}
              <SectionPanel />
              {/* What is told lies over the foot of the sheet: it moves nothing under the pointer, and covers no row or button. */}
              <div className="absolute inset-x-0 bottom-0 z-30 print:hidden">
                <Rehearsal />
                <Unsaved />
                {notice && (
                  <div
                    role="status"
                    className={`flex items-center gap-3 border-t border-rule px-4 py-1.5 shadow-sm ${NOTICE_COLORS[notice.tone]}`}
                  >
                    <span className="min-w-0 flex-1">{notice.text}</span>
                    {notice.action && (
                      <button className="button h-6" onClick={notice.action.go}>
                        {notice.action.name}
                      </button>
                    )}
                    <button
                      className="button-plain button h-6"
                      onClick={() => useJob.getState().set({ notice: undefined })}
                    >
                      Close
                    </button>
                  </div>
                )}
              </div>
            </div>
          </Panel>
        </Group>
      </main>
      <Tray open={tray} setOpen={setTray} />
      <Readout />
      <GoTo
        open={dialog === "go-to"}
        close={() => setDialog((now) => (now === "go-to" ? undefined : now))}
        openTray={setTray}
        openShortcuts={openShortcuts}
      />
      <Shortcuts open={dialog === "shortcuts"} close={() => setDialog(undefined)} />
    </div>
  );
}
