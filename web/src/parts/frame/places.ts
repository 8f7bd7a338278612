/** The places of the house that are there for somebody; those that are not for this person are not there. */
import type { Here } from './session.ts';

export type PlaceName = 'Desk' | 'Requests' | 'Planner' | 'Balances' | 'Workflows' | 'Mailroom';

export function placesFor({ self, demo }: Pick<Here, 'self' | 'demo'>): { name: PlaceName; to: string }[] {
  const designs = (['designer', 'auditor', 'administrator'] as const).some(right => self.rights.includes(right));
  return [
    { name: 'Desk', to: '/desk' },
    { name: 'Requests', to: '/requests' },
    { name: 'Planner', to: '/planner' },
    { name: 'Balances', to: '/balances' },
    ...(designs ? [{ name: 'Workflows' as const, to: '/workflows' }] : []),
    ...(designs && demo ? [{ name: 'Mailroom' as const, to: '/mailroom' }] : []),
  ];
}
