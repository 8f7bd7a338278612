/** Where the effects of a command go: letters and calls wait to go out, all else is done in the house with the command. */

import { asHouseChange, edited, editsOf, type HouseChange, reversed } from '@north-pebble/core/facts';
import { isPickable, listById, openPostsList, postColumn } from '@north-pebble/core/form';
import type { LeaveBook } from '@north-pebble/core/leave';
import { type Directory, indexDirectory, latestDay } from '@north-pebble/core/people';
import { addDays, type CivilDate, type Instant } from '@north-pebble/core/time';
import type { Context, Effect } from '@north-pebble/core/workflow';
import { and, eq, inArray, like, lt, sql } from 'drizzle-orm';
import { type Database, type Transaction, tables as t, waiting } from '../database/index.ts';
import { changeList, type House, keepFacts, keepPaper, raiseDirectoryVersion, type ToKeep } from '../house/index.ts';
import { isTouched } from '../records/index.ts';

/** Where letters wait that are to be set on pages; no connection is called so. */
export const lettersToMake = '#letters';

type EffectRow = typeof t.effects.$inferInsert;

/** Letters and calls as they wait to go out. */
export const waitingRows = (request: string | null, effects: readonly Effect[], now: Instant): EffectRow[] =>
  effects.flatMap((e): EffectRow[] => {
    if (e.kind === 'mail' || e.kind === 'mail out') {
      return [
        {
          ...waiting,
          key: e.key,
          request,
          payload: {
            ...(e.kind === 'mail' ? { to: e.to } : { to: '', address: e.address }),
            subject: e.subject,
            body: e.body,
            ...(e.html ? { html: e.html } : {}),
            ...(e.attach ? { attach: e.attach } : {}),
            ...(e.kind === 'mail out' && e.link ? { link: e.link } : {}),
            ...(e.kind === 'mail' && e.task ? { task: e.task } : {}),
            ...(e.kind === 'mail' && e.forRole ? { forRole: e.forRole } : {}),
          },
          writtenAt: now,
        },
      ];
    }
    if (e.kind === 'make letter')
      return [
        {
          ...waiting,
          key: e.key,
          connection: lettersToMake,
          action: 'make letter',
          request,
          step: e.step,
          target: request,
          payload: { name: e.name, letter: e.letter } as never,
          writtenAt: now,
        },
      ];
    if (e.kind !== 'provision') return [];
    return [
      {
        ...waiting,
        key: e.key,
        connection: e.connection,
        action: e.action,
        request,
        step: e.step,
        target: request,
        payload: { values: e.values } as never,
        until: e.undoOn,
        undoAt: e.undoAt,
        writtenAt: now,
      },
    ];
  });

/** A letter that no command brought about: it goes out by itself. */
export async function writeOut(house: House, request: string, letter: Effect, now: Instant): Promise<void> {
  await house.db.insert(t.effects).values(waitingRows(request, [letter], now));
  house.wake();
}

type Inside = Extract<
  Effect,
  {
    kind:
      | 'planner'
      | 'adjust'
      | 'keep paper'
      | 'change person'
      | 'add person'
      | 'add post'
      | 'never came'
      | 'add row'
      | 'change row'
      | 'undo'
      | 'undo on'
      | 'undo never'
      | 'call off'
      | 'again';
  }
>;
const insideKinds: readonly Effect['kind'][] = [
  'planner',
  'adjust',
  'keep paper',
  'change person',
  'add person',
  'add post',
  'never came',
  'add row',
  'change row',
  'undo',
  'undo on',
  'undo never',
  'call off',
  'again',
];
export const insideOf = (effects: readonly Effect[]): Inside[] =>
  effects.filter((e): e is Inside => insideKinds.includes(e.kind));

const stillOut = ['waiting', 'refused'] as const;

/** Asks that what an effect brought about is taken back; where it was to end on a day, it ends now. */
async function takeBack(tx: Transaction, of: typeof t.effects.$inferSelect, key: string, writtenAt: Instant) {
  const { connection, action, request, step, target, payload } = of;
  await tx
    .insert(t.effects)
    .values({ ...waiting, key, connection, action, request, step, target, payload, writtenAt, undoes: of.key })
    .onDuplicateKeyUpdate({ set: { notBefore: sql`null` } });
}

/** What was given for good and has a last day now is taken back after it, like what was given until a day. */
async function endOnDay(tx: Transaction, { of, at }: Extract<Inside, { kind: 'undo on' }>, now: Instant) {
  const [given] = await tx.select().from(t.effects).where(eq(t.effects.key, of)).for('update');
  if (given?.state !== 'delivered') return;
  const waits = await tx.$count(t.effects, eq(t.effects.undoes, of));
  if (waits > 0) return;
  await takeBack(tx, given, `${of}:undo`, now);
  await tx
    .update(t.effects)
    .set({ notBefore: at })
    .where(eq(t.effects.key, `${of}:undo`));
}

