/** Last days, as the clock brings them: it moves the whole house, so this comes after all else. */
import { personAt, sendNow, typeDay } from './people.ts';
import { expect, test } from './test.ts';

test('whoever leaves is shown with what they hold, and their account ends at five on the last day', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows');
  await wren.getByRole('button', { name: 'Begin from Leaver' }).click();
  await wren.getByRole('button', { name: 'Publish', exact: true }).click();
  await wren.getByRole('textbox', { name: 'What changes' }).fill('From the starter.');
  await wren.getByRole('button', { name: 'Publish version 1' }).click();
  await expect(wren.getByText(/version 1 is live/)).toBeVisible();
  const workflow = new URL(wren.url()).pathname.split('/').at(-1);
  const { now } = (await (await wren.request.get('/api/session')).json()) as { now: string };
  const [year, month, day] = now.slice(0, 10).split('-');

  const ines = await personAt(browser, 'Ines Okoro', `/ask/${workflow}`);
  await typeDay(ines, 'Last day', `${day}${month}${year}`);
  await ines.getByRole('combobox', { name: 'Why' }).click();
  await ines.getByRole('option', { name: 'Own wish' }).click();
  await ines.getByRole('button', { name: 'Send', exact: true }).click();
  await ines.waitForURL(/\/requests\/R-\d+$/);
  const request = ines.url().split('/').at(-1) ?? '';
  const tobias = await personAt(browser, 'Tobias Fennimore', `/desk?item=${request}`);
  await tobias.getByRole('button', { name: 'Approve', exact: true }).click();
  await sendNow(tobias);
  const kofi = await personAt(browser, 'Kofi Adair', `/requests/${request}`);
  await expect(kofi.getByRole('region', { name: 'What Ines Okoro holds' })).toBeVisible();
  await kofi.getByRole('button', { name: 'Take it' }).click();
  await kofi.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(kofi.getByText(/did step/).first()).toBeVisible();

  const forward = async (to: number) => {
    const { now: at } = (await (await wren.request.get('/api/session')).json()) as { now: string };
    const moved = await wren.request.post('/api/clock', {
      headers: { 'X-North-Pebble': '1' },
      data: { days: 0, hours: to - Number(at.slice(11, 13)) },
    });
    expect(moved.status()).toBe(200);
  };
  const account = async () => {
    await wren.goto('/mailroom?show=directory');
    await wren.getByLabel('Filter by account or name').fill('ines.okoro');
  };
  await forward(16);
  await account();
  await expect(wren.getByText('can be used').first()).toBeVisible();
  await forward(17);
  await account();
  await expect(wren.getByText('is disabled').first()).toBeVisible({ timeout: 30_000 });
});
