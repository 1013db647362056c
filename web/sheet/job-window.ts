/**
 * What the plan and the relief have in common, without React: a window onto the job in one element of the page. It
 * listens to the store by itself, so that a change draws only what it touches, says each whole frame in `data-frame`
 * and where it stands in `data-view`, and begins what pointing, wheel and keys mean.
 */
import { lastOf } from "../lib/last-of";
import { rowsOf } from "../lib/rows";
import type { Store } from "../lib/state/store";
import { useJob } from "../lib/store";
import { sheetColors, type SheetColors } from "../lib/theme";
import type { Gesture } from "./gesture";
import type { LayerStock } from "./layers";

/** Milliseconds that layers may take of a frame; what is left is made in the next. */
export const FRAME = 50;
/** How much nearer a key comes. */
const NEARER = 1.4;

export abstract class JobWindow<View extends { width: number; height: number }, Scene> {
  protected scene: Scene | undefined;
  protected colors: SheetColors = sheetColors();
  /** While the window moves, which leaves out what is very much. */
  protected moving = false;
  /** The job that was shown whole when it was opened. */
  protected fitted = -1;
  /** A box that is being drawn, in pixels. */
  protected box: [number, number, number, number] | undefined;
  protected readonly selectedRows = lastOf(rowsOf);
  private pending = 0;
  private settle: ReturnType<typeof setTimeout> | undefined;

  abstract readonly gesture: Gesture;

  protected constructor(
    protected readonly frame: HTMLElement,
    protected readonly over: HTMLCanvasElement,
    protected v: View,
    protected readonly made: LayerStock<Scene>,
    /** Milliseconds after the last frame of a movement until everything is drawn again. */
    private readonly rest: number,
  ) {}

  /** All that there is, in the window. */
  abstract fitAll(): void;
  protected abstract zoomed(x: number, y: number, by: number): View;
  /** The window after a press of an arrow. */
  protected abstract stepped(): Readonly<Record<string, View>>;
  /** What Esc means beside the end of a gesture. */
  protected abstract leave(): void;
  /** Draws a frame; true when it is whole. */
  protected abstract drawFrame(scene: Scene, s: Store): boolean;
  /** Where the window stands, in numbers. */
  protected abstract numbers(): readonly number[];
  protected abstract resize(): void;
  /** What the store says, as far as it is shown here. */
  protected abstract follow(s: Store, before: Store): void;

  /** Begins to draw and to listen; the result ends both. */
  start(): () => void {
    const size = new ResizeObserver(() => this.resize()),
      theme = new MutationObserver(() => this.recolor()),
      onFit = () => this.fitAll();
    size.observe(this.frame);
    theme.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    window.addEventListener("sheet:fit", onFit);
    // The wheel is listened to by hand: React's listener could not keep the page from scrolling.
    this.frame.addEventListener("wheel", this.onWheel, { passive: false });
    const unsubscribe = useJob.subscribe((s, before) => this.follow(s, before));
    return () => {
      size.disconnect();
      theme.disconnect();
      window.removeEventListener("sheet:fit", onFit);
      this.frame.removeEventListener("wheel", this.onWheel);
      unsubscribe();
      clearTimeout(this.settle);
      cancelAnimationFrame(this.pending);
    };
  }

  redraw(): void {
    this.pending ||= requestAnimationFrame(() => this.draw());
  }

  protected recolor(): void {
    this.takeColors(sheetColors());
    this.redraw();
  }

  protected takeColors(colors: SheetColors): void {
    this.colors = colors;
    this.made.clear();
  }

  /** A frame of a movement: coarse on a large job; when the hand rests the whole follows. */
  protected moved(): void {
    this.moving = true;
    clearTimeout(this.settle);
    this.redraw();
  }

  /** True when the key meant something here. */
  key(key: string): boolean {
    const { width, height } = this.v,
      step = this.stepped()[key];
    if (key === "Home") {
      this.fitAll();
      return true;
    }
    if (key === "Escape") {
      this.gesture.cancel();
      this.leave();
      this.redraw();
      return true;
    }
    if (step) this.v = step;
    else if (key === "+" || key === "=") this.v = this.zoomed(width / 2, height / 2, NEARER);
    else if (key === "-") this.v = this.zoomed(width / 2, height / 2, 1 / NEARER);
    else return false;
    this.moved();
    return true;
  }

  private readonly onWheel = (event: WheelEvent): void => {
    event.preventDefault();
    const r = this.frame.getBoundingClientRect();
    this.v = this.zoomed(event.clientX - r.left, event.clientY - r.top, Math.exp(-event.deltaY * 0.0015));
    this.moved();
  };

  /** A frame at once. */
  protected draw(): void {
    cancelAnimationFrame(this.pending);
    this.pending = 0;
    if (!this.scene || this.v.width === 0 || this.v.height === 0) return;
    const whole = this.drawFrame(this.scene, useJob.getState()),
      { dataset } = this.frame;
    dataset.view = this.numbers().join(" ");
    if (whole) dataset.frame = String(Number(dataset.frame ?? 0) + 1);
    else this.redraw();
    if (!this.moving) return;
    // Counted from the frame drawn, not from the hand: a slow machine must not fill the pauses with whole frames.
    clearTimeout(this.settle);
    this.settle = setTimeout(() => {
      this.moving = false;
      this.redraw();
    }, this.rest);
  }
}

/** Whether one of these parts of the store became another. */
export const isOther = (parts: readonly (keyof Store)[], s: Store, before: Store): boolean =>
  parts.some((part) => s[part] !== before[part]);
