/** How many of some people are here, half day by half day. */
import type { PersonId } from '../../people/index.ts';
import { halfIndex, toDay } from '../../time/index.ts';
import type { LeaveEntry } from '../book.ts';
import { isTimed, type LeaveSpan } from '../span.ts';
import type { Days, Shades } from './shades.ts';

/** A stretch of half days, counted from the morning of the first day looked at; both ends included. */
export type Stretch = { readonly first: number; readonly last: number };

/** The half days of a span that are looked at; one with times is on each of its days. Nothing where it touches none. */
export function stretchOf(span: LeaveSpan, { first, last }: Days): Stretch | undefined {
  const begins = halfIndex(toDay(span.from.date), isTimed(span) ? 'am' : span.from.half) - first * 2;
  const ends = halfIndex(toDay(span.to.date), isTimed(span) ? 'pm' : span.to.half) - first * 2;
  const stretch = { first: Math.max(begins, 0), last: Math.min(ends, (last - first) * 2 + 1) };
  return stretch.first <= stretch.last ? stretch : undefined;
}

export type Here = {
  /** For each half day: how many are to work in it, and how many of them are not away. */
  readonly toWork: Int32Array;
  readonly working: Int32Array;
  /** For each day: how many are here in at least one half of it. */
  readonly days: Int32Array;
};

/** Somebody who is counted, only on some days where `within` is given. */
export type InGroup = { readonly id: PersonId; readonly within?: Stretch };

/**
 * Counts who is here. What is alike is counted together, and only those who are away are looked at one by one.
 * @param entriesOf their absence, held and booked
 */
export function countHere(
  shades: Shades,
  people: readonly InGroup[],
  entriesOf: (id: PersonId) => readonly Pick<LeaveEntry, 'span'>[],
  days: Days,
): Here {
  const halves = (days.last - days.first + 1) * 2;
  const toWork = new Int32Array(halves);
  const working = new Int32Array(halves);
  const here = new Int32Array(halves / 2);
  const alike = new Map<string, { shade: number; within: Stretch; count: number }>();
  const whole: Stretch = { first: 0, last: halves - 1 };
  for (const { id, within = whole } of people) {
    const shade = shades.of.get(id);
    if (shade === undefined) continue;
    const key = `${shade} ${within.first} ${within.last}`;
    const known = alike.get(key);
    if (known) known.count++;
    else alike.set(key, { shade, within, count: 1 });
  }
  for (const { shade, within, count } of alike.values()) {
    const marks = shades.all[shade] ?? '';
    for (let half = within.first; half <= within.last; half++) {
      if (marks[half] !== 'w') continue;
      toWork[half] += count;
      const isFirstOfDay = half % 2 === 0 || marks[half - 1] !== 'w' || half - 1 < within.first;
      if (isFirstOfDay) here[half >> 1] += count;
    }
  }
  working.set(toWork);
  for (const { id, within = whole } of people) {
    const entries = entriesOf(id);
    const shade = shades.of.get(id);
    if (entries.length === 0 || shade === undefined) continue;
    const marks = shades.all[shade] ?? '';
    const works = (half: number) => half >= within.first && half <= within.last && marks[half] === 'w';
    const away = new Set<number>();
    for (const { span } of entries) {
      const stretch = stretchOf(span, days);
      if (!stretch) continue;
      for (let half = stretch.first; half <= stretch.last; half++) if (works(half)) away.add(half);
    }
    for (const half of away) {
      working[half]--;
      const other = half ^ 1;
      // A day counts while one half of it is worked; the later of two halves that are away takes it.
      const isRestAway = !works(other) || (away.has(other) && other < half);
      if (isRestAway) here[half >> 1]--;
    }
  }
  return { toWork, working, days: here };
}
