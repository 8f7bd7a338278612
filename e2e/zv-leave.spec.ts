/** Leave for those who answer for it: rules, who is needed, what is let pass and granted otherwise, calendars, the year’s end. */
import { axeFindsNothing } from './axe.ts';
import { askForLeave, onDeskOf, personAt, send, sendNow, typeDay } from './people.ts';
import { closeAll, expect, type Page, test } from './test.ts';

test.describe.configure({ mode: 'serial' });

let wren: Page;
let marit: Page;
let ines: Page;
let tobias: Page;
test.beforeAll(async ({ browser }) => {
  wren = await personAt(browser, 'Wren Castellane');
  marit = await personAt(browser, 'Marit Solheim');
  ines = await personAt(browser, 'Ines Okoro');
  tobias = await personAt(browser, 'Tobias Fennimore');
});
test.afterAll(() => closeAll(wren, marit, ines, tobias));

/** Annual leave of Ines that HR books, by whole days; the number of its request. */
async function booked(from: string, to: string): Promise<string> {
  const span = { from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } };
  const answer = await wren.request.post('/api/leave', {
    headers: { 'X-North-Pebble': '1' },
    data: { id: crypto.randomUUID(), person: 'ines', type: 'annual', span, reason: 'By telephone' },
  });
  expect(answer.status()).toBe(201);
  return ((await answer.json()) as { request: string }).request;
}

test('a plan says something else from a day on: who gains is shown before it holds, by sentences opened in their place', async () => {
  await wren.goto('/house/leave?rule=plan:keeper');
  await expect(wren.getByRole('heading', { name: 'Keeper' })).toBeVisible();
  await axeFindsNothing(wren);
  await wren.getByRole('button', { name: /^It earns 26 days a year/ }).click();
  await wren.getByLabel('Amount').first().fill('27');
  await wren.getByRole('button', { name: 'Done' }).click();
  await expect(wren.getByRole('button', { name: /^It earns 27 days a year/ })).toBeVisible();
  await typeDay(wren, 'From', '01012027');
  await wren.getByRole('button', { name: 'See what follows' }).click();
  const follows = wren.getByRole('region', { name: 'What follows' });
  await expect(follows).toContainText('Keeper from Fri 1 January 2027 on: It earns 27 days a year');
  await expect(follows).toContainText(/Balances: \d+ gain/);
  await wren.getByLabel('Why').fill('Agreed with the council');
  await wren.getByRole('button', { name: 'Save what it says' }).click();
  const versions = wren.getByRole('group', { name: 'Through time' });
  await expect(versions.getByRole('button', { name: 'From Fri 1 January 2027' })).toBeVisible();
  await expect(versions.getByRole('button', { name: /From the first, holds today/ })).toBeVisible();
  // Everybody reads it; nothing there is to be opened.
  await ines.goto('/house/leave?rule=plan:keeper');
  await expect(ines.getByText('It earns 26 days a year', { exact: false })).toBeVisible();
  await expect(ines.getByRole('button', { name: /^It earns/ })).toBeHidden();
});

