/**
 * The tests' own page: each has one of its own, in one context of the browser that keeps what it has fetched and compiled;
 * what the application keeps in the browser is cleared between tests.
 */
import { test as base, type BrowserContext } from "@playwright/test";

export { expect, type APIRequestContext, type Browser, type Locator, type Page } from "@playwright/test";

/** What the application keeps: who is at the keyboard, how it looks, what is not stored yet. */
const KEPT = "local_storage,indexeddb";

export const test = base.extend<object, { shared: BrowserContext }>({
  shared: [
    async ({ browser }, use) => {
      const context = await browser.newContext({
        baseURL: process.env.BASE_URL,
        viewport: { width: 1280, height: 800 },
        acceptDownloads: true,
      });
      await use(context);
      await context.close();
    },
    { scope: "worker" },
  ],
  context: async ({ shared }, use) => {
    await use(shared);
    await shared.setOffline(false);
    await shared.clearPermissions();
    const [page = await shared.newPage()] = shared.pages(),
      devtools = await shared.newCDPSession(page);
    await devtools.send("Storage.clearDataForOrigin", { origin: process.env.BASE_URL!, storageTypes: KEPT });
    for (const other of shared.pages()) await other.close();
  },
  page: async ({ context }, use) => {
    await use(await context.newPage());
  },
});