/** What is known while effects are carried out, each from how the one before it left the house. */
type Around = Pick<Context, 'now'> & {
  lists: Context['lists'];
  /** Of the request, with what it brought about. */
  readonly version: number;
  directory: Directory;
  readonly plans: readonly { readonly id: string }[];
  readonly types: LeaveBook['types'];
};

async function carryOut(tx: Transaction, request: string, effect: Inside, around: Around) {
  const { now, lists = [] } = around;
  switch (effect.kind) {
    case 'planner': {
      const { key, step, person, from, to, label } = effect;
      // Asked for again, a step takes the place of what it put there before.
      await tx.delete(t.plannerLines).where(and(eq(t.plannerLines.request, request), eq(t.plannerLines.step, step)));
      await tx.insert(t.plannerLines).values({
        ...{ key, request, step, person, label },
        ...{ firstDay: from, lastDay: to, sequence: around.version },
      });
      return;
    }
    case 'adjust':
      return adjustBalance(tx, request, effect, around);
    case 'keep paper':
      return keepPaper(tx, request, effect);
    case 'change person':
      return changeRecord(tx, request, effect, around);
    case 'add person':
      await keepChange(tx, request, effect.change, effect.change.person.joined, around);
      return closeOpenPost(tx, request, effect.change.post, around);
    case 'add post':
      return keepChange(tx, request, effect.change, effect.from, around);
    case 'never came':
      return takeOff(tx, request, around);
    case 'add row':
    case 'change row':
      await changeList(tx, lists, effect);
      await raiseDirectoryVersion(tx);
      return;
    case 'call off': {
      const [out] = await tx.select().from(t.effects).where(eq(t.effects.key, effect.of)).for('update');
      if (!out || !stillOut.some(state => state === out.state)) return;
      await tx.update(t.effects).set({ state: 'given up', doneAt: Date.now() }).where(eq(t.effects.id, out.id));
      // Tried already, it may have been done and its answer lost: whatever is there of it is taken back.
      if (out.state === 'waiting' && (out.attempts > 0 || out.claimedBy !== null))
        await takeBack(tx, out, effect.key, now);
      return;
    }
    case 'undo on':
      // Both what is on its way, which is undone after the day once it is there, and what waits for its day already.
      await tx.update(t.effects).set({ until: effect.on, undoAt: effect.at }).where(eq(t.effects.key, effect.of));
      await tx
        .update(t.effects)
        .set({ notBefore: effect.at })
        .where(and(eq(t.effects.undoes, effect.of), eq(t.effects.state, 'waiting')));
      return endOnDay(tx, effect, now);
    case 'undo never':
      await tx.update(t.effects).set({ until: null, undoAt: null }).where(eq(t.effects.key, effect.of));
      await tx.delete(t.effects).where(and(eq(t.effects.undoes, effect.of), eq(t.effects.state, 'waiting')));
      return;
    case 'again':
      await tx
        .update(t.effects)
        .set({ ...waiting, fault: null })
        .where(and(eq(t.effects.key, effect.of), eq(t.effects.state, 'refused')));
      return;
    case 'undo': {
      const [done] = await tx.select().from(t.effects).where(eq(t.effects.key, effect.of)).for('update');
      if (done?.state !== 'delivered') return;
      return takeBack(tx, done, effect.key, now);
    }
  }
}

/** A record is changed as HR would change it by hand, and with the request as its reason; what is so already stays so. */
async function changeRecord(
  tx: Transaction,
  request: string,
  { person, change, from }: Extract<Inside, { kind: 'change person' }>,
  around: Around,
): Promise<void> {
  await keepChange(tx, request, asHouseChange(person, change, from), from, around);
}

/** Put on a balance as HR would put it there by hand, with the request as its reason. */
async function adjustBalance(
  tx: Transaction,
  request: string,
  { person, type, amount, on, reason }: Extract<Inside, { kind: 'adjust' }>,
  around: Around,
): Promise<void> {
  // What this request has put there before counts: gone through again, it comes to what is said now.
  const { leaveAdjustments: kept } = t;
  const before = await tx
    .select({ amount: kept.amount })
    .from(kept)
    .where(and(eq(kept.person, person), eq(kept.type, type), like(kept.reason, `${reason}%`)));
  const more = Math.round((amount - before.reduce((sum, one) => sum + one.amount, 0)) * 10_000) / 10_000;
  if (more === 0) return;
  const told = before.length === 0 ? reason : `${reason}, changed ${before.length}`;
  const change: HouseChange = { what: 'adjustment', person, type, date: on, amount: more, reason: told };
  const found = editsOf({ ...around.directory, leaveTypes: around.types, adjustments: [] }, change, around.plans);
  if (!found.ok) throw new Error(`a balance was to be adjusted that cannot be: ${found.fault.code}`);
  await keepEdits(tx, request, { from: on, change, edits: found.edits, takesBack: null }, around);
}

