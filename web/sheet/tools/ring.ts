/** Drawing a ring: corner after corner, closed at the first one or with Enter. It never crosses itself. */
import { doublesBack, segmentsCross, type Corner } from "@bramble/core/math/ring";
import { useJob } from "../../lib/store";
import { toPixel } from "../camera";
import type { SheetColors } from "../../lib/theme";
import { sayHint } from "./hint";
import { Snapper } from "./snapper";
import type { Tool, ToolHost } from "./tool";

/** How near to the first corner a click closes the ring, in pixels. */
const REACH = 10;
/** As many corners as the recipe takes for a person's ring. */
const MOST = 1000;

/** The ring so far: what the next corner does to it. */
export type RingStep = "corner" | "close" | "crosses" | "too few" | "same" | "too many";

/** What a corner at e, n would do; `reach` in the job's unit. Closing puts a side from the last corner to the first. */
export function ringStep(corners: readonly Corner[], e: number, n: number, reach: number): RingStep {
  const first = corners[0],
    last = corners.at(-1);
  if (!first || !last) return "corner";
  const closes = corners.length > 1 && Math.hypot(e - first[0], n - first[1]) <= reach;
  if (closes && corners.length < 3) return "too few";
  if (!closes && last[0] === e && last[1] === n) return "same";
  if (!closes && corners.length === MOST) return "too many";
  const to: Corner = closes ? first : [e, n];
  // The side before begins where the new one begins; closing, the first side ends there as well.
  for (let k = closes ? 2 : 1; k < corners.length - 1; k++)
    if (segmentsCross(corners[k - 1]!, corners[k]!, last, to)) return "crosses";
  const before = corners.at(-2);
  if (before && doublesBack(before, last, to)) return "crosses";
  return closes ? "close" : "corner";
}

export class RingTool implements Tool {
  private corners: Corner[] = [];
  private at: Corner | undefined;
  private says = "";
  private readonly snapper: Snapper;
  /** Clicks are answered one after another. */
  private clicks: Promise<void> = Promise.resolve();

  constructor(private readonly host: ToolHost) {
    this.snapper = new Snapper(host, () => useJob.getState().ring !== undefined);
  }

  hover(e: number, n: number): void {
    this.at = [e, n];
    this.snapper.hover(e, n);
    this.host.redraw();
  }

  /** The first corner closes the ring wherever else is near; a corner stands where the eye means it. */
  click(e: number, n: number): void {
    this.clicks = this.clicks.then(async () => {
      const meant = await this.snapper.meant(e, n);
      if (useJob.getState().ring) this.corner(e, n, meant ? [meant.e, meant.n] : [e, n]);
    });
  }

  private corner(clickedE: number, clickedN: number, [snapE, snapN]: Corner): void {
    const reach = REACH / this.host.plan.scale,
      [first] = this.corners,
      closes = first !== undefined && Math.hypot(clickedE - first[0], clickedN - first[1]) <= reach,
      step = closes ? ringStep(this.corners, clickedE, clickedN, reach) : ringStep(this.corners, snapE, snapN, 0);
    if (step === "close") return this.close();
    if (step === "corner") this.corners = [...this.corners, closes ? [clickedE, clickedN] : [snapE, snapN]];
    this.says = SAYS[step] ?? "";
    this.host.redraw();
  }

  /** Enter closes, Backspace takes the last corner back. */
  key(key: string): boolean {
    if (key !== "Backspace" && key !== "Enter") return false;
    this.clicks = this.clicks.then(() => this.pressed(key));
    return true;
  }

  private pressed(key: "Backspace" | "Enter"): void {
    if (key === "Backspace") this.corners = this.corners.slice(0, -1);
    else {
      const [first] = this.corners,
        step = first ? ringStep(this.corners, ...first, 0) : "too few";
      if (step === "close") this.close();
      else this.says = SAYS[step] ?? SAYS["too few"]!;
    }
    this.host.redraw();
  }

  private close(): void {
    const { ring, set } = useJob.getState(),
      taken = this.corners;
    this.corners = [];
    this.says = "";
    set({ ring: undefined });
    ring?.take(taken);
  }

  boxed(): void {}

  leave(): void {
    this.corners = [];
    this.says = "";
    this.snapper.leave();
    useJob.getState().set({ ring: undefined });
  }

  draw(ctx: CanvasRenderingContext2D, colors: SheetColors): void {
    const { plan } = this.host,
      hint = this.says || useJob.getState().ring?.hint || "";
    sayHint(ctx, hint, colors, this.says !== "");
    this.snapper.draw(ctx, colors);
    if (this.corners.length === 0) return;
    const { snap } = this.snapper,
      next: Corner | undefined = snap ? [snap.e, snap.n] : this.at,
      all = [...this.corners, ...(next ? [next] : [])].map(([e, n]) => toPixel(plan, e, n));
    ctx.strokeStyle = ctx.fillStyle = colors.bramble;
    ctx.lineWidth = 1.5;
    ctx.beginPath();
    all.forEach(([x, y], k) => (k === 0 ? ctx.moveTo(x, y) : ctx.lineTo(x, y)));
    ctx.stroke();
    ctx.globalAlpha = 0.08;
    ctx.fill();
    ctx.globalAlpha = 1;
    ctx.beginPath();
    for (const [x, y] of all.slice(0, this.corners.length)) ctx.rect(x - 3, y - 3, 6, 6);
    ctx.fill();
  }
}

const SAYS: Partial<Record<RingStep, string>> = {
  crosses: "The ring would cross itself there: choose another corner, or Backspace takes the last one back.",
  "too few": "A ring needs three corners at least.",
  "too many": `A ring has ${MOST} corners at most: close it.`,
};
