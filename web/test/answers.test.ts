/** Large answers on their way out: whole, whatever the reader; the slowest gives way. */
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { Answers } from "../heavy/answers";

const folder = fs.mkdtempSync(path.join(os.tmpdir(), "answers-"));
afterAll(() => fs.rmSync(folder, { recursive: true }));
const PIECE = 1 << 20;

function file(size: number): string {
  const name = path.join(folder, crypto.randomUUID());
  fs.writeFileSync(
    name,
    Uint8Array.from({ length: size }, (_, k) => k % 251),
  );
  return name;
}
const taken = async (body: ReadableStream<Uint8Array>) => (await new Response(body).arrayBuffer()).byteLength;
/** Files that this process holds open there, whether their names are gone or not. */
const held = () =>
  fs.readdirSync("/proc/self/fd").filter((fd) => {
    try {
      return fs.readlinkSync(`/proc/self/fd/${fd}`).startsWith(folder);
    } catch {
      return false;
    }
  }).length;

test.each([1, PIECE, 3 * PIECE + 5])("%d bytes come whole, and nothing is left", async (size) => {
  const answers = new Answers(),
    body = await answers.leaving(file(size), size);
  expect([fs.readdirSync(folder), held()]).toEqual([[], 1]);
  const bytes = new Uint8Array(await new Response(body).arrayBuffer());
  expect([bytes.length, bytes.every((b, k) => b === k % 251)]).toEqual([size, true]);
  expect(held()).toBe(0);
});

test("who goes away, or asks for nothing any more, leaves nothing behind", async () => {
  const [one, other] = [file(PIECE), file(3 * PIECE)],
    answers = new Answers({ lying: 1e9, stalled: 500, fair: 1e6 }),
    gone = await answers.leaving(one, PIECE),
    still = (await answers.leaving(other, 3 * PIECE)).getReader();
  await gone.cancel();
  await still.read();
  await expect(still.closed).rejects.toThrow("nobody takes the answer");
  expect(held()).toBe(0);
});

test("where no more has room the slowest gives way; where all are fair the next is refused", async () => {
  const limits = { lying: 6 * PIECE, stalled: 1e6, fair: 0 },
    answers = new Answers(limits),
    [slow, quick] = [
      (await answers.leaving(file(3 * PIECE), 3 * PIECE)).getReader(),
      (await answers.leaving(file(3 * PIECE), 3 * PIECE)).getReader(),
    ] as const;
  await quick.read();
  const next = await answers.leaving(file(2 * PIECE), 2 * PIECE);
  await expect(slow.closed).rejects.toThrow("others wait");
  expect((await quick.read()).value!.length).toBe(PIECE);
  limits.fair = 1e6;
  await expect(answers.leaving(file(2 * PIECE), 2 * PIECE)).rejects.toMatchObject({ code: "work-many" });
  expect(await taken(next)).toBe(2 * PIECE);
  // One alone may be larger than all the room.
  await quick.cancel();
  expect(await taken(await answers.leaving(file(9 * PIECE), 9 * PIECE))).toBe(9 * PIECE);
});
