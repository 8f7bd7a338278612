/** Every view can be read by everybody: axe finds nothing, in light and dark, and narrow screens fit. */
import { axeFindsNothing, axeFindsNothingInLightAndDark } from './axe.ts';
import { personAt } from './people.ts';
import { expect, test } from './test.ts';

const views: [who: string, path: string, shows: string][] = [
  ['Tobias Fennimore', '/desk', 'Open the full request'],
  ['Tobias Fennimore', '/cover', 'Somebody is to stand in'],
  ['Ines Okoro', '/desk', 'Your balance'],
  ['Ines Okoro', '/ask/annual-leave', 'Remark (may stay empty)'],
  ['Ines Okoro', '/ask/sick-leave', 'Only the HR partner reads it.'],
  ['Ines Okoro', '/mails', 'What comes to you'],
  ['Ines Okoro', '/requests', 'Yours'],
  ['Ines Okoro', '/balances', 'Plan: Standard'],
  ['Ines Okoro', '/planner', 'Reports to Observatory lead'],
  ['Marit Solheim', '/connections', 'What did not go through'],
  ['Marit Solheim', '/accounts', 'Invite somebody'],
  ['Wren Castellane', '/stuck', 'What cannot go on'],
  ['Wren Castellane', '/requests?whose=all&words=leave&from=2025-01-01', 'Where it stands'],
  ['Wren Castellane', '/requests/R-2584', 'Trail'],
  ['Wren Castellane', '/workflows', 'Compensation time'],
  ['Wren Castellane', '/workflows/compensation-time', 'would get stuck'],
  ['Wren Castellane', '/workflows/annual-leave', 'Nothing found'],
  ['Wren Castellane', '/workflows/new-colleague', 'Nothing found'],
  ['Wren Castellane', '/workflows/new-colleague?section=About', 'Who may ask'],
  ['Wren Castellane', '/workflows/crossing-and-lodging?section=Form&field=lead', 'As it will be seen'],
  ['Wren Castellane', '/workflows/annual-leave?section=Figures', 'What a formula can do'],
  ['Wren Castellane', '/workflows/crossing-and-lodging?section=Messages', 'How it can end'],
  ['Wren Castellane', '/workflows/annual-leave?section=Rehearse', 'Begin the rehearsal'],
  ['Wren Castellane', '/workflows/annual-leave?section=Versions', 'Open requests on older versions'],
  ['Wren Castellane', '/mailroom', 'Nothing leaves the demo'],
];

for (const who of new Set(views.map(([name]) => name))) {
  test(`axe finds nothing in what ${who} sees, in light and in dark`, async ({ browser }) => {
    test.setTimeout(200_000);
    const page = await personAt(browser, who);
    for (const [, path, shows] of views.filter(([name]) => name === who)) {
      await page.goto(path);
      // The first of all is asked of a server that has only just begun.
      await expect(page.getByText(shows).first()).toBeVisible({ timeout: 30_000 });
      await axeFindsNothingInLightAndDark(page);
    }
    await page.context().close();
  });
}

test('axe finds nothing where one signs in', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText('Sign in as')).toBeVisible();
  await axeFindsNothing(page);
});

test('asking and deciding fit a screen of 390 pixels', async ({ browser }) => {
  for (const [who, path] of [
    ['Ines Okoro', '/ask/annual-leave'],
    ['Ines Okoro', '/requests?whose=held&status=open'],
    ['Wren Castellane', '/requests/R-2584'],
    ['Tobias Fennimore', '/desk'],
  ]) {
    const page = await personAt(browser, who);
    await page.setViewportSize({ width: 390, height: 800 });
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect(overflow).toBeLessThanOrEqual(0);
    await page.context().close();
  }
});

test('find or do leads to a place with the keyboard alone', async ({ browser }) => {
  const page = await personAt(browser, 'Ines Okoro');
  await page.keyboard.press('/');
  await expect(page.getByRole('combobox')).toBeFocused();
  await page.keyboard.type('ask for comp');
  await expect(page.getByRole('option', { name: 'Ask for compensation time' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Ask for compensation time' })).toBeVisible();
});
