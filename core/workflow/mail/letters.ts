/** Mails of a request: the workflow's own messages filled in, and the house's short notes about tasks. */
import {
  answerWords,
  type Field,
  isAsked,
  isEmptyAnswer,
  moneyWords,
  type Naming,
  namingOf,
  sameAnswer,
  usualCurrency,
} from '../../form/index.ts';
import { isAmount } from '../../formula/index.ts';
import type { PersonId } from '../../people/index.ts';
import {
  amountOfUnit,
  amountWords,
  type CivilDate,
  civilDateAt,
  fullDate,
  isCivilDate,
  momentWords,
  yearOf,
} from '../../time/index.ts';
import type { Definition, Figure, Message } from '../definition/definition.ts';
import { figuresToTell } from '../figures/evaluate.ts';
import { levelAt } from '../figures/filling.ts';
import { askerName, type Context, houseListsOf, nameOf, subjectName, zoneOfPerson } from '../request/context.ts';
import type { RequestState } from '../request/state.ts';
import { figuresSeen, isForEverybody, type Sights, sightsInMail } from '../request/visibility.ts';
import { cleanRich, escapeHtml, isRich, plainOf } from './richText.ts';

export const naming = (context: Parameters<typeof houseListsOf>[0]): Naming => namingOf(houseListsOf(context));

/** The currency of the amounts on a form: that of its first field of money. */
export const currencyOf = ({ form }: Pick<Definition, 'form'>): string =>
  form.fields.find(field => field.kind === 'money')?.currency ?? usualCurrency;

/** A figure's value in words, with its unit. */
export function figureWords(figure: Pick<Figure, 'unit'>, value: unknown, currency = usualCurrency): string {
  if (value === null || value === undefined) return 'not known';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (isAmount(value)) return moneyWords(value.amount, value.currency);
  // What was worked out before amounts had their currency with them.
  if (typeof value === 'number' && figure.unit === 'money') return moneyWords(value, currency);
  if (typeof value === 'number')
    return figure.unit === 'days' || figure.unit === 'hours' ? amountOfUnit(value, figure.unit) : amountWords(value);
  if (figure.unit === 'date' && typeof value === 'string' && isCivilDate(value)) return fullDate(value as CivilDate);
  return String(value);
}

/** Every name that a message may insert, with its value in words. */
export function insertions(definition: Definition, state: RequestState, context: Context): Record<string, string> {
  const words: Record<string, string> = {
    asker: askerName(context.index, state),
    subject: subjectName(context.index, state),
    request: state.request,
    workflow: definition.name,
    reason: state.reason ?? 'no reason was given',
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
      figure.id in figures || !(figure.id in state.figures)
        ? figureWords(figure, figures[figure.id], currencyOf(definition))
        : notHere;
  }
  return words;
}

export const insertionNames = (definition: Definition): string[] => [
  'asker',
  'subject',
  'request',
  'workflow',
  'reason',
  ...definition.form.fields.filter(isAsked).map(f => f.label),
  ...definition.figures.map(f => f.name),
];

const braces = /\{([^{}]+)\}/g;

/** Names in braces that a text inserts. */
export const insertedNames = (text: string): string[] => [...text.matchAll(braces)].map(m => m[1].trim());

export function fill(text: string, words: Readonly<Record<string, string>>): string {
  return text.replace(braces, (whole, name: string) => words[name.trim()] ?? whole);
}

export type FilledMessage = { subject: string; body: string; html?: string };

/** A message filled in: always as plain words, and as rich text when it was written so. */
export function fillMessage(message: Message, words: Readonly<Record<string, string>>): FilledMessage {
  const subject = fill(message.subject, words);
  if (!isRich(message.body)) return { subject, body: fill(message.body, words) };
  const escaped = Object.fromEntries(Object.entries(words).map(([name, value]) => [name, escapeHtml(value)]));
  const html = fill(cleanRich(message.body), escaped);
  return { subject, body: plainOf(html), html };
}

/** The letter with the reason of a decision below, unless its message has a place for it. */
export function withReason(letter: FilledMessage, message: Message, reason: string | null): FilledMessage {
  if (reason === null || insertedNames(`${message.subject} ${message.body}`).includes('reason')) return letter;
  const { html } = letter;
  return {
    ...letter,
    body: `${letter.body}\n\n“${reason}”`,
    ...(html ? { html: `${html}<p>“${escapeHtml(reason)}”</p>` } : {}),
  };
}

/** The letter with lines below it. */
export function withLines(letter: FilledMessage, lines: readonly string[]): FilledMessage {
  if (lines.length === 0) return letter;
  const { html } = letter;
  return {
    ...letter,
    body: `${letter.body}\n\n${lines.join('\n')}`,
    ...(html ? { html: `${html}<p>${lines.map(escapeHtml).join('<br>')}</p>` } : {}),
  };
}

