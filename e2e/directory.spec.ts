/** Access that is really given: the directory down, seen, back again; nothing says that it is done before it is. */
import { axeFindsNothing, axeFindsNothingInLightAndDark } from './axe.ts';
import { personAt } from './people.ts';
import { expect, test } from './test.ts';

test('access to a console while the directory is down: on its way, not claimed, and given once it is back', async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const wren = await personAt(browser, 'Wren Castellane', '/mailroom?show=directory');
  const members = async () =>
    Number(/(\d+) member/.exec((await wren.getByText(/^Ferry console: /).textContent()) ?? '')?.[1]);
  const before = await members();
  await wren.getByLabel('It is down: nobody answers').click();
  await expect(wren.getByText('The directory does not answer')).toBeVisible();

  const kofi = await personAt(browser, 'Kofi Adair');
  await kofi.getByRole('button', { name: /Ada Dunmore.*console/i }).click();
  await kofi.getByRole('button', { name: 'Take it' }).click();
  await kofi.getByLabel('Least access that will do').check();
  await kofi.getByRole('button', { name: 'Done', exact: true }).click();

  await wren.goto('/requests?whose=all&words=Ferry%20console&status=open');
  await wren
    .getByRole('link', { name: /Console access: Ferry console/ })
    .first()
    .click();
  await expect(wren.getByText('Directory: add to group').first()).toBeVisible();
  await expect(wren.getByText('Asked for, not done yet').first()).toBeVisible();
  await expect(wren.getByText(/Access given/)).toHaveCount(0);
  const request = wren.url();

  const marit = await personAt(browser, 'Marit Solheim', '/connections');
  // Another connection of the demo fails by itself.
  const failing = marit.getByText(/tried in vain/).filter({ hasNotText: '127.0.0.1:9.' });
  await expect(failing).toBeVisible({ timeout: 30_000 });
  await wren.goto('/mailroom?to=ada.dunmore');
  await expect(wren.getByText('You have access to Ferry console')).toHaveCount(0);

  await wren.goto('/mailroom?show=directory');
  await wren.getByLabel('It is down: nobody answers').click();
  await expect(wren.getByText('The directory does not answer')).toHaveCount(0);
  await marit.reload();
  await marit.getByRole('button', { name: 'Try now' }).first().click();
  await wren.goto(request);
  await expect(wren.getByText(/Access given/).first()).toBeVisible({ timeout: 30_000 });
  await wren.goto('/mailroom?show=directory');
  await expect.poll(members).toBe(before + 1);
  await wren.goto('/mailroom?to=ada.dunmore');
  await expect(wren.getByText('You have access to Ferry console').first()).toBeVisible({ timeout: 30_000 });
});

test('the directory of the demo is changed by hand, and has no faults for those who cannot see it well', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/mailroom?show=directory');
  const turned = await wren.request.put('/api/mailroom/directory/switches', {
    headers: { 'X-North-Pebble': '1' },
    data: { down: false },
  });
  expect(turned.status()).toBe(200);
  await wren.getByLabel('Filter by account or name').fill('ines.okoro');
  await wren.getByRole('button', { name: 'Disable ines.okoro by hand' }).click();
  await expect(wren.getByText('is disabled')).toBeVisible();
  await wren.getByRole('button', { name: 'Enable ines.okoro by hand' }).click();
  await expect(wren.getByText('can be used')).toBeVisible();
  await axeFindsNothingInLightAndDark(wren);
});

test('what somebody changed in the directory by hand is found, with its cause, and mended', async ({ browser }) => {
  test.setTimeout(120_000);
  const marit = await personAt(browser, 'Marit Solheim', '/connections');
  await marit.getByRole('link', { name: 'What differs' }).click();
  await marit.getByRole('button', { name: 'Compare now' }).click();
  await expect(marit.getByText(/things differ\.$/)).toBeVisible({ timeout: 30_000 });
  const rows = marit.getByRole('list', { name: 'Differences' }).getByRole('listitem');
  await expect(rows.filter({ hasText: 'ines.okoro: place “Skarn Light”, on file “Ovay Station”' })).toBeVisible();
  await expect(rows.filter({ hasText: 'tobias.fennimore (Tobias Fennimore) is in Tide console' })).toContainText(
    'No request gave it and no rule does',
  );
  await expect(rows.filter({ hasText: 'test.test (Test) can be used' })).toBeVisible();
  await axeFindsNothing(marit);
  // One by itself, then the others together.
  await marit.getByRole('button', { name: /^Set it right: ines\.okoro/ }).click();
  await expect(rows.filter({ hasText: 'ines.okoro: place' })).toContainText('Mended', { timeout: 30_000 });
  await marit.getByRole('button', { name: /^Mend all/ }).click();
  await marit.getByRole('button', { name: 'Mend them' }).click();
  // Each row must say it: that none is under way holds also before the first one has been asked for.
  await expect(rows.filter({ hasNotText: 'Mended' })).toHaveCount(0, { timeout: 30_000 });
  await marit.getByRole('button', { name: 'Compare now' }).click();
  await expect(marit.getByText('Everything is there as it should be')).toBeVisible({ timeout: 30_000 });
});
