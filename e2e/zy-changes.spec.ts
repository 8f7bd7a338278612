/** Leave through changes: openings by file, a plan in another unit, several things at once, a last day with leave after it. */
import { axeFindsNothing } from './axe.ts';
import { personAt, typeDay } from './people.ts';
import { expect, type Page, test } from './test.ts';

const csv = (name: string, lines: string) => ({
  name: `${name}.csv`,
  mimeType: 'text/csv',
  buffer: Buffer.from(lines),
});
const statementOf = (page: Page) => page.getByRole('region', { name: 'Statement' }).or(page.getByRole('table')).first();

test('somebody moves in with an opening balance, and is named while there is none', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/house/moving');
  const choose = async (...files: ReturnType<typeof csv>[]) => {
    const chooser = wren.waitForEvent('filechooser');
    await wren.getByRole('button', { name: 'Choose files' }).click();
    await (await chooser).setFiles(files);
  };
  await choose(
    csv('people', 'Person,Name,Mail,Joined\ncy-larne,Cy Larne,cy.larne@selkie.example,2017-05-01\n'),
    csv(
      'records',
      'Person,From,Place,Department,Work pattern,Share of full time,Leave plan\ncy-larne,2017-05-01,Ovay Station,Observatory,Office,1,Standard\n',
    ),
  );
  await wren.getByRole('button', { name: 'See what they bring' }).click();
  await expect(wren.getByText('One person comes without an opening balance')).toBeVisible();
  await choose(
    csv(
      'openings',
      'Person,Leave,On,Own,Carried over,Lapses on,Source\ncy-larne,Annual leave,2026-01-12,21.5,3,2026-03-31,"Payroll, closing of 2025"\n',
    ),
  );
  await wren.getByRole('button', { name: 'See what they bring' }).click();
  await expect(wren.getByRole('region', { name: 'What they bring' })).toContainText('Opening balances: 1 new');
  await expect(wren.getByText('One person comes without an opening balance')).toHaveCount(0);
  await wren.getByRole('button', { name: 'Move in' }).click();
  await expect(wren.getByText('3 facts were taken over')).toBeVisible();

  await wren.goto('/balances?person=cy-larne');
  await expect(statementOf(wren)).toContainText(
    'opening balance: 21½ of the leave year, 3 carried over, to use by Tue 31 March (Payroll, closing of 2025)',
  );
  await expect(wren.getByText('24½ days today')).toBeVisible();
  await axeFindsNothing(wren);
  // By hand it is corrected, with what follows before it is saved.
  await wren.getByRole('button', { name: 'Opening balance' }).click();
  const dialog = wren.getByRole('dialog');
  await dialog.getByLabel('Left of this leave year, in days').fill('20');
  await dialog.getByRole('button', { name: 'See what follows' }).click();
  await expect(dialog.getByRole('region', { name: 'What follows' })).toContainText('21½ days → 20 days');
  await dialog.getByRole('textbox', { name: 'Why' }).fill('A day was taken in the week of the cut-over.');
  await dialog.getByRole('button', { name: 'Save the opening balance' }).click();
  await expect(wren.getByText('23 days today')).toBeVisible();
});

test('hours, pattern and a plan in hours change together: what is left goes along, and both ends are shown first', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/people/cy-larne');
  await wren.getByRole('button', { name: 'Change the record' }).click();
  const form = wren.getByRole('form', { name: 'Change the record' });
  await form.getByRole('combobox', { name: 'What changes' }).click();
  await wren.getByRole('option', { name: 'Leave plan' }).click();
  await form.getByRole('combobox', { name: 'Leave plan' }).click();
  await wren.getByRole('option', { name: 'Crew' }).click();
  await typeDay(wren, 'From', '01072026');
  await form.getByRole('button', { name: 'Add another change' }).click();
  const second = form.getByRole('group', { name: 'Work pattern' });
  await second.getByRole('combobox', { name: 'What changes' }).click();
  await wren.getByRole('option', { name: 'Hours, as a share of full time' }).click();
  await form.getByLabel('Hours in percent of full time').fill('60');
  await form.getByRole('button', { name: 'See what follows' }).click();
  const follows = form.getByRole('region', { name: 'What follows' });
  await expect(follows).toContainText('Leave plan from Wed 1 July 2026: Standard → Crew.');
  await expect(follows).toContainText('1 day of the old plan counts as 7.35 hours.');
  await expect(follows).toContainText(/brought along from Standard: .* days at 7.35 hours for 1 day/);
  await form.getByLabel('Why').fill('He goes to the relief boat on three days.');
  await form.getByRole('button', { name: 'Make the change' }).click();
  await expect(wren.getByRole('list', { name: 'Leave plan' }).getByRole('listitem')).toHaveCount(2);
  await expect(wren.getByRole('region', { name: 'Changes' })).toContainText('He goes to the relief boat');
  await wren.goto('/balances?person=cy-larne');
  await expect(wren.getByText('To be brought along')).toBeVisible();
});

