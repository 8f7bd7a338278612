/** The rest of what can be changed on the sheet, withdrawing, and the clock. */
import { askForLeave, personAt, personBy, send } from './people.ts';
import { expect, test } from './test.ts';

test('who decides, the limit and the fields of rework are changed in place, by keyboard', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/compensation-time');
  await expect(wren.getByText('would get stuck')).toBeVisible();

  // The fallback that the finding offers mends it.
  await wren.getByRole('button', { name: 'Else ask an HR partner' }).click();
  await expect(wren.getByText('Nothing found')).toBeVisible();
  await expect(
    wren
      .getByRole('list', { name: 'Steps' })
      .getByText('the asker’s line manager, else anyone with the role HR partner'),
  ).toBeVisible();

  await wren.getByRole('button', { name: 'within 3 working days: change the limit' }).press('Enter');
  await wren.getByRole('textbox', { name: 'Within' }).fill('1');
  await wren.getByRole('textbox', { name: 'Within' }).press('Enter');
  await expect(wren.getByRole('list', { name: 'Steps' })).toContainText('decides within 1 working day.');

  await wren.getByRole('button', { name: 'Dates, Earned with: change the fields' }).press('Enter');
  await wren.getByRole('checkbox', { name: 'Earned with' }).press(' ');
  await wren.getByRole('button', { name: 'Change', exact: true }).press('Enter');
  await expect(wren.getByRole('button', { name: 'Dates: change the fields' })).toBeVisible();

  for (let i = 0; i < 3; i++) await wren.keyboard.press('Control+z');
  await expect(wren.getByRole('button', { name: 'Dates, Earned with: change the fields' })).toBeVisible();
  await expect(wren.getByText('would get stuck')).toBeVisible();
  await wren.keyboard.press('Control+y');
  await expect(wren.getByText('Nothing found')).toBeVisible();
  await expect(wren.getByText('Draft, saved')).toBeVisible();

  // The browser closed halfway loses nothing.
  await wren.reload();
  await expect(wren.getByText('Nothing found')).toBeVisible();
  await wren.getByRole('button', { name: 'Discard draft' }).click();
  await wren.getByRole('button', { name: 'Discard it' }).click();
  await expect(wren.getByText('As published; a change begins a draft')).toBeVisible();
});

test('a workflow taken out as a file is read back as the same', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/compensation-time');
  const download = wren.waitForEvent('download');
  await wren.getByRole('button', { name: 'Save as file' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('compensation-time.workflow.json');
  await wren.getByLabel('Workflow file').setInputFiles(await file.path());
  await expect(wren.getByText('Draft, saved')).toBeVisible();
  await expect(wren.getByRole('alert')).toHaveCount(0);
  await expect(wren.getByRole('button', { name: 'within 3 working days: change the limit' })).toBeVisible();
  await wren.getByRole('button', { name: 'Discard draft' }).click();
  await wren.getByRole('button', { name: 'Discard it' }).click();
  await expect(wren.getByText('As published; a change begins a draft')).toBeVisible();
});

test('an auditor reads the sheet and changes nothing', async ({ browser }) => {
  const yusra = await personAt(browser, 'Yusra Benali', '/workflows/compensation-time');
  await expect(yusra.getByRole('list', { name: 'Steps' })).toContainText(
    'the asker’s line manager decides within 3 working days.',
  );
  await expect(yusra.getByText('Who would get stuck is tried for designers.')).toBeVisible();
  await expect(yusra.getByRole('button', { name: /change the limit/ })).toHaveCount(0);
  await expect(yusra.getByRole('button', { name: 'Publish' })).toHaveCount(0);
});

test('a draft waits on another machine, a request can be withdrawn', async ({ browser }) => {
  const here = await personBy(browser, 'ada.dunmore');
  await askForLeave(here, '14092026', '16092026');
  await here.getByRole('textbox', { name: /Remark/ }).fill('Seabird count');
  await expect(here.getByText('Draft saved')).toBeVisible();
  const there = await personBy(browser, 'ada.dunmore');
  await there.goto('/ask/annual-leave');
  await expect(there.getByText('This is your draft from before.')).toBeVisible();
  await expect(there.getByRole('textbox', { name: /Remark/ })).toHaveValue('Seabird count');
  await expect(there.getByText('3 days', { exact: true })).toBeVisible();
  const request = await send(there);
  await there.getByRole('button', { name: 'Withdraw' }).click();
  await there.getByRole('dialog').getByRole('textbox').fill('The count is in October.');
  await there.getByRole('dialog').getByRole('button', { name: 'Withdraw' }).click();
  await expect(there.getByText('“The count is in October.”')).toBeVisible();
  await there.goto('/requests');
  await expect(there.getByRole('row').filter({ hasText: request })).toContainText('Withdrawn');
});

test('places that are not for someone are not there for them', async ({ browser }) => {
  const ines = await personAt(browser, 'Ines Okoro');
  await expect(ines.getByRole('link', { name: 'Planner' })).toBeVisible();
  await expect(ines.getByRole('link', { name: 'Workflows' })).toHaveCount(0);
  await ines.goto('/workflows');
  await expect(ines.getByText('Workflows are looked after by HR operations.')).toBeVisible();
  await ines.goto('/mailroom');
  await expect(ines.getByText('The Mailroom is for HR operations')).toBeVisible();
});

test('a sentence with words left over is not taken, and shows which', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/annual-leave');
  const line = (n: number) => wren.getByRole('group', { name: new RegExp(`^Line ${n}, `) });
  await line(4).press('Enter');
  const field = wren.getByRole('textbox', { name: 'What happens next, in words' });
  await field.fill('the director approves anything over 10 bananas');
  await expect(wren.locator('mark')).toHaveText('bananas');
  await field.press('Enter');
  await expect(field).toHaveValue('the director approves anything over 10 bananas');
  await expect(wren.getByText('As published; a change begins a draft')).toBeVisible();
  await field.fill('the director approves anything over 10 days');
  await expect(wren.getByText('Enter takes it as it stands below.')).toBeVisible();
  await field.press('Enter');
  await expect(line(5)).toContainText('When Days is over 10, the Director decides');
  await expect(wren.getByText('Draft, saved')).toBeVisible();
  await wren.getByRole('button', { name: 'Discard draft' }).click();
  await wren.getByRole('button', { name: 'Discard it' }).click();
  await expect(wren.getByText('As published; a change begins a draft')).toBeVisible();
});

