/** Who applies for the open posts from outside, when, and how far it has come on the morning of the demo. */
import { toMilliseconds } from '@north-pebble/core/time';
import type { Fate } from './wish.ts';

export type Application = {
  readonly name: string;
  readonly mail: string;
  /** A row of the open posts. */
  readonly post: string;
  readonly at: number;
  readonly fate: Fate;
};

type Until = 'begun' | 'screen' | 'arrange' | 'interview' | 'terms' | 'answer' | 'declined' | 'after the talk';

/** The next step that nobody has come to yet, or the one at which it was declined. */
const fates: Record<Until, Partial<Fate>> = {
  begun: { handsIn: 0 },
  screen: { leaves: ['screen'] },
  arrange: { leaves: ['arrange'] },
  interview: { leaves: ['interview'] },
  terms: { leaves: ['terms'] },
  answer: { leaves: ['answering'] },
  declined: { outcome: 'decline' },
  'after the talk': { outcome: 'decline', declines: 'interview' },
};

const people: readonly [name: string, post: string, asked: string, until: Until][] = [
  ['Lowen Tarr', 'watch-lead', '2025-11-18', 'declined'],
  ['Ysolde Marrack', 'watch-lead', '2025-11-25', 'after the talk'],
  ['Davit Orbeli', 'workshop-lead', '2025-12-02', 'declined'],
  ['Sunniva Eikeland', 'watch-lead', '2026-01-13', 'answer'],
  ['Perran Goss', 'watch-lead', '2026-01-19', 'interview'],
  ['Tamsin O’Shea', 'watch-lead', '2026-01-20', 'interview'],
  ['Bartosz Wilk', 'workshop-lead', '2026-01-20', 'terms'],
  ['Marisol Quintero-Vega', 'workshop-lead', '2026-01-20', 'interview'],
  ['Ngaire Te Rangi', 'watch-lead', '2026-01-26', 'arrange'],
  ['Hamish Dunbar', 'workshop-lead', '2026-01-26', 'arrange'],
  ['Aino Väisänen', 'watch-lead', '2026-01-26', 'screen'],
  ['Jean-Luc de la Fontaine', 'workshop-lead', '2026-01-27', 'screen'],
  ['Oona Keeble', 'watch-lead', '2026-01-28', 'screen'],
  ['Reza Farahani', 'workshop-lead', '2026-01-29', 'begun'],
  ['Wanda Prideaux', 'watch-lead', '2026-01-30', 'begun'],
];

const addressOf = (name: string): string =>
  `${name
    .normalize('NFD')
    .replace(/[^\x20-\x7e]/g, '')
    .toLowerCase()
    .replace(/[^a-z]+/g, '.')}@post.example`;

export const applications: readonly Application[] = people.map(([name, post, asked, until], n) => ({
  name,
  mail: addressOf(name),
  post,
  at: toMilliseconds(`${asked}T${String(8 + (n % 9)).padStart(2, '0')}:${String((n * 17) % 60).padStart(2, '0')}:00Z`),
  fate: { outcome: 'approve', hours: 20 + (n % 5) * 7, asked: false, ...fates[until] },
}));
