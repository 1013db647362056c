/** The ground in relief with what stands on it, seen in a parallel projection. */
import * as THREE from "three";
import { PieceScene } from "./pieces";
import type { Orbit } from "./orbit";

/** The camera stands this many widths of what is seen from the middle. */
const FAR = 50;
/** Pixels of the page across of a point: where they stand close the ground between them stays to be seen. */
const LEAST = 1.2,
  LARGEST = 5;

export class ReliefScene extends PieceScene {
  private readonly camera = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1);
  /** Level that heights in the card's buffers count from. */
  base = 0;
  /** Shared by all that is lit: the direction to the light, and the exaggeration. */
  readonly light = { value: new THREE.Vector3() };
  readonly heights = { value: 1 };
  /** Pixels of the drawing surface across of a point, and about how far points stand apart. */
  readonly dotSize = { value: 1 };
  spacing = Infinity;
  /** How far what is drawn reaches, in the job's unit: nothing of it is cut off before or behind. */
  reach = 1;

  turnLight(towards: readonly [number, number, number]): void {
    if (towards[0] === this.light.value.x && towards[1] === this.light.value.y) return;
    this.light.value.set(...towards);
    this.version++;
  }

  /** Draws the relief, or what of it is still to come: `PieceScene.stage`. */
  render(v: Orbit, background: string, coarse: boolean): "unchanged" | "part" | "whole" {
    const { camera } = this,
      w = v.width / v.scale / 2,
      h = v.height / v.scale / 2,
      far = FAR * (this.reach + w + h);
    [camera.left, camera.right, camera.top, camera.bottom] = [-w, w, h, -h];
    // As near as all that is drawn allows: depth is told apart in steps of what lies between.
    const depth = this.reach * (1 + v.heights) + w + h;
    [camera.near, camera.far] = [far - depth, far + depth];
    const target = new THREE.Vector3(v.e - this.origin[0], v.n - this.origin[1], (v.z - this.base) * v.heights),
      back = new THREE.Vector3(
        -Math.sin(v.bearing) * Math.cos(v.tilt),
        -Math.cos(v.bearing) * Math.cos(v.tilt),
        Math.sin(v.tilt),
      );
    camera.position.copy(target).addScaledVector(back, far);
    camera.up.set(Math.sin(v.bearing) * Math.sin(v.tilt), Math.cos(v.bearing) * Math.sin(v.tilt), Math.cos(v.tilt));
    camera.lookAt(target);
    camera.updateProjectionMatrix();
    this.heights.value = v.heights;
    this.dotSize.value = this.pixelRatio * Math.min(LARGEST, Math.max(LEAST, this.spacing * v.scale * 0.15));
    this.scene.scale.z = v.heights;
    const window = [v.e, v.n, v.z, v.bearing, v.tilt, v.heights, v.scale, v.width, v.height, ...this.origin, this.base];
    return this.stage(camera, window.join(" "), background, coarse);
  }
}
