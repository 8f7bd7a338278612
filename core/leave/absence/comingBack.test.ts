/** Back from long absence: the day, the post of before, and who has it. */
import { describe, expect, test } from '@jest/globals';
import type { Holding, PersonId } from '../../people/index.ts';
import { annual, bookOf, date, directory, entry, halves, person, withDirectory } from '../../testing/house.ts';
import type { LeaveEntry } from '../book.ts';
import type { LeaveType } from '../rules/type.ts';
import { comingBack } from './comingBack.ts';

const parental: LeaveType = {
  ...annual,
  id: 'parental',
  name: 'Parental leave',
  takesFrom: 'nothing',
  tellsReturn: 30,
};
const own = directory.holdings.find(one => one.person === 'ina' && one.main) as Holding;
const long = entry({ request: 'R-1', type: 'parental', state: 'booked', span: halves('2026-03-02', '2026-08-28') });

const backOf = (
  { entries = [long], holdings = directory.holdings, ...more }: Partial<typeof directory> & { entries?: LeaveEntry[] },
  of = entries[0] as LeaveEntry,
) =>
  comingBack(
    bookOf(entries, { index: withDirectory({ holdings, ...more }), types: [annual, parental] }),
    person('ina'),
    of,
  );

describe('coming back', () => {
  test('is on the first day of work, to the post of before', () => {
    // Friday is the last day of leave; Monday is worked.
    expect(backOf({})).toEqual({
      on: '2026-08-31',
      tellOn: '2026-08-01',
      before: own.post,
      now: own.post,
      others: [],
    });
  });

  test('names another post, none, and who else has the one of before', () => {
    const ended = { ...own, to: date('2026-05-31') };
    const rest = directory.holdings.filter(one => one.person !== 'ina');
    expect(backOf({ holdings: [...rest, ended] })).toMatchObject({ before: own.post, now: null, others: [] });
    const [other] = directory.posts.filter(post => post.id !== own.post);
    const moved = { ...own, post: (other as (typeof directory.posts)[number]).id, from: date('2026-06-01') };
    const stands: Holding = { ...own, person: 'tom' as PersonId, from: date('2026-03-02'), to: null, main: false };
    const gone: Holding = { ...stands, to: date('2026-08-30') };
    expect(backOf({ holdings: [...rest, ended, moved, stands] })).toMatchObject({
      before: own.post,
      now: moved.post,
      others: ['tom'],
    });
    expect(backOf({ holdings: [...rest, own, gone] })?.others).toEqual([]);
  });

  test('is from all that has no work between, and told of the last of it', () => {
    const after = entry({ request: 'R-2', type: 'annual', state: 'booked', span: halves('2026-08-31', '2026-09-04') });
    // Holidays behind it put it off.
    expect(backOf({ entries: [long, after] })?.on).toBe('2026-09-07');
    expect(backOf({ entries: [long, { ...after, span: { ...after.span, open: true } as never }] })).toBeNull();
    // A day of work between, and they are back.
    const later = { ...after, span: halves('2026-09-01', '2026-09-04') };
    expect(backOf({ entries: [long, later] })?.on).toBe('2026-08-31');
    // Two in a row of the type: the post is that of before the first.
    const second = entry({ ...long, request: 'R-3', span: halves('2026-08-31', '2026-12-31') });
    const rest = directory.holdings.filter(one => one.person !== 'ina');
    const holdings = [...rest, { ...own, to: date('2026-05-31') }];
    expect(backOf({ entries: [long, second], holdings })).toBeNull();
    expect(backOf({ entries: [long, second], holdings }, second)).toMatchObject({ before: own.post, now: null });
  });

  test('is nobody’s who leaves before, whose end is not known, or of whose type nothing is told', () => {
    const leaves = directory.people.map(one => (one.id === 'ina' ? { ...one, left: date('2026-08-28') } : one));
    expect(backOf({ people: leaves })).toBeNull();
    expect(backOf({ entries: [{ ...long, span: { ...long.span, open: true } as never }] })).toBeNull();
    expect(backOf({ entries: [{ ...long, type: 'annual' }] })).toBeNull();
    expect(backOf({ entries: [{ ...long, state: 'held' } as LeaveEntry] })).toBeNull();
  });
});
