/** Reasons and what was asked for, in words: the one place where they are made, with the names that hold where they are read. */

import { type ChangeRefusal, changeFaultWords, type PersonChange } from '../../facts/index.ts';
import { answerWords, moneyWords } from '../../form/index.ts';
import { isAmount } from '../../formula/index.ts';
import { type LeaveBook, obstacleWords } from '../../leave/index.ts';
import { type DirectoryIndex, isPeopleReason, type PersonId, peopleReasonWords } from '../../people/index.ts';
import {
  amountOfUnit,
  amountWords,
  type CivilDate,
  fullDate,
  fullMoment,
  isCivilDate,
  rangeWords,
  type WorkingAmount,
  workingWords,
} from '../../time/index.ts';
import { closingById, type Definition, fieldById } from '../definition/definition.ts';
import { stepById, stepNumber } from '../definition/structure.ts';
import { formulaWords, inputsWords } from '../figures/formulaReason.ts';
import { naming } from '../mail/letters.ts';
import { type Context, nameOf } from '../request/context.ts';
import type { Ask, FlowReason, Reason, WordsOf } from '../request/reason.ts';

export type Telling = {
  readonly definition: Definition;
  readonly index: DirectoryIndex;
  /** Nothing where no leave is told of. */
  readonly book?: Pick<LeaveBook, 'types' | 'plans' | 'today'>;
  readonly lists?: Context['lists'];
};

const noBook = { types: [], plans: [], today: '0001-01-01' as CivilDate };

const names = ({ index }: Telling, people: readonly PersonId[]): string =>
  people.map(person => nameOf(index, person)).join(', ');
const who = ({ index }: Telling, person: PersonId | null): string => nameOf(index, person);
const label = ({ definition }: Telling, field: string): string => fieldById(definition, field)?.label ?? field;
const changedLabel = ({ definition }: Telling, id: string): string =>
  fieldById(definition, id)?.label ?? definition.figures.find(figure => figure.id === id)?.name ?? id;
const closing = ({ definition }: Telling, id: string): string => closingById(definition, id)?.name ?? id;

export function outcomeLabel(definition: Definition, step: string, outcome: string): string {
  const found = stepById(definition, step);
  return (found?.verb === 'Decide' && found.outcomes.find(one => one.id === outcome)?.label) || outcome;
}
const outcome = ({ definition }: Telling, about: { step: string; outcome: string }): string =>
  outcomeLabel(definition, about.step, about.outcome);

/** `2 “Approve” and 1 “Decline”`. */
const countsWords = (
  telling: Telling,
  step: string,
  counts: readonly { readonly outcome: string; readonly people: number }[],
): string =>
  counts
    .map(({ outcome: one, people }) => `${people} “${outcome(telling, { step, outcome: one })}”`)
    .join(', ')
    .replace(/, ([^,]*)$/, ' and $1');

/** A value as people read it: a person by name, a date with its weekday. */
export function valueWords(index: DirectoryIndex, value: unknown): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') {
    const person = index.person(value as PersonId);
    return person?.name ?? (isCivilDate(value) ? fullDate(value as CivilDate) : value);
  }
  if (Array.isArray(value)) return value.map(one => valueWords(index, one)).join(', ');
  if (isAmount(value)) return moneyWords(value.amount, value.currency);
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

const listed = ({ index }: Telling, values: Readonly<Record<string, unknown>>): string =>
  Object.entries(values)
    .map(([name, value]) => `${name} ${valueWords(index, value)}`)
    .join(', ');

