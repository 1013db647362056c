/**
 * The fine drawing on a canvas of its own, made a little in each frame where it is much, and shown when it is whole: what
 * was drawn before stays until then where the window is the same; where it is another the plain lines
 * stand in. The canvas is not the graphics card's: thousands of dashes and marks take it seconds where software draws.
 */
import { sameItems } from "../lib/last-of";
import { draftSteps, type Drafting, type InSight } from "./drafting";

/** Primitives drawn before the time is looked at. */
const AT_ONCE = 48;
/** More than this many vertices and symbols in sight are not begun while the sheet moves. */
const MUCH = 3000;

interface Picture {
  /** In pixels of the screen. */
  canvas: OffscreenCanvas;
  of: readonly unknown[];
  /** What it shows finely. */
  sight: InSight;
}

export class DraftLayer {
  private shown: Picture | undefined;
  private making: (Picture & { ctx: OffscreenCanvasRenderingContext2D; steps: Iterator<void> }) | undefined;
  private spare: OffscreenCanvas | undefined;

  /**
   * Draws on for so many milliseconds; true when it is whole. `reads` is all that it shows beside the window; a movement
   * that goes on begins nothing that is much.
   */
  bring(
    d: Drafting,
    sight: InSight,
    reads: readonly unknown[],
    ratio: number,
    milliseconds: number,
    moving: boolean,
  ): boolean {
    const of = [...windowOf(d, ratio), ...reads];
    if (this.shown && sameItems(this.shown.of, of)) {
      this.making = undefined;
      return true;
    }
    const begun = performance.now();
    if (!this.making || !sameItems(this.making.of, of)) {
      this.making = undefined;
      if (moving && sight.vertices + sight.symbols.length > MUCH) return false;
      const [width, height] = [Math.max(1, d.plan.width * ratio), Math.max(1, d.plan.height * ratio)],
        canvas = this.spare ?? new OffscreenCanvas(1, 1),
        ctx = canvas.getContext("2d", { willReadFrequently: true })!;
      // A canvas of another size is blank, and as it was at first.
      canvas.width = width;
      canvas.height = height;
      this.spare = undefined;
      ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
      this.making = { canvas, of, sight, ctx, steps: draftSteps(ctx, d, sight) };
    }
    const { ctx, steps, canvas } = this.making;
    for (;;) {
      let isDone = false;
      for (let k = 0; k < AT_ONCE && !isDone; k++) isDone = steps.next().done === true;
      // What was asked for is drawn now, so that its time is known.
      if (milliseconds < Infinity) ctx.getImageData(0, 0, 1, 1);
      if (isDone) break;
      if (performance.now() - begun > milliseconds) return false;
    }
    this.spare = this.shown?.canvas;
    this.shown = { canvas, of, sight: this.making.sight };
    this.making = undefined;
    return true;
  }

  /** The last whole drawing, where it is of this window. */
  picture(d: Pick<Drafting, "plan">, ratio: number): Readonly<Picture> | undefined {
    const { shown } = this,
      window = windowOf(d, ratio);
    return shown && sameItems(shown.of.slice(0, window.length), window) ? shown : undefined;
  }

  clear(): void {
    this.shown = this.making = this.spare = undefined;
  }
}

const windowOf = ({ plan: v }: Pick<Drafting, "plan">, ratio: number) => [v.e, v.n, v.scale, v.width, v.height, ratio];
