/** @jest-environment jsdom */
/** Moving in: files chosen, matched, looked at, taken over; what is wrong is said, and nothing is claimed that is not so. */
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import type { MovingPreview } from '@north-pebble/contract';
import { tableIds } from '@north-pebble/core/movingIn';
import { act, cleanup, fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { here, open, Refusal, serve, unserve } from '../../../testing/page.tsx';
import type { FileTold, ReadFile } from '../../../workers/files.worker.ts';
import { MovingPlace } from './MovingPlace.tsx';

/** Stands in for the thread that reads: a test says when it tells something. */
class Reading {
  static all: Reading[] = [];
  onmessage: ((event: { data: FileTold }) => void) | null = null;
  onerror: (() => void) | null = null;
  ended = false;
  constructor() {
    Reading.all.push(this);
  }
  postMessage() {}
  terminate() {
    this.ended = true;
  }
}
const realWorker = globalThis.Worker;
beforeEach(() => {
  Reading.all = [];
  globalThis.Worker = Reading as never;
});
afterEach(() => {
  cleanup();
  unserve();
  globalThis.Worker = realWorker;
});

const people: ReadFile = {
  name: 'people.csv',
  table: 'people',
  encoding: 'UTF-8',
  form: { dates: 'year first', decimal: '.' },
  headings: ['Person', 'Name', 'Mail', 'Joined'],
  columns: ['id', 'name', 'mail', 'joined'],
  rows: [['u1', 'Una Brae', 'una.brae@selkie.example', '2026-03-02']],
};
const digest = 'd'.repeat(64);
const preview: MovingPreview = {
  digest,
  counts: [{ table: 'people', added: 1, changed: 2, same: 0 }],
  faults: [],
  moreFaults: 0,
  says: ['Una Brae comes on Mon 2 March 2026.'],
  noOpening: [],
  moreNoOpening: 0,
  moreSays: 3,
};
const begin = async (...names: string[]) => {
  open(<MovingPlace />, { at: '/house/moving', as: here('kay', ['designer']) });
  await choose(...names);
};
async function choose(...names: string[]) {
  await screen.findByText('Choose files');
  const input = document.querySelector('input[type=file]') as HTMLInputElement;
  fireEvent.change(input, { target: { files: names.map(name => new File(['x'], name, { type: 'text/csv' })) } });
}
const tell = async (n: number, told: FileTold) => {
  act(() => Reading.all[n]?.onmessage?.({ data: told }));
};
const look = () => screen.getByRole('button', { name: 'See what they bring' });

describe('a file', () => {
  test('tells how far it is read, and is stopped', async () => {
    serve({});
    await begin('people.csv');
    await tell(0, { at: 'reading', share: 0.4 });
    const bar = screen.getByRole('progressbar', { name: 'Reading people.csv' });
    expect(bar.getAttribute('aria-valuenow')).toBe('40');
    expect(look().hasAttribute('disabled')).toBe(true);
    await userEvent.click(screen.getByRole('button', { name: 'Stop reading people.csv' }));
    expect(Reading.all[0]?.ended).toBe(true);
    expect(screen.queryByRole('region', { name: 'people.csv' })).toBeNull();
  });
  test('that cannot be read says why, and holds the others up until it is left out', async () => {
    serve({});
    await begin('people.csv', 'picture.csv');
    await tell(0, { at: 'read', file: people } as FileTold);
    await tell(1, { at: 'fault', fault: 'no text' });
    expect(screen.getByRole('alert').textContent).toContain('This is no text.');
    expect(look().hasAttribute('disabled')).toBe(true);
    await userEvent.click(screen.getByRole('button', { name: 'Leave picture.csv out' }));
    expect(look().hasAttribute('disabled')).toBe(false);
  });
  test('whose reader breaks is told as one that cannot be read', async () => {
    serve({});
    await begin('people.csv');
    act(() => Reading.all[0]?.onerror?.());
    expect(screen.getByRole('alert').textContent).toContain('This is no text.');
    expect(Reading.all[0]?.ended).toBe(true);
  });
  test('of which no table is known must be given one', async () => {
    serve({});
    await begin('odd.csv');
    await tell(0, { at: 'read', file: { ...people, table: null } } as FileTold);
    expect(screen.getByText('Its headings fit none. Say which it is.')).toBeTruthy();
    expect(look().hasAttribute('disabled')).toBe(true);
  });
  test('is stopped when the page is left', async () => {
    serve({});
    await begin('people.csv');
    cleanup();
    expect(Reading.all[0]?.ended).toBe(true);
  });
});

describe('what the files bring', () => {
  const read = async (table: ReadFile['table'] = 'people') => {
    await begin('people.csv');
    await tell(0, { at: 'read', file: { ...people, table } } as FileTold);
    await userEvent.click(look());
  };
  test('is counted by table before anything is stored', async () => {
    const sent = serve({ 'POST /moving/preview': preview });
    await read();
    const region = await screen.findByRole('region', { name: 'What they bring' });
    expect(within(region).getByRole('listitem').textContent).toBe('People: 1 new, 2 changed');
    expect(region.textContent).toContain('And 3 more facts.');
    expect(sent.filter(one => one.method === 'POST').map(one => one.path)).toEqual(['/moving/preview']);
  });
  test('names whoever comes without an opening balance before anything is saved', async () => {
    serve({ 'POST /moving/preview': { ...preview, noOpening: ['Cy Larne', 'Una Brae'], moreNoOpening: 3 } });
    await read();
    const region = await screen.findByRole('region', { name: 'What they bring' });
    expect(within(region).getByText('5 people come without an opening balance')).toBeTruthy();
    expect(region.textContent).toContain('Cy Larne, Una Brae and 3 more.');
    expect(screen.getByRole('button', { name: 'Move in' })).toBeTruthy();
  });
  test('wrong lines stand by table, line and column with what would be right, and cannot be moved in with', async () => {
    const fault = { table: 'people', line: 3, column: 'Joined', code: 'does not fit', value: '2026-02-31' } as const;
    const right = 'A day that there is.';
    serve({ 'POST /moving/preview': { ...preview, faults: [{ ...fault, right }], moreFaults: 1 } });
    await read();
    const region = await screen.findByRole('region', { name: 'What is wrong' });
    expect(within(region).getByRole('alert').textContent).toContain('2 things are wrong');
    const cells = within(region)
      .getAllByRole('cell')
      .map(one => one.textContent);
    expect(cells).toEqual(['People', '3', 'Joined', '2026-02-31', right]);
    expect(within(region).getByText('And 1 more.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Move in' })).toBeNull();
  });
  test('is taken over as it was shown, and where it can be taken back is said', async () => {
    const sent = serve({ 'POST /moving/preview': preview, 'POST /moving': { id: 4, facts: 3 } });
    await read();
    await userEvent.click(await screen.findByRole('button', { name: 'Move in' }));
    expect(await screen.findByText('3 facts were taken over')).toBeTruthy();
    expect(screen.getByText(/can be taken back from there/)).toBeTruthy();
    expect(sent.find(one => one.path === '/moving')?.body).toMatchObject({ digest });
    // The files are gone: nobody sends them twice.
    expect(screen.queryByRole('region', { name: 'people.csv' })).toBeNull();
  });
  test.each(['balances', 'bookings'] as const)('of %s is not said to be taken back', async table => {
    serve({ 'POST /moving/preview': { ...preview, counts: [] }, 'POST /moving': { id: 4, facts: 3 } });
    await read(table);
    await userEvent.click(await screen.findByRole('button', { name: 'Move in' }));
    expect(await screen.findByText(/is not taken back: it is corrected by another file/)).toBeTruthy();
    expect(screen.queryByText(/can be taken back/)).toBeNull();
  });
  test('that is all there already says that nothing was changed', async () => {
    serve({ 'POST /moving/preview': preview, 'POST /moving': { id: null, facts: 0 } });
    await read();
    await userEvent.click(await screen.findByRole('button', { name: 'Move in' }));
    expect(await screen.findByText('Everything was there already')).toBeTruthy();
    expect(screen.getByText('Nothing was changed.')).toBeTruthy();
  });
  test('that somebody was faster with is told, and the files stay chosen', async () => {
    const detail = 'Somebody changed something meanwhile. Look at what the files bring as it is now.';
    serve({ 'POST /moving/preview': preview, 'POST /moving': () => new Refusal(detail, [], 409) });
    await read();
    await userEvent.click(await screen.findByRole('button', { name: 'Move in' }));
    expect(await screen.findByText(detail)).toBeTruthy();
    expect(screen.getByRole('region', { name: 'people.csv' })).toBeTruthy();
  });
});

test('each table has its columns in words, a template, and itself as it is on file', async () => {
  serve({});
  open(<MovingPlace />, { at: '/house/moving', as: here('kay', ['designer']) });
  const tables = await screen.findByRole('region', { name: 'Tables' });
  const rows = within(tables).getAllByRole('heading', { level: 3 });
  expect(rows).toHaveLength(tableIds.length);
  const links = within(tables).getAllByRole('link', { name: 'Template' });
  expect(links[0]?.getAttribute('href')).toBe('/api/moving/calendars/template.csv');
  expect(within(tables).getAllByText(/\(may stay empty\)/).length).toBeGreaterThan(10);
});
