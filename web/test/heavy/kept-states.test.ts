/** States that the server keeps, against a plain list: never of another version, never more bytes than it may hold. */
import fc from "fast-check";
import { KeptStates } from "../../heavy/kept-states";

const MOST = 1_000_000;
const read = async (body: ReadableStream<Uint8Array>) => new Uint8Array(await new Response(body).arrayBuffer());

/** Bytes that tell which state they are, in pieces of some length. */
function stream(bytes: Uint8Array, piece: number, broken = false): ReadableStream<Uint8Array> {
  let at = 0;
  return new ReadableStream({
    pull(c) {
      if (broken && at > 0) return c.error(new Error("the process ended"));
      if (at >= bytes.length) return c.close();
      c.enqueue(bytes.slice(at, (at += piece)));
    },
  });
}

const bytesOf = (job: number, version: number, size: number) => {
  const bytes = new Uint8Array(size).fill((7 * job + version) % 251);
  bytes.set([job, version].slice(0, size));
  return bytes;
};

const step = fc.record({
  job: fc.integer({ min: 1, max: 4 }),
  version: fc.integer({ min: 1, max: 2 }),
  size: fc.oneof(fc.integer({ min: 1, max: 600_000 }), fc.constantFrom(1, MOST, MOST + 1)),
  end: fc.constantFrom("whole", "broken", "left", "asked", "asked"),
});

test("what is kept is what went through whole, of the version asked for; the longest unused are let go", async () => {
  let found = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 5, maxLength: 25 }), async (steps) => {
      const kept = new KeptStates(MOST);
      // The one that was not asked for longest first.
      let model: { job: number; version: number; size: number }[] = [];
      for (const { job, version, size, end } of steps) {
        if (end === "asked") {
          const known = model.find((m) => m.job === job && m.version === version),
            got = kept.at(job, version);
          expect(got?.size).toBe(known?.size);
          if (!known) continue;
          expect(Buffer.compare(await read(got!.body), bytesOf(job, version, known.size))).toBe(0);
          model = [...model.filter((m) => m !== known), known];
          found++;
          continue;
        }
        const bytes = bytesOf(job, version, size),
          body = kept.keeping(job, version, size, stream(bytes, 100_000, end === "broken"));
        if (end === "broken" && size > 0) await expect(read(body)).rejects.toThrow();
        else if (end === "left" && size > 400_000) {
          const reader = body.getReader();
          await reader.read();
          await reader.cancel();
        } else expect(Buffer.compare(await read(body), bytes)).toBe(0);
        const whole = (end === "whole" || (end === "left" && size <= 400_000)) && size <= MOST,
          newer = model.some((m) => m.job === job && m.version > version);
        if (!whole || newer) continue;
        model = [...model.filter((m) => m.job !== job), { job, version, size }];
        while (model.reduce((sum, m) => sum + m.size, 0) > MOST) model.shift();
      }
    }),
    { numRuns: 60 },
  );
  expect(found).toBeGreaterThan(20);
});
