/** @jest-environment jsdom */
/** Who comes and leaves, what a leaver hands over, and who would decide. */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { DecidesView, HandOverView, MovesView } from '@north-pebble/contract';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { date, person } from '../../../../core/testing/house.ts';
import { here, open, Refusal, type Sent, serve, unserve } from '../../testing/page.tsx';
import { DecidesPlace } from './DecidesPlace.tsx';
import { HandOverPlace } from './HandOverPlace.tsx';
import { MovesPlace } from './MovesPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});
const at = (path: string) =>
  open(
    <Routes>
      <Route path="/people/moves" element={<MovesPlace />} />
      <Route path="/people/decides" element={<DecidesPlace />} />
      <Route path="/people/:person/hand-over" element={<HandOverPlace />} />
    </Routes>,
    { at: path, as: here('kay', ['designer']) },
  );
const named = (id: string, name: string) => ({ id: person(id), name });

describe('comings and leavings', () => {
  const moves: MovesView = {
    today: date('2026-02-02'),
    comes: [{ person: named('pia', 'Pia Lindqvist'), day: date('2026-03-02'), post: null, place: 'Ovay Station' }],
    leaves: [
      { person: named('per', 'Per Voss'), day: date('2025-12-31'), post: 'Foreman', place: 'Port Ambrel', open: 7 },
      { person: named('tom', 'Tom Lund'), day: date('2026-02-27'), post: 'Lead', place: 'Ovay Station', open: 1 },
      { person: named('ada', 'Ada Dunmore'), day: date('2026-03-31'), post: null, place: 'Ovay Station', open: 0 },
    ],
  };
  test('stand by day, with what is still theirs', async () => {
    serve({ 'GET /moves': moves });
    at('/people/moves');
    const leaves = await screen.findByRole('region', { name: 'Who leaves' });
    const [per, tom, ada] = within(leaves).getAllByRole('listitem');
    expect(per?.textContent).toContain('(has left)');
    expect(within(per as HTMLElement).getByRole('link', { name: '7 things to hand over' })).toBeTruthy();
    expect(tom?.textContent).not.toContain('(has left)');
    expect(within(tom as HTMLElement).getByRole('link', { name: 'one thing to hand over' })).toBeTruthy();
    expect(ada?.textContent).toContain('no post, Ovay Station; nothing is left to hand over');
    const comes = screen.getByRole('region', { name: 'Who comes' });
    expect(within(comes).getByRole('listitem').textContent).toContain('no post yet, Ovay Station');
  });
  test('where there are none it says so', async () => {
    serve({ 'GET /moves': { ...moves, comes: [], leaves: [] } });
    at('/people/moves');
    expect(await screen.findByText('Nobody is on file who is still to come.')).toBeTruthy();
    expect(screen.getByText('Nobody has a last day near by.')).toBeTruthy();
  });
});

