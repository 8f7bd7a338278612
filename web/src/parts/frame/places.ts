/** The places of the house that are there for somebody; those that are not for this person are not there. */
import { may } from '@north-pebble/contract';
import type { Here } from './session.ts';

export type PlaceName =
  | 'Desk'
  | 'Requests'
  | 'Planner'
  | 'Balances'
  | 'People'
  | 'House'
  | 'Papers'
  | 'Workflows'
  | 'Mailroom';

export function placesFor({ self, demo }: Pick<Here, 'self' | 'demo'>): { name: PlaceName; to: string }[] {
  const designs = may(self, 'read workflows');
  return [
    { name: 'Desk', to: '/desk' },
    { name: 'Requests', to: '/requests' },
    { name: 'Planner', to: '/planner' },
    { name: 'Balances', to: '/balances' },
    { name: 'People', to: '/people' },
    ...(may(self, 'keep records') ? [{ name: 'House' as const, to: '/house' }] : []),
    ...(may(self, 'help requests on') || self.looksAfterSome ? [{ name: 'Papers' as const, to: '/papers' }] : []),
    ...(designs ? [{ name: 'Workflows' as const, to: '/workflows' }] : []),
    ...(may(self, 'read the Mailroom') && demo ? [{ name: 'Mailroom' as const, to: '/mailroom' }] : []),
  ];
}
