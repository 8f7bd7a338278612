/** Facts and changes of them in words, for whoever reads the history of a person. */

import {
  type Fact,
  type FactEdit,
  type FactOf,
  fromTheFirst,
  type Holds,
  type Of,
  type RecordPart,
} from '@north-pebble/core/facts';
import {
  type LeaveType,
  type NamedPlan,
  planSentences,
  presenceSentence,
  rulesOn,
  typeOn,
  typeSentences,
} from '@north-pebble/core/leave';
import type { DirectoryIndex } from '@north-pebble/core/people';
import { personName } from '@north-pebble/core/people';
import { addDays, amountOfUnit, amountWords, fullDate, toDay } from '@north-pebble/core/time';

type Names = {
  readonly index: DirectoryIndex;
  readonly plans: readonly ({ readonly id: string; readonly name: string } | NamedPlan)[];
  readonly types?: readonly LeaveType[];
};

const shareWords = (fte: number): string => (fte === 1 ? 'full time' : `${Math.round(fte * 1000) / 10} % of full time`);
const postName = (index: DirectoryIndex, id: string): string => index.post(id)?.title ?? id;

export function partWords(
  { index, plans }: Names,
  part: RecordPart,
  value: string | number | null | undefined,
): string {
  switch (part) {
    case 'place':
      return index.place(String(value))?.name ?? String(value);
    case 'department':
      return index.department(String(value))?.name ?? String(value);
    case 'pattern':
      return index.pattern(String(value))?.name ?? String(value);
    case 'fte':
      return shareWords(Number(value));
    case 'plan':
      return value === null ? 'no leave plan' : (plans.find(one => one.id === value)?.name ?? String(value));
    case 'costCentre':
      return value ? String(value) : 'none';
    default:
      return part satisfies never;
  }
}

/** What is left of the plan before goes along at what a unit of it is worth in the new one. */
function worthWords({ plans }: Names, plan: string | null, per: number): string[] {
  const named = plans.find(one => one.id === plan);
  if (!named || !('unit' in named)) return [];
  const old = named.unit === 'hours' ? 'days' : 'hours';
  return [`${amountOfUnit(1, old)} of the old plan counts as ${amountOfUnit(per, named.unit)}.`];
}

const parts: readonly (readonly [RecordPart, string])[] = [
  ['place', 'Place'],
  ['department', 'Department'],
  ['pattern', 'Work pattern'],
  ['fte', 'Hours'],
  ['plan', 'Leave plan'],
  ['costCentre', 'Cost centre'],
];

/** Whole shifts of one part, with what each counts in days of leave, and days that are worked on holidays. */
function shiftWords(before: Fact | null, after: Fact | null): string[] {
  if (after?.kind !== 'pattern') return [];
  const was = before?.kind === 'pattern' ? before.cycle : [];
  const days = new Map<string, number[]>();
  after.cycle.forEach((day, n) => {
    const half = day.am ? 'am' : 'pm';
    const [part, counts] = [day[half], day.days?.[half]];
    if ((day.am && day.pm) || !part || counts !== 1 || was[n]?.days?.[half] === 1) return;
    const times = part.join(' to ');
    days.set(times, [...(days.get(times) ?? []), n + 1]);
  });
  const worked = (cycle: typeof after.cycle) => cycle.some(day => day.holidays === 'worked');
  return [
    ...[...days].map(
      ([times, on]) =>
        `A shift of one part counts a whole day of leave: ${times}, on day${on.length === 1 ? '' : 's'} ${on.slice(0, 14).join(', ')}${on.length > 14 ? ' and more' : ''} of the cycle.`,
    ),
    ...(worked(after.cycle) === worked(was)
      ? []
      : [worked(after.cycle) ? 'Holidays are worked.' : 'Holidays are not worked any more.']),
  ];
}

