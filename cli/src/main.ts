/**
 * ./bramble run|check|schema: a job's recipe, headless. Exit 0 when it ran, 2 when a recipe or an input cannot be used.
 */
import { createHash } from "node:crypto";
import fs from "node:fs";
import path from "node:path";
import { parseArgs } from "node:util";
import { isMainThread } from "node:worker_threads";
import {
  asItStands,
  fitTold,
  openRecipe,
  openRecipeTables,
  parseRecipe,
  recipeSchema,
  refusal,
  refusalOfLost,
  Refusal,
  runChain,
  summarize,
  writeHandover,
  type Made,
  type OpenFile,
  type BroughtFile,
  type Derived,
  type JobState,
  type Recipe,
  type Written,
  type WrittenFile,
} from "@bramble/core";
import { serveForms, giveCores } from "@bramble/paper/cores";
import { Staging } from "./staging.ts";

const USAGE = `usage: bramble run RECIPE.json --out DIR [--quiet]
       bramble check RECIPE.json
       bramble schema`;

const LIMIT = Number(process.env.BRAMBLE_INTAKE_LIMIT ?? 512e6);

export async function main(args: string[]): Promise<number> {
  const [command, ...rest] = args;
  try {
    if (command === "schema" && rest.length === 0) {
      process.stdout.write(`${JSON.stringify(recipeSchema, null, 2)}\n`);
      return 0;
    }
    if (command === "check" && rest.length === 1) return check(rest[0]!);
    if (command === "run") return await run(rest);
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    process.stderr.write(`bramble: ${e.message}\n`);
    return 2;
  }
  process.stderr.write(`${USAGE}\n`);
  return 2;
}

function check(file: string): number {
  const recipe = parseRecipe(readText(file), file);
  const { open } = inputs(file);
  // The shape and all references; inputs must be there, but are not read through.
  if (typeof recipe.codeBook === "string") open(recipe.codeBook, "codeBook");
  recipe.intakes?.forEach((k, i) => open(k.file, `intakes[${i}].file`));
  recipe.surfaces?.forEach((k, i) => k.file !== undefined && open(k.file, `surfaces[${i}].file`));
  if (recipe.geoid !== undefined) open(recipe.geoid, "geoid");
  process.stdout.write(`${file}: can be run\n`);
  return 0;
}

/** What `run` was asked; undefined where it is not understood. */
function asked(args: string[]): { file: string; out: string; quiet: boolean } | undefined {
  try {
    const { values, positionals } = parseArgs({
        args,
        allowPositionals: true,
        options: { out: { type: "string" }, quiet: { type: "boolean", default: false } },
      }),
      [file, ...more] = positionals;
    return file && values.out && more.length === 0 ? { file, out: values.out, quiet: values.quiet } : undefined;
  } catch {
    return undefined;
  }
}

async function run(args: string[]): Promise<number> {
  const wanted = asked(args);
  if (!wanted) {
    process.stderr.write(`${USAGE}\n`);
    return 2;
  }
  const { file, out, quiet } = wanted;
  const tell = progressTeller(quiet);
  const recipe = parseRecipe(readText(file), file);
  const { open } = inputs(file);
  const {
    state: given,
    missingInEdits,
    fits,
  } = openRecipe(
    recipe,
    open,
    (intake, f) => tell(`reading ${intake}: ${Math.round(100 * f)} %`),
    await openRecipeTables(recipe, open),
  );
  tell("lines, surfaces, volumes");
  const derived = runChain(given),
    state = asItStands(given, derived),
    lost = refusalOfLost(derived);
  if (lost) throw lost;
  for (const list of [
    derived.madeSets,
    derived.surfaces,
    derived.contours,
    derived.volumes,
    derived.differences,
  ] as Made<unknown>[][]) {
    for (const m of list) if (!m.ok) throw m.refusal;
  }
  const staging = new Staging(path.resolve(out));
  try {
    const files: WrittenFile[] = [];
    for (const [k, h] of state.handover.entries()) {
      tell(`writing ${h.file}`);
      const { bytes, told } = await writeHandover(h, state, derived, {
        sha256,
        brought: (f) => brought(f, { recipe, state, derived }),
      });
      staging.add(told.file, bytes, `handover[${k}].file`);
      files.push({ file: told.file, format: told.format, bytes: told.bytes, sha256: told.sha256 });
    }
    const summary = summarize(state, derived, files);
    staging.add(
      "summary.json",
      Buffer.from(
        `${JSON.stringify({ ...summary, ...(fits.length ? { fits: fits.map(fitTold) } : {}), ...(missingInEdits ? { missingInEdits } : {}) }, null, 2)}\n`,
        "utf8",
      ),
      "summary.json",
    );
    staging.commit();
  } finally {
    staging.clear();
  }
  tell("");
  return 0;
}

interface RecipeRun {
  recipe: Recipe;
  state: JobState;
  derived: Derived;
}

/** Plan sheets and reports are written here as well; what belongs to the application's job alone is refused. */
async function brought(file: BroughtFile, { recipe, state, derived }: RecipeRun): Promise<Written> {
  const { writePlan, writeReport } = await import("@bramble/paper"),
    job = { state, derived, author: state.crew ?? "", at: state.date ?? "undated", version: undefined };
  if (file.format === "pdf") return writePlan(file, job);
  if (file.format === "report") return writeReport(file, job);
  if (file.format === "recipe" && file.with !== "files")
    return {
      bytes: Buffer.from(`${JSON.stringify(recipe, null, 2)}\n`, "utf8"),
      proof: { counts: { intakes: recipe.intakes?.length ?? 0 }, difference: 0 },
    };
  const what = file.format === "ledger" ? "ledger" : "recipe with its files";
  throw refusal("handover-application", { file: file.file, what });
}

const sha256 = (bytes: Uint8Array) => createHash("sha256").update(bytes).digest("hex");

/** Progress on standard error, only at a terminal. */
function progressTeller(quiet: boolean): (text: string) => void {
  if (quiet || !process.stderr.isTTY) return () => undefined;
  return (text) => process.stderr.write(`\r\x1b[K${text}`);
}

function readText(file: string): string {
  return new TextDecoder().decode(readBytes(file, file));
}

function readBytes(file: string, shown: string): Uint8Array {
  try {
    const { size } = fs.statSync(file);
    if (size > LIMIT) throw refusal("file-too-large", { file: shown, bytes: size, limit: LIMIT });
    return fs.readFileSync(file);
  } catch (e) {
    if (e instanceof Refusal) throw e;
    const { code } = e as NodeJS.ErrnoException;
    throw refusal("file-unreadable", {
      file: shown,
      why: code === "ENOENT" ? "there is no such file" : code === "EISDIR" ? "it is a folder" : (e as Error).message,
    });
  }
}

/** Inputs are relative to the recipe. */
function inputs(recipeFile: string): { open: OpenFile } {
  const folder = path.dirname(path.resolve(recipeFile));
  return { open: (name) => readBytes(path.resolve(folder, name), name) };
}

if (isMainThread) {
  giveCores(new URL(import.meta.url));
  process.exitCode = await main(process.argv.slice(2));
} else serveForms();
