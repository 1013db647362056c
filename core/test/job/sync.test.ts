// @long: left out of npm run test:quick.
/**
 * One job in two windows: whatever two people change, and whatever of the messages is lost, late or twice, both end
 * with what is stored.
 */
import { randomUUID } from "node:crypto";
import fc from "fast-check";
import { EDIT_FIELDS, type EditField } from "../../src/records/fields";
import { Refusal } from "../../src/errors";
import { applyChange, inverse, type EditableChange } from "../../src/job/change/change";
import { type JobState } from "../../src/job/model/model";
import { openRecipe, parseRecipe } from "../../src/job/recipe/recipe";
import { fieldValue } from "../../src/points/edits";
import { rowOf } from "../../src/points/table";
import type { LedgerEntry, ToldEntry } from "@bramble/db";
import { Sync } from "../../src/job/sync/sync";

const start = openRecipe(
  parseRecipe(
    JSON.stringify({
      recipe: 1,
      intakes: [
        {
          id: "d",
          file: "d.csv",
          layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
        },
      ],
    }),
    "r.json",
  ),
  () => new TextEncoder().encode("1,0,0,1,SPOT\n2,9,0,2,SPOT\n3,9,9,3,HEDGE\n4,0,9,4,HEDGE\n"),
).state;

/** The server, as far as windows see it: checks, stores in order, knows a change by its name. */
class Server {
  job: JobState = start;
  readonly ledger: LedgerEntry[] = [];

  store(
    author: string,
    change: EditableChange,
    client: string | null,
    kind: LedgerEntry["kind"] = "change",
  ): LedgerEntry {
    const known = client === null ? undefined : this.ledger.find((e) => e.client === client);
    if (known) return known;
    this.job = applyChange(this.job, change);
    const entry: LedgerEntry = {
      seq: this.ledger.length + 1,
      author,
      at: "",
      kind,
      target: null,
      undone: false,
      alone: false,
      change,
      text: "",
      client,
    };
    this.ledger.push(entry);
    return entry;
  }
}

/** What a person can see of a job. */
function shown(s: JobState) {
  const { points: t, ...rest } = s;
  return JSON.parse(
    JSON.stringify({
      rest,
      points: [...t.id.keys()].map((i) => [t.id[i], EDIT_FIELDS.map((f) => fieldValue(t, i, f))]),
    }),
  );
}

const VALUES: Partial<Record<EditField, readonly (string | number | boolean | null)[]>> = {
  elevation: [5, 6.5, null],
  number: ["7", "8", "2"],
  note: ["", "a", "b"],
  deleted: [true, false],
  description: ["SPOT", "TREE"],
};
const wish = fc.oneof(
  fc
    .constantFrom(...(Object.keys(VALUES) as EditField[]))
    .chain((field) =>
      fc.record({
        what: fc.constant("edit" as const),
        field: fc.constant(field),
        value: fc.constantFrom(...VALUES[field]!),
        point: fc.nat(5),
      }),
    ),
  fc.record({
    what: fc.constant("line" as const),
    name: fc.constantFrom("l1", "l2"),
    points: fc.constantFrom("1, 2", "3, 4", ""),
  }),
  fc.record({ what: fc.constant("note" as const), value: fc.constantFrom("x", "y") }),
  fc.record({ what: fc.constant("add" as const), number: fc.constantFrom("9", "10", "7") }),
);
const act = fc.record({
  who: fc.constantFrom(0, 1),
  wish,
  undo: fc.boolean(),
  // What becomes of the request, of its answer, and of the stream's messages.
  send: fc.constantFrom("now", "now", "later", "answer lost", "twice"),
  stream: fc.constantFrom("all", "all", "none", "last", "backwards"),
});

let serial = 0;
function changeOf(
  s: JobState,
  w: {
    what: string;
    field?: EditField;
    value?: unknown;
    point?: number;
    name?: string;
    points?: string;
    number?: string;
  },
): EditableChange | undefined {
  const t = s.points;
  switch (w.what) {
    case "edit": {
      const i = w.point! % t.count,
        old = fieldValue(t, i, w.field!);
      return Object.is(old, w.value)
        ? undefined
        : { type: "points", edits: [{ id: t.id[i]!, field: w.field!, old, new: w.value as never }] };
    }
    case "line": {
      const old = s.lines.find((l) => l.name === w.name) ?? null,
        next = w.points === "" ? null : { name: w.name!, code: "HEDGE", points: w.points! };
      return old === null && next === null
        ? undefined
        : ({ type: "named", part: "lines", name: w.name!, old, new: next } as EditableChange);
    }
    case "note":
      return { type: "setting", field: "note", old: s.note ?? null, new: w.value } as EditableChange;
    default:
      return {
        type: "add",
        points: {
          id: [1000 + ++serial],
          number: [w.number!],
          easting: [1],
          northing: [2],
          elevation: [null],
          description: [""],
        },
      };
  }
}

/** One person's window, and the worker behind it that follows its changes. */
class Window {
  readonly sync = new Sync<ToldEntry>(start, 0, randomUUID);
  worker: JobState = start;

