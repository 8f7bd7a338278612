/** What a desk shows when nothing waits, and what HR operations see first. */
import { expect, test } from '@playwright/test';
import { personAt } from './people.ts';

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
