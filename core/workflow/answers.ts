/** Answers to a form: read and checked against its fields, compared, and put into words. */
import { z } from 'zod';
import { isTimed, type LeaveSpan, LeaveSpan as LeaveSpanSchema } from '../leave/index.ts';
import { type CivilDate, dateWords, rangeWords } from '../time/index.ts';
import type { Definition, Field } from './definition.ts';

export type Answer = string | boolean | LeaveSpan | null;
/** By field id. */
export type Answers = Readonly<Record<string, Answer>>;

export type FieldFault = { field: string; message: string };

const schemaOf = (field: Field, leaveTypes: readonly string[]): z.ZodType<Answer> => {
  switch (field.kind) {
    case 'leave span':
      return LeaveSpanSchema;
    case 'choice': {
      const options =
        field.options === 'leave types' ? leaveTypes.filter(id => field.only?.includes(id) ?? true) : field.options;
      return z.string().refine(text => options.includes(text), `Choose one of: ${options.join(', ')}.`);
    }
    case 'text':
      return z.string().trim().max(300, 'Keep it under 300 letters.');
    case 'long text':
      return z.string().trim().max(5000, 'Keep it under 5,000 letters.');
    case 'yes/no':
      return z.boolean();
  }
};

const isEmpty = (value: unknown): boolean => value === undefined || value === null || value === '';

/** Reads answers; every fault names its field. Answers to fields that the form does not have are refused. */
export function readAnswers(
  definition: Definition,
  input: unknown,
  leaveTypes: readonly string[],
): { ok: true; answers: Answers } | { ok: false; faults: FieldFault[] } {
  const given = z.record(z.string(), z.unknown()).safeParse(input);
  if (!given.success) return { ok: false, faults: [{ field: '', message: 'The answers are not a set of fields.' }] };
  const faults: FieldFault[] = [];
  const answers: Record<string, Answer> = {};
  for (const field of definition.form.fields) {
    const value = given.data[field.id];
    if (isEmpty(value)) {
      if (field.required) faults.push({ field: field.id, message: `${field.label} is needed.` });
      answers[field.id] = null;
      continue;
    }
    const read = schemaOf(field, leaveTypes).safeParse(value);
    if (read.success) answers[field.id] = read.data;
    else faults.push({ field: field.id, message: readable(field, read.error) });
  }
  for (const key of Object.keys(given.data)) {
    if (!definition.form.fields.some(f => f.id === key)) {
      faults.push({ field: key, message: 'The form has no such field.' });
    }
  }
  return faults.length > 0 ? { ok: false, faults } : { ok: true, answers };
}

const readable = (field: Field, error: z.ZodError): string =>
  field.kind === 'leave span' ? 'Give a first and a last day.' : error.issues[0].message;

const same = (a: Answer | undefined, b: Answer | undefined): boolean =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

export type Change = { field: string; before: Answer; after: Answer };

export function changesBetween(definition: Definition, before: Answers, after: Answers): Change[] {
  return definition.form.fields
    .filter(f => !same(before[f.id], after[f.id]))
    .map(f => ({ field: f.id, before: before[f.id] ?? null, after: after[f.id] ?? null }));
}

export function spanWords(span: LeaveSpan): string {
  if (isTimed(span)) {
    const from = `${dateWords(span.from.date as CivilDate)} ${span.from.time}`;
    return `${from} to ${span.to.date === span.from.date ? '' : `${dateWords(span.to.date)} `}${span.to.time}`;
  }
  const { from, to } = span;
  if (from.date === to.date && from.half === to.half) {
    return `${dateWords(from.date)}, ${from.half === 'am' ? 'morning' : 'afternoon'}`;
  }
  const starts = from.half === 'pm' ? ' (from the afternoon)' : '';
  const ends = to.half === 'am' ? ' (to midday)' : '';
  return `${rangeWords(from.date, to.date)}${starts}${ends}`;
}

/** An answer in words, as the trail and mails say it. */
export function answerWords(field: Field, answer: Answer | undefined, nameOf: (id: string) => string): string {
  if (answer === null || answer === undefined || answer === '') return 'nothing';
  if (typeof answer === 'boolean') return answer ? 'yes' : 'no';
  if (typeof answer === 'object') return spanWords(answer);
  return field.kind === 'choice' && field.options === 'leave types' ? nameOf(answer) : answer;
}
