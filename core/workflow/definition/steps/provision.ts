/** Provision: what is asked of a system outside through a connection. */
import { z } from 'zod';
import { Formula, Id, Name } from '../../../form/index.ts';
import { formulasOfValues, noLeads, type Shape, Valued, when } from './parts.ts';

export const provisions = [
  'create account',
  'change account',
  'disable account',
  'add to group',
  'take out of group',
  'create space',
  'close space',
] as const;

export const Provision = z.object({
  verb: z.literal('Provision'),
  id: Id,
  when,
  connection: Name,
  action: z.enum(provisions),
  values: z.array(Valued).max(20),
  /** The date on which it is undone again. */
  removeOn: Formula.optional(),
});
export type Provision = z.infer<typeof Provision>;

export const provisionShape: Shape<Provision> = {
  leads: noLeads,
  goesOn: () => true,
  formulas: step => [
    ...formulasOfValues(step.values, ['values']),
    ...(step.removeOn === undefined ? [] : [{ formula: step.removeOn, wanted: 'date' as const, path: ['removeOn'] }]),
  ],
};
