/** Commands on requests: one transaction each, from loading to storing; a refusal leaves nothing behind. */
import { createHash, randomUUID } from 'node:crypto';
import {
  type AheadView,
  may,
  type PreviewInput,
  type PreviewView,
  type SendCommand,
  type Sent,
  type Submit,
} from '@north-pebble/contract';
import type { Answers } from '@north-pebble/core/form';
import { othersAway } from '@north-pebble/core/leave';
import { type DirectoryIndex, isAbove, isEmployed, type PersonId, todayFor } from '@north-pebble/core/people';
import { type Ahead, pathAhead } from '@north-pebble/core/proof';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import {
  type Command,
  type Context,
  type Definition,
  type Effect,
  type EffectCommand,
  factsOf,
  fieldsAt,
  type GuestCommand,
  handle,
  isNotOpen,
  isOpen,
  keeperOf,
  type MailCommand,
  nameOf,
  newRequest,
  type OpenedClosed,
  type OwnerCommand,
  preview as previewAnswers,
  type RequestState,
  reasonWords,
  spacesAsked,
  type Telling,
  type TimerCommand,
  withStarts,
} from '@north-pebble/core/workflow';
import { and, desc, eq, inArray, isNotNull, isNull, ne, sql } from 'drizzle-orm';
import { mayKeepLeave, maySeeRequest, mustCommand, surelySeesRequest } from '../../access/index.ts';
import {
  type Executor,
  inOneTrip,
  inTransaction,
  isDuplicate,
  type Statement,
  type Transaction,
  tables as t,
} from '../../database/index.ts';
import { attachFiles } from '../../files/index.ts';
import { contextOf, type House, inContext, loadDefinition, subjectOf, takeNumbers } from '../../house/index.ts';
import { type Caller, notFound, ProblemError, refusedField } from '../../http/index.ts';
import {
  type Brought,
  doneBefore,
  type GoesOnFrom,
  holdersOf,
  loadRequest,
  lockPerson,
  lockRequest,
  openRequest,
  type StoredRequest,
  storeBrought,
} from '../store.ts';
import { bookIn } from './booking.ts';
import { faultOf, forgetFault, orKeepFault } from './faults.ts';
import { leaveIn, leaveReasons } from './leaveReasons.ts';
import { accepted, keptCommand, ofPerson, ofRequest, once } from './once.ts';

/** Sends a new request on the live version of a workflow. */
export function submit(house: House, caller: Caller, input: Submit): Promise<Sent> {
  return once(
    house,
    caller,
    input.id,
    input,
    async (tx, keep) => {
      const { definition, version } = await liveDefinition(tx, input.workflow);
      const subject = (input.subject ?? caller.id) as PersonId;
      await checkSubject(house, tx, definition, caller, subject);
      await lockPerson(tx, subject);
      const context = await contextOf(house, tx, { subject, actor: caller.id, workflow: input.workflow });
      const answers = await takeNumbers(tx, definition, input.answers);
      const sent = { kind: 'submit', answers, subject } as const;
      // A number is never given back, so what is refused is refused before it has one.
      const tried = accepted(handle(definition, newRequest('new'), sent, context));
      await mustBeNewSpace(tx, input.workflow, definition, tried.state, context);
      const opened = await openRequest(tx, {
        workflow: input.workflow,
        workflowVersion: version,
        asker: caller.id,
        now: context.now,
        state: newRequest,
      });
      const brought = accepted(handle(definition, opened.state, sent, context));
      await attachFiles(tx, caller.id, definition, {}, brought.state);
      const draft = and(eq(t.requestDrafts.person, caller.id), eq(t.requestDrafts.workflow, input.workflow));
      const also = [keep(brought.state), sql`delete from ${t.requestDrafts} where ${draft}`];
      return carryThrough(house, tx, definition, opened, brought, context, also);
    },
    ofPerson(input.subject ?? caller.id),
  );
}

