/** What a form can ask: its sections and fields. */
import { z } from 'zod';
import { FileKind, largestFile } from './file.ts';

export const Id = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'is not an id: small letters, digits and dashes');
export const Name = z.string().trim().min(1, 'needs a name').max(80, 'is longer than 80 letters');
export const Formula = z.string().max(2000, 'is longer than 2,000 letters');

/** A rule that an answer must meet, with what is said when it does not. */
export const Check = z.object({ formula: Formula, message: z.string().trim().min(1).max(300) });
export type Check = z.infer<typeof Check>;

/** What North Pebble knows of the asker before a word is typed. */
export const knownFacts = ['name', 'mail', 'post', 'manager', 'department', 'place'] as const;
export type KnownFact = (typeof knownFacts)[number];

/** What stands in a field before anybody types. */
export const Start = z.discriminatedUnion('from', [
  z.object({ from: z.literal('fixed'), value: z.union([z.string().max(2000), z.number(), z.boolean()]) }),
  z.object({ from: z.literal('formula'), formula: Formula }),
  z.object({ from: z.literal('known'), fact: z.enum(knownFacts) }),
  /** A column of the row, or a fact of the person, that was picked in another field. */
  z.object({ from: z.literal('picked'), field: Id, column: z.string().min(1).max(80) }),
]);
export type Start = z.infer<typeof Start>;

const common = {
  id: Id,
  label: Name,
  help: z.string().max(500).optional(),
  required: z.boolean(),
  /** The section under which it stands; the first one when nothing is said. */
  section: Id.optional(),
  start: Start.optional(),
  shownWhen: Formula.optional(),
  checks: z.array(Check).max(10).optional(),
  /** Only people of these places are asked. */
  places: z.array(z.string().min(1).max(80)).min(1).max(100).optional(),
  /** Besides whoever it is about, only people with these roles read it, and each look is recorded. */
  readers: z.array(z.string().trim().min(1).max(80)).min(1).max(10).optional(),
  /** The asker reads it although it is not on their own form: what others fill in for them. */
  askerReads: z.literal(true).optional(),
};

const filing = {
  takes: z.array(FileKind).min(1).optional(),
  /** In megabytes. */
  largest: z.number().int().min(1).max(largestFile).optional(),
};

const words = z.array(Name).min(1, 'needs something to choose from').max(200);

export const Column = z.object({
  id: Id,
  label: Name,
  kind: z.enum(['text', 'number', 'money', 'date', 'yes/no']),
});
export type Column = z.infer<typeof Column>;

export const Field = z.discriminatedUnion('kind', [
  z.object({ ...common, kind: z.literal('text') }),
  z.object({ ...common, kind: z.literal('long text') }),
  z.object({ ...common, kind: z.literal('whole number'), least: z.number().optional(), most: z.number().optional() }),
  z.object({ ...common, kind: z.literal('decimal'), least: z.number().optional(), most: z.number().optional() }),
  z.object({
    ...common,
    kind: z.literal('money'),
    currency: z.string().regex(/^[A-Z]{3}$/, 'is no currency code'),
    most: z.number().optional(),
  }),
  z.object({ ...common, kind: z.literal('yes/no') }),
  z.object({
    ...common,
    kind: z.literal('choice'),
    /** Fixed words, or the leave types of the house. */
    options: z.union([words, z.literal('leave types')]),
    /** Of the leave types, only these. */
    only: z.array(z.string().max(40)).min(1).max(100).optional(),
  }),
  z.object({ ...common, kind: z.literal('several choices'), options: words }),
  z.object({ ...common, kind: z.literal('date') }),
  z.object({ ...common, kind: z.literal('time') }),
  z.object({ ...common, kind: z.literal('leave span') }),
  z.object({ ...common, kind: z.literal('date range') }),
  z.object({ ...common, kind: z.literal('person') }),
  z.object({
    ...common,
    kind: z.literal('pick'),
    /** A reference list of the house, by id; `posts` are the posts on file. */
    list: z.string().min(1).max(40),
    /** Only rows whose column has the answer of another field. */
    where: z.object({ column: z.string().min(1).max(80), field: Id }).optional(),
  }),
  z.object({ ...common, ...filing, kind: z.literal('files'), most: z.number().int().min(1).max(20).optional() }),
  z.object({ ...common, kind: z.literal('table'), columns: z.array(Column).min(1).max(12) }),
  z.object({ ...common, ...filing, kind: z.literal('document'), expires: z.boolean() }),
  z.object({ ...common, kind: z.literal('fixed text'), text: z.string().max(2000) }),
]);
export type Field = z.infer<typeof Field>;
export type FieldKind = Field['kind'];
export type FieldOf<Kind extends FieldKind> = Extract<Field, { kind: Kind }>;

export const fieldKinds = Field.options.map(option => option.shape.kind.value) as FieldKind[];

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
