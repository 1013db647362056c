/** A job as one archive, which goes to another office and becomes a job there: its recipe and the files it names. */
import {
  openRecipe,
  openRecipeTables,
  parseRecipe,
  refusal,
  Refusal,
  writeRecipe,
  type JobState,
  type PointsChange,
} from "@bramble/core";
import { EDIT_FIELDS } from "@bramble/core/records/fields";
import { openZip } from "@bramble/core/intake/archive";
import { UNPACK_LIMIT } from "@bramble/core/intake/tables";
import { plural } from "@bramble/core/math/words";
import { addedOf, tableOfAdded } from "@bramble/core/points/add";
import { fieldValue } from "@bramble/core/points/edits";
import { concatTables, pickRows, rowOf, type PointTable } from "@bramble/core/points/table";
import {
  createJob,
  intakeBytes,
  jobMadeFor,
  keepJobFile,
  loadJob,
  loadJobState,
  reading,
  reserveIds,
  storeChange,
  takeIntake,
  transaction,
} from "@bramble/db";
import { strToU8, zipSync, type Zippable } from "fflate";
import { fileName } from "../server/edge";

/** What the recipe is called within its archive. */
export const RECIPE_FILE = "recipe.json";

/** The job written down, alone or in an archive with the files that it names. */
export function loadPackage(id: number, withFiles: boolean): Promise<Uint8Array> {
  return reading(async (client) => {
    const job = await loadJob(client, id),
      state = await loadJobState(client, job),
      files = new Map<string, Uint8Array>(),
      names: string[] = [];
    for (const intake of job.intakes) {
      const name = freeName(intake.file, files);
      names.push(name);
      files.set(name, (await intakeBytes(client, id, intake.id)).bytes);
    }
    let geoid = state.geoid;
    if (geoid !== undefined) {
      const { rows } = await client.query("SELECT bytes FROM job_files WHERE job_id = $1 AND name = $2", [id, geoid]);
      geoid = freeName(geoid, files);
      if (rows[0]) files.set(geoid, rows[0].bytes as Buffer);
    }
    const told = { ...state, ...(geoid === undefined ? {} : { geoid }) },
      open = (name: string) => files.get(name)!,
      plain = { ...writeRecipe(told, state.points, (i) => names[i]!), edits: [], computed: [] },
      received = openRecipe(plain, open, undefined, await openRecipeTables(plain, open)).state.points,
      written = `${JSON.stringify(
        writeRecipe(told, received, (i) => names[i]!),
        null,
        2,
      )}\n`,
      text = strToU8(written);
    await mustOpen(written, open);
    if (!withFiles) return text;
    // A fixed time keeps the package a function of the job alone. As if packed on Unix (3), plain files: some programs
    // read names as UTF-8 only then.
    const entries: Zippable = { [RECIPE_FILE]: text, ...Object.fromEntries(files) };
    return zipSync(entries, { mtime: new Date("2000-01-01T00:00:00"), os: 3, attrs: (0o100644 << 16) >>> 0 });
  });
}

/** What leaves is opened again first: a recipe that does not open is of no use to whom it is sent. */
async function mustOpen(written: string, open: (name: string) => Uint8Array): Promise<void> {
  try {
    const recipe = parseRecipe(written, RECIPE_FILE);
    openRecipe(recipe, open, undefined, await openRecipeTables(recipe, open));
  } catch (e) {
    if (e instanceof Refusal) throw refusal("package-broken", { why: e.message });
    throw e;
  }
}

/** A name that no other file of the archive has, on systems too that tell no capital letters apart. */
export function freeName(wanted: string, taken: ReadonlyMap<string, unknown>): string {
  const used = new Set([RECIPE_FILE, "__proto__", ...taken.keys()].map((n) => n.toLowerCase()));
  for (let k = 1; ; k++) {
    const name = k === 1 ? wanted : `${k}-${wanted}`;
    if (!used.has(name.toLowerCase())) return name;
  }
}

/** A package becomes a new job, whole or not at all; its number. `request` names what asks for it. */
export async function takePackage(bytes: Uint8Array, author: string, request: string | null): Promise<number> {
  const files = await openZip("The package", bytes, UNPACK_LIMIT),
    text = files.get(RECIPE_FILE);
  if (!text)
    throw refusal("file-container", { file: "The package", what: "a job", why: `it holds no “${RECIPE_FILE}”` });
  const recipe = parseRecipe(new TextDecoder().decode(text), RECIPE_FILE);
  const open = (name: string, path: string) => {
    const found = files.get(name);
    if (!found) throw refusal("recipe-field", { path, why: `the package holds no file “${name}”` });
    return found;
  };
  const { state } = openRecipe(recipe, open, undefined, await openRecipeTables(recipe, open));
  const alone = state.files?.[0]?.file;
  if (alone !== undefined)
    throw refusal("recipe-field", {
      path: "surfaces",
      why: `“${alone}” is named by a surface alone; name it among the intakes too`,
    });
  return transaction(async (client) => {
    const before = await jobMadeFor(client, request);
    if (before !== undefined) return before;
    const { intakes: _, delivered: __, points: ___, ...definition } = state;
    const id = await createJob({ ...definition, name: state.name || "Without a name" }, request);
    if (state.geoid !== undefined) await keepJobFile(client, id, fileName(state.geoid), open(state.geoid, "geoid"));
    for (const [k, intake] of (recipe.intakes ?? []).entries())
      await takeIntake(id, author, intake, open(fileName(intake.file), `intakes[${k}].file`));
    const received = await loadJobState(client, await loadJob(client, id)),
      changes = changesBetween(received, state),
      made = state.points.count - received.points.count;
    // The numbers that follow those of the deliveries, as in the recipe's own state.
    if (made > 0) await reserveIds(client, id, made);
    if (changes.length)
      await storeChange(id, author, {
        type: "several",
        text: `${plural(changes.length, "change")} of the package`,
        changes,
      });
    return id;
  });
}

/** What leads from the points as received to those of the recipe: those that the office made, and every edit. */
function changesBetween(received: JobState, wanted: JobState) {
  const t = wanted.points,
    own: number[] = [];
  for (let i = 0; i < t.count; i++) if (t.intake[i]! < 0) own.push(i);
  const added = addedOf(
    pickRows(t, own),
    own.map((_, k) => k),
  );
  const before: PointTable = own.length ? concatTables(received.points, tableOfAdded(added)) : received.points;
  const edits: PointsChange["edits"] = [];
  for (let i = 0; i < t.count; i++) {
    const row = rowOf(before, t.id[i]!);
    for (const field of EDIT_FIELDS) {
      const old = fieldValue(before, row, field),
        now = fieldValue(t, i, field);
      if (!Object.is(old, now)) edits.push({ id: t.id[i]!, field, old, new: now });
    }
  }
  return [
    ...(own.length ? [{ type: "add" as const, points: added }] : []),
    ...(edits.length ? [{ type: "points" as const, edits }] : []),
  ];
}
