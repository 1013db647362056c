/** Large bodies on their way in: who has a place, who waits for one, and who gives way. */
import { Refusal } from "@bramble/core";
import { readBody, withBody } from "../server/body";
import { Uploads, type UploadLimits } from "../server/uploads";

const limits: UploadLimits = { most: 4, ofOne: 2, patience: 60_000, givesWay: 20, fair: 1e9 };
/** Whether a promise has come about, after all that is ready has been done. */
async function isOpen(p: Promise<unknown>): Promise<boolean> {
  const waits = Symbol("waits");
  return (await Promise.race([p, new Promise((r) => setImmediate(() => r(waits)))])) === waits;
}
const patient = { ...limits, givesWay: 60_000 };

test("so many at once, fewer of one person; who finds no place waits, and comes in when one is free", async () => {
  const room = new Uploads(patient),
    [a1, a2] = [await room.enter("Ada", "1"), await room.enter("Ada", "2")],
    third = room.enter("Ada", "3", undefined, "third");
  expect(await isOpen(third)).toBe(true);
  // Ada's third keeps nobody else waiting.
  const [b1, c1] = [await room.enter("Ben", "1"), await room.enter("Cy", "1")],
    late = room.enter("Dee", "1", undefined, "late");
  expect(await isOpen(late)).toBe(true);
  expect(["third", "late", "another"].map((name) => room.before(name))).toEqual([0, 1, undefined]);
  b1.leave();
  b1.leave();
  const dee = await late;
  expect(await isOpen(third)).toBe(true);
  dee.leave();
  expect(await isOpen(third)).toBe(true);
  a1.leave();
  const a3 = await third;
  expect([room.before("third"), room.before("late")]).toEqual([undefined, undefined]);
  for (const u of [a2, a3, c1]) u.leave();
  // All places are free again.
  await Promise.all(["Ada", "Ada", "Ben", "Ben"].map((who) => room.enter(who, "x")));
});

test("a place that is free goes to one alone, whatever comes in the same moment", async () => {
  const room = new Uploads({ ...patient, most: 1 }),
    first = await room.enter("Ada", "1"),
    waits = room.enter("Ben", "2");
  first.leave();
  const late = room.enter("Cy", "3");
  const second = await waits;
  expect(await isOpen(late)).toBe(true);
  second.leave();
  (await late).leave();
  await expect(new Uploads({ ...patient, most: 0 }).enter("Ada", "4", AbortSignal.abort())).rejects.toMatchObject({
    code: "work-many",
  });
});

test("the slowest gives way to one who waits; nobody does to a person's own files", async () => {
  const room = new Uploads(limits),
    all = [await room.enter("Ada", "1"), await room.enter("Ada", "2"), await room.enter("Ben", "3")];
  all[0]!.size = 5000;
  all[1]!.size = 10;
  all[2]!.size = 7000;
  const cy = await room.enter("Cy", "4"),
    own = room.enter("Ada", "5");
  cy.size = 1e9;
  const dee = await room.enter("Dee", "6");
  expect([...all, cy, dee].map((u) => u.away.aborted)).toEqual([false, true, false, false, false]);
  all[2]!.leave();
  await own;
});

test("who goes away while waiting leaves the line; one who waits too long is told so", async () => {
  const room = new Uploads({ ...patient, most: 1 }),
    first = await room.enter("Ada", "1"),
    leaves = new AbortController(),
    gone = room.enter("Ben", "2", leaves.signal),
    next = room.enter("Cy", "3");
  leaves.abort();
  await expect(gone).rejects.toMatchObject({ code: "work-many" });
  first.leave();
  (await next).leave();
  const short = new Uploads({ ...patient, most: 1, patience: 10 });
  await short.enter("Ada", "1");
  await expect(short.enter("Ben", "2")).rejects.toBeInstanceOf(Refusal);
});

describe("bodies of requests", () => {
  /** A body that comes piece by piece, when it is let. */
  function slowly(who: string, pieces: number) {
    let feed!: ReadableStreamDefaultController<Uint8Array>;
    const body = new ReadableStream<Uint8Array>({ start: (c) => void (feed = c) }),
      request = new Request("http://127.0.0.1/x", {
        method: "POST",
        headers: { "x-author": who },
        body,
        duplex: "half",
      } as RequestInit);
    return {
      request,
      send: () => feed.enqueue(new Uint8Array(1000)),
      end() {
        for (let k = 0; k < pieces; k++) feed.enqueue(new Uint8Array(1000));
        feed.close();
      },
    };
  }
  const kept = globalThis as { brambleUploads?: Uploads };
  afterEach(() => delete kept.brambleUploads);

  test("one that gave its place to another ends in a sentence, the other is worked on", async () => {
    kept.brambleUploads = new Uploads({ ...limits, most: 1 });
    const slow = slowly("Ada", 1),
      quick = slowly("Ben", 3),
      one = withBody(slow.request, "slow.csv", 1e6, async () => "never");
    slow.send();
    const other = withBody(quick.request, "quick.csv", 1e6, async (_, size) => size);
    await expect(one).rejects.toThrow("“slow.csv” came slowly while others waited, and gave its place to them.");
    quick.end();
    expect(await other).toBe(3000);
  });

  test("one whose place was given away before a piece of it was read ends at once", async () => {
    const left = jest.fn(),
      upload = { who: "Ada", file: "slow.csv", began: 0, size: 0, away: AbortSignal.abort(), leave: left };
    kept.brambleUploads = { enter: () => Promise.resolve(upload) } as unknown as Uploads;
    await expect(withBody(slowly("Ada", 1).request, "slow.csv", 1e6, async () => "never")).rejects.toMatchObject({
      code: "upload-gave-way",
    });
    expect(left).toHaveBeenCalled();
  });

  test("one that is refused or breaks off gives its place back", async () => {
    kept.brambleUploads = new Uploads({ ...patient, most: 1 });
    for (let k = 0; k < 3; k++) {
      const large = slowly("Ada", 20);
      large.end();
      await expect(withBody(large.request, "large.csv", 5000, async () => 1)).rejects.toMatchObject({
        code: "file-too-large",
      });
    }
    const body = slowly("Ben", 2);
    body.end();
    expect((await readBody(body.request, "b.csv", 5000)).length).toBe(2000);
  });
});
