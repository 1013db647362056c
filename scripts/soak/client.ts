/** A program that writes a job over the network, as a window does, and what must hold of what it did. */
import { decodeTable } from "../../core/src/points/columns";

interface Edit {
  id: number;
  field: string;
  old: unknown;
  new: unknown;
}
export type Change = { type: "points"; edits: Edit[] } | { type: "setting"; field: string; old: unknown; new: unknown };
interface Entry {
  seq: number;
  kind: "change" | "undo" | "redo";
  client: string | null;
  change: { type: string; edits?: Edit[] };
}

/** Numbers from 0 to 1, the same for a seed (mulberry32). */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

export async function emptyJob(url: string, name: string): Promise<number> {
  const headers = { "x-author": "Ada", "content-type": "application/json" },
    body = JSON.stringify({ name, unit: "m", order: "EN" });
  return ((await (await fetch(`${url}/api/jobs`, { method: "POST", headers, body })).json()) as { id: number }).id;
}

/** Takes rows of points into a job. */
export async function takeIn(url: string, job: number, file: string, rows: string): Promise<void> {
  const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
    head = JSON.stringify({ file, layout }),
    taken = await fetch(`${url}/api/jobs/${job}/intakes`, {
      method: "POST",
      headers: { "x-author": "Ada", "content-type": "application/octet-stream", "x-head": String(head.length) },
      body: `${head}${rows}\n`,
    });
  if (taken.status !== 201) throw new Error(await taken.text());
}

/** A job of so many points on a level of 5. */
export async function newJob(url: string, points: number): Promise<number> {
  const id = await emptyJob(url, "Soak"),
    rows = Array.from({ length: points }, (_, i) => `${i + 1},${i * 10},${(i % 7) * 10},5,SPOT`);
  await takeIn(url, id, "soak.csv", rows.join("\n"));
  return id;
}

export class Client {
  /** Names of what was answered as stored. */
  readonly stored = new Set<string>();
  private count = 0;

  constructor(
    private readonly url: string,
    private readonly job: number,
    readonly author: string,
    readonly random: () => number,
  ) {}

  /** One request; undefined when no answer came. */
  async ask(method: string, of: string, body: unknown, name: string): Promise<Response | undefined> {
    const headers = { "x-author": this.author, "x-change": name, "content-type": "application/json" };
    return fetch(`${this.url}/api/jobs/${this.job}${of}`, { method, headers, body: JSON.stringify(body) }).catch(
      () => undefined,
    );
  }

  /** Asks by one name until it is done; an answer that says why not is an error. */
  async asked(method: string, of: string, body?: unknown): Promise<Response> {
    for (const name = this.name(); ; await new Promise((r) => setTimeout(r, 100))) {
      const answer = await this.ask(method, of, body, name);
      if (answer?.ok) return answer;
      if (answer && answer.status < 500) throw new Error(`${method} ${of}: ${await answer.text()}`);
      if (answer?.status === 500) throw new Error(`${name}: ${await answer.text()}`);
    }
  }

  name(): string {
    return `${this.author.replace(/\W/g, "-")}-${++this.count}-soak`;
  }

  /** Stores a change, asking by its name until it is answered; how often no answer came. */
  async store(change: Change): Promise<number> {
    const name = this.name();
    for (let lost = 0; ; lost++) {
      const answer = await this.ask("POST", "/changes", change, name);
      if (answer?.ok && ((await answer.json().catch(() => undefined)) as Entry | undefined)?.client === name) {
        this.stored.add(name);
        return lost;
      }
      if (answer && answer.status < 500 && !answer.ok) {
        const { code, message } = (await answer.json()) as { code: string; message: string };
        if (code !== "job-busy") throw new Error(`${name}: ${message}`);
      }
      if (answer?.status === 500) throw new Error(`${name}: ${await answer.text()}`);
      await new Promise((r) => setTimeout(r, 100));
    }
  }
}

export const sum = (clients: readonly Client[]) => clients.reduce((n, c) => n + c.stored.size, 0);

/** All that must hold of a job in the end, and what does not. */
export async function summary(url: string, job: number, clients: readonly Client[]) {
  const problems: string[] = [],
    entries: Entry[] = [];
  for (let after = 0; ; after = entries.at(-1)!.seq) {
    const more = (await (await fetch(`${url}/api/jobs/${job}/ledger?after=${after}`)).json()) as Entry[];
    if (more.length === 0) break;
    entries.push(...more);
  }
  entries.forEach((e, k) => {
    if (e.seq !== k + 1) problems.push(`entry ${e.seq} stands at ${k + 1}`);
  });
  const names = entries.flatMap((e) => e.client ?? []);
  if (new Set(names).size !== names.length) problems.push("a change is stored twice");
  const known = new Set(names);
  for (const c of clients)
    for (const name of c.stored) if (!known.has(name)) problems.push(`${name} was answered and is not stored`);
  // What the entries lead to, one after another.
  const level = new Map<number, unknown>();
  for (const { change } of entries)
    for (const e of change.edits ?? []) {
      if (e.field !== "elevation") continue;
      if (level.has(e.id) && level.get(e.id) !== e.old)
        problems.push(`point ${e.id}: ${String(e.old)} was changed where ${String(level.get(e.id))} stood`);
      level.set(e.id, e.new);
    }
  const body = await (await fetch(`${url}/api/jobs/${job}/points`)).arrayBuffer(),
    t = decodeTable(body);
  for (const [id, z] of level) {
    const row = t.id.indexOf(id),
      now = t.z[row];
    // A point of a withdrawn delivery is not there.
    if (row >= 0 && now !== z) problems.push(`point ${id} is at ${now}, its last change led to ${String(z)}`);
  }
  return { problems: problems.slice(0, 20), entries: entries.length, points: t.count };
}