/** A space of a name that somebody has or has asked for already is refused where the name is given. */
async function mustBeNewSpace(
  tx: Transaction,
  workflow: string,
  definition: Definition,
  state: RequestState,
  context: Context,
): Promise<void> {
  const factsFor = (asked: RequestState) => factsOf(context, asked.asker!, asked.subject, asked.request);
  const wanted = spacesAsked(definition, state.answers, factsFor(state));
  if (wanted.length === 0) return;
  // Of two who ask at once the second looks when the first has asked.
  await tx.select({ id: t.workflows.id }).from(t.workflows).where(eq(t.workflows.id, workflow)).for('update');
  const rows = await tx
    .select({ id: t.requests.id, state: t.requests.state, version: t.requests.workflowVersion })
    .from(t.requests)
    .where(and(eq(t.requests.workflow, workflow), ne(t.requests.status, 'withdrawn'), isNotNull(t.requests.state)))
    .orderBy(desc(t.requests.number))
    .limit(mostCompared);
  for (const { id, state: other, version } of rows) {
    if (!other || other.request === state.request || !(isOpen(other) || (other.undelivered ?? []).length > 0)) continue;
    const before = await loadDefinition(tx, workflow, version);
    const names = spacesAsked(before, other.answers, factsFor(other)).map(space => space.name.toLowerCase());
    const taken = wanted.find(space => names.includes(space.name.toLowerCase()));
    if (!taken) continue;
    // Said where the name is typed: in a text that the name is made of, maybe by way of a figure.
    const made = definition.figures.filter(f => taken.formula.includes(f.name)).map(f => f.formula);
    const sources = [taken.formula, ...made].join(' ');
    const field = definition.form.fields.find(f => f.kind === 'text' && sources.includes(f.label))?.id ?? '';
    throw refusedField(field, `A space called “${taken.name}” is asked for already, with ${id}. Choose another name.`);
  }
}

const mostCompared = 2000;

/** Requests open requests only so deep: a workflow that opens itself ends here. */
const deepest = 5;

/**
 * Stores what a command brought about, opens the requests that it asks for, and tells the request that opened this one when
 * it has come to its end: all in one transaction.
 * @param also the last statements of the transaction; without them it goes on
 */
async function carryThrough(
  house: House,
  tx: Transaction,
  definition: Definition,
  stored: GoesOnFrom & Pick<StoredRequest, 'openedBy' | 'openedKey'>,
  brought: Brought,
  context: Context,
  also: readonly Statement[] | null,
  depth = 0,
): Promise<RequestState> {
  const opens = brought.effects.filter(e => e.kind === 'open request');
  const ends = isOpen(stored.state) || stored.state.status === 'new' ? !isOpen(brought.state) : false;
  const isLast = opens.length === 0 && !(ends && stored.openedBy);
  await storeBrought(tx, definition, stored, brought, context, isLast ? also : null);
  if (isLast) return brought.state;
  let { state } = brought;
  for (const wanted of opens) state = await openFor(house, tx, definition, state, wanted, context, depth);
  if (ends && stored.openedBy && stored.openedKey) {
    const closing = closingName(definition, brought.state);
    await byItself(house, tx, stored.openedBy, { kind: 'opened closed', key: stored.openedKey, closing });
  }
  if (also && also.length > 0) await inOneTrip(tx, also);
  return state;
}

const closingName = (definition: Definition, { closing }: RequestState): string =>
  definition.closings.find(c => c.id === closing)?.name ?? 'withdrawn';

/** Opens a request in another workflow for the same person; the one that asked hears that it is there, or why not. */
async function openFor(
  house: House,
  tx: Transaction,
  definition: Definition,
  before: RequestState,
  wanted: Extract<Effect, { kind: 'open request' }>,
  context: Context,
  depth: number,
): Promise<RequestState> {
  const opened =
    depth >= deepest ? 'requests open one another too deep' : await openOne(house, tx, before, wanted, depth);
  const outcome: EffectCommand['outcome'] =
    typeof opened === 'string'
      ? { state: 'refused', reason: opened }
      : { state: 'delivered', result: { request: opened.request } };
  const hears: (EffectCommand | OpenedClosed)[] = [{ kind: 'effect', key: wanted.key, outcome }];
  // One that nobody has to handle has come to its end already.
  if (typeof opened === 'object' && opened.closing !== null)
    hears.push({ kind: 'opened closed', key: wanted.key, closing: opened.closing });
  let state = before;
  for (const command of hears) {
    const { head, workflow, workflowVersion } = t.requests;
    const [row] = await tx
      .select({ head, workflow, workflowVersion })
      .from(t.requests)
      .where(eq(t.requests.id, before.request));
    const heard = accepted(handle(definition, state, command, context));
    await storeBrought(tx, definition, { ...row, state }, heard, context, null);
    state = heard.state;
  }
  return state;
}

