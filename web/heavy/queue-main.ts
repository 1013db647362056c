/**
 * The process that takes files to be made out of the queue, one after another; each is made in a process beside it,
 * within its limits. The server begins one; others may run against the same database, here or on other machines.
 */
import { databaseRefusal, serveQueue, stillMaking, takeOrder, takeUpOrders, tellFailed } from "@bramble/db";
import { asRefusal } from "../server/refusals";
import { endWithServer } from "./child";
import { processes } from "./processes";

/** Milliseconds between two looks for orders whose maker is gone, and between two signs of life. */
const LOOK_EVERY = 10_000,
  ALIVE_EVERY = 3000,
  /** Until a database that is away is asked again. */
  AGAIN = 2000;

if (process.send) endWithServer();
await whenThere(() => serveQueue(make));
await takeUp();
setInterval(() => void takeUp(), LOOK_EVERY);

async function make(file: number): Promise<void> {
  const order = await takeOrder(file);
  if (!order) return;
  const { id, job, author, wanted } = order,
    unwanted = new AbortController();
  const alive = setInterval(() => {
    void stillMaking(id).then(
      (is) => is || unwanted.abort(),
      () => undefined,
    );
  }, ALIVE_EVERY);
  try {
    const asked = { id, job, author, wanted };
    const { body } = await processes().run("make", "makeFile", asked, `Making “${order.file}”`, {
      signal: unwanted.signal,
    });
    await new Response(body).arrayBuffer();
  } catch (e) {
    const refused = asRefusal(e);
    if (!refused) console.error(e);
    await whenThere(() =>
      tellFailed(id, refused?.message ?? "Something went wrong while it was made. Ask for it again."),
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
