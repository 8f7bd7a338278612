/** Moving in over HTTP: bad lines told, right ones taken over once, by those who may, and written out again. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { GivenFile, MovedIn, MovingPreview, PersonPageView } from '@north-pebble/contract';
import { matched, type TableId, tableIds, undefused } from '@north-pebble/core/movingIn';
import Papa from 'papaparse';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
const at = {} as Record<'ina' | 'dora' | 'kay' | 'per', Browser>;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'dora', 'kay', 'per'] as const) at[one] = await signedIn(small.base, one);
});
afterAll(() => small.stop());

const form = { dates: 'year first', decimal: '.' } as const;
const file = (table: TableId, headings: string[], ...rows: string[][]): GivenFile => ({
  table,
  form,
  columns: matched(table, headings),
  rows,
});
const preview = (files: GivenFile[], browser = at.kay) =>
  browser.call<MovingPreview>('POST', '/moving/preview', { files });
const move = (files: GivenFile[], digest: string, browser = at.kay) =>
  browser.call<MovedIn>('POST', '/moving', { files, digest });
const people = ['Person', 'Name', 'Mail', 'Joined'];
const records = ['Person', 'From', 'Place', 'Department', 'Work pattern', 'Share of full time', 'Leave plan'];
const bo = (joined = '2026-02-01', plan = 'Standard'): GivenFile[] => [
  file('people', people, ['bo', 'Bo Ødegård', 'bo@selkie.example', joined]),
  file('records', records, ['bo@selkie.example', '2026-02-01', 'Ovay Station', 'observatory', 'Office', '0.5', plan]),
];
/** A file of the house as it is written out, read as the page reads it. */
async function written(table: TableId, browser: Browser = at.kay): Promise<GivenFile> {
  const answer = await fetch(`${small.base}/api/moving/${table}/file.csv`, { headers: { Cookie: browser.cookie } });
  expect(answer.status).toBe(200);
  const [headings = [], ...rows] = Papa.parse<string[]>((await answer.text()).replace(/^\ufeff/, ''), {
    skipEmptyLines: true,
  }).data;
  return file(table, headings, ...rows);
}