test('least presence stops a wish, HR lets it pass with a reason, and the decider reads both', async () => {
  // As many are needed as are here on those days: one less is too few.
  const planner = await ines.request.get('/api/planner?from=2026-02-23&to=2026-03-08');
  const { presence } = (await planner.json()) as { presence: { here: number[] }[] };
  const needed = String(presence[0]?.here[0]);
  await wren.goto('/house/leave?rule=here:gauge-watch');
  await wren.getByLabel('So many are needed').fill(needed);
  await wren.getByRole('button', { name: 'See what follows' }).click();
  await wren.getByLabel('Why').fill('The gauges are read by hand in February');
  await wren.getByRole('button', { name: 'Save it' }).click();
  await expect(wren.getByRole('region', { name: 'What follows' })).toBeHidden();

  await askForLeave(ines, '23022026', '26022026');
  const stopped = ines
    .getByText(new RegExp(`This leaves \\d+ of the observatory at Ovay, and ${needed} are needed on Mon 23 February`))
    .first();
  await expect(stopped).toBeVisible();

  const people = (await (await marit.request.get('/api/people?words=ines%20okoro')).json()) as {
    people: { id: string }[];
  };
  await marit.goto(`/balances?person=${people.people[0]?.id}`);
  await marit.getByRole('button', { name: 'Let leave pass' }).click();
  const dialog = marit.getByRole('dialog');
  await typeDay(marit, 'First day', '23022026');
  await typeDay(marit, 'Last day', '26022026');
  await dialog.getByLabel(/Reason/).fill('Her sister weds.');
  await dialog.getByRole('button', { name: 'Let leave pass' }).click();
  await expect(marit.getByText(/may pass/)).toBeVisible();

  await askForLeave(ines, '23022026', '26022026');
  await expect(ines.getByText(/Marit Solheim of HR lets it pass/).first()).toBeVisible();
  const request = await send(ines);
  await onDeskOf(tobias, request);
  await expect(tobias.getByText('Marit Solheim of HR let it pass: Her sister weds.')).toBeVisible();

  // Granted as another kind: it takes nothing from the yearly days then.
  await tobias.getByRole('button', { name: 'Grant it otherwise' }).click();
  await tobias.getByRole('combobox', { name: 'Kind' }).click();
  await tobias.getByRole('option', { name: 'Family leave' }).click();
  await tobias.getByRole('button', { name: /^Approve/ }).click();
  await sendNow(tobias);
  await ines.goto(`/requests/${request}`);
  await expect(ines.getByText('closed: Approved')).toBeVisible();
  const { types } = (await (await ines.request.get('/api/balances/me')).json()) as {
    types: { ahead: { lines: { request?: string }[] } }[];
  };
  expect(types.flatMap(type => type.ahead.lines).some(line => line.request === request)).toBe(false);
  await expect(ines.getByText(/Annual leave → Family leave|Family leave/).first()).toBeVisible();

  await wren.goto('/house/leave?rule=here:gauge-watch');
  await wren.getByLabel('So many are needed').fill('4');
  await wren.getByRole('button', { name: 'See what follows' }).click();
  await wren.getByLabel('Why').fill('February is over');
  await wren.getByRole('button', { name: 'Save it' }).click();
  await expect(wren.getByRole('region', { name: 'What follows' })).toBeHidden();
});

test('who is away is a list, when some are all here too, and a calendar is subscribed, changed and taken away', async () => {
  await tobias.goto('/planner?show=list&from=2026-02-23&zoom=2+weeks');
  await expect(tobias.getByRole('region', { name: 'Who is away' })).toContainText('Ines Okoro');
  await tobias.getByLabel('Who must be here').fill('Ines');
  await tobias.getByRole('option', { name: 'Ines Okoro' }).click();
  const here = tobias.getByRole('list', { name: 'Days on which all are here' });
  await expect(here).toContainText('Mon 2 to');
  await expect(here).not.toContainText('Mon 23');
  await axeFindsNothing(tobias);

  await ines.goto('/planner');
  await ines.getByRole('button', { name: 'As a calendar' }).click();
  await ines.getByRole('button', { name: 'Make a calendar' }).click();
  const address = await ines.getByLabel('Address of the calendar').inputValue();
  const first = await ines.request.get(address);
  const text = await first.text();
  expect(text).toContain('DTSTART;VALUE=DATE:20260223');
  expect(text).toContain('DTEND;VALUE=DATE:20260227');
  expect(text).toContain('SUMMARY:Family leave');
  const tag = first.headers().etag as string;
  expect((await ines.request.get(address, { headers: { 'If-None-Match': tag } })).status()).toBe(304);
  await axeFindsNothing(ines);
  await ines.getByRole('button', { name: 'Another address for Me' }).click();
  await expect(ines.getByLabel('Address of the calendar')).not.toHaveValue(address);
  expect((await ines.request.get(address)).status()).toBe(404);
  const renewed = await ines.getByLabel('Address of the calendar').inputValue();
  await ines.getByRole('button', { name: 'Take Me away' }).click();
  await expect(ines.getByRole('button', { name: 'Take Me away' })).toBeHidden();
  expect((await ines.request.get(renewed)).status()).toBe(404);
});

