/** The house as HR keeps it: holidays, patterns, roles, posts, lists, hand-overs, files, and somebody whom a request puts on file. */
import { axeFindsNothingInLightAndDark } from './axe.ts';
import { askForLeave, personAt, pressOn, typeDay } from './people.ts';
import { expect, type Page, test } from './test.ts';

const follows = (page: Page) => page.getByRole('region', { name: 'What follows' });
async function saved(page: Page, verb: string, why: string): Promise<void> {
  await page.getByRole('button', { name: 'See what follows' }).click();
  await expect(follows(page)).toBeVisible();
  await page.getByLabel('Why', { exact: true }).fill(why);
  await page.getByRole('button', { name: verb, exact: true }).click();
  await expect(follows(page)).toHaveCount(0);
}

test('a holiday is added in the past: the preview says whom it concerns, and they see the restated line', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/house/calendars?calendar=sound');
  await typeDay(wren, 'Day', '21012026');
  await wren.getByLabel('What it is called').fill('Lamp feast');
  await wren.getByRole('button', { name: 'Add the day' }).click();
  await wren.getByRole('button', { name: 'See what follows' }).click();
  const counted = follows(wren)
    .getByRole('listitem')
    .filter({ hasText: /, Annual leave, .*→/ });
  await expect(counted.first()).toBeVisible();
  const words = (await counted.first().textContent()) ?? '';
  const name = words.slice(0, words.indexOf(','));
  await wren.getByLabel('Why', { exact: true }).fill('It was kept, and stood in no calendar.');
  await wren.getByRole('button', { name: 'Save the calendar' }).click();
  await expect(wren.getByText('Wed 21 January 2026: Lamp feast').first()).toBeVisible();

  await wren.goto(`/people?words=${encodeURIComponent(name)}`);
  await wren.getByRole('link', { name, exact: true }).click();
  await expect(wren.getByRole('heading', { level: 1, name })).toBeVisible();
  await wren.getByRole('main').getByRole('link', { name: 'Balances' }).click();
  const statement = wren.getByRole('table').first();
  await expect(statement).toContainText('Restated');
  await expect(statement).toContainText('It was kept, and stood in no calendar.');
});

test('a pattern for nights is drawn, and made by keys alone', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/house/patterns?pattern=new');
  await wren.getByLabel('Name', { exact: true }).fill('Harbour nights');
  await typeDay(wren, 'Its first day falls on', '05012026');
  // The first night with the mouse: from eight in the evening to six in the morning.
  const strip = wren.getByRole('button', { name: 'Day 1: put a part in' });
  const box = await strip.boundingBox();
  if (!box) throw new Error('the first day is not drawn');
  const x = (hour: number) => box.x + (box.width * hour) / 36;
  await wren.mouse.move(x(20), box.y + 12);
  await wren.mouse.down();
  await wren.mouse.move(x(27), box.y + 14, { steps: 4 });
  await wren.mouse.move(x(30), box.y + 14);
  await wren.mouse.up();
  await expect(wren.getByRole('button', { name: /^Day 1, second part: 20:00 to 06:00 the day after/ })).toBeVisible();
  // The second by keys: put in, moved into the night, stretched, counted as a whole day.
  await pressOn(wren, wren.getByRole('button', { name: 'Day 2: as the day before' }));
  const second = wren.getByRole('button', { name: /^Day 2, second part/ });
  await pressOn(wren, second, 'ArrowRight');
  await wren.keyboard.press('Shift+ArrowLeft');
  await expect(second).toHaveAccessibleName(/20:15 to 06:00 the day after/);
  await pressOn(wren, wren.getByRole('button', { name: 'Day 3: put a part in' }));
  await pressOn(wren, wren.getByRole('button', { name: /^Day 3, first part/ }), 'Delete');
  await expect(wren.getByRole('button', { name: /^Day 3, first part/ })).toHaveCount(0);
  for (const day of [1, 2]) await wren.getByLabel(`Day ${day}, second part: what it counts in days`).fill('1');
  await expect(wren.getByRole('heading', { name: /7 days, 19.75 hours in a cycle/ })).toBeVisible();
  await expect(wren.getByRole('region', { name: 'Eight weeks' }).getByRole('listitem')).toHaveCount(56);
  await saved(wren, 'Save the pattern', 'The harbour is watched at night.');
  await expect(wren.getByRole('list', { name: 'Work patterns' })).toContainText('Harbour nights');
  // Two parts at one time are told at their day.
  await wren.goto('/house/patterns?pattern=keeper');
  await wren.getByRole('button', { name: /^Day 1, second part/ }).focus();
  for (let n = 0; n < 50; n += 1) await wren.keyboard.press('Shift+ArrowRight');
  await wren.getByRole('button', { name: 'See what follows' }).click();
  await expect(wren.getByRole('alert')).toContainText('Two parts are at the same time on day 1');
});

