import { z } from 'zod';
import { common, Options } from '../../parts.ts';
import { fieldKind } from '../kind.ts';
import { oneOf } from './oneOf.ts';

/** Some of several, or a checklist: where all of them are to be ticked. */
export const severalChoices = fieldKind({
  schema: z.object({
    ...common,
    kind: z.literal('several choices'),
    options: Options,
    all: z.literal(true).optional(),
  }),
  words: 'any of several',
  detail: field => `${field.all ? ', all to be ticked' : ''}: ${field.options.join(', ')}`,
  blank: () => ({ options: ['First', 'Second'] }),
  type: 'list',
  answer: field =>
    z
      .array(oneOf(field.options))
      .max(field.options.length)
      .superRefine((ticked, context) => {
        const open = field.all ? field.options.filter(option => !ticked.includes(option)) : [];
        if (open.length > 0) context.addIssue({ code: 'custom', message: `Still to be ticked: ${open.join(', ')}.` });
      }),
  say: (_, answer) => (answer as string[]).join(', '),
});
