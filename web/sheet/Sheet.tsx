"use client";
/** The sheet: the drawing, the same in every place. It draws when something changed and says so in `data-frame`. */
import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type WheelEvent,
} from "react";
import { METRES, type JobState } from "@bramble/core";
import { isDrawn } from "@bramble/core/drawing/layout";
import type { Snap } from "@bramble/core/lines/snap";
import { pointIndex } from "@bramble/core/math/near";
import { extentOf } from "@bramble/core/points/table";
import { SurfaceReader } from "@bramble/core/surface/locate";
import { boxOf, useJob, type Box } from "../lib/store";
import { lineAt } from "../lib/view";
import { placesOf } from "../lib/places";
import { fitTo, toPixel, toPlan, zoomAt, type PlanView } from "./camera";
import { inSight, SEEN } from "./drafting";
import { drawOverlay } from "./overlay";
import { pick } from "./pick";
import { PlanScene } from "./scene";
import { sheetColors } from "./theme";
import { PointerTool } from "./tool";
import { DescribedSheet } from "./DescribedSheet";
import { useReadout } from "./readout-store";

/** Largest scale, 1 : this, at which texts are laid out. */
const NEAREST = 10;

/** Points above which texts are laid out for the window only. */
const LARGE = 60_000;

const START: PlanView = { e: 0, n: 0, scale: 1, width: 0, height: 0 };

