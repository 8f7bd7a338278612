/** What anybody trips over: letters that are lost, a connection that is, addresses that are none, and too many tabs. */
import { personAt } from './people.ts';
import { expect, test } from './test.ts';

test('a filter keeps every letter, however fast it is typed, and the address follows', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane');
  const fields: [path: string, label: string][] = [
    ['/requests?whose=all', 'Number, name or words'],
    ['/people', 'Name, post, place or department'],
    ['/balances/everyone', 'Name'],
    ['/papers', 'Holder or kind'],
    ['/planner', 'Name'],
    ['/workflows', 'Find'],
    ['/house/posts', 'Post, holder, place or department'],
  ];
  for (const [path, label] of fields)
    for (const delay of path === '/people' ? [30, 60, 120] : [60]) {
      await wren.goto(path);
      const field = wren.getByLabel(label, { exact: true }).first();
      await field.click();
      await field.pressSequentially('mira kell', { delay });
      await expect(field).toHaveValue('mira kell');
      await expect(wren).toHaveURL(/words=mira\+kell/);
      await expect(field).toHaveValue('mira kell');
    }
  // What the address says otherwise is taken over.
  await wren.goto('/people?words=ines');
  await expect(wren.getByLabel('Name, post, place or department')).toHaveValue('ines');
});

test('without a connection the frame stays and says so; what was clicked is there when it is back', async ({
  browser,
}) => {
  const ines = await personAt(browser, 'Ines Okoro');
  await expect(ines.getByRole('region', { name: 'Yours' })).toBeVisible();
  await ines.context().setOffline(true);
  await ines.getByRole('link', { name: 'Planner' }).click();
  await expect(ines.getByText('You are offline.')).toBeVisible();
  await expect(ines.getByText('This page broke')).toBeHidden();
  await expect(ines.getByRole('link', { name: 'Balances' })).toBeVisible();
  await ines.context().setOffline(false);
  await expect(ines).toHaveURL(/\/planner/);
  await expect(ines.getByRole('heading', { level: 1, name: 'Planner' })).toBeVisible();
  await expect(ines.getByText('You are offline.')).toBeHidden();
});

test('an address that is no request says so, in the frame', async ({ browser }) => {
  const ines = await personAt(browser, 'Ines Okoro');
  for (const address of ['anything', 'find', 'R-x']) {
    await ines.goto(`/requests/${address}`);
    await expect(ines.getByText(`There is no request ${address}`)).toBeVisible();
    await expect(ines.getByRole('link', { name: 'Desk' })).toBeVisible();
  }
});

test('after an answer the next one is open, the counts agree, and Ctrl+Z takes it back', async ({ browser }) => {
  const tobias = await personAt(browser, 'Tobias Fennimore');
  const items = (await (await tobias.request.get('/api/desk')).json()).items as {
    request: string;
    askerName: string;
  }[];
  expect(items.length).toBeGreaterThan(2);
  const [, second, third] = items;
  await tobias.goto(`/desk?item=${second?.request}`);
  const detail = tobias.getByRole('complementary', { name: 'The selected request' });
  const approve = detail.getByRole('button', { name: /^Approve/ });
  await approve.click();
  await expect(tobias.getByText(/^Answered “Approve”: /)).toBeVisible();
  await expect(detail).toContainText(third?.askerName ?? '');
  await expect(tobias.getByLabel(`${items.length - 1} waiting`)).toBeVisible();
  await tobias.keyboard.press('Control+z');
  await expect(tobias.getByText(/^Answered “Approve”: /)).toBeHidden();
  await expect(detail).toContainText(second?.askerName ?? '');
  await expect(tobias.getByLabel(`${items.length} waiting`)).toBeVisible();
});

test('seven pages of one browser are all answered, and news come to each', async ({ browser }) => {
  const first = await personAt(browser, 'Ines Okoro');
  const context = first.context();
  const pages = [first];
  for (let n = 1; n < 7; n++) pages.push(await context.newPage());
  await Promise.all(pages.map(page => page.goto('/desk')));
  for (const page of pages)
    await expect(page.getByRole('region', { name: 'Yours' })).toContainText('days of annual leave');
  // The last one is answered too, while all of them stay open.
  const last = pages.at(-1) ?? first;
  await last.goto('/balances');
  await expect(last.getByRole('heading', { level: 1 })).toBeVisible();
});

test('the keyboard comes to the page at once, and a refused Send to the first field that is wrong', async ({
  browser,
}) => {
  const page = await personAt(browser, 'Ines Okoro', '/ask/annual-leave');
  await expect(page.getByRole('heading', { name: 'Ask for annual leave' })).toBeVisible();
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('Tab');
  await expect(page.getByRole('link', { name: 'Skip to the page' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.locator('#content')).toBeFocused();
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  // Named in one line, described at its place, and under the cursor.
  const named = page.getByRole('alert').filter({ hasText: 'Put right before you send' });
  await expect(named).toContainText('Dates');
  const day = page.getByRole('group', { name: 'First day' }).getByRole('spinbutton', { name: 'Day' });
  await expect(day).toBeFocused();
  await page.getByRole('textbox', { name: /^Remark/ }).focus();
  await named.getByRole('button', { name: 'Dates' }).click();
  await expect(day).toBeFocused();
  await page.context().close();
});

test('on a telephone a statement reads in lines, and the days of the planner begin in the upper half', async ({
  browser,
}) => {
  const page = await personAt(browser, 'Ines Okoro', '/balances');
  await page.setViewportSize({ width: 390, height: 800 });
  const why = page.getByRole('cell', { name: /^more than the 5/ }).first();
  await expect(why).toBeVisible();
  // Not a word a line: the whole sentence in one or two.
  expect((await why.boundingBox())?.width ?? 0).toBeGreaterThan(250);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.goto('/planner');
  const first = page.getByText('Ada Dunmore').first();
  await expect(first).toBeVisible();
  expect((await first.boundingBox())?.y ?? 800).toBeLessThan(560);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.context().close();
});
