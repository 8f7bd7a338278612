/** Every kind of field, in the order in which a designer chooses among them. */
import type { z } from 'zod';
import { choice } from './choices/choice.ts';
import { person } from './choices/person.ts';
import { pick } from './choices/pick.ts';
import { severalChoices } from './choices/severalChoices.ts';
import { yesNo } from './choices/yesNo.ts';
import { date } from './dates/date.ts';
import { dateRange } from './dates/dateRange.ts';
import { leaveSpan } from './dates/leaveSpan.ts';
import { time } from './dates/time.ts';
import type { FieldKindModule } from './kind.ts';
import { decimal } from './numbers/decimal.ts';
import { money } from './numbers/money.ts';
import { scale } from './numbers/scale.ts';
import { wholeNumber } from './numbers/wholeNumber.ts';
import { consent } from './papers/consent.ts';
import { document } from './papers/document.ts';
import { files } from './papers/files.ts';
import { paper } from './papers/paper.ts';
import { table } from './papers/table.ts';
import { fixedText } from './words/fixedText.ts';
import { longText } from './words/longText.ts';
import { text } from './words/text.ts';

const modules = [
  text,
  longText,
  wholeNumber,
  decimal,
  money,
  scale,
  yesNo,
  choice,
  severalChoices,
  date,
  time,
  leaveSpan,
  dateRange,
  person,
  pick,
  files,
  table,
  document,
  paper,
  consent,
  fixedText,
] as const;

type SchemasOf<M extends readonly { schema: unknown }[]> = { -readonly [I in keyof M]: M[I]['schema'] };
type Schemas = SchemasOf<typeof modules>;
export const kindSchemas = modules.map(module => module.schema) as unknown as Schemas;

export type Field = z.infer<Schemas[number]>;
export type FieldKind = Field['kind'];
export type FieldOf<Kind extends FieldKind> = Extract<Field, { kind: Kind }>;

export const fieldKinds = kindSchemas.map(schema => schema.shape.kind.value) as FieldKind[];

/** A module that takes the field it was found by. */
type Found = FieldKindModule<Field>;
const byKind = Object.fromEntries(modules.map(module => [module.schema.shape.kind.value, module])) as unknown as Record<
  FieldKind,
  Found
>;

export const moduleOf = (kind: FieldKind): Found => byKind[kind];

/** A new field of a kind, with what it has in common with any other. */
export const fieldOf = (kind: FieldKind, common: Pick<Field, 'id' | 'label' | 'required'>): Field => {
  const { blank, asksNothing } = moduleOf(kind);
  return { ...common, ...blank(), kind, ...(asksNothing ? { required: false } : {}) } as Field;
};

export const kindWords = (kind: FieldKind): string => moduleOf(kind).words;
/** Whether anybody answers it; words to read are not answered. */
export const isAsked = (field: Field): boolean => !moduleOf(field.kind).asksNothing;
export const isDated = (field: Field): boolean => moduleOf(field.kind).dated === true;
/** Kinds of fields that hold a date to count from. */
export const datedKinds: readonly FieldKind[] = fieldKinds.filter(kind => moduleOf(kind).dated);
export const holdsFiles = (field: Field): boolean => moduleOf(field.kind).files === true;
export const isNumeric = (field: Field): boolean => moduleOf(field.kind).type === 'number';
export { spanWords } from './dates/leaveSpan.ts';
export type { Seen } from './kind.ts';
export { signings } from './papers/paper.ts';
