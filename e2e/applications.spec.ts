/**
 * Two people apply at the public address, one of them goes on at another device; one is declined from a list, the other is
 * talked to, offered the post, accepts, and is asked for as a new colleague.
 */

import type { Browser } from '@playwright/test';
import { axeFindsNothing } from './axe.ts';
import { onDeskOf, personAt, personBy, sendNow } from './people.ts';
import { expect, type Page, test } from './test.ts';

type Mail = { to: string; subject: string; text: string; attached?: { name: string }[]; calendar?: string };
const mailsTo = async (reader: Page, to: string): Promise<Mail[]> =>
  ((await (await reader.request.get('/api/mailroom')).json()) as { mails: Mail[] }).mails.filter(mail =>
    mail.to.includes(to),
  );
/** A mail that came to an address, once it is there. */
async function mailTo(reader: Page, to: string, fits: (mail: Mail) => boolean): Promise<Mail> {
  let found: Mail | undefined;
  await expect(async () => {
    found = (await mailsTo(reader, to)).find(fits);
    expect(found).toBeDefined();
  }).toPass();
  return found as Mail;
}
const pageIn = (mail: Mail): string => /\/mine#[\w-]{43}/.exec(mail.text)?.[0] ?? '';

const telephone = async (browser: Browser): Promise<Page> =>
  (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
const fits = async (page: Page): Promise<void> => {
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await axeFindsNothing(page);
};

async function begins(browser: Browser, name: string, mail: string): Promise<Page> {
  const page = await telephone(browser);
  await page.goto('/open-posts');
  await page.getByRole('link', { name: 'Apply for Workshop supervisor, Ambrel' }).click();
  await expect(page.getByRole('combobox', { name: 'Open post' })).toContainText('Workshop supervisor, Ambrel');
  await page.getByRole('button', { name: /^Send/ }).click();
  await expect(page.getByText('Still missing: Name, Mail, What you give us')).toBeVisible();
  await fits(page);
  await page.getByRole('textbox', { name: 'Name' }).fill(name);
  await page.getByRole('textbox', { name: 'Mail' }).fill('nowhere');
  await page.getByRole('checkbox', { name: /^What I give is read/ }).check();
  await page.getByRole('button', { name: /^Send/ }).click();
  await expect(page.getByRole('alert')).toContainText('Write the mail address');
  // A page that is closed halfway loses nothing.
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue(name);
  await page.getByRole('textbox', { name: 'Mail' }).fill(mail);
  await page.getByRole('button', { name: /^Send/ }).click();
  await expect(page.getByRole('heading', { name: 'It is here. Look into your mail.' })).toBeVisible();
  return page;
}

async function handsIn(page: Page): Promise<void> {
  await page.getByRole('textbox', { name: 'Years of experience' }).fill('9');
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({
      name: 'life.pdf',
      mimeType: 'application/pdf',
      buffer: Buffer.from('%PDF-1.4\n1 0 obj<<>>endobj\ntrailer<<>>\n%%EOF\n'),
    });
  // Its name is there while it comes in, too.
  await expect(page.getByRole('button', { name: 'Take life.pdf away' })).toBeVisible();
  await page.getByRole('button', { name: 'Hand in: your application' }).click();
  await expect(page.getByText('Nothing is asked of you now')).toBeVisible();
}

const found = async (page: Page, words: string): Promise<string> => {
  const query = `whose=held&workflow=application&words=${encodeURIComponent(words)}`;
  const { rows } = (await (await page.request.get(`/api/requests/find?${query}`)).json()) as { rows: { id: string }[] };
  return rows[0]?.id ?? '';
};

test('two apply, one goes on at another device; declined from a list, and taken on', async ({ browser }) => {
  test.setTimeout(240_000);
  const wren = await personAt(browser, 'Wren Castellane');
  const marit = await personAt(browser, 'Marit Solheim');

  // Sölvi does it all on one telephone.
  await begins(browser, 'Sölvi Rán O’Hara', 'solvi@post.example');
  const solvisLetter = await mailTo(wren, 'solvi@post.example', mail => mail.text.includes('/mine#'));
  const solvi = await telephone(browser);
  await solvi.goto(pageIn(solvisLetter));
  await expect(solvi.getByRole('heading', { name: 'Welcome, Sölvi' })).toBeVisible();
  await solvi.getByRole('textbox', { name: 'Why you' }).fill('I teach what I know.');
  await fits(solvi);
  await handsIn(solvi);

  // Ivo begins on one and goes on at another, which gives the code that his mail brings.
  await begins(browser, 'Ivo Lantos', 'ivo@post.example');
  const ivosPage = pageIn(await mailTo(wren, 'ivo@post.example', mail => mail.text.includes('/mine#')));
  const first = await telephone(browser);
  await first.goto(ivosPage);
  await first.getByRole('textbox', { name: 'Why you' }).fill('I like engines.');
  await expect(first.getByText('Everything you type is kept.')).toBeVisible();
  await expect(async () => {
    const token = ivosPage.split('#')[1];
    expect(JSON.stringify(await (await first.request.get(`/api/guest/${token}`)).json())).toContain('I like engines.');
  }).toPass();
  const second = await telephone(browser);
  await second.goto(ivosPage);
  await second.getByRole('button', { name: 'Send me the code' }).click();
  const code = /\d{6}/.exec(
    (await mailTo(wren, 'ivo@post.example', mail => mail.subject.startsWith('Your code'))).subject,
  );
  await second.getByRole('textbox', { name: 'The code from the mail' }).fill(code?.[0] ?? '');
  await second.getByRole('button', { name: 'Go on' }).click();
  await expect(second.getByRole('textbox', { name: 'Why you' })).toHaveValue('I like engines.');
  await handsIn(second);

  // HR has both in the list of the role, looks one of them through, and declines the other from the list.
  await marit.goto('/requests');
  await marit.getByRole('button', { name: /^New applications \d+/ }).click();
  const rows = marit.getByRole('table', { name: 'Requests' });
  await expect(rows.getByText('Sölvi Rán O’Hara')).toBeVisible();
  await rows.getByRole('checkbox', { name: 'Choose Ivo Lantos' }).check();
  const many = marit.getByRole('region', { name: 'Answer several at once' });
  await expect(many).toContainText('Ivo Lantos');
  await axeFindsNothing(marit);
  await many.getByRole('button', { name: 'Decline 1' }).click();
  await marit.getByRole('dialog').getByRole('button', { name: 'Decline 1' }).click();
  await expect(rows.getByText('Ivo Lantos')).toBeHidden();
  await mailTo(wren, 'ivo@post.example', mail => mail.text.includes('shall not go on with it'));
  await second.reload();
  await expect(second.getByText('Nothing is left to do here')).toBeVisible();

  const request = await found(marit, 'Sölvi');
  await onDeskOf(marit, request);
  for (const [label, mark] of [
    ['Papers', '4'],
    ['Experience', '3'],
  ])
    await marit.getByRole('radiogroup', { name: label }).getByRole('radio', { name: mark }).check();
  await marit.getByRole('textbox', { name: /^What stood out/ }).fill('Hush: teaches well');
  await marit.getByRole('button', { name: 'Invite' }).click();
  await sendNow(marit);

  // A question to Sölvi, answered on her page.
  await onDeskOf(marit, request);
  await marit.getByRole('button', { name: /^Take/ }).first().click();
  await expect(async () => {
    const { tasks, version } = (await (await marit.request.get(`/api/requests/${request}`)).json()) as {
      tasks: { id: string }[];
      version: number;
    };
    const asked = await marit.request.post(`/api/requests/${request}/commands`, {
      headers: { 'X-North-Pebble': '1' },
      data: {
        id: crypto.randomUUID(),
        command: { kind: 'ask', seen: version, task: tasks[0].id, question: 'Does Tuesday suit you?' },
      },
    });
    expect(asked.ok()).toBe(true);
  }).toPass();
  await solvi.reload();
  const question = solvi.getByRole('form', { name: 'A question of Marit Solheim' });
  await question.getByRole('textbox', { name: 'Your reply' }).fill('Very well.');
  await question.getByRole('button', { name: 'Send the reply' }).click();
  await expect(solvi.getByText('Nothing is asked of you now')).toBeVisible();
  await mailTo(wren, 'marit', mail => mail.text.includes('Very well.'));

  await marit.goto(`/desk?item=${request}`);
  await typeDayIn(marit, 'Day of the talk', '10022026');
  for (const box of await marit.getByRole('complementary').getByRole('checkbox').all()) await box.check();
  await marit.getByRole('button', { name: /done/i }).first().click();
  const invited = await mailTo(wren, 'solvi@post.example', mail => mail.subject.startsWith('A talk about'));
  expect(invited.calendar ?? JSON.stringify(invited.attached)).toBeTruthy();

  // Whoever stands above the post that was applied for talks to her, found from the post.
  let holder = '';
  await expect(async () => {
    const seen = (await (await marit.request.get(`/api/requests/${request}`)).json()) as {
      at: string[];
      tasks: { holder: string }[];
    };
    expect(seen.at).toEqual(['interview']);
    holder = seen.tasks[0].holder;
  }).toPass();
  const { people } = (await (await wren.request.get('/api/directory')).json()) as {
    people: { id: string; mail: string }[];
  };
  const mail = people.find(one => one.id === holder)?.mail ?? '';
  const lead = await personBy(browser, mail.split('@')[0]);
  await onDeskOf(lead, request);
  for (const label of ['For the work', 'With people'])
    await lead.getByRole('radiogroup', { name: label }).getByRole('radio', { name: '4' }).check();
  await lead.getByRole('button', { name: 'Make an offer' }).click();
  await sendNow(lead);

  // The offer: conditions, the letter as a PDF, and the answer on her own page.
  await onDeskOf(marit, request);
  await marit.getByRole('button', { name: /^Take/ }).first().click();
  await marit.getByRole('textbox', { name: 'Yearly pay' }).fill('43500');
  await marit.getByRole('textbox', { name: 'Share of full time' }).fill('1');
  await typeDayIn(marit, 'Start date', '04052026');
  await typeDayIn(marit, 'Good until', '01032026');
  await marit.getByRole('radiogroup', { name: 'Works on a boat' }).getByRole('radio', { name: 'No' }).check();
  await marit.getByRole('button', { name: /done/i }).first().click();
  const offer = await mailTo(wren, 'solvi@post.example', mail =>
    (mail.attached ?? []).some(one => one.name.endsWith('.pdf')),
  );
  expect(offer.text).toContain('good until');
  // Each reads exactly what is theirs: the lead no pay, she no mark and no word about her.
  const leads = await (await lead.request.get(`/api/requests/${request}`)).text();
  expect(leads).toContain('Hush: teaches well');
  expect(leads).not.toContain('43500');
  await expect(async () => {
    await solvi.reload();
    await expect(solvi.getByRole('combobox', { name: 'Your answer' })).toBeVisible({ timeout: 2000 });
  }).toPass();
  const hers = await (await solvi.request.get(`/api/guest/${pageIn(solvisLetter).split('#')[1]}`)).text();
  for (const secret of ['Hush', 'papers-mark', 'For the work', '43500', 'Mark']) expect(hers).not.toContain(secret);
  await fits(solvi);
  await solvi.getByRole('combobox', { name: 'Your answer' }).selectOption('I accept');
  await solvi.getByRole('button', { name: 'Hand in: your answer' }).click();

  await mailTo(wren, 'solvi@post.example', mail => mail.subject === 'Welcome to us');
  await expect(async () => {
    const all = (await (await marit.request.get('/api/requests/find?whose=mine&workflow=new-colleague')).json()) as {
      rows: { title: string }[];
    };
    expect(all.rows.map(row => row.title).join()).toContain('Sölvi Rán O’Hara');
  }).toPass();
  await marit.goto(`/requests/${request}`);
  await expect(marit.getByText('Accepted').first()).toBeVisible();
});

async function typeDayIn(page: Page, label: string, digits: string): Promise<void> {
  await page.getByRole('group', { name: label }).getByRole('spinbutton', { name: 'Day' }).click();
  await page.keyboard.type(digits);
}
