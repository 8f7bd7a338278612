/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { DeskItem, DeskView } from '@north-pebble/contract';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import {
  address,
  commandsOf,
  deskItem,
  now,
  open,
  Refusal,
  requestFor,
  type Sent,
  serve,
  unserve,
} from '../../testing/page.tsx';
import { DeskPlace } from './DeskPlace.tsx';
import { besides } from './DeskRow.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const weeks = Array.from({ length: 10 }, (_, n) => ({
  from: `2026-0${n < 5 ? 1 : 2}-0${(n % 5) + 1}` as never,
  done: n,
}));
const desk = (items: DeskItem[], change: Partial<DeskView> = {}): DeskView => ({
  now,
  zone: 'Europe/Lisbon',
  items,
  done: [],
  weeks: [],
  ...change,
});
const ina = deskItem();
const per = deskItem({ request: 'R-2', askerName: 'Per Lauder', what: '2 days of annual leave' });
const kay = deskItem({ request: 'R-3', askerName: 'Kay Voss', what: 'a boat', batch: null });

function shows(
  view: DeskView,
  answer: (sent: Sent) => unknown = () => ({ request: 'R-1', version: 9 }),
  more: Record<string, unknown> = {},
) {
  const ids = view.items.map(item => item.request);
  return serve({
    'GET /sets': [],
    ...more,
    'GET /desk': view,
    ...Object.fromEntries(
      ids.map(id => [`GET /requests/${id}`, requestFor({ answer: 'R-1.1', pass: 'R-1.1' }, { id })]),
    ),
    ...Object.fromEntries(ids.map(id => [`POST /requests/${id}/commands`, answer])),
  });
}

describe('what stands beside an item', () => {
  test.each<[string, Partial<DeskItem>, string[]]>([
    ['nothing as a rule', {}, []],
    ['for whom one stands in', { coverFor: 'Dora Quill' }, ['you stand in for Dora Quill']],
    ['who stands in for one', { coveredBy: 'Kay Voss' }, ['Kay Voss stands in for you']],
    ['a question that is open', { question: 'Which?' }, ['waits for the reply to your question']],
    [
      'until when it is set aside, with the note',
      { aside: { until: '2026-02-10' as never, note: 'tide table' } },
      ['until Tue 10 February 2026: tide table'],
    ],
  ])('%s', (_, change, words) => {
    expect(besides(deskItem(change))).toEqual(words);
  });
});

