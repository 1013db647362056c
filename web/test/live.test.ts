/** Windows that have a job open: who is told of whom, and what is kept for one that does not read. On a real PostgreSQL. */
import path from "node:path";
import { GENERAL_BOOK } from "@bramble/core";
import { closePool, createJob, migrate, storeChange } from "@bramble/db";
import { Live } from "../server/live";

let job: number;
beforeAll(() => migrate(path.join(__dirname, "../../db/migrations")));
afterAll(closePool);
beforeEach(async () => {
  job = await createJob({ name: "Plot", unit: "m", order: "EN", book: GENERAL_BOOK });
});

interface Heard {
  event: string;
  data: unknown;
}
/** A window: what it heard, as it reads. */
function windowOf(live: Live, who: string, window = "") {
  const leave = new AbortController(),
    reader = live.subscribe(job, 0, { who, window }, leave.signal).getReader();
  let rest = "",
    bytes = 0;
  const heard: Heard[] = [];
  /** Reads on until something is heard; false where the stream has ended. */
  const until = async (is: (h: Heard) => boolean): Promise<boolean> => {
    for (;;) {
      const at = heard.findIndex(is);
      if (at >= 0) return heard.splice(0, at + 1).length > 0;
      const { value, done } = await reader.read();
      if (done) return false;
      bytes += value.length;
      const parts = (rest + new TextDecoder().decode(value)).split("\n\n");
      rest = parts.pop()!;
      for (const part of parts) {
        const event = /^event: (.*)$/m.exec(part)?.[1],
          data = /^data: (.*)$/m.exec(part)?.[1];
        if (event) heard.push({ event, data: JSON.parse(data!) });
      }
    }
  };
  return { until, heard, leave: () => leave.abort(), bytes: () => bytes };
}
const is = (event: string, data: unknown) => (h: Heard) =>
  h.event === event && JSON.stringify(h.data) === JSON.stringify(data);

test("who comes hears of all, the others of the one; so when somebody leaves, or has another window", async () => {
  const live = new Live(),
    ada = windowOf(live, "Ada");
  expect(await ada.until(is("all-here", { Ada: 1 }))).toBe(true);
  const ben = windowOf(live, "Ben");
  expect(await ben.until(is("all-here", { Ada: 1, Ben: 1 }))).toBe(true);
  expect(await ada.until(is("here", { Ben: 1 }))).toBe(true);
  const again = windowOf(live, "Ben"),
    program = windowOf(live, "");
  expect(await program.until(is("all-here", { Ada: 1, Ben: 2 }))).toBe(true);
  expect(await ada.until(is("here", { Ben: 2 }))).toBe(true);
  again.leave();
  ben.leave();
  expect(await ada.until(is("here", { Ben: 1 }))).toBe(true);
  expect(await ada.until(is("here", { Ben: 0 }))).toBe(true);
  expect(await ben.until(() => false)).toBe(false);
  // A program without a name is nobody's neighbour.
  expect(ada.heard).toEqual([]);
  for (const w of [ada, program]) w.leave();
});

test("a change comes to every window of its job", async () => {
  const live = new Live(),
    all = ["Ada", "Ben", "__proto__"].map((who) => windowOf(live, who));
  await storeChange(job, "Ada", { type: "setting", field: "client", old: null, new: "Farm" });
  for (const w of all) expect(await w.until((h) => h.event === "entry")).toBe(true);
  const last = windowOf(live, "Cy");
  expect(await last.until((h) => h.event === "all-here" && Object.keys(h.data as object).includes("__proto__"))).toBe(
    true,
  );
  for (const w of [...all, last]) w.leave();
});

test("for one that does not read little is kept, however many come and go; reading again it hears who is here", async () => {
  const live = new Live(),
    asleep = windowOf(live, "Ada"),
    long = "水".repeat(80);
  for (let k = 0; k < 9000; k++) windowOf(live, long).leave();
  const stays = windowOf(live, "Ben");
  expect(await asleep.until(is("all-here", { Ada: 1, Ben: 1 }))).toBe(true);
  // Each coming and going is told in some 290 bytes: all of them would be five million.
  expect(asleep.bytes()).toBeLessThan(1_100_000);
  expect(asleep.bytes()).toBeGreaterThan(900_000);
  for (const w of [asleep, stays]) w.leave();
});

test("one that reads nothing for long is let go, others stay", async () => {
  const live = new Live(20),
    asleep = windowOf(live, "Ada"),
    long = "水".repeat(80);
  for (let k = 0; k < 2500; k++) windowOf(live, long).leave();
  const awake = windowOf(live, "Ben");
  expect(await awake.until(is("all-here", { Ada: 1, Ben: 1 }))).toBe(true);
  expect(await awake.until(is("here", { Ada: 0 }))).toBe(true);
  expect(await asleep.until(() => false)).toBe(false);
  awake.leave();
});

test("windows of one person, of a job and in all have a limit, which is said; one that closes makes room", async () => {
  const live = new Live(),
    mine = Array.from({ length: 50 }, () => windowOf(live, "Ada"));
  expect(() => windowOf(live, "Ada")).toThrow("As many as 50 windows are open for Ada; close some");
  mine.pop()!.leave();
  mine.push(windowOf(live, "Ada"));
  const others = Array.from({ length: 150 }, (_, k) => windowOf(live, `Person ${k}`));
  expect(() => windowOf(live, "Ben")).toThrow("As many as 200 windows have this job open; close some");
  for (const w of [...mine, ...others]) w.leave();
  const ben = windowOf(live, "Ben");
  expect(await ben.until(is("all-here", { Ben: 1 }))).toBe(true);
  ben.leave();
});
