/** Answers to a form: read and checked against its fields, compared, and put into words. */
import { z } from 'zod';
import { isTimed, type LeaveSpan, LeaveSpan as LeaveSpanSchema } from '../leave/index.ts';
import { type DirectoryIndex, isEmployed, type PersonId } from '../people/index.ts';
import {
  amountWords,
  type CivilDate,
  dateWords,
  fullDate,
  isCivilDate,
  isNear,
  NearDate,
  nearWords,
  rangeWords,
  TimeOfDay,
  yearOf,
} from '../time/index.ts';
import type { Column, Field, Form } from './field.ts';
import { type FileRules, fileFault, GivenFile } from './file.ts';
import { type Cell, listById, type ReferenceList, rowById, rowsToPick } from './list.ts';

export type GivenDocument = { file: GivenFile; expires: CivilDate | null };
export type DateRange = { from: CivilDate; to: CivilDate };
export type TableRow = Readonly<Record<string, Cell>>;

export type Answer =
  | string
  | number
  | boolean
  | LeaveSpan
  | DateRange
  | GivenDocument
  | readonly string[]
  | readonly GivenFile[]
  | readonly TableRow[]
  | null;
/** By field id. */
export type Answers = Readonly<Record<string, Answer>>;

/** Whether an answer that was read is a span of leave. */
export const isLeaveSpan = (answer: unknown): answer is LeaveSpan =>
  typeof answer === 'object' && answer !== null && 'from' in answer && typeof answer.from === 'object';

export type FieldFault = { field: string; message: string };

/** What the house has that answers are checked against. */
export type HouseLists = {
  readonly leaveTypes: readonly { readonly id: string; readonly name: string }[];
  readonly lists: readonly ReferenceList[];
  readonly index: DirectoryIndex;
  readonly today: CivilDate;
};

const oneOf = (options: readonly string[]) =>
  z.string().refine(text => options.includes(text), `Choose one of: ${options.slice(0, 12).join(', ')}.`);

const number = z.number('Write a number.').refine(Number.isFinite, 'Write a number.');
function bounded(schema: z.ZodType<number>, least: number | undefined, most: number | undefined): z.ZodType<number> {
  return schema
    .refine(n => least === undefined || n >= least, `At least ${least}.`)
    .refine(n => most === undefined || n <= most, `At most ${most}.`);
}
const decimals = (places: number, message: string) =>
  number.refine(n => Math.abs(n * 10 ** places - Math.round(n * 10 ** places)) < 1e-6, message);

const Range = z
  .object({ from: NearDate, to: NearDate })
  .refine(range => range.from <= range.to, 'The last day is before the first.');

const cell = (column: Column): z.ZodType<Cell> => {
  switch (column.kind) {
    case 'text':
      return z.string().trim().max(300);
    case 'number':
      return number;
    case 'money':
      return decimals(2, 'At most two decimals.');
    case 'date':
      return NearDate;
    case 'yes/no':
      return z.boolean();
  }
};

const fileFor = (rules: FileRules) =>
  GivenFile.superRefine((file, context) => {
    const message = fileFault(rules, file);
    if (message) context.addIssue({ code: 'custom', message });
  });

/** The files of an answer, whatever field it answers. */
export function filesOf(answer: unknown): GivenFile[] {
  if (Array.isArray(answer)) return answer.flatMap(one => filesOf({ file: one }));
  const { file } = (answer ?? {}) as { file?: unknown };
  const read = GivenFile.safeParse(file);
  return read.success ? [read.data] : [];
}