test('a last day names what lies after it, and taken back it gives all of it back', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/people/cy-larne');
  const span = { from: { date: '2026-05-04', half: 'am' }, to: { date: '2026-05-08', half: 'pm' } };
  const answer = await wren.request.post('/api/leave', {
    headers: { 'X-North-Pebble': '1' },
    data: { id: crypto.randomUUID(), person: 'cy-larne', type: 'annual', span, reason: 'By telephone' },
  });
  expect(answer.status()).toBe(201);
  const taken = async () => {
    type View = { types: { ahead: { lines: { kind: string; amount: number }[] } }[] };
    const view = (await (await wren.request.get('/api/balances/cy-larne')).json()) as View;
    const lines = view.types
      .flatMap(type => type.ahead.lines)
      .filter(({ kind }) => ['taken', 'restated'].includes(kind));
    return lines.reduce((sum, line) => sum + line.amount, 0);
  };
  expect(await taken()).toBe(-5);
  await wren.getByRole('button', { name: 'Change the record' }).click();
  const form = wren.getByRole('form', { name: 'Change the record' });
  await form.getByRole('combobox', { name: 'What changes' }).click();
  await wren.getByRole('option', { name: 'Last day' }).click();
  await typeDay(wren, 'Last day', '05052026');
  await form.getByRole('button', { name: 'See what follows' }).click();
  await expect(form.getByRole('region', { name: 'What follows' })).toContainText('5 days → 2 days');
  await form.getByLabel('Why').fill('Notice was given.');
  await form.getByRole('button', { name: 'Make the change' }).click();
  const changes = wren.getByRole('region', { name: 'Changes' });
  await expect(changes).toContainText('Notice was given.');
  expect(await taken()).toBe(-2);
  await changes.getByRole('button', { name: 'Take it back' }).first().click();
  await changes.getByLabel('Why it is taken back').fill('He stays.');
  await changes.getByRole('button', { name: 'Take it back', exact: true }).first().click();
  await expect(changes).toContainText('He stays.');
  expect(await taken()).toBe(-5);
});

test('a shutdown is booked for everybody who works at a place, with its exceptions, and undone at once', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/house/shutdowns');
  await expect(wren.getByText(/Slipway repair/).first()).toBeVisible();
  await wren.getByRole('button', { name: 'New shutdown' }).click();
  const form = wren.getByRole('form', { name: 'New shutdown' });
  await form.getByLabel('Name').fill('Painting of the station');
  await form.getByRole('combobox', { name: 'Place' }).click();
  await wren.getByRole('option', { name: 'Ovay Station' }).click();
  await typeDay(wren, 'First day', '09112026');
  await typeDay(wren, 'Last day', '10112026');
  // What is typed into the field of exceptions stays there while others are looked for.
  await form.getByLabel('Exceptions').fill('Ada Way');
  await wren.getByRole('option', { name: 'Ada Wayland' }).click();
  await axeFindsNothing(wren);
  await form.getByRole('button', { name: 'See what follows' }).click();
  const follows = form.getByRole('region', { name: 'What follows' });
  await expect(follows).toContainText('Ada Dunmore');
  await expect(follows).not.toContainText('Ada Wayland');
  await form.getByRole('textbox', { name: 'Why' }).fill('The painters come.');
  await form.getByRole('button', { name: 'Book the shutdown' }).click();
  const made = wren.getByRole('listitem').filter({ hasText: 'Painting of the station, Ovay Station' }).first();
  await expect(made).toContainText(/leave of \d+ people/);

  const statements = await personAt(browser, 'Wren Castellane', '/balances?person=ada-dunmore');
  await expect(statements.getByText('in a shutdown: Painting of the station').first()).toBeVisible();
  await made.getByRole('button', { name: 'Take it back' }).click();
  await made.getByLabel('Why it is taken back').fill('They come in spring.');
  await made.getByRole('button', { name: 'Take it back' }).click();
  await expect(made.getByRole('button', { name: 'Take it back' })).toHaveCount(0);
  await statements.reload();
  await expect(statements.getByRole('table').first()).toBeVisible();
  await expect(statements.getByText('in a shutdown: Painting of the station')).toHaveCount(0);
});

test('a secondment is shown at both of its ends before it is made, and stands in the job history', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/people/ada-dunmore');
  await wren.getByRole('button', { name: 'Change' }).first().click();
  const form = wren.getByRole('form', { name: 'Change the record' });
  await form.getByLabel('What changes').click();
  await wren.getByRole('option', { name: 'Secondment' }).click();
  await form.getByLabel('To the place').click();
  await wren.getByRole('option', { name: 'Hollin Quay' }).click();
  await typeDay(wren, 'From', '02032026');
  await typeDay(wren, 'Until', '29052026');
  await axeFindsNothing(wren);
  await form.getByRole('button', { name: 'See what follows' }).click();
  const follows = form.getByRole('region', { name: 'What follows' });
  await expect(follows).toContainText('Place from Mon 2 March 2026: Ovay Station → Hollin Quay.');
  await expect(follows).toContainText('Place from Sat 30 May 2026: Hollin Quay → Ovay Station.');
  await form.getByRole('textbox', { name: 'Why' }).fill('Until the new quay is staffed.');
  await form.getByRole('button', { name: 'Make the change' }).click();
  await expect(wren.getByText('Hollin Quay').first()).toBeVisible();
});
