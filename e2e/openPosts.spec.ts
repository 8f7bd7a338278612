/** The public page of open posts, as somebody reads it who is not signed in. */
import AxeBuilder from '@axe-core/playwright';
import { expect, test } from './test.ts';

test('open posts stand on a page for anybody, without what is for the house alone', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await page.goto('/open-posts');
  const post = page.getByRole('article', { name: 'Watch lead, Skarn Light' });
  await expect(post).toContainText('Department: Lights');
  await expect(post).toContainText('Leads a watch of four at the light');
  const raw = await (await page.request.get('/api/open-posts')).text();
  expect(raw).toContain('Watch lead');
  expect(raw).not.toMatch(/58.?000|Cost/);
  // Everything else stays shut.
  expect((await page.request.get('/api/records/lists')).status()).toBe(401);
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await context.close();
});
