/** A new post from asking to the public page of open posts, as somebody reads it who is not signed in. */
import { axeFindsNothing } from './axe.ts';
import { onDeskOf, personAt, send, sendNow } from './people.ts';
import { expect, type Page, test } from './test.ts';

type Mail = { to: string; subject: string; text: string; attached?: { name: string }[] };
/** Whether a mail about a request has come to somebody. */
const mailed = async (reader: Page, fits: (mail: Mail) => boolean): Promise<void> => {
  await expect(async () => {
    const room = (await (await reader.request.get('/api/mailroom')).json()) as { mails: Mail[] };
    expect(room.mails.some(fits)).toBe(true);
  }).toPass();
};

test('open posts stand on a page for anybody, without what is for the house alone', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await page.goto('/open-posts');
  const post = page.getByRole('article', { name: 'Watch lead, Skarn Light' });
  await expect(post).toContainText('Department: Lights');
  await expect(post).toContainText('Leads a watch of four at the light');
  const raw = await (await page.request.get('/api/open-posts')).text();
  expect(raw).toContain('Watch lead');
  expect(raw).not.toMatch(/58.?000|Cost/);
  // Everything else stays shut.
  expect((await page.request.get('/api/records/lists')).status()).toBe(401);
  await axeFindsNothing(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await context.close();
});

test('a post is asked for, its pay changed by the director, agreed to, opened, and read by anybody', async ({
  browser,
}) => {
  const [tobias, leif, marit, wren] = await Promise.all(
    ['Tobias Fennimore', 'Leif Auerbach', 'Marit Solheim', 'Wren Castellane'].map(name => personAt(browser, name)),
  );
  await tobias.goto('/ask/new-post');
  await tobias.getByRole('textbox', { name: 'Title' }).fill('Gauge keeper, Ovay');
  await tobias.getByRole('combobox', { name: 'Department' }).click();
  await tobias.getByRole('option', { name: 'Observatory' }).click();
  await tobias.getByRole('textbox', { name: 'Why it is needed' }).fill('The new gauges want a hand of their own.');
  await tobias.getByRole('textbox', { name: 'Yearly pay' }).fill('60000');
  await expect(tobias.getByText('Cost a year: 78,000.00 EUR')).toBeVisible();
  // What others write is not asked here.
  await expect(tobias.getByRole('textbox', { name: 'Profile' })).toHaveCount(0);
  const request = await send(tobias);

  await onDeskOf(leif, request);
  await mailed(
    wren,
    mail => mail.to.includes('leif') && mail.text.includes(request) && (mail.attached ?? []).length > 0,
  );
  await leif.getByRole('textbox', { name: 'Yearly pay' }).fill('52000');
  await leif.getByRole('button', { name: /^Approve/ }).click();
  await sendNow(leif);

  await mailed(
    wren,
    mail =>
      mail.to.includes('tobias') &&
      mail.subject.includes('Gauge keeper') &&
      mail.text.includes('60,000.00 EUR → 52,000.00 EUR'),
  );
  await onDeskOf(tobias, request);
  await tobias.getByRole('button', { name: /done/i }).first().click();

  await onDeskOf(marit, request);
  await marit.getByRole('button', { name: /^Take/ }).first().click();
  await marit.getByRole('textbox', { name: 'Profile' }).fill('Keeps the gauges of the station.');
  for (const box of await marit.getByRole('complementary').getByRole('checkbox').all()) await box.check();
  await marit.getByRole('button', { name: /done/i }).first().click();

  const stranger = await (await browser.newContext()).newPage();
  await expect(async () => {
    await stranger.goto('/open-posts');
    await expect(stranger.getByRole('article', { name: 'Gauge keeper, Ovay' })).toContainText('Keeps the gauges', {
      timeout: 2000,
    });
  }).toPass();
  const raw = await (await stranger.request.get('/api/open-posts')).text();
  for (const secret of ['67', '52000', '60000', 'Cost', request, 'Tobias', 'a hand of their own'])
    expect(raw).not.toContain(secret);
  // The old figure stays to be read beside the new one.
  await tobias.goto(`/requests/${request}`);
  await expect(tobias.getByText('52,000.00 EUR').first()).toBeVisible();
  await expect(tobias.getByText('60,000.00 EUR').first()).toBeVisible();
});

test('somebody hired into an advertised post is on file, the request ends, and the post is advertised no more', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane');
  const ask = async (path: string, data: object) => {
    const answer = await wren.request.post(`/api${path}`, { headers: { 'X-North-Pebble': '1' }, data });
    expect(answer.ok(), await answer.text()).toBe(true);
    return (await answer.json()) as { id: string };
  };
  const post = { name: 'post', formula: '"lights-skarn-s9"' };
  const { id } = await ask('/workflows', {
    definition: {
      // A later format reads this one.
      ...{ formatVersion: 3, area: 'People', name: 'Hire, in short', purpose: 'Puts somebody on file.' },
      form: {
        fields: [
          { kind: 'text', id: 'name', label: 'Name', required: true },
          { kind: 'date', id: 'start', label: 'Start date', required: true },
        ],
      },
      figures: [],
      steps: [
        { verb: 'Ask', id: 'ask' },
        {
          ...{ verb: 'Do', id: 'welcome', when: null, whenAway: 'waits', task: 'Greets them', limit: null },
          who: { first: { kind: 'person', person: 'wren' }, otherwise: [] },
        },
        {
          ...{ verb: 'Record', id: 'put', when: null },
          effect: {
            kind: 'add person',
            values: [{ name: 'name', formula: 'Name' }, { name: 'first day', formula: 'Start date' }, post],
          },
        },
        { verb: 'Close', id: 'end', when: null, closing: 'hired' },
      ],
      messages: [{ id: 'hired', name: 'Hired', subject: 'They are on file', body: 'They are on file.' }],
      closings: [{ id: 'hired', name: 'Hired', tone: 'good', message: 'hired' }],
    },
  });
  await ask(`/workflows/${id}/publish`, { revision: 1, comment: 'Hiring in short.' });
  await wren.goto(`/ask/${id}`);
  await wren.getByRole('textbox', { name: 'Name' }).fill('Runa Østby');
  await wren.getByRole('group', { name: 'Start date' }).getByRole('spinbutton', { name: 'Day' }).click();
  await wren.keyboard.type('02032026');
  const request = await send(wren);
  await onDeskOf(wren, request);
  await wren.getByRole('button', { name: /done/i }).first().click();
  await wren.goto(`/requests/${request}`);
  await expect(wren.getByText('Hired').first()).toBeVisible();
  await wren.goto('/people?words=Runa&standing=comes');
  await expect(wren.getByText('Runa Østby').first()).toBeVisible();
  await wren.goto('/open-posts');
  await expect(wren.getByRole('article').first()).toBeVisible();
  await expect(wren.getByRole('article', { name: 'Watch lead, Skarn Light' })).toHaveCount(0);
});
