/** Bare Delaunay triangulation: `delaunator` for speed, then every side decided again exactly. */
import Delaunator from "delaunator";
import { TriMesh } from "./mesh";

/**
 * The mesh of places given as offsets from a near origin. No two may be the same place (see mergeCoincident).
 * A mesh without triangles means that all places are on one line.
 */
export function triangulate(x: Float64Array, y: Float64Array, z: Float64Array): TriMesh {
  // With y turned about, the package's clockwise triangles come out counter-clockwise.
  const coords = new Float64Array(2 * x.length);
  for (let i = 0; i < x.length; i++) {
    coords[2 * i] = x[i]!;
    coords[2 * i + 1] = -y[i]!;
  }
  const { triangles, halfedges } = new Delaunator(coords);
  const mesh = new TriMesh(x, y, z, new Int32Array(triangles.buffer as ArrayBuffer, triangles.byteOffset, triangles.length), halfedges);
  mesh.legalizeAll();
  return mesh;
}