async function openOne(
  house: House,
  tx: Transaction,
  opener: RequestState,
  { workflow, person: subject, values, key }: Extract<Effect, { kind: 'open request' }>,
  depth: number,
): Promise<string | { request: string; closing: string | null }> {
  // Whoever asked for the first may be gone by now.
  const asker = opener.owner ?? opener.asker ?? subject;
  return openWith(house, tx, { workflow, asker, subject, values, opener: { request: opener.request, key } }, depth);
}

type Opening = {
  workflow: string;
  asker: PersonId;
  subject: PersonId;
  /** By the labels of the fields to which they go. */
  values: Readonly<Record<string, unknown>>;
  opener: { request: string; key: string } | null;
};

/** A request that is asked for by nobody's hand; else why it could not be. */
async function openWith(
  house: House,
  tx: Transaction,
  { workflow, asker, subject, values, opener }: Opening,
  depth: number,
): Promise<string | { request: string; closing: string | null }> {
  const [live] = await tx
    .select({ version: t.workflows.liveVersion })
    .from(t.workflows)
    .where(and(eq(t.workflows.id, workflow), isNull(t.workflows.archivedAt)));
  if (!live?.version) return `there is no live workflow “${workflow}”`;
  const definition = await loadDefinition(tx, workflow, live.version);
  await lockPerson(tx, subject);
  const context = await contextOf(house, tx, { subject, actor: asker, workflow });
  // Values go to the fields that are called so.
  const answers = Object.fromEntries(
    definition.form.fields.flatMap(field => {
      const found = Object.entries(values).find(([name]) => name.toLowerCase() === field.label.toLowerCase());
      return found ? [[field.id, found[1]]] : [];
    }),
  );
  const empty = newRequest('new');
  const tried = handle(definition, empty, { kind: 'submit', answers, subject }, context);
  if (!tried.ok) return `“${definition.name}” could not be asked for: ${tried.refusal.message}`;
  const opened = await openRequest(tx, {
    workflow,
    workflowVersion: live.version,
    asker,
    now: context.now,
    state: newRequest,
  });
  const brought = accepted(handle(definition, opened.state, { kind: 'submit', answers, subject }, context));
  if (opener)
    await tx
      .update(t.requests)
      .set({ openedBy: opener.request, openedKey: opener.key })
      .where(eq(t.requests.number, Number(opened.state.request.slice(2))));
  // It may have come to its end already; its opener is at hand and hears of it below.
  const row = { ...opened, openedKey: opener?.key ?? null };
  const after = await carryThrough(house, tx, definition, row, brought, context, null, depth + 1);
  return { request: after.request, closing: isOpen(after) ? null : closingName(definition, after) };
}

/** A request for somebody that the house itself asks for; nothing where it could not be asked for. */
export async function openByHouse(
  house: House,
  tx: Transaction,
  workflow: string,
  person: PersonId,
  values: Readonly<Record<string, unknown>>,
): Promise<string | null> {
  const opened = await openWith(house, tx, { workflow, asker: person, subject: person, values, opener: null }, 0);
  return typeof opened === 'string' ? null : opened.request;
}

/**
 * A command of nobody: a timer, an answer from outside, a request that this one opened. In the caller's transaction.
 * @param at its own time, when that is not the moment at which it was noticed
 * @param owner whose the files are that it gives
 */
async function byItself(
  house: House,
  tx: Transaction,
  request: string,
  command: TimerCommand | EffectCommand | OpenedClosed | GuestCommand | MailCommand | OwnerCommand,
  at?: Instant,
  owner?: string,
): Promise<void> {
  const { stored, moment } = await lockRequest(house, tx, request);
  if (!stored) return;
  const { workflow } = stored;
  const definition = await loadDefinition(tx, workflow, stored.workflowVersion);
  const about = { subject: subjectOf(stored), actor: null, workflow, ...(at ? { at } : {}) };
  const sent =
    command.kind === 'guest' && command.what.kind === 'hand in'
      ? { ...command, what: { ...command.what, answers: await takeNumbers(tx, definition, command.what.answers) } }
      : command;
  const { result, context } = await inContext(house, tx, moment, about, seen =>
    handle(definition, stored.state, sent, seen),
  );
  const brought = accepted(result);
  if (owner !== undefined) await attachFiles(tx, owner, definition, stored.state.answers, brought.state);
  await carryThrough(house, tx, definition, stored, brought, context, null);
}

