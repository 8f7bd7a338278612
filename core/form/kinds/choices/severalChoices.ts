import { z } from 'zod';
import { common, Options } from '../../parts.ts';
import { fieldKind } from '../kind.ts';
import { oneOf } from './oneOf.ts';

export const severalChoices = fieldKind({
  schema: z.object({ ...common, kind: z.literal('several choices'), options: Options }),
  words: 'any of several',
  detail: field => `: ${field.options.join(', ')}`,
  blank: () => ({ options: ['First', 'Second'] }),
  type: 'list',
  answer: field => z.array(oneOf(field.options)).max(field.options.length),
  say: (_, answer) => (answer as string[]).join(', '),
});
