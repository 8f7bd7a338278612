/** What follows from a change before it is made: worked out where it stands for few people, on a thread for many. */
import type { ChangePreview } from '@north-pebble/contract';
import { type Consequences, consequencesOf, counted, routes } from '@north-pebble/core/consequences';
import { type FactEdit, factOfEdit } from '@north-pebble/core/facts';
import { atLeaving, type LeaveBook, leaveAfter } from '@north-pebble/core/leave';
import { type DirectoryIndex, latestDay, type PersonId, personName } from '@north-pebble/core/people';
import { amountOfUnit, type CivilDate, fullDate } from '@north-pebble/core/time';
import { planOf, slackWords } from '@north-pebble/core/workflow';
import { and, eq, inArray, isNotNull, isNull } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import {
  adjustmentsOf,
  besideOf,
  type House,
  loadDefinition,
  loadEntriesOf,
  type Moment,
  rulesFor,
} from '../house/index.ts';
import type { Underway } from './underway.ts';
import { editWords } from './views/words.ts';

export type Worked = {
  readonly moment: Moment;
  readonly edits: readonly FactEdit[];
  readonly after: DirectoryIndex;
  /** Leave types and plans as they are afterwards. */
  readonly rules: Pick<LeaveBook, 'types' | 'plans'> & Partial<Pick<LeaveBook, 'adjustments'>>;
  readonly digest: string;
  /** Those who have leave on days of a shutdown already. */
  readonly away?: readonly PersonId[];
  /** Said in one sentence, where a fact each would be too many. */
  readonly says?: string;
};

/** So many people are counted anew where it stands; more on the thread. */
const few = 40;
export const concernsMany = ({ moment, after, edits }: Worked): boolean =>
  counted(moment.index, after, edits).length > few;

/** @param day from which the change holds; today where it has begun already */
export async function follows(
  house: House,
  worked: Worked,
  day: CivilDate | null,
  own?: Underway,
): Promise<Consequences> {
  const { db } = house;
  const { index, now, lists } = worked.moment;
  const today = latestDay(index, now);
  const people = counted(index, worked.after, worked.edits);
  const rules = await rulesFor(db, index);
  const on = day !== null && day > today ? day : today;
  if (people.length > few)
    return house.reckoning.follows(
      index,
      rules,
      { ...{ people, today, edits: worked.edits, day: on }, beside: besideOf(lists, rules) },
      own ? { told: far => Object.assign(own, far), signal: own.stopping.signal } : {},
    );
  const book: LeaveBook = {
    ...{ index, types: rules.types, plans: rules.plans, today },
    entries: await loadEntriesOf(db, people, today),
    adjustments: await adjustmentsOf(db, people),
  };
  return consequencesOf(book, worked.after, worked.edits, on, worked.rules);
}

const mostShown = 60;

/** What is newly wrong with live workflows: a step for which nobody is found any more, or for some only. */
async function newlyWrong(house: House, { moment, edits }: Worked, day: CivilDate): Promise<string[]> {
  if (!edits.some(edit => routes(edit))) return [];
  const rows = await house.db
    .select({ id: t.workflows.id, version: t.workflows.liveVersion })
    .from(t.workflows)
    .where(and(isNotNull(t.workflows.liveVersion), isNull(t.workflows.archivedAt)));
  const definitions = await Promise.all(rows.map(row => loadDefinition(house.db, row.id, row.version ?? 1)));
  const { index, lists } = moment;
  const beside = besideOf(lists, await rulesFor(house.db, index));
  const found = await house.reckoning.findings(index, { definitions, edits, day, beside });
  return found.map(({ workflow, title }) => `${workflow}: ${title}.`);
}

/** By what working days at a place are counted. */
const counting: ReadonlySet<string> = new Set(['calendar', 'holiday', 'place']);
const mostPlans = 300;