test('everybody’s balances are found and sorted, and what is over is closed and stays', async () => {
  await wren.goto('/balances/everyone');
  const table = wren.getByRole('table', { name: 'Balances' });
  await expect(table.getByRole('row').nth(1)).toBeVisible();
  await axeFindsNothing(wren);
  await wren.getByRole('textbox', { name: 'Name', exact: true }).fill('ines ok');
  await expect(table.getByRole('row')).toHaveCount(2);
  await wren.getByRole('button', { name: 'Keep these filters' }).click();
  await wren.getByLabel('Name of the set').fill('Ines alone');
  await wren.getByRole('button', { name: 'Keep', exact: true }).click();
  await wren.goto('/balances/everyone');
  await wren.getByRole('button', { name: /^Ines alone/ }).click();
  await expect(table.getByRole('row')).toHaveCount(2);

  await wren.getByRole('link', { name: 'End of the year' }).click();
  await expect(wren.getByText(/leave years; /)).toBeVisible();
  await axeFindsNothing(wren);
  await wren.getByRole('button', { name: 'Close what is over' }).click();
  await wren.getByRole('button', { name: 'Close them' }).click();
  await expect(wren.getByRole('button', { name: 'Close what is over' })).toBeHidden();
  await expect(wren.getByText(/closed by Wren Castellane/).first()).toBeVisible();

  // Corrected later, it stands in the open year.
  const people = (await (await wren.request.get('/api/people?words=ada%20dunmore')).json()) as {
    people: { id: string }[];
  };
  await wren.goto(`/balances?person=${people.people[0]?.id}`);
  await wren.getByRole('button', { name: 'Book leave' }).click();
  await typeDay(wren, 'First day', '03122025');
  await typeDay(wren, 'Last day', '03122025');
  await wren.getByLabel(/Reason/).fill('Found late');
  await wren.getByRole('dialog').getByRole('button', { name: 'Book leave' }).click();
  await expect(wren.getByRole('dialog')).toBeHidden();
  await expect(wren.getByText('corrected after the leave year was closed')).toBeVisible();
});

/** Moves the place of the planner by keys until it says what it is to say. */
async function moveTo(page: Page, key: string, says: RegExp): Promise<void> {
  const place = page.locator('#planner-place');
  for (let n = 0; n < 60; n++) {
    if (says.test((await place.getAttribute('aria-label')) ?? '')) return;
    await page.keyboard.press(key);
  }
  throw new Error(`${key} does not lead to ${says}`);
}

test('the planner is walked by keyboard: days are asked for from it, and answered from it', async () => {
  await ines.goto('/planner?from=2026-03-02');
  const grid = ines.getByRole('grid', { name: 'Days of people' });
  await expect(grid.getByRole('row', { name: /Ines Okoro/ })).toBeVisible();
  await grid.focus();
  await ines.keyboard.press('ArrowDown');
  await moveTo(ines, 'ArrowDown', /^Ines Okoro/);
  await moveTo(ines, 'ArrowRight', /Mon 16 March: at work/);
  for (let n = 0; n < 3; n++) await ines.keyboard.press('Shift+ArrowRight');
  await expect(ines.getByRole('status').filter({ hasText: 'Ines Okoro, Mon 16 to Thu 19 March' })).toBeVisible();
  await ines.keyboard.press('Enter');
  const asking = ines.getByRole('dialog', { name: 'Ines Okoro' });
  await expect(asking).toContainText('Nothing is booked or asked for here.');
  await axeFindsNothing(ines);
  await asking.getByRole('link', { name: 'Ask for annual leave' }).press('Enter');
  await expect(ines.locator('input').and(ines.getByLabel('First day'))).toHaveValue('16/03/2026');
  await expect(ines.locator('input').and(ines.getByLabel('Last day'))).toHaveValue('19/03/2026');
  const request = await send(ines);

  await tobias.goto('/planner?from=2026-03-02');
  const own = tobias.getByRole('row', { name: /Ines Okoro/ });
  await expect(own.getByRole('gridcell').first()).toHaveAccessibleName(
    /Annual leave, asked for: Mon 16 to Thu 19 March/,
  );
  await tobias.getByRole('grid').focus();
  await tobias.keyboard.press('ArrowDown');
  await moveTo(tobias, 'ArrowDown', /^Ines Okoro/);
  await moveTo(tobias, 'ArrowRight', /Tue 17 March: Annual leave, asked for/);
  await tobias.keyboard.press('Enter');
  const deciding = tobias.getByRole('dialog', { name: 'Ines Okoro' });
  await deciding.getByRole('button', { name: /^Approve/ }).press('Enter');
  await sendNow(tobias);
  await expect(own.getByRole('gridcell').first()).toHaveAccessibleName(/^Annual leave: Mon 16 to Thu 19 March/);
  await ines.goto(`/requests/${request}`);
  await expect(ines.getByText('closed: Approved')).toBeVisible();
});