/** What a person’s record says after a change. */
export function changeWords(change: PersonChange, { index, book }: Pick<Telling, 'index' | 'book'>): string {
  switch (change.what) {
    case 'name':
    case 'mail':
      return change.to;
    case 'place':
      return index.place(change.to)?.name ?? change.to;
    case 'department':
      return index.department(change.to)?.name ?? change.to;
    case 'pattern':
      return index.directory.patterns.find(one => one.id === change.to)?.name ?? change.to;
    case 'plan':
      return change.to === null ? 'none' : (book?.plans.find(one => one.id === change.to)?.name ?? change.to);
    case 'fte':
      return String(change.to);
    case 'left':
      return fullDate(change.to);
    case 'post':
      return index.post(change.to)?.title ?? change.to;
    case 'line':
      return index.post(change.to)?.title ?? change.to;
    case 'dottedTo':
      return change.to === null ? 'nobody' : nameOf(index, change.to);
  }
}

function refusalWords(refusal: ChangeRefusal, index: DirectoryIndex): string {
  switch (refusal.code) {
    case 'value does not fit':
      return `“${refusal.value}” is no ${refusal.wanted}, so ${refusal.property} cannot be changed.`;
    case 'no post to draw a line from':
      return `${refusal.isManager ? nameOf(index, refusal.person) : 'The person'} holds no post, so no line can be drawn.`;
    case 'facts in the way':
      return `${refusal.property} cannot be changed. ${changeFaultWords(index, refusal.fault)}`;
    case 'no such property':
      return `The record of a person has no “${refusal.property}”.`;
  }
}

const asks: WordsOf<'asks', Telling> = {
  'letter made': ({ letter }, { definition }) =>
    `the letter “${definition.letters?.find(one => one.id === letter)?.name ?? letter}”`,
  'planner line': ({ label: line, person, from, to }, telling) =>
    `“${line}” on the planner for ${who(telling, person)}, ${rangeWords(from, to, Number.NaN)}`,
  'balance adjusted': ({ type, amount, unit, person, over }, telling) =>
    (amount === 0
      ? `put nothing on the balance of ${type.toLowerCase()} of ${who(telling, person)}`
      : `${amount < 0 ? 'took' : 'put'} ${amountOfUnit(Math.abs(amount), unit)} ${amount < 0 ? 'off' : 'on'} the balance of ${type.toLowerCase()} of ${who(telling, person)}`) +
    (over === undefined ? '' : `; ${amountOfUnit(over, unit)} find no room on it`),
  'record changed': ({ property, person, change }, telling) =>
    `${property} of ${who(telling, person)}: ${changeWords(change, telling)}`,
  'post added': ({ title, from, under }, telling) =>
    `put the post ${title} on file from ${fullDate(from)}${under === null ? '' : `, under ${telling.index.post(under)?.title ?? under}`}`,
  'person added': ({ name, from, post, heldBy }, telling) =>
    `put ${name} on file from ${fullDate(from)}${post ? ` as ${telling.index.post(post)?.title ?? post}` : heldBy ? `, without the post, which ${who(telling, heldBy)} still holds` : ''}`,
  'paper kept': ({ as, holder }) => `kept a paper of ${holder} in the register: ${as}`,
  'row added': ({ list, values }, telling) => `added a row to ${list}: ${listed(telling, values)}`,
  'row changed': ({ list, field, row, values }, telling) => {
    const found = fieldById(telling.definition, field);
    const words = found ? answerWords(found, row, naming({ ...telling, book: telling.book ?? noBook })) : row;
    return `changed ${words} in ${list}: ${listed(telling, values)}`;
  },
  'asked of connection': ({ connection, action, values, until }, telling) =>
    `${connection}: ${action}, ${listed(telling, values)}${until ? `, until ${fullDate(until)}` : ''}`,
  'request in': ({ workflow }) => `a request in “${workflow}”`,
};

export const askWords = (ask: Ask, telling: Telling): string =>
  ask.code === 'said' ? ask.words : (asks[ask.code] as (about: Ask, telling: Telling) => string)(ask, telling);

const daysBefore = (days: number): string =>
  days === 0 ? 'the last working day up to' : `${days} working ${days === 1 ? 'day' : 'days'} before`;

