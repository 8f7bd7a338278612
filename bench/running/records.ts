/**
 * A house of ten thousand people as HR keeps it: people found, a holiday added, a file looked at, and the lines drawn and
 * moved, each while the server goes on answering others.
 */
import { matched } from '@north-pebble/core/movingIn';
import { tables as t } from '@north-pebble/server/database';
import { insertMany } from '@north-pebble/server/house';
import { chromium } from '@playwright/test';
import { againstBar, type Row } from '../measure.ts';
import type { Served } from '../served.ts';
import { growPeople } from './load.ts';

const many = 10_000;

async function caller(base: string, cookie: string, path: string, body?: unknown): Promise<unknown> {
  const answer = await fetch(`${base}/api${path}`, {
    method: body === undefined ? 'GET' : 'POST',
    headers: { Cookie: cookie, 'X-North-Pebble': '1', 'Content-Type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const found = await answer.json();
  if (!answer.ok) throw new Error(`${path}: ${JSON.stringify(found).slice(0, 300)}`);
  return found;
}

/** How long something takes, in seconds, and the longest that a look at somebody else took meanwhile, in ms. */
async function beside<T>(look: () => Promise<unknown>, work: () => Promise<T>) {
  let isOver = false;
  let longest = 0;
  const looking = (async () => {
    while (!isOver) {
      const began = performance.now();
      await look();
      longest = Math.max(longest, performance.now() - began);
      await new Promise(done => setTimeout(done, 20));
    }
  })();
  const began = performance.now();
  try {
    const done = await work();
    const seconds = (performance.now() - began) / 1000;
    return { done, seconds, longest: () => longest };
  } finally {
    isOver = true;
    await looking;
  }
}

export async function recordRows({ db, base, signIn }: Served): Promise<Row[]> {
  const people = await growPeople(db);
  // Everybody has a week of leave that a holiday may fall into.
  const span = { from: { date: '2026-05-11', half: 'am' }, to: { date: '2026-05-15', half: 'pm' } };
  await insertMany(
    db,
    t.leaveEntries,
    people.slice(0, many).map((person, n) => ({
      request: `B-${n}`,
      person,
      type: 'annual',
      state: 'booked' as const,
      firstDay: span.from.date,
      lastDay: span.to.date,
      span: span as never,
      planner: false,
    })),
  );
  const [wren, ines] = [await signIn('wren'), await signIn('ines')];
  await caller(base, wren, '/records');
  const times: number[] = [];
  const words = ['ina', 'observ lead', 'ovay', 'ferr', 'oksana', 'tide', 'okoro', 'zzz'];
  for (let n = 0; n < 200; n++) {
    const began = performance.now();
    await caller(base, wren, `/records?words=${encodeURIComponent(words[n % words.length] ?? '')}`);
    times.push(performance.now() - began);
  }
  const nineteenOfTwenty = times.toSorted((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? 0;

  const pages: Row[] = [];
  for (const [what, path, card] of [
    ['people', '/records?', wren],
    ['lines', '/lines?', wren],
    ['posts', '/posts?', wren],
    ['the directory', '/directory?', wren],
  ] as const)
    pages.push(
      againstBar(
        `a page of ${what} among ${many.toLocaleString('en')}, 95th over HTTP, in ms`,
        await pageTimes(base, card, path),
        150,
      ),
    );
  const { calendars } = (await caller(base, wren, '/measures')) as {
    calendars: { id: string; name: string; buildsOn: string | null; rules: object[]; holidays: object[] }[];
  };
  const changes = calendars.map(({ id, name, buildsOn, rules, holidays }) => ({
    what: 'calendar',
    calendar: {
      id,
      name,
      buildsOn,
      rules,
      holidays: [...holidays, { date: '2026-05-13', part: 'day', name: 'Regatta' }],
    },
  }));
  const desk = () => caller(base, ines, '/desk');
  await desk();
  const holiday = await beside(desk, () =>
    caller(base, wren, '/records/preview', { change: { what: 'several', changes } }),
  );
  const { leave, notes } = holiday.done as { leave: unknown[]; notes: string[] };
  if (leave.length === 0) throw new Error('nothing was counted anew');
  process.stderr.write(`${notes.join(' ')}\n`);

  const form = { dates: 'year first', decimal: '.' };
  const headings = ['Person', 'Name', 'Mail', 'Joined'];
  const recordHeadings = ['Person', 'From', 'Place', 'Department', 'Work pattern', 'Leave plan'];
  const ids = Array.from({ length: many }, (_, n) => `m${n}`);
  const files = [
    {
      table: 'people',
      form,
      columns: matched('people', headings),
      rows: ids.map(id => [id, `Name ${id}`, `${id}@moved.example`, '2026-03-02']),
    },
    {
      table: 'records',
      form,
      columns: matched('records', recordHeadings),
      rows: ids.map(id => [id, '2026-03-02', 'Ovay Station', 'Observatory', 'office', 'standard']),
    },
  ];
  const file = await beside(desk, () => caller(base, wren, '/moving/preview', { files }));
  const { faults } = file.done as { faults: object[] };
  if (faults.length > 0) throw new Error(JSON.stringify(faults[0]));
  const one = await oneLine(base, wren, people[7] ?? '');
  return [
    againstBar(
      `people found by letters among ${many.toLocaleString('en')}, 95th of a hundred over HTTP, in ms`,
      nineteenOfTwenty,
      50,
    ),
    ...pages,
    againstBar(`what follows from a holiday for ${many.toLocaleString('en')} people, in seconds`, holiday.seconds, 10),
    againstBar('the longest answer to somebody else meanwhile, in ms', holiday.longest(), 1000),
    againstBar(
      `a file of ${many.toLocaleString('en')} people and their records looked at, in seconds`,
      file.seconds,
      10,
    ),
    againstBar('the longest answer to somebody else meanwhile, in ms', file.longest(), 1000),
    againstBar('a file of one line looked at, in seconds', one.file, 3),
    againstBar('the same file again, in seconds', one.again, 3),
    againstBar('what follows from the share of one person, in seconds', one.change, 1),
    againstBar('what follows from the move of one person to another place, in seconds', one.move, 1),
    againstBar(
      `the lines of ${many.toLocaleString('en')} people opened, walked and moved: longest work on the page, in ms`,
      await linesWork(base),
      50,
    ),
  ];
}

/** The 95th of a hundred pages of a long answer, one after another and from the first again, in ms. */
async function pageTimes(base: string, cookie: string, path: string): Promise<number> {
  const times: number[] = [];
  let row = 0;
  for (let n = 0; n < 100; n++) {
    const began = performance.now();
    const { next = null } = (await caller(base, cookie, `${path}row=${row}`)) as { next?: number | null };
    times.push(performance.now() - began);
    row = next ?? 0;
  }
  return times.toSorted((a, b) => a - b)[94] ?? 0;
}

/** One line of a file, the same file again once it is taken over, and one change of one person: in seconds. */
async function oneLine(base: string, cookie: string, person: string) {
  const timed = async <T>(work: () => Promise<T>) => {
    const began = performance.now();
    const done = await work();
    return { done, seconds: (performance.now() - began) / 1000 };
  };
  const rows = [[person, '2026-04-01', 'Ovay Station', 'Observatory', 'office', 'standard']];
  const columns = matched('records', ['Person', 'From', 'Place', 'Department', 'Work pattern', 'Leave plan']);
  const files = [{ table: 'records', form: { dates: 'year first', decimal: '.' }, columns, rows }];
  type Seen = { digest: string; faults: object[]; counts: { same: number }[] };
  const look = () => caller(base, cookie, '/moving/preview', { files }) as Promise<Seen>;
  const first = await timed(look);
  if (first.done.faults.length > 0) throw new Error(JSON.stringify(first.done.faults[0]));
  await caller(base, cookie, '/moving', { files, digest: first.done.digest });
  const again = await timed(look);
  if (again.done.counts[0]?.same !== 1) throw new Error('the same file is not the same');
  const change = { what: 'record', person, from: '2026-05-01', set: { fte: 0.5 } };
  const changed = await timed(() => caller(base, cookie, '/records/preview', { change }));
  const move = { what: 'record', person, from: '2026-05-01', set: { place: 'hollin' } };
  // As it is while HR works: what is found now has been asked before.
  await caller(base, cookie, '/records/preview', { change: move });
  const moved = await timed(() =>
    caller(base, cookie, '/records/preview', { change: { ...move, from: '2026-05-04' } }),
  );
  return { file: first.seconds, again: again.seconds, change: changed.seconds, move: moved.seconds };
}

async function linesWork(base: string): Promise<number> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  try {
    const page = await browser.newPage({ baseURL: base });
    await page.request.post('/api/session', { data: { card: 'wren' }, headers: { 'X-North-Pebble': '1' } });
    await page.goto('/people/lines');
    await page.getByRole('button', { name: 'Open all' }).waitFor();
    await page.evaluate(() => {
      const busy: number[] = [];
      (window as unknown as { busy: number[] }).busy = busy;
      new PerformanceObserver(list => {
        for (const entry of list.getEntries()) busy.push(entry.duration);
      }).observe({ type: 'longtask' });
    });
    let most = 0;
    const phase = async (what: string, work: () => Promise<unknown>) => {
      await work();
      // What was begun is drawn before the next begins.
      await page.evaluate(() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done))));
      const longest = await page.evaluate(() =>
        Math.max(0, ...(window as unknown as { busy: number[] }).busy.splice(0)),
      );
      process.stderr.write(`  ${what}: ${longest} ms\n`);
      most = Math.max(most, longest);
    };
    await phase('opened', () => page.getByRole('button', { name: 'Open all' }).click());
    await phase('walked', async () => {
      await page.getByRole('treeitem').first().focus();
      for (let n = 0; n < 60; n++) await page.keyboard.press('ArrowDown');
    });
    await phase('paged', async () => {
      for (let n = 0; n < 8; n++) await page.keyboard.press('PageDown');
    });
    await phase('a branch taken up', () => page.keyboard.press('m'));
    // Who looks for a field by its role walks through the page too, and that is no work of the page: keys are sent to it.
    await page.getByRole('combobox', { name: 'Reports to' }).focus();
    await phase('its field opened', () => page.keyboard.press('ArrowDown'));
    await phase('its new place found', async () => {
      await page.keyboard.type('lead');
      await page.keyboard.press('ArrowDown');
      await page.keyboard.press('Enter');
    });
    return most;
  } finally {
    await browser.close();
  }
}
