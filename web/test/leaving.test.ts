/** Made files on their way out, whole and in ranges, from a real PostgreSQL. */
import path from "node:path";
import fc from "fast-check";
import { GENERAL_BOOK } from "@bramble/core";
import {
  closePool,
  createJob,
  getPool,
  keepMade,
  madeFile,
  migrate,
  orderFile,
  prepareQueue,
  takeOrder,
} from "@bramble/db";
import { leaving } from "../server/leaving";

const PART = 1 << 20,
  SIZE = 2 * PART + 77,
  ALL = Buffer.from(Uint8Array.from({ length: SIZE }, (_, k) => (k * 31 + (k >> 11)) & 255));
let job: number, id: number;
beforeAll(async () => {
  await migrate(path.join(__dirname, "../../db/migrations"));
  await prepareQueue();
  job = await createJob({ name: "Plot", unit: "m", order: "EN", book: GENERAL_BOOK });
  const wanted = { what: "volumes" as const, format: "pdf" as const, comparisons: ["a"] };
  ({ id } = await orderFile(job, "Ada", "plan “1”.pdf", wanted, crypto.randomUUID()));
  await keepMade((await takeOrder(id))!, 1, ALL);
});
afterAll(closePool);

const asked = async (headers: Record<string, string> = {}) => {
  const answer = leaving(new Request("http://127.0.0.1/x", { headers }), await madeFile(job, id), "application/pdf"),
    of = (name: string) => answer.headers.get(name);
  return { answer, of, bytes: async () => Buffer.from(await answer.arrayBuffer()) };
};

test("whole, with its length, name, type and mark", async () => {
  const { answer, of, bytes } = await asked();
  expect([answer.status, of("content-length"), of("accept-ranges"), of("content-type"), of("content-range")]).toEqual([
    200,
    String(SIZE),
    "bytes",
    "application/pdf",
    null,
  ]);
  expect(of("content-disposition")).toBe('attachment; filename="plan _1_.pdf"');
  expect((await bytes()).equals(ALL)).toBe(true);
});

test("any range is the very bytes of it", () =>
  fc.assert(
    fc.asyncProperty(fc.nat(SIZE - 1), fc.nat(SIZE + 10), async (from, to) => {
      fc.pre(from <= to);
      const { answer, of, bytes } = await asked({ range: `bytes=${from}-${to}` }),
        last = Math.min(to, SIZE - 1);
      expect([answer.status, of("content-range"), of("content-length")]).toEqual([
        206,
        `bytes ${from}-${last}/${SIZE}`,
        String(last + 1 - from),
      ]);
      expect((await bytes()).equals(ALL.subarray(from, last + 1))).toBe(true);
    }),
    { numRuns: 25 },
  ));

test.each<[string, number, string | null]>([
  ["bytes=-77", 206, `bytes ${SIZE - 77}-${SIZE - 1}/${SIZE}`],
  [`bytes=${SIZE - 1}-`, 206, `bytes ${SIZE - 1}-${SIZE - 1}/${SIZE}`],
  [`bytes=${SIZE}-`, 416, `bytes */${SIZE}`],
  ["bytes=5-2", 416, `bytes */${SIZE}`],
  // What is no range, is of another unit, or is several apart: the whole.
  ["bytes", 200, null],
  ["lines=0-5", 200, null],
  ["bytes=0-5,100-105", 200, null],
  [`bytes=${"0-1,".repeat(5000)}0-1`, 206, `bytes 0-1/${SIZE}`],
])("%.40s", async (range, status, content) => {
  const { answer, of } = await asked({ range });
  expect([answer.status, of("content-range")]).toEqual([status, content]);
  await answer.body?.cancel();
});

test("a range of what it was before is answered by the whole", async () => {
  const mark = (await asked()).of("etag")!;
  expect((await asked({ range: "bytes=0-1", "if-range": mark })).answer.status).toBe(206);
  expect((await asked({ range: "bytes=0-1", "if-range": '"other"' })).answer.status).toBe(200);
});

test("nothing is read before it is asked for; what goes away on the way ends the answer, and nothing else", async () => {
  const { answer } = await asked(),
    reader = answer.body!.getReader();
  expect((await reader.read()).value!.length).toBe(PART);
  await getPool().query("DELETE FROM made_file_parts WHERE part = 2");
  expect((await reader.read()).value!.length).toBe(PART);
  await expect(reader.read()).rejects.toThrow("That file");
});
