/** Mails of a request: the workflow's own messages filled in, and the house's short notes about tasks. */
import { answerWords, type Naming, namingOf } from '../form/index.ts';
import { type PersonId, zoneOf } from '../people/index.ts';
import {
  amountOfUnit,
  amountWords,
  type CivilDate,
  civilDateAt,
  dateWords,
  isCivilDate,
  momentWords,
} from '../time/index.ts';
import { type Context, houseListsOf, nameOf } from './context.ts';
import type { Definition, Figure, Message } from './definition.ts';
import { cleanRich, escapeHtml, isRich, plainOf } from './richText.ts';
import { figuresSeen, isForEverybody, sightsInMail } from './seeing.ts';
import type { RequestState } from './state.ts';

export const naming = (context: Pick<Context, 'index' | 'book' | 'lists'>): Naming => namingOf(houseListsOf(context));

/** A figure's value in words, with its unit. */
export function figureWords(figure: Pick<Figure, 'unit'>, value: unknown): string {
  if (value === null || value === undefined) return 'not known';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number')
    return figure.unit === 'days' || figure.unit === 'hours' ? amountOfUnit(value, figure.unit) : amountWords(value);
  if (figure.unit === 'date' && typeof value === 'string' && isCivilDate(value))
    return `${dateWords(value as CivilDate)} ${value.slice(0, 4)}`;
  return String(value);
}

/** Every name that a message may insert, with its value in words. */
export function insertions(definition: Definition, state: RequestState, context: Context): Record<string, string> {
  const words: Record<string, string> = {
    asker: nameOf(context.index, state.asker),
    subject: nameOf(context.index, state.subject),
    request: state.request,
    workflow: definition.name,
  };
  const names = naming(context);
  const sights = sightsInMail(definition);
  const figures = figuresSeen(definition, state.figures, sights, context.lists);
  const notHere = `not written in mails, see ${state.request}`;
  for (const field of definition.form.fields) {
    const isSaid = sights.get(field.id) === 'open';
    words[field.label] = isSaid ? answerWords(field, state.answers[field.id], names) : notHere;
  }
  for (const figure of definition.figures) {
    words[figure.name] =
      figure.id in figures || !(figure.id in state.figures) ? figureWords(figure, figures[figure.id]) : notHere;
  }
  return words;
}

export const insertionNames = (definition: Definition): string[] => [
  'asker',
  'subject',
  'request',
  'workflow',
  ...definition.form.fields.filter(f => f.kind !== 'fixed text').map(f => f.label),
  ...definition.figures.map(f => f.name),
];

const braces = /\{([^{}]+)\}/g;

/** Names in braces that a text inserts. */
export const insertedNames = (text: string): string[] => [...text.matchAll(braces)].map(m => m[1].trim());

export function fill(text: string, words: Readonly<Record<string, string>>): string {
  return text.replace(braces, (whole, name: string) => words[name.trim()] ?? whole);
}

export type Letter = { subject: string; body: string; html?: string };

/** A message filled in: always as plain words, and as rich text when it was written so. */
export function fillMessage(message: Message, words: Readonly<Record<string, string>>): Letter {
  const subject = fill(message.subject, words);
  if (!isRich(message.body)) return { subject, body: fill(message.body, words) };
  const escaped = Object.fromEntries(Object.entries(words).map(([name, value]) => [name, escapeHtml(value)]));
  const html = fill(cleanRich(message.body), escaped);
  return { subject, body: plainOf(html), html };
}

/** One line that says what a request is about: `Annual leave, Mon 9 to Fri 13 February`. */
export function titleOf(
  definition: Definition,
  state: RequestState,
  context: Pick<Context, 'index' | 'book' | 'lists'>,
): string {
  const names = naming(context);
  const fields = definition.form.fields.filter(field => isForEverybody(definition, field));
  const dates = fields.find(f => f.kind === 'leave span' || f.kind === 'date range' || f.kind === 'date');
  const kind =
    fields.find(f => f.kind === 'choice' && f.options === 'leave types') ?? fields.find(f => f.kind === 'pick');
  const what = kind ? answerWords(kind, state.answers[kind.id], names) : definition.name;
  const named = kind?.kind === 'pick' ? `${definition.name}: ${what}` : what;
  return dates && state.answers[dates.id] ? `${named}, ${answerWords(dates, state.answers[dates.id], names)}` : named;
}

export function dueWords(context: Context, holder: PersonId, due: string | null): string {
  if (due === null) return '';
  const person = context.index.person(holder);
  const zone = person ? zoneOf(context.index, person, civilDateAt(context.now, 'UTC')) : 'UTC';
  return momentWords(due, zone);
}