/** Plans of open requests that have another amount of time left. */
async function otherPlans(house: House, { moment, edits, after }: Worked): Promise<ChangePreview['plans'][number][]> {
  if (!edits.some(edit => counting.has(factOfEdit(edit).kind))) return [];
  const { index, lists, now } = moment;
  const rows = await house.db
    .select()
    .from(t.requests)
    .where(and(isNotNull(t.requests.plannedFor), eq(t.requests.status, 'open')))
    .limit(mostPlans);
  const rules = await rulesFor(house.db, index);
  const today = latestDay(index, now);
  const found: ChangePreview['plans'][number][] = [];
  for (const row of rows) {
    const definition = await loadDefinition(house.db, row.workflow, row.workflowVersion);
    const wordsIn = (one: DirectoryIndex): string | null => {
      const book = { ...rules, index: one, entries: [], adjustments: [], today };
      const plan = planOf(definition, row.state, { index: one, now, lists, book });
      return plan?.ok && plan.plan.slack !== null ? slackWords(plan.plan.slack) : null;
    };
    const [was, is] = [wordsIn(index), wordsIn(after)];
    if (was !== null && is !== null && was !== is)
      found.push({ request: row.id ?? '', title: row.title, before: was, after: is });
  }
  return found;
}

/** What follows in words, by person. */
export async function shown(house: House, worked: Worked, found: Consequences, day: CivilDate): Promise<ChangePreview> {
  const { index } = worked.moment;
  const rules = await rulesFor(house.db, index);
  const nameIn = (id: PersonId | null) => (id === null ? null : personName(worked.after, id));
  const typeName = (id: string) => rules.types.find(one => one.id === id)?.name ?? id;
  return {
    digest: worked.digest,
    says: worked.says
      ? [worked.says]
      : worked.edits.slice(0, mostShown).flatMap(edit => editWords({ index: worked.after, ...rules }, edit)),
    managers: found.managers.slice(0, mostShown).map(one => ({
      name: personName(worked.after, one.person),
      before: nameIn(one.before),
      after: nameIn(one.after),
    })),
    leave: found.leave.slice(0, mostShown).map(one => ({
      name: personName(worked.after, one.person),
      what: `${typeName(one.type)}, ${fullDate(one.span.from.date)} to ${fullDate(one.span.to.date)}`,
      request: one.request,
      before: amountOfUnit(one.before, one.unit),
      after: amountOfUnit(one.after, one.unit),
    })),
    sums: gains(found.balances),
    // Whoever loses most stands first.
    balances: found.balances
      .toSorted((a, b) => difference(a) - difference(b))
      .slice(0, mostShown)
      .map(one => ({
        name: personName(worked.after, one.person),
        what: `${typeName(one.type)} on ${fullDate(one.on)}`,
        before: one.before === null ? null : amountOfUnit(one.before, one.unitBefore ?? one.unit),
        after: one.after === null ? null : amountOfUnit(one.after, one.unit),
      })),
    plans: await otherPlans(house, worked),
    open: await staying(house, found),
    notes: [
      ...(await leaving(house, worked)),
      ...awayAlready(worked),
      ...found.broughtAlong
        .slice(0, mostShown)
        .map(
          one =>
            `${personName(worked.after, one.person)}, ${typeName(one.type)}, ${fullDate(one.on)}: ${one.words}; the new balance begins at ${amountOfUnit(one.amount, one.unit)}.`,
        ),
      ...(found.managers.length > mostShown
        ? [`${found.managers.length - mostShown} more get another line manager.`]
        : []),
      ...(found.leave.length > mostShown ? [`${found.leave.length - mostShown} more bookings are counted anew.`] : []),
      ...(found.balances.length > mostShown ? [`${found.balances.length - mostShown} more balances are another.`] : []),
      ...belowZero(found.balances),
      ...(await newlyWrong(house, worked, day)),
      ...found.vacant.map(post => `Nobody holds the post ${worked.after.post(post)?.title ?? post} then.`),
      ...found.empty.map(role => `Nobody has the role ${role} then.`),
    ],
  };
}

/** Whoever has leave then keeps it as it is. */
function awayAlready({ away = [], after }: Worked): string[] {
  const names = [...new Set(away)].map(id => personName(after, id));
  if (names.length === 0) return [];
  const more = names.length > 20 ? ` and ${names.length - 20} more` : '';
  return [
    `${names.length === 1 ? 'One has' : `${names.length} have`} leave on these days already and ${names.length === 1 ? 'keeps' : 'keep'} it as it is: ${names.slice(0, 20).join(', ')}${more}.`,
  ];
}

