/** The sheet in the browser: how soon a key shows in a workflow of 200 steps, and how long the page is ever kept busy. */

import { demoDay } from '@north-pebble/demo';
import { longWorkflow } from '../core/sheet.ts';
import { againstBar, type Row } from '../measure.ts';
import type { Served } from '../served.ts';
import { highest, inBrowser, measured } from './watching.ts';

const steps = 200;
const words = 'line manager, else HR partner decides within 2 working days';

const nineInTen = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.9)];

export async function pageRows({ base, signIn }: Served): Promise<Row[]> {
  const cookie = await signIn('wren');
  const made = await fetch(`${base}/api/workflows`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-North-Pebble': '1', Cookie: cookie },
    body: JSON.stringify({ definition: { ...longWorkflow(steps), name: `Long on ${demoDay}` } }),
  });
  if (!made.ok) throw new Error(await made.text());
  const { id } = (await made.json()) as { id: string };
  return inBrowser(base, cookie, async page => {
    await page.goto(`${base}/workflows/${id}`);
    const margin = page.getByRole('complementary', { name: 'Margin' });
    await margin
      .getByText(/Nothing found|Findings/)
      .first()
      .waitFor();
    await page.getByRole('group', { name: /^Line 2, / }).press('Enter');
    const field = page.getByRole('textbox', { name: 'What happens next, in words' });
    const typing = await measured(page, () => field.pressSequentially(words, { delay: 60 }));
    await page.keyboard.press('Escape');
    await page
      .getByRole('navigation', { name: 'Sections' })
      .getByRole('button', { name: /^About/ })
      .press('Enter');
    const purpose = page.getByRole('textbox', { name: 'What it is for' });
    // Every letter changes the definition: it is kept, checked in the worker, and drawn again.
    const changing = await measured(page, async () => {
      await purpose.pressSequentially(words, { delay: 60 });
      await page.waitForTimeout(3000);
    });
    return [
      againstBar(`a key to its letter on a sheet of ${steps} steps, 9 in 10, in ms`, nineInTen(typing.keys), 30),
      againstBar('the longest of them, in ms', highest(typing.keys), 100),
      againstBar('a key that changes the definition itself, 9 in 10, in ms', nineInTen(changing.keys), 30),
      againstBar('the longest piece of work on the page meanwhile, in ms', highest(changing.busy), 50),
    ];
  });
}
