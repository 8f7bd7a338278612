/** What the planner works out beside its drawing: when all are here, which lines there are, and what its address says. */
import { describe, expect, test } from '@jest/globals';
import type { PlannerBar, PlannerRows, PlannerView } from '@north-pebble/contract';
import { type CivilDate, toDay, yearMonthDay } from '@north-pebble/core/time';
import { askedOf, turnedIn, withGroup, withTurned } from './address.ts';
import { allHere } from './allHere.ts';
import { namedMonths } from './drawing/DayHeads.tsx';
import { lineAt, linesOf, topsOf } from './drawing/lines.ts';
import { personDayWords, rowWords, teamDayWords } from './drawing/words.ts';

const bar = (first: number, last: number, kind: PlannerBar['kind'] = 'booked', label = 'Away'): PlannerBar => ({
  ...{ first, last, kind, label },
});
const row = (id: string, shade: number, ...bars: PlannerBar[]) => ({ id, name: id, shade, bars }) as never;

describe('when all are here', () => {
  // Monday to Friday; a holiday on Monday, and nights of which the mornings are free.
  const shades = ['wwwwwwwwww', 'hhww--wwww', '-w-w-w-w-w'];
  const of = (...rows: never[]) => allHere({ from: '2026-02-02' as CivilDate }, { shades, rows } as PlannerRows);
  const ina = row('ina', 0, bar(2, 5));
  const per = row('per', 0, bar(6, 6, 'asked'));
  const kay = row('kay', 1);
  const night = row('night', 2, bar(9, 9));

  test('are the days on which nobody is away, free, or on a holiday', () => {
    expect(of(ina)).toEqual([
      { from: '2026-02-02', to: '2026-02-02' },
      { from: '2026-02-05', to: '2026-02-06' },
    ]);
    expect(of(ina, per)).toEqual([
      { from: '2026-02-02', to: '2026-02-02' },
      { from: '2026-02-06', to: '2026-02-06' },
    ]);
    expect(of(ina, per, kay)).toEqual([{ from: '2026-02-06', to: '2026-02-06' }]);
    expect(of()).toEqual([]);
  });

  test('a night shift is here when it works its night, and its morning is not waited for', () => {
    expect(of(night)).toEqual([{ from: '2026-02-02', to: '2026-02-05' }]);
    expect(of(night, ina)).toEqual([
      { from: '2026-02-02', to: '2026-02-02' },
      { from: '2026-02-05', to: '2026-02-05' },
    ]);
  });

  test('whoever works elsewhere is not here', () => {
    expect(of(row('away', 0, bar(0, 9, 'elsewhere')))).toEqual([]);
  });
});

describe('the lines of the drawing', () => {
  const team = (name: string, people: number) => ({ name, people, here: [], presence: null });
  const turned = (open: string[] = [], shut: string[] = []) => ({ open: new Set(open), shut: new Set(shut) });
  const kinds = (view: Pick<PlannerView, 'teams'>, open: string[] = [], shut: string[] = []) =>
    linesOf(view, turned(open, shut)).map(line => (line.kind === 'team' ? `team ${line.team}` : line.row));

  test('few people are all there, with a heading for each team; a team is folded by its name', () => {
    const view = { teams: [team('Watch', 2), team('Boats', 1)] };
    expect(kinds(view)).toEqual(['team 0', 0, 1, 'team 1', 2]);
    expect(kinds(view, [], ['Watch'])).toEqual(['team 0', 'team 1', 2]);
  });

  test('many are folded, and the rows of a team that is unfolded are those that the server counts', () => {
    const view = { teams: [team('Watch', 100), team('Boats', 2)] };
    expect(kinds(view)).toEqual(['team 0', 'team 1']);
    expect(kinds(view, ['Boats'])).toEqual(['team 0', 'team 1', 100, 101]);
    // What was unfolded among many stays so when few are found.
    expect(kinds({ teams: [team('Watch', 1)] }, ['Watch'])).toEqual(['team 0', 0]);
  });

  test('stand one below the other, and each is found at every height of its own', () => {
    const lines = linesOf({ teams: [team('Watch', 2), team('Boats', 1)] }, turned());
    const tops = topsOf(lines, line => (line.kind === 'team' ? 40 : 28));
    expect([...tops]).toEqual([0, 40, 68, 96, 136, 164]);
    expect([0, 39.5, 40, 95, 96, 163, 999, -5].map(y => lineAt(tops, y))).toEqual([0, 0, 1, 2, 3, 4, 4, 0]);
  });

  test('one team alone is unfolded, however many it has', () => {
    expect(kinds({ teams: [team('Watch', 100)] })).toHaveLength(101);
  });
});

