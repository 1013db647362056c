/**
 * The sheet without React: the window onto the plan, what is drawn when, and what pointing and keys do. It listens to
 * the job's store by itself, so that a change draws only what it touches, and says each frame in `data-frame`.
 */
import { METRES, type DrawingSettings } from "@bramble/core";
import { lookOfSurface } from "@bramble/core/drawing/surface-look";
import { ringOf } from "../lib/findings";
import { rowsOf } from "../lib/rows";
import { lastOf, sameItems } from "../lib/last-of";
import { mark } from "../lib/marks";
import { useJob } from "../lib/store";
import type { Store } from "../lib/state/store";
import { lineAt } from "../lib/view";
import { fitTo, toPlan, zoomAt, type PlanView } from "./camera";
import { DraftLayer } from "./draft-layer";
import { inSight } from "./drafting";
import { drawnExtent } from "./extent";
import { Gesture } from "./gesture";
import { LayerStock, shownSurface, SHEET_LAYERS, spacingOf } from "./layers";
import { drawOverlay } from "./overlay";
import { pick } from "./pick";
import { useReadout } from "./readout-store";
import { PlanScene } from "./scene";
import { groundUnder } from "./surface-reader";
import { SEEN, sheetColors, type SheetColors } from "../lib/theme";
import { farAt, NEAR_BY } from "./thinning";
import { PositionTool } from "./tools/position";
import { lookOf } from "./look-now";
import { meaningOf } from "./meaning";
import { CornersTool } from "./tools/corners";
import { MeshTool } from "./tools/mesh";
import { RingTool } from "./tools/ring";
import { SectionTool } from "./tools/section";
import { REACH, SelectTool } from "./tools/select";
import type { Tool, ToolHost } from "./tools/tool";

/** Largest scale, 1 : this, at which texts are laid out. */
const NEAREST = 10;
/** Points above which texts are laid out for the window only. */
const LARGE = 60_000;
/** Milliseconds that layers may take of a frame; what is left is made in the next. */
const FRAME = 50;
/** Milliseconds that an edited point may wait for what follows from it. */
const SOON = 150;
/** Milliseconds after the last movement until everything is drawn again. */
const REST = 300;

const NO_DRAWING: DrawingSettings = {};

/** All that the fine drawing shows, beside its window. */
function readsOfDraft(s: Store, unitsPerMm: number, colors: SheetColors): readonly unknown[] {
  const { view, job, layers } = s,
    { points, lines, shots } = layers;
  const drawn = [view.lines, view.chains, view.symbols, job.points.e, job.points.n, job.drawing, s.layout],
    how = [points, lines, shots, unitsPerMm, colors, s.onlyRows, meaningOf(s.colorBy, s)];
  return [...drawn, ...how];
}

export class SheetController implements ToolHost {
  plan: PlanView = { e: 0, n: 0, scale: 1, width: 0, height: 0 };
  private scene: PlanScene | undefined;
  private ratio = 1;
  /** What the screen showed before a page was made ready for the printer. */
  private onScreen: { plan: PlanView; theme: string | undefined } | undefined;
  private shownFor = "";
  /** What is painted is not on `base` yet. */
  private stale = false;
  private readonly paper = document.createElement("style");
  private readonly made = new LayerStock(SHEET_LAYERS);
  private readonly draft = new DraftLayer();
  private colors: SheetColors = sheetColors();
  private pending = 0;
  private moving = false;
  private later: ReturnType<typeof setTimeout> | undefined;
  private settle: ReturnType<typeof setTimeout> | undefined;
  private fitted = -1;
  private wanted = "";
  private box: [number, number, number, number] | undefined;
  private readonly select = new SelectTool(this);
  private readonly position = new PositionTool(this);
  private readonly ring = new RingTool(this);
  private readonly section = new SectionTool(this);
  private readonly mesh = new MeshTool(this);
  private readonly corners = new CornersTool(this);
  private readonly selectedRows = lastOf(rowsOf);