test('the whole house is folded by where people work, found by name, kept as a set, and put on paper', async () => {
  await wren.goto('/planner?zoom=a+year&from=2026-01-01');
  await wren.getByRole('combobox', { name: 'Whose days' }).click();
  await wren.getByRole('option', { name: 'Everybody', exact: true }).click();
  const grid = wren.getByRole('grid', { name: 'Days of people' });
  const watch = grid.getByRole('button', { name: /^Observatory, Ovay Station/ });
  await expect(watch).toHaveAttribute('aria-expanded', 'false');
  await expect(grid.getByRole('row', { name: /Ines Okoro/ })).toBeHidden();
  await axeFindsNothing(wren);
  await watch.click();
  await expect(watch).toHaveAttribute('aria-expanded', 'true');
  await expect(grid.getByRole('row', { name: /Ada Dunmore/ })).toBeVisible();
  await wren.getByRole('textbox', { name: 'Name', exact: true }).fill('ines ok');
  await expect(grid.getByRole('row', { name: /Ines Okoro/ })).toBeVisible();
  await expect(grid.getByRole('row', { name: /Ada Dunmore/ })).toBeHidden();
  await wren.getByRole('button', { name: 'Keep these filters' }).click();
  await wren.getByLabel('Name of the set').fill('Ines this year');
  await wren.getByRole('button', { name: 'Keep', exact: true }).click();
  await wren.goto('/planner');
  await wren.getByRole('button', { name: /^Ines this year/ }).click();
  await expect(grid.getByRole('row', { name: /Ines Okoro/ })).toBeVisible();
  await wren.getByRole('button', { name: 'As a calendar' }).click();
  await wren.getByRole('combobox', { name: 'Of' }).click();
  await wren.getByRole('option', { name: 'Ines this year, a set' }).click();
  await wren.getByRole('button', { name: 'Make a calendar' }).click();
  const address = await wren.getByLabel('Address of the calendar').inputValue();
  expect(await (await wren.request.get(address)).text()).toContain('Ines Okoro: Annual leave');
  await wren.keyboard.press('Escape');
  const table = await wren.request.get('/api/planner/file.csv?place=ovay&from=2026-03-02&to=2026-04-05');
  expect(await table.text()).toContain('"Ines Okoro","Observatory, Ovay Station","2026-03-16","2026-03-19","booked"');
  await wren.goto('/planner?house=yes&show=paper&from=2026-03-02');
  await expect(wren.getByRole('row', { name: /Yann Stroma/ })).toBeAttached();
  await expect(wren.getByRole('button', { name: 'Print' })).toBeVisible();
});

test('opening balances with three bad lines: each is named at its place, the rest is kept when it is right', async () => {
  const balances = (lines: string) => ({
    name: 'balances.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`Person,Leave,On,Amount,Why\n${lines}`),
  });
  await wren.goto('/house/moving');
  const input = wren.locator('input[type=file]');
  await input.setInputFiles([
    balances(
      'ines,annual,2026-01-01,2.5,Brought\nnobody-here,annual,2026-01-01,3,Brought\nada-dunmore,annual,1 January,3,Brought\nmira-kell,annual,2026-01-01,many,Brought\n',
    ),
  ]);
  await wren.getByRole('button', { name: 'See what they bring' }).click();
  const brings = wren.getByRole('region', { name: 'What they bring' });
  for (const row of [/3 Person nobody-here/, /4 On 1 January/, /5 Amount many/])
    await expect(wren.getByRole('region', { name: 'What is wrong' }).getByRole('row', { name: row })).toBeVisible();
  await axeFindsNothing(wren);
  await wren.goto('/house/moving');
  await input.setInputFiles([balances('ines,annual,2026-01-01,2.5,Brought\n')]);
  await wren.getByRole('button', { name: 'See what they bring' }).click();
  await expect(brings).toContainText(/Leave balances: 1 new/);
  await wren.getByRole('button', { name: 'Move in' }).click();
  await ines.goto('/balances');
  await expect(ines.getByText('Brought').first()).toBeVisible();
});