test('a role is given for a place and from a day, and asked for from then on', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/house/roles');
  await wren.getByRole('button', { name: 'Give a role' }).first().click();
  const form = wren.getByRole('form', { name: 'Give a role' });
  await form.getByLabel('Role', { exact: true }).fill('Travel desk');
  await form.getByRole('combobox', { name: 'Who' }).fill('Tove');
  await wren.getByRole('option').first().click();
  const who = await form.getByRole('combobox', { name: 'Who' }).inputValue();
  await form.getByRole('combobox', { name: 'For the people of a place' }).click();
  await wren.getByRole('option', { name: 'Skarn Light' }).click();
  await typeDay(wren, 'From', '01042026');
  await saved(wren, 'Give the role', 'Skarn books its own boats.');
  const section = wren.getByRole('region', { name: 'Travel desk' });
  await expect(section).toContainText(`${who} for Skarn Light from Wed 1 April`);
  await expect(section).toContainText('(planned)');
  await section.getByRole('button', { name: `End Travel desk of ${who}` }).click();
  await typeDay(wren, 'Last day', '30062026');
  await saved(wren, 'End it on that day', 'For the spring alone.');
  await expect(section).toContainText('until Tue 30 June');
});

test('whoever leaves hands everything over together, and what cannot be says why', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/people/moves');
  await wren
    .getByRole('region', { name: 'Who leaves' })
    .getByRole('link', { name: /things to hand over/ })
    .first()
    .click();
  await expect(wren.getByRole('heading', { name: /^What .* hands over$/ })).toBeVisible();
  const boxes = wren.getByRole('form', { name: 'Hand over' }).getByRole('checkbox');
  const n = await boxes.count();
  expect(n).toBeGreaterThan(3);
  await wren.getByRole('combobox', { name: 'To whom' }).fill('Alva Tarrant');
  await wren.getByRole('option', { name: /Alva Tarrant/ }).click();
  await wren.getByLabel('Why', { exact: true }).fill('Per has left.');
  await wren.getByRole('button', { name: /^Hand \d+ things over$/ }).click();
  await expect(wren.getByRole('status').first()).toContainText(/were handed over/);
  await wren.goto('/house/changes');
  await expect(wren.getByText('Per has left.').first()).toBeVisible();
});

