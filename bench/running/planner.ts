/**
 * The planner of ten thousand people and a year, in a browser: how soon there is a picture, and how long the page is ever kept
 * busy while it is unfolded, scrolled, and looked at more and less closely.
 */
import { againstBar, type Row } from '../measure.ts';
import type { Served } from '../served.ts';
import { growLeave, manyPeople } from './leaveOfMany.ts';
import { highest, inBrowser, measured } from './watching.ts';

const year = 'from=2026-01-01&to=2026-12-31';

export async function plannerRows({ db, base, signIn }: Served): Promise<Row[]> {
  await growLeave(db);
  const wren = await signIn('wren');
  // The directory has just been grown: it is read once, whoever asks first.
  const warm = await fetch(`${base}/api/planner?from=2026-01-01&to=2026-01-14`, { headers: { Cookie: wren } });
  if (!warm.ok) throw new Error(await warm.text());
  const began = performance.now();
  const answer = await fetch(`${base}/api/planner?house=yes&${year}`, { headers: { Cookie: wren } });
  const view = (await answer.json()) as { teams: { name: string; people: number }[] };
  const answered = performance.now() - began;
  const people = view.teams.reduce((sum, team) => sum + team.people, 0);
  if (people < manyPeople * 0.9) throw new Error(`${people} people on the planner`);
  const largest = view.teams.toSorted((a, b) => b.people - a.people)[0] ?? { name: '', people: 0 };
  return inBrowser(base, wren, async page => {
    await page.goto(`${base}/planner`);
    const grid = page.getByRole('grid', { name: 'Days of people' });
    await grid.waitFor();
    // One’s own page is there; now everybody is chosen, as by hand.
    const from = performance.now();
    await page.evaluate(() => {
      history.pushState({}, '', '/planner?house=yes&zoom=a+year&from=2026-01-01');
      dispatchEvent(new PopStateEvent('popstate', { state: {} }));
    });
    await grid.getByRole('row').nth(8).waitFor();
    const picture = performance.now() - from;
    await grid.getByRole('button', { expanded: false, name: largest.name }).first().click();
    await page.waitForTimeout(500);
    // A quick scroll: 8,000 pixels a second, and then a page at a time.
    const scrolled = await measured(page, async () => {
      for (let n = 0; n < 90; n++) {
        await page.mouse.wheel(0, 240);
        await page.waitForTimeout(30);
      }
      for (let n = 0; n < 15; n++) {
        await page.mouse.wheel(0, 700);
        await page.waitForTimeout(120);
      }
    });
    const zoomed = await measured(page, async () => {
      for (const zoom of ['13 weeks', '5 weeks', 'a week', 'a year']) {
        await page.getByRole('button', { name: zoom, exact: true }).click();
        await page.waitForTimeout(1200);
      }
    });
    process.stderr.write(
      `${people} people on the planner, ${largest.people} of them unfolded; busy ${scrolled.busy.join(' ')}; ${zoomed.busy.join(' ')}\n`,
    );
    return [
      againstBar(`the planner of ${people.toLocaleString('en')} people and a year, answered, in ms`, answered, 1000),
      againstBar('its first picture, in ms', picture, 1000),
      againstBar('the longest piece of work on the page while it is scrolled, in ms', highest(scrolled.busy), 50),
      againstBar('the longest while it is looked at more and less closely, in ms', highest(zoomed.busy), 50),
    ];
  });
}
