"use client";
/** The sheet on the page: two canvases, and what the pointer and the keys do on them, told to the controller. */
import { useEffect, useRef, type PointerEvent } from "react";
import { useParts } from "../lib/store";
import { SheetController } from "./controller";
import { DescribedSheet } from "./DescribedSheet";
import { drawnExtent } from "./extent";
import { Legend } from "./Legend";
import { TextPanel } from "./TextPanel";
import { PrintedLine } from "./PrintedLine";
import { useReadout } from "./readout-store";

export function Sheet() {
  const frame = useRef<HTMLDivElement>(null),
    base = useRef<HTMLCanvasElement>(null),
    over = useRef<HTMLCanvasElement>(null),
    sheet = useRef<SheetController>(undefined);
  const { job, status, incoming } = useParts("job", "status", "incoming");
  useEffect(() => {
    sheet.current = new SheetController(frame.current!, base.current!, over.current!);
    return sheet.current.start();
  }, []);
  const at = (event: PointerEvent): [number, number] => {
    const r = frame.current!.getBoundingClientRect();
    return [event.clientX - r.left, event.clientY - r.top];
  };
  return (
    <div className="relative h-full min-h-0 bg-sheet print:h-auto">
      <div
        ref={frame}
        data-testid="sheet"
        role="application"
        aria-label="Sheet: the drawing in plan. Arrow keys move it, plus and minus zoom, Home shows all."
        aria-describedby="sheet-described"
        tabIndex={0}
        className="absolute inset-0 cursor-crosshair overflow-hidden -outline-offset-2 select-none print:relative print:inset-auto"
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          sheet.current!.gesture.down(...at(event), event.shiftKey);
        }}
        onPointerMove={(event) => sheet.current!.pointAt(...at(event))}
        onPointerUp={(event) => sheet.current!.gesture.up(...at(event))}
        onPointerCancel={() => sheet.current!.gesture.cancel()}
        onPointerLeave={() => useReadout.setState({ at: undefined, under: undefined, hit: undefined })}
        onKeyDown={(event) => {
          if (event.ctrlKey || event.metaKey || event.altKey) return;
          if (sheet.current!.key(event.key)) event.preventDefault();
        }}
      >
        <canvas ref={base} className="absolute inset-0 h-full w-full" />
        <canvas ref={over} className="pointer-events-none absolute inset-0 h-full w-full" data-testid="sheet-text" />
      </div>
      <Legend />
      <TextPanel />
      <PrintedLine />
      <DescribedSheet />
      {status === "ready" && !drawnExtent(job) && !incoming?.length && (
        <p
          className={
            "print:hidden pointer-events-none absolute inset-x-0 top-1/2 -translate-y-1/2 " +
            "text-center font-serif text-[15px] text-soft"
          }
        >
          The drawing begins with the first intake.
        </p>
      )}
    </div>
  );
}