function schemaOf(field: Field, house: HouseLists, given: Readonly<Record<string, unknown>>): z.ZodType<Answer> {
  switch (field.kind) {
    case 'leave span':
      return LeaveSpanSchema.refine(span => isNear(span.from.date) && isNear(span.to.date), nearWords);
    case 'choice': {
      if (field.options !== 'leave types') return oneOf(field.options);
      const allowed = house.leaveTypes.filter(t => field.only?.includes(t.id) ?? true);
      const ids = new Set(allowed.map(t => t.id));
      return z.string().refine(id => ids.has(id), `Choose one of: ${allowed.map(t => t.name).join(', ')}.`);
    }
    case 'several choices':
      return z.array(oneOf(field.options)).max(field.options.length);
    case 'text':
      return z.string().trim().max(300, 'Keep it under 300 letters.');
    case 'long text':
      return z.string().trim().max(5000, 'Keep it under 5,000 letters.');
    case 'yes/no':
      return z.boolean();
    case 'whole number':
      return bounded(number.refine(Number.isInteger, 'Write a whole number.'), field.least, field.most);
    case 'decimal':
      return bounded(number, field.least, field.most);
    case 'money':
      return bounded(decimals(2, 'At most two decimals.'), 0, field.most);
    case 'date':
      return NearDate;
    case 'time':
      return TimeOfDay as unknown as z.ZodType<Answer>;
    case 'date range':
      return Range;
    case 'person':
      return z.string().refine(id => {
        const person = house.index.person(id as PersonId);
        return person !== undefined && (isEmployed(person, house.today) || person.joined > house.today);
      }, 'Choose somebody from the directory.');
    case 'pick': {
      const rows = rowsToPick(field, listById(house.lists, field.list), given);
      return z.string().refine(id => rows.some(row => row.id === id), 'Choose a row of the list.');
    }
    case 'files':
      return z.array(fileFor(field)).max(field.most ?? 20, `At most ${field.most ?? 20} files.`);
    case 'document':
      return z
        .object({ file: fileFor(field), expires: NearDate.nullable() })
        .refine(document => !field.expires || document.expires !== null, 'Say until when it is valid.');
    case 'table': {
      const shape = Object.fromEntries(field.columns.map(column => [column.id, cell(column).nullable()]));
      return z.array(z.object(shape).strict() as unknown as z.ZodType<TableRow>).max(200, 'At most 200 rows.');
    }
    case 'fixed text':
      return z.null();
  }
}

export const isEmptyAnswer = (value: unknown): boolean =>
  value === undefined || value === null || value === '' || (Array.isArray(value) && value.length === 0);

