/** Provision: what is asked of a system outside through a connection. */
import { z } from 'zod';
import { Formula, Id, Name } from '../../../form/index.ts';
import { formulasOfValues, Go, type Shape, Valued, when } from './parts.ts';

export const provisions = [
  'create account',
  'change account',
  'disable account',
  'add to group',
  'take out of group',
  'create space',
  'close space',
  'call',
] as const;

/** A value that a connection takes for something that it is asked to do. */
export type Offered = {
  readonly name: string;
  readonly label: string;
  readonly needed: boolean;
  /** What of the system itself is named by it: the designer picks from what is there. */
  readonly from?: 'groups' | 'spaces';
  /** The only words that it takes. */
  readonly words?: readonly string[];
};
/** A group or a space that a formula names by its name alone, as the system outside knows it. */
export const nameInQuotes = (formula: string): string | undefined => /^"([^"\\]+)"$/.exec(formula.trim())?.[1];

/** What a connection can be asked to do, by action: the values that it takes, or nothing where it takes any. */
export type Offers = Readonly<Record<string, readonly Offered[] | null>>;

export const Provision = z.object({
  verb: z.literal('Provision'),
  id: Id,
  when,
  connection: Name,
  action: z.enum(provisions),
  values: z.array(Valued).max(20),
  /** It waits until it is done, or refused. */
  waits: z.literal(true).optional(),
  /** Fields that are filled with what the connection gives back, by the names that it gives. */
  fills: z
    .array(z.object({ from: Name, field: Id }))
    .min(1)
    .max(10)
    .optional(),
  /** Where a refusal leads; without it, the request waits for HR operations. */
  refused: Go.optional(),
  /** The date on which it is undone again. */
  removeOn: Formula.optional(),
});
export type Provision = z.infer<typeof Provision>;

export const provisionShape: Shape<Provision> = {
  leads: step => (step.refused ? [{ go: step.refused, label: 'refused', path: ['refused'] }] : []),
  goesOn: () => true,
  formulas: step => [
    ...formulasOfValues(step.values, ['values']),
    ...(step.removeOn === undefined ? [] : [{ formula: step.removeOn, wanted: 'date' as const, path: ['removeOn'] }]),
  ],
};