const tenths = (amount: WorkingAmount): WorkingAmount =>
  'workingHours' in amount ? { workingHours: Math.round(amount.workingHours * 10) / 10 } : amount;

const about: WordsOf<'about', Telling> = {
  said: ({ words }) => words,
  'working time': ({ amount, person, from, zone }, telling) =>
    `${workingWords(amount)} in ${who(telling, person)}’s working time, counted from ${fullMoment(from, zone)} (${zone})`,
  'working time left': ({ amount, person, from, zone }, telling) =>
    `${workingWords(tenths(amount))} of ${who(telling, person)}’s working time were left when the clock stopped, counted from ${fullMoment(from, zone)} (${zone})`,
  'no working time left': () => 'nothing was left of its time when the clock stopped',
  'counted back': ({ days, field, date, place }, telling) =>
    `${daysBefore(days)} ${label(telling, field)} (${fullDate(date)}), in working days of ${telling.index.place(place)?.name ?? place}`,
  'by the plan': ({ day, field, date, place }, telling) =>
    `${fullDate(day)}, its last day in the plan back from ${label(telling, field)} (${fullDate(date)}), in working days of ${telling.index.place(place)?.name ?? place}`,
  'nothing counts back': () => 'the workflow counts back from no date',
  'plan in a circle': ({ steps }, telling) =>
    `in the plan ${steps.map(id => `step ${stepNumber(telling.definition, id)}`).join(', ')} wait for one another`,
  'limit goes on': () => 'the limit goes on from before',
  'no due time': ({ why }, telling) => `no due time: ${reasonWords(why, telling)}`,
  'holder not on file': () => 'the holder is not on file',
  'no working time': ({ person }, telling) => `${who(telling, person)} has no working time on file`,
  'place not on file': ({ person }, telling) => `the place of ${who(telling, person)} is not on file`,
  'no working day before': ({ place, date }, telling) =>
    `${telling.index.place(place)?.name ?? place} has no working day before ${fullDate(date)}`,
  'field not known': ({ field }, telling) => `${label(telling, field)} is not known`,

  'condition does not hold': ({ formula, inputs }) => `${formula} does not hold: ${inputsWords(inputs)}`,
  'row holds': ({ formula, inputs }) => `${formula}: ${inputsWords(inputs)}`,
  'no row holds': () => 'no row holds',
  'lanes done': ({ done, of }) => `${done} of ${of} lanes are done, the others are called off`,
  'all lanes done': () => 'all lanes are done',

  'first answer': () => 'the first answer settles',
  'one against': (about, telling) => `one answer was “${outcome(telling, about)}”, and all must agree`,
  'all agreed': ({ of }) => `all ${of} agreed`,
  'all agreed in turn': ({ of }) => `all ${of} agreed in turn`,
  'enough alike': (about, telling) =>
    about.counts && about.counts.length > 1
      ? `of ${about.of} people, ${countsWords(telling, about.step, about.counts)}`
      : `${about.people} of ${about.of} answered “${outcome(telling, about)}”`,
  'not agreed': (about, telling) =>
    `${countsWords(telling, about.step, about.counts)}; ${about.needed} of ${about.of} had to agree, so it is “${outcome(telling, about)}”`,
  'no agreement': (about, telling) =>
    `${countsWords(telling, about.step, about.counts)}; ${about.needed} of ${about.of} had to agree, and the workflow does not say what happens then`,
  'out of reach': (about, telling) =>
    `${about.needed} of ${about.of} ${about.alike ? 'answers alike' : 'in favour'} cannot be reached any more, so it is “${outcome(telling, about)}”`,
  'answered before': ({ person }, telling) =>
    `${who(telling, person)} answered before, and nothing of what they looked at changed`,
  'approved the step before': ({ person }, telling) => `${who(telling, person)} approved the step before`,
  'nobody in time': () => 'nobody answered before the limit',

  'asked again': ({ fields }, telling) =>
    `asked again, because ${fields.map(field => changedLabel(telling, field)).join(', ')} changed`,
  'next in turn': ({ after }, telling) => `next in turn after ${who(telling, after)}`,
  'handed over': ({ by }, telling) => `handed over by ${who(telling, by)}`,
  lent: ({ by, until }, telling) => `from ${who(telling, by)} until ${fullDate(until)}`,
  'back again': ({ from, at }, telling) => `back from ${who(telling, from)} at ${fullMoment(at, 'UTC')}`,
  'owner left': ({ person, left }, telling) => `${who(telling, person)} left on ${fullDate(left)}`,
  'owner away': ({ person, until }, telling) => `${who(telling, person)} is away until ${fullDate(until)}`,
  'owner not on file': ({ person }) => `${person} is not on file any more`,
  'named by': ({ by }, telling) => `named by ${who(telling, by)}`,

  'goes on waiting': () => 'it goes on waiting',
  'nobody above, goes on waiting': () => 'nobody is above, so it goes on waiting',
  'nobody above, HR operations told': () => 'nobody above is left, so HR operations is told',
  'nobody else, goes on waiting': () => 'nobody else is found, so it goes on waiting',
  'told of it': ({ people }, telling) => `${names(telling, people)} is told`,
  'nobody to tell': () => 'nobody is found to be told',
  'outcome taken': (about, telling) => `“${outcome(telling, about)}” is taken`,
  'passed to': ({ people }, telling) => `passed to ${names(telling, people)}`,

  'passed up at limit': () => 'The limit passed and it went to the manager above',
  'passed on at limit': () => 'The limit passed and it went on',
  'limit passed': () => 'The limit passed',
  'somebody else has it by now': () => 'By the records as they are now, it is somebody else’s',
  'given to somebody else': ({ by }, telling) => `${who(telling, by)} gave it to somebody else`,
  'taken by': ({ by }, telling) => `${who(telling, by)} took it`,
  'done by': ({ by }, telling) => `${who(telling, by)} did it`,
  'could not be done by': ({ by }, telling) => `${who(telling, by)} could not do it`,
  'withdrawn by': ({ by }, telling) => `${who(telling, by)} withdrew the request`,
  'answered by': ({ by }, telling) => `${who(telling, by)} answered`,
  'stays as approved': () => 'It stays as it was approved',
  cancelled: () => 'It is cancelled',
  withdrawn: () => 'withdrawn',
  'enough lanes done': () => 'Enough lanes are done',
  'went on without lanes': () => 'It went on without the lanes beside it',
  'came to its end': () => 'The request came to its end',
  'closed as': (about, telling) => `closed as ${closing(telling, about.closing)}`,

  'answered as': (about, telling) => `“${outcome(telling, about)}”`,
  'ended as': (about, telling) => `it ended as ${closing(telling, about.closing)}`,
  'wanted after all': ({ by }, telling) => `${who(telling, by)} wants it as it was approved after all`,

  'until day': ({ what, days, date, at }, telling) => {
    const time = at ? `, at ${at}` : '';
    const named = `${'field' in what ? label(telling, what.field) : what.formula} (${fullDate(date)})${time}`;
    return days === 0 ? `until ${named}` : `until ${workingWords({ workingDays: days })} before ${named}`;
  },
  'is past': ({ of }, telling) => `${reasonWords(of, telling)}, which is past`,
  'until document': ({ field }, telling) => `until ${label(telling, field)} is in`,
  'document is there': ({ field }, telling) => `${label(telling, field)} is there already`,
  'document is in': () => 'it is in',
  'until last day': ({ field }, telling) => `until the last day of ${label(telling, field)} is known`,
  'last day is known': ({ field }, telling) => `the last day of ${label(telling, field)} is known`,
  'until requests ended': ({ requests }) =>
    `until ${requests === 1 ? 'the request' : `${requests} requests`} that it opened came to an end`,
  'no request is open': () => 'no request that it opened is still open',
  'withdrawn from outside': ({ guest }) => `${guest} withdrew it`,
  'all handed in': ({ guest }) => `${guest} has handed everything in`,
  'days of link over': ({ guest }) => `${guest} did not finish while their link was good`,
  'every request ended': () => 'every request that it opened has come to its end',
  'letter not there': () => 'the letter that it makes is not there',
  'until letter made': ({ letter }, { definition }) =>
    `until the letter “${definition.letters?.find(one => one.id === letter)?.name ?? letter}” is made`,
  'until connection answered': ({ connection }) => `until ${connection} has answered`,
  'it is done': () => 'it is done',
  'was refused': ({ said }) => `it was refused: ${said}`,
  'goes on without it': ({ by }, telling) => `${who(telling, by)} goes on without it`,

  'too few answer': ({ needed, found }) => `At least ${needed} people must answer, and only ${found} are found.`,
  'every outcome spent': () => 'Every answer here sends it back, and it was sent back as often as it may be.',
  'round in a circle': () => 'The steps go round in a circle in which nobody is asked.',
  'no otherwise': () => 'No row of the table holds and there is no “otherwise”.',
  'days have passed': ({ last }) =>
    `Its last day was ${fullDate(last)}, before it was decided. HR operations book it, or let it end.`,
  'no further step': () => 'There is no further step and no closing.',
  'closing not there': () => 'The closing is not there.',
  'message not there': () => 'The message to be sent is not there.',
  'cannot wait': ({ why }, telling) => `It cannot wait: ${reasonWords(why, telling)}.`,
  'nobody to invite': ({ field }, telling) => `${label(telling, field)} says nobody to whom a personal link could go.`,
  'nothing to count back from': ({ field }, telling) =>
    `${label(telling, field)} is not known, so nothing can be counted back from it.`,
  'no day on file before': ({ date }) => `No working time is on file before ${date}.`,
  'nothing for the planner': ({ field }, telling) =>
    `${label(telling, field)} is not known, so nothing can be put on the planner.`,
  'no paper to keep': ({ field }, telling) => `${label(telling, field)} was not given, so there is no paper to keep.`,
  'no row picked': ({ field }, telling) => `${label(telling, field)} is not picked, so no row can be changed.`,
  'record cannot change': ({ why }, telling) => refusalWords(why, telling.index),
  'leave not known': () => 'The dates or the kind of leave are not known, so nothing can be booked.',
  'balance does not bear': ({ type, days }) =>
    days < 0
      ? `${amountWords(-days)} cannot be taken off the balance of ${type.toLowerCase()}: it does not bear that, or it is somebody else’s.`
      : `Nothing can be put on a balance of ${type.toLowerCase()}: there is none.`,
  'leave cannot be booked': ({ obstacle }, telling) => obstacleWords(obstacle, telling.book ?? noBook),
  'refused outside': ({ what, said }, telling) => `${askWords(what, telling)} was refused: ${said}`,
};

/** The part of a sentence that a reason is, or, where something cannot go on, a sentence of its own. */
export function reasonWords(reason: Reason, telling: Telling): string {
  if (isPeopleReason(reason)) return peopleReasonWords(reason, telling.index);
  switch (reason.code) {
    case 'formula not read':
    case 'formula has no value':
    case 'condition has no answer':
      return formulaWords(reason);
    default:
      return (about[reason.code] as (about: FlowReason, telling: Telling) => string)(reason, telling);
  }
}

const isFormula = ({ code }: Reason): boolean => code.startsWith('formula ') || code === 'condition has no answer';

/** Why a request cannot go on, as a sentence of its own. */
export const stuckWords = (reason: Reason, telling: Telling): string =>
  `${reasonWords(reason, telling)}${isFormula(reason) ? '.' : ''}`;
