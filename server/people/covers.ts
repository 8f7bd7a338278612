/** Cover: who stands in for whom, set by people themselves, or by HR operations for somebody who is ill. */
import { randomUUID } from 'node:crypto';
import type { CoverRow, CoversView, FoundPeople, SetCover } from '@north-pebble/contract';
import { awayOf } from '@north-pebble/core/leave';
import {
  type Cover,
  type DirectoryIndex,
  isEmployed,
  nameLetters,
  type PersonId,
  plainLetters,
  todayFor,
  worksAt,
} from '@north-pebble/core/people';
import { addDays, type CivilDate, rangeWords, yearOf } from '@north-pebble/core/time';
import { nameOf } from '@north-pebble/core/workflow';
import { and, asc, eq, isNotNull, isNull } from 'drizzle-orm';
import { maySeeBalance, maySetCoverFor, maySetCoverForSome, mustSetCoverFor } from '../access/index.ts';
import { inLedger, inTransaction, tables as t, waiting } from '../database/index.ts';
import { type House, loadDefinition, loadEntries, raiseDirectoryVersion } from '../house/index.ts';
import { type Caller, notFound, refusedField } from '../http/index.ts';

/** How far ahead leave without cover is pointed out. */
const daysAhead = 120;

async function liveWorkflows(house: House) {
  const rows = await house.db
    .select({ id: t.workflows.id, version: t.workflows.liveVersion })
    .from(t.workflows)
    .where(and(isNotNull(t.workflows.liveVersion), isNull(t.workflows.archivedAt)))
    .orderBy(asc(t.workflows.position));
  return Promise.all(
    rows.map(async ({ id, version }) => ({ id, name: (await loadDefinition(house.db, id, version ?? 0)).name })),
  );
}

const overlaps = (a: { from: string; to: string }, b: { from: string; to: string }) => a.from <= b.to && b.from <= a.to;

export async function coversView(house: House, caller: Caller, person: PersonId): Promise<CoversView> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, person, now);
  if (!maySetCoverFor(caller, person, index, today) || !index.person(person)) throw notFound();
  const workflows = await liveWorkflows(house);
  const rowOf = (c: Cover): CoverRow => ({
    person: c.person,
    personName: nameOf(index, c.person),
    by: c.by,
    byName: nameOf(index, c.by),
    from: c.from,
    to: c.to,
    workflows: c.workflows ? c.workflows.map(id => workflows.find(w => w.id === id)?.name ?? id) : null,
    setByName: c.setBy ? nameOf(index, c.setBy) : null,
  });
  const current = index.directory.covers.filter(c => c.to >= today);
  const mine = current.filter(c => c.person === person);
  const entries = await loadEntries(house.db, [person], { from: today, to: addDays(today, daysAhead), known: today });
  return {
    person,
    personName: nameOf(index, person),
    mine: mine.map(rowOf),
    others: current.filter(c => c.by === person).map(rowOf),
    suggested: awayOf(entries)
      .filter(away => !mine.some(c => overlaps(c, away)))
      .map(away => (away.from < today ? { ...away, from: today } : away))
      .map(({ from, to }) => ({ from, to })),
    workflows,
    forOthers: caller.id !== person || maySetCoverForSome(caller, index, today),
  };
}

/** Why somebody cannot stand in; nothing when they can. */
function barred(index: DirectoryIndex, person: PersonId, input: SetCover, today: CivilDate): [string, string] | null {
  const by = index.person(input.by);
  if (input.by === person) return ['by', 'Nobody stands in for themselves.'];
  if (!by || !isEmployed(by, input.from) || !isEmployed(by, input.to)) {
    return ['by', `${by?.name ?? 'Nobody of that name'} does not work here in that time.`];
  }
  if (input.to < today) return ['to', 'That time is past.'];
  const other = index.directory.covers.find(
    c => c.person === person && overlaps(c, input) && !(c.from === input.from && c.by === input.by),
  );
  if (other) return ['from', `${nameOf(index, other.by)} stands in from ${other.from} to ${other.to} already.`];
  return null;
}

export async function setCover(house: House, caller: Caller, input: SetCover): Promise<void> {
  const person = input.person ?? caller.id;
  const { index, now } = await house.moment(house.db);
  mustSetCoverFor(caller, person, index, todayFor(index, person, now));
  if (!index.person(person)) throw notFound();
  const wrong = barred(index, person, input, todayFor(index, person, now));
  if (wrong) throw refusedField(...wrong);
  const known = await liveWorkflows(house);
  if (input.workflows?.some(id => !known.some(w => w.id === id))) {
    throw refusedField('workflows', 'There is no such workflow.');
  }
  const row = {
    by: input.by,
    to: input.to,
    workflows: input.workflows ?? null,
    setBy: person === caller.id ? null : caller.id,
  };
  await inTransaction(house.db, async tx => {
    await tx
      .insert(t.covers)
      .values({ person, from: input.from, ...row })
      .onDuplicateKeyUpdate({ set: row });
    await inLedger(tx, { what: 'cover', keys: [{ person, from: input.from }] });
    await raiseDirectoryVersion(tx);
    if (input.by !== caller.id) {
      const year = yearOf(now);
      const days = rangeWords(input.from, input.to, year);
      const names = input.workflows?.map(id => known.find(w => w.id === id)?.name ?? id).join(', ');
      await tx.insert(t.effects).values({
        key: `cover:${randomUUID()}`,
        payload: {
          to: input.by,
          subject: `You stand in for ${nameOf(index, person)}, ${days}`,
          body: `What comes to ${nameOf(index, person)} comes to your desk ${days}${names ? `, for ${names}` : ''}. ${
            caller.id === person ? 'They have' : `${nameOf(index, caller.id)} has`
          } asked you to stand in.`,
        },
        ...waiting,
        writtenAt: now,
      });
    }
  });
  house.wake();
}

export async function endCover(house: House, caller: Caller, person: PersonId, from: string): Promise<void> {
  const { index, now } = await house.moment(house.db);
  mustSetCoverFor(caller, person, index, todayFor(index, person, now));
  await inTransaction(house.db, async tx => {
    await tx.delete(t.covers).where(and(eq(t.covers.person, person), eq(t.covers.from, from)));
    await inLedger(tx, { what: 'cover', keys: [{ person, from }] });
    await raiseDirectoryVersion(tx);
  });
}

const mostFound = 20;

/** People who work here, by any part of their name, and the roles that somebody holds. */
export async function findPeople(house: House, caller: Caller, words: string): Promise<FoundPeople> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const parts = plainLetters(words).split(/\s+/).filter(Boolean);
  const people = index.directory.people
    .filter(p => worksAt(index, p, now) && parts.every(part => nameLetters(p).includes(part)))
    .slice(0, mostFound)
    .map(p => {
      const holding = index.directory.holdings.find(h => h.person === p.id && h.main && (!h.to || h.to >= today));
      const post = holding && index.directory.posts.find(x => x.id === holding.post);
      // Posts of one title are told apart by where they are.
      const same = post && index.directory.posts.some(x => x !== post && x.title === post.title);
      const where = same ? [index.department(post.department)?.name, index.place(post.place)?.name] : [];
      return {
        id: p.id,
        name: p.name,
        what: [post?.title, ...where].filter(Boolean).join(', '),
        balance: maySeeBalance(caller, p.id, index, today),
      };
    });
  const roles = [...new Set(index.directory.roles.map(r => r.role))].filter(role =>
    parts.every(part => plainLetters(role).includes(part)),
  );
  return { people, roles };
}
