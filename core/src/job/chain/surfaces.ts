/** Surfaces of a job, each made again only when what it is made of is another. */
import { refusal } from "../../errors";
import { flattenLines } from "../../lines/flatten";
import { gather } from "../../math/columns";
import { findPoints } from "../../points/refs";
import type { SetContext, SetReads } from "../../sets/conditions";
import { GROUND } from "../../sets/model";
import { pointsOfSelection, readsOfSelection } from "../../sets/sets";
import { buildSurfaceAgain, type KeptSurface } from "../../surface/again";
import { surfaceOfTriangles } from "../../surface/finish";
import type { BuiltSurface, SurfaceRecipe } from "../../surface/model";
import { referencesOf, referenceSurface } from "../model/reduce";
import type { Kept } from "./stages";
import type { Grounds, Made } from "./values";

/** A surface of a job, made by what its recipe says: of triangles, of a file, or of points with breaklines. */
export function surfaceOf(recipe: SurfaceRecipe, values: Grounds, kept: Kept): Made<BuiltSurface> {
  const name = `surface ${recipe.name}`,
    last = kept.partly(name, (): KeptSurface => ({ plan: {}, sums: {} }));
  return kept.make(name, recipe.name, () => {
    const { triangles } = recipe;
    if (triangles)
      return kept.run(name, ["recipe"], { recipe }, () =>
        surfaceOfTriangles(recipe.name, Float64Array.from(triangles.points.flat()), triangles.faces.flat()),
      );
    if (recipe.file !== undefined) {
      const found = referenceSurface(values, recipe);
      return kept.run(name, ["recipe", "found"], { recipe, found }, () =>
        surfaceOfTriangles(recipe.name, found.points, found.faces, false),
      );
    }
    const wanted = recipe.points ?? GROUND,
      // What is found is not known yet: of a set that asks for it no surface can be made.
      reads = readsOfSelection(wanted, values.sets) as Exclude<SetReads, "findingsAt">[];
    // A level that comes from a surface is never a part of it.
    const own = values.program.onSurface.get(recipe.name);
    const chosen = kept.run(
      `points of ${name}`,
      ["recipe", "sets", "count", "deleted", "z", "own", ...reads],
      { ...values, recipe, own },
      (v) => withElevation(pointsOfSelection(wanted, contextOf(v), `surface “${recipe.name}”`), v.z, v.own),
    );
    const chains = own
      ? kept.run(`chains of ${name}`, ["lines", "coded", "tolerance", "own"], { ...values, own }, (v) =>
          flattenLines(v.lines, v.tolerance.chord, without(v.coded.usable, v.own)),
        )
      : values.terrainChains;
    // The terrain depends on positions and breaklines only: a note, a name or a number changed leaves it as it is.
    const column = (key: "e" | "n" | "z") =>
      kept.run(`${key} of ${name}`, ["from", "chosen"], { from: values[key], chosen }, (v) => gather(v.from, v.chosen));
    const { breaklines: { also = [], except = [] } = {}, swap, drop } = recipe;
    // Who a point is matters to corrections alone, intakes to what names lines by theirs.
    const refers = swap?.length || drop?.length || except.some((x) => "pieces" in x),
      named = [...also, ...except];
    const found = refers
      ? kept.run(
          `points that ${name} refers to`,
          ["count", "id", "number", "deleted", "intake", "row", "cameAs", "intakes"],
          values,
          (v) => findPoints(v, v.intakes),
        )
      : undefined;
    const intakes = named.some((x) => "intake" in x)
      ? kept.list(
          "intakes",
          values.intakes.map((k) => k.id),
        )
      : undefined;
    const fileLines = named.some((x) => "file" in x)
      ? kept.run(`files of ${name}`, ["delivered", "intakes", "files"], values, (v) => {
          const all = referencesOf(v);
          return (file: string) => all.filter((r) => r.file === file).flatMap((r) => r.reference.lines);
        })
      : undefined;
    const from = {
      recipe,
      intakes,
      fileLines,
      found,
      points: chosen,
      e: column("e"),
      n: column("n"),
      z: column("z"),
      lines: values.lines,
      chains,
      tolerance: values.tolerance,
      unit: values.unit,
    };
    return kept.run(
      name,
      ["recipe", "points", "e", "n", "z", "lines", "chains", "tolerance", "unit", "intakes", "fileLines", "found"],
      from,
      (v) => buildSurfaceAgain(v.recipe, { ...v, begins: (step) => kept.begins?.(`${name}, ${step}`) }, last),
    );
  });
}

/** A surface by its name; throws a Refusal for `asker` where it is not there or could not be made. */
export function builtSurface(surfaces: readonly Made<BuiltSurface>[], source: string, asker: string): BuiltSurface {
  const surface = surfaces.find((s) => s.name === source);
  if (!surface) throw refusal("reference-missing", { path: asker, what: "surface", name: source });
  if (!surface.ok) throw refusal("source-failed", { name: asker, source });
  return surface.value;
}

/** Something that hangs on a surface. */
export function onSurface<R, T>(
  key: string,
  source: string,
  { surfaces, recipe }: { surfaces: readonly Made<BuiltSurface>[]; recipe: R },
  kept: Kept,
  make: (s: BuiltSurface) => T,
): Made<T> {
  return kept.make(key, source, () => {
    const surface = builtSurface(surfaces, source, source);
    return kept.run(key, ["surface", "recipe"], { surface, recipe }, (v) => make(v.surface));
  });
}

/** What a rule is tested on: of the values those that it reads are there. */
export const contextOf = (v: SetContext["table"] & Omit<SetContext, "table">): SetContext => ({ table: v, ...v });

/** Of some points those that have an elevation, without some that the surface itself gives theirs. */
function withElevation(points: Int32Array, z: Float64Array, but?: Int32Array): Int32Array {
  const gone = new Set(but),
    isWanted = (i: number) => !Number.isNaN(z[i]!) && !gone.has(i);
  return points.every(isWanted) ? points : points.filter(isWanted);
}

function without(usable: Uint8Array, rows: Int32Array): Uint8Array {
  const out = usable.slice();
  for (const i of rows) out[i] = 0;
  return out;
}
