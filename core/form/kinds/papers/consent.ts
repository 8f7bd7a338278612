import { z } from 'zod';
import { Instant } from '../../../time/index.ts';
import type { GivenConsent } from '../../answer.ts';
import { common } from '../../parts.ts';
import { fieldKind } from '../kind.ts';

/** A word of somebody that they agree to a text; which version of it they read is kept, and when. */
export const consent = fieldKind({
  schema: z.object({
    ...common,
    kind: z.literal('consent'),
    text: z.string().trim().min(1, 'says nothing to agree to').max(5000),
    version: z.string().trim().min(1, 'needs a version').max(20),
  }),
  words: 'a consent to a text',
  detail: field => `, version ${field.version}`,
  blank: () => ({ text: 'I agree that …', version: '1' }),
  type: 'anything',
  answer: field =>
    z
      .object({ version: z.string().max(20), at: Instant })
      .refine(given => given.version === field.version, 'The text has changed since. Read it again.'),
  say: (_, answer) => {
    const { version, at } = answer as GivenConsent;
    return `agreed to version ${version} on ${at.slice(0, 10)}, ${at.slice(11, 16)} UTC`;
  },
  fault: (_, issue) => (issue.path.length > 0 ? 'Tick it to agree.' : undefined),
});
