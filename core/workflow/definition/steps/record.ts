/** Record: the house’s own effects. */
import { z } from 'zod';
import { Formula, Id, Name } from '../../../form/index.ts';
import { formulasOfValues, noLeads, type Shape, Valued, when } from './parts.ts';

export const RecordEffect = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('book leave'),
    span: Id,
    type: Id,
    planner: z.boolean(),
    /** The field in which the asker says why, where a rule of the leave type asks for a reason. */
    why: Id.exactOptional(),
  }),
  z.object({ kind: z.literal('planner'), span: Id, label: Name }),
  z.object({ kind: z.literal('person'), property: Name, formula: Formula }),
  /** Somebody who is not on file yet is put there; nothing where the request is for somebody who is. */
  z.object({ kind: z.literal('add person'), values: z.array(Valued).min(2).max(9) }),
  /** A post that nobody holds yet; it stands in a pick of posts afterwards, where one is named. */
  z.object({ kind: z.literal('add post'), values: z.array(Valued).min(1).max(5), field: Id.optional() }),
  z.object({ kind: z.literal('add row'), list: z.string().min(1).max(40), values: z.array(Valued).min(1).max(12) }),
  z.object({ kind: z.literal('change row'), row: Id, values: z.array(Valued).min(1).max(12) }),
  /** A document of the form goes into the register of papers; `holder` names who has it, where that is not the subject. */
  z.object({ kind: z.literal('keep paper'), field: Id, as: Name, holder: Id.optional() }),
  /** Days bought, sold or given: put on, or where it is below zero taken off, the balance of the chosen kind; `holder` is a field with whose it is, where that is not the subject. */
  z.object({ kind: z.literal('adjust'), type: Id, amount: Formula, holder: Id.optional() }),
  z.object({ kind: z.literal('set'), field: Id, formula: Formula }),
  /** A letter made into a PDF and kept in a field of files. The request waits until it is made. */
  z.object({ kind: z.literal('make letter'), letter: Id, field: Id }),
  z.object({ kind: z.literal('open'), workflow: z.string().min(1).max(40), values: z.array(Valued).max(40) }),
]);
export type RecordEffect = z.infer<typeof RecordEffect>;

export const Record = z.object({ verb: z.literal('Record'), id: Id, when, effect: RecordEffect });
export type Record = z.infer<typeof Record>;

export const recordShape: Shape<Record> = {
  leads: noLeads,
  goesOn: () => true,
  formulas: ({ effect }) => [
    ...(effect.kind === 'person' || effect.kind === 'set'
      ? [{ formula: effect.formula, wanted: 'anything' as const, path: ['effect', 'formula'] }]
      : []),
    ...(effect.kind === 'adjust'
      ? [{ formula: effect.amount, wanted: 'number' as const, path: ['effect', 'amount'] }]
      : []),
    ...('values' in effect ? formulasOfValues(effect.values, ['effect', 'values']) : []),
  ],
};
