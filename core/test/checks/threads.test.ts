/** Forms made on several cores are those of one, whatever a thread does and however late it is. */
import fc from "fast-check";
import { FormMaker, type LevelForms } from "../../src/checks/levels/forms";
import { FormWork, formThread, type FromThread, type Thread, type ToThread } from "../../src/checks/levels/threads";
import { terrain } from "./terrain";

const grounds = [2900, 2200, 700].map(
    (shots, seed) => terrain({ seed, spacing: 6, shots, curve: 0.1, strings: true, face: true }).field,
  ),
  alone = grounds.map((field) => new FormMaker(field).make(0, field.count).forms);

function made(work: FormWork): LevelForms {
  while (!work.step());
  return work.take();
}

test("with no thread, the parts of all steps together are the forms of all shots", () => {
  grounds.forEach((field, k) => expect(made(new FormWork(field, new FormMaker(field), []))).toEqual(alone[k]));
});

/** A thread that carries out what it is told when its time has come, or never; what it made is then brought. */
class Slow implements Thread {
  asked = 0;
  brought = 0;
  private readonly inbox: ToThread[] = [];
  private readonly made: FromThread[] = [];
  private readonly answer = formThread();

  constructor(private readonly pace: () => number) {}

  tell(message: ToThread): void {
    if ("from" in message) this.asked++;
    this.inbox.push(structuredClone(message));
  }

  come(): FromThread | undefined {
    for (let k = this.pace(); k > 0 && this.inbox.length > 0; k--) {
      const answer = this.answer(this.inbox.shift()!);
      if (answer) this.made.push(structuredClone(answer));
    }
    const first = this.made.shift();
    if (first) this.brought++;
    return first;
  }
}

test("threads of any pace, late and dead ones among them, change no form; a field given up leaves nothing in the next", () => {
  let helped = 0;
  fc.assert(
    fc.property(
      fc.array(fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 1, maxLength: 7 }), {
        minLength: 1,
        maxLength: 3,
      }),
      fc.integer({ min: 0, max: 9 }),
      fc.integer({ min: 0, max: grounds.length - 1 }),
      (paces, steps, first) => {
        const threads = paces.map((list) => {
          let n = 0;
          return new Slow(() => list[n++ % list.length]!);
        });
        // Another field is begun first, and left where it stands.
        const ground = grounds[first]!,
          // Of as many shots, and of other forms.
          left = { ...ground, x: ground.x.map((x, i) => x + ((i * 7) % 3) / 2) },
          begun = new FormWork(left, new FormMaker(left), threads);
        for (let k = 0; k < steps; k++) begun.step();
        for (const k of [0, 1]) {
          const field = grounds[k]!;
          expect(made(new FormWork(field, new FormMaker(field), threads))).toEqual(alone[k]);
        }
        helped += threads.reduce((sum, t) => sum + t.brought, 0);
      },
    ),
    { numRuns: 6 },
  );
  expect(helped).toBeGreaterThan(0);
});

test("what a thread made for a field given up is not taken for another of as many shots", () => {
  const field = grounds[0]!,
    other = { ...field, x: field.x.map((x, i) => x + ((i * 7) % 3) / 2) },
    paces = [1, 0];
  // Its answer for the first field comes when it has been asked for the same shots of the second.
  const thread = new Slow(() => paces.shift() ?? 1),
    begun = new FormWork(other, new FormMaker(other), [thread]);
  begun.step();
  expect(made(new FormWork(field, new FormMaker(field), [thread]))).toEqual(alone[0]);
  expect(thread.brought).toBeGreaterThan(1);
});

test("a thread that never answers is given a thousand shots once, and those are made without it", () => {
  const dead = new Slow(() => 0),
    field = grounds[0]!,
    work = new FormWork(field, new FormMaker(field), [dead]);
  let steps = 1;
  while (!work.step()) steps++;
  expect(dead.asked).toBe(1);
  expect(work.take()).toEqual(alone[0]);
  // Of 500 shots each, and one that takes over.
  expect(steps).toBe(Math.ceil(field.count / 500) + 1);
});
