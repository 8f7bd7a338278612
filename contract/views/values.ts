/** Values that stand in many views. */
import type { Answer, Answers, ReferenceList } from '@north-pebble/core/form';
import { columnKinds, GivenFile } from '@north-pebble/core/form';
import { LeaveSpan } from '@north-pebble/core/leave';
import { PersonId } from '@north-pebble/core/people';
import { CivilDate, Instant } from '@north-pebble/core/time';
import type { FigureValues } from '@north-pebble/core/workflow';
import { z } from 'zod';

export const list = <S extends z.ZodType>(one: S) => z.array(one).readonly();
/** What a page of a long answer says besides its rows. */
export const paged = {
  /** The first row of the next page; nothing on the last one. */
  next: z.number().int().nullable(),
  /** Of what it is a page: pages of two versions do not belong together. */
  version: z.number().int(),
};
export type Paged = { next: number | null; version: number };

export const byName = <S extends z.ZodType>(one: S) => z.record(z.string(), one).readonly();

const Cell = z.union([z.string(), z.number(), z.boolean(), z.null()]);

/** An answer to a field, as its kind has it. */
export const AnswerValue: z.ZodType<Answer> = z.union([
  z.string(),
  z.number(),
  z.boolean(),
  z.null(),
  LeaveSpan,
  z.strictObject({ from: CivilDate, to: CivilDate }),
  z.strictObject({
    file: GivenFile,
    expires: CivilDate.nullable(),
    number: z.string().optional(),
    issued: CivilDate.optional(),
  }),
  z.strictObject({ version: z.string(), at: Instant }),
  z.strictObject({
    how: z.enum(['read', 'typed', 'drawn', 'by hand']),
    name: z.string().nullable(),
    at: Instant,
    digest: z.string().nullable(),
    file: GivenFile.nullable(),
  }),
  list(z.string()),
  list(GivenFile),
  list(z.record(z.string(), Cell)),
]);
export const AnswerValues: z.ZodType<Answers> = byName(AnswerValue);

/** By figure: a number, a text, a date, yes or no, or nothing where it is not known. */
export const Figures = byName(z.json()) as unknown as z.ZodType<FigureValues>;

const Column = z.strictObject({
  id: z.string(),
  label: z.string(),
  kind: z.enum(columnKinds),
  currency: z.string().optional(),
  outside: z.literal(true).optional(),
  options: z.array(z.string()).optional(),
});
export const List: z.ZodType<ReferenceList> = z.strictObject({
  id: z.string(),
  name: z.string(),
  columns: list(Column),
  owners: list(PersonId).exactOptional(),
  rows: list(
    z.strictObject({
      id: z.string(),
      title: z.string(),
      cells: byName(Cell),
      from: CivilDate.nullable().exactOptional(),
      to: CivilDate.nullable().exactOptional(),
    }),
  ),
});

/** Something to choose from. */
export const Named = z.strictObject({ id: z.string(), name: z.string() });
export const Tone = z.enum(['plain', 'good', 'rework', 'bad', 'late']);
export const File = z.strictObject({ id: z.string(), name: z.string(), size: z.number(), type: z.string() });
export const Saved = z.strictObject({ savedAt: z.string() });
