/** What a form can ask: its sections and fields. */
import { z } from 'zod';
import { type Field as AnyField, kindSchemas } from './kinds/index.ts';
import { Id, Name } from './parts.ts';

export const Field = z.discriminatedUnion('kind', kindSchemas);
export type Field = AnyField;

export const Section = z.object({ id: Id, title: Name, help: z.string().max(500).optional() });
export type Section = z.infer<typeof Section>;

export const Form = z.object({
  sections: z.array(Section).max(40).optional(),
  fields: z.array(Field).max(200, 'has more than 200 fields'),
});
export type Form = z.infer<typeof Form>;

/** Fields under their sections, in order; fields of no known section come first, under no title. */
export function bySection(form: Form): { section: Section | null; fields: Field[] }[] {
  const known = new Set(form.sections?.map(s => s.id));
  const loose = form.fields.filter(f => f.section === undefined || !known.has(f.section));
  return [
    ...(loose.length > 0 ? [{ section: null, fields: loose }] : []),
    ...(form.sections ?? []).map(section => ({ section, fields: form.fields.filter(f => f.section === section.id) })),
  ];
}

/** An id made from words, that none of the others has. */
export function idFrom(words: string, taken: Iterable<string>): string {
  const used = new Set(taken);
  const plain = words
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[\u0300-\u036f’']/g, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[^a-z]+|-+$/g, '')
    .slice(0, 30)
    .replace(/-+$/, '');
  const base = plain || 'x';
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!used.has(id)) return id;
  }
}
