/** The relief without React: it shares the job's store, layers and selection with the plan. */
import { sameItems } from "../../lib/last-of";
import { useJob } from "../../lib/store";
import type { Store } from "../../lib/state/store";
import { Gesture } from "../gesture";
import { FRAME, isOther, JobWindow } from "../job-window";
import { LayerStock, shownSurface } from "../layers";
import { lookOf } from "../look-now";
import type { Picked } from "../pick";
import { useReadout } from "../readout-store";
import { selectPicked } from "../select-picked";
import { groundUnder, readerOf } from "../surface-reader";
import { NEAR_BY } from "../thinning";
import { levelOfRow, levelOfVertex, RELIEF_LAYERS, roomOf } from "./layers";
import {
  fitRoom,
  heightsFor,
  meetGround,
  moveOrbit,
  seenAt,
  towardsLight,
  turnOrbit,
  zoomOrbit,
  type Orbit,
} from "./orbit";
import { drawReliefOverlay } from "./overlay";
import { ReliefScene } from "./scene";

/** Milliseconds after the last movement until everything is drawn again. */
const REST = 250;
/** How near a click must come, in pixels. */
const REACH = 8;
/** How far behind the ground a point may lie and still be seen on it, in pixels. */
const ON_GROUND = 4;
/** Looking from the south-south-west, steeply enough that little is hidden. */
const FIRST = { bearing: (25 / 180) * Math.PI, tilt: (38 / 180) * Math.PI };

const BLANK: Orbit = { e: 0, n: 0, z: 0, ...FIRST, heights: 1, scale: 1, width: 0, height: 0 };

/** The window of a job, while only the plan is shown. */
interface Kept {
  jobId: number;
  v: Orbit;
  whole: boolean;
}

export class ReliefController extends JobWindow<Orbit, ReliefScene> {
  /** Nobody has turned or moved the window: it shows the whole, however large it becomes. */
  private whole = true;
  /** Whether dragging moves the window instead of turning it. */
  moves = false;

  readonly gesture = new Gesture({
    pan: (dx, dy) => {
      this.v = this.moves ? moveOrbit(this.v, dx, dy) : turnOrbit(this.v, dx, dy);
      this.moved();
    },
    box: (corners) => {
      this.box = corners;
      this.redraw();
    },
    click: (x, y, add) => selectPicked(this.pick(x, y), add),
    boxed: (corners, add) => this.boxed(corners, add),
    draws: () => false,
    drawn: () => undefined,
  });

  constructor(
    frame: HTMLElement,
    private readonly gl: HTMLCanvasElement,
    over: HTMLCanvasElement,
  ) {
    super(frame, over, BLANK, new LayerStock(RELIEF_LAYERS), REST);
  }

  override start(): () => void {
    const kept = useJob.getState().kept["relief.window"] as Kept | undefined;
    if (kept?.jobId === useJob.getState().jobId) [this.v, this.fitted, this.whole] = [kept.v, kept.jobId, kept.whole];
    const end = super.start();
    this.scene = new ReliefScene(this.gl);
    this.resize();
    return () => {
      const { jobId, keep } = useJob.getState();
      if (this.fitted === jobId) keep("relief.window", { jobId, v: this.v, whole: this.whole } satisfies Kept);
      end();
      this.scene?.dispose();
      this.scene = undefined;
    };
  }

  fitAll(): void {
    const room = roomOf(useJob.getState());
    if (room && this.v.width) this.v = fitRoom(this.v, room);
    this.whole = true;
    this.redraw();
  }

  /** The pointer is at a pixel: what is there goes to the readout. */
  pointAt(x: number, y: number): void {
    this.gesture.move(x, y);
    if (this.gesture.state.at !== "idle") return;
    const s = useJob.getState(),
      sight = this.ground(x, y),
      at: [number, number] | undefined = !sight || sight.isSide ? undefined : [sight.e, sight.n];
    useReadout.setState({
      at,
      ...(at ? groundUnder(s, ...at) : { under: undefined, others: [] }),
      hit: this.pick(x, y),
    });
  }

