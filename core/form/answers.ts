/** Answers to a form: read and checked against its fields, compared, and put into words. */

import { z } from 'zod';
import { isAmount, type Value } from '../formula/index.ts';
import { type Answer, type Answers, type HouseLists, isEmptyAnswer, type Naming, sameAnswer } from './answer.ts';
import type { Cell } from './column.ts';
import type { Field, Form } from './field.ts';
import { isAsked, moduleOf } from './kinds/index.ts';

export type FieldFault = { field: string; message: string };

const readable = (field: Field, error: z.ZodError): string => {
  const [issue] = error.issues;
  return moduleOf(field.kind).fault?.(field, issue) ?? issue.message;
};

const Given = z.record(z.string(), z.unknown());

/** Schemas of fields by themselves are made once: making one costs more than most answers. */
const schemas = new WeakMap<Field, z.ZodType<Answer>>();

function schemaOf(field: Field, house: HouseLists, given: Readonly<Record<string, unknown>>): z.ZodType<Answer> {
  const { answer, answerIn } = moduleOf(field.kind);
  const ofHouse = answerIn?.(field, house, given);
  if (ofHouse) return ofHouse;
  const known = schemas.get(field);
  if (known) return known;
  const made = answer(field);
  schemas.set(field, made);
  return made;
}

/**
 * Reads answers; every fault names its field. Answers to fields that the form does not have are refused.
 * @param needed whether a field must have an answer, and whether it is asked at all
 */
export function readAnswers(
  form: Form,
  input: unknown,
  house: HouseLists,
  needed: (field: Field) => 'needed' | 'may' | 'not asked' = field => (field.required ? 'needed' : 'may'),
): { ok: true; answers: Answers } | { ok: false; faults: FieldFault[]; answers: Answers } {
  const given = Given.safeParse(input);
  if (!given.success)
    return { ok: false, faults: [{ field: '', message: 'The answers are not a set of fields.' }], answers: {} };
  const faults: FieldFault[] = [];
  const answers: Record<string, Answer> = {};
  for (const field of form.fields) {
    const asked = needed(field);
    const value = given.data[field.id];
    if (isEmptyAnswer(value) || asked === 'not asked' || !isAsked(field)) {
      if (asked === 'needed' && isAsked(field)) faults.push({ field: field.id, message: `${field.label} is needed.` });
      answers[field.id] = null;
      continue;
    }
    const read = schemaOf(field, house, given.data).safeParse(value);
    if (read.success) answers[field.id] = read.data;
    else {
      faults.push({ field: field.id, message: readable(field, read.error) });
      answers[field.id] = null;
    }
  }
  const known = new Set(form.fields.map(field => field.id));
  for (const key of Object.keys(given.data)) {
    if (!known.has(key)) faults.push({ field: key.slice(0, 80), message: 'The form has no such field.' });
    // One is told of some of them; nobody reads thousands.
    if (faults.length >= mostFaults) break;
  }
  return faults.length > 0 ? { ok: false, faults, answers } : { ok: true, answers };
}

/** More faults than anybody mends at once. */
const mostFaults = 300;

export type Change = { field: string; before: Answer; after: Answer };

export function changesBetween(form: Form, before: Answers, after: Answers): Change[] {
  return form.fields
    .filter(f => !sameAnswer(before[f.id], after[f.id]))
    .map(f => ({ field: f.id, before: before[f.id] ?? null, after: after[f.id] ?? null }));
}

/** An answer in words, as the trail and mails say it. */
export const answerWords = (field: Field, answer: Answer | undefined, naming: Naming): string =>
  isEmptyAnswer(answer) || answer === null || answer === undefined
    ? 'nothing'
    : moduleOf(field.kind).say(field, answer, naming);

/** What comes of a formula, as the answer of a field: an amount in the currency of the field, rows under the ids of its columns. */
export function asAnswer(field: Field, value: Value): Answer {
  if (isAmount(value)) return field.kind !== 'money' || field.currency === value.currency ? value.amount : null;
  if (field.kind !== 'table' || !Array.isArray(value)) return value as Answer;
  return value.map(row => {
    const entries = Object.entries(typeof row === 'object' && row !== null ? row : {});
    return Object.fromEntries(
      field.columns.map(({ id, label }) => {
        const cell = (entries.find(([name]) => name === label)?.[1] ?? null) as Value;
        return [id, isAmount(cell) ? cell.amount : (cell as Cell)];
      }),
    );
  });
}
