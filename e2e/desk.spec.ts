/** What a desk shows when nothing waits, and what HR operations see first. */
import { personAt, typeDay } from './people.ts';
import { expect, test } from './test.ts';

test('whoever asks finds balance, next leave, own requests and what to ask on an empty desk', async ({ browser }) => {
  const ines = await personAt(browser, 'Ines Okoro');
  const yours = ines.getByRole('region', { name: 'Yours' });
  await expect(yours.getByRole('region', { name: 'Your balance' })).toContainText(/days of annual leave/);
  await expect(yours.getByRole('region', { name: 'Your next leave' })).not.toContainText('…');
  await expect(yours.getByRole('region', { name: 'Your open requests' })).not.toContainText('…');
  await yours.getByRole('link', { name: 'Annual leave' }).click();
  await expect(ines.getByRole('heading', { level: 1 })).toContainText(/annual leave/i);
});

test('HR operations see what needs a hand in the house, and what passes next', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane');
  const house = wren.getByRole('region', { name: 'The house today' });
  await expect(house.getByRole('link', { name: /requests? needs? a hand/ })).toBeVisible();
  await expect(house).toContainText('Limits that pass next');
  await house.getByRole('link', { name: /requests? needs? a hand/ }).click();
  await expect(wren).toHaveURL(/\/stuck$/);
});

test('the link in a mail, opened on a telephone, leads to the request that is to be decided', async ({ browser }) => {
  const tobias = await personAt(browser, 'Tobias Fennimore');
  await tobias.setViewportSize({ width: 390, height: 844 });
  const items = (await (await tobias.request.get('/api/desk')).json()).items as { request: string }[];
  const last = items.at(-1)?.request ?? '';
  await tobias.goto(`/desk?item=${last}`);
  const detail = tobias.getByRole('complementary', { name: 'The selected request' });
  await expect(detail.getByRole('heading', { level: 2 })).toBeInViewport();
});

test('a day that there is none says so', async ({ browser }) => {
  const ines = await personAt(browser, 'Ines Okoro', '/ask/annual-leave');
  await typeDay(ines, 'First day', '29022026');
  await expect(ines.getByText('There is no 29/02/2026.')).toBeVisible();
});

test('people are found by name, and lead to their balance', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane');
  await wren.keyboard.press('/');
  await wren.getByPlaceholder('What are you looking for, or what shall be done?').fill('per lauder');
  await wren.getByRole('option', { name: /^Balance of Per Lauder/ }).click();
  await expect(wren.getByText('Plan: Standard')).toBeVisible();
});