  readonly gesture = new Gesture({
    pan: (dx, dy) => {
      const v = this.plan;
      this.plan = { ...v, e: v.e - dx / v.scale, n: v.n + dy / v.scale };
      this.moved();
    },
    box: (corners) => {
      this.box = corners;
      this.redraw();
    },
    click: (x, y, add) => this.tool.click(...toPlan(this.plan, x, y), add),
    boxed: ([x0, y0, x1, y1], add) => {
      const [minE, minN] = toPlan(this.plan, Math.min(x0, x1), Math.max(y0, y1)),
        [maxE, maxN] = toPlan(this.plan, Math.max(x0, x1), Math.min(y0, y1));
      this.tool.boxed({ minE, minN, maxE, maxN }, add);
    },
    draws: (x, y) => this.tool.drags?.(...toPlan(this.plan, x, y)) ?? this.tool.dragged !== undefined,
    drawn: ([x0, y0, x1, y1], done) => this.tool.dragged?.(toPlan(this.plan, x0, y0), toPlan(this.plan, x1, y1), done),
  });

  private readonly ctx: CanvasRenderingContext2D | null;

  constructor(
    private readonly frame: HTMLElement,
    private readonly base: HTMLCanvasElement,
    private readonly over: HTMLCanvasElement,
  ) {
    // Not the graphics card's, as the fine drawing that is laid on it.
    this.ctx = over.getContext("2d", { willReadFrequently: true });
  }

  private get tool(): Tool {
    const { picking, ring, section, mesh, corners } = useJob.getState();
    if (mesh) return this.mesh;
    if (corners) return this.corners;
    return ring ? this.ring : picking ? this.position : section ? this.section : this.select;
  }

  /** Begins to draw and to listen; the result ends both. */
  start(): () => void {
    const size = new ResizeObserver(() => !this.onScreen && this.resize());
    size.observe(this.frame);
    const theme = new MutationObserver(() => {
      if (this.onScreen) return;
      this.takeColors(sheetColors());
      this.redraw();
    });
    theme.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    const onFit = () => this.fitAll();
    window.addEventListener("sheet:fit", onFit);
    window.addEventListener("beforeprint", this.toPage);
    window.addEventListener("afterprint", this.toScreen);
    // The wheel is listened to by hand: React's listener could not keep the page from scrolling.
    this.frame.addEventListener("wheel", this.onWheel, { passive: false });
    const unsubscribe = useJob.subscribe((s, before) => this.follow(s, before));
    if (useJob.getState().status !== "loading") this.begin();
    return () => {
      size.disconnect();
      theme.disconnect();
      window.removeEventListener("sheet:fit", onFit);
      window.removeEventListener("beforeprint", this.toPage);
      window.removeEventListener("afterprint", this.toScreen);
      this.frame.removeEventListener("wheel", this.onWheel);
      unsubscribe();
      clearTimeout(this.settle);
      clearTimeout(this.later);
      cancelAnimationFrame(this.pending);
      this.end();
    };
  }

  redraw(): void {
    clearTimeout(this.later);
    this.later = undefined;
    this.pending ||= requestAnimationFrame(() => this.draw());
  }

  fitAll(): void {
    const { job } = useJob.getState(),
      x = drawnExtent(job);
    if (x && this.plan.width) this.plan = fitTo(this.plan, x, METRES[job.unit]);
    this.redraw();
  }

  /** The pointer is at a pixel of the sheet. */
  pointAt(x: number, y: number): void {
    this.gesture.move(x, y);
    const [e, n] = toPlan(this.plan, x, y),
      { job, view, layers, surface } = useJob.getState();
    const idle = this.gesture.state.at === "idle";
    useReadout.setState({
      at: [e, n],
      ...groundUnder({ view, surface }, e, n),
      hit: idle ? pick(job.points, view, e, n, REACH / this.plan.scale, layers) : undefined,
    });
    if (idle) this.tool.hover(e, n);
  }

