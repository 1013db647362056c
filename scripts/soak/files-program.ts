/** The process in which damaged files are read: each gives what is in it, or a sentence; nothing else. */
import {
  GENERAL_BOOK,
  openRecipe,
  openRecipeTables,
  parseRecipe,
  readIntake,
  Refusal,
  runChain,
  type JobState,
} from "../../core/src/index";
import { openZip } from "../../core/src/intake/archive";
import { guessFormat, openTables } from "../../core/src/intake/deliver";
import { readGeoid } from "../../core/src/intake/geoid";
import { withTaken } from "../../core/src/points/take";
import { serveTasks } from "../../web/heavy/child";
import { unzipSync, zipSync } from "fflate";
import { seeded } from "./client";
import { samples } from "./samples";

/** Arrays of their own: a slice of a buffer of Node's is no copy. */
const sound = samples().then((all) => Object.fromEntries(Object.entries(all).map(([f, b]) => [f, new Uint8Array(b)]))),
  NOTHING = new Uint8Array(0),
  /** Points of which lines, surface and findings are made as well. */
  MOST_DERIVED = 400;
const empty = openRecipe({ recipe: 1, codeBook: GENERAL_BOOK, surfaces: [{ name: "ground" }] }, () => NOTHING).state;

/** Words that stand in hostile files. */
const WORDS = ["-1", "1e308", "NaN", "1e-320", "999999999999", "\0", '"', "<", "<![CDATA[", "&a;", "\n", "\r\n", "é",
  "__proto__", "0x10", "[", "{", "}", "SEQEND", "=1+1", "%", "past=1e9", "]".repeat(300), "A".repeat(5000)]; // prettier-ignore

/** A damaged file; of an archive half the time what it holds, since damage of what is packed is mostly seen at once. */
function damagedFile(file: string, bytes: Uint8Array, random: () => number): Uint8Array {
  if (!/\.(xlsx|zip)$/.test(file) || random() < 0.5) return damaged(bytes, random);
  const inside = unzipSync(bytes),
    names = Object.keys(inside),
    one = names[Math.floor(random() * names.length)]!;
  return zipSync({ ...inside, [one]: damaged(inside[one]!, random) });
}

/** One to a few damages of some bytes. */
function damaged(bytes: Uint8Array, random: () => number): Uint8Array {
  let out = bytes;
  const at = () => Math.floor(random() * (out.length + 1));
  const put = (from: number, to: number, middle: Uint8Array) => {
    const next = new Uint8Array(from + middle.length + out.length - to);
    next.set(out.subarray(0, from));
    next.set(middle, from);
    next.set(out.subarray(to), from + middle.length);
    out = next;
  };
  for (let k = 1 + Math.floor(random() ** 3 * 12); k > 0; k--) {
    const p = random(),
      from = at(),
      to = Math.min(out.length, from + Math.floor(random() ** 4 * 400));
    if (p < 0.4) {
      const next = out.slice();
      if (from < next.length) next[from] = Math.floor(random() * 256);
      out = next;
    } else if (p < 0.6) put(from, from, new TextEncoder().encode(WORDS[Math.floor(random() * WORDS.length)]));
    else if (p < 0.75) put(from, to, NOTHING);
    else if (p < 0.9) put(from, from, out.slice(from, to));
    else if (p < 0.95) out = out.subarray(0, from);
    else put(from, to, out.slice(to, to + (to - from)));
  }
  return out;
}

interface Read {
  /** What came of it, in a word. */
  came: "read" | "refused";
  points: number;
}

async function read(file: string, bytes: Uint8Array): Promise<Read> {
  if (file.endsWith(".gtx")) return (readGeoid(file, bytes), { came: "read", points: 0 });
  if (file.startsWith("recipe")) {
    const files = file.endsWith(".zip") ? await openZip(file, bytes, 50e6) : new Map([["recipe.json", bytes]]),
      recipe = parseRecipe(new TextDecoder().decode(files.get("recipe.json") ?? NOTHING), "recipe.json"),
      own = (await sound)["a.csv"]!,
      open = (name: string) => files.get(name) ?? own;
    const { state } = openRecipe(recipe, open, undefined, await openRecipeTables(recipe, open));
    derive(state);
    return { came: "read", points: state.points.count };
  }
  const tables = await openTables(file, bytes, guessFormat(bytes)),
    given = { id: "a", file, clash: "add", add: 1_000_000 } as const,
    { info, taken, delivered } = readIntake(empty, bytes, given, { firstId: 1, tables });
  // Every row is a point, or is refused with its reason; of observations several make one.
  if (!delivered.survey && info.rows !== info.points + info.refused.length)
    throw new Error(`${info.rows} rows: ${info.points} points and ${info.refused.length} refused`);
  if (info.refused.some((r) => !r.reason)) throw new Error("a row is refused without a reason");
  const t = withTaken(empty.points, taken);
  // A point whose setup is nowhere has no position yet, and is kept out until it has.
  for (let i = 0; i < t.count; i++)
    if (!t.deleted[i] && !(Math.abs(t.e[i]!) <= 1e9 && Math.abs(t.n[i]!) <= 1e9))
      throw new Error(`point ${t.number[i]} is at ${t.e[i]}, ${t.n[i]}`);
  derive({ ...empty, points: t, intakes: [info], delivered: [delivered] });
  return { came: "read", points: t.count };
}

function derive(state: JobState): void {
  if (state.points.count <= MOST_DERIVED) runChain(state);
}

serveTasks({
  /** Reads so many damages of a file, from one seed on; what went wrong is told with its seed. */
  async read({ file, from, count }: { file: string; from: number; count: number }) {
    const bytes = (await sound)[file]!,
      problems: string[] = [];
    let points = 0,
      refused = 0,
      slowest = 0;
    for (let seed = from; seed < from + count; seed++) {
      const begun = performance.now();
      try {
        points += (await read(file, damagedFile(file, bytes, seeded(seed)))).points;
      } catch (e) {
        if (e instanceof Refusal) refused++;
        else problems.push(`${file}, seed ${seed}: ${(e as Error).stack ?? String(e)}`);
      }
      slowest = Math.max(slowest, performance.now() - begun);
    }
    return { head: { problems, points, refused, slowest }, bytes: NOTHING };
  },
  async names() {
    const all = await sound;
    // Damage says nothing of a file that is refused as it is.
    for (const [file, bytes] of Object.entries(all)) await read(file, bytes);
    return { head: { names: Object.keys(all) }, bytes: NOTHING };
  },
});