export function Sheet() {
  const gl = useRef<HTMLCanvasElement>(null),
    over = useRef<HTMLCanvasElement>(null),
    frame = useRef<HTMLDivElement>(null);
  const scene = useRef<PlanScene>(undefined);
  const plan = useRef<PlanView>(START);
  const box = useRef<[number, number, number, number]>(undefined);
  const snapped = useRef<Snap>(undefined),
    snapping = useRef(false);
  const pending = useRef(false),
    fitted = useRef(-1),
    moving = useRef(false),
    settle = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** Counts what makes the whole drawing new: the drawing surface itself and the theme. */
  const [themeCount, setThemeCount] = useState(0);
  const {
    job,
    view,
    layers,
    layout,
    paperScale,
    preview,
    picking,
    target,
    points: selectedPoints,
    lines: selectedLines,
    finding,
    surface,
    volume,
    incoming,
    status,
    jobId,
  } = useJob();
  const metres = METRES[job.unit];

  const colorOf = useMemo(
    () => new Map((job.book.codes ?? []).map((c) => [c.code.toUpperCase(), c.color ?? "#5d554b"])),
    [job.book],
  );
  /** Codes of points that are not drawn. */
  const hidden = useMemo(
    () =>
      new Set(
        (job.book.codes ?? [])
          .filter(
            (c) => !isDrawn({ group: c.group ?? "", layer: c.layer ?? c.code, kind: c.kind }, job.drawing?.hidden),
          )
          .map((c) => c.code.toUpperCase()),
      ),
    [job.book, job.drawing?.hidden],
  );
  const shownSurface = view.surfaces.find((s) => s.name === surface)?.value?.surface;
  const shownVolume = view.volumes.find((v) => v.name === volume);
  const reader = useMemo(() => (shownSurface ? new SurfaceReader(shownSurface) : undefined), [shownSurface]);
  const selectedPlaces = useMemo(() => placesOf(job.points, selectedPoints), [job.points, selectedPoints]);

  /** Asks for texts at their places when the scale or the wish is another; of a large job for what is in sight. */
  const wanted = useRef("");
  const wantTexts = useCallback(
    (unitsPerMm: number) => {
      const v = plan.current,
        want = {
          notes: layers.notes,
          points: layers.points && layers.numbers,
          contours: layers.contours && layers.labels,
        };
      const margin = 0.25,
        [minE, maxN] = toPlan(v, -margin * v.width, -margin * v.height),
        [maxE, minN] = toPlan(v, (1 + margin) * v.width, (1 + margin) * v.height);
      const within = job.points.count > LARGE ? { minE, maxN, maxE, minN } : undefined;
      const key = JSON.stringify([
        jobId,
        paperScale,
        unitsPerMm.toPrecision(4),
        want,
        within && [v.e, v.n].map((x) => x.toFixed(1)),
      ]);
      if (key === wanted.current) return;
      wanted.current = key;
      useJob.getState().askTexts({ unitsPerMm, want, within, mostOrNone: paperScale === undefined });
    },
    [layers, job.points.count, jobId, paperScale],
  );

  const draw = useCallback(() => {
    pending.current = false;
    const v = plan.current,
      ctx = over.current?.getContext("2d");
    if (!scene.current || !ctx || v.width === 0) return;
    const colors = sheetColors();
    const blank = job.points.count === 0 && !incoming?.length;
    const drawing = job.drawing ?? {},
      sight = inSight(view, job.points, v, drawing);
    scene.current.setVisible("points", layers.points && !sight.fineSymbols);
    scene.current.setVisible("lines", layers.lines && !sight.fineLines);
    scene.current.render(v, colors.sheet, moving.current);
    const unitsPerMm = paperScale === undefined ? SEEN / v.scale : paperScale / 1000 / metres;
    // From nearer than 1 : 10 texts are only magnified: laid out anew, lines and crowns would be kilometres of paper.
    if (!moving.current) wantTexts(Math.max(unitsPerMm, NEAREST / 1000 / metres));
    drawOverlay(ctx, {
      plan: v,
      colors,
      table: job.points,
      view,
      order: job.order,
      unit: job.unit,
      selectedPlaces,
      selectedLines: [...selectedLines].flatMap((key) => lineAt(view, key) ?? []),
      drafting: { plan: v, colors, table: job.points, view, drawing, unitsPerMm, layout, show: layers },
      sight,
      preview,
      snap: picking ? snapped.current : undefined,
      hint: picking?.hint,
      mark: finding?.at as [number, number] | undefined,
      box: box.current,
      blank,
    });
    const el = frame.current!;
    el.dataset.view = [v.e, v.n, v.scale, v.width, v.height].join(" ");
    el.dataset.frame = String(Number(el.dataset.frame ?? 0) + 1);
    useReadout.setState({ scale: v.scale });
    // Counted from the frame drawn, not from the hand: a slow machine must not fill the pauses with whole frames.
    if (moving.current) {
      clearTimeout(settle.current);
      settle.current = setTimeout(() => {
        moving.current = false;
        requestAnimationFrame(() => latest.current());
      }, 300);
    }
  }, [
    job,
    view,
    layers,
    selectedPlaces,
    selectedLines,
    finding,
    incoming,
    layout,
    paperScale,
    metres,
    wantTexts,
    preview,
    picking,
  ]);

  const latest = useRef(draw);
  latest.current = draw;
  const redraw = useCallback(() => {
    if (pending.current) return;
    pending.current = true;
    requestAnimationFrame(() => latest.current());
  }, []);

  /** A frame of a movement: coarse on a large job; when the hand rests the whole follows. */
  const moved = useCallback(() => {
    moving.current = true;
    clearTimeout(settle.current);
    redraw();
  }, [redraw]);
  useEffect(() => () => clearTimeout(settle.current), []);

  // The drawing surface, its size and the theme. The surface takes its time to start: first the bench is painted.
  const opened = status !== "loading";
  useEffect(() => {
    if (!opened) return;
    const soon = requestAnimationFrame(() =>
      requestAnimationFrame(() => {
        if (!gl.current) return;
        scene.current = new PlanScene(gl.current);
        scene.current.resize(plan.current.width, plan.current.height);
        setThemeCount((c) => c + 1);
      }),
    );
    return () => {
      cancelAnimationFrame(soon);
      scene.current?.dispose();
      scene.current = undefined;
    };
  }, [opened]);
  useEffect(() => {
    const observer = new ResizeObserver(() => {
      const { clientWidth: width, clientHeight: height } = frame.current!;
      const before = plan.current;
      plan.current = { ...before, width, height };
      scene.current?.resize(width, height);
      over.current!.width = width * devicePixelRatio;
      over.current!.height = height * devicePixelRatio;
      // A canvas of another size is blank: it is drawn before the page is painted.
      latest.current();
    });
    observer.observe(frame.current!);
    const theme = new MutationObserver(() => setThemeCount((c) => c + 1));
    theme.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    return () => {
      observer.disconnect();
      theme.disconnect();
    };
  }, [redraw]);

  const fitAll = useCallback(() => {
    const x = drawnExtent(useJob.getState().job);
    if (x && plan.current.width) plan.current = fitTo(plan.current, x, METRES[useJob.getState().job.unit]);
    redraw();
  }, [redraw]);

  // A job just opened is shown whole; its origin is near its points.
  useEffect(() => {
    if (status !== "ready" || fitted.current === jobId || !scene.current) return;
    const x = drawnExtent(job);
    if (!x) return;
    fitted.current = jobId;
    scene.current.origin = [Math.floor(x.minE), Math.floor(x.minN)];
    fitAll();
  }, [status, jobId, job, fitAll, themeCount]);

  // What the survey shows goes to the scene when it changes.
  useEffect(() => {
    scene.current?.setPoints(job.points, view, colorOf, hidden, sheetColors());
    redraw();
    // Places, codes and kinds: a level changed draws no point anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [
    job.points.e,
    job.points.n,
    job.points.deleted,
    job.points.kind,
    view.code,
    view.codes,
    view.known,
    colorOf,
    hidden,
    themeCount,
    redraw,
    jobId,
  ]);
  useEffect(() => {
    scene.current?.setLines(view, job.drawing?.hidden, sheetColors());
    redraw();
    // The chains come with their lines.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view.chains, view.lines, job.drawing?.hidden, themeCount, redraw]);
  useEffect(() => {
    scene.current?.setContours(
      view.contours.flatMap((c) => (c.value ? [c.value.contours] : [])),
      sheetColors(),
    );
    redraw();
  }, [view.contours, themeCount, redraw]);
  useEffect(() => {
    scene.current?.setTriangles(layers.triangles ? shownSurface : undefined, sheetColors());
    redraw();
  }, [shownSurface, layers.triangles, themeCount, redraw]);
  useEffect(() => {
    scene.current?.setReference(
      job.delivered.flatMap((d) => (d.reference ? [d.reference] : [])),
      sheetColors(),
    );
    redraw();
    // The origin is set with the first points or reference of the job.
  }, [job.delivered, themeCount, redraw, jobId, job.points.count]);
  const recipe = job.volumes.find((x) => x.name === volume);
  useEffect(() => {
    const source = view.surfaces.find((s) => s.name === recipe?.surface)?.value;
    const range =
      layers.map && shownVolume?.value && recipe && source
        ? {
            level: recipe.level,
            deadband: recipe.deadband ?? 0,
            largest: Math.max(Math.abs(recipe.level - source.report.minZ), Math.abs(recipe.level - source.report.maxZ)),
          }
        : undefined;
    scene.current?.setMap(range ? source!.surface : undefined, range, sheetColors());
    redraw();
  }, [view.surfaces, recipe, shownVolume, layers.map, themeCount, redraw]);
  useEffect(() => {
    if (scene.current) {
      // A job without points yet takes its origin from what is looked at.
      if (incoming?.length && job.points.count === 0)
        scene.current.origin = [Math.floor(incoming[0]!), Math.floor(incoming[1]!)];
      scene.current.setIncoming(incoming, sheetColors());
    }
    redraw();
  }, [incoming, job.points.count, themeCount, redraw]);
  useEffect(() => {
    const s = scene.current;
    if (!s) return;
    for (const [name, on] of [
      ["contours", layers.contours],
      ["index contours", layers.contours],
      ["triangles", layers.triangles],
      ["map", layers.map],
      ["reference", layers.reference],
      ["reference surfaces", layers.reference],
    ] as const)
      s.setVisible(name, on);
    redraw();
  }, [layers, redraw, view, draw]);
  useEffect(() => {
    if (target && plan.current.width) plan.current = fitTo(plan.current, target, metres);
    redraw();
  }, [target, metres, redraw]);
  useEffect(redraw, [draw, redraw]);

  /** The place meant at a pixel while picking; without one near, the plain place, unless points are asked for. */
  const snapTo = useCallback(async (x: number, y: number): Promise<Snap | undefined> => {
    const { picking, ask } = useJob.getState(),
      [e, n] = toPlan(plan.current, x, y);
    if (!picking) return undefined;
    const snap = await ask({ what: "snap", e, n, reach: 10 / plan.current.scale, from: picking.from });
    if (picking.points) return snap?.kind === "point" ? snap : undefined;
    return snap ?? { kind: "nearest", e, n, z: NaN, lines: [] };
  }, []);

  const tool = useMemo(
    () =>
      new PointerTool({
        pan: (dx, dy) => {
          const v = plan.current;
          plan.current = { ...v, e: v.e - dx / v.scale, n: v.n + dy / v.scale };
          moved();
        },
        box: (corners) => {
          box.current = corners;
          redraw();
        },
        click: (x, y, add) => {
          const picking = useJob.getState().picking;
          if (picking) return void snapTo(x, y).then((snap) => snap && picking.take(snap));
          const { job: j, view: w, points, lines, select, layers: l } = useJob.getState();
          const [e, n] = toPlan(plan.current, x, y);
          const hit = pick(j.points, w, e, n, 8 / plan.current.scale, l);
          if (hit && "point" in hit) {
            const id = j.points.id[hit.point]!;
            select(
              add
                ? { points: points.has(id) ? [...points].filter((p) => p !== id) : [...points, id], lines }
                : { points: [id] },
            );
          } else if (hit)
            select(
              add
                ? { points, lines: [...lines, w.lines[hit.line]!.key] }
                : { lines: [w.lines[hit.line]!.key], points: w.lines[hit.line]!.shots.map((s) => j.points.id[s]!) },
            );
          else if (!add) select({});
        },
        boxed: ([x0, y0, x1, y1], add) => {
          const { job: j, points, select } = useJob.getState();
          const [ae, an] = toPlan(plan.current, Math.min(x0, x1), Math.max(y0, y1)),
            [be, bn] = toPlan(plan.current, Math.max(x0, x1), Math.min(y0, y1));
          const inside = Int32Array.from(pointIndex(j.points).range(ae, an, be, bn)).sort();
          select({ points: [...(add ? points : []), ...Array.from(inside, (i) => j.points.id[i]!)] });
        },
      }),
    [redraw, moved, snapTo],
  );

  const at = (event: PointerEvent | WheelEvent): [number, number] => {
    const r = frame.current!.getBoundingClientRect();
    return [event.clientX - r.left, event.clientY - r.top];
  };

  const onPointerMove = (event: PointerEvent) => {
    const [x, y] = at(event);
    tool.move(x, y);
    const [e, n] = toPlan(plan.current, x, y);
    const hit = tool.state.at === "idle" ? pick(job.points, view, e, n, 8 / plan.current.scale, layers) : undefined;
    useReadout.setState({ at: [e, n], under: reader?.at(e, n), hit });
    // One question at a time: the next is asked when the last is answered.
    if (useJob.getState().picking && tool.state.at === "idle" && !snapping.current) {
      snapping.current = true;
      void snapTo(x, y).then((s) => {
        snapping.current = false;
        snapped.current = s;
        redraw();
      });
    }
  };

  // The wheel is listened to by hand: React's listener could not keep the page from scrolling.
  useEffect(() => {
    const el = frame.current!;
    const onWheel = (event: globalThis.WheelEvent) => {
      event.preventDefault();
      const r = el.getBoundingClientRect();
      plan.current = zoomAt(
        plan.current,
        event.clientX - r.left,
        event.clientY - r.top,
        Math.exp(-event.deltaY * 0.0015),
      );
      moved();
    };
    el.addEventListener("wheel", onWheel, { passive: false });
    return () => el.removeEventListener("wheel", onWheel);
  }, [moved]);

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const v = plan.current,
      step = 60 / v.scale;
    const moves: Record<string, Partial<PlanView>> = {
      ArrowLeft: { e: v.e - step },
      ArrowRight: { e: v.e + step },
      ArrowUp: { n: v.n + step },
      ArrowDown: { n: v.n - step },
    };
    if (moves[event.key]) plan.current = { ...v, ...moves[event.key] };
    else if (event.key === "+" || event.key === "=") plan.current = zoomAt(v, v.width / 2, v.height / 2, 1.4);
    else if (event.key === "-") plan.current = zoomAt(v, v.width / 2, v.height / 2, 1 / 1.4);
    else if (event.key === "Home") fitAll();
    else if (event.key === "Escape") {
      tool.cancel();
      if (useJob.getState().picking) useJob.getState().set({ picking: undefined });
      else useJob.getState().select({});
    } else return;
    event.preventDefault();
    moved();
  };

  // Others ask for the whole job by this event.
  useEffect(() => {
    const onFit = () => fitAll();
    window.addEventListener("sheet:fit", onFit);
    return () => window.removeEventListener("sheet:fit", onFit);
  }, [fitAll]);

  return (
    <div className="relative h-full min-h-0 bg-sheet">
      <div
        ref={frame}
        data-testid="sheet"
        role="application"
        aria-label="Sheet: the drawing in plan. Arrow keys move it, plus and minus zoom, Home shows all."
        aria-describedby="sheet-described"
        tabIndex={0}
        className="absolute inset-0 cursor-crosshair overflow-hidden -outline-offset-2 select-none"
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          tool.down(...at(event), event.shiftKey);
        }}
        onPointerMove={onPointerMove}
        onPointerUp={(event) => tool.up(...at(event))}
        onPointerCancel={() => tool.cancel()}
        onPointerLeave={() => useReadout.setState({ at: undefined, under: undefined, hit: undefined })}
        onKeyDown={onKeyDown}
      >
        <canvas ref={gl} className="absolute inset-0 h-full w-full" />
        <canvas ref={over} className="pointer-events-none absolute inset-0 h-full w-full" data-testid="sheet-text" />
      </div>
      <DescribedSheet />
      {status === "ready" && !drawnExtent(job) && !incoming?.length && (
        <p className="pointer-events-none absolute inset-x-0 top-1/2 -translate-y-1/2 text-center font-serif text-[15px] text-soft">
          The drawing begins with the first intake.
        </p>
      )}
    </div>
  );
}

/** The box of the job's points; of its reference where it has no points. */
function drawnExtent(job: JobState): Box | undefined {
  const x = extentOf(job.points);
  if (x) return x;
  const corners = job.delivered.flatMap((d) => [
    ...(d.reference?.lines ?? []).map((l) => l.xyz),
    ...(d.reference?.surfaces ?? []).map((s) => s.points),
  ]);
  const boxes = corners
    .map((xyz) =>
      boxOf(
        xyz.length / 3,
        (k) => xyz[3 * k]!,
        (k) => xyz[3 * k + 1]!,
      ),
    )
    .filter((b) => b !== undefined);
  return boxOf(
    2 * boxes.length,
    (k) => (k % 2 ? boxes[k >> 1]!.maxE : boxes[k >> 1]!.minE),
    (k) => (k % 2 ? boxes[k >> 1]!.maxN : boxes[k >> 1]!.minN),
  );
}

/** Where a place of the job stands on the sheet, for tests and tools. */
export function pixelOf(view: string, e: number, n: number): [number, number] {
  const [ve, vn, scale, width, height] = view.split(" ").map(Number) as [number, number, number, number, number];
  return toPixel({ e: ve, n: vn, scale, width, height }, e, n);
}