  /** True when the key meant something here. */
  key(key: string): boolean {
    const v = this.plan,
      step = 60 / v.scale;
    const moves: Record<string, Partial<PlanView>> = {
      ArrowLeft: { e: v.e - step },
      ArrowRight: { e: v.e + step },
      ArrowUp: { n: v.n + step },
      ArrowDown: { n: v.n - step },
    };
    if (this.tool.key?.(key)) return true;
    if (moves[key]) this.plan = { ...v, ...moves[key] };
    else if (key === "+" || key === "=") this.plan = zoomAt(v, v.width / 2, v.height / 2, 1.4);
    else if (key === "-") this.plan = zoomAt(v, v.width / 2, v.height / 2, 1 / 1.4);
    else if (key === "Home") this.fitAll();
    else if (key === "Escape") {
      this.gesture.cancel();
      this.tool.leave();
    } else return false;
    this.moved();
    return true;
  }

  private readonly onWheel = (event: WheelEvent): void => {
    event.preventDefault();
    const r = this.frame.getBoundingClientRect();
    this.plan = zoomAt(this.plan, event.clientX - r.left, event.clientY - r.top, Math.exp(-event.deltaY * 0.0015));
    this.moved();
  };

  /** The sheet as it goes on a page: the size of the paper, the chosen scale, the middle of what was seen. */
  private readonly toPage = (): void => {
    const { width, height } = this.plan,
      { job, paperScale } = useJob.getState();
    if (width === 0) return;
    this.onScreen = { plan: this.plan, theme: document.documentElement.dataset.theme };
    // Paper is white, whatever the screen is.
    document.documentElement.dataset.theme = "light";
    this.takeColors({ ...sheetColors(), sheet: "#ffffff" });
    const page = pageFor(width, height);
    const [scale, across, down] = [
      paperScale === undefined ? this.plan.scale : (METRES[job.unit] * 1000 * PX_PER_MM) / paperScale,
      page.width * PX_PER_MM,
      page.height * PX_PER_MM,
    ];
    this.frame.style.width = `${page.width}mm`;
    this.frame.style.height = `${page.height}mm`;
    this.paper.textContent = `@page { size: A4 ${page.turned ? "landscape" : "portrait"}; margin: 10mm }`;
    document.head.append(this.paper);
    this.plan = { ...this.plan, scale };
    this.moving = false;
    this.resize(across, down, PRINT_RATIO);
  };

  private readonly toScreen = (): void => {
    if (!this.onScreen) return;
    const { plan, theme } = this.onScreen;
    this.plan = plan;
    this.onScreen = undefined;
    document.documentElement.dataset.theme = theme;
    this.takeColors(sheetColors());
    this.frame.style.width = this.frame.style.height = "";
    this.paper.remove();
    this.resize();
  };

  private takeColors(colors: SheetColors): void {
    this.colors = colors;
    this.made.clear();
  }

  /** A frame of a movement: coarse on a large job; when the hand rests the whole follows. */
  private moved(): void {
    this.moving = true;
    clearTimeout(this.settle);
    this.redraw();
  }

  private resize(width = this.frame.clientWidth, height = this.frame.clientHeight, ratio = devicePixelRatio): void {
    this.plan = { ...this.plan, width, height };
    this.ratio = ratio;
    this.scene?.resize(width, height, ratio);
    this.base.width = this.over.width = width * ratio;
    this.base.height = this.over.height = height * ratio;
    this.shownFor = "";
    this.stale = true;
    // A canvas of another size is blank: it is drawn before the page is painted.
    this.draw();
  }

  /** What the store says, as far as the sheet shows it. */
  private follow(s: Store, before: Store): void {
    if (s.status !== before.status) {
      if (s.status === "loading") this.end();
      else if (before.status === "loading") this.begin();
    }
    if (s.target !== before.target && s.target && this.plan.width)
      this.plan = fitTo(this.plan, s.target, METRES[s.job.unit]);
    const others = DRAWN.filter((part) => s[part] !== before[part]);
    // An edit alone: the bench is painted first, and mostly what follows from the edit is here soon to be drawn with it.
    if (others.length === 1 && others[0] === "job" && s.deriving) this.later ??= setTimeout(() => this.redraw(), SOON);
    else if (others.length > 0) this.redraw();
  }

