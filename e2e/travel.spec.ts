/** A trip from asking to its itinerary and its invitation, changed and cancelled. */
import { createHash } from 'node:crypto';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { onDeskOf, personAt, send, sendNow } from './people.ts';
import { closeAll, expect, type Page, test } from './test.ts';

test.describe.configure({ mode: 'serial' });

let ines: Page;
let tobias: Page;
let bettina: Page;
let wren: Page;
let request = '';
test.beforeAll(async ({ browser }) => {
  ines = await personAt(browser, 'Ines Okoro');
  tobias = await personAt(browser, 'Tobias Fennimore');
  bettina = await personAt(browser, 'Bettina Rook');
  wren = await personAt(browser, 'Wren Castellane');
});
test.afterAll(() => closeAll(ines, tobias, bettina, wren));

type Mail = {
  id: string;
  to: string;
  subject: string;
  text: string;
  calendar?: string;
  attached?: { name: string; kept: string }[];
};
const mails = async (fits: (mail: Mail) => boolean): Promise<Mail[]> => {
  const room = (await (await wren.request.get('/api/mailroom')).json()) as { mails: Mail[] };
  return room.mails.filter(fits).reverse();
};
const mailed = async (fits: (mail: Mail) => boolean, n = 1): Promise<Mail> => {
  await expect(async () => expect((await mails(fits)).length).toBeGreaterThanOrEqual(n)).toPass();
  return (await mails(fits)).at(-1) as Mail;
};
const invitations = (mail: Mail) => (mail.calendar ?? '').includes(`${request}-itinerary@`) && mail.to.includes('ines');

async function words(bytes: Uint8Array): Promise<string> {
  const document = await getDocument({ data: new Uint8Array(bytes) }).promise;
  let found = '';
  for (let n = 1; n <= document.numPages; n++)
    for (const item of (await (await document.getPage(n)).getTextContent()).items)
      if ('str' in item) found += `${item.str} `;
  return found.replace(/\s+/g, ' ');
}

/** Types a day into a row of a table. */
async function dayIn(page: Page, label: string, n: number, digits: string): Promise<void> {
  await page.getByRole('group', { name: label }).nth(n).getByRole('spinbutton', { name: 'Day' }).click();
  await page.keyboard.type(digits);
}

async function leg(page: Page, n: number, from: string, to: string, day: string, leaves: string, arrives: string) {
  const legs = page.getByRole('group', { name: 'Legs', exact: true });
  await legs.getByRole('button', { name: 'Add a row' }).click();
  await legs.getByRole('combobox', { name: 'From' }).nth(n).fill(from);
  await dayIn(page, 'Leaves on', n, day);
  await legs.getByLabel('Leaves', { exact: true }).nth(n).fill(leaves);
  await legs.getByRole('combobox', { name: 'By' }).nth(n).click();
  await page.getByRole('option', { name: 'Ferry' }).click();
  await legs.getByRole('combobox', { name: 'To' }).nth(n).fill(to);
  await dayIn(page, 'Arrives on', n, day);
  await legs.getByLabel('Arrives', { exact: true }).nth(n).fill(arrives);
  await legs.getByRole('textbox', { name: 'Price' }).nth(n).fill('43');
}

test('is asked for with its legs, and what is wrong is said at its rows', async () => {
  await ines.goto('/ask/crossing-and-lodging');
  await ines.getByRole('combobox', { name: 'Programme', exact: true }).click();
  await ines.getByRole('option', { name: /Tide gauge renewal/ }).click();
  // The programme brings its lead and its contract.
  await expect(ines.getByRole('textbox', { name: /^Contract/ })).toHaveValue('TG-114');
  await expect(ines.getByRole('combobox', { name: 'Programme lead' })).toHaveValue('Tobias Fennimore');
  await ines.getByRole('combobox', { name: 'To', exact: true }).first().click();
  await ines.getByRole('option', { name: /Port Ambrel/ }).click();
  await ines.getByRole('group', { name: 'First day' }).getByRole('spinbutton', { name: 'Day' }).click();
  await ines.keyboard.type('09032026');
  await ines.getByRole('group', { name: 'Last day' }).getByRole('spinbutton', { name: 'Day' }).click();
  await ines.keyboard.type('11032026');
  await leg(ines, 0, 'Ovay Station', 'Port Ambrel', '09032026', '08:30', '10:45');
  await leg(ines, 1, 'Port Ambrel', 'Ovay Station', '11032026', '15:30', '17:45');
  await expect(ines.getByText('There is a night without a bed. A night on board counts.')).toBeVisible();
  const lodging = ines.getByRole('group', { name: /^Lodging/ });
  await lodging.getByRole('button', { name: 'Add a row' }).click();
  await lodging.getByRole('textbox', { name: 'Where' }).fill('Keepers’ house');
  await dayIn(ines, 'First night', 0, '09032026');
  await dayIn(ines, 'Leaves on', 2, '11032026');
  await lodging.getByRole('textbox', { name: 'Price' }).fill('150');
  await expect(ines.getByText('There is a night without a bed.')).toBeHidden();
  await expect(ines.getByText('Cost: 236.00 EUR')).toBeVisible();
  request = await send(ines);
});

