/** Access that is given twice: what ends first takes nothing away. It moves the clock through spring, so it comes last. */
import { onDeskOf, personAt, send, sendNow, typeDay } from './people.ts';
import { expect, type Page, test } from './test.ts';

const console_ = 'Ferry console';

async function asks(ines: Page, until: string): Promise<string> {
  await ines.goto('/ask/console-access');
  await ines.getByRole('combobox', { name: 'Console' }).click();
  await ines.getByRole('option', { name: console_ }).click();
  await typeDay(ines, 'Until', until);
  await ines.getByRole('textbox', { name: 'What for' }).fill('The ferry tables of spring.');
  return send(ines);
}

test('one console given until April and until May stays until the end of May', async ({ browser }) => {
  test.setTimeout(180_000);
  const [ines, tobias, kofi, wren] = await Promise.all(
    ['Ines Okoro', 'Tobias Fennimore', 'Kofi Adair', 'Wren Castellane'].map(name => personAt(browser, name)),
  );
  const isMember = async () => {
    const room = await wren.request.get('/api/mailroom/directory?words=ines.okoro');
    const { accounts } = (await room.json()) as { accounts: { account: string; groups: string[] }[] };
    return accounts.find(one => one.account === 'ines.okoro')?.groups.includes(console_);
  };
  expect(await isMember()).toBe(false);
  const requests = [await asks(ines, '30042026'), await asks(ines, '29052026')];
  for (const request of requests) {
    await onDeskOf(tobias, request);
    await tobias.getByRole('button', { name: 'Approve', exact: true }).click();
    await sendNow(tobias);
    await onDeskOf(kofi, request);
    await kofi.getByRole('button', { name: 'Take it' }).click();
    await kofi.getByLabel('Least access that will do').check();
    await kofi.getByRole('button', { name: 'Done', exact: true }).click();
    await wren.goto(`/requests/${request}`);
    await expect(wren.getByText(/Access given/).first()).toBeVisible({ timeout: 30_000 });
  }
  await expect.poll(isMember).toBe(true);

  /** Forward to the morning of a day, whatever day the tests before have left the house at. */
  const moveTo = async (day: string) => {
    const { now } = (await (await wren.request.get('/api/session')).json()) as { now: string };
    const days = Math.round(
      (Date.parse(`${day}T00:00:00Z`) - Date.parse(`${now.slice(0, 10)}T00:00:00Z`)) / 86_400_000,
    );
    const data = { days, hours: 0 };
    expect((await wren.request.post('/api/clock', { headers: { 'X-North-Pebble': '1' }, data })).ok()).toBe(true);
  };
  await moveTo('2026-05-04');
  await expect(async () => {
    await wren.goto(`/requests/${requests[0]}`);
    await expect(wren.getByText(new RegExp(`${requests[1]} gives the same, so it stays`)).first()).toBeVisible({
      timeout: 2000,
    });
  }).toPass();
  expect(await isMember()).toBe(true);
  await moveTo('2026-06-01');
  await expect(async () => {
    await wren.goto(`/requests/${requests[1]}`);
    await expect(wren.getByText(/is taken back/).first()).toBeVisible({ timeout: 2000 });
  }).toPass();
  expect(await isMember()).toBe(false);
});