/** Who sent a command that nobody on file sent. */
const nobody = '';

/**
 * Sends what somebody without an account asks for: once under its id, on the live version of a workflow.
 * @param counts what is checked and counted in the same transaction, after which it is taken in; its last statements
 * @returns the request, or nothing where the same id was taken in before
 */
export async function askedFromOutside(
  house: House,
  input: { readonly id: string; readonly workflow: string; readonly answers: unknown; readonly mail: string },
  counts: (tx: Transaction, now: Instant) => Promise<readonly Statement[]>,
): Promise<string | null> {
  const digest = createHash('sha256').update(JSON.stringify(input)).digest('hex');
  if (await doneBefore(house.db, input.id)) return null;
  try {
    const request = await inTransaction(house.db, async tx => {
      const { definition, version } = await liveDefinition(tx, input.workflow);
      const { outside } = definition.opening ?? {};
      const moment = await house.moment(tx);
      const also = await counts(tx, moment.now);
      const keeper = outside && keeperOf(outside, moment);
      if (!keeper) throw new ProblemError('closed', 'Nobody can take this in now. Nothing was sent; please try again.');
      const { workflow } = input;
      const context = await contextOf(house, tx, { subject: keeper, actor: null, workflow });
      const command = { kind: 'ask from outside', answers: input.answers } as const;
      accepted(handle(definition, newRequest('new'), command, context));
      const opened = await openRequest(tx, {
        workflow,
        workflowVersion: version,
        asker: keeper,
        now: context.now,
        state: newRequest,
      });
      const brought = accepted(handle(definition, opened.state, command, context));
      const { request, version: reached } = brought.state;
      const row = { id: input.id, actor: nobody, request, version: reached, digest, at: Date.now() };
      const number = Number(request.slice(2));
      await carryThrough(house, tx, definition, opened, brought, context, [
        ...also,
        sql`update ${t.requests} set ${sql.identifier('outside')} = ${input.mail} where ${t.requests.number} = ${number}`,
        keptCommand([row]),
      ]);
      return request;
    });
    house.wake();
    return request;
  } catch (fault) {
    // Sent twice at one time, the second meets the id of the first.
    if (isDuplicate(fault) && (await doneBefore(house.db, input.id))) return null;
    throw fault;
  }
}

/**
 * What a guest did by a link that was found to be good.
 * @param owner whose files they give
 */
export async function guestDid(house: House, request: string, command: GuestCommand, owner?: string): Promise<void> {
  await inTransaction(house.db, tx => byItself(house, tx, request, command, undefined, owner));
  house.wake();
}

/** What a mail server or a calendar said of what a request sent. */
export async function mailSaid(house: House, request: string, what: MailCommand['what']): Promise<void> {
  await inTransaction(house.db, tx => byItself(house, tx, request, { kind: 'mail', what }));
  house.wake();
}

/** Any other command on a request that is there. */
export const command = (house: House, caller: Caller, request: string, input: SendCommand): Promise<Sent> =>
  orKeepFault(house, caller, request, input.command, () => giveCommand(house, caller, request, input));

/** Gives a command again that a fault broke off, for whoever gave it; it is forgotten once it was carried out. */
export async function giveAgain(house: House, request: string): Promise<void> {
  const { caller, command: wanted } = await faultOf(house, request);
  await command(house, caller, request, { id: randomUUID(), command: wanted });
  await forgetFault(house, request);
}

