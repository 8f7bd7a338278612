/** From an empty database: set up on the one-time address, a workflow from a starter, a second person invited, asked, decided. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { type Mail, startBare } from './bare.ts';
import { typeDay } from './people.ts';
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
  const page = await (await browser.newContext()).newPage();
  await page.goto(house.address);
  await expect(page.getByText('Nobody looks after this house yet')).toBeVisible();
  await page.goto(house.setup);
  await expect(page.getByRole('heading', { name: 'Set up the house' })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(v => v.id)).toEqual([]);
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
  await page.goto(`${house.address}/workflows`);
  await page.getByRole('button', { name: 'Begin from Leave', exact: true }).click();
  await page.waitForURL(/\/workflows\/.+/);
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox').fill('To begin with.');
  await dialog.getByRole('button', { name: /^Publish/ }).click();
  await expect(page.getByText(/version 1 is live/i).first()).toBeVisible();

  let letter: Mail | undefined;
  await expect(async () => {
    letter = (await house.letters()).find(mail => mail.to.includes('per@house.example'));
    expect(letter).toBeTruthy();
  }).toPass();
  expect(letter?.subject).toBe('Mill Weir Trust invites you to North Pebble');
  const link = /http:\S+\/link#\S+/.exec(letter?.text ?? '')?.[0] ?? '';

  const per = await (await browser.newContext()).newPage();
  await per.goto(link);
  await expect(per.getByRole('heading', { name: 'Welcome, Per Askim' })).toBeVisible();
  await per.getByLabel('Password').fill(password);
  await per.getByRole('button', { name: 'Go on' }).click();
  await per.waitForURL(/\/desk$/);

  // They ask; it is decided.
  await per.goto(`${house.address}/ask/leave`);
  const year = new Date().getFullYear() + 1;
  await typeDay(per, 'First day', `0403${year}`);
  await typeDay(per, 'Last day', `1003${year}`);
  await per.getByRole('combobox', { name: 'Kind' }).click();
  await per.getByRole('option', { name: 'Unpaid leave' }).click();
  await per.getByRole('button', { name: 'Send', exact: true }).click();
  await per.waitForURL(/\/requests\/R-\d+$/);
  await page.goto(`${house.address}/desk`);
  await page
    .getByRole('complementary', { name: 'The selected request' })
    .getByRole('button', { name: /^Approve/ })
    .click();
  await page.getByRole('button', { name: 'Send now' }).click();
  await expect(async () => {
    await per.reload();
    await expect(per.getByText('Booked').first()).toBeVisible({ timeout: 2000 });
  }).toPass();

  // Forgotten: a mail with a link that works once.
  const again = await (await browser.newContext()).newPage();
  await again.goto(house.address);
  await expect(again.getByRole('heading', { name: 'Mill Weir Trust' })).toBeVisible();
  await again.getByRole('button', { name: 'Forgotten your password?' }).click();
  await again.getByLabel('Your mail address').fill('per@house.example');
  await again.getByRole('button', { name: 'Mail me a link' }).click();
  await expect(again.getByText('A mail is on its way')).toBeVisible();
});
