/** A ring mended on the sheet: corners dragged, put into a side or taken away. It never crosses itself. */
import { sideMeetsOthers, type Corner } from "@bramble/core/math/ring";
import { useJob } from "../../lib/store";
import { toPixel } from "../camera";
import type { SheetColors } from "../../lib/theme";
import { sayHint } from "./hint";
import type { Tool, ToolHost } from "./tool";

/** How near a corner or a side must be, in pixels. */
const REACH = 9;
const HINT = "Drag a corner; click a side for a new one; Delete takes the chosen one away; Esc ends";
const CROSSES = "The ring would cross itself so: it stays as it is.";
const FEWEST = "A ring needs three corners at least.";

/** What of a ring is meant: a corner, or a position on the side after one. */
export interface Grip {
  corner: number;
  /** On the side after that corner; undefined for the corner itself. */
  on?: Corner;
}

/** The corner within reach of a position, else the side; `reach` in the job's unit. */
export function gripAt(ring: readonly Corner[], e: number, n: number, reach: number): Grip | undefined {
  let best: Grip | undefined,
    least = reach;
  ring.forEach(([ce, cn], corner) => {
    const far = Math.hypot(ce - e, cn - n);
    if (far <= least) [least, best] = [far, { corner }];
  });
  if (best) return best;
  ring.forEach(([ae, an], corner) => {
    const [be, bn] = ring[(corner + 1) % ring.length]!,
      [de, dn] = [be - ae, bn - an],
      share = ((e - ae) * de + (n - an) * dn) / (de * de + dn * dn || 1);
    if (share <= 0 || share >= 1) return;
    const on: Corner = [ae + share * de, an + share * dn],
      far = Math.hypot(on[0] - e, on[1] - n);
    if (far <= least) [least, best] = [far, { corner, on }];
  });
  return best;
}

/** The ring with what is gripped moved by so much, a corner put where a side is gripped; and which corner that is. */
export function withMoved(ring: readonly Corner[], grip: Grip, by: Corner): { ring: Corner[]; corner: number } {
  const [e, n] = grip.on ?? ring[grip.corner]!,
    to: Corner = [e + by[0], n + by[1]],
    corner = grip.on ? grip.corner + 1 : grip.corner;
  return { ring: ring.toSpliced(corner, grip.on ? 0 : 1, to), corner };
}

/** Whether a ring may be as it is at a corner that was moved or put in: the sides at it meet no other. */
export const isSimpleAt = (ring: readonly Corner[], corner: number): boolean =>
  !sideMeetsOthers(ring, corner) && !sideMeetsOthers(ring, (corner + ring.length - 1) % ring.length);

export class CornersTool implements Tool {
  private chosen: number | undefined;
  private hot: Grip | undefined;
  private held: Grip | undefined;
  /** The ring as it would be, while it is dragged. */
  private moved: { ring: Corner[]; corner: number } | undefined;
  private says = "";

  constructor(private readonly host: ToolHost) {}

  private get ring(): readonly Corner[] {
    return useJob.getState().corners?.ring ?? [];
  }

  private gripAt(e: number, n: number): Grip | undefined {
    return gripAt(this.ring, e, n, REACH / this.host.plan.scale);
  }

  hover(e: number, n: number): void {
    this.hot = this.gripAt(e, n);
    this.host.redraw();
  }

  click(e: number, n: number): void {
    const grip = this.gripAt(e, n);
    this.says = "";
    if (grip?.on) this.keep(withMoved(this.ring, grip, [0, 0]));
    else this.chosen = grip?.corner;
    this.host.redraw();
  }

  boxed(): void {}

  drags(e: number, n: number): boolean {
    return this.gripAt(e, n) !== undefined;
  }

  dragged(from: readonly [number, number], to: readonly [number, number], done: boolean): void {
    this.held ??= this.gripAt(...from);
    if (!this.held) return;
    this.moved = withMoved(this.ring, this.held, [to[0] - from[0], to[1] - from[1]]);
    this.says = isSimpleAt(this.moved.ring, this.moved.corner) ? "" : CROSSES;
    if (done) {
      this.keep(this.moved);
      this.moved = this.held = undefined;
    }
    this.host.redraw();
  }

  key(key: string): boolean {
    if (key !== "Delete" && key !== "Backspace") return false;
    const { ring, chosen } = this;
    if (chosen !== undefined && chosen < ring.length) {
      const left = ring.toSpliced(chosen, 1),
        before = (chosen + left.length - 1) % left.length;
      this.says = left.length < 3 ? FEWEST : sideMeetsOthers(left, before) ? CROSSES : "";
      if (this.says === "") {
        this.chosen = undefined;
        useJob.getState().corners!.take(left);
      }
      this.host.redraw();
    }
    return true;
  }

  private keep({ ring, corner }: { ring: Corner[]; corner: number }): void {
    this.says = isSimpleAt(ring, corner) ? "" : CROSSES;
    if (this.says) return;
    this.chosen = corner;
    useJob.getState().corners!.take(ring);
  }

  leave(): void {
    this.chosen = this.hot = this.held = this.moved = undefined;
    this.says = "";
    useJob.getState().set({ corners: undefined });
  }

  draw(ctx: CanvasRenderingContext2D, colors: SheetColors): void {
    const { plan } = this.host,
      ring = this.moved?.ring ?? this.ring,
      at = ring.map(([e, n]) => toPixel(plan, e, n));
    sayHint(ctx, this.says || HINT, colors, this.says !== "");
    ctx.strokeStyle = ctx.fillStyle = this.says ? colors.amber : colors.bramble;
    ctx.lineWidth = 1.5;
    ctx.beginPath();
    at.forEach(([x, y], k) => (k === 0 ? ctx.moveTo(x, y) : ctx.lineTo(x, y)));
    ctx.closePath();
    ctx.stroke();
    ctx.beginPath();
    for (const [x, y] of at) ctx.rect(x - 3, y - 3, 6, 6);
    ctx.fill();
    const marked = this.moved?.corner ?? this.chosen;
    for (const k of [marked, this.hot && !this.hot.on ? this.hot.corner : undefined]) {
      if (k === undefined || !at[k]) continue;
      ctx.beginPath();
      ctx.arc(...at[k], 7, 0, 2 * Math.PI);
      ctx.stroke();
    }
    if (this.hot?.on && !this.moved) {
      const [x, y] = toPixel(plan, ...this.hot.on);
      ctx.strokeRect(x - 3, y - 3, 6, 6);
    }
  }
}
