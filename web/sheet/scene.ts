/**
 * The survey in plan, drawn by three.js from typed arrays; text and selection go on a canvas laid over it (overlay.ts).
 * Positions in GPU buffers are offsets from the job's origin, never whole grid coordinates. Draws only when something changed.
 */
import * as THREE from "three";
import { LineMaterial } from "three/examples/jsm/lines/LineMaterial.js";
import { LineSegments2 } from "three/examples/jsm/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/examples/jsm/lines/LineSegmentsGeometry.js";
import type { DrawingSettings } from "@bramble/core";
import { isDrawn } from "@bramble/core/drawing/layout";
import type { PointTable } from "@bramble/core/points/table";
import { chordsOf, type Reference } from "@bramble/core/records/reference";
import type { Contours } from "@bramble/core/surface/contour";
import type { Surface } from "@bramble/core/surface/model";
import type { View } from "../lib/view";
import type { PlanView } from "./camera";
import { MAP_MATERIAL, POINT_MATERIAL } from "./materials";
import { hex, onSheet, type SheetColors } from "./theme";

/** Vertices above which a part is left out while the sheet moves. */
const MANY = 60_000;

/** Points drawn in one frame. */
const BATCH = 60_000;

type SimpleMesh = THREE.Mesh<THREE.BufferGeometry, THREE.Material>;
type PointsPart = THREE.Points<THREE.BufferGeometry, THREE.ShaderMaterial>;

export interface MapRange {
  level: number;
  largest: number;
  deadband: number;
}