test('sickness without a last day inside leave gives back the days as far as it is known, and ends when it is told', async () => {
  // Three days of leave of this week are booked by HR: two of them are still to come.
  const leave = await booked('2026-02-02', '2026-02-04');
  const taken = async () => {
    type View = { types: { ahead: { lines: { request?: string; amount: number }[] } }[] };
    const { types } = (await (await ines.request.get('/api/balances/me')).json()) as View;
    const lines = types.flatMap(type => type.ahead.lines).filter(line => line.request === leave);
    return lines.reduce((sum, line) => sum + line.amount, 0);
  };
  expect(await taken()).toBe(-3);
  await ines.goto('/ask/sick-leave?from=2026-02-02&to=2026-02-02');
  await ines.getByRole('combobox', { name: 'Ends' }).click();
  await ines.getByRole('option', { name: 'not known yet' }).click();
  await expect(ines.getByText(/A paper is due on .* if it goes on until then/)).toBeVisible();
  const request = await send(ines);
  await expect(ines.getByRole('heading', { name: /the last day not known yet/ })).toBeVisible();
  // Today is given back; the days to come are not known to be days of illness.
  expect(await taken()).toBe(-2);
  await axeFindsNothing(ines);
  await tobias.goto('/planner?from=2026-02-02&zoom=2+weeks');
  const row = tobias.getByRole('row', { name: /Ines Okoro/ });
  await expect(row.getByRole('gridcell').first()).toHaveAccessibleName(/Away: from Mon 2 February on/);
  await ines.goto(`/requests/${request}`);
  const back = ines.getByRole('region', { name: 'When you are back' });
  await back.getByRole('combobox', { name: 'Ends' }).click();
  await ines.getByRole('option', { name: 'in the evening' }).click();
  await back.getByRole('button', { name: 'Say the last day' }).click();
  await expect(ines.getByRole('heading', { name: /Sick leave, Mon 2 February/ })).toBeVisible();
  await expect(back).toBeHidden();
  expect(await taken()).toBe(-2);
});

test('called back in the middle of leave: the days of work come back, and what is left is leave', async () => {
  const request = await booked('2026-04-20', '2026-04-24');
  await wren.goto(`/requests/${request}`);
  await wren.getByRole('button', { name: 'Call back' }).click();
  const dialog = wren.getByRole('dialog');
  await typeDay(wren, 'First day', '27042026');
  await typeDay(wren, 'Last day', '28042026');
  await dialog.getByLabel(/Reason/).fill('The tide gauge is down.');
  await dialog.getByRole('button', { name: 'Call back' }).click();
  await expect(dialog.getByText('These are no days of the leave.')).toBeVisible();
  await typeDay(wren, 'First day', '22042026');
  await typeDay(wren, 'Last day', '23042026');
  await expect(dialog.getByText('Leave stays: Mon 20 to Tue 21 April, 2 days; and Fri 24 April, 1 day.')).toBeVisible();
  await axeFindsNothing(wren);
  await dialog.getByRole('button', { name: 'Call back' }).click();
  await expect(dialog).toBeHidden();
  await expect(wren.getByText(/called them back to work for Wed 22 to Thu 23 April/)).toBeVisible();
  // Whom it is about reads it; on the planner the two days are free.
  await ines.goto(`/requests/${request}`);
  await expect(ines.getByRole('heading', { name: /Annual leave, Mon 20 to Tue 21 April/ })).toBeVisible();
  await tobias.goto('/planner?from=2026-04-20&zoom=a+week');
  const row = tobias.getByRole('row', { name: /Ines Okoro/ });
  await expect(row.getByRole('gridcell').first()).toHaveAccessibleName(
    'Annual leave: Mon 20 to Tue 21 April; Annual leave: Fri 24 April',
  );
});

test('what a leaver has left is told before any date is set, and those with much left are written to', async () => {
  await wren.goto('/balances/coming');
  const leaves = wren.getByRole('region', { name: 'Somebody leaves' });
  await leaves.getByRole('combobox', { name: 'Who' }).fill('ines ok');
  await wren.getByRole('option', { name: /Ines Okoro/ }).click();
  await typeDay(wren, 'Last day', '18032026');
  await expect(leaves.getByRole('list', { name: 'Annual leave on the last day' })).toContainText(
    'to be settled with pay',
  );
  await expect(leaves.getByText('Annual leave: Mon 16 to Thu 19 March')).toBeVisible();
  await axeFindsNothing(wren);
  await wren.goto('/balances/everyone?words=ines+ok');
  await wren.getByRole('button', { name: 'Write to them' }).click();
  await wren.getByLabel(/What you want to say/).fill('Plan your summer, please.');
  await wren.getByRole('button', { name: 'Send one letter' }).click();
  await expect(wren.getByText('One letter is on the way.')).toBeVisible();
});