function giveCommand(house: House, caller: Caller, request: string, input: SendCommand): Promise<Sent> {
  return once(
    house,
    caller,
    input.id,
    [request, input],
    async (tx, keep) => {
      const { stored, moment } = await lockRequest(house, tx, request);
      if (!stored || !(await isConcerned(house, tx, stored, caller))) throw notFound();
      if (input.command.kind === 'submit' || input.command.kind === 'book leave')
        throw new ProblemError('bad input', 'A new request is sent to /requests, leave is booked at /leave.');
      const concerned = subjectOf(stored);
      const keeps = () => mayKeepLeave(caller, concerned, moment.index, todayFor(moment.index, concerned, moment.now));
      mustCommand(caller, input.command.kind, keeps);
      if (input.command.kind === 'comment') await mustSee(house, tx, stored, caller, input.command.mentions);
      const { workflow } = stored;
      const definition = await loadDefinition(tx, workflow, stored.workflowVersion);
      const about = { subject: subjectOf(stored), actor: caller.id, workflow };
      const helps = may(caller, 'help requests on');
      const sent = await withoutNumbers(tx, definition, input.command);
      const { result, context } = await inContext(house, tx, moment, about, seen =>
        handle(definition, stored.state, sent, Object.assign(seen, { helps })),
      );
      const brought = accepted(result);
      const commented = input.command.kind === 'comment' ? input.command.files : undefined;
      await attachFiles(tx, caller.id, definition, stored.state.answers, brought.state, commented);
      const rest = brought.events.flatMap(event => (event.kind === 'called back' && event.rest ? [event] : []))[0];
      if (!rest?.rest || !stored.state.leave)
        return carryThrough(house, tx, definition, stored, brought, context, [keep(brought.state)]);
      // What is left after the days of work is leave of its own, booked in the same transaction once the days are free.
      const state = await carryThrough(house, tx, definition, stored, brought, context, null);
      const { type } = stored.state.leave;
      const booked = { subject: about.subject, type, span: rest.rest, reason: rest.reason, restOf: request };
      await bookIn(house, tx, caller, booked, () => [keep(state)]);
      return state;
    },
    ofRequest(request),
  );
}

/** A command whose answers hold no number of a paper in full. */
async function withoutNumbers(tx: Transaction, definition: Definition, command: Command): Promise<Command> {
  if (!('answers' in command) || command.answers === undefined) return command;
  return { ...command, answers: await takeNumbers(tx, definition, command.answers) };
}

/** How many letters one person sends from one request by naming others in comments. */
const mostMentions = 60;

async function mustNotFlood(db: Executor, request: string, caller: Caller, more: number): Promise<void> {
  const rows = await db
    .select({ body: t.events.body })
    .from(t.events)
    .where(and(eq(t.events.request, request), eq(t.events.kind, 'commented'), eq(t.events.actor, caller.id)));
  const before = rows.reduce((sum, { body }) => sum + (body.kind === 'commented' ? body.mentions.length : 0), 0);
  if (before + more > mostMentions)
    throw refusedField('mentions', `You have named others here ${before} times already. Write without naming anybody.`);
}

/** A comment tells nobody of a request that they may not see. */
async function mustSee(
  house: House,
  db: Executor,
  stored: StoredRequest,
  caller: Caller,
  mentions: readonly PersonId[],
): Promise<void> {
  if (mentions.length === 0) return;
  await mustNotFlood(db, stored.id ?? '', caller, mentions.length);
  const accounts = await db
    .select({ person: t.accounts.person, rights: t.accounts.rights })
    .from(t.accounts)
    .where(inArray(t.accounts.person, [...mentions]));
  const { index } = await house.moment(db);
  for (const id of mentions) {
    const rights = accounts.find(row => row.person === id)?.rights ?? [];
    if (await isConcerned(house, db, stored, { id, rights })) continue;
    throw refusedField('mentions', `${index.person(id)?.name ?? 'Nobody of that name'} may not see this request.`);
  }
}

/** Whoever has nothing to do with a request is not even told that it exists. */
export async function isConcerned(house: House, db: Executor, stored: StoredRequest, caller: Caller): Promise<boolean> {
  if (surelySeesRequest(caller, stored)) return true;
  if (stored.state.tasks.some(task => task.holder === caller.id)) return true;
  const { index, now } = await house.moment(db);
  const subject = subjectOf(stored);
  const holders = await holdersOf(db, stored.id ?? '');
  const day = todayFor(index, subject, now);
  const { workflow, outside } = stored;
  const about = { workflow, asker: stored.asker as PersonId, subject, outside, holders };
  return maySeeRequest(caller, about, index, day);
}

/** Whether whoever looks after a request is here still; @param operations who takes it over otherwise */
export const mindOwner = (house: House, tx: Transaction, request: string, operations: readonly PersonId[]) =>
  byItself(house, tx, request, { kind: 'mind owner', operations });

/** A timer that has come due, in the transaction that claimed it. Counted at its own time, not at the time it was noticed. */
export const timerDue = (house: House, tx: Transaction, request: string, timer: TimerCommand, at: Instant) =>
  byItself(house, tx, request, timer, at);

/** What a connection answered, in the transaction that marks its effect as done. */
/** @param owner whose a file is that came back, where one did */
export const effectCameBack = (
  house: House,
  tx: Transaction,
  request: string,
  command: EffectCommand,
  owner?: string,
) => byItself(house, tx, request, command, undefined, owner);