describe('the address', () => {
  const today = '2026-02-04' as CivilDate;
  const asked = (text: string) => askedOf(new URLSearchParams(text), today);

  test('begins on the Monday before today with five weeks, and what is no zoom or day is as if it were not there', () => {
    expect(asked('')).toMatchObject({ zoom: '5 weeks', from: '2026-02-02', to: '2026-03-08', show: 'drawing' });
    expect(asked('zoom=ages&from=31.12.&show=cinema')).toEqual(asked(''));
    expect(asked('zoom=a+year&from=2026-01-01').to).toBe('2026-12-31');
    expect(asked('zoom=a+year&from=2028-01-01').to).toBe('2028-12-31');
  });

  test('says whose days to the API and keeps what else it says to itself', () => {
    expect(asked('place=ovay&words=in&open=Watch').look).toBe('place=ovay&words=in&from=2026-02-02&to=2026-03-08');
    expect(asked('line=ina').group).toBe('line=ina');
  });

  test('one group takes the place of another, and the teams that were turned are forgotten with it', () => {
    const before = new URLSearchParams('place=ovay&zoom=a+year&open=Watch');
    expect(String(withGroup(before, 'line=ina'))).toBe('zoom=a+year&line=ina');
    expect(String(withGroup(before, ''))).toBe('zoom=a+year');
  });

  test('a team is turned and turned back, whatever stands in its name', () => {
    const once = withTurned(new URLSearchParams('open=Boats'), 'Watch, A & B', 'open');
    expect([...turnedIn(once).open]).toEqual(['Boats', 'Watch, A & B']);
    const back = turnedIn(withTurned(once, 'Watch, A & B', 'shut'));
    expect([...back.open, '|', ...back.shut]).toEqual(['Boats', '|', 'Watch, A & B']);
  });
});

test('a place of the drawing is said in words: away, at work, free, and how many are here', () => {
  const from = '2026-02-02' as CivilDate;
  const ina = { ...(row('Ina', 0, bar(2, 3, 'asked', 'Away, asked for: Tue 3 February')) as object), days: 'wwwwhh--' };
  const words = (day: number) => personDayWords(ina as never, from, day, 2026);
  expect(words(0)).toBe('Ina, Mon 2 February: at work');
  expect(words(1)).toBe('Ina, Tue 3 February: Away, asked for: Tue 3 February');
  expect(words(2)).toBe('Ina, Wed 4 February: holiday');
  expect(words(3)).toBe('Ina, Thu 5 February: not a working day');
  expect(rowWords(ina as never)).toBe('Away, asked for: Tue 3 February');
  const team = { name: 'Watch', people: 4, here: [3, 4], presence: 'watch' };
  const needed = { id: 'watch', name: 'Watch', needed: 4, here: [3, null], asked: [] };
  expect(teamDayWords(team, needed, from, 0, 2026)).toBe('Watch, Mon 2 February: 3 here, 4 are needed');
  expect(teamDayWords(team, needed, from, 1, 2026)).toBe('Watch, Tue 3 February: 4 here');
});

test('every month of a year is named, the one also that begins two days after the first shown', () => {
  const first = toDay('2026-03-30' as CivilDate);
  const named = (count: number, cell: number) =>
    [...namedMonths(first, count, cell)].sort((a, b) => a - b).map(i => yearMonthDay(first + i).month);
  expect(named(365, 2.7)).toEqual([4, 5, 6, 7, 8, 9, 10, 11, 12, 1, 2, 3]);
  // With room for it the month that has begun is named too.
  expect(named(35, 40)).toEqual([3, 4, 5]);
  // On a telephone every month that has room.
  expect(named(365, 0.9).length).toBeGreaterThanOrEqual(11);
});
