/** From an empty database: set up on the one-time address, a workflow from a starter, a second person invited, asked, decided. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { axeFindsNothing } from './axe.ts';
import { approved, askUnpaid, goIn, letterWhere, linkOf, publishLeave, startBare } from './bare.ts';
import { expect, test } from './test.ts';

type Bare = Awaited<ReturnType<typeof startBare>>;
let house: Bare;
const folder = mkdtempSync(join(tmpdir(), 'np-begin-'));

test.beforeAll(async () => {
  house = await startBare(folder);
});
test.afterAll(async () => {
  const { code, took } = await house.stop();
  rmSync(folder, { recursive: true, force: true });
  expect(code).toBe(0);
  expect(took).toBeLessThan(10_000);
});

const password = 'a calm sea at low tide';

test('a house begins without the demo', async ({ browser }) => {
  // From nothing to a decided request, by two people: longer than one thing that somebody does.
  test.setTimeout(180_000);
  const page = await (await browser.newContext()).newPage();
  await page.goto(house.address);
  await expect(page.getByText('Nobody looks after this house yet')).toBeVisible();
  await page.goto(house.setup);
  await expect(page.getByRole('heading', { name: 'Set up the house' })).toBeVisible();
  await axeFindsNothing(page);
  // A wrong thing is said at its place, and nothing is lost.
  await page.getByLabel('Your name').fill('Nora Lindqvist-Ó Briain');
  await page.getByLabel('Your mail address').fill('nora@house.example');
  await page.getByLabel('A password').fill('short');
  await page.getByLabel('Name of the house').fill('Mill Weir Trust');
  await page.getByLabel('The place where people work').fill('Mill Weir');
  await page.getByLabel('Time zone of that place').fill('Europe/Oslo');
  await page.getByRole('button', { name: 'Set up the house' }).click();
  await expect(page.getByText('Use at least twelve letters')).toBeVisible();
  await page.getByLabel('A password').fill(password);
  await page.getByRole('button', { name: 'Set up the house' }).click();
  await page.waitForURL(/\/workflows$/);

  // The address works once.
  const late = await (await browser.newContext()).newPage();
  await late.goto(house.setup);
  await late.getByLabel('Your name').fill('Somebody Else');
  await late.getByLabel('Your mail address').fill('else@house.example');
  await late.getByLabel('A password').fill(password);
  await late.getByLabel('Name of the house').fill('Another');
  await late.getByLabel('The place where people work').fill('Elsewhere');
  await late.getByRole('button', { name: 'Set up the house' }).click();
  await expect(late.getByRole('alert')).toContainText('used already');

  // A second person, invited by mail.
  await page.goto(`${house.address}/accounts`);
  await page.getByRole('button', { name: 'Invite somebody' }).click();
  const form = page.getByRole('form', { name: 'Invite somebody' });
  await form.getByLabel('Name').fill('Per Askim');
  await form.getByLabel('Mail address').fill('per@house.example');
  await form.getByLabel('What they do').fill('Weir keeper');
  await form.getByRole('combobox', { name: 'Who leads them' }).fill('Nora');
  await page.getByRole('option', { name: /Nora/ }).click();
  await form.getByRole('button', { name: 'Send the invitation' }).click();
  await expect(page.getByText('invited, no password yet')).toBeVisible();
  // A workflow from a starter, published: now that there is somebody who can decide for somebody.
  await publishLeave(page, house.address);

  const letter = await letterWhere(house, mail => mail.to.includes('per@house.example'));
  expect(letter.subject).toBe('Mill Weir Trust invites you to North Pebble');

  const per = await (await browser.newContext()).newPage();
  await per.goto(linkOf(letter));
  await expect(per.getByRole('heading', { name: 'Welcome, Per Askim' })).toBeVisible();
  await goIn(per, password);

  // They ask; it is decided.
  await askUnpaid(per, house.address, { from: '04', to: '10' });
  await approved(page, house.address, per);

  // Forgotten: a mail with a link that works once.
  const again = await (await browser.newContext()).newPage();
  await again.goto(house.address);
  await expect(again.getByRole('heading', { name: 'Mill Weir Trust' })).toBeVisible();
  await again.getByRole('button', { name: 'Forgotten your password?' }).click();
  await again.getByLabel('Your mail address').fill('per@house.example');
  await again.getByRole('button', { name: 'Mail me a link' }).click();
  await expect(again.getByText('A mail is on its way')).toBeVisible();
});
