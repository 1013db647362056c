/**
 * The survey in plan as a picture: triangles and lines by named parts, points as dots over them; text and selection go on a
 * canvas laid over it (overlay.ts). It is painted only when something changed, and what is much over several frames, so
 * that the page answers between them.
 */
import type { PlanView } from "./camera";
import { paintDots, type Dots } from "./painting/dots";
import { faceCount, paintFaces, type Faces } from "./painting/faces";
import { packed, windowOf, type Picture } from "./painting/picture";
import { Coverage, paintStrokes, strokeCount, type Strokes } from "./painting/strokes";
import { hex } from "../lib/theme";

/** Milliseconds that painting may take of a frame, and how many strokes or triangles are painted between two looks. */
const FRAME = 40,
  AT_ONCE = 5000;
/** A part of more strokes and triangles is left out while the sheet moves. */
const MANY = 400_000;

type Drawn = Faces | Strokes;

interface Part {
  drawn: readonly Drawn[];
  shown: boolean;
}

const countOf = (d: Drawn) => ("ends" in d ? strokeCount(d) : faceCount(d));

export class PlanScene {
  private readonly parts = new Map<string, Part>();
  private readonly dots = new Map<string, { dots: Dots; shown: boolean }>();
  /** Where dots are painted before they are laid over the rest. */
  private readonly layer = new OffscreenCanvas(1, 1);
  private image = new ImageData(1, 1);
  private picture: Picture = { pixels: new Uint32Array(1), width: 1, height: 1 };
  private coverage = new Coverage(1);
  private ratio = 1;
  /** Job coordinates that positions of strokes and triangles are offsets from. */
  origin: [number, number] = [0, 0];
  /** Counts what makes the picture another; what is being painted, and what of it is still to come. */
  private version = 0;
  private painting = "";
  private waiting: { drawn: Drawn; from: number }[] = [];

  /** Of so many pixels of the page, each of `ratio` pixels of the picture. */
  resize(width: number, height: number, ratio: number): void {
    const [w, h] = [Math.max(1, Math.floor(width * ratio)), Math.max(1, Math.floor(height * ratio))];
    this.ratio = ratio;
    this.image = new ImageData(w, h);
    this.picture = { pixels: new Uint32Array(this.image.data.buffer), width: w, height: h };
    this.coverage = new Coverage(w * h);
    this.version++;
  }

  /**
   * Paints what is shown, or what of it is still to come, and says how far that went; the same again costs nothing.
   * `coarse` leaves out what is very much, for frames in a movement.
   */
  render(v: PlanView, background: string, coarse: boolean): "unchanged" | "part" | "whole" {
    const wanted = [v.e, v.n, v.scale, v.width, v.height, ...this.origin, background, coarse, this.version].join(" "),
      { picture } = this;
    if (wanted !== this.painting) {
      this.painting = wanted;
      picture.pixels.fill(packed(hex(background)));
      this.waiting = [...this.parts.values()]
        .filter((part) => part.shown && !(coarse && part.drawn.reduce((sum, d) => sum + countOf(d), 0) > MANY))
        .flatMap((part) => part.drawn)
        .sort((a, b) => a.order - b.order)
        .map((drawn) => ({ drawn, from: 0 }));
    } else if (this.waiting.length === 0) return "unchanged";
    const begun = performance.now(),
      window = windowOf(v, this.origin, this.ratio, picture);
    while (this.waiting.length > 0 && performance.now() - begun < FRAME) {
      const first = this.waiting[0]!,
        { drawn, from } = first,
        to = Math.min(countOf(drawn), from + AT_ONCE);
      if ("ends" in drawn) paintStrokes(picture, window, drawn, from, to, this.coverage);
      else paintFaces(picture, window, drawn, from, to);
      first.from = to;
      if (to === countOf(drawn)) this.waiting.shift();
    }
    return this.waiting.length > 0 ? "part" : "whole";
  }

  /** Puts the picture on a canvas of its size, with the dots over it; see `paintDots` for `faint`. */
  show(ctx: CanvasRenderingContext2D, v: PlanView, faint: boolean): void {
    ctx.putImageData(this.image, 0, 0);
    const shown = [...this.dots.values()].filter((d) => d.shown && d.dots.count > 0);
    if (shown.length === 0) return;
    const { width, height } = this.picture,
      image = new ImageData(width, height),
      pixels = new Uint32Array(image.data.buffer);
    for (const { dots } of shown) paintDots(pixels, width, height, this.ratio, v, dots, faint);
    // Put at once it would take away what is under it.
    this.layer.width = width;
    this.layer.height = height;
    this.layer.getContext("2d")!.putImageData(image, 0, 0);
    ctx.drawImage(this.layer, 0, 0);
  }

  setVisible(name: string, shown: boolean): void {
    for (const part of [this.parts.get(name), this.dots.get(name)])
      if (part && part.shown !== shown) {
        part.shown = shown;
        this.version++;
      }
  }

  /** Puts a part in the place of the one of that name; none for nothing to paint. */
  put(name: string, drawn: readonly Drawn[]): void {
    const old = this.parts.get(name);
    if (!old && drawn.length === 0) return;
    this.version++;
    if (drawn.length) this.parts.set(name, { drawn, shown: old?.shown ?? true });
    else this.parts.delete(name);
  }

  /** Puts dots in the place of those of that name; undefined for none. */
  putDots(name: string, dots: Dots | undefined): void {
    const old = this.dots.get(name);
    if (!old && !dots) return;
    this.version++;
    if (dots) this.dots.set(name, { dots, shown: old?.shown ?? true });
    else this.dots.delete(name);
  }
}
