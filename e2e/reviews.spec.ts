/** Access looked at again: many at once, one taken away, done when the directory has done it. */
import { axeFindsNothing, axeFindsNothingInLightAndDark } from './axe.ts';
import { personAt } from './people.ts';
import { expect, test } from './test.ts';

test('the steward answers several at once; what is taken away is gone from the directory, and said only then', async ({
  browser,
}) => {
  const kofi = await personAt(browser, 'Kofi Adair');
  await kofi.getByRole('link', { name: /accesses wait for your word/ }).click();
  const waits = kofi.getByRole('region', { name: 'Waits for you' });
  await expect(waits).toContainText('Tide console');
  await axeFindsNothingInLightAndDark(kofi);
  const name =
    (await waits
      .getByRole('checkbox', { name: / in Tide console$/ })
      .first()
      .getAttribute('aria-label')) ?? '';
  const person = name.replace(' in Tide console', '');
  await waits.getByLabel(name).check();
  await waits.getByLabel(/^Why/).fill('Works at the harbour now.');
  await waits.getByRole('button', { name: 'Take it away' }).click();
  await expect(kofi.getByLabel(name)).toHaveCount(0);
  await waits.getByLabel(/^All \d+ of Tide console/).check();
  await waits.getByRole('button', { name: /^These \d+ stay/ }).click();
  await expect(kofi.getByLabel(/ in Tide console$/)).toHaveCount(0);

  const marit = await personAt(browser, 'Marit Solheim', '/reviews');
  await marit.getByRole('button', { name: 'Everything of it' }).click();
  const item = marit.getByRole('list', { name: 'Of this round' }).getByRole('listitem').filter({ hasText: person });
  await expect(item).toContainText('Tide console: taken away', { timeout: 30_000 });
  await expect(item).toContainText('“Works at the harbour now.”');
  await axeFindsNothing(marit);
});
