/** Leave days of one span: the index against walking the days with date-fns over the same holidays. */
import { countHalves, halvesOf } from '@north-pebble/core/leave';
import { type Holiday, holidaysIn, toDay, workingTime } from '@north-pebble/core/time';
import { addDays, format, getISODay, parseISO } from 'date-fns';
import { organisation, patterns } from '../house.ts';
import { perSecond, type Row } from '../measure.ts';

const pattern = patterns[0];
const holidays: Holiday[] = [2025, 2026, 2027].flatMap(year =>
  holidaysIn(organisation.calendars, organisation.calendars[0].id, year).map(({ date, am, pm, name }) => ({
    date,
    part: am && pm ? 'day' : am ? 'am' : 'pm',
    name,
  })),
);
const span = {
  from: { date: '2026-03-02', half: 'am' },
  to: { date: '2026-03-27', half: 'pm' },
} as never as Parameters<typeof countHalves>[2];
const rule = { counting: 'scheduled', dayMinutes: 450 } as const;

function walk(): number {
  const off = new Map(holidays.map(h => [h.date as string, h.part]));
  const anchor = parseISO(pattern.anchor);
  let halves = 0;
  for (let day = parseISO(span.from.date); day <= parseISO(span.to.date); day = addDays(day, 1)) {
    const since = Math.round((day.getTime() - anchor.getTime()) / 86_400_000);
    const planned = pattern.cycle[since % pattern.cycle.length];
    const free = off.get(format(day, 'yyyy-MM-dd'));
    if (planned.am && free !== 'day' && free !== 'am' && getISODay(day) <= 7) halves++;
    if (planned.pm && free !== 'day' && free !== 'pm') halves++;
  }
  return halves / 2;
}

export function leaveDaysRow(): Row {
  const from = '2020-01-01' as typeof pattern.anchor;
  const time = workingTime([{ from, anchor: pattern.anchor, cycle: pattern.cycle }], holidays, {
    first: toDay('2025-01-01'),
    last: toDay('2027-12-31'),
  });
  const counted = countHalves(time, rule, span);
  if ('error' in counted || counted.days !== walk()) throw new Error('the two do not agree');
  const ours = perSecond(() => countHalves(time, rule, span));
  const theirs = perSecond(walk);
  const halves = halvesOf(span);
  const days = (halves.last - halves.first + 1) / 2;
  return {
    what: `leave days of a span of ${days} days`,
    ours,
    theirs,
    baseline: 'walking the days with date-fns',
    ratio: ours / theirs,
    bar: 500,
    better: 'more',
  };
}