/** What an edit says, one sentence for each thing that is another afterwards. */
export function editWords(names: Names, { before, after, over }: FactEdit): string[] {
  const { index } = names;
  const fact = (after ?? before) as Fact;
  switch (fact.kind) {
    case 'record': {
      if (!after) return [`The record from ${fullDate(fact.from)} is taken away.`];
      const words = parts.flatMap(([part, label]) => {
        const was = (before?.kind === 'record' ? before : over)?.[part];
        if ((was ?? null) === (fact[part] ?? null)) return [];
        const now = partWords(names, part, fact[part]);
        return was === undefined
          ? [`${label} from ${fullDate(fact.from)}: ${now}.`]
          : [`${label} from ${fullDate(fact.from)}: ${partWords(names, part, was)} → ${now}.`];
      });
      const was = before?.kind === 'record' ? before : over;
      const worth = fact.planPer && was?.planPer !== fact.planPer ? worthWords(names, fact.plan, fact.planPer) : [];
      return [...words, ...worth];
    }
    case 'person': {
      if (before?.kind !== 'person' || after?.kind !== 'person')
        return [after ? `${fact.name} comes on ${fullDate(fact.joined)}.` : `${fact.name} is taken off file.`];
      const dotted = (id: string | null) => (id === null ? 'nobody' : personName(index, id as never));
      return [
        ...(before.name === after.name ? [] : [`Name: ${before.name} → ${after.name}.`]),
        ...(before.mail === after.mail ? [] : [`Mail: ${before.mail} → ${after.mail}.`]),
        ...((before.number ?? null) === (after.number ?? null)
          ? []
          : [`Personnel number: ${before.number ?? 'none'} → ${after.number ?? 'none'}.`]),
        ...(before.joined === after.joined
          ? []
          : [`First day: ${fullDate(before.joined)} → ${fullDate(after.joined)}.`]),
        ...(before.dottedTo === after.dottedTo
          ? []
          : [`Also answers to: ${dotted(before.dottedTo)} → ${dotted(after.dottedTo)}.`]),
        ...(before.left === after.left
          ? []
          : [
              `Last day: ${before.left ? fullDate(before.left) : 'none'} → ${after.left ? fullDate(after.left) : 'none'}.`,
            ]),
      ];
    }
    case 'holding': {
      const what = `${personName(index, fact.person)} as ${postName(index, fact.post)}`;
      const until = (to: string | null) => (to === null ? 'no end' : `until ${fullDate(to as never)}`);
      if (!after) return [`${what} from ${fullDate(fact.from)} is taken away.`];
      if (before?.kind === 'holding' && after.kind === 'holding')
        return [`${what}: ${until(before.to)} → ${until(after.to)}.`];
      return [`${what} from ${fullDate(fact.from)}${fact.to ? `, ${until(fact.to)}` : ''}.`];
    }
    case 'line': {
      const above = (id: string | null) => (id === null ? 'nobody' : postName(index, id));
      const own = postName(index, fact.post);
      return after
        ? [`${own} reports to ${above(fact.reportsTo)} from ${fullDate(fact.from)}.`]
        : [`${own} reports to ${above(fact.reportsTo)} from ${fullDate(fact.from)}: taken away.`];
    }
    case 'post':
      if (before?.kind === 'post' && after?.kind === 'post')
        return [
          ...(before.title === after.title ? [] : [`The post ${before.title} is called ${after.title}.`]),
          ...(before.closed === after.closed || after.closed === null
            ? []
            : [`The post ${after.title} is closed: its last day is ${fullDate(after.closed)}.`]),
          ...(before.closed !== null && after.closed === null ? [`The post ${after.title} has no end any more.`] : []),
          ...(before.grade === after.grade
            ? []
            : [`Grade of ${after.title}: ${before.grade ?? 'none'} → ${after.grade ?? 'none'}.`]),
          ...(before.spending === after.spending
            ? []
            : [
                `What ${after.title} may spend: ${before.spending ?? 'nothing said'} → ${after.spending ?? 'nothing said'}.`,
              ]),
          ...(before.place === after.place && before.department === after.department
            ? []
            : [
                `${after.title} is at ${index.place(after.place)?.name ?? after.place}, ${index.department(after.department)?.name ?? after.department}.`,
              ]),
        ];
      return [after ? `The post ${fact.title} is on file.` : `The post ${fact.title} is taken off file.`];
    case 'role': {
      const where = fact.place ? ` for ${index.place(fact.place)?.name ?? fact.place}` : '';
      const unit = fact.department ? ` for ${index.department(fact.department)?.name ?? fact.department}` : '';
      const days = after ? [fact.from && ` from ${fullDate(fact.from)}`, fact.to && ` until ${fullDate(fact.to)}`] : [];
      return [
        `${personName(index, fact.person)} ${after ? 'has' : 'no longer has'} the role ${fact.role}${where}${unit}${days.filter(Boolean).join('')}.`,
      ];
    }
    case 'place':
      return keptWords('place', fact.name, before, after);
    case 'department':
      return keptWords('department', fact.name, before, after);
    case 'pattern':
      return [...keptWords('work pattern', fact.name, before, after), ...shiftWords(before, after)];
    case 'calendar':
      return keptWords('calendar', fact.name, before, after);
    case 'list':
      return keptWords('list', fact.name, before, after);
    case 'holiday': {
      const calendar = index.directory.calendars.find(one => one.id === fact.calendar)?.name ?? fact.calendar;
      const part = fact.part === 'day' ? '' : fact.part === 'am' ? ' in the morning' : ' in the afternoon';
      return [
        `${calendar}: ${fact.name}, ${fullDate(fact.date)}${part}, ${after ? 'is a holiday' : 'is no holiday any more'}.`,
      ];
    }
    case 'row': {
      if (!before) return [`“${fact.title}” is added to a list.`];
      if (!after) return [`“${fact.title}” is taken off a list.`];
      return after.kind === 'row' && before.kind === 'row' && after.to !== before.to && after.to !== null
        ? [`“${fact.title}” can be picked until ${fullDate(after.to)}.`]
        : [`“${fact.title}” of a list is another.`];
    }
    case 'circumstance':
      return [circumstanceWords(personName(index, fact.person), fact.holds, after !== null)];
    case 'opening':
      return [openingWords(index, fact, after !== null)];
    case 'adjustment':
      return [
        `${personName(index, fact.person)}: ${amountWords(fact.amount)} put on the balance on ${fullDate(fact.date)}${after ? '' : ', taken back'}.`,
      ];
    case 'leave type':
    case 'leave plan':
      return ruleWords(fact, before ?? saidBefore(fact, names), after, before === null);
    case 'presence': {
      const named = {
        place: (id: string) => index.place(id)?.name ?? id,
        department: (id: string) => index.department(id)?.name ?? id,
      };
      const { kind: _, ...presence } = fact;
      return after
        ? [`${fact.name}: ${presenceSentence(presence, named)}`]
        : [`${fact.name}: no least number is needed any more.`];
    }
    case 'booking':
      return [
        `${personName(index, fact.person)}: leave from ${fullDate(fact.span.from.date)} to ${fullDate(fact.span.to.date)}${after ? '' : ', taken back'}.`,
      ];
  }
}

