/** An empty installation filled by files until a leave is asked, decided and booked in it. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { approved, askUnpaid, goIn, letterWhere, linkOf, publishLeave, startBare } from './bare.ts';
import { expect, test } from './test.ts';

type Bare = Awaited<ReturnType<typeof startBare>>;
let house: Bare;
const folder = mkdtempSync(join(tmpdir(), 'np-moving-'));
test.beforeAll(async () => {
  house = await startBare(folder);
});
test.afterAll(async () => {
  await house.stop();
  rmSync(folder, { recursive: true, force: true });
});

const password = 'a calm sea at low tide';
const csv = (name: string, lines: string) => ({
  name: `${name}.csv`,
  mimeType: 'text/csv',
  buffer: Buffer.from(lines),
});
const files = [
  csv('calendars', 'Calendar,Name,Builds on\nweir,The weir,\n'),
  csv(
    'holidays',
    'Calendar,Name,On,Part\nweir,Lantern day,24 December,afternoon\nweir,Weir feast,last Monday of August,day\n',
  ),
  csv('places', 'Place,Name,Time zone,Calendar,Head\nlock,Upper Lock,Europe/Oslo,weir,\n'),
  csv('departments', 'Department,Name,Head\nwater,Water,\n'),
  csv(
    'patterns',
    `Pattern,Name,First day,Day,Morning,Afternoon\n${[1, 2, 3, 4, 5].map(n => `lock-week,${n === 1 ? 'Lock week' : ''},${n === 1 ? '2024-01-01' : ''},${n},08:00-12:00,12:30-16:30`).join('\n')}\nlock-week,,,7,,\n`,
  ),
  csv(
    'posts',
    'Post,Title,Department,Place\nlock-lead,Lock lead,Water,Upper Lock\nkeeper-1,Lock keeper,Water,Upper Lock\n',
  ),
  csv('lines', 'Post,From,Reports to\nlock-lead,2025-01-01,\nkeeper-1,2025-01-01,lock-lead\n'),
  csv(
    'people',
    'Person,Name,Mail,Joined\nturid,Turid Øye,turid@house.example,2025-01-01\nodd,Odd Ås,odd@house.example,2025-01-01\n',
  ),
  csv(
    'records',
    'Person,From,Place,Department,Work pattern,Share of full time,Leave plan\nturid,2025-01-01,Upper Lock,Water,lock-week,1,standard\nodd,2025-01-01,lock,water,Lock week,1,standard\n',
  ),
  csv(
    'holdings',
    'Post,Person,From,To,Main\nlock-lead,turid,2025-01-01,,yes\nkeeper-1,odd@house.example,2025-01-01,,\n',
  ),
  csv('balances', 'Person,Leave,On,Amount,Why\nodd,annual,2026-01-01,3.5,From before\n'),
];

test('an empty house is filled by files until a leave is decided in it', async ({ browser }) => {
  const page = await (await browser.newContext()).newPage();
  await page.goto(house.setup);
  for (const [label, value] of [
    ['Your name', 'Nora Lind'],
    ['Your mail address', 'nora@house.example'],
    ['A password', password],
    ['Name of the house', 'Mill Weir Trust'],
    ['The place where people work', 'Mill Weir'],
    ['Time zone of that place', 'Europe/Oslo'],
  ] as const)
    await page.getByLabel(label).fill(value);
  await page.getByRole('button', { name: 'Set up the house' }).click();
  await page.waitForURL(/\/workflows$/);
  await expect(page.getByRole('button', { name: 'Begin from Leave', exact: true })).toBeVisible();

  await page.goto(`${house.address}/house/moving`);
  await page.locator('input[type=file]').setInputFiles(files);
  for (const { name } of files) await expect(page.getByRole('button', { name: `Leave ${name} out` })).toBeVisible();
  await page.getByRole('button', { name: 'See what they bring' }).click();
  const brings = page.getByRole('region', { name: 'What they bring' });
  await expect(brings).toContainText('People: 2 new');
  await expect(brings).toContainText('Holidays: 1 changed');
  await page.getByRole('button', { name: 'Move in' }).click();
  await expect(page.getByRole('status')).toContainText('facts were taken over');
  // Once more is no harm.
  await page.locator('input[type=file]').setInputFiles(files);
  await page.getByRole('button', { name: 'See what they bring' }).click();
  await page.getByRole('button', { name: 'Move in' }).click();
  await expect(page.getByRole('status')).toContainText('Everything was there already');

  await publishLeave(page, house.address);

  await page.goto(`${house.address}/accounts`);
  await expect(page.getByText('2 people on file have no account')).toBeVisible();
  await page.getByRole('button', { name: 'Invite them all' }).click();
  await expect(page.getByText('2 people on file have no account')).toHaveCount(0);
  const enter = async (mail: string) => {
    const letter = await letterWhere(house, one => one.to.includes(mail) && one.subject.includes('invites'));
    const own = await (await browser.newContext()).newPage();
    await own.goto(linkOf(letter));
    await goIn(own, password);
    return own;
  };
  const odd = await enter('odd@house.example');
  await odd.goto(`${house.address}/balances`);
  await expect(odd.getByText('From before')).toBeVisible();
  await askUnpaid(odd, house.address, { from: '01', to: '10' });
  await expect(odd.getByText(/waits for Turid Øye/).first()).toBeVisible();

  const turid = await enter('turid@house.example');
  await approved(turid, house.address, odd);
});
