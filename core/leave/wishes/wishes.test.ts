/** Wishes in turn, for any house: nobody is given what cannot be had beside those before, and nobody is passed over. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { annual, bookOf, date, entry, halves, index, person } from '../../testing/house.ts';
import type { CivilDate } from '../../time/index.ts';
import { addDays } from '../../time/index.ts';
import { takesHalfOf } from '../span.ts';
import { givenInTurn, hadIn, inRound, inTheWayOf, inTurn, type WishRound, wishedEntry, yearBefore } from './wishes.ts';

const round: WishRound = {
  ...{ name: 'Summer', type: 'annual', place: 'ovay', department: null, mostAway: 2 },
  ...{ from: date('2026-07-06'), to: date('2026-07-31') },
};
const group = inRound(index, round);
const type = annual;

const span = fc.tuple(fc.integer({ min: 0, max: 25 }), fc.integer({ min: 0, max: 8 })).map(([first, length]) => {
  const from = addDays(round.from, first);
  const last = addDays(from, length);
  return halves(from, [last, round.to].toSorted()[0] as string);
});
const wisher = (id: string) =>
  fc.record({
    person: fc.constant(person(id)),
    wishes: fc.array(span, { minLength: 1, maxLength: 3 }),
    had: fc.integer({ min: 0, max: 3 }),
    lot: fc.constantFrom('0a', '1b', '2c'),
  });
const wishers = fc.tuple(...['ina', 'per', 'tom', 'kay', 'dora'].map(wisher));

describe('a round of wishes', () => {
  test('is for those who are there in its days, and for nobody who left before', () => {
    expect(group.map(one => one.id)).not.toContain('old');
    expect(group).toHaveLength(8);
    expect(inRound(index, { ...round, department: 'lights' })).toEqual([]);
  });

  test('goes by what was had in the same days of the year before, over the turn of the year too', () => {
    const winter = { from: date('2026-12-21'), to: date('2027-01-02') };
    expect(yearBefore(winter)).toEqual({ from: '2025-12-21', to: '2026-01-02' });
    const book = bookOf([
      entry({ span: halves('2025-12-18', '2025-12-23') }),
      entry({ request: 'R-2', state: 'held' }),
    ]);
    // Thursday and Friday were before it.
    expect(hadIn(book, person('ina'), type, yearBefore(winter))).toBe(2);
  });

  test('comes to the same for any order of those who wish, and never has more away than may be', () => {
    fc.assert(
      fc.property(wishers, all => {
        const book = bookOf([]);
        const turn = inTurn(all);
        expect(inTurn(all.toReversed())).toEqual(turn);
        const given = [...givenInTurn(book, round, type, turn)];
        const chosen = given.flatMap(({ person: who, wish }) => {
          const found = wish === null ? undefined : turn.find(one => one.person === who)?.wishes[wish];
          return found ? [{ person: who, span: found }] : [];
        });
        for (let day: CivilDate = round.from; day <= round.to; day = addDays(day, 1)) {
          const at = Math.floor(Date.parse(`${day}T00:00:00Z`) / 86_400_000);
          const weekday = new Date(`${day}T00:00:00Z`).getUTCDay();
          if (weekday === 0 || weekday === 6) continue;
          expect(chosen.filter(one => takesHalfOf(one.span, at * 2)).length).toBeLessThanOrEqual(2);
        }
      }),
      { numRuns: 60 },
    );
  });

  test('passes nobody over: whoever has none of an earlier wish could not have had it beside those before them', () => {
    fc.assert(
      fc.property(wishers, all => {
        const turn = inTurn(all);
        const before: ReturnType<typeof wishedEntry>[] = [];
        for (const { person: who, wish, ways } of givenInTurn(bookOf([]), round, type, turn)) {
          const own = turn.find(one => one.person === who)?.wishes ?? [];
          const earlier = own.slice(0, wish ?? own.length);
          expect(ways.map(way => way.wish)).toEqual(earlier.map((_, n) => n));
          for (const one of earlier)
            expect(inTheWayOf(bookOf(before), group, round, type, { person: who, span: one })).toBeDefined();
          const got = wish === null ? undefined : own[wish];
          if (got) before.push(wishedEntry(who, type.id, got));
        }
      }),
      { numRuns: 60 },
    );
  });
});