/** Leave that is booked for many at once, in one sentence. */
export const forManyWords = (index: DirectoryIndex, change: Of<'shutdown'> | Of<'wishes'>, people: number): string =>
  change.what === 'shutdown'
    ? shutdownWords(index, change, people)
    : `${change.name}: the wishes of ${people === 1 ? 'one person' : `${people} people`} are met${change.without.length > 0 ? `, those of ${change.without.length === 1 ? 'one' : change.without.length} are not` : ''}.`;

/** A shutdown in one sentence. */
export function shutdownWords(
  index: DirectoryIndex,
  { name, place, department, from, to }: Of<'shutdown'>,
  people: number,
): string {
  const where = [
    ...(department === null ? [] : [index.department(department)?.name ?? department]),
    ...(place === null ? [] : [index.place(place)?.name ?? place]),
  ].join(' at ');
  const days = from.date === to.date ? fullDate(from.date) : `${fullDate(from.date)} to ${fullDate(to.date)}`;
  return `${name}${where ? `, ${where}` : ''}: ${days}, leave of ${people === 1 ? 'one person' : `${people} people`}.`;
}

type RulesFact = Extract<Fact, { kind: 'leave type' | 'leave plan' }>;
const sentencesOf = (fact: RulesFact): string[] =>
  (fact.kind === 'leave type' ? typeSentences(fact.rules, []) : planSentences(fact.rules, fact.unit)).map(
    ({ text }) => text,
  );