/** What is owed to those who get a last day, or what they took too much, and which open requests go past it. */
async function leaving(house: House, { moment, edits, after, rules }: Worked): Promise<string[]> {
  const leavers = edits.flatMap(({ before, after: now }) =>
    now?.kind === 'person' && now.left !== null && (before?.kind !== 'person' || before.left !== now.left)
      ? [{ id: now.id, left: now.left }]
      : [],
  );
  if (leavers.length === 0) return [];
  const some = leavers.slice(0, mostShown);
  const ids = some.map(one => one.id);
  const today = latestDay(moment.index, moment.now);
  const book: LeaveBook = {
    ...{ index: after, types: rules.types, plans: rules.plans, today },
    entries: await loadEntriesOf(house.db, ids, today),
    adjustments: rules.adjustments ?? (await adjustmentsOf(house.db, ids)),
  };
  return some.flatMap(({ id, left }) => {
    const name = personName(after, id);
    const balances = rules.types.flatMap(type => {
      const at = atLeaving(book, id, type, left);
      if (!at || at.balance === 0) return [];
      const amount = `${amountOfUnit(Math.abs(at.balance), at.unit)} of ${type.name.toLowerCase()}`;
      const day = `their last day, ${fullDate(left)}`;
      return [at.balance > 0 ? `${name} is owed ${amount} on ${day}.` : `${name} owes ${amount} on ${day}.`];
    });
    const open = leaveAfter(book, id, left)
      .filter(entry => entry.state === 'held')
      .map(entry => `${entry.request} asks for days after it. It stays open, and cannot be approved as it is.`);
    return [...balances, ...open];
  });
}

const difference = ({ before, after }: Consequences['balances'][number]): number => (after ?? 0) - (before ?? 0);

/** How many gain and how many lose, and how much in all, in each unit by itself. */
function gains(balances: Consequences['balances']): string[] {
  return (['days', 'hours'] as const).flatMap(unit => {
    // What is counted in another unit afterwards is neither gained nor lost.
    const own = balances.filter(one => one.unit === unit && one.unitBefore === undefined);
    const sum = (all: typeof own) => Math.round(all.reduce((s, one) => s + Math.abs(difference(one)), 0) * 100) / 100;
    const told = (all: typeof own, verb: string) =>
      all.length === 0
        ? []
        : [`${all.length} ${all.length === 1 ? verb : verb.replace(/s$/, '')} ${amountOfUnit(sum(all), unit)} in all`];
    const parts = [
      ...told(
        own.filter(one => difference(one) > 0),
        'gains',
      ),
      ...told(
        own.filter(one => difference(one) < 0),
        'loses',
      ),
    ];
    return parts.length === 0 ? [] : [`${parts.join(', ')}.`];
  });
}

/** How many balances a change takes below zero, and how many it takes out of it. */
function belowZero(balances: Consequences['balances']): string[] {
  const [sinks, rises] = [
    balances.filter(one => (one.after ?? 0) < 0 && (one.before ?? 0) >= 0).length,
    balances.filter(one => (one.before ?? 0) < 0 && (one.after ?? 0) >= 0).length,
  ];
  return [
    ...(sinks > 0 ? [`${sinks} ${sinks === 1 ? 'balance goes' : 'balances go'} below zero.`] : []),
    ...(rises > 0 ? [`${rises} ${rises === 1 ? 'balance comes' : 'balances come'} out of it.`] : []),
  ];
}

/** Open requests of those who get another manager, as far as the one of before has them: they stay there. */
async function staying(house: House, { managers }: Consequences): Promise<ChangePreview['open'][number][]> {
  const moved = managers.filter(one => one.before !== null).slice(0, 500);
  if (moved.length === 0) return [];
  const rows = await house.db
    .select({ request: t.requests.id, title: t.requests.title, asker: t.requests.asker, holder: t.tasks.holder })
    .from(t.tasks)
    .innerJoin(t.requests, eq(t.requests.id, t.tasks.request))
    .where(
      and(
        eq(t.tasks.open, true),
        inArray(
          t.requests.asker,
          moved.map(one => one.person),
        ),
      ),
    )
    .limit(500);
  const index = await house.directory(house.db);
  return rows
    .filter(row => moved.some(one => one.person === row.asker && one.before === row.holder))
    .slice(0, mostShown)
    .map(row => ({
      request: row.request ?? '',
      title: row.title,
      holder: personName(index, row.holder as PersonId),
    }));
}
