/** What the eye means near the cursor: asked of the worker, named before the click; Tab goes through the others. */
import { SNAPS, type Snap } from "@bramble/core/lines/snap";
import { useJob } from "../../lib/store";
import type { SheetColors } from "../../lib/theme";
import { toPixel } from "../camera";
import { halo } from "../halo";
import type { ToolHost } from "./tool";

/** Pixels within which something is found, and within which what is nearest goes first. */
const REACH = 10,
  CLOSE = 5;

/** Where the cursor is, and nothing else is meant. */
const plain = (e: number, n: number): Snap => ({ kind: "nearest", e, n, z: NaN, lines: [] });
export const isPlain = (s: Snap) => s.kind === "nearest" && s.lines.length === 0;

export class Snapper {
  private found: Snap[] = [];
  private chosen = 0;
  private at: readonly [number, number] | undefined;
  private asking = false;

  /**
   * `active` says whether something is picked now; `wanted` which of what is found may be meant; the cursor's own position
   * comes last, where `free`.
   */
  constructor(
    private readonly host: ToolHost,
    private readonly active: () => boolean,
    private readonly wanted: (s: Snap) => boolean = () => true,
    private readonly free: () => boolean = () => true,
  ) {}

  /** What a click would take. */
  get snap(): Snap | undefined {
    return this.found[this.chosen];
  }

  /** One question at a time: the next is asked when the last is answered. */
  hover(e: number, n: number, from?: [number, number]): void {
    this.at = [e, n];
    if (this.asking) return;
    this.asking = true;
    void this.ask(e, n, from).then((found) => {
      this.asking = false;
      if (!this.at) return;
      const last = this.snap;
      this.found = found;
      // What Tab chose stays chosen while it is there.
      const again = this.chosen > 0 ? found.findIndex((s) => sameSnap(s, last)) : -1;
      this.chosen = Math.max(0, again);
      this.listen(found.length > 1);
      this.host.redraw();
      const [e2, n2] = this.at;
      if (e2 !== e || n2 !== n) this.hover(e2, n2, from);
    });
  }

  /** What a click at a position means: what Tab chose there, else the first. */
  async meant(e: number, n: number, from?: [number, number]): Promise<Snap | undefined> {
    const chosen = this.chosen > 0 ? this.snap : undefined,
      found = await this.ask(e, n, from);
    return found.find((s) => sameSnap(s, chosen)) ?? found[0];
  }

  leave(): void {
    this.found = [];
    this.chosen = 0;
    this.at = undefined;
    this.listen(false);
  }

  private async ask(e: number, n: number, from: [number, number] | undefined): Promise<Snap[]> {
    const { scale } = this.host.plan,
      found = await useJob
        .getState()
        .ask({ what: "snap", e, n, reach: REACH / scale, close: CLOSE / scale, ...(from && { from }) });
    return [...(found ?? []).filter(this.wanted), ...(this.free() ? [plain(e, n)] : [])];
  }

  private listen(on: boolean): void {
    if (on) window.addEventListener("keydown", this.onKey, true);
    else window.removeEventListener("keydown", this.onKey, true);
  }

  /** Wherever the keyboard is, as long as the pointer is on the sheet. */
  private readonly onKey = (event: KeyboardEvent): void => {
    if (!this.active()) return this.leave();
    if (event.key !== "Tab" || this.found.length < 2 || !document.querySelector('[data-testid="sheet"]:hover')) return;
    event.preventDefault();
    event.stopPropagation();
    this.chosen = (this.chosen + (event.shiftKey ? this.found.length - 1 : 1)) % this.found.length;
    this.host.redraw();
  };

  draw(ctx: CanvasRenderingContext2D, colors: SheetColors): void {
    const { snap } = this;
    if (!snap) return;
    const [x, y] = toPixel(this.host.plan, snap.e, snap.n),
      { number } = useJob.getState().job.points;
    ctx.strokeStyle = colors.bramble;
    ctx.lineWidth = 1.5;
    ctx.beginPath();
    ctx.arc(x, y, 7, 0, 2 * Math.PI);
    ctx.moveTo(x - 11, y);
    ctx.lineTo(x + 11, y);
    ctx.moveTo(x, y - 11);
    ctx.lineTo(x, y + 11);
    ctx.stroke();
    if (isPlain(snap)) return;
    const name = snap.point === undefined ? SNAPS[snap.kind].name : `point ${number[snap.point]}`,
      others = this.found.length - 1 - (this.free() ? 1 : 0);
    halo(ctx, others > 0 ? `${name} (Tab: ${others} more)` : name, x + 13, y - 13, colors.bramble, colors.sheet);
  }
}

const sameSnap = (a: Snap, b: Snap | undefined) =>
  b !== undefined &&
  a.kind === b.kind &&
  a.point === b.point &&
  (isPlain(a) ? isPlain(b) : a.kind === "nearest" || (a.e === b.e && a.n === b.n));
