"use client";
/** The relief on the page: two canvases, what the pointer and the keys do on them, and how heights and light are chosen. */
import { useEffect, useRef, type PointerEvent } from "react";
import { formatFixed } from "@bramble/core/math/round";
import { useParts } from "../../lib/store";
import { Legend } from "../Legend";
import { useReadout } from "../readout-store";
import { ReliefController } from "./controller";
import { HEIGHTS } from "./orbit";
import { LIGHTS, type Light } from "../../lib/state/choices";
import { Choice } from "../../controls/fields/Choice";

/** `alone`: the plan, which has the legend, is not there. */
export function Relief({ alone }: { alone: boolean }) {
  const frame = useRef<HTMLDivElement>(null),
    base = useRef<HTMLCanvasElement>(null),
    over = useRef<HTMLCanvasElement>(null),
    relief = useRef<ReliefController>(undefined);
  const { heights, light, view, status, set } = useParts("heights", "light", "view", "status", "set");
  useEffect(() => {
    relief.current = new ReliefController(frame.current!, base.current!, over.current!);
    return relief.current.start();
  }, []);
  const at = (event: PointerEvent): [number, number] => {
    const r = frame.current!.getBoundingClientRect();
    return [event.clientX - r.left, event.clientY - r.top];
  };
  return (
    <div className="relative h-full min-h-0 bg-sheet print:hidden">
      <div
        ref={frame}
        data-testid="relief"
        role="application"
        aria-label="The ground in 3D. Arrow keys turn and tilt it, plus and minus zoom, Home shows all."
        tabIndex={0}
        className="absolute inset-0 cursor-grab overflow-hidden -outline-offset-2 select-none active:cursor-grabbing"
        onContextMenu={(event) => event.preventDefault()}
        onPointerDown={(event) => {
          relief.current!.moves = event.button !== 0 || event.ctrlKey || event.metaKey;
          event.currentTarget.setPointerCapture(event.pointerId);
          relief.current!.gesture.down(...at(event), event.shiftKey);
        }}
        onPointerMove={(event) => relief.current!.pointAt(...at(event))}
        onPointerUp={(event) => relief.current!.gesture.up(...at(event))}
        onPointerCancel={() => relief.current!.gesture.cancel()}
        onPointerLeave={() => useReadout.setState({ at: undefined, under: undefined, hit: undefined })}
        onKeyDown={(event) => {
          if (event.ctrlKey || event.metaKey || event.altKey) return;
          if (relief.current!.key(event.key)) event.preventDefault();
        }}
      >
        <canvas ref={base} className="absolute inset-0 h-full w-full" />
        <canvas ref={over} className="pointer-events-none absolute inset-0 h-full w-full" />
      </div>
      {alone && <Legend above />}
      <div className="absolute top-2 right-2 z-[5] flex gap-1.5">
        <Choice
          label="Heights in 3D"
          named={false}
          width="px-1.5 text-[12px]"
          title="How many times higher than they are heights are shown"
          value={heights ?? ""}
          onChange={(v) => set({ heights: v || undefined })}
          options={[
            ["", "heights by the ground"],
            ...HEIGHTS.map((k) => [k, `heights × ${formatFixed(k, k % 1 ? 1 : 0)}`] as const),
          ]}
        />
        <Choice
          label="Light in 3D"
          named={false}
          width="px-1.5 text-[12px]"
          value={light}
          onChange={(v) => set({ light: v })}
          options={(Object.keys(LIGHTS) as Light[]).map((name) => [name, `light from ${name}`] as const)}
        />
      </div>
      {status === "ready" && !view.surfaces.some((s) => s.value) && (
        <p className="pointer-events-none absolute inset-x-0 top-10 text-center text-soft">
          There is no surface yet: points and lines stand at their own levels.
        </p>
      )}
    </div>
  );
}
