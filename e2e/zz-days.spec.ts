/** Last days, as the clock brings them: it moves the whole house, so this comes after all else. */
import { personAt, personBy, sendNow, typeDay } from './people.ts';
import { expect, test } from './test.ts';

test('whoever leaves is shown with what they hold, and their account ends at five on the last day', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows');
  await wren.getByRole('button', { name: 'Begin from Leaver' }).click();
  await wren.getByRole('button', { name: 'Publish', exact: true }).click();
  await wren.getByRole('textbox', { name: 'What changes' }).fill('From the starter.');
  await wren.getByRole('button', { name: 'Publish version 1' }).click();
  await expect(wren.getByText(/version 1 is live/)).toBeVisible();
  const workflow = new URL(wren.url()).pathname.split('/').at(-1);
  const { now } = (await (await wren.request.get('/api/session')).json()) as { now: string };
  const [year, month, day] = now.slice(0, 10).split('-');

  const ines = await personAt(browser, 'Ines Okoro', `/ask/${workflow}`);
  await typeDay(ines, 'Last day', `${day}${month}${year}`);
  await ines.getByRole('combobox', { name: 'Why' }).click();
  await ines.getByRole('option', { name: 'Own wish' }).click();
  await ines.getByRole('button', { name: 'Send', exact: true }).click();
  await ines.waitForURL(/\/requests\/R-\d+$/);
  const request = ines.url().split('/').at(-1) ?? '';
  const tobias = await personAt(browser, 'Tobias Fennimore', `/desk?item=${request}`);
  await tobias.getByRole('button', { name: 'Approve', exact: true }).click();
  await sendNow(tobias);
  const kofi = await personAt(browser, 'Kofi Adair', `/requests/${request}`);
  await expect(kofi.getByRole('region', { name: 'What Ines Okoro holds' })).toBeVisible();
  await kofi.getByRole('button', { name: 'Take it' }).click();
  await kofi.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(kofi.getByText(/did step/).first()).toBeVisible();

  const forward = async (to: number) => {
    const { now: at } = (await (await wren.request.get('/api/session')).json()) as { now: string };
    const moved = await wren.request.post('/api/clock', {
      headers: { 'X-North-Pebble': '1' },
      data: { days: 0, hours: to - Number(at.slice(11, 13)) },
    });
    expect(moved.status()).toBe(200);
  };
  const account = async () => {
    await wren.goto('/mailroom?show=directory');
    await wren.getByLabel('Filter by account or name').fill('ines.okoro');
  };
  await forward(16);
  await account();
  await expect(wren.getByText('can be used').first()).toBeVisible();
  await forward(17);
  await account();
  await expect(wren.getByText('is disabled').first()).toBeVisible({ timeout: 30_000 });
});

test('the joiner of before gets to the first day: every lane finished, the account made, and everybody told the evening before', async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const wren = await personAt(browser, 'Wren Castellane', '/requests?whose=all&words=Mika+Ødegård');
  await wren
    .getByRole('link', { name: /Mika Ødegård/ })
    .first()
    .click();
  await wren.waitForURL(/\/requests\/R-\d+/);
  const request = /R-\d+/.exec(wren.url())?.[0] ?? '';
  type Seen = { tasks: { step: string; holder: string }[]; closing: string | null };
  const seen = async () => (await (await wren.request.get(`/api/requests/${request}`)).json()) as Seen;
  const directory = (await (await wren.request.get('/api/directory')).json()) as {
    people: { id: string; mail: string }[];
  };

  // Whoever has something to do takes it, ticks what there is to tick, and is done.
  for (let open = (await seen()).tasks; open.length > 0; open = (await seen()).tasks) {
    const [{ holder, step }] = open;
    const mail = directory.people.find(one => one.id === holder)?.mail.split('@')[0] ?? '';
    const page = await personBy(browser, mail, `/requests/${request}`);
    const take = page.getByRole('button', { name: 'Take it' });
    // Until all is ticked it says how much is open.
    const done = page.getByRole('button', { name: /^Done/ });
    await expect(take.or(done).first()).toBeVisible();
    if (await take.isVisible()) await take.click();
    await expect(done).toBeVisible();
    for (const box of await page.getByRole('checkbox').all()) await box.check();
    const account = page.getByRole('textbox', { name: 'Account name' });
    if (await account.isVisible()) await account.fill('mika.odegard');
    await done.click();
    await expect.poll(async () => (await seen()).tasks.some(one => one.step === step), { timeout: 15_000 }).toBe(false);
    await page.context().close();
  }

  await wren.goto('/mailroom?show=directory');
  await wren.getByLabel('Filter by account or name').fill('mika.odegard');
  const account = wren.getByText('mika.odegard').first();
  await expect(account).toBeVisible({ timeout: 30_000 });
  await wren.goto(`/requests/${request}`);
  // The account is there before anybody is told of it, and in the groups that go with the post.
  await wren.getByRole('button', { name: /^Why heard that step 3b2 is done/ }).click();
  await expect(
    wren.getByText(/In the groups that go with the post and the place: House news/).filter({ visible: true }),
  ).toBeVisible();
  expect((await seen()).closing).toBeNull();

  const { now } = (await (await wren.request.get('/api/session')).json()) as { now: string };
  const days = Math.round(
    (Date.parse('2026-03-12T00:00:00Z') - Date.parse(`${now.slice(0, 10)}T00:00:00Z`)) / 86_400_000,
  );
  const moved = await wren.request.post('/api/clock', {
    headers: { 'X-North-Pebble': '1' },
    data: { days, hours: 0 },
    timeout: 60_000,
  });
  expect(moved.status()).toBe(200);
  await expect.poll(async () => (await seen()).closing, { timeout: 60_000 }).not.toBeNull();
  await wren.goto('/mailroom?to=tobias');
  await expect(wren.getByText('Mika Ødegård starts on').first()).toBeVisible({ timeout: 30_000 });
});
