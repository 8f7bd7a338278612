/** Guests: a joiner from the request to the last part, on a telephone; another device; a part given back; what is signed read back. */

import type { Browser, Page } from '@playwright/test';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { axeFindsNothingInLightAndDark } from './axe.ts';
import { personAt, personBy, sendNow, typeDay } from './people.ts';
import { expect, test } from './test.ts';

const pdf = {
  name: 'card.pdf',
  mimeType: 'application/pdf',
  buffer: Buffer.from('%PDF-1.7\n1 0 obj <<>> endobj\ntrailer <<>>\n%%EOF\n'),
};
const program = { name: 'card.pdf', mimeType: 'application/pdf', buffer: Buffer.from('MZ\u0090 this is a program') };

async function onTelephone(browser: Browser, address: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
  const page = await context.newPage();
  await page.goto(address);
  return page;
}

async function words(bytes: Buffer): Promise<string> {
  const document = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const { items } = await (await document.getPage(document.numPages)).getTextContent();
  return items.map(item => ('str' in item ? item.str : '')).join(' ');
}

test('a joiner fills in their papers on a telephone, goes on elsewhere, and HR looks through them', async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const tobias = await personAt(browser, 'Tobias Fennimore', '/ask/new-colleague');
  await tobias.getByLabel('Name', { exact: true }).fill('Mika Ødegård');
  await tobias.getByRole('combobox', { name: 'Post' }).fill('Tide observer');
  await tobias.getByRole('option').first().click();
  await typeDay(tobias, 'Start date', '13032026');
  await tobias.getByLabel('no', { exact: true }).check();
  await tobias.getByLabel('Private mail').fill('mika.odegard@post.example');
  // What the joiner gives is not asked of whoever asks for them.
  await expect(tobias.getByText('Account number')).toHaveCount(0);
  await tobias.getByRole('button', { name: 'Send', exact: true }).click();
  await tobias.waitForURL(/\/requests\/R-\d+$/);
  const request = tobias.url().split('/').at(-1) ?? '';
  const leif = await personAt(browser, 'Leif Auerbach', `/desk?item=${request}`);
  await leif.getByRole('button', { name: 'Approve', exact: true }).click();
  await sendNow(leif);

  const wren = await personAt(browser, 'Wren Castellane', '/mailroom?to=mika.odegard');
  // A row of the list: what waits to go out is named above it in the same words.
  const mail = wren.getByRole('button', { name: /^Some things we need from you: New colleague/ }).first();
  await expect(mail).toBeVisible({ timeout: 60_000 });
  await mail.click();
  const letter = wren.getByText(/\/mine#[\w-]{43}/).first();
  await expect(letter).toBeVisible();
  const address = /\/mine#[\w-]{43}/.exec((await letter.textContent()) ?? '')?.[0] ?? '';

  const mika = await onTelephone(browser, address);
  await expect(mika.getByRole('heading', { name: 'Welcome, Mika' })).toBeVisible();
  await axeFindsNothingInLightAndDark(mika);
  await mika.getByRole('button', { name: 'Hand in: about you' }).click();
  await expect(mika.getByText('This is needed.').first()).toBeVisible();
  await mika.getByLabel('Day of birth').fill('1994-07-01');
  await mika.getByLabel('Home address').fill('4 Pier Street');
  await mika.getByLabel('Telephone').fill('0555 1');
  await mika.getByLabel('Citizenship').selectOption('Of another country');
  await expect(mika.getByText('Everything you type is kept.')).toBeVisible();

  // Elsewhere nothing is shown until the code of the mail is given; then it goes on where it stopped.
  const elsewhere = await onTelephone(browser, address);
  await expect(elsewhere.getByRole('heading', { name: 'Is it you?' })).toBeVisible();
  await elsewhere.getByRole('button', { name: 'Send me the code' }).click();
  await wren.reload();
  const subject = wren.getByText(/Your code: \d{6}/).first();
  await expect(subject).toBeVisible({ timeout: 60_000 });
  const code = /\d{6}/.exec((await subject.textContent()) ?? '')?.[0] ?? '';
  await elsewhere.getByLabel('The code from the mail').fill(code);
  await elsewhere.getByRole('button', { name: 'Go on' }).click();
  await expect(elsewhere.getByLabel('Home address')).toHaveValue('4 Pier Street');
  await elsewhere.getByLabel('Whom we call if something happens to you').fill('Ada, 0555 2');
  await elsewhere.getByRole('button', { name: 'Hand in: about you' }).click();
  await expect(elsewhere.getByText('1 of 5 parts done')).toBeVisible();

  // The first device is told when it types on.
  await mika.getByLabel('Telephone').fill('0555 7');
  await expect(mika.getByText(/changed on another device/)).toBeVisible();
  await mika.reload();
  await mika.getByLabel('Account holder').fill('Mika Ødegård');
  await mika.getByLabel('Account number').fill('NO93 8601 1117 947');
  await mika.getByRole('button', { name: 'Hand in: your bank account' }).click();

  // A program with the name of a PDF is refused at its place; a card that ran out too.
  const cards = mika.locator('input[type=file]');
  await cards.first().setInputFiles(program);
  await expect(mika.getByText(/is not of a kind that is taken here/)).toBeVisible();
  await cards.first().setInputFiles(pdf);
  await expect(mika.getByRole('button', { name: 'Take card.pdf away' })).toBeVisible();
  await mika.getByLabel('Number').first().fill('C01X00T47');
  await mika.getByLabel('Valid until').first().fill('2025-01-01');
  // Because of what was said of citizenship, the permit is asked for too.
  await cards.last().setInputFiles(pdf);
  await expect(mika.getByRole('button', { name: 'Take card.pdf away' })).toHaveCount(2);
  await mika.getByLabel('Number').last().fill('P77');
  await mika.getByLabel('Valid until').last().fill('2027-01-01');
  await mika.getByRole('button', { name: 'Hand in: identity papers' }).click();
  await expect(mika.getByText('It has run out already.')).toBeVisible();
  await mika.getByLabel('Valid until').first().fill('2027-06-01');
  await mika.getByRole('button', { name: 'Hand in: identity papers' }).click();
  await expect(mika.getByText('3 of 5 parts done')).toBeVisible();

  await mika.getByRole('button', { name: 'Read “Agreement of work”' }).click();
  await expect(mika.getByRole('region', { name: 'Agreement of work' })).toContainText('Mika Ødegård, who begins as');
  // One clear button at a time.
  await expect(mika.getByRole('button', { name: /^Hand in/ })).toHaveCount(0);
  await mika.getByRole('button', { name: 'Sign “Agreement of work”' }).click();
  await expect(mika.getByText(/Signed as Mika Ødegård/)).toBeVisible({ timeout: 20_000 });
  await mika.getByRole('button', { name: 'Read “House rules”' }).click();
  await mika.getByRole('button', { name: 'I have read it' }).click();
  // The paper closes above what comes next.
  await expect(mika.getByRole('button', { name: 'I have read it' })).toHaveCount(0);
  await mika.getByLabel(/My picture may be shown/).check();
  const copy = (await mika.getByRole('link', { name: /Keep a copy/ }).getAttribute('href')) ?? '';
  const signed = await words(await (await mika.context().request.get(copy)).body());
  expect(signed).toContain('Signed by Mika Ødegård');
  expect(signed.replace(/\s/g, '')).toMatch(/SHA-256ofthepaperthatwassigned:[0-9a-f]{64}/);
  await mika.getByRole('button', { name: 'Hand in: papers to sign' }).click();
  for (const item of [
    'I know where and when I begin',
    'I bring my identity paper with me',
    'I have shoes for wet decks',
  ])
    await mika.getByLabel(item).check();
  await mika.getByRole('button', { name: 'Hand in: before your first day' }).click();
  await expect(mika.getByText('Everything is in. Thank you, Mika.')).toBeVisible();
  await mika.getByRole('button', { name: 'Take back: Your picture on the staff page' }).click();
  await expect(mika.getByRole('button', { name: /^Take back/ })).toHaveCount(0);
  await mika.getByLabel('Ask Marit').fill('May I bring my dog?');
  await mika.getByRole('button', { name: 'Send the question' }).click();
  await expect(mika.getByText('May I bring my dog?')).toBeVisible();

  // HR gives one part back with a word, answers, and is done when it is in again.
  const marit = await personAt(browser, 'Marit Solheim', `/requests/${request}`);
  const panel = marit.getByRole('region', { name: 'Guest: Mika Ødegård' });
  await expect(panel).toContainText('5 of 5 parts');
  await expect(panel).toContainText('May I bring my dog?');
  await axeFindsNothingInLightAndDark(marit);
  await panel.getByRole('button', { name: 'Give it back: Your bank account' }).click();
  await panel.getByLabel('What is to be changed').fill('The number is one digit short.');
  await panel.getByRole('button', { name: 'Give it back', exact: true }).click();
  await expect(panel).toContainText('4 of 5 parts');
  await panel.getByRole('button', { name: 'Write to them' }).click();
  await panel.getByLabel(/To Mika/).fill('Yes, if it can swim.');
  await panel.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(panel).toContainText('Yes, if it can swim.');
  await panel.getByRole('button', { name: 'See their page' }).click();
  const look = marit.getByRole('dialog', { name: 'The page of Mika Ødegård' });
  await expect(look).toContainText('Welcome, Mika');
  await look.getByRole('button', { name: 'Close' }).click();
  await mika.reload();
  await expect(mika.getByText('The number is one digit short.')).toBeVisible();
  await expect(mika.getByText('Yes, if it can swim.')).toBeVisible();
  await mika.getByLabel('Account number').fill('NO93 8601 1117 9471');
  await mika.getByRole('button', { name: 'Hand in: your bank account' }).click();
  await expect(mika.getByText('Everything is in. Thank you, Mika.')).toBeVisible();

  await marit.reload();
  await marit.getByRole('button', { name: 'Take it' }).click();
  await marit.getByLabel(/Name and day of birth are those/).check();
  await marit.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(marit.getByText(/kept a paper of Mika Ødegård in the register: Identity card/)).toBeVisible();
  await mika.reload();
  await expect(mika.getByRole('heading', { name: 'Nothing is left to do here' })).toBeVisible();
});