const readable = (field: Field, error: z.ZodError): string => {
  const [issue] = error.issues;
  if (field.kind === 'leave span') return issue.code === 'custom' ? issue.message : 'Give a first and a last day.';
  if (field.kind === 'date range' && issue.code !== 'custom') return 'Give a first and a last day.';
  if (field.kind === 'table' && issue.path.length > 1) {
    const column = field.columns.find(c => c.id === issue.path[1])?.label ?? String(issue.path[1]);
    return `Row ${Number(issue.path[0]) + 1}, ${column}: ${issue.message}`;
  }
  return issue.message;
};

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
  const given = z.record(z.string(), z.unknown()).safeParse(input);
  if (!given.success)
    return { ok: false, faults: [{ field: '', message: 'The answers are not a set of fields.' }], answers: {} };
  const faults: FieldFault[] = [];
  const answers: Record<string, Answer> = {};
  for (const field of form.fields) {
    const asked = needed(field);
    const value = given.data[field.id];
    if (isEmptyAnswer(value) || asked === 'not asked' || field.kind === 'fixed text') {
      if (asked === 'needed' && field.kind !== 'fixed text')
        faults.push({ field: field.id, message: `${field.label} is needed.` });
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

export const sameAnswer = (a: Answer | undefined, b: Answer | undefined): boolean =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** More faults than anybody mends at once. */
const mostFaults = 300;

export type Change = { field: string; before: Answer; after: Answer };

export function changesBetween(form: Form, before: Answers, after: Answers): Change[] {
  return form.fields
    .filter(f => !sameAnswer(before[f.id], after[f.id]))
    .map(f => ({ field: f.id, before: before[f.id] ?? null, after: after[f.id] ?? null }));
}

export function spanWords(span: LeaveSpan, year: number): string {
  if (isTimed(span)) {
    const from = `${dateWords(span.from.date, year)} ${span.from.time}`;
    return `${from} to ${span.to.date === span.from.date ? '' : `${dateWords(span.to.date, year)} `}${span.to.time}`;
  }
  const { from, to } = span;
  if (from.date === to.date && from.half === to.half) {
    return `${dateWords(from.date, year)}, ${from.half === 'am' ? 'morning' : 'afternoon'}`;
  }
  const starts = from.half === 'pm' ? ' (from the afternoon)' : '';
  const ends = to.half === 'am' ? ' (to midday)' : '';
  return `${rangeWords(from.date, to.date, year)}${starts}${ends}`;
}

/** Names that answers stand for. */
export type Naming = {
  /** The year of whoever reads: dates of another one are said with theirs. */
  readonly year: number;
  readonly leaveType: (id: string) => string;
  readonly person: (id: string) => string;
  readonly row: (list: string, id: string) => string;
};

export const namingOf = (house: Pick<HouseLists, 'leaveTypes' | 'lists' | 'index' | 'today'>): Naming => ({
  year: yearOf(house.today),
  leaveType: id => house.leaveTypes.find(t => t.id === id)?.name ?? id,
  person: id => house.index.person(id as PersonId)?.name ?? id,
  row: (list, id) => rowById(listById(house.lists, list), id)?.title ?? id,
});

/** What amounts are in where a form says no currency, as in the columns of a table. */
export const usualCurrency = 'EUR';

export const moneyWords = (amount: number, currency: string): string =>
  `${amount.toLocaleString('en-GB', { minimumFractionDigits: 2, maximumFractionDigits: 2 })} ${currency}`;

/** An answer in words, as the trail and mails say it. */
export function answerWords(field: Field, answer: Answer | undefined, naming: Naming): string {
  if (isEmptyAnswer(answer) || answer === null || answer === undefined) return 'nothing';
  if (typeof answer === 'boolean') return answer ? 'yes' : 'no';
  if (typeof answer === 'number')
    return field.kind === 'money' ? moneyWords(answer, field.currency) : amountWords(answer);
  if (typeof answer === 'string') return textWords(field, answer, naming);
  if (Array.isArray(answer)) return listWords(field, answer);
  if ('file' in answer) {
    const until = answer.expires ? `, valid until ${fullDate(answer.expires)}` : '';
    return `${answer.file.name}${until}`;
  }
  const span = answer as LeaveSpan | DateRange;
  return typeof span.from === 'string'
    ? rangeWords(span.from, (span as DateRange).to, naming.year)
    : spanWords(span as LeaveSpan, naming.year);
}

function textWords(field: Field, answer: string, naming: Naming): string {
  switch (field.kind) {
    case 'choice':
      return field.options === 'leave types' ? naming.leaveType(answer) : answer;
    case 'person':
      return naming.person(answer);
    case 'pick':
      return naming.row(field.list, answer);
    case 'date':
      return isCivilDate(answer) ? fullDate(answer as CivilDate) : answer;
    default:
      return answer;
  }
}

/** What stands in one cell of a table. */
export function cellWords(column: Column, value: unknown): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string' && isCivilDate(value)) return fullDate(value as CivilDate);
  if (typeof value !== 'number') return String(value);
  return column.kind === 'money' ? moneyWords(value, usualCurrency) : amountWords(value);
}

function listWords(field: Field, answer: readonly unknown[]): string {
  if (field.kind === 'table') {
    const rows = answer as readonly TableRow[];
    return rows.map(row => field.columns.map(c => cellWords(c, row[c.id])).join(' ')).join('; ');
  }
  return answer.map(item => (typeof item === 'string' ? item : (item as GivenFile).name)).join(', ');
}