/** What was granted otherwise than it was asked for: what it was, what it is, and what whoever changed it says. */
export function otherwiseInMail(definition: Definition, state: RequestState, context: Context): string[] {
  const names = naming(context);
  const sights = sightsInMail(definition);
  const all = state.otherwise ?? [];
  const lines = definition.form.fields.flatMap(field => {
    const [first] = all.flatMap(one => one.changes.filter(change => change.field === field.id));
    if (!first || sights.get(field.id) !== 'open' || sameAnswer(first.before, state.answers[field.id] ?? null))
      return [];
    const now = isEmptyAnswer(state.answers[field.id]) ? 'nothing' : answerWords(field, state.answers[field.id], names);
    return [`${field.label}: asked for ${answerWords(field, first.before, names)}, granted ${now}`];
  });
  const notes = all.flatMap(({ by, note }) => (note ? [`${nameOf(context.index, by)}: “${note}”`] : []));
  return lines.length === 0 ? [] : [...lines, ...notes];
}

/**
 * What a holder decides by, a line each: answers that their step sees, with what they were before they were changed, and
 * figures. What is never written in mails is only named.
 */
export function factsInMail(definition: Definition, state: RequestState, context: Context, step: string): string[] {
  const names = naming(context);
  const inMail = sightsInMail(definition);
  const fields = definition.form.fields.filter(field => levelAt(definition, step, field) !== 'hidden');
  const seen = new Set(fields.map(field => field.id));
  const sights: Sights = new Map([...inMail].map(([id, sight]) => [id, seen.has(id) ? sight : 'hidden']));
  const answers = fields.flatMap(field => {
    const change = state.changes.find(c => c.field === field.id);
    const answer = state.answers[field.id];
    if (!isAsked(field) || (isEmptyAnswer(answer) && !change)) return [];
    if (sights.get(field.id) !== 'open') return [`${field.label}: given, to be read on your desk`];
    const before = change ? ` (was ${answerWords(field, change.before, names)})` : '';
    return [`${field.label}: ${answerWords(field, answer, names)}${before}`];
  });
  const figures = figuresSeen(definition, state.figures, sights, context.lists);
  const takesFromNone = (id: string) => context.book.types.find(type => type.id === id)?.takesFrom === 'nothing';
  const told = figuresToTell(definition, state.answers, takesFromNone);
  const worked = told.filter(({ id }) => figures[id] !== null && figures[id] !== undefined);
  return [
    ...answers,
    ...worked.map(figure => `${figure.name}: ${figureWords(figure, figures[figure.id], currencyOf(definition))}`),
  ];
}

const longestPart = 60;
const short = (words: string): string => (words.length > longestPart ? `${words.slice(0, longestPart - 1)}…` : words);

/** Told once for a definition: a title is worked out with every command. */
const forEverybody = new WeakMap<Definition, readonly Field[]>();
function fieldsForEverybody(definition: Definition): readonly Field[] {
  const known = forEverybody.get(definition);
  if (known) return known;
  const fields = definition.form.fields.filter(field => isForEverybody(definition, field));
  forEverybody.set(definition, fields);
  return fields;
}

/** One line that says what a request is about: `Annual leave, Mon 9 to Fri 13 February`. */
export function titleOf(
  definition: Definition,
  state: RequestState,
  context: Pick<Context, 'index' | 'book' | 'lists'>,
): string {
  const names = naming(context);
  const fields = fieldsForEverybody(definition);
  const dates = fields.find(f => f.kind === 'leave span' || f.kind === 'date range' || f.kind === 'date');
  const kind =
    fields.find(f => f.kind === 'choice' && f.options === 'leave types') ?? fields.find(f => f.kind === 'pick');
  // What asks for no leave is told apart by the first words that had to be given: a name, a title.
  // Whoever asked from outside is called by their name anyway.
  const theirs = state.outside && definition.opening?.outside;
  const text =
    kind?.kind === 'choice'
      ? undefined
      : fields.find(f => f.kind === 'text' && f.required && f.id !== theirs?.name && f.id !== theirs?.mail);
  const said = [text, kind]
    .filter(field => field !== undefined)
    .filter(field => !isEmptyAnswer(state.answers[field.id]))
    .map(field => short(answerWords(field, state.answers[field.id], names)));
  const named =
    kind?.kind === 'choice'
      ? (said[0] ?? definition.name)
      : [definition.name, said.join(', ')].filter(Boolean).join(': ');
  return dates && state.answers[dates.id] ? `${named}, ${answerWords(dates, state.answers[dates.id], names)}` : named;
}

export function dueWords(context: Context, holder: PersonId, due: string | null): string {
  if (due === null) return '';
  const zone = zoneOfPerson(context, holder, context.now);
  return momentWords(due, zone, yearOf(civilDateAt(context.now, zone)));
}
