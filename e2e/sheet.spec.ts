/** The rest of what can be changed on the sheet, withdrawing, and the clock. */
import { expect, test } from '@playwright/test';
import { askForLeave, personAt, personBy, send } from './people.ts';

test('who decides, the limit and the fields of rework are changed in place, by keyboard', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/compensation-time');
  await expect(wren.getByText('would get stuck')).toBeVisible();

  // The fallback that the finding offers mends it.
  await wren.getByRole('button', { name: 'Else ask an HR partner' }).click();
  await expect(wren.getByText('Nothing found')).toBeVisible();
  await expect(
    wren
      .getByRole('list', { name: 'Steps' })
      .getByText('the asker’s line manager, else anyone with the role HR partner'),
  ).toBeVisible();

  await wren.getByRole('button', { name: 'within 3 working days: change the limit' }).press('Enter');
  await wren.getByRole('textbox', { name: 'Within' }).fill('1');
  await wren.getByRole('textbox', { name: 'Within' }).press('Enter');
  await expect(wren.getByRole('list', { name: 'Steps' })).toContainText('decides within 1 working day.');

  await wren.getByRole('button', { name: 'Dates, Earned with: change the fields' }).press('Enter');
  await wren.getByRole('checkbox', { name: 'Earned with' }).press(' ');
  await wren.getByRole('button', { name: 'Change', exact: true }).press('Enter');
  await expect(wren.getByRole('button', { name: 'Dates: change the fields' })).toBeVisible();

  for (let i = 0; i < 3; i++) await wren.keyboard.press('Control+z');
  await expect(wren.getByRole('button', { name: 'Dates, Earned with: change the fields' })).toBeVisible();
  await expect(wren.getByText('would get stuck')).toBeVisible();
  await wren.keyboard.press('Control+y');
  await expect(wren.getByText('Nothing found')).toBeVisible();
  await expect(wren.getByText('Draft, saved')).toBeVisible();

  // The browser closed halfway loses nothing.
  await wren.reload();
  await expect(wren.getByText('Nothing found')).toBeVisible();
  await wren.getByRole('button', { name: 'Discard draft' }).click();
  await wren.getByRole('button', { name: 'Discard it' }).click();
  await expect(wren.getByText('As published; a change begins a draft')).toBeVisible();
});

test('a workflow taken out as a file is read back as the same', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/compensation-time');
  const download = wren.waitForEvent('download');
  await wren.getByRole('button', { name: 'Save as file' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('compensation-time.workflow.json');
  await wren.getByLabel('Workflow file').setInputFiles(await file.path());
  await expect(wren.getByText('Draft, saved')).toBeVisible();
  await expect(wren.getByRole('alert')).toHaveCount(0);
  await expect(wren.getByRole('button', { name: 'within 3 working days: change the limit' })).toBeVisible();
  await wren.getByRole('button', { name: 'Discard draft' }).click();
  await wren.getByRole('button', { name: 'Discard it' }).click();
  await expect(wren.getByText('As published; a change begins a draft')).toBeVisible();
});

test('an auditor reads the sheet and changes nothing', async ({ browser }) => {
  const yusra = await personAt(browser, 'Yusra Benali', '/workflows/compensation-time');
  await expect(yusra.getByRole('list', { name: 'Steps' })).toContainText(
    'the asker’s line manager decides within 3 working days.',
  );
  await expect(yusra.getByText('Who would get stuck is tried for designers.')).toBeVisible();
  await expect(yusra.getByRole('button', { name: /change the limit/ })).toHaveCount(0);
  await expect(yusra.getByRole('button', { name: 'Publish' })).toHaveCount(0);
});

test('a draft waits on another machine, a request can be withdrawn', async ({ browser }) => {
  const here = await personBy(browser, 'ada.dunmore');
  await askForLeave(here, '14092026', '16092026');
  await here.getByRole('textbox', { name: /Remark/ }).fill('Seabird count');
  await expect(here.getByText('Draft saved')).toBeVisible();
  const there = await personBy(browser, 'ada.dunmore');
  await there.goto('/ask/annual-leave');
  await expect(there.getByText('This is your draft from before.')).toBeVisible();
  await expect(there.getByRole('textbox', { name: /Remark/ })).toHaveValue('Seabird count');
  await expect(there.getByText('3 days', { exact: true })).toBeVisible();
  const request = await send(there);
  await there.getByRole('button', { name: 'Withdraw' }).click();
  await there.getByRole('dialog').getByRole('textbox').fill('The count is in October.');
  await there.getByRole('dialog').getByRole('button', { name: 'Withdraw' }).click();
  await expect(there.getByText('“The count is in October.”')).toBeVisible();
  await there.goto('/requests');
  await expect(there.getByRole('row').filter({ hasText: request })).toContainText('Withdrawn');
});

test('places that are not for someone are not there for them', async ({ browser }) => {
  const ines = await personAt(browser, 'Ines Okoro');
  await expect(ines.getByRole('link', { name: 'Planner' })).toBeVisible();
  await expect(ines.getByRole('link', { name: 'Workflows' })).toHaveCount(0);
  await ines.goto('/workflows');
  await expect(ines.getByText('Workflows are looked after by HR operations.')).toBeVisible();
  await ines.goto('/mailroom');
  await expect(ines.getByText('The Mailroom is for HR operations')).toBeVisible();
});
