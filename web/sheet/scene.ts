/**
 * The survey in plan: lines and terrain by three.js, points as dots over them (dots.ts); text and selection go on a
 * canvas laid over it (overlay.ts). Draws only when something changed, and what is much over several frames, so that the
 * page answers between them.
 */
import * as THREE from "three";
import type { PlanView } from "./camera";
import { paintDots, type Dots } from "./dots";
import type { Piece } from "./parts";
import { hex } from "./theme";

/** Vertices above which a part is left out while the sheet moves. */
const MANY = 60_000;
/** Vertices drawn in one frame. */
const MOST = 40_000;

interface Part {
  pieces: readonly Piece[];
  shown: boolean;
}

export class PlanScene {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  private readonly camera = new THREE.OrthographicCamera(-1, 1, 1, -1, -10, 10);
  private readonly parts = new Map<string, Part>();
  private readonly dots = new Map<string, { dots: Dots; shown: boolean }>();
  /** Where dots are painted before they are laid over the rest. */
  private readonly layer = new OffscreenCanvas(1, 1);
  /** Materials of parts that were replaced: given back after the next frame, so that its program is not made anew. */
  private readonly retired: THREE.Material[] = [];
  private readonly size = new THREE.Vector2(1, 1);
  private ratio = 1;
  /** Counts what makes the drawing another; what is being drawn, and what of it is still to come. */
  private version = 0;
  private drawing = "";
  private dotsVersion = 0;
  private dotsDrawn = 0;
  private waiting: Piece[] = [];
  origin: [number, number] = [0, 0];

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new THREE.WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true, alpha: false });
    // Colours are given as they shall appear.
    THREE.ColorManagement.enabled = false;
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace;
  }

  /** `ratio`: pixels of the drawing surface for one of the page. */
  resize(width: number, height: number, ratio: number): void {
    this.ratio = ratio;
    this.size.set(width, height);
    this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(width, height, false);
    for (const { pieces } of this.parts.values()) this.fitLines(pieces);
    this.version++;
  }

  /**
   * Draws the plan, or what of it is still to come, and says how far that went; the same plan again costs nothing.
   * `coarse` leaves out what is many and small, for frames while the sheet moves.
   */
  render(v: PlanView, background: string, coarse: boolean): "unchanged" | "part" | "whole" {
    const wanted = [v.e, v.n, v.scale, v.width, v.height, background, coarse, this.version].join(" ");
    const first = wanted !== this.drawing,
      dotsAreNew = this.dotsVersion !== this.dotsDrawn;
    this.dotsDrawn = this.dotsVersion;
    if (first) {
      this.drawing = wanted;
      this.aim(v, background);
      this.waiting = [...this.parts.values()]
        .filter((part) => part.shown && !(coarse && costOf(part.pieces) > MANY))
        .flatMap((part) => part.pieces)
        .sort((a, b) => a.renderOrder - b.renderOrder);
    } else if (this.waiting.length === 0) return dotsAreNew ? "whole" : "unchanged";
    const now: Piece[] = [];
    for (let cost = 0; this.waiting.length > 0 && (cost === 0 || cost + this.waiting[0]!.userData.cost <= MOST);) {
      const next = this.waiting.shift()!;
      cost += next.userData.cost as number;
      now.push(next);
    }
    for (const piece of now) piece.visible = true;
    this.renderer.autoClear = first;
    this.renderer.render(this.scene, this.camera);
    for (const piece of now) piece.visible = false;
    if (this.waiting.length > 0) return "part";
    for (const material of this.retired.splice(0)) material.dispose();
    return "whole";
  }

  private aim(v: PlanView, background: string): void {
    this.renderer.setClearColor(new THREE.Color(...hex(background)), 1);
    const w = v.width / v.scale / 2,
      h = v.height / v.scale / 2;
    this.camera.left = -w;
    this.camera.right = w;
    this.camera.top = h;
    this.camera.bottom = -h;
    this.camera.position.set(v.e - this.origin[0], v.n - this.origin[1], 0);
    this.camera.updateProjectionMatrix();
  }

  /** Lays the dots over a picture of the rest, of the same size. */
  drawDots(ctx: CanvasRenderingContext2D, v: PlanView): void {
    const shown = [...this.dots.values()].filter((d) => d.shown && d.dots.count > 0);
    if (shown.length === 0) return;
    const { width, height } = ctx.canvas,
      image = new ImageData(width, height),
      pixels = new Uint32Array(image.data.buffer);
    for (const { dots } of shown) paintDots(pixels, width, height, this.ratio, v, dots);
    // Put at once it would take away what is under it.
    this.layer.width = width;
    this.layer.height = height;
    this.layer.getContext("2d")!.putImageData(image, 0, 0);
    ctx.drawImage(this.layer, 0, 0);
  }

  dispose(): void {
    for (const name of Array.from(this.parts.keys())) this.put(name, []);
    for (const material of this.retired.splice(0)) material.dispose();
    this.renderer.dispose();
  }

  setVisible(name: string, shown: boolean): void {
    const part = this.parts.get(name),
      dots = this.dots.get(name);
    if (part && part.shown !== shown) {
      part.shown = shown;
      this.version++;
    }
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

  /** Puts a part in the place of the one of that name, whose memory is given back; none for nothing to draw. */
  put(name: string, pieces: readonly Piece[]): void {
    const old = this.parts.get(name);
    if (!old && pieces.length === 0) return;
    this.version++;
    for (const { geometry, material } of old?.pieces ?? []) {
      geometry.dispose();
      this.retired.push(material as THREE.Material);
    }
    this.scene.remove(...(old?.pieces ?? []));
    this.parts.delete(name);
    if (pieces.length === 0) return;
    this.fitLines(pieces);
    for (const piece of pieces) {
      piece.visible = false;
      this.scene.add(piece);
    }
    this.parts.set(name, { pieces, shown: old?.shown ?? true });
  }

  /** Thick lines are as wide as they are said to be on a window of this size. */
  private fitLines(pieces: readonly Piece[]): void {
    for (const { material } of pieces)
      if (material instanceof THREE.ShaderMaterial && material.uniforms.size) material.uniforms.size.value = this.size;
  }
}

const costOf = (pieces: readonly Piece[]) => pieces.reduce((sum, p) => sum + (p.userData.cost as number), 0);