describe('handing over', () => {
  const view: HandOverView = {
    person: named('tom', 'Tom Lund'),
    left: date('2026-02-27'),
    today: date('2026-02-02'),
    items: [
      { what: 'task', id: 't', title: 'Annual leave, March', otherwise: 'It stays.', link: '/requests/R-1' },
      { what: 'role', id: 'r', title: 'Boat keeper', otherwise: 'Nobody is asked.', link: null },
      { what: 'report', id: 'p', title: 'Observer, vacant, reports to Lead', otherwise: 'It goes up.', link: null },
    ],
    access: [
      { connection: 'Directory', what: 'Boat keepers', request: 'R-7', until: null },
      { connection: 'Directory', what: 'Tide console', request: null, until: date('2026-05-02') },
    ],
  };
  const people = {
    people: [
      { id: 'per', name: 'Per Lauder', what: 'Observer' },
      { id: 'ina', name: 'Ina Okell', what: 'Observer' },
    ],
    roles: [],
  };
  const choose = async (letters: string, name: RegExp) => {
    await userEvent.type(screen.getByRole('combobox', { name: 'To whom' }), letters);
    await userEvent.click(await screen.findByRole('option', { name }));
  };

  test('each thing stands under its heading with what becomes of it otherwise', async () => {
    serve({ 'GET /records/tom/hand-over': view });
    at('/people/tom/hand-over');
    const form = await screen.findByRole('form', { name: 'Hand over' });
    expect(screen.getByText('Their last day is Fri 27 February.')).toBeTruthy();
    const groups = within(form).getAllByRole('group');
    expect(groups.map(one => within(one).getAllByRole('checkbox').length)).toEqual([1, 1, 1]);
    expect(within(form).getByText(/Otherwise: It goes up/)).toBeTruthy();
    expect(within(form).getByRole('link', { name: 'Look at it' }).getAttribute('href')).toBe('/requests/R-1');
    expect(within(form).getByRole('button', { name: 'Hand 3 things over' }).hasAttribute('disabled')).toBe(true);
  });
  test('access outside is told with its request or its last day, and is not handed over', async () => {
    serve({ 'GET /records/tom/hand-over': view });
    at('/people/tom/hand-over');
    const outside = await screen.findByRole('region', { name: 'Access outside' });
    const rows = within(outside)
      .getAllByRole('listitem')
      .map(one => one.textContent);
    expect(rows).toEqual(['Directory: Boat keepers, given with R-7', 'Directory: Tide console, until Sat 2 May']);
    expect(within(outside).queryAllByRole('checkbox')).toEqual([]);
    expect(within(outside).getByText(/It is not handed over/)).toBeTruthy();
  });
  test('what is unticked stays; what could not be handed over says why', async () => {
    const told = {
      done: 1,
      stayed: [{ what: 'report', id: 'p', title: 'Observer', why: 'Per Lauder holds no post.' }],
    };
    const sent = serve({
      'GET /records/tom/hand-over': view,
      'GET /people': people,
      'POST /records/tom/hand-over': told,
    });
    at('/people/tom/hand-over');
    await userEvent.click(await screen.findByRole('checkbox', { name: 'Boat keeper' }));
    await choose('Per', /Per Lauder/);
    await userEvent.type(screen.getByRole('textbox', { name: 'Why' }), 'Tom leaves.');
    await userEvent.click(screen.getByRole('button', { name: 'Hand 2 things over' }));
    expect(await screen.findByText('One thing was handed over')).toBeTruthy();
    expect(screen.getByText('Observer stays: Per Lauder holds no post.')).toBeTruthy();
    const post = sent.find(one => one.method === 'POST') as Sent;
    expect(post.body).toEqual({
      to: 'per',
      items: [
        { what: 'task', id: 't' },
        { what: 'report', id: 'p' },
      ],
      reason: 'Tom leaves.',
    });
  });
  test('what stands in the way is said at its field, and what was typed is kept', async () => {
    serve({
      'GET /records/tom/hand-over': view,
      'GET /people': people,
      'POST /records/tom/hand-over': () =>
        new Refusal('No.', [{ field: 'to', message: 'Choose somebody who works here on Sat 28 February 2026.' }], 422),
    });
    at('/people/tom/hand-over');
    await screen.findByRole('form', { name: 'Hand over' });
    await choose('Ina', /Ina Okell/);
    await userEvent.type(screen.getByRole('textbox', { name: 'Why' }), 'Tom leaves.');
    await userEvent.click(screen.getByRole('button', { name: 'Hand 3 things over' }));
    expect(await screen.findByText(/Choose somebody who works here/)).toBeTruthy();
    expect((screen.getByRole('textbox', { name: 'Why' }) as HTMLInputElement).value).toBe('Tom leaves.');
  });
  test('without anything it says so, and there is nothing to send', async () => {
    serve({ 'GET /records/tom/hand-over': { ...view, left: null, items: [], access: [] } });
    at('/people/tom/hand-over');
    expect(await screen.findByText('Nothing is left to hand over')).toBeTruthy();
    expect(screen.getByText('They have no last day on file.')).toBeTruthy();
    expect(screen.getByText('No access that a request gave stands.')).toBeTruthy();
    expect(screen.queryByRole('form')).toBeNull();
  });
});

describe('who decides', () => {
  const step = { number: '3', name: 'Decide', says: 'The line manager decides.', people: [], why: [], gap: null };
  const view: DecidesView = {
    day: date('2026-03-10'),
    person: named('ina', 'Ina Okell'),
    workflow: 'Annual leave',
    steps: [
      {
        ...step,
        people: [{ name: 'Dora Quill', coverFor: 'Tom Lund' }],
        why: ['Tide observer reports to Observatory lead'],
        depends: false,
      },
      { ...step, number: '4', name: 'Sign', gap: 'nobody has the role Diver', depends: false },
      { ...step, number: '5', name: 'Pay', gap: 'no answer is given yet', depends: true },
    ],
  };
  const routes = {
    'GET /decides/choices': { workflows: [{ id: 'annual', name: 'Annual leave' }] },
    'GET /people': { people: [], roles: [] },
    'GET /decides': view,
  };
  test('is told step by step, with why, who stands in, and where nobody is found', async () => {
    const sent = serve(routes);
    at('/people/decides?person=ina&workflow=annual&day=2026-03-10');
    expect(await screen.findByText('Annual leave, asked by Ina Okell on Tue 10 March 2026')).toBeTruthy();
    const [first, second, third] = screen.getAllByRole('listitem').map(one => one.textContent);
    expect(first).toContain('Dora Quill, for Tom Lund');
    expect(first).toContain('Tide observer reports to Observatory lead');
    expect(second).toContain('Nobody: nobody has the role Diver');
    // What the request says is no gap of the house.
    expect(third).toContain('It depends on what the request says.');
    expect(third).not.toContain('Nobody');
    const asked = sent.find(one => one.path === '/decides')?.query;
    expect(Object.fromEntries(asked ?? [])).toEqual({ person: 'ina', workflow: 'annual', day: '2026-03-10' });
  });
  test('nothing is asked of the server before somebody and something are chosen', async () => {
    const sent = serve(routes);
    at('/people/decides?person=ina');
    await screen.findByRole('combobox', { name: 'What they ask for' });
    expect(sent.filter(one => one.path === '/decides')).toEqual([]);
    expect(screen.queryByText(/asked by/)).toBeNull();
  });
  test('a workflow in which nobody has anything to do says so; a refusal is shown', async () => {
    serve({ ...routes, 'GET /decides': { ...view, steps: [] } });
    at('/people/decides?person=ina&workflow=annual');
    expect(await screen.findByText('Nobody has to do anything in it.')).toBeTruthy();
    cleanup();
    serve({ ...routes, 'GET /decides': () => new Refusal('That workflow is live no more.', [], 404) });
    at('/people/decides?person=per&workflow=annual');
    expect(await screen.findByText('That workflow is live no more.')).toBeTruthy();
  });
});
