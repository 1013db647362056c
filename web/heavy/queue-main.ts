/**
 * The process that takes files to be made out of the queue, one after another; each is made in a process beside it,
 * within its limits. The server begins one; others may run against the same database, here or on other machines.
 */
import { databaseRefusal, putBack, serveQueue, stillMaking, takeOrder, takeUpOrders, tellFailed } from "@bramble/db";
import type { RefusalCode } from "@bramble/core";
import { asRefusal } from "../server/refusals";
import { endWithServer } from "./child";
import { processes } from "./processes";

/** Milliseconds between two looks for orders whose maker is gone, and between two signs of life. */
const LOOK_EVERY = 10_000,
  ALIVE_EVERY = 3000,
  /** Until a database that is away is asked again. */
  AGAIN = 2000;

/** What ends a maker through no fault of what it makes: its file is made again. */
const NO_FAULT: ReadonlySet<RefusalCode> = new Set<RefusalCode>([
  "work-ended",
  "database-away",
  "database-short",
  "storing-slow",
  "storing-unknown",
]);

if (process.send) endWithServer();
await whenThere(() => serveQueue(make));
await takeUp();
setInterval(() => void takeUp(), LOOK_EVERY);

async function make(file: number): Promise<void> {
  const order = await takeOrder(file);
  if (!order) return;
  const { id, attempt, job, author, wanted } = order,
    unwanted = new AbortController();
  const alive = setInterval(() => {
    void stillMaking(order).then(
      (is) => is || unwanted.abort(),
      () => undefined,
    );
  }, ALIVE_EVERY);
  try {
    const asked = { id, attempt, job, author, wanted };
    const { body } = await processes().run("make", "makeFile", asked, `Making “${order.file}”`, {
      signal: unwanted.signal,
    });
    await new Response(body).arrayBuffer();
  } catch (e) {
    const refused = asRefusal(e);
    if (!refused) console.error(e);
    await whenThere(() =>
      refused && NO_FAULT.has(refused.code)
        ? putBack(order)
        : tellFailed(order, refused?.message ?? "Something went wrong while it was made. Ask for it again."),
    );
  } finally {
    clearInterval(alive);
  }
}

async function takeUp(): Promise<void> {
  await takeUpOrders().catch((e: unknown) => {
    if (!databaseRefusal(e) && !asRefusal(e)) console.error(e);
  });
}

/** Asks again until the database is there. */
async function whenThere<T>(work: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await work();
    } catch (e) {
      if (!databaseRefusal(e) && !asRefusal(e)) throw e;
      await new Promise((again) => setTimeout(again, AGAIN));
    }
  }
}
