/** Pages of marks on a canvas: the picture of what will be printed. */
import type { Ink, Page, PathMark, RoundMark, TextMark } from "@bramble/core/handover/plan/page";

/** Draws a page; what lies within clips (the plan) moved by mm to the right and up. */
export function drawPage(
  ctx: CanvasRenderingContext2D,
  page: Page,
  pxPerMm: number,
  [dx, dy]: readonly [number, number],
): void {
  const scale = pxPerMm * devicePixelRatio;
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.clearRect(0, 0, ctx.canvas.width, ctx.canvas.height);
  // Millimetres from the lower left corner, as the marks have them.
  ctx.setTransform(scale, 0, 0, -scale, 0, page.height * scale);
  ctx.lineJoin = ctx.lineCap = "round";
  ctx.textBaseline = "alphabetic";
  // Paths of one ink are drawn at once: a stroke for each would take seconds on a large plan.
  let open: PathMark | undefined,
    size = 0;
  const close = () => {
    if (open) ink(ctx, open, scale);
    open = undefined;
    size = 0;
  };
  for (const mark of page.marks) {
    if (mark.is === "path") {
      if (open && (size > MOST_AT_ONCE || !isOneInk(open, mark))) close();
      if (!open) ctx.beginPath();
      trace(ctx, mark);
      open = mark;
      size += mark.xy.length;
      continue;
    }
    close();
    if (mark.is === "clip") {
      ctx.save();
      ctx.beginPath();
      ctx.rect(mark.x, mark.y, mark.width, mark.height);
      ctx.clip();
      ctx.translate(dx, dy);
    } else if (mark.is === "unclip") ctx.restore();
    else draw(ctx, mark, scale);
  }
  close();
}

/** Numbers of a path that is drawn at once. */
const MOST_AT_ONCE = 4000;

/** Fills that meet would show where they do. */
const isOneInk = (a: PathMark, b: PathMark) =>
  !a.fill && !b.fill && a.stroke === b.stroke && a.width === b.width && String(a.dash) === String(b.dash);

function trace(ctx: CanvasRenderingContext2D, { xy, closed }: PathMark): void {
  for (let k = 0; k < xy.length; k += 2)
    if (k === 0) ctx.moveTo(xy[0]!, xy[1]!);
    else ctx.lineTo(xy[k]!, xy[k + 1]!);
  if (closed) ctx.closePath();
}

function draw(ctx: CanvasRenderingContext2D, mark: RoundMark | TextMark, scale: number): void {
  if (mark.is === "text") {
    ctx.save();
    ctx.translate(mark.x, mark.y);
    ctx.rotate(mark.angle ?? 0);
    ctx.scale(1, -1);
    ctx.fillStyle = mark.color;
    ctx.textAlign = mark.align === -1 ? "left" : mark.align === 0 ? "center" : "right";
    ctx.font = `${mark.bold ? 700 : 500} ${mark.size}px 'Inter Variable', sans-serif`;
    ctx.fillText(mark.text, 0, 0);
    ctx.restore();
    return;
  }
  ctx.beginPath();
  ctx.arc(mark.x, mark.y, mark.radius, mark.from ?? 0, mark.to ?? 2 * Math.PI);
  ink(ctx, mark, scale);
}

function ink(ctx: CanvasRenderingContext2D, { stroke, width = 0.13, dash, fill }: Ink, scale: number): void {
  if (fill) {
    ctx.fillStyle = fill;
    ctx.fill();
  }
  if (!stroke) return;
  ctx.strokeStyle = stroke;
  // A line of a picture is never thinner than is seen.
  ctx.lineWidth = Math.max(width, 0.5 / scale);
  ctx.setLineDash(dash ? [...dash] : []);
  ctx.stroke();
  ctx.setLineDash([]);
}