  /** First the bench is painted. */
  private begin(): void {
    requestAnimationFrame(() =>
      requestAnimationFrame(() => {
        if (this.scene || !this.base.isConnected || useJob.getState().status === "loading") return;
        this.scene = new PlanScene();
        this.scene.resize(this.plan.width, this.plan.height, this.ratio);
        this.draw();
      }),
    );
  }

  private end(): void {
    this.scene = undefined;
    this.made.clear();
    this.draft.clear();
    this.fitted = -1;
    this.wanted = this.shownFor = "";
    // Nothing of this job stands under the next.
    for (const canvas of [this.base, this.over]) canvas.getContext("2d")?.clearRect(0, 0, canvas.width, canvas.height);
  }

  /** A job just opened is shown whole; its origin is near its points, or near what is looked at. */
  private settleIn(scene: PlanScene, s: Store): void {
    if (s.status !== "ready" || this.fitted === s.jobId) return;
    const x = drawnExtent(s.job);
    const [e, n] = x ? [x.minE, x.minN] : (s.incoming ?? []);
    if (e === undefined || n === undefined) return;
    const origin: [number, number] = [Math.floor(e), Math.floor(n)];
    if (!sameItems(origin, scene.origin)) {
      scene.origin = origin;
      this.made.clear();
    }
    if (!x) return;
    this.fitted = s.jobId;
    if (this.plan.width) this.plan = fitTo(this.plan, x, METRES[s.job.unit]);
  }

  private draw(): void {
    cancelAnimationFrame(this.pending);
    this.pending = 0;
    const s = useJob.getState(),
      { scene } = this,
      { ctx } = this;
    if (!scene || !ctx || this.plan.width === 0 || this.plan.height === 0) return;
    this.settleIn(scene, s);
    // A page is printed once: it waits for all.
    // On paper nothing is thinned out.
    const far = this.onScreen ? NEAR_BY : farAt(spacingOf(s), this.plan.scale),
      made = this.made.bring(scene, s, this.colors, this.onScreen ? Infinity : FRAME, far);
    const { job, view, layers, layout, paperScale } = s,
      { plan, colors } = this;
    const metres = METRES[job.unit],
      unitsPerMm = paperScale === undefined ? SEEN / plan.scale : paperScale / 1000 / metres,
      drawing = job.drawing ?? NO_DRAWING,
      inWindow = inSight(view, job.points, plan, drawing),
      sight = { ...inWindow, fineLines: inWindow.fineLines && !far.lines },
      look = lookOf(s, colors),
      shown = { table: job.points, view, drawing, layout, show: layers, look },
      drafting = { plan, colors, unitsPerMm, ...shown, onlyWhole: true };
    const drafted = this.draft.bring(
        drafting,
        sight,
        readsOfDraft(s, unitsPerMm, colors),
        this.ratio,
        this.onScreen ? Infinity : FRAME,
        this.moving,
      ),
      picture = this.draft.picture(drafting, this.ratio);
    // What is drafted finely on the canvas over it is not drawn plainly as well.
    const fine = new Set<string>();
    if (picture?.sight.fineSymbols) fine.add("points");
    if (picture?.sight.fineLines) fine.add("lines");
    for (const layer of SHEET_LAYERS)
      for (const part of layer.parts) scene.setVisible(part, layer.shown(s, far) && !fine.has(part));
    let drawn = scene.render(plan, colors.sheet, this.moving);
    while (this.onScreen && drawn === "part") drawn = scene.render(plan, colors.sheet, false);
    const whole = made && drawn !== "part" && (drafted || this.moving);
    if (drawn !== "unchanged") this.stale = true;
    if (this.stale) this.show(whole);
    // From nearer than 1 : 10 texts are only magnified: laid out anew, lines and crowns would be kilometres of paper.
    if (!this.moving) this.wantTexts(Math.max(unitsPerMm, NEAREST / 1000 / metres), s);
    const built = s.built && view.differences.find((d) => d.name === s.built!.name)?.value;
    drawOverlay(ctx, {
      built: built && { of: built, texts: s.built!.texts },
      plan,
      ratio: this.ratio,
      colors,
      table: job.points,
      view,
      order: job.order,
      unit: job.unit,
      selectedRows: this.selectedRows(job.points, s.points),
      selectedLines: [...s.lines].flatMap((key) => lineAt(view, key) ?? []),
      drafted: picture?.canvas,
      layout,
      preview: s.preview,
      contours: s.tried?.contours ?? [],
      edges: s.tried?.edges ?? [],
      fall: s.groundSeen === "slopes" ? shownSurface(s) : undefined,
      spots: view.surfaces.flatMap(({ name, value }) => {
        const { hidden, spots } = lookOfSurface(drawing, name);
        return value && spots && !hidden ? [{ surface: value.surface, every: spots * unitsPerMm }] : [];
      }),
      faint: drafting.look?.faint,
      decimals: job.unit === "m" ? 2 : 1,
      mark: ringOf(s),
      box: this.box,
      blank: job.points.count === 0 && !s.incoming?.length,
    });
    this.tool.draw(ctx, colors);
    const { dataset } = this.frame;
    if (s.tried) dataset.tried = String(s.tried.contours.length);
    else delete dataset.tried;
    dataset.view = [plan.e, plan.n, plan.scale, plan.width, plan.height].join(" ");
    if (whole && !s.deriving) mark("sheet drawn");
    if (whole) dataset.frame = String(Number(dataset.frame ?? 0) + 1);
    else this.redraw();
    useReadout.setState({ scale: plan.scale, plan });
    // Counted from the frame drawn, not from the hand: a slow machine must not fill the pauses with whole frames.
    if (this.moving) {
      clearTimeout(this.settle);
      this.settle = setTimeout(() => {
        this.moving = false;
        this.redraw();
      }, REST);
    }
  }

