/** What HR keeps of people: found, changed for a coming day with what follows, taken back; the next request goes to the new manager. */
import { axeFindsNothingInLightAndDark } from './axe.ts';
import { askForLeave, personAt, personBy, send, typeDay } from './people.ts';
import { expect, test } from './test.ts';

test('hours are changed for a coming day with what follows, seen by the person, and taken back', async ({
  browser,
}) => {
  const mira = await personBy(browser, 'mira.kell');
  await askForLeave(mira, '04052026', '08052026');
  const request = await send(mira);

  const wren = await personAt(browser, 'Wren Castellane', '/people');
  await wren.getByLabel('Name, post, place or department').fill('mira observ');
  await wren.getByRole('link', { name: 'Mira Kell' }).click();
  await expect(wren.getByRole('list', { name: 'Work pattern' }).getByRole('listitem')).toHaveCount(1);
  await wren.getByRole('button', { name: 'Change the record' }).click();
  const form = wren.getByRole('form', { name: 'Change the record' });
  await form.getByRole('combobox', { name: 'Work pattern' }).click();
  await wren.getByRole('option', { name: /three/i }).click();
  await typeDay(wren, 'From', '01042026');
  await form.getByRole('button', { name: 'See what follows' }).click();
  const follows = form.getByRole('region', { name: 'What follows' });
  await expect(follows).toContainText('Work pattern from Wed 1 April 2026');
  await expect(follows.getByRole('listitem').filter({ hasText: request })).toContainText('→ 3 days');
  // Without a reason it is not made.
  await expect(form.getByRole('button', { name: 'Make the change' })).toBeDisabled();
  await form.getByLabel('Why').fill('She studies on two days.');
  await form.getByRole('button', { name: 'Make the change' }).click();
  await expect(wren.getByRole('list', { name: 'Work pattern' }).getByRole('listitem')).toHaveCount(2);
  const changes = wren.getByRole('region', { name: 'Changes' });
  await expect(changes).toContainText('Wren Castellane');
  await expect(changes).toContainText('She studies on two days.');

  // She sees it of herself, and changes nothing; others see where she works, and nothing of her hours.
  await mira.goto('/people/mira-kell');
  await expect(mira.getByRole('list', { name: 'Work pattern' }).getByRole('listitem')).toHaveCount(2);
  await expect(mira.getByRole('button', { name: 'Change the record' })).toHaveCount(0);
  const per = await personBy(browser, 'per.lauder', '/people/mira-kell');
  await expect(per.getByText(/is seen by them, by the line above/)).toBeVisible();
  await expect(per.getByRole('list', { name: 'Work pattern' })).toHaveCount(0);

  await changes.getByRole('button', { name: 'Take it back' }).click();
  await changes.getByLabel('Why it is taken back').fill('The course was called off.');
  await changes.getByRole('button', { name: 'Take it back', exact: true }).click();
  await expect(wren.getByRole('list', { name: 'Work pattern' }).getByRole('listitem')).toHaveCount(1);
  await expect(changes).toContainText('Taken back');
});

test('somebody new is put on file, and found without the marks of their letters', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/people');
  await wren.getByRole('button', { name: 'Somebody new' }).click();
  const form = wren.getByRole('form', { name: 'Somebody new' });
  await form.getByLabel('Name', { exact: true }).fill('Bjørg Åsgaard');
  await form.getByLabel('Mail address').fill('bjorg.asgaard@selkie.example');
  await typeDay(wren, 'First day', '16032026');
  for (const [field, value] of [
    ['Place', 'Ovay Station'],
    ['Department', 'Observatory'],
    ['Leave plan', 'Standard'],
  ]) {
    await form.getByRole('combobox', { name: field, exact: true }).click();
    await wren.getByRole('option', { name: value, exact: true }).click();
  }
  await form.getByRole('combobox', { name: 'Work pattern' }).click();
  await wren.getByRole('option', { name: 'Ovay office' }).click();
  await form.getByRole('button', { name: 'See what follows' }).click();
  await expect(form.getByText('Bjørg Åsgaard comes on Mon 16 March 2026.')).toBeVisible();
  await form.getByLabel('Why').fill('Signed on Friday.');
  await form.getByRole('button', { name: 'Put them on file' }).click();
  await expect(form).toHaveCount(0);
  await wren.goto('/people?standing=comes&words=bjorg+asg');
  await wren.getByRole('link', { name: 'Bjørg Åsgaard' }).click();
  await expect(wren.getByText('comes on Mon 16 March', { exact: true })).toBeVisible();
  await expect(wren).toHaveURL(/\/people\/bjorg-asgaard$/);
});

