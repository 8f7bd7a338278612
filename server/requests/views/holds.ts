/** What the person of a request holds, for those who help them go: open tasks, access that stands, papers, reviews. */
import type { HoldsView } from '@north-pebble/contract';
import { personName, todayFor } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { readerOf } from '../../access/index.ts';
import { givingOrTaking, stillGiven } from '../../connections/index.ts';
import { type Executor, tables as t } from '../../database/index.ts';
import { type House, subjectOf } from '../../house/index.ts';
import { type Caller, notFound } from '../../http/index.ts';
import { isConcerned } from '../commands/commands.ts';
import { loadEvents, loadRequest } from '../store.ts';

const mostTasks = 200;

type Values = { values?: Readonly<Record<string, unknown>> };

/** What each of these gives, by the values with which it was asked for and what came back. */
function whatWords(action: string | null, values: Readonly<Record<string, unknown>>, result: Values['values']): string {
  if (action === 'add to group') return String(values.group ?? '');
  if (action === 'create space') return `the space ${String(result?.space ?? values.name ?? '')}, as its owner`;
  return `the account ${String(result?.account ?? values.account ?? '')}`;
}

/** Accounts, groups and spaces of somebody that requests gave and that stand. */
export async function accessOf(db: Executor, person: string): Promise<HoldsView['access']> {
  const rows = await db
    .select({
      key: t.effects.key,
      connection: t.effects.connection,
      action: t.effects.action,
      state: t.effects.state,
      payload: t.effects.payload,
      result: t.effects.result,
      request: t.effects.request,
      until: t.effects.until,
      subject: t.requests.subject,
    })
    .from(t.effects)
    .leftJoin(t.requests, eq(t.requests.id, t.effects.request))
    .where(
      and(inArray(t.effects.action, [...givingOrTaking]), eq(t.effects.state, 'delivered'), isNull(t.effects.undoes)),
    )
    .orderBy(asc(t.effects.doneAt), asc(t.effects.id));
  // A joiner's account is made before they are on file: it is that of whom the request is for, and so is its closing.
  const whoseIs = ({ action, payload, subject }: (typeof rows)[number]) => {
    const { values = {} } = payload as unknown as Values;
    return values.person ?? values.owner ?? (action === 'create account' ? subject : undefined);
  };
  const calls = rows.map(row => {
    const { values = {} } = row.payload as unknown as Values;
    return { ...row, payload: { values: { ...values, person: whoseIs(row) } } };
  });
  const connections = [...new Set(rows.map(row => row.connection))];
  const standing = new Set(
    connections.flatMap(name => [...stillGiven(calls.filter(one => one.connection === name)).keys()]),
  );
  return rows.flatMap(row => {
    if (!standing.has(row.key) || whoseIs(row) !== person) return [];
    const { values = {} } = row.payload as unknown as Values;
    return [
      {
        connection: row.connection ?? '',
        what: whatWords(row.action, values, row.result ?? {}),
        request: row.request,
        until: row.until as CivilDate | null,
      },
    ];
  });
}

/** For those who look after the person, have or had a step of the request, or are the person themselves. */
export async function holdsView(house: House, caller: Caller, id: string): Promise<HoldsView> {
  const { db } = house;
  const stored = await loadRequest(db, id);
  if (!stored || !(await isConcerned(house, db, stored, caller))) throw notFound();
  const person = subjectOf(stored);
  const { index, now } = await house.moment(db);
  const given = (await loadEvents(db, id)).flatMap(event => (event.kind === 'given' ? [event] : []));
  const reader = readerOf(caller, { ...stored, given }, index, todayFor(index, person, now));
  const isThemselves = caller.id === person;
  if (!reader.all && !isThemselves && reader.steps.length === 0) throw notFound();
  const open = await db
    .select({ id: t.tasks.id, request: t.tasks.request, title: t.requests.title, state: t.requests.state })
    .from(t.tasks)
    .innerJoin(t.requests, eq(t.requests.id, t.tasks.request))
    .where(and(eq(t.tasks.holder, person), eq(t.tasks.open, true)))
    .orderBy(asc(t.tasks.request))
    .limit(mostTasks);
  const papers = await db
    .select({ kind: t.papers.kind, expires: t.papers.expires })
    .from(t.papers)
    .where(and(eq(t.papers.person, person), isNull(t.papers.replacedOn), isNull(t.papers.forgottenOn)));
  const reviews = await db.$count(t.reviewItems, and(eq(t.reviewItems.reviewer, person), isNull(t.reviewItems.answer)));
  const seesAll = reader.all || isThemselves;
  return {
    person: personName(index, person),
    tasks: open.length,
    taskRows: seesAll
      ? open.map(row => ({
          request: row.request,
          title: row.title,
          due: row.state?.tasks.find(task => task.id === row.id)?.due ?? null,
        }))
      : [],
    access: await accessOf(db, person),
    reviews,
    // Which papers somebody has is for those who look after them.
    papers: seesAll ? papers.map(row => ({ kind: row.kind, expires: row.expires as CivilDate | null })) : [],
  };
}
