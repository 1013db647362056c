/** Breaklines as pieces between vertices of the mesh, and vertices put where they belong. */
import { Constrainer, type PieceEnds } from "./constrain";
import { TriMesh } from "./mesh";

export function piecesOf(chain: { line: number; positions: number[] }, vertexOf: Int32Array): PieceEnds[] {
  const pieces: PieceEnds[] = [];
  for (let i = 1; i < chain.positions.length; i++) {
    const a = vertexOf[chain.positions[i - 1]!]!,
      b = vertexOf[chain.positions[i]!]!;
    if (a !== b) pieces.push({ a, b, line: chain.line });
  }
  return pieces;
}

export interface Passed {
  vertex: number;
  levels: [number, number];
  line: number;
  x: number;
  y: number;
}

/**
 * Cuts pieces at vertices that stand on them; there the breakline takes the vertex's level, and both levels are told.
 */
export function splitAtVertices(
  mesh: TriMesh,
  pieces: PieceEnds[],
  noise: number,
  told: (passed: Passed) => void,
): PieceEnds[] {
  const finder = new Constrainer(mesh, pieces, () => NaN);
  const out: PieceEnds[] = [];
  const passed: Passed[] = [];
  for (const p of pieces) {
    let from = p.a;
    for (const w of finder.verticesOn(p.a, p.b, noise)) {
      const t =
        Math.hypot(mesh.x[w]! - mesh.x[p.a]!, mesh.y[w]! - mesh.y[p.a]!) /
        Math.hypot(mesh.x[p.b]! - mesh.x[p.a]!, mesh.y[p.b]! - mesh.y[p.a]!);
      passed.push({
        vertex: w,
        levels: [mesh.z[p.a]! + t * (mesh.z[p.b]! - mesh.z[p.a]!), mesh.z[w]!],
        line: p.line,
        x: mesh.x[w]!,
        y: mesh.y[w]!,
      });
      out.push({ a: from, b: w, line: p.line });
      from = w;
    }
    out.push({ a: from, b: p.b, line: p.line });
  }
  passed.forEach(told);
  // Lines that run over one another have pieces in common; one of each will do.
  const seen = new Set<number>();
  return out.filter((p) => {
    const key = Math.min(p.a, p.b) * mesh.vertices + Math.max(p.a, p.b);
    return !seen.has(key) && seen.add(key);
  });
}

/** Inserts pieces, from one of them on; tells the lines of those that could not be followed. */
export function insertAll(
  constrainer: Constrainer,
  pieces: readonly PieceEnds[],
  failed: (line: number) => void,
  from = 0,
): void {
  for (let k = from; k < pieces.length; k++) if (!constrainer.insert(k)) failed(pieces[k]!.line);
}

/** Puts a vertex that the bare triangulation left out where it belongs. False when it lies outside. */
export function insertVertex(mesh: TriMesh, v: number): boolean {
  const x = mesh.x[v]!,
    y = mesh.y[v]!;
  const h = mesh.locate(x, y);
  if (h < 0) return false;
  for (const c of [h, h - (h % 3), h - (h % 3) + 1, h - (h % 3) + 2]) {
    const d = c % 3 === 2 ? c - 2 : c + 1;
    if (mesh.side(mesh.tri[c]!, mesh.tri[d]!, v) === 0) {
      mesh.splitEdge(c, v);
      return true;
    }
  }
  mesh.splitTriangle(h, v);
  return true;
}

/** The vertex at a position, made if there is none within the tolerance; −1 outside the mesh. */
export function vertexAt(
  mesh: TriMesh,
  x: number,
  y: number,
  levelAt: (x: number, y: number) => number,
  tolerance: number,
): number {
  const h = mesh.locate(x, y);
  if (h < 0) return -1;
  const t = h - (h % 3);
  for (let k = t; k < t + 3; k++) {
    const v = mesh.tri[k]!;
    if (Math.hypot(mesh.x[v]! - x, mesh.y[v]! - y) <= tolerance) return v;
  }
  const z = levelAt(x, y);
  if (Number.isNaN(z)) return -1;
  const v = mesh.addVertex(x, y, z);
  return insertVertex(mesh, v) ? v : -1;
}

export function copyOf(mesh: TriMesh): TriMesh {
  const used = 3 * mesh.triangles,
    n = mesh.vertices;
  return new TriMesh(
    mesh.x.slice(0, n),
    mesh.y.slice(0, n),
    mesh.z.slice(0, n),
    mesh.tri.slice(0, used),
    mesh.twin.slice(0, used),
  );
}
