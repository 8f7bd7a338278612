/** What axe finds on a page as it stands. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, type Page } from './test.ts';

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

type Axe = {
  run: (
    where: unknown,
    how: object,
  ) => Promise<{ violations: { id: string; nodes: { html: string; target: unknown[] }[] }[] }>;
};

/**
 * A line for each thing that keeps people from reading a page. Asked of the page itself, and of nothing but what is wrong:
 * that is five times as fast as gathering all that is right as well.
 * @param only the rules that are looked at; all of them where nothing is said
 */
async function wrongWith(page: Page, only?: readonly string[]): Promise<string[]> {
  await page.evaluate(source);
  return page.evaluate(async rules => {
    const { axe } = globalThis as unknown as { axe: Axe };
    const how = { resultTypes: ['violations'], iframes: false, ...(rules ? { runOnly: rules } : {}) };
    const { violations } = await axe.run((globalThis as unknown as { document: unknown }).document, how);
    return violations.map(({ id, nodes }) => `${id}: ${nodes.map(node => node.html.slice(0, 300)).join(' ')}`);
  }, only);
}

export async function axeFindsNothing(page: Page): Promise<void> {
  expect(await wrongWith(page), page.url()).toEqual([]);
}

/** Looks at a page in light and in dark, and leaves it in light. */
export async function axeFindsNothingInLightAndDark(page: Page): Promise<void> {
  await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
  await axeFindsNothing(page);
  // Dark pages are the light ones in other colours: only those can be wrong.
  await page.emulateMedia({ colorScheme: 'dark', reducedMotion: 'reduce' });
  expect(await wrongWith(page, ['color-contrast']), `${page.url()}, dark`).toEqual([]);
  await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
}
