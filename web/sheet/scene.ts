/**
 * The survey in plan: lines and terrain by three.js, points as dots over them (dots.ts); text and selection go on a
 * canvas laid over it (overlay.ts).
 */
import * as THREE from "three";
import type { PlanView } from "./camera";
import { paintDots, type Dots } from "./dots";
import { PieceScene } from "./pieces";

export class PlanScene extends PieceScene {
  private readonly camera = new THREE.OrthographicCamera(-1, 1, 1, -1, -10, 10);
  private readonly dots = new Map<string, { dots: Dots; shown: boolean }>();
  /** Where dots are painted before they are laid over the rest. */
  private readonly layer = new OffscreenCanvas(1, 1);
  private dotsVersion = 0;
  private dotsDrawn = 0;

  /** Draws the plan, or what of it is still to come: `PieceScene.stage`. */
  render(v: PlanView, background: string, coarse: boolean): "unchanged" | "part" | "whole" {
    const dotsAreNew = this.dotsVersion !== this.dotsDrawn;
    this.dotsDrawn = this.dotsVersion;
    const w = v.width / v.scale / 2,
      h = v.height / v.scale / 2;
    this.camera.left = -w;
    this.camera.right = w;
    this.camera.top = h;
    this.camera.bottom = -h;
    const [x, y] = [v.e - this.origin[0], v.n - this.origin[1]];
    this.camera.position.set(x, y, 0);
    this.camera.updateProjectionMatrix();
    const drawn = this.stage(
      this.camera,
      [v.e, v.n, v.scale, v.width, v.height, ...this.origin].join(" "),
      background,
      coarse,
      // With what reaches into it from beside: no line is wider.
      [x - 1.1 * w, y - 1.1 * h, x + 1.1 * w, y + 1.1 * h],
    );
    return drawn === "unchanged" && dotsAreNew ? "whole" : drawn;
  }

  /** Lays the dots over a picture of the rest, of the same size; see `paintDots` for `faint`. */
  drawDots(ctx: CanvasRenderingContext2D, v: PlanView, faint: boolean): void {
    const shown = [...this.dots.values()].filter((d) => d.shown && d.dots.count > 0);
    if (shown.length === 0) return;
    const { width, height } = ctx.canvas,
      image = new ImageData(width, height),
      pixels = new Uint32Array(image.data.buffer);
    for (const { dots } of shown) paintDots(pixels, width, height, this.pixelRatio, v, dots, faint);
    // Put at once it would take away what is under it.
    this.layer.width = width;
    this.layer.height = height;
    this.layer.getContext("2d")!.putImageData(image, 0, 0);
    ctx.drawImage(this.layer, 0, 0);
  }

  override setVisible(name: string, shown: boolean): void {
    super.setVisible(name, shown);
    const dots = this.dots.get(name);
    if (dots && dots.shown !== shown) {
      dots.shown = shown;
      this.dotsVersion++;
    }
  }

  /** Puts dots in the place of those of that name; undefined for none. */
  putDots(name: string, dots: Dots | undefined): void {
    const old = this.dots.get(name);
    if (!old && !dots) return;
    this.dotsVersion++;
    if (dots) this.dots.set(name, { dots, shown: old?.shown ?? true });
    else this.dots.delete(name);
  }
}