  protected zoomed(x: number, y: number, by: number): Orbit {
    return zoomOrbit(this.v, x, y, by);
  }

  protected stepped(): Record<string, Orbit> {
    return {
      ArrowLeft: turnOrbit(this.v, -33, 0),
      ArrowRight: turnOrbit(this.v, 33, 0),
      ArrowUp: turnOrbit(this.v, 0, 22),
      ArrowDown: turnOrbit(this.v, 0, -22),
    };
  }

  protected leave(): void {
    useJob.getState().select({});
  }

  protected numbers(): readonly number[] {
    const { e, n, z, bearing, tilt, heights, scale, width, height } = this.v;
    return [e, n, z, bearing, tilt, heights, scale, width, height];
  }

  private ground(x: number, y: number) {
    const s = useJob.getState(),
      surface = shownSurface(s),
      room = surface && roomOf(s);
    return room && meetGround(this.v, readerOf(surface), [room.minZ, room.maxZ], x, y);
  }

  private readonly isHidden = (e: number, n: number, z: number): boolean => {
    const [x, y, back] = seenAt(this.v, e, n, z),
      met = this.ground(x, y);
    return met !== undefined && seenAt(this.v, met.e, met.n, met.level)[2] < back - ON_GROUND / this.v.scale;
  };

  /** The nearest point within reach that the ground does not hide, else the nearest line. */
  private pick(x: number, y: number): Picked {
    const s = useJob.getState(),
      { points: t } = s.job,
      near: [distance: number, row: number][] = [];
    if (s.layers.points)
      for (let i = 0; i < t.count; i++) {
        if (t.deleted[i]) continue;
        const z = levelOfRow(s, i);
        if (Number.isNaN(z)) continue;
        const [px, py] = seenAt(this.v, t.e[i]!, t.n[i]!, z),
          d = Math.hypot(px - x, py - y);
        if (d < REACH) near.push([d, i]);
      }
    near.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
    const point = near.find(([, i]) => !this.isHidden(t.e[i]!, t.n[i]!, levelOfRow(s, i)));
    if (point) return { point: point[1] };
    if (!s.layers.lines) return undefined;
    const { xyz, starts } = s.view.chains;
    let line = -1,
      least = REACH;
    for (let l = 0; l + 1 < starts.length; l++) {
      let before: [number, number] | undefined;
      for (let v = starts[l]!; v < starts[l + 1]!; v++) {
        const z = levelOfVertex(s, v);
        if (Number.isNaN(z)) {
          before = undefined;
          continue;
        }
        const [px, py] = seenAt(this.v, xyz[3 * v]!, xyz[3 * v + 1]!, z),
          d = before ? distanceTo(x, y, ...before, px, py) : Infinity;
        if (d < least) [least, line] = [d, l];
        before = [px, py];
      }
    }
    return line < 0 ? undefined : { line };
  }

  /** The points within a box of the screen, those behind the ground too: what is meant cannot be known. */
  private boxed([x0, y0, x1, y1]: [number, number, number, number], add: boolean): void {
    const s = useJob.getState(),
      { points: t } = s.job,
      inside: number[] = [];
    for (let i = 0; i < t.count; i++) {
      if (t.deleted[i]) continue;
      const [x, y] = seenAt(this.v, t.e[i]!, t.n[i]!, levelOfRow(s, i));
      if (x >= Math.min(x0, x1) && x <= Math.max(x0, x1) && y >= Math.min(y0, y1) && y <= Math.max(y0, y1))
        inside.push(t.id[i]!);
    }
    s.select({ points: [...(add ? s.points : []), ...inside] });
  }

  protected override moved(): void {
    this.whole = false;
    super.moved();
  }

