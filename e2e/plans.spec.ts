/** Plans back from a date: seen, moved with a preview, told of in time, and ready. */
import { axeFindsNothingInLightAndDark } from './axe.ts';
import { personAt, typeDay } from './people.ts';
import { expect, test } from './test.ts';

test('a joiner who is late: on the desk of HR, drawn, as a table, and moved with a preview until nothing is late', async ({
  browser,
}) => {
  const marit = await personAt(browser, 'Marit Solheim');
  const row = marit.getByRole('button', { name: /Oda Brekke.*not ready/ });
  await expect(row).toBeVisible();
  await marit.goto('/requests/plans');
  const late = marit.getByRole('list', { name: 'Plans' }).getByRole('listitem').first();
  await expect(late).toContainText('2 working days late');
  await expect(late).toContainText('3c1 Prepares the contract: 2 working days late');
  await late.getByRole('link', { name: /Oda Brekke/ }).click();
  await expect(marit.getByRole('img', { name: /plan back from Start date/ })).toBeVisible();
  await expect(marit.getByText('It would be ready')).toBeVisible();

  await marit.getByRole('button', { name: 'As a table' }).click();
  const contract = marit.getByRole('row', { name: /3c1 Prepares the contract/ });
  await expect(contract).toContainText('Thu 29 Jan');
  await contract.getByRole('button', { name: /must be finished then/ }).click();
  await expect(marit.getByText(/It is finished 5 working days before Start date/)).toBeVisible();
  await marit.keyboard.press('Escape');

  await marit.getByRole('button', { name: 'Move the date' }).click();
  await typeDay(marit, 'To', '13022026');
  const changes = marit.getByRole('table', { name: 'What changes' });
  await expect(changes.getByRole('row', { name: /Prepares the contract/ })).toContainText('Thu 5 Feb');
  await expect(marit.getByText('The form asks for 12 working days of notice; this is less.')).toBeVisible();
  await expect(marit.getByText(/Told once each: .*Olu Westray/)).toBeVisible();
  // Without a reason it is not sent.
  const send = marit.getByRole('button', { name: 'Move it to Fri 13 February 2026' });
  await expect(send).toBeDisabled();
  await marit.getByRole('textbox', { name: 'Why' }).fill('Her boat comes a week later.');
  await send.click();
  await expect(marit.getByText(/9 working days to go · 3 working days to spare/)).toBeVisible();

  await marit.goto('/desk');
  await expect(marit.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(row).toHaveCount(0);
  const wren = await personAt(browser, 'Wren Castellane', '/mailroom?to=olu.westray');
  await expect(wren.getByText(/Moved to Fri 13 February/).first()).toBeVisible();
  // The alert was a mail too, when its morning came.
  await wren.goto('/mailroom?to=marit');
  await expect(wren.getByText(/Not ready: .*Oda Brekke/).first()).toBeVisible();
});

test('the plan and all plans stand without faults for those who cannot see them well, light and dark', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/requests/plans');
  await wren.getByRole('link', { name: /Pia Lindqvist/ }).click();
  await expect(wren.getByRole('img', { name: /plan back/ })).toBeVisible();
  const plan = new URL(wren.url()).pathname;
  for (const path of ['/requests/plans', plan, `${plan}?as=table`, `${plan}?move=`]) {
    await wren.goto(path);
    await expect(wren.getByRole('heading', { level: 1 })).toBeVisible();
    await axeFindsNothingInLightAndDark(wren);
  }
});

test('a designer rehearses the plan with their own values and moves the date', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/new-colleague?section=Steps');
  await wren.getByRole('button', { name: /In the plan it takes 4 working days/ }).click();
  const editor = wren.getByRole('dialog', { name: 'Change its place in the plan' });
  await expect(editor.getByText(/So far \d+ in the middle/)).toBeVisible();
  await editor.getByRole('button', { name: 'Keep' }).click();
  await wren.goto('/workflows/new-colleague?section=Rehearse');
  await wren.getByLabel('Name', { exact: true }).fill('Signe Blom');
  await wren.getByRole('combobox', { name: 'Post' }).click();
  await wren.getByRole('option').first().click();
  await typeDay(wren, 'Start date', '02032026');
  await wren.getByRole('radio', { name: 'No' }).click();
  await wren.getByLabel('Private mail').fill('signe@post.example');
  await wren.getByRole('button', { name: 'Begin the rehearsal' }).click();
  const plan = wren.getByRole('region', { name: 'The plan back' });
  await expect(plan).toContainText('to spare');
  await plan.getByRole('button', { name: 'Show the table' }).click();
  await expect(plan.getByRole('row', { name: /Prepares the contract/ })).toBeVisible();
  await typeDay(wren, 'Move the date to', '06022026');
  await plan.getByRole('button', { name: 'Move it' }).click();
  await expect(plan).toContainText('late');
});