export class PlanScene {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  private readonly camera = new THREE.OrthographicCamera(-1, 1, 1, -1, -10, 10);
  private readonly parts = new Map<string, THREE.Object3D>();
  private lineMaterials: LineMaterial[] = [];
  /** Materials of parts that were replaced: given back after the next frame, so that its program is not made anew. */
  private readonly retired: THREE.Material[] = [];
  private ratio = 1;
  /** Counts what makes the drawing another; what was drawn last, and how many batches of its points. */
  private version = 0;
  private drawn = "";
  private batch = 0;
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
    this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(width, height, false);
    for (const m of this.lineMaterials) m.resolution.set(width, height);
    this.version++;
  }

  /**
   * Draws the plan; false when more is to come: very many points are drawn over several frames, so that the page answers
   * between them. What is drawn already stays: the same plan again costs nothing. `coarse` leaves out what is many and
   * small, for frames while the sheet moves; small jobs are drawn whole always.
   */
  render(v: PlanView, background: string, coarse: boolean): boolean {
    const wanted = [v.e, v.n, v.scale, v.width, v.height, background, coarse, this.version].join(" ");
    const batches = (
      this.parts.get("points")?.visible && !coarse ? this.parts.get("points")!.children : []
    ) as THREE.Points[];
    if (wanted !== this.drawn) {
      this.drawn = wanted;
      this.batch = 0;
      this.aim(v, background);
      const resting = coarse ? this.resting() : [];
      for (const part of resting) part.visible = false;
      batches.forEach((b, k) => (b.visible = k === 0));
      this.renderer.render(this.scene, this.camera);
      for (const part of resting) part.visible = true;
      for (const material of this.retired.splice(0)) material.dispose();
    } else if (this.batch + 1 < batches.length) {
      this.batch++;
      const others = [...this.parts.values()].filter((part) => part !== batches[0]!.parent && part.visible);
      for (const part of others) part.visible = false;
      batches.forEach((b, k) => (b.visible = k === this.batch));
      this.renderer.autoClear = false;
      this.renderer.render(this.scene, this.camera);
      this.renderer.autoClear = true;
      for (const part of others) part.visible = true;
    }
    return this.batch + 1 >= batches.length;
  }

  /** Parts that are many and small. */
  private resting(): THREE.Object3D[] {
    return ["points", "contours", "index contours", "triangles"].flatMap((name) => {
      const part = this.parts.get(name);
      if (!part?.visible) return [];
      if (part.children.length > 0) return [part];
      const { geometry } = part as THREE.Mesh;
      // A thick segment is eight corners drawn many times over.
      const thick = geometry.getAttribute("instanceStart") as THREE.BufferAttribute | undefined;
      return (thick ? 4 * thick.count : geometry.getAttribute("position").count) > MANY ? [part] : [];
    });
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
    // Points close together shrink to dots, so that the lines stay to be seen.
    for (const name of ["points", "incoming"]) {
      const part = this.parts.get(name);
      for (const points of (part?.children.length ? part.children : part ? [part] : []) as PointsPart[])
        points.material.uniforms.size!.value =
          Math.min(7, Math.max(2, (part!.userData.spacing as number) * v.scale * 0.3)) * this.ratio;
    }
  }

  dispose(): void {
    for (const name of Array.from(this.parts.keys())) this.put(name, undefined);
    this.renderer.dispose();
  }

  setVisible(name: string, visible: boolean): void {
    const part = this.parts.get(name);
    if (!part || part.visible === visible) return;
    part.visible = visible;
    this.version++;
  }

  /** Points as small crosses; control as triangles. */
  setPoints(
    t: PointTable,
    view: View,
    colorOf: Map<string, string>,
    hidden: ReadonlySet<string>,
    colors: SheetColors,
  ): void {
    const count = t.count;
    const position = new Float32Array(3 * count),
      color = new Float32Array(3 * count),
      kind = new Float32Array(count);
    // One colour for each code, not looked up for each point.
    const tints = view.codes.map((code, c) => {
      const known = colorOf.get(code);
      return known ? onSheet(known, colors.dark) : hex(view.known[c] === 0 ? colors.amber : colors.soft);
    });
    const plain = hex(colors.soft),
      unseen = view.codes.map((code) => hidden.has(code));
    let k = 0;
    for (let i = 0; i < count; i++) {
      if (t.deleted[i] || unseen[view.code[i] ?? 0]) continue;
      position[3 * k] = t.e[i]! - this.origin[0];
      position[3 * k + 1] = t.n[i]! - this.origin[1];
      const tint = tints[view.code[i] ?? 0] ?? plain;
      color[3 * k] = tint[0]!;
      color[3 * k + 1] = tint[1]!;
      color[3 * k + 2] = tint[2]!;
      kind[k] = t.kind[i] === 1 ? 1 : 0;
      k++;
    }
    const material = POINT_MATERIAL.clone(),
      group = new THREE.Group();
    for (let from = 0; from < k; from += BATCH) {
      const to = Math.min(k, from + BATCH),
        geometry = new THREE.BufferGeometry();
      geometry.setAttribute("position", new THREE.BufferAttribute(position.subarray(3 * from, 3 * to), 3));
      geometry.setAttribute("tint", new THREE.BufferAttribute(color.subarray(3 * from, 3 * to), 3));
      geometry.setAttribute("kind", new THREE.BufferAttribute(kind.subarray(from, to), 1));
      const points = new THREE.Points(geometry, material);
      points.renderOrder = 50;
      points.frustumCulled = false;
      group.add(points);
    }
    group.userData.spacing = spacingOf(position, k);
    this.put("points", k ? group : undefined);
  }

  setLines(view: View, hidden: DrawingSettings["hidden"], colors: SheetColors): void {
    const { xyz, starts } = view.chains;
    const segments = view.lines.reduce((s, _, l) => s + Math.max(0, starts[l + 1]! - starts[l]! - 1), 0);
    const position = new Float32Array(6 * segments),
      color = new Float32Array(6 * segments);
    let k = 0;
    view.lines.forEach((line, l) => {
      if (!isDrawn(line, hidden)) return;
      const tint = onSheet(line.color, colors.dark);
      for (let i = starts[l]! + 1; i < starts[l + 1]!; i++, k++) {
        position[6 * k] = xyz[3 * i - 3]! - this.origin[0];
        position[6 * k + 1] = xyz[3 * i - 2]! - this.origin[1];
        position[6 * k + 3] = xyz[3 * i]! - this.origin[0];
        position[6 * k + 4] = xyz[3 * i + 1]! - this.origin[1];
        color.set(tint, 6 * k);
        color.set(tint, 6 * k + 3);
      }
    });
    this.put("lines", k ? this.thickLines(position.subarray(0, 6 * k), 2, color.subarray(0, 6 * k), 40) : undefined);
  }

  setContours(list: Contours[], colors: SheetColors): void {
    const build = (marked: number) => {
      const out = new Float32Array(6 * list.reduce((s, c) => s + c.xy.length / 2, 0));
      let k = 0;
      for (const c of list) {
        const de = c.origin[0] - this.origin[0],
          dn = c.origin[1] - this.origin[1];
        for (let l = 0; l < c.level.length; l++) {
          if (c.index[l] !== marked) continue;
          for (let i = c.starts[l]! + 1; i < c.starts[l + 1]!; i++, k += 6) {
            out[k] = c.xy[2 * i - 2]! + de;
            out[k + 1] = c.xy[2 * i - 1]! + dn;
            out[k + 3] = c.xy[2 * i]! + de;
            out[k + 4] = c.xy[2 * i + 1]! + dn;
          }
        }
      }
      return out.subarray(0, k);
    };
    const plain = build(0),
      index = build(1);
    this.put("contours", plain.length ? this.thinLines(plain, colors.contour, 20) : undefined);
    this.put("index contours", index.length ? this.thickLines(index, 1.6, colors.contourIndex, 21) : undefined);
  }

  setTriangles(s: Surface | undefined, colors: SheetColors): void {
    if (!s) return this.put("triangles", undefined);
    // Each side once, from the half-edge of the higher number or on the outline.
    const out = new Float32Array(6 * s.tri.length);
    let k = 0;
    for (let h = 0; h < s.tri.length; h++) {
      if (s.twin[h]! > h) continue;
      for (const v of [s.tri[h]!, s.tri[h % 3 === 2 ? h - 2 : h + 1]!]) {
        const [e, n] = this.near(s, v);
        out[k] = e;
        out[k + 1] = n;
        k += 3;
      }
    }
    this.put("triangles", this.thinLines(out.subarray(0, k), colors.triangle, 10));
  }

  /** The difference between the surface and a level: cut in one colour, fill in the other and hatched, so that grey paper tells them apart. */
  setMap(s: Surface | undefined, range: MapRange | undefined, colors: SheetColors): void {
    if (!s || !range) return this.put("map", undefined);
    const position = new Float32Array(3 * s.x.length),
      d = new Float32Array(s.x.length);
    for (let v = 0; v < s.x.length; v++) {
      const [e, n] = this.near(s, v);
      position[3 * v] = e;
      position[3 * v + 1] = n;
      d[v] = range.level - s.z[v]!;
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(position, 3));
    geometry.setAttribute("difference", new THREE.BufferAttribute(d, 1));
    geometry.setIndex(new THREE.BufferAttribute(Uint32Array.from(s.tri), 1));
    const material = MAP_MATERIAL.clone();
    material.uniforms.cutColor!.value = new THREE.Vector3(...hex(colors.cut));
    material.uniforms.fillColor!.value = new THREE.Vector3(...hex(colors.fill));
    material.uniforms.paper!.value = new THREE.Vector3(...hex(colors.sheet));
    material.uniforms.hatch!.value = new THREE.Vector3(...hex(colors.fill)).multiplyScalar(colors.dark ? 1.35 : 0.55);
    material.uniforms.largest!.value = range.largest;
    material.uniforms.deadband!.value = range.deadband;
    const mesh = new THREE.Mesh(geometry, material);
    mesh.renderOrder = 1;
    this.put("map", mesh);
  }

  /** Reference geometry under the job: lines with their arcs, and the outlines and triangles of surfaces. */
  setReference(list: readonly Reference[], colors: SheetColors): void {
    const lines: number[] = [],
      faces: number[] = [];
    const [oe, on] = this.origin;
    for (const { lines: drawn, surfaces } of list) {
      for (const l of drawn)
        for (const [a, b] of chordsOf(l)) lines.push(a[0] - oe, a[1] - on, 0, b[0] - oe, b[1] - on, 0);
      for (const s of surfaces) {
        for (let f = 0; f < s.faces.length; f += 3)
          for (let k = 0; k < 3; k++) {
            const v = s.faces[f + k]!,
              w = s.faces[f + ((k + 1) % 3)]!;
            faces.push(
              s.points[3 * v]! - oe,
              s.points[3 * v + 1]! - on,
              0,
              s.points[3 * w]! - oe,
              s.points[3 * w + 1]! - on,
              0,
            );
          }
      }
    }
    this.put(
      "reference surfaces",
      faces.length ? this.thinLines(Float32Array.from(faces), colors.triangle, 5) : undefined,
    );
    this.put("reference", lines.length ? this.thinLines(Float32Array.from(lines), colors.soft, 12) : undefined);
  }

  /** Points of an intake not taken in yet. */
  setIncoming(places: Float64Array | undefined, colors: SheetColors): void {
    if (!places?.length) return this.put("incoming", undefined);
    const position = new Float32Array((places.length / 2) * 3);
    for (let i = 0; i < places.length / 2; i++) {
      position[3 * i] = places[2 * i]! - this.origin[0];
      position[3 * i + 1] = places[2 * i + 1]! - this.origin[1];
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(position, 3));
    geometry.setAttribute(
      "tint",
      new THREE.BufferAttribute(
        Float32Array.from({ length: position.length }, (_, i) => hex(colors.bramble)[i % 3]!),
        3,
      ),
    );
    geometry.setAttribute("kind", new THREE.BufferAttribute(new Float32Array(position.length / 3), 1));
    const points = new THREE.Points(geometry, POINT_MATERIAL.clone());
    points.renderOrder = 60;
    points.userData.spacing = spacingOf(position, position.length / 3);
    this.put("incoming", points);
  }

  private near(s: Surface, v: number): [number, number] {
    return [s.x[v]! + s.origin[0] - this.origin[0], s.y[v]! + s.origin[1] - this.origin[1]];
  }

  private thinLines(position: Float32Array, color: string, order: number): THREE.LineSegments {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(position, 3));
    const lines = new THREE.LineSegments(
      geometry,
      new THREE.LineBasicMaterial({ color: new THREE.Color(...hex(color)), depthTest: false }),
    );
    lines.renderOrder = order;
    return lines;
  }

  private thickLines(
    position: Float32Array,
    width: number,
    color: Float32Array | string,
    order: number,
  ): LineSegments2 {
    const geometry = new LineSegmentsGeometry();
    geometry.setPositions(position);
    if (typeof color !== "string") geometry.setColors(color);
    const material = new LineMaterial({ linewidth: width, vertexColors: typeof color !== "string", depthTest: false });
    if (typeof color === "string") material.color = new THREE.Color(...hex(color));
    const size = this.renderer.getSize(new THREE.Vector2());
    material.resolution.copy(size);
    this.lineMaterials.push(material);
    const lines = new LineSegments2(geometry, material);
    lines.renderOrder = order;
    return lines;
  }

  /** Puts a part in the place of the one of that name, whose memory is given back. */
  private put(name: string, part: THREE.Object3D | undefined): void {
    const old = this.parts.get(name);
    if (!old && !part) return;
    this.version++;
    if (old) {
      this.scene.remove(old);
      for (const { geometry, material } of (old.children.length ? old.children : [old]) as SimpleMesh[]) {
        geometry.dispose();
        this.retired.push(material);
        this.lineMaterials = this.lineMaterials.filter((m) => (m as THREE.Material) !== material);
      }
      this.parts.delete(name);
    }
    if (!part) return;
    part.frustumCulled = false;
    if (old) part.visible = old.visible;
    this.scene.add(part);
    this.parts.set(name, part);
  }
}

/** About how far apart points are: the side of the square that each would have of the middle half of their extent. */
function spacingOf(position: Float32Array, count: number): number {
  if (count < 4) return Infinity;
  // Of very many a few thousand tell as much.
  const size = Math.min(count, 20_000),
    step = count / size;
  const middle = (axis: number) => {
    const sorted = new Float32Array(size);
    for (let i = 0; i < size; i++) sorted[i] = position[3 * Math.floor(i * step) + axis]!;
    sorted.sort();
    return sorted[Math.floor(0.75 * size)]! - sorted[Math.floor(0.25 * size)]!;
  };
  return Math.sqrt((middle(0) * middle(1) * 4) / count) || 1;
}