test('is decided with the draft itinerary, which reads as it was asked', async () => {
  const letter = await mailed(
    mail => mail.to.includes('tobias') && mail.text.includes(request) && (mail.attached ?? []).length > 0,
  );
  const [draft] = letter.attached ?? [];
  expect(draft.name).toBe('Itinerary.pdf');
  const page = await words(await (await wren.request.get(`/api/mailroom/attached/${draft.kept}`)).body());
  for (const said of [
    'Itinerary: Ines Okoro to Port Ambrel',
    '08:30',
    '43.00 EUR',
    'Keepers’ house',
    'Cost 236.00 EUR',
    request,
  ])
    expect(page).toContain(said);
  // By mail: the first line decides.
  await wren.goto(`/mailroom?mail=${encodeURIComponent(letter.id)}`);
  await wren.getByRole('textbox', { name: /^Answer as/ }).fill('Approve');
  await wren.getByRole('button', { name: 'Send the answer' }).click();
  await ines.goto(`/requests/${request}`);
  await expect(ines.getByText(/Tobias Fennimore.*approved|approved.*Tobias Fennimore/i).first()).toBeVisible({
    timeout: 20_000,
  });
});

test('is booked row by row; dearer than approved, it goes round again', async () => {
  await onDeskOf(bettina, request);
  const detail = bettina.getByRole('complementary', { name: 'The selected request' });
  const take = detail.getByRole('button', { name: /^Take/ });
  await take.click();
  const legs = detail.getByRole('group', { name: 'Legs', exact: true });
  await legs.getByRole('textbox', { name: 'Price' }).first().fill('61');
  await legs.getByRole('textbox', { name: 'Booking' }).first().fill('SB-77001');
  await legs.getByRole('textbox', { name: 'Booking' }).nth(1).fill('SB-77002');
  await expect(detail.getByRole('checkbox')).toHaveCount(3);
  for (const box of await detail.getByRole('checkbox').all()) await box.check();
  await detail.getByRole('button', { name: /done/i }).first().click();
  await mailed(
    mail =>
      mail.to.includes('ines') && mail.text.includes(request) && mail.subject.includes('costs more than was approved'),
  );
  await onDeskOf(tobias, request);
  const his = tobias.getByRole('complementary', { name: 'The selected request' });
  await his.getByRole('button', { name: 'Approve' }).click();
  await sendNow(tobias);
  await onDeskOf(bettina, request);
  await detail.getByRole('button', { name: /^Take/ }).click();
  await expect(detail.getByRole('checkbox')).toHaveCount(3);
  for (const box of await detail.getByRole('checkbox').all()) await box.check();
  await detail.getByRole('button', { name: /done/i }).first().click();
});

test('ends in an itinerary and an invitation in local times', async () => {
  const first = await mailed(invitations);
  expect(first.calendar).toContain('METHOD:REQUEST');
  expect(first.calendar).toContain('SEQUENCE:0');
  expect(first.calendar).toContain('DTSTART;TZID=Europe/Lisbon:20260309T083000');
  const pdf = first.attached?.find(file => file.name === 'Itinerary.pdf');
  const bytes = await (await wren.request.get(`/api/mailroom/attached/${pdf?.kept}`)).body();
  const page = await words(bytes);
  for (const said of ['SB-77001', 'SB-77002', 'Cost 254.00 EUR', 'Approve']) expect(page).toContain(said);
  // The same paper is kept with the request.
  await ines.goto(`/requests/${request}`);
  await expect(ines.getByText('Itinerary.pdf').first()).toBeVisible();
  const view = (await (await ines.request.get(`/api/requests/${request}`)).json()) as {
    answers: { itinerary: { id: string }[] };
  };
  const kept = await (await ines.request.get(`/api/files/${view.answers.itinerary[0].id}`)).body();
  const digest = (of: Uint8Array) => createHash('sha256').update(of).digest('hex');
  expect(digest(kept)).toBe(digest(bytes));
});

test('comes back later after all: it is decided and booked again, and calendars take the new time over', async () => {
  await ines.goto(`/requests/${request}`);
  await ines.getByRole('button', { name: 'Change it' }).click();
  const form = ines.getByRole('region', { name: 'Change what was approved' });
  const legs = form.getByRole('group', { name: 'Legs', exact: true });
  await legs.getByLabel('Leaves', { exact: true }).nth(1).fill('18:30');
  await legs.getByLabel('Arrives', { exact: true }).nth(1).fill('20:45');
  await form.getByRole('button', { name: 'Ask for the change' }).click();
  await onDeskOf(tobias, request);
  // Until it is decided what was approved stands, and old stands beside new.
  await expect(tobias.getByRole('complementary', { name: 'The selected request' })).toContainText('20:45');
  await tobias
    .getByRole('complementary', { name: 'The selected request' })
    .getByRole('button', { name: 'Approve' })
    .click();
  await sendNow(tobias);
  await onDeskOf(bettina, request);
  const detail = bettina.getByRole('complementary', { name: 'The selected request' });
  await detail.getByRole('button', { name: /^Take/ }).click();
  await expect(detail.getByRole('checkbox')).toHaveCount(3);
  for (const box of await detail.getByRole('checkbox').all()) await box.check();
  await detail.getByRole('button', { name: /done/i }).first().click();
  const again = await mailed(mail => invitations(mail) && (mail.calendar ?? '').includes('20260311T204500'));
  expect(again.calendar).toContain('METHOD:REQUEST');
  expect(again.calendar).toMatch(/SEQUENCE:[1-9]/);
});

test('is cancelled, and calendars take it out', async () => {
  await ines.goto(`/requests/${request}`);
  await ines
    .getByRole('button', { name: /^Cancel/ })
    .first()
    .click();
  await ines
    .getByRole('dialog')
    .getByRole('button', { name: /Cancel/ })
    .last()
    .click();
  const last = await mailed(mail => invitations(mail) && (mail.calendar ?? '').includes('METHOD:CANCEL'));
  expect(last.calendar).toMatch(/SEQUENCE:[2-9]/);
});