  protected resize(): void {
    const { clientWidth: width, clientHeight: height } = this.frame;
    this.v = { ...this.v, width, height };
    this.scene?.resize(width, height, devicePixelRatio);
    this.over.width = width * devicePixelRatio;
    this.over.height = height * devicePixelRatio;
    const room = this.whole && width > 0 && roomOf(useJob.getState());
    if (room) this.v = fitRoom(this.v, room);
    this.draw();
  }

  protected follow(s: Store, before: Store): void {
    if (s.target !== before.target && s.target && this.v.width) {
      const middle: [number, number] = [(s.target.minE + s.target.maxE) / 2, (s.target.minN + s.target.maxN) / 2],
        surface = shownSurface(s),
        z = (surface && readerOf(surface).at(...middle)?.level) ?? this.v.z;
      this.v = fitRoom(this.v, { ...s.target, minZ: z, maxZ: z });
      this.v = { ...this.v, scale: Math.min(this.v.scale, NEAREST) };
      this.whole = false;
    }
    if (isOther(DRAWN, s, before)) this.redraw();
  }

  /** A job just opened is shown whole, as high as its ground asks for. */
  private settleIn(scene: ReliefScene, s: Store): void {
    const room = roomOf(s);
    if (!room || s.status !== "ready") return;
    const heights = s.heights ?? heightsFor(room);
    if (this.fitted !== s.jobId) {
      this.fitted = s.jobId;
      this.v = fitRoom({ ...this.v, heights }, room);
    }
    if (heights !== this.v.heights) this.v = { ...this.v, heights };
    const origin: [number, number, number] = [Math.floor(room.minE), Math.floor(room.minN), Math.floor(room.minZ)];
    scene.reach = Math.hypot(room.maxE - room.minE, room.maxN - room.minN, room.maxZ - room.minZ);
    // The origin stays while it is near, so that nothing is made anew for a point added at the rim.
    if (scene.origin[0] !== 0 && Math.hypot(origin[0] - scene.origin[0], origin[1] - scene.origin[1]) < scene.reach)
      return;
    if (sameItems(origin, [...scene.origin, scene.base])) return;
    scene.origin = [origin[0], origin[1]];
    scene.base = origin[2];
    this.made.clear();
  }

  protected drawFrame(scene: ReliefScene, s: Store): boolean {
    const { colors } = this,
      ctx = this.over.getContext("2d");
    if (!ctx) return true;
    this.settleIn(scene, s);
    scene.turnLight(towardsLight(s.light));
    const made = this.made.bring(scene, s, colors, FRAME, NEAR_BY);
    // The coarse ground stands in for the whole of a large one, which is left out in a movement.
    for (const layer of RELIEF_LAYERS)
      for (const part of layer.parts)
        scene.setVisible(part, layer.shown(s, NEAR_BY) && (part !== "coarse ground" || this.moving));
    const drawn = scene.render(this.v, colors.sheet, this.moving),
      whole = made && drawn !== "part";
    drawReliefOverlay(ctx, {
      v: this.v,
      ratio: devicePixelRatio,
      colors,
      s,
      selectedRows: this.selectedRows(s.job.points, s.points),
      look: lookOf(s, colors),
      isHidden: this.isHidden,
      moving: this.moving || !whole,
      box: this.box,
    });
    return whole;
  }
}

/** Pixels for one unit at most, when a point is gone to. */
const NEAREST = 40;

function distanceTo(x: number, y: number, ax: number, ay: number, bx: number, by: number): number {
  const [dx, dy] = [bx - ax, by - ay],
    size = dx * dx + dy * dy,
    t = size === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / size));
  return Math.hypot(ax + t * dx - x, ay + t * dy - y);
}

/** The parts of the store that the relief shows. */
const DRAWN = [
  "job",
  "view",
  "layers",
  "flood",
  "paperScale",
  "onlyRows",
  "colorBy",
  "setRows",
  "groundSeen",
  "section",
  "sectionAt",
  "target",
  "points",
  "lines",
  "finding",
  "isRinged",
  "surface",
  "status",
  "heights",
  "light",
] as const satisfies readonly (keyof Store)[];
