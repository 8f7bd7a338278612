/** A letter as the core has filled it in, to be looked at as a PDF. */
import { z } from 'zod';

const words = z.string().max(20_000);
const Run = z.strictObject({
  text: words,
  bold: z.literal(true).optional(),
  italic: z.literal(true).optional(),
  link: z.string().max(2000).optional(),
});
const Runs = z.array(Run).max(500).readonly();
const Block = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.enum(['heading', 'paragraph', 'quote']), runs: Runs }),
  z.strictObject({ kind: z.literal('list'), ordered: z.boolean(), items: z.array(Runs).max(500).readonly() }),
  z.strictObject({
    kind: z.literal('table'),
    head: z.array(words).max(20).readonly(),
    rows: z.array(z.array(words).max(20).readonly()).max(500).readonly(),
    numeric: z.array(z.boolean()).max(20).readonly(),
  }),
]);
export const LookAtLetter = z
  .strictObject({ title: z.string().max(2000), blocks: z.array(Block).max(500).readonly(), foot: z.string().max(2000) })
  .refine(letter => JSON.stringify(letter).length <= 400_000, 'This is too long for a letter.');
export type LookAtLetter = z.infer<typeof LookAtLetter>;
