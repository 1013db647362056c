/** The sheet without React: the window onto the plan, its tools, the fine drawing over it, and the page of a printer. */
import { METRES, type DrawingSettings } from "@bramble/core";
import { lookOfSurface } from "@bramble/core/drawing/surface-look";
import { ringOf } from "../lib/findings";
import { sameItems } from "../lib/last-of";
import { mark } from "../lib/marks";
import { useJob } from "../lib/store";
import type { Store } from "../lib/state/store";
import { lineAt } from "../lib/view";
import { fitTo, toPlan, zoomAt, type PlanView } from "./camera";
import { DraftLayer } from "./draft-layer";
import { inSight } from "./drafting";
import { drawnExtent } from "./extent";
import { Gesture } from "./gesture";
import { FRAME, JobWindow } from "./job-window";
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

export class SheetController extends JobWindow<PlanView, PlanScene> implements ToolHost {
  private ratio = 1;
  /** What the screen showed before a page was made ready for the printer. */
  private onScreen: { plan: PlanView; theme: string | undefined } | undefined;
  private shownFor = "";
  /** What is painted is not on `base` yet. */
  private stale = false;
  private readonly paper = document.createElement("style");
  private readonly draft = new DraftLayer();
  private later: ReturnType<typeof setTimeout> | undefined;
  private wanted = "";
  private readonly select = new SelectTool(this);
  private readonly position = new PositionTool(this);
  private readonly ring = new RingTool(this);
  private readonly section = new SectionTool(this);
  private readonly mesh = new MeshTool(this);
  private readonly corners = new CornersTool(this);

  readonly gesture = new Gesture({
    pan: (dx, dy) => {
      const v = this.plan;
      this.v = { ...v, e: v.e - dx / v.scale, n: v.n + dy / v.scale };
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
    frame: HTMLElement,
    private readonly base: HTMLCanvasElement,
    over: HTMLCanvasElement,
  ) {
    super(frame, over, { e: 0, n: 0, scale: 1, width: 0, height: 0 }, new LayerStock(SHEET_LAYERS), REST);
    // Not the graphics card's, as the fine drawing that is laid on it.
    this.ctx = over.getContext("2d", { willReadFrequently: true });
  }

  get plan(): PlanView {
    return this.v;
  }

  private get tool(): Tool {
    const { picking, ring, section, mesh, corners } = useJob.getState();
    if (mesh) return this.mesh;
    if (corners) return this.corners;
    return ring ? this.ring : picking ? this.position : section ? this.section : this.select;
  }

  override start(): () => void {
    const end = super.start();
    window.addEventListener("beforeprint", this.toPage);
    window.addEventListener("afterprint", this.toScreen);
    if (useJob.getState().status !== "loading") this.begin();
    return () => {
      end();
      window.removeEventListener("beforeprint", this.toPage);
      window.removeEventListener("afterprint", this.toScreen);
      clearTimeout(this.later);
      this.end();
    };
  }

  override redraw(): void {
    clearTimeout(this.later);
    this.later = undefined;
    super.redraw();
  }

  fitAll(): void {
    const { job } = useJob.getState(),
      x = drawnExtent(job);
    if (x && this.v.width) this.v = fitTo(this.v, x, METRES[job.unit]);
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

  /** The tool's own keys go first. */
  override key(key: string): boolean {
    return (this.tool.key?.(key) ?? false) || super.key(key);
  }

  protected zoomed(x: number, y: number, by: number): PlanView {
    return zoomAt(this.v, x, y, by);
  }

  protected stepped(): Record<string, PlanView> {
    const { v } = this,
      step = 60 / v.scale;
    return {
      ArrowLeft: { ...v, e: v.e - step },
      ArrowRight: { ...v, e: v.e + step },
      ArrowUp: { ...v, n: v.n + step },
      ArrowDown: { ...v, n: v.n - step },
    };
  }

  protected leave(): void {
    this.tool.leave();
  }

  protected numbers(): readonly number[] {
    const { e, n, scale, width, height } = this.v;
    return [e, n, scale, width, height];
  }

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
    this.v = { ...this.plan, scale };
    this.moving = false;
    this.takeSize(across, down, PRINT_RATIO);
  };

  private readonly toScreen = (): void => {
    if (!this.onScreen) return;
    const { plan, theme } = this.onScreen;
    this.v = plan;
    this.onScreen = undefined;
    document.documentElement.dataset.theme = theme;
    this.takeColors(sheetColors());
    this.frame.style.width = this.frame.style.height = "";
    this.paper.remove();
    this.resize();
  };

  protected override recolor(): void {
    if (!this.onScreen) super.recolor();
  }

  protected resize(): void {
    if (!this.onScreen) this.takeSize(this.frame.clientWidth, this.frame.clientHeight, devicePixelRatio);
  }

  private takeSize(width: number, height: number, ratio: number): void {
    this.v = { ...this.v, width, height };
    this.ratio = ratio;
    this.scene?.resize(width, height, ratio);
    this.base.width = this.over.width = width * ratio;
    this.base.height = this.over.height = height * ratio;
    this.shownFor = "";
    this.stale = true;
    // A canvas of another size is blank: it is drawn before the page is painted.
    this.draw();
  }

  protected follow(s: Store, before: Store): void {
    if (s.status !== before.status) {
      if (s.status === "loading") this.end();
      else if (before.status === "loading") this.begin();
    }
    if (s.target !== before.target && s.target && this.plan.width)
      this.v = fitTo(this.plan, s.target, METRES[s.job.unit]);
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
    if (this.plan.width) this.v = fitTo(this.plan, x, METRES[s.job.unit]);
  }

  protected drawFrame(scene: PlanScene, s: Store): boolean {
    const { ctx } = this;
    if (!ctx) return true;
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
      marks: s.marks,
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
    if (whole && !s.deriving) mark("sheet drawn");
    useReadout.setState({ scale: plan.scale, plan });
    return whole;
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
  "marks",
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
