import { z } from 'zod';
import { common, Options } from '../../parts.ts';
import { fieldKind } from '../kind.ts';
import { oneOf } from './oneOf.ts';

export const choice = fieldKind({
  schema: z.object({
    ...common,
    kind: z.literal('choice'),
    /** Fixed words, or the leave types of the house. */
    options: z.union([Options, z.literal('leave types')]),
    /** Of the leave types, only these. */
    only: z.array(z.string().max(40)).min(1).max(100).optional(),
  }),
  words: 'one of several',
  detail: field => (field.options === 'leave types' ? ' (leave types)' : `: ${field.options.join(', ')}`),
  blank: () => ({ options: ['First', 'Second'] }),
  type: 'text',
  answer: field => (field.options === 'leave types' ? z.string() : oneOf(field.options)),
  answerIn: (field, house) => {
    if (field.options !== 'leave types') return undefined;
    const allowed = house.leaveTypes.filter(t => field.only?.includes(t.id) ?? true);
    const ids = new Set(allowed.map(t => t.id));
    return z.string().refine(id => ids.has(id), `Choose one of: ${allowed.map(t => t.name).join(', ')}.`);
  },
  say: (field, answer, naming) => (field.options === 'leave types' ? naming.leaveType(String(answer)) : String(answer)),
  value: (field, answer, seen) =>
    field.options === 'leave types' && typeof answer === 'string' ? (seen.leaveType(answer) ?? answer) : answer,
});
