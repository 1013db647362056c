/** Processes beside the server: their answers, their limits, and what goes on meanwhile. */
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { bundledProgram } from "./bundle";
import { Processes, type Answer, type Lane } from "../../heavy/processes";

const program = bundledProgram(),
  folder = fs.mkdtempSync(path.join(os.tmpdir(), "answers-"));
process.env.BRAMBLE_UPLOADS = folder;
const opened: Processes[] = [];

afterEach(() => opened.splice(0).forEach((p) => p.close()));
afterAll(() => {
  program.remove();
  fs.rmSync(folder, { recursive: true });
});

function begun(limits = { seconds: 20, memory: 1e9 }) {
  const all = new Processes(program.path, limits);
  opened.push(all);
  const run = all.run.bind(all) as unknown as (
    lane: Lane,
    task: string,
    asked: object,
    what: string,
    how?: { signal?: AbortSignal; turn?: <T>(work: () => Promise<T>) => Promise<T> },
  ) => Promise<Answer<{ text: string; pid: number }>>;
  return { run, close: () => all.close() };
}

async function bytesOf({ body }: Answer): Promise<Uint8Array> {
  return new Uint8Array(await new Response(body).arrayBuffer());
}

test("answers come whole and in turn, whatever their size, from a process that is kept", async () => {
  const { run } = begun();
  const pids = new Set<number>();
  for (const size of [0, 1, 100_000, 5_000_000, 3]) {
    const answer = await run("make", "echo", { text: "a", size }, "An echo"),
      bytes = await bytesOf(answer);
    pids.add(answer.head.pid);
    expect([answer.size, bytes.length, answer.head.text]).toEqual([size, size, "a"]);
    expect(bytes.every((b, i) => b === i % 251)).toBe(true);
  }
  expect(pids.size).toBe(1);
});

test("refusals come as they are; what nobody foresaw is no answer; both leave the process to the next", async () => {
  const { run } = begun();
  await expect(run("make", "refuse", {}, "This")).rejects.toMatchObject({
    code: "file-empty",
    message: expect.stringContaining("“a.csv” is empty"),
  });
  await expect(run("make", "fail", {}, "This")).rejects.toThrow("nobody foresaw this");
  expect((await run("make", "echo", { text: "b", size: 0 }, "This")).head.text).toBe("b");
});

test.each([
  ["forEver", { seconds: 4, memory: 1e9 }, "work-long"],
  ["swallow", { seconds: 30, memory: 300e6 }, "work-large"],
  ["swallowHeap", { seconds: 30, memory: 200e6 }, /work-large|work-ended/],
  ["crash", { seconds: 30, memory: 1e9 }, "work-ended"],
])("%s is ended and said; the lane goes on", async (task, limits, code) => {
  const { run } = begun(limits);
  const ended = run("make", task, {}, "Reading “a.csv”");
  // Another lane does not wait for it.
  expect((await run("open", "echo", { text: "c", size: 10 }, "This")).head.text).toBe("c");
  await expect(ended).rejects.toMatchObject({
    code: typeof code === "string" ? code : expect.stringMatching(code),
    message: expect.stringContaining("Reading “a.csv”"),
  });
  expect((await run("make", "echo", { text: "d", size: 10 }, "This")).head.text).toBe("d");
});

test("a lane has so many at once; others wait, up to a number; one that nobody waits for any more is ended", async () => {
  const { run } = begun(),
    gone = new AbortController(),
    first = run("make", "forEver", {}, "The first", { signal: gone.signal });
  const settled: string[] = [];
  const waiting = Array.from({ length: 64 }, (_, k) =>
    run("make", "echo", { text: String(k), size: 1 }, "This").then(async (a) => {
      settled.push(a.head.text);
      await bytesOf(a);
    }),
  );
  await expect(run("make", "echo", { text: "x", size: 1 }, "This")).rejects.toMatchObject({ code: "work-many" });
  expect(settled).toEqual([]);
  gone.abort();
  await expect(first).rejects.toMatchObject({ code: "work-ended" });
  await Promise.all(waiting);
  expect(settled).toEqual(Array.from({ length: 64 }, (_, k) => String(k)));
});

test.each([0, 5, 7_999_999, 30_000_000])("an answer of %d bytes that nobody reads holds no process", async (size) => {
  const { run } = begun(),
    slow = await run("make", "echo", { text: "a", size }, "This"),
    other = await run("make", "echo", { text: "a", size }, "This");
  await other.body.cancel();
  const next = await run("make", "echo", { text: "b", size: 7 }, "This");
  expect([next.head.text, (await bytesOf(next)).length, next.head.pid]).toEqual(["b", 7, slow.head.pid]);
  // It is whole when it is read at last, and nothing of it is left.
  const bytes = await bytesOf(slow);
  expect([bytes.length, bytes.every((b, i) => b === i % 251)]).toEqual([size, true]);
  expect(fs.readdirSync(folder)).toEqual([]);
});

test("what was for somebody who waits keeps its process for such alone; what takes long gives way to it", async () => {
  const { run } = begun();
  const niceOf = async (lane: Lane) => {
    const { head, body } = await run(lane, "echo", { text: "", size: 0 }, "This");
    await body.cancel();
    return [head.pid, os.getPriority(head.pid)] as const;
  };
  const [open, make, quick, long] = [
    await niceOf("open"),
    await niceOf("make"),
    await niceOf("quick"),
    await niceOf("long"),
  ];
  expect([open[0], make[0]]).toEqual([quick[0], long[0]]);
  expect(open[1]).toBeLessThan(make[1]);
});

test("a turn is asked for in the lane: who waits there holds nobody's turn", async () => {
  const { run } = begun(),
    order: string[] = [],
    gone = new AbortController(),
    first = run("make", "forEver", {}, "The first", { signal: gone.signal });
  const second = run("make", "echo", { text: "a", size: 1 }, "The second", {
    turn(work) {
      order.push("its turn");
      return work();
    },
  });
  order.push("waits");
  await run("open", "echo", { text: "b", size: 1 }, "Another lane");
  expect(order).toEqual(["waits"]);
  gone.abort();
  await expect(first).rejects.toMatchObject({ code: "work-ended" });
  expect((await second).head.text).toBe("a");
  expect(order).toEqual(["waits", "its turn"]);
});

test("a process that ends while it puts its answer into the file leaves nothing of it", async () => {
  const { run } = begun();
  await expect(run("make", "endsWhileWriting", {}, "This")).rejects.toMatchObject({ code: "work-ended" });
  expect(fs.readdirSync(folder)).toEqual([]);
  expect((await run("make", "echo", { text: "e", size: 10 }, "This")).head.text).toBe("e");
});
