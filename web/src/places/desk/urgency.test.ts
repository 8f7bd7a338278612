import { describe, expect, test } from '@jest/globals';
import type { Instant } from '@north-pebble/core/time';
import { dueShort, groupOf } from './urgency.ts';

const now = '2026-02-04T10:00:00Z' as Instant;
const at = (text: string) => text as Instant;
const group = (due: string | null, zone = 'Europe/Lisbon') =>
  groupOf({ due: due as Instant | null, aside: null, question: null }, now, zone);

describe('urgency', () => {
  test.each([
    ['2026-02-04T09:59:00Z', 'Past the limit'],
    ['2026-02-04T17:00:00Z', 'Today'],
    ['2026-02-08T17:00:00Z', 'This week'],
    ['2026-02-09T08:00:00Z', 'Later'],
    [null, 'No limit'],
  ])('due %p on a Wednesday is %s', (due, expected) => {
    expect(group(due)).toBe(expected);
  });

  test('what is set aside stands by itself, and what waits for a reply is not urgent', () => {
    const item = { due: at('2026-02-04T09:59:00Z'), aside: null, question: null };
    const aside = { until: '2026-02-10' as never, note: null };
    expect(groupOf({ ...item, aside }, now, 'UTC')).toBe('Set aside');
    expect(groupOf({ ...item, question: 'Which?' }, now, 'UTC')).toBe('Later');
  });

  test('the day is that of the reader’s zone', () => {
    expect(group('2026-02-04T23:30:00Z')).toBe('Today');
    expect(group('2026-02-04T23:30:00Z', 'Europe/Oslo')).toBe('This week');
  });

  test('is said shortly', () => {
    expect(dueShort(at('2026-02-04T17:00:00Z'), now, 'Europe/Lisbon')).toBe('17:00');
    expect(dueShort(at('2026-02-06T17:00:00Z'), now, 'Europe/Oslo')).toBe('Fri 6 Feb 18:00');
    expect(dueShort(at('2026-02-04T08:00:00Z'), now, 'Europe/Lisbon')).toBe('late');
    expect(dueShort(at('2026-02-03T17:00:00Z'), now, 'Europe/Lisbon')).toBe('1 day late');
    expect(dueShort(null, now, 'Europe/Lisbon')).toBe('');
  });
});