export async function liveDefinition(db: Executor, workflow: string) {
  const [row] = await db
    .select({ version: t.workflows.liveVersion })
    .from(t.workflows)
    .where(and(eq(t.workflows.id, workflow), isNull(t.workflows.archivedAt)));
  if (!row?.version) throw notFound();
  return { version: row.version, definition: await loadDefinition(db, workflow, row.version) };
}

/** Nobody looks at somebody else's balance by asking for them, unless the workflow and the reporting line allow it. */
async function checkSubject(
  house: House,
  db: Executor,
  definition: Definition,
  caller: Caller,
  subject: PersonId,
): Promise<void> {
  if (subject === caller.id) return;
  const { index, now } = await house.moment(db);
  const may = askableSubjects(definition, index, caller.id, todayFor(index, caller.id, now));
  if (!may.includes(subject)) throw notFound();
}

/** For whom somebody may ask besides themselves: reports below them, and people who have not started yet. */
export function askableSubjects(
  definition: Definition,
  index: DirectoryIndex,
  asker: PersonId,
  today: CivilDate,
): PersonId[] {
  const forWhom = definition.opening?.forWhom ?? ['self'];
  const { people } = index.directory;
  const below = forWhom.includes('report')
    ? people.filter(p => p.id !== asker && isEmployed(p, today) && isAbove(index, asker, p.id, today))
    : [];
  const joiners = forWhom.includes('joiner') ? people.filter(p => p.joined > today) : [];
  return [...below, ...joiners].map(p => p.id);
}

/** What an asker sees while typing: figures, faults, and the reasons behind the days and the balance. */
export async function preview(house: House, caller: Caller, input: PreviewInput): Promise<PreviewView> {
  let definition: Definition;
  let subject = (input.subject ?? caller.id) as PersonId;
  if (input.request) {
    const stored = await loadRequest(house.db, input.request);
    if (!stored || (stored.asker !== caller.id && stored.owner !== caller.id)) throw notFound();
    subject = subjectOf(stored);
    definition = await loadDefinition(house.db, stored.workflow, stored.workflowVersion);
  } else definition = (await liveDefinition(house.db, input.workflow)).definition;
  const request = input.request ?? 'new';
  if (!input.request) {
    const closed = isNotOpen(definition, await house.moment(house.db), caller.id);
    if (closed) throw new ProblemError('not allowed', closed);
    await checkSubject(house, house.db, definition, caller, subject);
  }
  const context = await contextOf(house, house.db, { subject, actor: caller.id, workflow: input.workflow });
  const facts = factsOf(context, caller.id, subject, request);
  const touched = new Set(input.touched ?? definition.form.fields.map(f => f.id));
  const answers = withStarts(definition, input.answers as Answers, facts, touched);
  const { faults, figures } = previewAnswers(definition, answers, context, caller.id, request, subject);
  const leave = leaveIn(definition, answers, context.book);
  const isNew = !input.request && faults.length === 0;
  const fields = fieldsAt(definition, definition.steps[0].id, answers, facts);
  return {
    answers,
    fields: fields.map(({ field, level }) => ({ id: field.id, level })),
    faults,
    figures,
    leave: leaveReasons(definition, answers, context.book, subject, request),
    others: leave ? othersAway(context.book, subject, leave.span).map(p => p.name) : [],
    ahead: isNew ? aheadOf(definition, { ...answers }, subject, context) : null,
  };
}

/** What sending these answers now would set going. Nothing is stored: the core only works it out. */
function aheadOf(definition: Definition, answers: Record<string, unknown>, subject: PersonId, context: Context) {
  const sent = handle(definition, newRequest('new'), { kind: 'submit', answers, subject }, context);
  return sent.ok ? aheadView(pathAhead(definition, sent, context), { definition, ...context }) : null;
}

export const aheadView = ({ steps, ends }: Ahead, telling: Telling): AheadView => ({
  steps: steps.map(({ number, verb, people, due, waits }) => ({
    number,
    verb,
    people: people.map(({ person, reasons }) => ({
      name: nameOf(telling.index, person),
      reasons: reasons.map(reason => reasonWords(reason, telling)),
    })),
    due,
    waits: waits && reasonWords(waits, telling),
  })),
  ends,
});