test('a row of a list is ended and cannot be picked any more; its owner edits it, and nothing else', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/house/lists?list=equipment');
  await wren.getByRole('button', { name: 'Change Hand radio' }).click();
  await typeDay(wren, 'Can be picked until', '31012026');
  await saved(wren, 'Save the row', 'Sold.');
  await expect(wren.getByRole('row', { name: /Hand radio/ })).toContainText('until Sat 31 January');
  await wren.getByRole('button', { name: 'Change the list itself' }).click();
  const form = wren.getByRole('form', { name: 'Change Equipment' });
  await form.getByRole('combobox', { name: 'One more' }).fill('Ines Okoro');
  await wren.getByRole('option', { name: /Ines Okoro/ }).click();
  await saved(wren, 'Save the list', 'She keeps the stores.');
  const ines = await personAt(browser, 'Ines Okoro', '/house/lists');
  await ines.getByRole('button', { name: 'A new row' }).click();
  await ines.getByLabel('Title').fill('Storm lantern');
  await ines.getByLabel('Price').fill('many');
  await ines.getByRole('button', { name: 'See what follows' }).click();
  await expect(ines.getByText('Price takes an amount with at most two decimals.')).toBeVisible();
  await ines.getByLabel('Price').fill('19.50');
  await saved(ines, 'Save the row', 'Bought.');
  await expect(ines.getByRole('row', { name: /Storm lantern/ })).toContainText('19.50');
  await ines.goto('/house/posts');
  await expect(ines.getByText(/kept by HR operations/)).toBeVisible();
});

test('three bad lines of a file are told by line and column; put right, the file is taken over', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/house/moving');
  const file = (lines: string[]) => ({
    name: 'new-people.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['Person;Name;Mail;Joined', ...lines].join('\r\n'), 'latin1'),
  });
  const records = {
    name: 'records.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      [
        'Person,From,Place,Department,Work pattern,Leave plan',
        ...['u1', 'u2', 'u3', 'u4'].map(one => `${one},2026-03-02,Skarn Light,Lights,keeper,standard`),
      ].join('\n'),
    ),
  };
  const give = (lines: string[]) => wren.locator('input[type=file]').setInputFiles([file(lines), records]);
  await give([
    'u1;Zoë Mærsk;zoe.maersk@selkie.example;02.03.2026',
    'u2;;u2@selkie.example;02.03.2026',
    'u3;Ulf Rask;u3@selkie.example;31.02.2026',
    'u4;=1+1;u4@selkie.example;02.03.2026',
  ]);
  await expect(wren.getByText('4 lines, read as Windows-1252')).toBeVisible();
  await wren.getByRole('button', { name: 'See what they bring' }).click();
  const wrong = wren.getByRole('region', { name: 'What is wrong' });
  await expect(wrong.getByRole('alert')).toContainText('3 things are wrong');
  await expect(wrong.getByRole('row', { name: /People 3 Name nothing/ })).toBeVisible();
  await expect(wrong.getByRole('row', { name: /People 4 Joined 31.02.2026/ })).toContainText('13.03.2026');
  await expect(wrong.getByRole('row', { name: /People 5 Name =1\+1/ })).toBeVisible();
  await wren.getByRole('button', { name: 'Leave new-people.csv out' }).click();
  await wren.getByRole('button', { name: 'Leave records.csv out' }).click();
  await give([
    'u1;Zoë Mærsk;zoe.maersk@selkie.example;02.03.2026',
    'u2;Una Brae;u2@selkie.example;02.03.2026',
    'u3;Ulf Rask;u3@selkie.example;02.03.2026',
    'u4;Ylva Holm;u4@selkie.example;02.03.2026',
  ]);
  await wren.getByRole('button', { name: 'See what they bring' }).click();
  await expect(wren.getByRole('region', { name: 'What they bring' })).toContainText('People: 4 new');
  await wren.getByRole('button', { name: 'Move in' }).click();
  await expect(wren.getByRole('status')).toContainText('8 facts were taken over');
  await wren.goto('/people?standing=comes&words=maersk');
  await expect(wren.getByRole('link', { name: 'Zoë Mærsk' })).toBeVisible();
});