describe('the desk', () => {
  test('groups what waits by urgency, and counts what is not set aside', async () => {
    const aside = deskItem({
      request: 'R-4',
      askerName: 'Sub Under',
      aside: { until: '2026-02-10' as never, note: null },
    });
    const late = deskItem({ request: 'R-5', askerName: 'Rin Round', due: '2026-01-30T17:00:00Z' as never });
    shows(desk([ina, aside, late]));
    open(<DeskPlace />, { at: '/desk' });
    expect(await screen.findByRole('heading', { name: 'Two things wait for you' })).toBeTruthy();
    const names = (group: string) => within(screen.getByRole('region', { name: group })).getAllByRole('button');
    expect(names('Past the limit')[0].textContent).toContain('Rin Round');
    expect(names('This week')[0].textContent).toContain('Ina Okell');
    expect(names('Set aside')[0].textContent).toContain('Sub Under');
  });

  test('names the person concerned beside whoever asked, where they are two', async () => {
    shows(desk([ina, deskItem({ request: 'R-8', askerName: 'Tom Lund', concernedName: 'Sub Under' })]));
    open(<DeskPlace />, { at: '/desk' });
    expect(await screen.findByRole('button', { name: /Tom Lund for Sub Under wants 4½ days/ })).toBeTruthy();
    expect(screen.getByRole('button', { name: /Ina Okell wants 4½ days/ })).toBeTruthy();
  });

  test('says once that nothing waits, and what would stand here', async () => {
    shows(desk([]));
    open(<DeskPlace />, { at: '/desk' });
    expect(await screen.findAllByText(/Nothing waits for you/)).toHaveLength(1);
    expect(screen.getByRole('region', { name: 'Yours' })).toBeTruthy();
  });

  test('one’s own begin with “Your”, with the question that is asked', async () => {
    const own = deskItem({ kind: 'reply', facts: ['Tom Lund asks: “Which?”'], batch: null });
    shows(desk([own]));
    open(<DeskPlace />, { at: '/desk' });
    const row = await screen.findByRole('button', { name: /Your 4½ days of annual leave/ });
    expect(row.textContent).toContain('Tom Lund asks: “Which?”');
    expect(row.textContent).toContain('reply');
  });

  test('shows by week what was done', async () => {
    shows(desk([], { weeks, done: [{ at: now, request: 'R-9', text: 'Approve: Per Lauder, annual leave' }] }));
    open(<DeskPlace />, { at: '/desk' });
    expect(await screen.findByRole('link', { name: 'Approve: Per Lauder, annual leave' })).toBeTruthy();
    const chart = screen.getByRole('img', { name: /^What you did by week/ });
    expect(chart.getAttribute('aria-label')).toContain('9 in the week from');
    expect(chart.querySelectorAll('rect')).toHaveLength(10);
  });

  test('a note typed for one item is still there after looking at another, and after undoing', async () => {
    const seen = shows(desk([ina, per]));
    const user = userEvent.setup();
    open(<DeskPlace />, { at: '/desk' });
    await user.type(await screen.findByRole('textbox', { name: /^Note for/ }), 'Enjoy the sea');
    await user.click(screen.getByRole('button', { name: /Per Lauder/ }));
    await waitFor(() => expect(screen.queryByDisplayValue('Enjoy the sea')).toBeNull());
    await user.click(screen.getByRole('button', { name: /Ina Okell wants/ }));
    expect(await screen.findByDisplayValue('Enjoy the sea')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: /^Approve/ }));
    await user.click(await screen.findByRole('button', { name: 'Undo' }));
    expect(await screen.findByDisplayValue('Enjoy the sea')).toBeTruthy();
    expect(commandsOf(seen)).toEqual([]);
  });

  test('what was sent back as often as it may be is shown and cannot be chosen, by no key either', async () => {
    const spent = requestFor({ answer: 'R-1.1', spent: ['back'] });
    const seen = serve({ 'GET /sets': [], 'GET /desk': desk([ina]), 'GET /requests/R-1': spent });
    const user = userEvent.setup();
    open(<DeskPlace />, { at: '/desk' });
    const back = (await screen.findByRole('button', { name: /^Send back/ })) as HTMLButtonElement;
    expect(back.disabled).toBe(true);
    expect(screen.getByText('“Send back” was chosen as often as this workflow allows.')).toBeTruthy();
    await user.keyboard('2');
    expect(screen.queryByRole('button', { name: 'Undo' })).toBeNull();
    expect(commandsOf(seen)).toEqual([]);
  });

  test('j and k go through the list; keys that are typed into a note decide nothing', async () => {
    const seen = shows(desk([ina, per]));
    const user = userEvent.setup();
    open(<DeskPlace />, { at: '/desk' });
    await screen.findByRole('button', { name: /Approve/ });
    await user.keyboard('j');
    expect(screen.getByLabelText('Address').textContent).toBe('/desk?item=R-2');
    await user.keyboard('k');
    expect(screen.getByLabelText('Address').textContent).toBe('/desk?item=R-1');
    await user.type(await screen.findByRole('textbox', { name: /^Note for/ }), '1 of 2, j and k');
    expect(screen.getByLabelText('Address').textContent).toBe('/desk?item=R-1');
    expect(commandsOf(seen)).toEqual([]);
    expect(screen.queryByRole('button', { name: 'Undo' })).toBeNull();
  });
});

