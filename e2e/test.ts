/** A test of the pages: whoever came to it at a browser of their own is gone when it ends. */
import { test as base, type Page } from '@playwright/test';

export { expect, type Page } from '@playwright/test';

/** Closes at the end of a file what its `beforeAll` opened. */
export const closeAll = async (...pages: Page[]): Promise<void> => {
  for (const page of pages) await page.context().close();
};

export const test = base.extend<{ gone: undefined }>({
  // Pages that stay open hear of everything that happens, and load it: each test would be slower than the one before.
  gone: [
    async ({ browser }, use) => {
      const before = new Set(browser.contexts());
      await use(undefined);
      for (const context of browser.contexts()) if (!before.has(context)) await context.close();
    },
    { auto: true },
  ],
});
