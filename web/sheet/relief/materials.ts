/** How thick lines and the ground are drawn by the graphics card in relief; cloned for each part. */
import * as THREE from "three";

/**
 * Lines of a width in pixels. Each segment is four corners that step aside by themselves: drawn as instances of one
 * quad, as the library has them, each segment costs a software graphics card some twenty microseconds.
 */
export const LINE_MATERIAL = new THREE.ShaderMaterial({
  side: THREE.DoubleSide,
  uniforms: { width: { value: 1 }, size: { value: new THREE.Vector2(1, 1) }, color: { value: null } },
  vertexShader: `
    attribute vec3 other; attribute float aside; uniform float width; uniform vec2 size;
    void main() {
      vec4 here = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      vec4 there = projectionMatrix * modelViewMatrix * vec4(other, 1.0);
      vec2 way = (there.xy / there.w - here.xy / here.w) * size;
      float far = length(way);
      vec2 on = far > 0.0 ? way / far : vec2(1.0, 0.0);
      // Aside by half the width, and as much beyond the end, so that corners close.
      vec2 step = (vec2(-on.y, on.x) * aside - on) * width;
      gl_Position = here + vec4(step / size * here.w, 0.0, 0.0);
    }`,
  fragmentShader: "uniform vec3 color; void main() { gl_FragColor = vec4(color, 1.0); }",
});

/**
 * Classes of what varies over a surface: of levels, or of slopes, which follow from the plane of the triangle that a pixel
 * lies on, and on which the light falls.
 */
export const GROUND_MATERIAL = new THREE.ShaderMaterial({
  side: THREE.DoubleSide,
  uniforms: {
    edges: { value: null },
    colors: { value: null },
    count: { value: 0 },
    bySlope: { value: false },
    from: { value: 0 },
    light: { value: new THREE.Vector3() },
    heights: { value: 1 },
    opacity: { value: 1 },
  },
  vertexShader: `
    attribute float level; varying vec3 at;
    void main() {
      at = vec3(position.xy, level);
      gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
    }`,
  fragmentShader: `
    varying vec3 at; uniform float edges[MOST]; uniform vec3 colors[MOST]; uniform int count; uniform bool bySlope;
    uniform vec3 light; uniform float heights; uniform float opacity;
    void main() {
      vec3 across = cross(dFdx(at), dFdy(at));
      float v = bySlope ? length(across.xy) / abs(across.z) : at.z;
      vec3 color = colors[0];
      for (int k = 0; k < MOST - 1; k++) {
        if (k >= count || v < edges[k]) break;
        color = colors[k + 1];
      }
      vec3 up = normalize(vec3(across.xy * sign(across.z) * heights, abs(across.z)));
      color *= 0.55 + 0.6 * max(0.0, dot(up, light));
      gl_FragColor = vec4(min(color, 1.0), opacity);
    }`,
});
