/** A page in a browser that is watched: how soon keys show, and how long it is ever kept busy. */
import { chromium, type Page } from '@playwright/test';

export type Seen = { keys: number[]; busy: number[] };
declare global {
  interface Window {
    seen: Seen;
  }
}

/** Watches the page: the time from each key to the paint after it, and every piece of work over 50 ms. */
function watch(): void {
  window.seen = { keys: [], busy: [] };
  window.addEventListener(
    'keydown',
    event => {
      const began = event.timeStamp;
      // The frame after the next one begins when the one with the letter has been painted.
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => window.seen.keys.push(performance.now() - began);
        channel.port2.postMessage(null);
      });
    },
    true,
  );
  new PerformanceObserver(list => {
    for (const entry of list.getEntries()) window.seen.busy.push(entry.duration);
  }).observe({ type: 'longtask' });
}

export async function measured(page: Page, work: () => Promise<void>): Promise<Seen> {
  await page.evaluate(() => {
    window.seen.keys = [];
    window.seen.busy = [];
  });
  await work();
  return page.evaluate(() => window.seen);
}

export const highest = (values: readonly number[]): number => Math.max(0, ...values);

/** Opens a watched page as somebody, and closes the browser whatever comes. */
export async function inBrowser<T>(base: string, cookie: string, work: (page: Page) => Promise<T>): Promise<T> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const [name, value] = cookie.split('=') as [string, string];
    await context.addCookies([{ name, value, url: base }]);
    const page = await context.newPage();
    await page.addInitScript(watch);
    return await work(page);
  } finally {
    await browser.close();
  }
}