describe('several at once', () => {
  const choose = async (user: ReturnType<typeof userEvent.setup>, ...names: RegExp[]) => {
    for (const name of names) await user.click(await screen.findByRole('checkbox', { name }));
  };

  test('are of the same step; what must be filled in cannot be among them', async () => {
    const other = deskItem({ request: 'R-6', askerName: 'Dora Quill' });
    if (other.batch) other.batch = { ...other.batch, step: 'annual/1/above' };
    shows(desk([ina, per, kay, other]));
    const user = userEvent.setup();
    open(<DeskPlace />, { at: '/desk' });
    expect(await screen.findAllByRole('checkbox')).toHaveLength(3);
    await choose(user, /Ina Okell/);
    expect(screen.getAllByRole('checkbox')).toHaveLength(2);
  });

  test('each is answered by a command of its own', async () => {
    const seen = shows(desk([ina, per]));
    const user = userEvent.setup();
    open(<DeskPlace />, { at: '/desk' });
    await choose(user, /Ina Okell/, /Per Lauder/);
    await user.click(screen.getByRole('button', { name: 'Approve 2' }));
    // For a few seconds they can be taken back, and are chosen as before.
    expect(await screen.findByText('Answered “Approve”: 2 requests, Ina Okell, Per Lauder')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    await user.click(await screen.findByRole('button', { name: 'Approve 2' }));
    expect(commandsOf(seen)).toEqual([]);
    await user.click(await screen.findByRole('button', { name: 'Send now' }));
    await waitFor(() => expect(commandsOf(seen)).toHaveLength(2));
    expect(commandsOf(seen)).toEqual([
      { kind: 'answer', seen: 8, task: 'R-1.1', outcome: 'approve', note: null },
      { kind: 'answer', seen: 8, task: 'R-2.1', outcome: 'approve', note: null },
    ]);
    const ids = seen.filter(s => s.path.endsWith('/commands')).map(s => s.body?.id);
    expect(new Set(ids).size).toBe(2);
  });

  test('an answer that needs a note is not sent without', async () => {
    const seen = shows(desk([ina, per]));
    const user = userEvent.setup();
    open(<DeskPlace />, { at: '/desk' });
    await choose(user, /Ina Okell/, /Per Lauder/);
    await user.click(screen.getByRole('button', { name: 'Decline 2' }));
    expect(screen.getByText('This answer needs a short note.')).toBeTruthy();
    expect(commandsOf(seen)).toEqual([]);
    await user.type(screen.getByRole('textbox', { name: 'Note for all of them' }), 'Not in May.');
    await user.click(screen.getByRole('button', { name: 'Decline 2' }));
    await user.click(await screen.findByRole('button', { name: 'Send now' }));
    await waitFor(() => expect(commandsOf(seen)).toHaveLength(2));
  });

  test('what is refused stays chosen, with its reason; the others are answered', async () => {
    shows(desk([ina, per, deskItem({ request: 'R-7', askerName: 'Sub Under' })]), ({ path }) =>
      path.includes('R-2') || path.includes('R-7')
        ? new Refusal('Dora answered this a moment ago.', [], 409)
        : { request: 'R-1', version: 9 },
    );
    const user = userEvent.setup();
    open(<DeskPlace />, { at: '/desk' });
    await choose(user, /Ina Okell/, /Per Lauder/);
    await user.click(screen.getByRole('button', { name: 'All 3 like these' }));
    await user.click(screen.getByRole('button', { name: 'Approve 3' }));
    await user.click(await screen.findByRole('button', { name: 'Send now' }));
    expect(
      await screen.findByText(/This was not carried out. Answered “Approve”: Per Lauder, 2 days of annual leave/),
    ).toBeTruthy();
    expect(
      await screen.findByText(/This was not carried out. Answered “Approve”: Sub Under, 4½ days of annual leave/),
    ).toBeTruthy();
    expect(screen.getAllByText(/Dora answered this a moment ago/)).toHaveLength(2);
    expect(screen.queryByText(/This was not carried out. Answered “Approve”: Ina Okell/)).toBeNull();
    expect(screen.getByRole('button', { name: 'Approve 2' })).toBeTruthy();
  });
});

describe('filters of the desk', () => {
  const boat = deskItem({
    request: 'R-9',
    askerName: 'Kay Voss',
    what: 'a boat',
    workflow: 'boats',
    workflowName: 'Boats',
    role: 'Travel desk',
  });
  const many = [
    ina,
    per,
    kay,
    boat,
    deskItem({ request: 'R-5', askerName: 'Sub Under' }),
    deskItem({ request: 'R-6' }),
  ];
  const rowNames = () =>
    screen
      .getAllByRole('button')
      .flatMap(b => (b.textContent?.includes(' wants ') ? [b.textContent.split(' wants ')[0]] : []));

  test('are not there while all is seen at a glance', async () => {
    shows(desk([ina, per]));
    open(<DeskPlace />, { at: '/desk' });
    await screen.findByText('Two things wait for you');
    expect(screen.queryByRole('region', { name: 'Filters' })).toBeNull();
  });

  test('stand in the address, are counted, and can be taken away', async () => {
    shows(desk(many));
    const user = userEvent.setup();
    open(<DeskPlace />, { at: '/desk' });
    await user.click(await screen.findByRole('button', { name: 'Travel desk 1' }));
    expect(address()).toContain('role=Travel+desk');
    expect(rowNames()).toHaveLength(1);
    expect(screen.getByText(/for the role Travel desk/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: '1 of 6: show all' }));
    expect(rowNames()).toHaveLength(6);
    await user.type(screen.getByRole('searchbox', { name: 'Find among these' }), 'sub');
    await waitFor(() => expect(rowNames()).toHaveLength(1));
    await user.type(screen.getByRole('searchbox', { name: 'Find among these' }), 'marine');
    expect(await screen.findByText('Nothing that waits fits these filters.')).toBeTruthy();
    expect(screen.getByText('Six things wait for you')).toBeTruthy();
  });

  test('are kept as a set of the desk, and taken up again', async () => {
    const kept = {
      id: 3,
      place: 'desk',
      name: 'Boats',
      query: 'workflow=boats',
      shared: false,
      own: true,
      ownerName: '',
    };
    const other = { ...kept, id: 4, place: 'requests', name: 'Elsewhere' };
    const sent = shows(desk(many), undefined, { 'GET /sets': [kept, other], 'POST /sets': [kept, other] });
    const user = userEvent.setup();
    open(<DeskPlace />, { at: '/desk?kind=decide' });
    await user.click(await screen.findByRole('button', { name: 'Boats' }));
    expect(address()).toContain('workflow=boats');
    expect(rowNames()).toHaveLength(1);
    expect(screen.queryByRole('button', { name: 'Elsewhere' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Keep these filters' }));
    await user.type(screen.getByRole('textbox', { name: 'Name of the set' }), 'Mine');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    await waitFor(() =>
      expect(sent.find(s => s.method === 'POST' && s.path === '/sets')?.body).toMatchObject({
        place: 'desk',
        name: 'Mine',
        query: 'workflow=boats',
      }),
    );
  });
});
