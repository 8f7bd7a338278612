/** Mails of a request: the workflow's own messages filled in, and the house's short notes about tasks. */
import { leaveType } from '../leave/index.ts';
import { type PersonId, zoneOf } from '../people/index.ts';
import { amountOfUnit, amountWords, civilDateAt, momentWords } from '../time/index.ts';
import { answerWords } from './answers.ts';
import { type Context, nameOf } from './context.ts';
import type { Definition, Message } from './definition.ts';
import type { RequestState } from './state.ts';

/** Every name that a message may insert, with its value in words. */
export function insertions(definition: Definition, state: RequestState, context: Context): Record<string, string> {
  const words: Record<string, string> = {
    asker: nameOf(context.index, state.asker),
    request: state.request,
    workflow: definition.name,
  };
  const typeName = (id: string) => leaveType(context.book, id)?.name ?? id;
  for (const field of definition.form.fields)
    words[field.label] = answerWords(field, state.answers[field.id], typeName);
  for (const figure of definition.figures) {
    const value = state.figures[figure.id];
    words[figure.name] =
      typeof value === 'number'
        ? figure.unit === 'days'
          ? amountOfUnit(value, 'days')
          : amountWords(value)
        : String(value ?? 'not known');
  }
  return words;
}

export const insertionNames = (definition: Definition): string[] => [
  'asker',
  'request',
  'workflow',
  ...definition.form.fields.map(f => f.label),
  ...definition.figures.map(f => f.name),
];

const braces = /\{([^{}]+)\}/g;

/** Names in braces that a text inserts. */
export const insertedNames = (text: string): string[] => [...text.matchAll(braces)].map(m => m[1].trim());

export function fill(text: string, words: Readonly<Record<string, string>>): string {
  return text.replace(braces, (whole, name: string) => words[name.trim()] ?? whole);
}

export function fillMessage(message: Message, words: Readonly<Record<string, string>>) {
  return { subject: fill(message.subject, words), body: fill(message.body, words) };
}

/** One line that says what a request is about: `Annual leave, Mon 9 to Fri 13 February`. */
export function titleOf(definition: Definition, state: RequestState, context: Context): string {
  const typeName = (id: string) => leaveType(context.book, id)?.name ?? id;
  const span = definition.form.fields.find(f => f.kind === 'leave span');
  const kind = definition.form.fields.find(f => f.kind === 'choice' && f.options === 'leave types');
  const what = kind ? answerWords(kind, state.answers[kind.id], typeName) : definition.name;
  return span ? `${what}, ${answerWords(span, state.answers[span.id], typeName)}` : what;
}

export function dueWords(context: Context, holder: PersonId, due: string | null): string {
  if (due === null) return '';
  const person = context.index.person(holder);
  const zone = person ? zoneOf(context.index, person, civilDateAt(context.now, 'UTC')) : 'UTC';
  return momentWords(due, zone);
}
