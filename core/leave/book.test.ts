import { describe, expect, test } from '@jest/globals';
import { workingTimeOf } from '../people/index.ts';
import { annual, bookOf, date, directory, entry, halves, index, person, sick } from '../testing/house.ts';
import { toDay } from '../time/index.ts';
import {
  amountOf,
  awayOf,
  balanceAhead,
  endsBeforeItStarts,
  explainAmount,
  obstacles,
  obstacleWords,
  othersAway,
  overlap,
  statementOf,
} from './index.ts';

const ina = person('ina');
const office = workingTimeOf(index, directory.people[2], { first: toDay('2026-01-01'), last: toDay('2026-12-31') });
const codes = (...args: Parameters<typeof obstacles>) => obstacles(...args).map(o => o.code);

describe('the leave book', () => {
  test('a week with a holiday afternoon is four and a half days, and says why', () => {
    const span = halves('2026-02-09', '2026-02-13');
    expect(amountOf(bookOf(), ina, annual, span)).toEqual({ amount: 4.5, unit: 'days', days: 4.5, minutes: 2010 });
    const reasons = explainAmount(bookOf(), ina, annual, span);
    expect(reasons.map(r => r.days)).toEqual([1, 1, 1, 1, 0.5]);
    expect(reasons[4].reason).toContain('Ovay Friday');
  });

  test('a pending request holds its amount: two requests cannot take the same last day', () => {
    const held = entry({ state: 'held', span: halves('2026-05-04', '2026-05-29') });
    const free = bookOf([held]);
    const ahead = balanceAhead(free, ina, annual, halves('2026-06-01', '2026-06-05'));
    expect(ahead).toMatchObject({ now: 31, held: 20, after: 1 });
    expect(codes(free, ina, 'annual', halves('2026-06-01', '2026-06-08'))).toEqual([]);
    expect(codes(free, ina, 'annual', halves('2026-06-01', '2026-06-09'))).toEqual(['over balance']);
  });

  test('leave that fits today but would starve leave already booked is refused', () => {
    const later = entry({ span: halves('2026-11-02', '2026-11-30') });
    expect(codes(bookOf([later]), ina, 'annual', halves('2026-06-01', '2026-06-08'))).toEqual(['over balance']);
  });

  test('an overlap with own leave names the other request, a request never overlaps itself', () => {
    const span = halves('2026-05-05', '2026-05-06');
    const [clash] = obstacles(bookOf([entry({})]), ina, 'annual', span);
    expect(clash.code).toBe('overlaps');
    expect(obstacleWords(clash, bookOf([]))).toContain('request R-1');
    expect(obstacles(bookOf([entry({})]), ina, 'annual', span, { request: 'R-1' })).toEqual([]);
  });

  test('morning and afternoon of one day do not overlap', () => {
    const morning = halves('2026-05-04', '2026-05-04', { to: 'am' });
    const afternoon = halves('2026-05-04', '2026-05-04', { from: 'pm' });
    expect(overlap(office, morning, afternoon)).toBe(false);
    const timed = {
      from: { date: date('2026-05-04'), time: '11:00' },
      to: { date: date('2026-05-04'), time: '12:30' },
    };
    expect(overlap(office, morning, timed)).toBe(true);
    expect(overlap(office, afternoon, timed)).toBe(false);
  });

  test.each([
    ['ends before it starts', halves('2026-05-05', '2026-05-04')],
    ['no working time', halves('2026-05-09', '2026-05-10')],
    ['not employed', halves('2019-05-06', '2019-05-07')],
  ])('%s is an obstacle', (code, span) => {
    expect(codes(bookOf(), ina, 'annual', span)).toContain(code);
  });

  test('an unknown leave type is said, and leave that takes from nothing has no balance', () => {
    expect(codes(bookOf(), ina, 'moon leave', halves('2026-05-04', '2026-05-04'))).toEqual(['unknown type']);
    expect(statementOf(bookOf(), ina, sick, date('2026-02-02'))).toBeUndefined();
    expect(codes(bookOf(), ina, 'sick', halves('2026-05-04', '2026-12-04'))).toEqual([]);
  });

  test('leave over the lapse of carry-over is dated on both sides of it', () => {
    const across = entry({ span: halves('2026-03-30', '2026-04-02') });
    const taken = statementOf(bookOf([across]), ina, annual, date('2026-04-30'))?.lines.filter(l => l.kind === 'taken');
    expect(taken?.map(l => [l.date, l.until, l.amount])).toEqual([
      ['2026-03-30', '2026-03-31', -2],
      ['2026-04-01', '2026-04-02', -2],
    ]);
  });

  test('others away are people of the same team, held or booked', () => {
    const book = bookOf([
      entry({ person: person('per'), state: 'held' }),
      entry({ person: person('kay') }),
      entry({ person: ina }),
    ]);
    expect(othersAway(book, ina, halves('2026-05-05', '2026-05-08')).map(p => p.name)).toEqual(['Per Lauder']);
  });

  test('away for routing means whole days of booked leave', () => {
    const half = entry({ span: halves('2026-05-04', '2026-05-06', { from: 'pm', to: 'am' }) });
    expect(awayOf([half, entry({ state: 'held' })])).toEqual([{ person: ina, from: '2026-05-05', to: '2026-05-05' }]);
    expect(endsBeforeItStarts(half.span)).toBe(false);
  });
});
