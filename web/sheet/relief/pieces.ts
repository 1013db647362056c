/**
 * What the graphics card draws of the relief, by named parts of several pieces: drawn only when something changed, and
 * what is much over several frames, so that the page answers between them.
 */
import * as THREE from "three";
import { piecesOf, type Piece } from "./primitives";
import type { Strokes } from "../painting/strokes";
import { hex } from "../../lib/theme";

/** Vertices above which a part is left out while the sheet moves. */
export const MANY = 60_000;
/** Vertices drawn in one frame: at first, and at least and at most, as the machine shows what it bears. */
const MOST = { first: 40_000, least: 10_000, most: 400_000 };
/** Milliseconds from frame to frame that are too long, and that leave room for more. */
const LONG = 120,
  SHORT = 50;

interface Part {
  pieces: readonly Piece[];
  shown: boolean;
}

export class PieceScene {
  private readonly renderer: THREE.WebGLRenderer;
  protected readonly scene = new THREE.Scene();
  private readonly parts = new Map<string, Part>();
  /** Materials of parts that were replaced: given back after the next frame, so that its program is not made anew. */
  private readonly retired: THREE.Material[] = [];
  private readonly size = new THREE.Vector2(1, 1);
  /** Pixels of the drawing surface for one of the page. */
  pixelRatio = 1;
  /** Counts what makes the drawing another; what is being drawn, and what of it is still to come. */
  protected version = 0;
  private drawing = "";
  private waiting: Piece[] = [];
  private most = MOST.first;
  private lastFrame = -Infinity;
  /** Job coordinates that positions in the card's buffers are offsets from. */
  origin: [number, number] = [0, 0];

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new THREE.WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true, alpha: false });
    // Colours are given as they shall appear.
    THREE.ColorManagement.enabled = false;
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace;
  }

  resize(width: number, height: number, ratio: number): void {
    this.pixelRatio = ratio;
    this.size.set(width, height);
    this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(width, height, false);
    for (const { pieces } of this.parts.values()) this.fitLines(pieces);
    this.version++;
  }

  /**
   * Draws what is shown, or what of it is still to come, and says how far that went; the same again costs nothing.
   * `window` tells one aim of the camera from another. `coarse` leaves out what is many, for frames in a movement.
   */
  protected stage(
    camera: THREE.Camera,
    window: string,
    background: string,
    coarse: boolean,
  ): "unchanged" | "part" | "whole" {
    const wanted = [window, background, coarse, this.version].join(" "),
      first = wanted !== this.drawing;
    if (first) {
      this.drawing = wanted;
      this.renderer.setClearColor(new THREE.Color(...hex(background)), 1);
      this.waiting = [...this.parts.values()]
        .filter((part) => part.shown && !(coarse && costOf(part.pieces) > MANY))
        .flatMap((part) => part.pieces)
        .sort((a, b) => a.renderOrder - b.renderOrder);
    } else if (this.waiting.length === 0) return "unchanged";
    else this.adapt();
    this.lastFrame = performance.now();
    const now: Piece[] = [];
    for (let cost = 0; this.waiting.length > 0 && (cost === 0 || cost + this.waiting[0]!.userData.cost <= this.most);) {
      const next = this.waiting.shift()!;
      cost += next.userData.cost as number;
      now.push(next);
    }
    for (const piece of now) piece.visible = true;
    this.renderer.autoClear = first;
    this.renderer.render(this.scene, camera);
    for (const piece of now) piece.visible = false;
    if (this.waiting.length > 0) return "part";
    for (const material of this.retired.splice(0)) material.dispose();
    return "whole";
  }

  /** Draws more in a frame, or less, after how long the last part took to be seen. */
  private adapt(): void {
    const took = performance.now() - this.lastFrame;
    if (took > LONG) this.most = Math.max(MOST.least, this.most / 2);
    else if (took < SHORT) this.most = Math.min(MOST.most, this.most * 1.5);
  }

  dispose(): void {
    for (const name of Array.from(this.parts.keys())) this.put(name, []);
    for (const material of this.retired.splice(0)) material.dispose();
    this.renderer.dispose();
  }

  setVisible(name: string, shown: boolean): void {
    const part = this.parts.get(name);
    if (!part || part.shown === shown) return;
    part.shown = shown;
    this.version++;
  }

  /** Puts a part in the place of the one of that name, whose memory is given back; none for nothing to draw. */
  put(name: string, drawn: readonly (Piece | Strokes)[]): void {
    const pieces = drawn.flatMap((d) => ("ends" in d ? piecesOf(d) : [d]));
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