test('a post is moved with its branch: the open request stays where it is, the next one goes to the new manager', async ({
  browser,
}) => {
  const alva = await personBy(browser, 'alva.tarrant');
  await askForLeave(alva, '13042026', '17042026');
  const first = await send(alva);
  await expect(alva.getByText(/waits for Tobias Fennimore/).first()).toBeVisible();

  const wren = await personAt(browser, 'Wren Castellane', '/people/lines');
  await wren.getByRole('button', { name: 'Open all' }).click();
  // By keys alone: down to her post, and M for moving it.
  const own = wren.getByRole('treeitem', { name: /Alva Tarrant/ });
  await wren.getByRole('treeitem').first().focus();
  // Only what is near is drawn: her line is there once one comes to it.
  const here = wren.getByRole('treeitem').and(wren.locator(':focus'));
  for (let n = 0; n < 300 && !(await here.textContent())?.includes('Alva Tarrant'); n += 1)
    await wren.keyboard.press('ArrowDown');
  await expect(own).toBeFocused();
  await wren.keyboard.press('m');
  const form = wren.getByRole('form', { name: 'Move Instrument supervisor' });
  await form.getByRole('combobox', { name: 'Reports to' }).fill('Workshop lead');
  await wren.getByRole('option', { name: /Workshop lead/ }).click();
  await typeDay(wren, 'From', '02022026');
  await form.getByRole('button', { name: 'See what follows' }).click();
  const follows = form.getByRole('region', { name: 'What follows' });
  await expect(follows.getByText(/Alva Tarrant: Tobias Fennimore → /)).toBeVisible();
  await expect(follows.getByText(/, with Tobias Fennimore/).first()).toBeVisible();
  const next = /→ (.*)$/.exec((await follows.getByText(/Alva Tarrant: Tobias/).textContent()) ?? '')?.[1] ?? '';
  await form.getByLabel('Why').fill('Gauges are mended by the workshop.');
  await form.getByRole('button', { name: 'Move it' }).click();
  await expect(form).toHaveCount(0);

  await askForLeave(alva, '20042026', '24042026');
  await send(alva);
  await expect(alva.getByText(`waits for ${next}`).first()).toBeVisible();
  await alva.goto(`/requests/${first}`);
  await expect(alva.getByText(/waits for Tobias Fennimore/).first()).toBeVisible();
});

test('what stands in the way is said at its place; people and a person have no faults for those who cannot see them well', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/people/ada-dunmore');
  await wren.getByRole('button', { name: 'Change the record' }).click();
  const form = wren.getByRole('form', { name: 'Change the record' });
  await form.getByRole('combobox', { name: 'What changes' }).click();
  await wren.getByRole('option', { name: 'Post', exact: true }).click();
  await form.getByRole('combobox', { name: 'Post', exact: true }).fill('Observatory lead');
  await wren.getByRole('option', { name: /Observatory lead/ }).click();
  await typeDay(wren, 'From', '01042026');
  await form.getByRole('button', { name: 'See what follows' }).click();
  await expect(form.getByText(/Tobias Fennimore holds it on Wed 1 April 2026/)).toBeVisible();
  for (const path of ['/people?words=ova', '/people/tobias', '/people/lines']) {
    await wren.goto(path);
    await expect(wren.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(wren.getByText('Tobias Fennimore').first()).toBeVisible();
    await axeFindsNothingInLightAndDark(wren);
  }
});