test('the drawing folds, what is needed stays in sight, and a limit is changed inside the window', async ({
  browser,
}) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/annual-leave');
  await wren.setViewportSize({ width: 1280, height: 640 });
  const drawing = wren.getByRole('group', { name: 'The path of the workflow' });
  await expect(drawing).toBeVisible();
  await wren.getByRole('button', { name: 'Fold the path' }).click();
  await expect(drawing).toBeHidden();
  await wren.reload();
  await expect(wren.getByRole('button', { name: /^The path: / })).toBeVisible();
  await expect(drawing).toBeHidden();

  await wren.getByRole('button', { name: 'within 2 working days: change the limit' }).last().click();
  const popover = wren.getByRole('dialog', { name: 'Change the limit' });
  await popover.getByRole('combobox', { name: 'Unanswered at the limit' }).click();
  await wren
    .getByRole('option', { name: /passes to|goes to|told/ })
    .first()
    .click();
  const box = await popover.boundingBox();
  expect(box && box.y >= 0 && box.y + box.height <= 640).toBe(true);
  await popover.getByRole('button', { name: 'Keep' }).click();

  await wren.mouse.wheel(0, 5000);
  await expect(wren.getByRole('button', { name: 'Publish' })).toBeInViewport();
  await expect(wren.getByRole('navigation', { name: 'Sections' })).toBeInViewport();
});

test('a line is taken by its number and let go below another; undo puts it back', async ({ browser }) => {
  const wren = await personAt(browser, 'Wren Castellane', '/workflows/sick-leave');
  const steps = wren.getByRole('list', { name: 'Steps' });
  const lines = steps.locator('[data-line]');
  await expect(lines.first()).toBeVisible();
  const order = () => lines.evaluateAll(all => all.map(line => (line as HTMLElement).dataset.line));
  const before = await order();
  const middle = async (of: typeof lines) => {
    const box = await of.boundingBox();
    if (!box) throw new Error('it is not in sight');
    return [box.x + box.width / 2, box.y + box.height / 2] as const;
  };
  await wren.mouse.move(...(await middle(lines.nth(1).locator('.handle'))));
  await wren.mouse.down();
  await wren.mouse.move(...(await middle(lines.nth(2))), { steps: 6 });
  await wren.mouse.up();
  const [first, moved, over, ...rest] = before;
  await expect.poll(order).toEqual([first, over, moved, ...rest]);
  await wren.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(order).toEqual(before);
});
