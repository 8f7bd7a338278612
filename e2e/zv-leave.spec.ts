/** Leave for those who answer for it: rules, who is needed, what is let pass and granted otherwise, calendars, the year’s end. */
import AxeBuilder from '@axe-core/playwright';
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

async function axe(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(v => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
}

test('a plan says something else from a day on: who gains is shown before it holds, by sentences opened in their place', async () => {
  await wren.goto('/house/leave?rule=plan:keeper');
  await expect(wren.getByRole('heading', { name: 'Keeper' })).toBeVisible();
  await axe(wren);
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
  await axe(tobias);

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
  await axe(ines);
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
  await axe(wren);
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
  await axe(wren);
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
