/** The designer's place: a workflow written from nothing by keys alone and from a starter by mouse, proven and published. */
import { personAt, pressOn, reach, typeDay, typeInto } from './people.ts';
import { closeAll, expect, type Page, test } from './test.ts';

const margin = (page: Page) => page.getByRole('complementary', { name: 'Margin' });
const line = (page: Page, number: string) => page.getByRole('group', { name: new RegExp(`^Line ${number}, `) });

/** Writes a new line below another, by keys. */
async function write(page: Page, after: string, words: string): Promise<void> {
  await pressOn(page, line(page, after));
  await inWords(page, words);
}

/** Says in words what happens next, in the field that has just opened. */
async function inWords(page: Page, words: string): Promise<void> {
  const field = page.getByRole('textbox', { name: 'What happens next, in words' });
  await expect(field).toBeFocused();
  await page.keyboard.type(words);
  await expect(page.getByText('Enter takes it as it stands below.')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(field).toBeHidden();
}

/** Opens a section of the sheet, by keys. */
const section = (page: Page, name: string) =>
  pressOn(
    page,
    page.getByRole('navigation', { name: 'Sections' }).getByRole('button', { name: new RegExp(`^${name}`) }),
  );

async function addField(page: Page, label: string, kind?: string): Promise<void> {
  await pressOn(page, page.getByRole('button', { name: 'New field', exact: true }).first());
  const name = page.getByRole('textbox', { name: 'Label' });
  await expect(name).toHaveValue(/^New field/);
  await typeInto(page, name, label);
  await page.keyboard.press('Enter');
  if (!kind) return;
  await pressOn(page, page.getByRole('combobox', { name: 'Asks for' }));
  await reach(page, page.getByRole('option', { name: kind, exact: true }), 'ArrowDown');
  await page.keyboard.press('Enter');
}

test('from nothing to published with the keys alone', async ({ browser }) => {
  test.setTimeout(240_000);
  const wren = await (await browser.newContext()).newPage();
  await wren.goto('/');
  await pressOn(wren, wren.getByRole('button', { name: 'Wren Castellane' }));
  await expect(wren.getByRole('button', { name: 'Wren Castellane: your menu' })).toBeVisible();
  await wren.keyboard.press('/');
  await wren.keyboard.type('Workflows');
  await expect(wren.getByRole('option').first()).toContainText('Workflows');
  await wren.keyboard.press('Enter');
  await typeInto(wren, wren.getByRole('textbox', { name: 'A new workflow called' }), 'Diving day');
  await wren.keyboard.press('Enter');
  await expect(wren.getByRole('heading', { name: 'Diving day', level: 1 })).toBeVisible();
  await expect(margin(wren).getByText('The form asks nothing')).toBeVisible();

  await section(wren, 'Form');
  await addField(wren, 'Site');
  await addField(wren, 'Depth', 'a whole number');
  await pressOn(wren, wren.getByRole('checkbox', { name: 'Needed' }), ' ');
  await expect(margin(wren).getByText('The form asks nothing')).toBeHidden();

  await section(wren, 'Messages');
  await pressOn(wren, wren.getByRole('button', { name: 'New message' }));
  await typeInto(wren, wren.getByRole('textbox', { name: 'Name', exact: true }), 'Result');
  await typeInto(wren, wren.getByRole('textbox', { name: 'Subject' }), 'Your dive at {Siet}');
  await expect(margin(wren).getByText('“Siet” in the message “Result”')).toBeVisible();
  await pressOn(wren, margin(wren).getByRole('button', { name: 'Change to “Site”' }));
  await expect(margin(wren).getByText('“Siet” in the message “Result”')).toBeHidden();
  for (const closing of ['Done', 'Declined']) {
    const told = margin(wren).getByText(`The asker is not told of “${closing}”`);
    await expect(told).toBeVisible();
    await pressOn(wren, margin(wren).getByRole('button', { name: 'Send “Result”' }).first());
    await expect(told).toBeHidden();
  }

  await section(wren, 'Steps');
  await write(wren, '1', 'if Depth is at most 10, close as Done');
  await write(wren, '2', 'line manager, else HR partner decides in turn within 2 working days, send back for Depth');
  await write(wren, '3', 'split into Gear, Boat');
  await pressOn(wren, wren.getByRole('button', { name: 'First line in Gear' }));
  await inWords(wren, 'Stores desk lays out the gear within 1 day');
  await pressOn(wren, wren.getByRole('button', { name: 'First line in Boat' }));
  await inWords(wren, 'Travel desk books the boat within 2 days');
  await expect(line(wren, '4b1')).toContainText('Books the boat');
  await expect(line(wren, '3')).toContainText('decides in turn within 2 working days');
  await expect(margin(wren).getByText('Nothing found')).toBeVisible();

  // A second row of the table, written by keys, that can never match.
  await pressOn(wren, line(wren, '2').getByRole('button', { name: /^More for line 2/ }));
  await reach(wren, wren.getByRole('menuitem', { name: 'Another row' }), 'ArrowDown');
  await wren.keyboard.press('Enter');
  await pressOn(
    wren,
    line(wren, '2')
      .getByRole('button', { name: /change the condition/ })
      .last(),
  );
  await typeInto(wren, wren.getByRole('textbox', { name: 'Condition' }), 'Depth is below 5');
  await wren.keyboard.press('Enter');
  await expect(margin(wren).getByText('Row 2 can never match')).toBeVisible();
  await expect(wren.getByRole('button', { name: 'Publish', exact: true })).toBeDisabled();
  await pressOn(wren, margin(wren).getByRole('button', { name: 'Take the row out' }));
  await expect(margin(wren).getByText('Nothing found')).toBeVisible();

  // Moved up and down again, and taken back.
  await pressOn(wren, line(wren, '3'), 'Alt+ArrowDown');
  await expect(line(wren, '3')).toContainText('lanes side by side');
  await wren.keyboard.press('Control+z');
  await expect(line(wren, '3')).toContainText('decides in turn');

  await expect(wren.getByText('Draft, saved')).toBeVisible();
  await pressOn(wren, wren.getByRole('button', { name: 'Publish', exact: true }));
  await typeInto(wren, wren.getByRole('textbox', { name: 'What changes' }), 'The first version.');
  await pressOn(wren, wren.getByRole('button', { name: 'Publish version 1' }));
  await expect(wren.getByText('version 1 is live with')).toBeVisible();
  await wren.keyboard.press('Control+k');
  await wren.keyboard.type('Diving day');
  await expect(wren.getByRole('option').first()).toContainText('Ask for diving day');
  await wren.keyboard.press('Enter');
  await expect(wren.getByRole('textbox', { name: 'Depth' })).toBeVisible();
});

test.describe('from a starter, by mouse', () => {
  test.describe.configure({ mode: 'serial' });
  let wren: Page;
  test.afterAll(() => closeAll(wren));

  test.beforeAll(async ({ browser }) => {
    wren = await personAt(browser, 'Wren Castellane', '/workflows');
  });

  test('a starter becomes a draft of one’s own, without findings', async () => {
    await wren.getByRole('button', { name: 'Begin from Equipment' }).click();
    await expect(wren.getByRole('heading', { name: 'Equipment', level: 1 })).toBeVisible();
    await expect(margin(wren).getByText('Nothing found')).toBeVisible();
  });

  test('the form is changed beside the field, and seen as somebody else', async () => {
    await wren.getByRole('navigation', { name: 'Sections' }).getByRole('button', { name: /^Form/ }).click();
    await wren.getByRole('button', { name: 'Thing', exact: true }).click();
    await wren.getByRole('textbox', { name: 'Label' }).fill('What');
    await wren.getByRole('textbox', { name: 'Label' }).press('Enter');
    await expect(wren.getByRole('button', { name: 'figure “Cost”: What.Price * How many' })).toBeVisible();
    await wren.getByRole('button', { name: 'What', exact: true }).click();
    const seen = wren.getByRole('region', { name: 'As it will be seen' });
    await expect(seen.getByRole('combobox', { name: 'What', exact: true })).toBeVisible();
    await expect(seen.getByText('Shelf or order number')).toHaveCount(0);
    await seen.getByRole('combobox', { name: 'At', exact: true }).click();
    await wren.getByRole('option', { name: /Do$/ }).click();
    await expect(seen.getByRole('textbox', { name: 'Shelf or order number' })).toBeEnabled();
  });

  test('a rehearsal walks through it, skips time, and is kept as a check', async () => {
    await wren.getByRole('navigation', { name: 'Sections' }).getByRole('button', { name: 'Rehearse' }).click();
    await wren.getByRole('combobox', { name: 'Who asks' }).fill('Ines Okoro');
    await wren.getByRole('option', { name: 'Ines Okoro' }).click();
    await wren.getByRole('combobox', { name: 'What', exact: true }).click();
    await wren.getByRole('option', { name: 'Survival suit' }).click();
    await typeDay(wren, 'Needed by', '02032026');
    await wren.getByRole('button', { name: 'Begin the rehearsal' }).click();
    await expect(wren.getByRole('heading', { name: 'You are Tobias Fennimore, step 3' })).toBeVisible();
    await expect(wren.getByText(/took a line of the table at step 2/)).toBeVisible();

    // Nobody answers: a reminder, then the limit passes it to the manager above.
    await wren.getByRole('button', { name: 'A week later' }).click();
    await expect(wren.getByText(/the limit passed; passed to Leif Auerbach/)).toBeVisible();
    await expect(wren.getByRole('heading', { name: 'You are Leif Auerbach, step 3' })).toBeVisible();
    await wren.getByRole('button', { name: 'One step back' }).click();
    await wren.getByRole('button', { name: 'Approve', exact: true }).click();
    await wren.getByRole('textbox', { name: 'Shelf or order number' }).fill('C2');
    await wren.getByRole('button', { name: 'Done', exact: true }).click();
    await expect(wren.getByText('It ends: Handed out')).toBeVisible();
    await expect(wren.getByText('1 × Survival suit: C2')).toBeVisible();
    await wren.getByRole('textbox', { name: 'Keep this as a check called' }).fill('One suit for Ines');
    await wren.getByRole('button', { name: 'Keep it' }).click();
    await expect(
      margin(wren)
        .getByText(/was never tried/)
        .first(),
    ).toBeVisible();
  });

  test('the kept check fails after a harmful change, and stops publishing', async () => {
    await wren
      .getByRole('navigation', { name: 'Sections' })
      .getByRole('button', { name: /^Steps/ })
      .click();
    await line(wren, '2').getByRole('button', { name: '100: change the value' }).click();
    await wren.getByRole('textbox', { name: 'Number' }).fill('700');
    await wren.getByRole('button', { name: 'Change', exact: true }).click();
    await expect(margin(wren).getByText('The check “One suit for Ines” has another result')).toBeVisible();
    await expect(wren.getByRole('button', { name: 'Publish', exact: true })).toBeDisabled();
    await wren.getByRole('button', { name: 'Undo' }).click();
    await expect(margin(wren).getByText('has another result')).toBeHidden();
  });

  test('twenty edits are undone one by one, and done again', async () => {
    await line(wren, '4')
      .getByRole('button', { name: /change how answers are counted/ })
      .waitFor();
    const steps = () => wren.getByRole('list', { name: 'Steps' }).textContent();
    const before = await steps();
    for (let n = 1; n <= 20; n++) {
      await line(wren, '3')
        .getByRole('button', { name: /working days?: change the limit/ })
        .click();
      await wren.getByRole('textbox', { name: 'Within' }).fill(String(n + 3));
      await wren.getByRole('button', { name: 'Change', exact: true }).click();
    }
    await expect(line(wren, '3')).toContainText('within 23 working days');
    for (let n = 0; n < 20; n++) await wren.getByRole('button', { name: 'Undo' }).click();
    // Lines are drawn a moment after the keys, so that typing never waits for them.
    await expect.poll(steps).toBe(before);
    for (let n = 0; n < 20; n++) await wren.getByRole('button', { name: 'Redo' }).click();
    await expect(line(wren, '3')).toContainText('within 23 working days');
    for (let n = 0; n < 20; n++) await wren.getByRole('button', { name: 'Undo' }).click();
  });

  test('it is published, changed, compared, and an older version used again', async () => {
    await expect(wren.getByText('Draft, saved')).toBeVisible();
    await wren.getByRole('button', { name: 'Publish', exact: true }).click();
    await wren.getByRole('textbox', { name: 'What changes' }).fill('From the starter.');
    await wren.getByRole('button', { name: 'Publish version 1' }).click();
    await expect(wren.getByText('version 1 is live with')).toBeVisible();
    // The sheet begins again from what is live: what is opened before that is closed with the old one.
    await expect(wren.getByText('New requests begin on it; open ones finish on their own version.')).toBeVisible();
    await line(wren, '3').getByRole('button', { name: 'within 2 working days: change the limit' }).click();
    await wren.getByRole('textbox', { name: 'Within' }).fill('4');
    await wren.getByRole('button', { name: 'Change', exact: true }).click();
    await wren
      .getByRole('navigation', { name: 'Sections' })
      .getByRole('button', { name: /^Versions/ })
      .click();
    const compared = wren.getByRole('region', { name: 'Compare' });
    await expect(compared.getByText('1 changed')).toBeVisible();
    await expect(compared.locator('del')).toHaveText('2');
    await expect(compared.locator('ins')).toHaveText('4');
    await expect(wren.getByText('Draft, saved')).toBeVisible();
    await wren.getByRole('button', { name: 'Draft from this version' }).click();
    await wren.getByRole('button', { name: 'Use version 1' }).click();
    await expect(compared.getByText('Nothing differs')).toBeVisible();
  });
});

test('two designers on one draft are told, and nothing is overwritten', async ({ browser }) => {
  const first = await personAt(browser, 'Wren Castellane', '/workflows/shared-space');
  const second = await personAt(browser, 'Wren Castellane', '/workflows/shared-space');
  await expect(margin(second).getByText('Nothing found')).toBeVisible({ timeout: 30_000 });
  const change = async (page: Page, days: string) => {
    await line(page, '2').getByRole('button', { name: 'within 2 working days: change the limit' }).click();
    await page.getByRole('textbox', { name: 'Within' }).fill(days);
    await page.getByRole('button', { name: 'Change', exact: true }).click();
  };
  await change(first, '3');
  await expect(first.getByText('Draft, saved')).toBeVisible();
  // Told before anything is typed in the second, which can go on either way.
  await expect(second.getByText(/saved this draft .* in another window/)).toBeVisible({ timeout: 20_000 });
  await change(second, '5');
  await second.getByRole('button', { name: 'Save mine over it' }).click();
  await expect(second.getByText('Draft, saved')).toBeVisible();
  await expect(first.getByText(/saved this draft .* in another window/)).toBeVisible({ timeout: 20_000 });
  await first.getByRole('button', { name: 'Go on from theirs' }).click();
  await expect(line(first, '2')).toContainText('within 5 working days');
  await first.getByRole('button', { name: 'Undo' }).click();
  await expect(line(first, '2')).toContainText('within 3 working days');
  await expect(first.getByText('Draft, saved')).toBeVisible();
  // Discarded only when that is meant, and had back with one click.
  await first.getByRole('button', { name: 'Discard draft' }).click();
  await first.getByRole('button', { name: 'Leave it' }).click();
  await expect(line(first, '2')).toContainText('within 3 working days');
  await first.getByRole('button', { name: 'Discard draft' }).click();
  await first.getByRole('button', { name: 'Discard it' }).click();
  await expect(line(first, '2')).toContainText('within 2 working days');
  await first.getByRole('button', { name: 'Bring it back' }).click();
  await expect(line(first, '2')).toContainText('within 3 working days');
  await expect(first.getByText('Draft, saved')).toBeVisible();
  await first.getByRole('button', { name: 'Discard draft' }).click();
  await first.getByRole('button', { name: 'Discard it' }).click();
  await expect(first.getByText('As published; a change begins a draft')).toBeVisible();
});

test('lines are copied to another workflow, and a file that is none is refused at its place', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/annual-leave');
  await wren.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await line(wren, '6').press('Control+c');
  await expect(wren.getByText(/^Copied\./)).toBeVisible();
  await wren.goto('/workflows/compensation-time');
  await line(wren, '3').press('Control+v');
  await expect(line(wren, '4')).toContainText('Send');
  await expect(margin(wren).getByText('Step 4 has no message to send')).toBeVisible();
  await wren.getByRole('button', { name: 'Undo' }).click();
  await expect(margin(wren).getByText('Step 4 has no message to send')).toBeHidden();

  const file = wren.getByLabel('Workflow file');
  const give = (name: string, text: string) =>
    file.setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  await give('note.txt', 'hello');
  await expect(wren.getByRole('alert')).toContainText('neither JSON nor BPMN');
  await give('new.json', '{"formatVersion": 99}');
  await expect(wren.getByRole('alert')).toContainText('newer than this version reads');
  await give('half.bpmn', '<?xml version="1.0"?><definitions');
  await expect(wren.getByRole('alert')).toContainText('no BPMN 2.0');
  await give('large.json', ' '.repeat(6_000_000));
  await expect(wren.getByRole('alert')).toContainText('at most 5 MB');

  // Out as BPMN and in again: the same workflow.
  const before = await wren.getByRole('list', { name: 'Steps' }).textContent();
  const download = wren.waitForEvent('download');
  await wren.getByRole('button', { name: 'Save as BPMN' }).click();
  await file.setInputFiles(await (await download).path());
  await expect(wren.getByRole('alert')).toHaveCount(0);
  expect(await wren.getByRole('list', { name: 'Steps' }).textContent()).toBe(before);
  await wren.getByRole('button', { name: 'Discard draft' }).click();
  await wren.getByRole('button', { name: 'Discard it' }).click();
  await expect(wren.getByText('As published; a change begins a draft')).toBeVisible();
});