describe('files', () => {
  test('with bad lines are told by line and column, and nothing of them is stored', async () => {
    const { status, body } = await preview(bo('2026-02-30', 'standart'));
    expect(status).toBe(200);
    expect(body.faults.map(({ table, line, column, right }) => [table, line, column, right])).toEqual([
      ['people', 2, 'Joined', 'A date of the calendar, as in 2026-03-13.'],
      ['records', 2, 'Leave plan', 'Perhaps “standard”.'],
    ]);
    expect((await move(bo('2026-02-30'), body.digest)).status).toBe(422);
    expect((await at.kay.get('/records/bo')).status).toBe(404);
  });

  test('that are right are taken over once, whole, and again without harm', async () => {
    const files = bo();
    const { body } = await preview(files);
    expect(body).toMatchObject({
      faults: [],
      counts: [
        { table: 'people', added: 1 },
        { table: 'records', added: 1 },
      ],
    });
    expect(body.says).toContain('Bo Ødegård comes on Sun 1 February 2026.');
    expect((await move(files, 'x'.repeat(64))).status).toBe(409);
    const { status, body: moved } = await move(files, body.digest);
    expect(status).toBe(200);
    expect(moved.facts).toBe(2);
    const { body: page } = await at.kay.get<PersonPageView>('/records/bo');
    expect(page).toMatchObject({ name: 'Bo Ødegård', place: 'Ovay Station' });
    expect(page.changes?.[0]).toMatchObject({ reason: 'Moved in by files.' });
    const again = await preview(files);
    expect(again.body).toMatchObject({ says: [], counts: [{ same: 1 }, { same: 1 }] });
    expect((await move(files, again.body.digest)).body).toEqual({ id: null, facts: 0 });
  });

  test('name whoever was here before the house begins and comes without an opening, until one is among the files', async () => {
    const began = await at.kay.call<{ on: string | null }>('PUT', '/moving/begins', { on: '2026-01-12' });
    expect(began.body).toEqual({ on: '2026-01-12' });
    const cy = [
      file('people', people, ['cy', 'Cy Larne', 'cy@selkie.example', '2017-05-01']),
      file('records', records, ['cy', '2017-05-01', 'Ovay Station', 'observatory', 'Office', '1', 'Standard']),
    ];
    const opening = file(
      'openings',
      ['Person', 'Leave', 'On', 'Own', 'Carried over', 'Lapses on'],
      ['cy', 'annual', '2026-01-12', '24', '3', '2026-03-31'],
    );
    expect((await preview(cy)).body).toMatchObject({ faults: [], noOpening: ['Cy Larne'], moreNoOpening: 0 });
    expect((await preview([...cy, opening])).body).toMatchObject({ faults: [], noOpening: [] });
    // Whoever comes with the house, or on no plan, needs none.
    const later = [
      file('people', people, ['cy', 'Cy Larne', 'cy@selkie.example', '2026-01-12']),
      file('records', records, ['cy', '2026-01-12', 'Ovay Station', 'observatory', 'Office', '1', 'Standard']),
    ];
    expect((await preview(later)).body.noOpening).toEqual([]);
    const noPlan = file('records', records, ['cy', '2017-05-01', 'Ovay Station', 'observatory', 'Office', '1', '']);
    expect((await preview([cy[0]!, noPlan])).body.noOpening).toEqual([]);
    expect((await at.ina.call('PUT', '/moving/begins', { on: null })).status).toBe(403);
    expect((await at.kay.call('PUT', '/moving/begins', { on: '12.1.2026' })).status).toBe(400);
  });

  test('the whole house written out and read again changes nothing', async () => {
    // The circle of the house of tests is not the file’s doing.
    const files: GivenFile[] = [];
    for (const table of tableIds) {
      const one = await written(table);
      if (one.rows.length > 0) files.push(one);
    }
    const { body } = await preview(files);
    expect(body.faults).toEqual([]);
    expect(body.says).toEqual([]);
    expect(files.map(one => one.table)).toEqual(expect.arrayContaining(['people', 'lines', 'patterns', 'calendars']));
  });

  test('bring balances and leave that was decided elsewhere; what was decided here stays', async () => {
    await small.db.insert(t.leaveEntries).values({
      request: 'R-77',
      person: 'ina',
      type: 'annual',
      state: 'booked',
      firstDay: '2026-05-04',
      lastDay: '2026-05-08',
      span: { from: { date: '2026-05-04', half: 'am' }, to: { date: '2026-05-08', half: 'pm' } } as never,
      planner: true,
    });
    const leave = ['Person', 'Leave', 'From', 'To'];
    const files = [
      file(
        'balances',
        ['Person', 'Leave', 'On', 'Amount', 'Why'],
        ['ina', 'annual', '2026-01-01', '2.5', 'From before'],
      ),
      file('bookings', leave, ['ina', 'annual', '2026-04-07', '2026-04-08']),
    ];
    const { body } = await preview(files);
    expect(body.faults).toEqual([]);
    expect((await move(files, body.digest)).status).toBe(200);
    expect(JSON.stringify((await at.ina.get('/balances/ina')).body)).toContain('From before');
    expect(
      (await preview([file('bookings', leave, ['ina', 'annual', '2026-05-04', '2026-05-09'])])).body.faults,
    ).toMatchObject([{ line: 2, right: 'This leave was decided here. It is changed by its request.' }]);
  });

  test('that change one’s own record are left to somebody else', async () => {
    const own = [file('people', people, ['kay', 'Kay Voss-Lund', 'kay@selkie.example', '2020-01-01'])];
    const { body } = await preview(own);
    expect((await move(own, body.digest)).status).toBe(403);
    expect((await move(own, body.digest, at.dora)).status).toBe(200);
  });

  test('are read for nobody else, and not beyond their bounds', async () => {
    expect((await preview(bo(), at.ina)).status).toBe(403);
    expect((await preview(bo(), at.per)).status).toBe(403);
    expect((await preview(bo(), new Browser(small.base))).status).toBe(401);
    const long = file('people', people, ...Array.from({ length: 20_001 }, () => ['x', 'x', 'x@x', '2026-01-01']));
    expect((await preview([long])).status).toBe(400);
    expect((await preview([file('people', people, ['a'.repeat(6000), '', '', ''])])).status).toBe(400);
    expect((await preview([])).status).toBe(400);
  });

  test('of many people come some hundreds a statement, and are told by their number', async () => {
    const many = Array.from({ length: 300 }, (_, i) => [`n${i}`, `Name ${i}`, `n${i}@selkie.example`, '2026-02-01']);
    const files = [
      file('people', people, ...many),
      file(
        'records',
        records,
        ...many.map(([id = '']) => [id, '2026-02-01', 'ovay', 'observatory', 'office', '1', 'standard']),
      ),
    ];
    const { body } = await preview(files);
    expect(body.moreSays).toBe(540);
    expect((await move(files, body.digest)).body.facts).toBe(600);
    expect((await at.kay.get<PersonPageView>('/records/n299')).body.changes?.[0]?.says).toEqual([
      'Name 299 comes on Sun 1 February 2026.',
      expect.stringContaining('Place from'),
      expect.any(String),
      expect.any(String),
      expect.any(String),
      expect.any(String),
    ]);
    await raiseDirectoryVersion(small.db);
  });
});

test('a template says what each column means by an example', async () => {
  const answer = await fetch(`${small.base}/api/moving/people/template.csv`, { headers: { Cookie: at.kay.cookie } });
  expect(answer.headers.get('content-disposition')).toContain('people-template.csv');
  const text = await answer.text();
  expect(text).toContain('"Person","Name","Mail"');
  expect(undefused("'=x")).toBe('=x');
});
