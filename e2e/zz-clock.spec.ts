/** The demo clock, last of all: it moves the whole house forward. */
import { personAt } from './people.ts';
import { expect, test } from './test.ts';

test('moved forward, reminders are sent and limits pass to the manager above', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane');
  await wren.getByRole('button', { name: 'Mon 2 Feb 2026 09:40' }).click();
  await wren.getByRole('menuitem', { name: 'Forward three days' }).click();
  await expect(wren.getByRole('button', { name: 'Thu 5 Feb 2026 09:40' })).toBeVisible();
  await wren.goto('/mailroom?to=tobias');
  await expect(wren.getByText(/^Reminder: /).first()).toBeVisible();
  // The asker of what went on to the manager above is told so.
  await wren.goto('/mailroom?to=per.lauder');
  await expect(wren.getByText(/^News: Annual leave/).first()).toBeVisible();
  const leif = await personAt(browser, 'Leif Auerbach');
  await expect(leif.getByText('Per Lauder').first()).toBeVisible();
  await leif.goto('/balances');
  await expect(leif.getByText('Plan: Standard')).toBeVisible();
});