  constructor(
    private readonly server: Server,
    readonly author: string,
  ) {}

  follow(changes: readonly EditableChange[]): void {
    for (const c of changes) this.worker = applyChange(this.worker, c);
  }

  hear(entry: ToldEntry): void {
    const step = this.sync.arrive(entry);
    this.follow(step.changes);
    if (step.reload) this.reload();
  }

  reload(): void {
    const changes = this.sync.reload(
      this.server.job,
      this.server.ledger.length,
      new Set(this.server.ledger.flatMap((e) => e.client ?? [])),
    );
    this.worker = this.server.job;
    this.follow(changes);
  }

  /** Sends the oldest that waits; the answer may be lost, or come twice. */
  send(how: string): void {
    const first = this.sync.waiting[0];
    if (!first) return;
    let entry: LedgerEntry;
    try {
      entry = this.server.store(this.author, first.change, first.name);
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      this.follow(this.sync.refuse(first.name, e));
      return;
    }
    if (how === "answer lost") return;
    this.hear(entry);
    if (how === "twice") this.hear(this.server.store(this.author, first.change, first.name));
  }

  /** Messages of the stream from what is known on, as many and in whatever order they come. */
  listen(how: string): void {
    const missed = this.server.ledger.filter((e) => e.seq > this.sync.version);
    const come =
      how === "all" ? missed : how === "last" ? missed.slice(-1) : how === "backwards" ? [...missed].reverse() : [];
    // Some are told to be large, and what they did stays behind.
    for (const e of come) this.hear(e.seq % 4 ? e : { ...e, change: { type: "large", bytes: 300_000 } });
  }
}

test("two people, any changes, lost messages: both windows end with what is stored, nothing stored twice", () =>
  fc.assert(
    fc.property(fc.array(act, { minLength: 1, maxLength: 25 }), (acts) => {
      const server = new Server(),
        windows = [new Window(server, "Ada"), new Window(server, "Ben")];
      let made = 0;
      for (const { who, wish: w, undo, send, stream } of acts) {
        const window = windows[who]!,
          last = server.ledger.findLast((e) => e.author === window.author);
        if (undo && last) {
          try {
            server.store(window.author, inverse(last.change) as EditableChange, null, "undo");
          } catch (e) {
            if (!(e instanceof Refusal)) throw e;
          }
        }
        const change = changeOf(window.sync.job, w);
        if (change) {
          try {
            window.follow(window.sync.make(`change ${++made}`, change));
          } catch (e) {
            if (!(e instanceof Refusal)) throw e;
          }
        }
        if (send !== "later") window.send(send);
        for (const x of windows) x.listen(stream);
        // What is shown is always what the worker has, whatever is on its way.
        for (const x of windows) expect(shown(x.worker)).toEqual(shown(x.sync.job));
      }
      // The connection is there again: what waits is sent, what clashed is left, all is heard.
      for (let round = 0; round < 60 && windows.some((x) => x.sync.waiting.length); round++)
        for (const x of windows) {
          x.listen("all");
          x.send("now");
        }
      for (const x of windows) {
        for (const c of x.sync.clashes) x.follow(x.sync.giveUp(c.name));
        x.listen("all");
      }
      for (const x of windows) {
        expect([x.sync.version, x.sync.waiting, x.sync.clashes, x.sync.behind]).toEqual([
          server.ledger.length,
          [],
          [],
          false,
        ]);
        expect(shown(x.sync.job)).toEqual(shown(server.job));
        expect(shown(x.worker)).toEqual(shown(server.job));
      }
      const names = server.ledger.flatMap((e) => e.client ?? []);
      expect(new Set(names).size).toBe(names.length);
    }),
    { numRuns: 500 },
  ));

test("a change that was stored though its answer was lost is not put on twice when the whole job is read again", () => {
  const server = new Server(),
    ada = new Window(server, "Ada");
  ada.follow(ada.sync.make("a", { type: "points", edits: [{ id: 2, field: "note", old: "", new: "x" }] }));
  ada.send("answer lost");
  expect(ada.sync.waiting).toHaveLength(1);
  ada.reload();
  expect([ada.sync.waiting, ada.sync.clashes, shown(ada.sync.job)]).toEqual([[], [], shown(server.job)]);
});

test("an answer that comes long after others went on ends the wait, and what is shown is what is stored", () => {
  const server = new Server(),
    ada = new Window(server, "Ada"),
    note = (old: string, next: string): EditableChange => ({
      type: "points",
      edits: [{ id: 2, field: "note", old, new: next }],
    });
  ada.follow(ada.sync.make("a", note("", "x")));
  const entry = server.store("Ada", note("", "x"), "a");
  server.store("Ben", note("x", ""), null);
  // The whole job came without the names of its oldest entries: the change waits once more upon it.
  ada.worker = server.job;
  ada.follow(ada.sync.reload(server.job, 2, new Set()));
  expect(ada.sync.waiting).toHaveLength(1);
  ada.hear(entry);
  expect([ada.sync.waiting, ada.sync.clashes]).toEqual([[], []]);
  for (const x of [ada.sync.job, ada.worker]) expect(shown(x)).toEqual(shown(server.job));
});

