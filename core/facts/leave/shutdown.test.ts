/** A place that is closed: leave booked for everybody who works there, once, and taken back. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { consequencesOf } from '../../consequences/index.ts';
import { type LeaveEntry, statementOf } from '../../leave/index.ts';
import { indexDirectory } from '../../people/index.ts';
import { annual, bookOf, date, directory, halves, person, sick, standard } from '../../testing/house.ts';
import { edited, editsOf, type HouseChange, type OnFile, reversed } from '../index.ts';

const file: OnFile = { ...directory, leaveTypes: [annual, sick], leavePlans: [standard], bookings: [] };
const plans = [{ id: 'standard', unit: 'days' as const }];
const shutdown = (more: object = {}) =>
  ({
    what: 'shutdown',
    name: 'Summer shutdown',
    place: 'ovay',
    department: null,
    type: 'annual',
    from: { date: '2026-08-03', half: 'am' },
    to: { date: '2026-08-07', half: 'am' },
    except: [],
    ...more,
  }) as unknown as HouseChange;
const people = (own: OnFile, change: HouseChange) => {
  const found = editsOf(own, change, plans);
  return found.ok ? found.edits.flatMap(({ after }) => (after?.kind === 'booking' ? [after.person] : [])) : found.fault;
};
const ina = directory.people.find(one => one.id === 'ina') as (typeof directory.people)[number];
const with_ = (more: Partial<typeof ina>): OnFile => ({
  ...file,
  people: directory.people.map(one => (one.id === 'ina' ? { ...one, ...more } : one)),
});

describe('a shutdown', () => {
  test('is booked once for everybody who works there then, but for exceptions and those who have leave already', () => {
    const all = people(file, shutdown()) as string[];
    // Whoever has left before it is not there.
    const here = directory.people.filter(one => one.left === null || one.left >= '2026-08-03').map(one => one.id);
    expect(all.toSorted()).toEqual(here.toSorted());
    expect(people(file, shutdown({ except: ['ina'] }))).not.toContain('ina');
    const booked = (from: string, to: string): OnFile => ({
      ...file,
      bookings: [{ id: 'R-1', person: person('ina'), type: 'annual', span: halves(from, to) }],
    });
    expect(people(booked('2026-08-06', '2026-08-12'), shutdown())).not.toContain('ina');
    // It ends at noon of the 7th.
    const afternoon = {
      from: { date: date('2026-08-07'), half: 'pm' as const },
      to: { date: date('2026-08-07'), half: 'pm' as const },
    };
    const after = { ...file, bookings: [{ id: 'R-1', person: person('ina'), type: 'annual', span: afternoon }] };
    expect(people(after, shutdown())).toContain('ina');
    const [record] = ina.records;
    expect(people(with_({ records: [{ ...record, plan: null } as typeof record] }), shutdown())).not.toContain('ina');
    expect(people(with_({ joined: date('2026-08-10') }), shutdown())).not.toContain('ina');
  });

  test('begins with their first day for whoever comes in the middle of it', () => {
    const found = editsOf(with_({ joined: date('2026-08-05') }), shutdown(), plans);
    const own = found.ok && found.edits.find(({ after }) => after?.kind === 'booking' && after.person === 'ina')?.after;
    expect(own).toMatchObject({ span: { from: { date: '2026-08-05', half: 'am' } }, reason: 'Summer shutdown' });
  });

  test.each<[string, object, object]>([
    ['that ends before it begins', { to: { date: '2026-08-02', half: 'pm' } }, { field: 'to' }],
    ['of a place that is not there', { place: 'moon' }, { field: 'place' }],
    ['of leave that takes from no balance', { type: 'sick' }, { field: 'type' }],
    [
      'where nobody is',
      { department: 'observatory', except: directory.people.map(one => one.id) },
      { code: 'nobody there' },
    ],
  ])('%s is refused at its place', (_, more, fault) => {
    expect(people(file, shutdown(more))).toMatchObject(fault);
  });

  test('takes from each balance what the days count there, and back it is as it was', () => {
    const found = editsOf(file, shutdown(), plans);
    if (!found.ok) throw new Error(found.fault.code);
    const book = bookOf([], { types: [annual, sick] });
    const told = consequencesOf(book, book.index, found.edits, date('2026-08-03'));
    const own = told.balances.find(one => one.person === 'ina');
    // Four whole days and a morning.
    expect(own && (own.before ?? 0) - (own.after ?? 0)).toBe(4.5);
    const now = edited(file, found.edits);
    if (!now.ok) throw new Error(String(now.stale));
    const entries: LeaveEntry[] = (now.directory.bookings ?? []).map(({ id, person: whose, type, span, reason }) => ({
      ...{ request: id, person: whose, type, span, state: 'booked' as const },
      ...(reason ? { reason } : {}),
    }));
    const lines = statementOf(bookOf(entries), person('ina'), annual, date('2026-12-31'))?.lines ?? [];
    expect(lines.find(line => line.kind === 'taken')?.reason).toBe('taken in a shutdown: Summer shutdown');
    const back = edited(now.directory, reversed(found.edits));
    expect(back.ok && back.directory.bookings).toEqual([]);
  });

  test('made again books nobody a second time, whatever its days', () => {
    const day = fc.integer({ min: 1, max: 27 }).map(n => `2026-08-${String(n).padStart(2, '0')}`);
    fc.assert(
      fc.property(day, day, day, (a, b, c) => {
        const [from, to] = [a, b].toSorted();
        const one = shutdown({ from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } });
        const first = editsOf(file, one, plans);
        const now = first.ok ? edited(file, first.edits) : null;
        if (!first.ok || !now?.ok) throw new Error('it could not be booked');
        expect(people(now.directory, one)).toMatchObject({ code: 'nobody there' });
        const other = shutdown({ from: { date: c, half: 'am' }, to: { date: c, half: 'pm' } });
        const again = people(now.directory, other);
        if (from !== undefined && to !== undefined && from <= c && c <= to)
          expect(again).toMatchObject({ code: 'nobody there' });
        else expect(again).toEqual(people(file, other));
      }),
      { numRuns: 40 },
    );
    expect(indexDirectory(directory).person(person('ina'))).toBeDefined();
  });
});
