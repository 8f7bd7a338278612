/** Wishes for the same days, from asking everybody to undoing the decision; and hours claimed, from the form to the statement. */
import { expect, test } from '@playwright/test';
import { axeFindsNothing } from './axe.ts';
import { onDeskOf, personAt, send, sendNow, typeDay } from './people.ts';

test('wishes are collected, compared in turn, decided together and undone', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/wishes');
  await wren.getByRole('button', { name: 'New round' }).click();
  const form = wren.getByRole('form', { name: 'New round of wishes' });
  await form.getByLabel('Name').fill('Midwinter at Ovay');
  await typeDay(wren, 'First day', '21122026');
  await typeDay(wren, 'Last day', '02012027');
  await typeDay(wren, 'Wishes close on', '21122026');
  await form.getByRole('combobox', { name: 'Department' }).click();
  await wren.getByRole('option', { name: 'Observatory' }).click();
  await form.getByLabel('Away at once, at most').fill('1');
  await form.getByRole('button', { name: 'Ask everybody' }).click();
  await expect(form.getByText('Wishes close before the days that they are for.')).toBeVisible();
  // Today, by the clock of the house, whatever was done in it before.
  const { now } = (await (await wren.request.get('/api/session')).json()) as { now: string };
  const [year, month, day] = now.slice(0, 10).split('-');
  await typeDay(wren, 'Wishes close on', `${day}${month}${year}`);
  await axeFindsNothing(wren);
  await form.getByRole('button', { name: 'Ask everybody' }).click();
  const round = wren.getByRole('region', { name: 'Midwinter at Ovay' });
  await expect(round).toContainText(/0 of \d+ have wishes/);

  const ines = await personAt(browser, 'Ines Okoro', '/wishes');
  const wish = async (page: typeof ines, from: string, to: string) => {
    await page.getByRole('button', { name: 'Add your wishes' }).click();
    await typeDay(page, 'First day', from);
    await typeDay(page, 'Last day', to);
    await page.getByRole('button', { name: 'Save wishes' }).click();
  };
  // Outside of the round it is refused at its place, and what was typed stays.
  await wish(ines, '18122026', '23122026');
  await expect(ines.getByText(/Wish for days from/)).toBeVisible();
  await typeDay(ines, 'First day', '22122026');
  await axeFindsNothing(ines);
  await ines.getByRole('button', { name: 'Save wishes' }).click();
  await expect(ines.getByRole('list', { name: 'Your wishes for Midwinter at Ovay' })).toContainText('22 to');
  const tobias = await personAt(browser, 'Tobias Fennimore', '/wishes');
  await wish(tobias, '23122026', '24122026');
  await expect(tobias.getByRole('button', { name: 'Change your wishes' })).toBeVisible();

  // A day later wishes are closed.
  expect(
    (await wren.request.post('/api/clock', { headers: { 'X-North-Pebble': '1' }, data: { days: 1, hours: 0 } })).ok(),
  ).toBe(true);
  await wren.goto('/wishes');
  await wren
    .getByRole('region', { name: 'Midwinter at Ovay' })
    .getByRole('link', { name: 'Compare and decide' })
    .click();
  await expect(wren.getByRole('list', { name: 'In turn' }).getByRole('listitem')).toHaveCount(2);
  await expect(wren.getByText(/2 would be away on Wed 23 December/)).toBeVisible();
  await axeFindsNothing(wren);
  const decide = wren.getByRole('form', { name: 'Decide' });
  await decide.getByRole('button', { name: 'See what follows' }).click();
  await expect(decide.getByRole('region', { name: 'What follows' })).toContainText(
    'the wishes of one person are met, those of one are not',
  );
  await decide.getByRole('textbox', { name: 'Why' }).fill('In turn.');
  await decide.getByRole('button', { name: 'Book these for everybody' }).click();
  await expect(wren.getByRole('list', { name: 'In turn' })).toContainText('Booked:');

  await ines.reload();
  await tobias.reload();
  const said = async (page: typeof ines) =>
    (await page.getByRole('region', { name: 'Midwinter at Ovay' }).textContent()) ?? '';
  await expect
    .poll(async () => [await said(ines), await said(tobias)].filter(one => one.includes('Booked for you')).length)
    .toBe(1);
  expect([await said(ines), await said(tobias)].filter(one => one.includes('None of your wishes'))).toHaveLength(1);

  await wren.goto('/house/changes');
  const made = wren.getByRole('listitem').filter({ hasText: 'Midwinter at Ovay' }).first();
  await made.getByRole('button', { name: 'Take it back' }).click();
  await made.getByLabel('Why it is taken back').fill('One was forgotten.');
  await made.getByRole('button', { name: 'Take it back' }).click();
  await expect(wren.getByText('Taken back').first()).toBeVisible();
  await ines.reload();
  await expect(ines.getByRole('region', { name: 'Midwinter at Ovay' })).toContainText('HR decides next');
});

test('hours are claimed, agreed, and stand on the statement with what they count', async ({ browser }) => {
  const ines = await personAt(browser, 'Ines Okoro', '/ask/time-earned');
  await typeDay(ines, 'Worked on', '31012026');
  await ines.getByRole('combobox', { name: 'Kind of work' }).click();
  await ines.getByRole('option', { name: 'Called out at night' }).click();
  await ines.getByLabel('Hours', { exact: true }).fill('3');
  await ines.getByLabel('What it was').fill('A buoy had drifted.');
  await axeFindsNothing(ines);
  const request = await send(ines);
  const tobias = await personAt(browser, 'Tobias Fennimore');
  await onDeskOf(tobias, request);
  await tobias.getByRole('button', { name: /^Approve/ }).click();
  await sendNow(tobias);
  await ines.goto('/balances');
  await ines.getByRole('tab', { name: 'Compensation time' }).click();
  const row = ines.getByRole('row').filter({ hasText: request });
  await expect(row).toContainText('+4½');
});