test("a removal that is refused leaves the thing where it stood, not at the end of its list", () => {
  const server = new Server(),
    [ada, ben] = [new Window(server, "Ada"), new Window(server, "Ben")];
  const line = (name: string, old: string | null, points: string | null): EditableChange => {
    const made = (p: string | null) => (p === null ? null : { name, code: "HEDGE", points: p });
    return { type: "named", part: "lines", name, old: made(old), new: made(points) };
  };
  for (const name of ["l1", "l2"]) server.store("Ada", line(name, null, "1, 2"), null);
  for (const w of [ada, ben]) w.listen("all");
  server.store("Ada", line("l1", "1, 2", "3, 4"), null);
  ben.follow(ben.sync.make("b", line("l1", "1, 2", null)));
  ben.listen("all");
  expect(ben.sync.clashes).toHaveLength(1);
  for (const x of [ben.sync.job, ben.worker]) expect(x.lines.map((l) => l.name)).toEqual(["l1", "l2"]);
  // Removed after all and taken back, it is where it was.
  const wish = ben.sync.anew("b")!,
    before = shown(server.job);
  ben.follow(ben.sync.make("again", wish));
  ben.send("now");
  server.store("Ben", inverse(server.ledger.at(-1)!.change) as EditableChange, null, "undo");
  expect(shown(server.job)).toEqual(before);
});

test("a clash keeps both values; the person's own goes on as a wish on what is there now", () => {
  const server = new Server(),
    [ada, ben] = [new Window(server, "Ada"), new Window(server, "Ben")];
  const level = (value: number, old: number): EditableChange => ({
    type: "points",
    edits: [{ id: 2, field: "elevation", old, new: value }],
  });
  ben.follow(ben.sync.make("b", level(16, 2)));
  ada.follow(ada.sync.make("a", level(15, 2)));
  ada.send("now");
  ben.listen("all");
  expect(fieldValue(ben.sync.job.points, rowOf(ben.sync.job.points, 2), "elevation")).toBe(15);
  expect(ben.sync.clashes).toMatchObject([
    {
      name: "b",
      why: { code: "change-outdated", data: { author: "Ada", clash: { field: "elevation", theirs: 15, mine: 16 } } },
    },
  ]);
  expect(ben.sync.clashes[0]!.why.message).toContain(
    "The elevation of point 2 was changed meanwhile by Ada: it is now 15. Yours, 16,",
  );
  expect(ben.sync.anew("b")).toEqual(level(16, 15));
});

test("two people change different fields of one code: both hold; of one field the person is asked", () => {
  const old = { code: "HEDGE", kind: "line" as const },
    book = { codes: [old] },
    withBook: EditableChange = { type: "setting", field: "book", old: start.book as never, new: book as never },
    server = new Server();
  server.store("Ada", withBook, null);
  const begun = server.job;
  const code = (from: object, to: object): EditableChange =>
    ({ type: "named", part: "codes", name: "HEDGE", old: from, new: to }) as EditableChange;
  const codeOf = (s: JobState) => s.book.codes![0];

  // The other's comes before one's own is sent.
  const one = new Sync(begun, 1, randomUUID);
  one.make("mine", code(old, { ...old, color: "#336633" }));
  one.arrive(server.store("Ben", code(old, { ...old, name: "Hedge" }), "theirs"));
  const both = { ...old, name: "Hedge", color: "#336633" };
  expect([codeOf(one.job), one.clashes]).toEqual([both, []]);
  one.arrive(server.store("Ada", one.waiting[0]!.change, one.waiting[0]!.name));
  expect([codeOf(server.job), codeOf(one.job), one.waiting]).toEqual([both, both, []]);

  // One's own is refused before the other's is known here: it waits for that, and goes on under another name.
  const two = new Sync(server.job, 3, randomUUID);
  two.make("late", code(both, { ...both, style: "dash" }));
  const entry = server.store("Ben", code(both, { ...both, layer: "V" }), "theirs 2");
  const sent = two.waiting[0]!.change;
  expect(() => server.store("Ada", sent, "late")).toThrow(Refusal);
  two.refuse("late", new Refusal("change-outdated", {}, "it was changed"), sent);
  expect(two.clashes).toHaveLength(1);
  two.arrive(entry);
  expect([two.clashes, two.waiting.map((w) => w.name === "late")]).toEqual([[], [false]]);
  server.store("Ada", two.waiting[0]!.change, two.waiting[0]!.name);
  expect(codeOf(server.job)).toEqual({ ...both, layer: "V", style: "dash" });

  // Both change the name.
  const now = codeOf(server.job)!,
    three = new Sync(server.job, 5, randomUUID);
  three.make("name", code(now, { ...now, name: "Quickset" }));
  three.arrive(server.store("Ben", code(now, { ...now, name: "Beech hedge" }), "theirs 3"));
  expect(three.clashes.map((c) => c.name)).toEqual(["name"]);
  expect(codeOf(three.job)!.name).toBe("Beech hedge");
});
