/** What the screen says when something goes wrong, and that nothing typed is lost. */
import { execFileSync } from 'node:child_process';
import { type HouseName, houseFolder } from './houses.ts';
import { askForLeave, personAt, personBy, send } from './people.ts';
import { expect, test } from './test.ts';

test('two browsers decide: the slower one is told who was faster, and keeps the note', async ({ browser }) => {
  const mira = await personBy(browser, 'mira.kell');
  await askForLeave(mira, '08062026', '12062026');
  const request = await send(mira);
  const one = await personAt(browser, 'Tobias Fennimore', `/desk?item=${request}`);
  // The slower one’s page hears nothing of it before they press.
  const two = await personAt(browser, 'Tobias Fennimore');
  await two.route('**/api/live', route => route.abort());
  await two.goto(`/desk?item=${request}`);
  await two.getByRole('textbox', { name: 'Note for Mira' }).fill('Enjoy the summer.');
  await expect(one.getByRole('button', { name: 'Approve' })).toBeVisible();
  await one.keyboard.press('1');
  await one.getByRole('button', { name: 'Send now' }).click();
  await expect(one.getByRole('button', { name: 'Send now' })).toBeHidden();
  await two.getByRole('button', { name: 'Approve' }).click();
  await two.getByRole('button', { name: 'Send now' }).click();
  await expect(two.getByText(/Tobias Fennimore answered this/)).toBeVisible();
  await expect(two.getByText('with the note “Enjoy the summer.”')).toBeVisible();
});

test('what somebody else has answered stays open and says so; no other request takes its place', async ({
  browser,
}) => {
  const mira = await personBy(browser, 'mira.kell');
  await askForLeave(mira, '22062026', '26062026');
  const request = await send(mira);
  const one = await personAt(browser, 'Tobias Fennimore', `/desk?item=${request}`);
  const two = await personAt(browser, 'Tobias Fennimore', `/desk?item=${request}`);
  const detail = two.getByRole('complementary', { name: 'The selected request' });
  await detail.getByRole('textbox', { name: 'Note for Mira' }).fill('Bring the charts back.');
  await expect(one.getByRole('button', { name: 'Approve' })).toBeVisible();
  await one.keyboard.press('1');
  await one.getByRole('button', { name: 'Send now' }).click();
  await expect(detail.getByText('It does not wait for you any more')).toBeVisible();
  await expect(detail.getByText(/Tobias Fennimore answered “Approve”/)).toBeVisible();
  await expect(detail.getByText(/Your note was: “Bring the charts back.”/)).toBeVisible();
  await expect(detail.getByRole('heading', { name: /Mira Kell/ })).toBeVisible();
  await expect(detail.getByRole('button', { name: 'Approve' })).toBeHidden();
  await two.keyboard.press('1');
  await expect(two.getByRole('button', { name: 'Undo' })).toBeHidden();
  await detail.getByRole('button', { name: 'Go on' }).click();
  await expect(detail.getByRole('button', { name: 'Approve' })).toBeVisible();
});

test('a workflow file with an unknown verb is refused at its place, and the draft stays', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/compensation-time');
  await expect(wren.getByText('Findings')).toBeVisible();
  const file = {
    formatVersion: 1,
    name: 'X',
    area: 'Y',
    purpose: '',
    form: { fields: [] },
    figures: [],
    steps: [{ verb: 'Ponder', id: 'a' }],
    messages: [],
    closings: [],
  };
  await wren
    .getByLabel('Workflow file')
    .setInputFiles({ name: 'odd.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(file)) });
  await expect(wren.getByRole('alert')).toContainText('odd.json was not read; the draft is as it was');
  await expect(wren.getByRole('alert')).toContainText('steps › 1 › verb: “Ponder” is not a verb of a step.');
  await wren
    .getByLabel('Workflow file')
    .setInputFiles({ name: 'letter.txt', mimeType: 'text/plain', buffer: Buffer.from('Dear all') });
  await expect(wren.getByRole('alert')).toContainText('It is neither JSON nor BPMN');
  await expect(wren.getByText('As published; a change begins a draft')).toBeVisible();
});

test('two designers on one draft: the second is told and nothing is overwritten', async ({ browser }) => {
  const one = await personAt(browser, 'Wren Castellane', '/workflows/compensation-time');
  const two = await personAt(browser, 'Wren Castellane', '/workflows/compensation-time');
  for (const page of [one, two]) {
    await page.getByRole('button', { name: 'within 3 working days: change the limit' }).click();
    await page.getByRole('textbox', { name: 'Within' }).fill(page === one ? '4' : '5');
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    if (page === one) await expect(page.getByText('Draft, saved')).toBeVisible();
  }
  await expect(two.getByRole('alert')).toContainText(/Wren Castellane saved this draft .* in another window/, {
    timeout: 20_000,
  });
  await two.reload();
  await expect(two.getByRole('button', { name: 'within 4 working days: change the limit' })).toBeVisible();
  await two.getByRole('button', { name: 'Discard draft' }).click();
  await two.getByRole('button', { name: 'Discard it' }).click();
  await expect(two.getByRole('button', { name: 'within 3 working days: change the limit' })).toBeVisible();
});

test('a wrong password and an unknown page are said plainly', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('textbox', { name: 'Mail address' }).fill('ines.okoro@selkie.example');
  await page.getByLabel('Password', { exact: true }).fill('guess');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('The mail address or the password is not right.');
  await page.getByLabel('Password', { exact: true }).fill('herring-fair');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Ines Okoro: your menu' })).toBeVisible();
  await page.goto('/requests/R-1');
  await expect(page.getByText('It does not exist, or it is not for you to see.')).toBeVisible();
  await page.goto('/nowhere');
  await expect(page.getByText('There is no such page')).toBeVisible();
});

test('the database gone: the screen says so, keeps what was typed, and goes on when it is back', async ({ browser }, {
  project,
}) => {
  const ines = await personBy(browser, 'soren.mabey');
  await askForLeave(ines, '06102026', '09102026');
  await expect(ines.getByText(/^Balance .* →/)).toBeVisible();
  const database = (verb: string) =>
    execFileSync(process.execPath, [
      'scripts/machine/database.mjs',
      verb,
      `${houseFolder(project.name as HouseName)}/db`,
    ]);
  database('stop');
  await ines.getByRole('textbox', { name: 'Remark' }).fill('Storm’s End with the family.');
  await ines.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(ines.getByText('The database is away.')).toBeVisible();
  await expect(ines.getByRole('textbox', { name: 'Remark' })).toHaveValue('Storm’s End with the family.');
  database('start');
  await expect(ines.getByText('The database is away.')).toBeHidden({ timeout: 20_000 });
  await expect(ines.getByRole('textbox', { name: 'Remark' })).toHaveValue('Storm’s End with the family.');
  await send(ines);
  await expect(ines.getByText(/has it and it is due/)).toBeVisible();
});