test('the first page of a guest is light, and a link that was never made says so', async ({ browser }) => {
  const page = await onTelephone(browser, '/');
  await page.getByRole('button', { name: /Pia Lindqvist/ }).click();
  await expect(page.getByRole('heading', { name: 'Welcome, Pia' })).toBeVisible();
  const context = await browser.newContext();
  const other = await context.newPage();
  const client = await context.newCDPSession(other);
  await client.send('Network.enable');
  const scripts = new Set<string>();
  let bytes = 0;
  client.on('Network.responseReceived', ({ requestId, type }) => void (type === 'Script' && scripts.add(requestId)));
  client.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (scripts.has(requestId)) bytes += encodedDataLength;
  });
  await other.goto(`/mine#${'x'.repeat(43)}`);
  await expect(other.getByText(/This address does not work/)).toBeVisible();
  expect(scripts.size).toBeGreaterThan(3);
  expect(bytes).toBeLessThan(200_000);
});

test('a guest at the other end of the world is told whose clock is meant, and their days stay the days that they typed', async ({
  browser,
}) => {
  const first = await onTelephone(browser, '/');
  await first.getByRole('button', { name: /Pia Lindqvist/ }).click();
  await expect(first.getByRole('heading', { name: 'Welcome, Pia' })).toBeVisible();
  await expect(first.getByText(/All parts are needed by [\w ]+ \d\d:\d\d\./)).toBeVisible();
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    timezoneId: 'Pacific/Auckland',
    locale: 'en-NZ',
  });
  const page = await context.newPage();
  await page.goto(first.url());
  await page.getByRole('button', { name: 'Send me the code' }).click();
  const wren = await personAt(browser, 'Wren Castellane', '/mailroom?to=pia');
  const subject = wren.getByText(/Your code: \d{6}/).first();
  await expect(subject).toBeVisible({ timeout: 60_000 });
  const code = /\d{6}/.exec((await subject.textContent()) ?? '')?.[0] ?? '';
  await page.getByLabel('The code from the mail').fill(code);
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByText(/All parts are needed by .* in Lisbon\./)).toBeVisible();
  const born = page.getByLabel('Day of birth');
  if (!(await born.isVisible())) await page.getByRole('button', { name: /About you/ }).click();
  await born.fill('1996-12-31');
  await expect(page.getByText('Everything you type is kept.')).toBeVisible();
  await first.reload();
  if (!(await first.getByLabel('Day of birth').isVisible()))
    await first.getByRole('button', { name: /About you/ }).click();
  await expect(first.getByLabel('Day of birth')).toHaveValue('1996-12-31');
});