  /** What was drawn before stays until the new is whole, unless the window onto the plan is another. */
  private show(whole: boolean): void {
    const { e, n, scale } = this.plan,
      window = [e, n, scale].join(" ");
    if (!whole && window === this.shownFor) return;
    this.shownFor = window;
    this.stale = !whole;
    this.scene!.show(this.base.getContext("2d", { willReadFrequently: true })!, this.plan, !this.onScreen);
  }

  /** Asks for texts at their places when the scale or the wish is another; of a large job for what is in sight. */
  private wantTexts(unitsPerMm: number, { layers, job, jobId, paperScale, askTexts }: Store): void {
    const v = this.plan,
      want = {
        notes: layers.notes,
        points: layers.points && layers.numbers,
        contours: layers.contours && layers.labels,
      };
    const margin = 0.25,
      [minE, maxN] = toPlan(v, -margin * v.width, -margin * v.height),
      [maxE, minN] = toPlan(v, (1 + margin) * v.width, (1 + margin) * v.height);
    const within = job.points.count > LARGE ? { minE, maxN, maxE, minN } : undefined;
    const about = within && [v.e, v.n].map((x) => x.toFixed(1));
    const key = JSON.stringify([jobId, paperScale, unitsPerMm.toPrecision(4), want, about]);
    if (key === this.wanted) return;
    this.wanted = key;
    askTexts({ unitsPerMm, want, within, mostOrNone: paperScale === undefined });
  }
}

/** Pixels of the page for a millimetre of paper, and of the printed drawing for one of the page. */
const PX_PER_MM = 96 / 25.4,
  PRINT_RATIO = 3;

/** What of an A4 page, less its margins and the line below, the sheet has: turned where the sheet is wide. */
function pageFor(width: number, height: number): { width: number; height: number; turned: boolean } {
  return width > height ? { width: 277, height: 178, turned: true } : { width: 190, height: 265, turned: false };
}

/** The parts of the store that the sheet shows. */
const DRAWN = [
  "job",
  "view",
  "layers",
  "flood",
  "built",
  "layout",
  "textPicked",
  "paperScale",
  "preview",
  "tried",
  "onlyRows",
  "colorBy",
  "setRows",
  "groundSeen",
  "section",
  "sectionAt",
  "picking",
  "ring",
  "mesh",
  "corners",
  "target",
  "points",
  "lines",
  "finding",
  "isRinged",
  "surface",
  "volume",
  "incoming",
  "status",
] as const satisfies readonly (keyof Store)[];