/** What held until a new version begins, of one that is there already. */
function saidBefore(fact: RulesFact, { plans, types = [] }: Names): RulesFact | null {
  if (fact.from === fromTheFirst) return null;
  const until = addDays(fact.from, -1);
  if (fact.kind === 'leave type') {
    const type = types.find(one => one.id === fact.id);
    return type ? { ...fact, rules: typeOn(type, until) } : null;
  }
  const plan = plans.find(one => one.id === fact.id);
  return plan && 'rules' in plan ? { ...fact, rules: rulesOn(plan.rules, toDay(until)) } : null;
}

/** What a leave type or plan says otherwise from when on: what it said, and what it says now. */
function ruleWords(fact: RulesFact, before: Fact | null, after: Fact | null, isNew: boolean): string[] {
  const name = fact.kind === 'leave type' ? fact.rules.name : fact.name;
  const since = fact.from === fromTheFirst ? '' : ` from ${fullDate(fact.from)} on`;
  if (!after) return [`${name}: what it says${since} is taken away.`];
  const is = sentencesOf(after as RulesFact);
  if (!before) return [`${name}${since || ', from the first'}: ${is.join(' ')}`];
  const was = sentencesOf(before as RulesFact);
  const [gone, come] = [was.filter(text => !is.includes(text)), is.filter(text => !was.includes(text))];
  if (gone.length + come.length === 0) return [isNew ? `${name}${since}: the same as before.` : `${name} is another.`];
  return [
    ...gone.map(text => `${name}, until then: ${text}`),
    ...come.map(text => `${name}${since || ', from the first'}: ${text}`),
  ];
}

/** What is kept under a name comes, goes, or is another: of what is different the change itself tells. */
const keptWords = (what: string, name: string, before: Fact | null, after: Fact | null): string[] => {
  if (!before) return [`The ${what} ${name} is on file.`];
  if (!after) return [`The ${what} ${name} is taken off file.`];
  const was = 'name' in before ? before.name : name;
  return was === name ? [`The ${what} ${name} is another.`] : [`The ${what} ${was} is called ${name}.`];
};

/** Which child it is stays between the person and HR. */
function circumstanceWords(name: string, holds: Holds, is: boolean): string {
  switch (holds.is) {
    case 'child':
      return is ? `${name}: a child is on file.` : `${name}: a child is taken off file.`;
    case 'paper at once':
      return is
        ? `${name}: papers are due from the first day, from ${fullDate(holds.from)}${holds.to ? ` to ${fullDate(holds.to)}` : ' on'}.`
        : `${name}: papers are due as for everybody else.`;
    case 'same cause':
      return is
        ? `${name}: absence ${holds.request} has the same cause as ${holds.follows}.`
        : `${name}: absence ${holds.request} has another cause than ${holds.follows}.`;
    case 'stages': {
      const stages = holds.stages.map(
        ({ from, minutes }) => `${amountWords(minutes / 60)} hours a day from ${fullDate(from)} on`,
      );
      return is
        ? `${name}: back by stages, ${stages.join(', ')}.`
        : `${name}: the stages of absence ${holds.request} are taken away.`;
    }
  }
}

function openingWords(
  index: DirectoryIndex,
  { person, on, own, carried, lapses }: FactOf<'opening'>,
  is: boolean,
): string {
  const name = personName(index, person);
  if (!is) return `${name}: the opening balance of ${fullDate(on)} is taken away.`;
  const until = lapses === null ? '' : `, to use by ${fullDate(lapses)}`;
  const over = carried === 0 ? '' : ` and ${amountWords(carried)} carried over${until}`;
  return `${name}: opening balance on ${fullDate(on)}: ${amountWords(own)} of the leave year${over}.`;
}