test('an administrator sees as somebody else does, reading only', async ({ browser }) => {
  const marit = await personAt(browser, 'Marit Solheim', '/house/roles');
  const form = marit.getByRole('form', { name: 'See North Pebble as' });
  await form.getByRole('combobox', { name: 'As whom' }).fill('Ines Okoro');
  await marit.getByRole('option', { name: /Ines Okoro/ }).click();
  await form.getByLabel('Why').fill('She cannot find her balance.');
  await form.getByRole('button', { name: 'See North Pebble as they do' }).click();
  await expect(
    marit.getByText('Marit Solheim sees North Pebble as Ines Okoro does. Nothing can be changed.'),
  ).toBeVisible();
  await expect(marit.getByRole('link', { name: 'Workflows', exact: true })).toHaveCount(0);
  await askForLeave(marit, '04052026', '08052026');
  await marit.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(marit.getByText(/reading only/)).toBeVisible();
  await marit.getByRole('button', { name: 'Stop' }).click();
  await expect(marit.getByRole('heading', { name: 'Roles and rights' })).toBeVisible();
});

test('whoever decides for somebody is tried on any day, with why', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/people/decides?person=ines');
  await wren.getByRole('combobox', { name: 'What they ask for' }).click();
  await wren.getByRole('option', { name: 'Annual leave', exact: true }).click();
  await expect(wren.getByRole('status')).toContainText('Annual leave, asked by Ines Okoro on Mon 2 February 2026');
  await expect(wren.getByText('Tobias Fennimore', { exact: true })).toBeVisible();
  await expect(wren.getByText('Tide observer reports to Observatory lead').first()).toBeVisible();
});

test('a post is changed, acted on and closed', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/house/posts?standing=vacant');
  await expect(wren.getByRole('row', { name: /Watch lead/ })).toContainText('vacant: goes to');
  await wren.getByRole('link', { name: 'Watch lead' }).click();
  await wren.getByRole('button', { name: 'Somebody acts' }).click();
  const form = wren.getByRole('form', { name: /Somebody acts/ });
  await form.getByRole('combobox', { name: 'Who' }).fill('Alva Tarrant');
  await wren.getByRole('option', { name: /Alva Tarrant/ }).click();
  await typeDay(wren, 'From', '02022026');
  await typeDay(wren, 'To', '30042026');
  await saved(wren, 'Save', 'Until the post is filled.');
  const detail = wren.getByRole('region', { name: 'Watch lead' });
  await expect(detail).toContainText('Alva Tarrant from Mon 2 February to Thu 30 April, beside their own post');
  await detail.getByRole('button', { name: 'Change the post' }).click();
  await typeDay(wren, 'Closed: its last day', '31032026');
  await saved(wren, 'Save', 'The watch is led from Ambrel then.');
  await expect(detail).toContainText('closed: last day Tue 31 March');
});

test('the pages of the house have no faults for those who cannot see them well, light and dark, and fit a narrow screen', async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const wren = await personAt(browser, 'Wren Castellane', '/house/posts');
  for (const path of ['posts?post=lead', 'roles', 'patterns?pattern=crew', 'calendars', 'lists', 'changes', 'moving']) {
    await wren.goto(`/house/${path}`);
    await expect(wren.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(wren.getByRole('status', { name: 'Loading' })).toHaveCount(0);
    await axeFindsNothingInLightAndDark(wren);
    await wren.setViewportSize({ width: 390, height: 800 });
    const over = await wren.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
    expect([path, over]).toEqual([path, 0]);
    await wren.setViewportSize({ width: 1280, height: 800 });
    await wren.emulateMedia({ colorScheme: 'light' });
  }
});

test('somebody whom a request puts on file is there from their first day on, with who asked', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/people?standing=comes');
  await wren.getByRole('link', { name: 'Sunniva Falk' }).click();
  await expect(wren.getByText(/^comes on/).first()).toBeVisible();
  await expect(wren.getByRole('region', { name: 'Changes' })).toContainText('Sunniva Falk comes on');
  await wren
    .getByRole('region', { name: 'Changes' })
    .getByRole('link', { name: /^R-\d+$/ })
    .click();
  await expect(wren.getByText(/put Sunniva Falk on file from/).first()).toBeVisible();
});