/** What is on file for what is changed here: lists too, since whoever is hired may close the row of an open post. */
const fileOf = ({ directory, lists = [] }: Around) => ({ ...directory, lists });

async function keepChange(
  tx: Transaction,
  request: string,
  wanted: HouseChange,
  from: CivilDate,
  around: Around,
): Promise<void> {
  const found = editsOf(fileOf(around), wanted, around.plans);
  if (!found.ok) {
    if (found.fault.code === 'nothing changes') return;
    throw new Error(`a record was to be changed that cannot be: ${found.fault.code}`);
  }
  await keepEdits(tx, request, { from, change: wanted, edits: found.edits, takesBack: null }, around);
}

async function keepEdits(
  tx: Transaction,
  request: string,
  change: Pick<ToKeep, 'from' | 'change' | 'edits' | 'takesBack'>,
  around: Around,
): Promise<void> {
  const index = indexDirectory(around.directory);
  await keepFacts(
    tx,
    { at: around.now, by: null, request, reason: '', keepsAccounts: false, ...change },
    { index, lists: around.lists ?? [], today: latestDay(index, around.now) },
  );
  const now = edited(fileOf(around), change.edits);
  if (!now.ok) return;
  const { lists, ...directory } = now.directory;
  around.directory = directory;
  around.lists = lists;
}

/** A post that somebody will hold is not open any more: its row ends with yesterday. */
async function closeOpenPost(tx: Transaction, request: string, post: string | null, around: Around): Promise<void> {
  const today = latestDay(indexDirectory(around.directory), around.now);
  const list = listById(around.lists ?? [], openPostsList);
  const row =
    post === null ? undefined : list?.rows.find(one => one.cells[postColumn] === post && isPickable(one, today));
  if (!list || !row) return;
  const { id, title, cells, from = null } = row;
  const to = addDays(today, -1);
  const change = { id, title, cells, from: from !== null && from > to ? to : from, to };
  await keepChange(tx, request, { what: 'row', list: list.id, row: change }, today, around);
}

/** Whoever never came is taken off file; where something is theirs by now, their first day was their last. */
async function takeOff(tx: Transaction, request: string, around: Around): Promise<void> {
  const rows = await tx.select().from(t.factChanges).where(eq(t.factChanges.request, request));
  const taken = new Set(rows.map(row => row.takesBack));
  for (const { id, from, change, edits } of rows) {
    if (change?.what !== 'comes' || taken.has(id)) continue;
    const back = reversed(edits);
    const person = edits.find(edit => edit.after?.kind === 'person')?.after;
    if (person?.kind !== 'person') continue;
    if (edited(fileOf(around), back).ok && !(await isTouched(tx, person.id)))
      await keepEdits(tx, request, { from: from as CivilDate, change: null, edits: back, takesBack: id }, around);
    else
      await keepChange(
        tx,
        request,
        { what: 'last day', person: person.id, left: person.joined },
        person.joined,
        around,
      );
  }
}

/** What the house does itself, in the transaction of the command. */
export async function carryOutInside(
  tx: Transaction,
  request: string,
  effects: readonly Inside[],
  { now, lists, index, book }: Pick<Context, 'now' | 'lists' | 'index' | 'book'>,
  version: number,
): Promise<void> {
  const around: Around = {
    now,
    version,
    directory: index.directory,
    plans: book.plans,
    types: book.types,
    lists,
  };
  for (const effect of effects) await carryOut(tx, request, effect, around);
}

/** Letters that were delivered, or are not wanted, are kept for so many days. What was brought about outside stays on file. */
export const dropOldLetters = (db: Database, days: number) =>
  db
    .delete(t.effects)
    .where(
      and(
        eq(t.effects.connection, 'mail'),
        inArray(t.effects.state, ['delivered', 'unwanted', 'given up']),
        lt(t.effects.doneAt, Date.now() - days * 86_400_000),
      ),
    );

/** That a command was given is known for so many days; the events that came of it stay. */
export const dropOldCommands = (db: Database, days: number) =>
  db.delete(t.commands).where(lt(t.commands.at, Date.now() - days * 86_400_000));
