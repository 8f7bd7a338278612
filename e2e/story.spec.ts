/** The whole job, from changing the rule to the booked leave, in real browsers. */
import { askForLeave, personAt, send, sendNow } from './people.ts';
import { closeAll, expect, type Page, test } from './test.ts';

test.describe.configure({ mode: 'serial' });

let wren: Page;
let ines: Page;
let tobias: Page;
let earlier = '';
let request = '';

test.afterAll(() => closeAll(wren, ines, tobias));

test.beforeAll(async ({ browser }) => {
  wren = await personAt(browser, 'Wren Castellane');
  tobias = await personAt(browser, 'Tobias Fennimore');
  // With the mouse, as somebody does who tries the demo.
  ines = await (await browser.newContext()).newPage();
  await ines.goto('/');
  await ines.getByRole('button', { name: 'Ines Okoro' }).click();
  await expect(ines.getByRole('button', { name: 'Ines Okoro: your menu' })).toBeVisible();
});

test('a request is sent before the workflow changes', async () => {
  await askForLeave(ines, '16032026', '20032026');
  earlier = await send(ines);
  await expect(ines.getByText('Annual leave, version 1').first()).toBeVisible();
});

test('the designer lowers a threshold, sees a mistake found and mended, and publishes', async () => {
  await wren.goto('/workflows');
  await wren.getByRole('link', { name: 'Annual leave' }).click();
  await expect(wren.getByText('Nothing found')).toBeVisible();

  // A slip in the condition is found at its place and stops publishing; undo takes it back.
  await wren.getByRole('button', { name: 'Others away: change the condition' }).click();
  await wren.getByRole('textbox', { name: 'Condition' }).fill('Dys <= 2 and Others away = 0');
  await expect(wren.getByText('There is no “Dys”. Did you mean “Days”?')).toBeVisible();
  await wren.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(wren.getByText('Stops publishing.')).toBeVisible();
  await expect(wren.getByRole('button', { name: 'Publish' })).toBeDisabled();
  await wren.getByRole('button', { name: 'Undo' }).click();
  await expect(wren.getByText('Stops publishing.')).toBeHidden();

  await wren.getByRole('button', { name: '2: change the value' }).click();
  await wren.getByRole('textbox', { name: 'Number' }).fill('1');
  await wren.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(wren.getByText('Days is at most 1 and Others away is 0')).toBeVisible();
  await expect(wren.getByText('Draft, saved')).toBeVisible();
  await wren.getByRole('button', { name: 'Publish' }).click();
  await wren.getByRole('textbox', { name: 'What changes' }).fill('Two days go to the manager as well.');
  await wren.getByRole('button', { name: 'Publish version 2' }).click();
  await expect(wren.getByText('version 2 is live with')).toBeVisible();
  await wren.getByRole('button', { name: /^Versions/ }).click();
  await expect(wren.getByText('Two days go to the manager as well.')).toBeVisible();
});

test('the asker sees days and balance with their reasons while typing, and sends', async () => {
  await askForLeave(ines, '09022026', '06022026');
  await expect(ines.getByText('The last day is before the first.')).toBeVisible();
  await askForLeave(ines, '09022026', '13022026');
  const margin = ines.getByRole('complementary', { name: 'What it comes to' });
  await expect(margin.getByText('4½ days', { exact: true })).toBeVisible();
  await margin.getByRole('button', { name: 'Why 4½ days?' }).click();
  await expect(ines.getByRole('dialog')).toContainText('afternoon off: Ovay Friday');
  await ines.keyboard.press('Escape');
  await expect(margin.getByText('Balance 24½ →')).toBeVisible();
  await margin.getByRole('button', { name: /^Why .* after\?$/ }).click();
  await expect(ines.getByRole('dialog')).toContainText('earned, for the leave year');
  await ines.keyboard.press('Escape');
  await expect(ines.getByText('Draft saved')).toBeVisible();
  request = await send(ines);
  await expect(ines.getByText('Tobias Fennimore has it and it is due Wed 4 Feb 17:00.')).toBeVisible();
  await expect(ines.getByRole('status').getByText(/Usually that takes/)).toBeVisible();
  await expect(ines.getByText('Annual leave, version 2').first()).toBeVisible();
});

test('the manager sends it back with a note, which is needed', async () => {
  await tobias.goto(`/desk?item=${request}`);
  await expect(
    tobias.getByRole('heading', { name: /Ines Okoro, annual leave, Mon 9 to Fri 13 February/ }),
  ).toBeVisible();
  await tobias.getByRole('button', { name: 'Send back' }).click();
  await expect(tobias.getByText('“Send back” needs a short note.')).toBeVisible();
  await tobias
    .getByRole('textbox', { name: 'Note for Ines' })
    .fill('The gauge service is on the 13th, can you be back?');
  await tobias.getByRole('button', { name: 'Send back' }).click();
  await sendNow(tobias);
});

test('the asker changes the last day and sends it again', async () => {
  await ines.goto('/desk');
  await ines.getByRole('link', { name: 'Change it and send it again' }).click();
  await expect(ines.getByText('The gauge service is on the 13th').first()).toBeVisible();
  await expect(ines.getByRole('combobox', { name: 'Kind' })).toBeDisabled();
  const last = ines.getByRole('group', { name: 'Last day' });
  await last.getByRole('spinbutton', { name: 'Day' }).click();
  await ines.keyboard.type('12022026');
  await expect(ines.getByText('4 days', { exact: true })).toBeVisible();
  await ines.getByRole('button', { name: 'Send again' }).click();
  await expect(ines.getByText('changed it and sent it again')).toBeVisible();
});

test('the manager sees old and new, takes an answer back, and approves by key', async () => {
  await tobias.goto(`/desk?item=${request}`);
  await expect(tobias.getByText('was Mon 9 to Fri 13 February')).toBeVisible();
  await tobias.keyboard.press('1');
  await tobias.getByRole('button', { name: 'Undo' }).click();
  await expect(tobias.getByText('was Mon 9 to Fri 13 February')).toBeVisible();
  await tobias.keyboard.press('1');
  await sendNow(tobias);
  await ines.reload();
  await expect(ines.getByText('closed: Approved')).toBeVisible();
});

test('balance, planner and Mailroom show it', async () => {
  await ines.goto('/balances');
  // The leave lies ahead, so it shows in the way to the end of the year.
  await expect(ines.getByText('15½ days at the end of 2026')).toBeVisible();
  await ines.goto('/planner');
  const row = ines.getByRole('row', { name: /Ines Okoro/ });
  await expect(row.getByRole('gridcell').first()).toHaveAccessibleName(/Annual leave: Mon 9 to Thu 12 February/);
  await wren.goto('/mailroom?to=ines.okoro');
  await expect(wren.getByText('Approved: Annual leave, Mon 9 to Thu 12 February').first()).toBeVisible();
  await expect(wren.getByText(/^Sent back: Annual leave/).first()).toBeVisible();
});

test('the request begun before the publish ends on its own version', async () => {
  await tobias.goto(`/desk?item=${earlier}`);
  await expect(tobias.getByText(/Annual leave, version 1/)).toBeVisible();
  await tobias.getByRole('button', { name: 'Approve' }).click();
  await sendNow(tobias);
  await ines.goto(`/requests/${earlier}`);
  await expect(ines.getByText(/Annual leave, version 1 · Approved/)).toBeVisible();
});
