/** How points and the map of differences are drawn by the graphics card; cloned for each part. */
import * as THREE from "three";

/** Points as small crosses; control as triangles. */
export const POINT_MATERIAL = new THREE.ShaderMaterial({
  depthTest: false,
  transparent: true,
  uniforms: { size: { value: 7 } },
  vertexShader: `
    attribute vec3 tint; attribute float kind; uniform float size; varying vec3 vTint; varying float vKind;
    void main() {
      vTint = tint; vKind = kind;
      gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      gl_PointSize = kind > 0.5 ? max(size * 1.8, 9.0) : size;
    }`,
  fragmentShader: `
    varying vec3 vTint; varying float vKind; uniform float size;
    void main() {
      vec2 p = gl_PointCoord * 2.0 - 1.0;
      if (vKind > 0.5) {
        // A triangle standing on its base, drawn as an outline.
        float side = max(-p.y * -1.0 - 0.75, abs(p.x) * 1.6 - p.y - 0.75);
        if (side > 0.0 || side < -0.42) discard;
      } else if (size > 5.0 && min(abs(p.x), abs(p.y)) > 0.17) discard;
      gl_FragColor = vec4(vTint, 1.0);
    }`,
});

/** Cut in one colour, fill in the other and hatched. */
export const MAP_MATERIAL = new THREE.ShaderMaterial({
  depthTest: false,
  side: THREE.DoubleSide,
  uniforms: {
    cutColor: { value: null },
    fillColor: { value: null },
    paper: { value: null },
    hatch: { value: null },
    largest: { value: 1 },
    deadband: { value: 0 },
  },
  vertexShader: `
    attribute float difference; varying float d;
    void main() { d = difference; gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`,
  fragmentShader: `
    varying float d; uniform vec3 cutColor; uniform vec3 fillColor; uniform vec3 paper; uniform vec3 hatch; uniform float largest; uniform float deadband;
    void main() {
      if (abs(d) <= deadband) { gl_FragColor = vec4(mix(paper, vec3(0.5), 0.08), 1.0); return; }
      float share = 0.16 + 0.62 * sqrt(min(1.0, abs(d) / largest));
      vec3 color = mix(paper, d > 0.0 ? fillColor : cutColor, share);
      if (d > 0.0 && mod(gl_FragCoord.x + gl_FragCoord.y, 7.0) < 1.5) color = mix(color, hatch, 0.6);
      gl_FragColor = vec4(color, 1.0);
    }`,
});
