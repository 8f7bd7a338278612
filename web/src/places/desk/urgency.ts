/** How urgent an item of the desk is, by the day and time where its reader works. */
import type { DeskItem } from '@north-pebble/contract';
import {
  civilDateAt,
  clockWords,
  type Instant,
  localAt,
  momentWords,
  toDay,
  toMilliseconds,
  weekday,
  yearOf,
} from '@north-pebble/core/time';

export const groups = ['Past the limit', 'Today', 'This week', 'Later', 'No limit', 'Set aside'] as const;
export type Group = (typeof groups)[number];

export function groupOf(
  item: Pick<DeskItem, 'due' | 'aside' | 'question'> & Partial<Pick<DeskItem, 'kind'>>,
  now: Instant,
  zone: string,
): Group {
  if (item.aside) return 'Set aside';
  // Its date comes near, and it waits for nobody's answer.
  if (item.kind === 'not ready') return 'Today';
  // The clock stands still until the reply.
  if (item.question !== null) return 'Later';
  if (item.due === null) return 'No limit';
  if (toMilliseconds(item.due) < toMilliseconds(now)) return 'Past the limit';
  const today = toDay(civilDateAt(now, zone));
  const due = toDay(civilDateAt(item.due, zone));
  if (due === today) return 'Today';
  return due <= today + (7 - weekday(today)) ? 'This week' : 'Later';
}

/** `17:00` today, `Wed 4 Feb 17:00` otherwise, `1 day late` past the limit. */
export function dueShort(due: Instant | null, now: Instant, zone: string): string {
  if (due === null) return '';
  const late = toMilliseconds(now) - toMilliseconds(due);
  if (late > 0) {
    const days = toDay(civilDateAt(now, zone)) - toDay(civilDateAt(due, zone));
    if (days < 1) return 'late';
    return days === 1 ? '1 day late' : `${days} days late`;
  }
  const local = localAt(due, zone);
  return local.date === civilDateAt(now, zone)
    ? clockWords(local.minutes)
    : momentWords(due, zone, yearOf(civilDateAt(now, zone)));
}
