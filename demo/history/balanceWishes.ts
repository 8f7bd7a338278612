/** Hours claimed, days bought, sold and given on the demo’s morning, agreed within minutes. */
import type { PersonId } from '@north-pebble/core/people';
import { toMilliseconds } from '@north-pebble/core/time';
import type { Asking } from './wish.ts';

const soon = (person: string, time: string, workflow: string, answers: Record<string, unknown>): Asking => ({
  person: person as PersonId,
  at: toMilliseconds(`2026-02-02T${time}:00Z`),
  wish: { workflow, answers },
  fate: { outcome: 'approve', hours: 0.05, asked: false },
});

const hours = (person: string, time: string, day: string, work: string, many: number, what: string): Asking =>
  soon(person, time, 'time-earned', { kind: 'compensation', 'worked-on': day, work, hours: many, what });
const traded = (person: string, time: string, what: 'Buy' | 'Sell', number: number): Asking =>
  soon(person, time, 'days-bought-or-sold', { kind: 'annual', what, number });
const given = (person: string, time: string, to: string, number: number): Asking =>
  soon(person, time, 'days-given', { kind: 'annual', to, number, reason: 'For the weeks with the newborn.' });

export const balanceWishes: readonly Asking[] = [
  hours('ines', '08:50', '2026-01-24', 'Called out at night', 4, 'The outer gauge stood still in the storm.'),
  hours('soren-mabey', '08:52', '2026-01-25', 'On call', 12, 'Storm watch from home.'),
  hours('mira-kell', '08:54', '2026-01-27', 'Worked over', 2.5, 'Readings for the harbour office.'),
  traded('soren-mabey', '08:56', 'Buy', 3),
  traded('mira-kell', '08:58', 'Sell', 2),
  traded('per-lauder', '09:00', 'Buy', 1),
  given('tobias', '09:02', 'ada-dunmore', 1),
  given('soren-mabey', '09:04', 'ada-dunmore', 2),
  given('jory-tallack', '09:06', 'ada-dunmore', 1),
];
