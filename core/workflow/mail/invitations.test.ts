/** What an invitation is over, for people of unlike places, and how it is changed and taken back. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { base } from '../../testing/anyWorkflow.ts';
import { contextFor, date, directory, halves, person, withDirectory } from '../../testing/house.ts';
import { addDays } from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';
import { newRequest, type RequestState } from '../request/state.ts';
import { invitationOf, overOf, takenBack } from './invitations.ts';

const definition: Definition = {
  ...base,
  form: {
    fields: [
      {
        kind: 'table',
        id: 'legs',
        label: 'Legs',
        required: true,
        columns: [
          { id: 'from', label: 'From', kind: 'place' },
          { id: 'on', label: 'Leaves on', kind: 'date' },
          { id: 'at', label: 'Leaves', kind: 'time' },
          { id: 'to', label: 'To', kind: 'place' },
          { id: 'back', label: 'Arrives on', kind: 'date' },
          { id: 'in', label: 'Arrives', kind: 'time' },
        ],
      },
      { kind: 'date', id: 'day', label: 'Day', required: false },
      { kind: 'date range', id: 'range', label: 'Away', required: false },
      { kind: 'leave span', id: 'leave', label: 'Leave', required: false },
      { kind: 'text', id: 'title', label: 'Title', required: false },
    ],
  },
  figures: [],
} as Definition;

/** A house with a second place, on other clocks. */
const index = withDirectory({
  places: [...directory.places, { id: 'skarn', name: 'Skarn Light', zone: 'Atlantic/Reykjavik', calendar: 'ovay' }],
});
const context = contextFor('ina', { index });
const stateOf = (answers: object, change: Partial<RequestState> = {}): RequestState => ({
  ...newRequest('R-7'),
  asker: person('ina'),
  subject: person('ina'),
  answers: answers as never,
  ...change,
});
const leg = (change: object = {}) => ({
  from: 'Ovay Station',
  on: '2026-03-09',
  at: '08:30',
  to: 'Skarn Light',
  back: '2026-03-09',
  in: '10:45',
  ...change,
});
const over = (rows: object[]) => overOf(definition, stateOf({ legs: rows }), context, 'legs');

describe('an invitation over rows', () => {
  test('goes from the first departure to the last arrival, each on the clocks of its place', () => {
    expect(
      over([leg(), leg({ from: 'Skarn Light', on: '2026-03-11', to: 'Ovay Station', back: '2026-03-11' })]),
    ).toEqual({
      start: { date: '2026-03-09', time: '08:30', zone: 'Europe/Lisbon' },
      end: { date: '2026-03-11', time: '10:45', zone: 'Europe/Lisbon' },
    });
    expect(over([leg()])?.end).toEqual({ date: '2026-03-09', time: '10:45', zone: 'Atlantic/Reykjavik' });
  });

  test.each([
    ['the place of the departure', { from: 'The moon' }],
    ['the place of the arrival', { to: 'The moon' }],
    ['the time of the departure', { at: '' }],
    ['the time of the arrival', { in: null }],
  ])('where nobody knows %s, it is over days at both ends', (_, change) => {
    expect(over([leg(change)])).toEqual({ start: { date: '2026-03-09' }, end: { date: '2026-03-09' } });
  });

  test('a place that is not said is that of whoever travels', () => {
    expect(over([leg({ from: null, to: '' })])).toEqual({
      start: { date: '2026-03-09', time: '08:30', zone: 'Europe/Lisbon' },
      end: { date: '2026-03-09', time: '10:45', zone: 'Europe/Lisbon' },
    });
  });

  test('rows without a date are not in it, and none is sent where there is none at all', () => {
    expect(over([leg(), leg({ on: null, back: null })])).toEqual(over([leg()]));
    expect(over([leg({ on: null, back: null })])).toBeNull();
    expect(over([])).toBeNull();
  });

  test('is the same whatever the order of the rows', () => {
    const days = fc.uniqueArray(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(days, fc.infiniteStream(fc.nat()), (all, order) => {
        const rows = all.map(day => {
          const on = addDays(date('2026-03-01'), day);
          return leg({ on, back: on });
        });
        const shuffled = rows.map(row => [order.next().value as number, row] as const).sort(([a], [b]) => a - b);
        const found = over(rows);
        expect(over(shuffled.map(([, row]) => row))).toEqual(found);
        expect(found?.start.date).toBe(addDays(date('2026-03-01'), Math.min(...all)));
        expect(found?.end.date).toBe(addDays(date('2026-03-01'), Math.max(...all)));
      }),
    );
  });
});

describe('an invitation over dates', () => {
  test.each([
    ['day', { day: '2026-05-04' }, '2026-05-04', '2026-05-04'],
    ['range', { range: { from: '2026-05-04', to: '2026-05-08' } }, '2026-05-04', '2026-05-08'],
    ['leave', { leave: halves('2026-05-04', '2026-05-05', { to: 'am' }) }, '2026-05-04', '2026-05-05'],
  ])('over a field of the kind of %s', (of, answers, start, end) => {
    expect(overOf(definition, stateOf(answers), context, of)).toEqual({ start: { date: start }, end: { date: end } });
  });

  test.each([
    ['what is not answered', 'day', {}],
    ['what is empty', 'day', { day: null }],
    ['words', 'title', { title: 'soon' }],
    ['a field that is not there', 'gone', { gone: '2026-05-04' }],
  ])('is over nothing for %s', (_, of, answers) => {
    expect(overOf(definition, stateOf(answers), context, of)).toBeNull();
    expect(invitationOf(definition, stateOf(answers), context, 'tell', { of, title: 'Trip' })).toBeNull();
  });
});

describe('the number of an invitation', () => {
  const attachment = { of: 'day', title: 'Trip of {asker}: {Title}' };
  const first = invitationOf(definition, stateOf({ day: '2026-05-04', title: 'Ovay' }), context, 'tell', attachment);

  test('begins at nothing, with a name of its own for the request and its step', () => {
    expect(first).toEqual({
      uid: 'R-7-tell',
      sequence: 0,
      method: 'REQUEST',
      title: 'Trip of Ina Okell: Ovay',
      start: { date: '2026-05-04' },
      end: { date: '2026-05-04' },
    });
  });

  test('rises with each change and with what takes it back, and the name stays', () => {
    if (!first) throw new Error('there is none');
    const before = { invitations: { tell: { invitation: first, people: [person('ina')] } } } as never;
    const next = invitationOf(definition, stateOf({ day: '2026-05-06' }, before), context, 'tell', attachment);
    expect(next).toMatchObject({ uid: first.uid, sequence: 1, start: { date: '2026-05-06' } });
    expect(takenBack(next ?? first)).toMatchObject({ uid: first.uid, sequence: 2, method: 'CANCEL' });
    // Another step of the same request invites to something else.
    expect(
      invitationOf(definition, stateOf({ day: '2026-05-06' }, before), context, 'other', attachment),
    ).toMatchObject({
      uid: 'R-7-other',
      sequence: 0,
    });
  });

  test('a name of three hundred letters is cut to what a calendar takes', () => {
    const long = invitationOf(
      definition,
      stateOf({ day: '2026-05-04', title: 'Åse '.repeat(100) }),
      context,
      'tell',
      attachment,
    );
    expect(long?.title.length).toBeLessThanOrEqual(200);
    expect(long?.title).toContain('Trip of Ina Okell: Åse');
  });
});