test('a paper that runs out is renewed by the request that opened by itself, and looks at it are kept', async ({
  browser,
}) => {
  const marit = await personAt(browser, 'Marit Solheim', '/papers');
  await axeFindsNothingInLightAndDark(marit);
  const row = marit.getByRole('row', { name: /Bahram Penhale/ });
  await expect(row).toContainText('runs out soon');
  await row.getByRole('button', { name: 'Show the number of Bahram Penhale’s Identity card' }).click();
  await expect(row).toContainText(/C\d{6}/);
  await row.getByRole('button', { name: /^About it/ }).click();
  await expect(marit.getByText(/Marit Solheim, .*: its number/)).toBeVisible();
  await marit.keyboard.press('Escape');
  const request = (await row.getByRole('link', { name: /^R-\d+$/ }).textContent()) ?? '';
  const bahram = await personBy(browser, 'bahram.penhale', `/requests/${request}`);
  await bahram.locator('input[type=file]').first().setInputFiles(pdf);
  await expect(bahram.getByRole('button', { name: 'Remove card.pdf' })).toBeVisible();
  await bahram.getByLabel('Number').fill('D02Y11U58');
  await typeDay(bahram, 'Valid until', '01032031');
  await bahram.getByRole('button', { name: /Hand/ }).click();
  await expect(bahram.getByText(/handed in what step/)).toBeVisible();
  await marit.goto(`/requests/${request}`);
  await marit.getByRole('button', { name: 'Take it' }).click();
  for (const item of ['Name and number can be read', 'It is valid']) await marit.getByLabel(item).check();
  await marit.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(marit.getByText('closed: Accepted')).toBeVisible();
  await marit.goto('/papers?words=bahram');
  await expect(marit.getByRole('row', { name: /Bahram Penhale/ })).toContainText('2031');
});
