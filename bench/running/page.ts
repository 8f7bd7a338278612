/** The sheet in the browser: how soon a key shows in a workflow of 200 steps, and how long the page is ever kept busy. */

import { demoDay } from '@north-pebble/demo';
import { chromium, type Page } from '@playwright/test';
import { longWorkflow } from '../core/sheet.ts';
import { againstBar, type Row } from '../measure.ts';
import type { Served } from '../served.ts';

const steps = 200;
const words = 'line manager, else HR partner decides within 2 working days';

type Seen = { keys: number[]; busy: number[] };
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

async function measured(page: Page, work: () => Promise<void>): Promise<Seen> {
  await page.evaluate(() => {
    window.seen.keys = [];
    window.seen.busy = [];
  });
  await work();
  return page.evaluate(() => window.seen);
}

const highest = (values: readonly number[]): number => Math.max(0, ...values);
const nineInTen = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.9)];

export async function pageRows({ base, signIn }: Served): Promise<Row[]> {
  const cookie = await signIn('wren');
  const made = await fetch(`${base}/api/workflows`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-North-Pebble': '1', Cookie: cookie },
    body: JSON.stringify({ definition: { ...longWorkflow(steps), name: `Long on ${demoDay}` } }),
  });
  if (!made.ok) throw new Error(await made.text());
  const { id } = (await made.json()) as { id: string };
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const [name, value] = cookie.split('=');
    await context.addCookies([{ name, value, url: base }]);
    const page = await context.newPage();
    await page.addInitScript(watch);
    await page.goto(`${base}/workflows/${id}`);
    const margin = page.getByRole('complementary', { name: 'Margin' });
    await margin
      .getByText(/Nothing found|Findings/)
      .first()
      .waitFor();
    await page.getByRole('group', { name: /^Line 2, / }).press('Enter');
    const field = page.getByRole('textbox', { name: 'What happens next, in words' });
    const typing = await measured(page, () => field.pressSequentially(words, { delay: 60 }));
    await page.keyboard.press('Escape');
    await page
      .getByRole('navigation', { name: 'Sections' })
      .getByRole('button', { name: /^About/ })
      .press('Enter');
    const purpose = page.getByRole('textbox', { name: 'What it is for' });
    // Every letter changes the definition: it is kept, checked in the worker, and drawn again.
    const changing = await measured(page, async () => {
      await purpose.pressSequentially(words, { delay: 60 });
      await page.waitForTimeout(3000);
    });
    return [
      againstBar(`a key to its letter on a sheet of ${steps} steps, 9 in 10, in ms`, nineInTen(typing.keys), 30),
      againstBar('the longest of them, in ms', highest(typing.keys), 100),
      againstBar('a key that changes the definition itself, 9 in 10, in ms', nineInTen(changing.keys), 30),
      againstBar('the longest piece of work on the page meanwhile, in ms', highest(changing.busy), 50),
    ];
  } finally {
    await browser.close();
  }
}
