/** Fills an empty database with the demo. */

import { hash } from '@node-rs/argon2';
import { type Booking, edited, editsOf, type OnFile } from '@north-pebble/core/facts';
import { usualRules } from '@north-pebble/core/papers';
import { indexDirectory, type PersonId } from '@north-pebble/core/people';
import { addDays, type CivilDate, type Instant, toMilliseconds } from '@north-pebble/core/time';
import type { Definition } from '@north-pebble/core/workflow';
import { keepConnection } from '@north-pebble/server/connections';
import { type Database, inTransaction, rowText, type Transaction, tables as t } from '@north-pebble/server/database';
import {
  changeList,
  insertMany,
  keepFacts,
  keepPaper,
  loadDirectory,
  loadEntries,
  storeDirectory,
  storeLists,
} from '@north-pebble/server/house';
import { letterOf } from '@north-pebble/server/papers';
import { eventRows, projectionsOf, waitingRows } from '@north-pebble/server/requests';
import { eq } from 'drizzle-orm';
import { leaveCases } from './cases.ts';
import { groupRules, type Provided } from './directory.ts';
import { demoNow, digestOf, History, isSound, paperBytes } from './history/index.ts';
import { lists } from './lists.ts';
import { demoDay, organisation } from './organisation.ts';
import { leastPresence, leaveTypes, plans } from './patterns.ts';
import { loadReview } from './reviews.ts';
import { summerRound, summerWishes } from './wishRound.ts';
import { liveWorkflows } from './workflows.ts';

export const demoPassword = 'herring-fair';

const cards: [person: string, words: string, rights: ('designer' | 'administrator' | 'auditor')[]][] = [
  ['wren', 'HR operations specialist, designs workflows', ['designer']],
  ['marit', 'HR partner, administrator', ['administrator']],
  ['ines', 'Tide observer, asks', []],
  ['tobias', 'Observatory lead, decides', []],
  ['leif', 'Director', []],
  ['bettina', 'Travel desk', []],
  ['kofi', 'Access steward, Systems', []],
  ['yusra', 'Auditor, reads everything', ['auditor']],
];

export function played(): History {
  const history = new History(indexDirectory(organisation()));
  history.play();
  return history;
}

/** Whether the demo is in the database already. */
export async function isLoaded(db: Database): Promise<boolean> {
  return (await db.select().from(t.house)).length > 0;
}

const requestOf = (key: string): string | null => (/^R-\d+(?=:)/.exec(key) ?? [null])[0];

/** What the directory did when it was asked, as it stands now: there, taken back, or to be taken back. */
function providedRows({ request, at, effect }: History['provided'][number], results: Provided) {
  const done = { attempts: 1, doneAt: toMilliseconds(at), result: results.get(effect.key) ?? {} };
  const isOver = effect.undoAt !== null && effect.undoAt < demoNow;
  return waitingRows(request, [effect], at).flatMap(row => [
    { ...row, ...done, state: isOver ? ('undone' as const) : ('delivered' as const) },
    ...(effect.undoAt && !isOver
      ? [
          {
            ...row,
            key: `${row.key}:undo`,
            undoes: row.key,
            until: null,
            undoAt: null,
            notBefore: effect.undoAt,
          },
        ]
      : []),
  ]);
}

/** Those whom a request put on file, each as it did it. */
async function putOnFile(tx: Transaction, { directory, comes, posts }: History): Promise<void> {
  let file = directory;
  for (const { request, at, effect } of posts) {
    const found = editsOf(file, effect.change, plans);
    const now = found.ok ? edited(file, found.edits) : null;
    if (!found.ok || !now?.ok) throw new Error(`${effect.change.post.title} cannot be put on file`);
    const kept = {
      at,
      by: null,
      request,
      reason: '',
      from: effect.from,
      change: effect.change,
      takesBack: null,
      keepsAccounts: false,
    };
    await keepFacts(tx, { ...kept, edits: found.edits }, { index: indexDirectory(file), lists, today: demoDay });
    file = now.directory;
  }
  for (const { request, at, change } of comes) {
    const found = editsOf(file, change, plans);
    const now = found.ok ? edited(file, found.edits) : null;
    if (!found.ok || !now?.ok) throw new Error(`${change.person.name} cannot be put on file`);
    const kept = {
      at,
      by: null,
      request,
      reason: '',
      from: change.person.joined,
      change,
      takesBack: null,
      keepsAccounts: false,
    };
    await keepFacts(tx, { ...kept, edits: found.edits }, { index: indexDirectory(file), lists, today: demoDay });
    file = now.directory;
  }
}

/** What happened to the leave of some people besides, each as HR made it. */
async function keepCases(tx: Transaction, history: History): Promise<void> {
  const leave = history.requests.flatMap(({ asker, state }) =>
    state.leave ? [{ person: state.subject ?? asker, span: state.leave.span }] : [],
  );
  let file: OnFile = await loadDirectory(tx).then(({ directory }) => directory);
  const beside = { leaveTypes, leavePlans: plans, lists };
  for (const one of leaveCases(file, leave).cases) {
    const change = 'change' in one ? one.change : null;
    const bookings = change?.what === 'shutdown' ? await bookedOn(tx, change.from.date, change.to.date) : [];
    const on = { ...file, ...beside, bookings };
    const found = change ? editsOf(on, change, plans) : { ok: true as const, edits: 'edits' in one ? one.edits : [] };
    if (!found.ok) throw new Error(`a case of the demo cannot be: ${one.reason}, ${found.fault.code}`);
    const index = indexDirectory(file);
    await keepFacts(
      tx,
      {
        ...{ at: one.at as Instant, by: 'wren' as PersonId, request: null, reason: one.reason, from: null },
        ...{ change, edits: found.edits, takesBack: null, keepsAccounts: false },
      },
      { index, lists, today: demoDay },
    );
    const now = edited(on, found.edits);
    if (!now.ok) throw new Error(`a case of the demo does not fit: ${one.reason}`);
    file = now.directory;
  }
}

/** Wishes of a round, given on the days before it closed. */
async function keepWishes(tx: Transaction): Promise<void> {
  const [{ insertId: round }] = await tx
    .insert(t.wishRounds)
    .values({ ...summerRound, by: 'wren' as PersonId, at: '2026-01-12T09:00:00Z' as Instant });
  await tx.insert(t.wishes).values(
    Object.entries(summerWishes).map(([person, spans], n) => ({
      ...{ round, person: person as PersonId, spans: [...spans] },
      at: `2026-01-${14 + 3 * n}T08:30:00Z` as Instant,
    })),
  );
}

/** Leave of anybody in some days, as it stands. */
async function bookedOn(tx: Transaction, from: CivilDate, to: CivilDate): Promise<Booking[]> {
  const entries = await loadEntries(tx, 'everybody', { from, to, known: to });
  return entries.map(({ request, person, type, span }) => ({ id: request, person, type, span }));
}

/** Sets every letter of the history on pages; how large each is stands wherever its file is named. */
async function setPages(history: History): Promise<Map<string, Buffer>> {
  const pages = new Map<string, Buffer>();
  for (const { file, letter } of history.made) pages.set(file.id, Buffer.from(await letterOf(letter)));
  const seen = new WeakSet<object>();
  const put = (value: unknown): void => {
    if (typeof value !== 'object' || value === null || seen.has(value)) return;
    seen.add(value);
    const page = 'id' in value && typeof value.id === 'string' ? pages.get(value.id) : undefined;
    if (page) (value as { size: number }).size = page.length;
    else for (const inner of Object.values(value)) put(inner);
  };
  const requests = new Set(history.made.map(one => one.request));
  for (const { id, events, state } of history.requests) if (requests.has(id)) put([events, state]);
  put([history.made.map(one => one.file), history.letters.map(one => one.effect)]);
  return pages;
}

/** @param history played already, else it is played now */
/** @param results what the directory holds of it, by the keys of effects */
export async function loadDemo(
  db: Database,
  history = played(),
  results: Provided = new Map(),
): Promise<{ people: number; requests: number }> {
  const { directory } = history;
  const unsound = history.requests.filter(request => !isSound(request));
  if (unsound.length > 0) throw new Error(`${unsound.length} requests of the history do not fold to their state`);
  const passwordHash = await hash(demoPassword);
  const pages = await setPages(history);
  const projections = history.requests.map(request => ({
    request,
    rows: projectionsOf(request.definition, { ...request, effects: [] }, request.context),
    events: eventRows(db.keys, request.id, { version: 0, head: null }, request.events),
  }));
  await inTransaction(db, async tx => {
    await storeDirectory(tx, directory);
    await storeLists(tx, lists);
    await insertMany(
      tx,
      t.leaveTypes,
      leaveTypes.map((rules, position) => ({ id: rules.id, position, rules })),
    );
    await insertMany(tx, t.leavePlans, plans);
    await insertMany(tx, t.leastPresence, leastPresence);
    await insertMany(tx, t.leaveAdjustments, history.adjustments);
    await insertMany(
      tx,
      t.accounts,
      directory.people.map(person => {
        const card = cards.findIndex(([who]) => who === person.id);
        return {
          person: person.id,
          passwordHash,
          rights: card >= 0 ? cards[card][2] : [],
          card: card >= 0 ? card : null,
          cardWords: card >= 0 ? cards[card][1] : null,
        };
      }),
    );
    await insertMany(
      tx,
      t.workflows,
      liveWorkflows.map(({ id, before }, position) => ({
        id,
        position,
        liveVersion: before ? 2 : 1,
        draft: null,
        draftRevision: 0,
      })),
    );
    await insertMany(
      tx,
      t.workflowVersions,
      liveWorkflows.flatMap(({ id, definition, before }) => {
        const version = (n: number, of: Definition, publishedAt: string, comment: string) => ({
          workflow: id,
          version: n,
          definition: of,
          publishedAt,
          publishedBy: 'wren',
          comment,
        });
        const first = version(1, before?.definition ?? definition, '2024-07-01T09:00:00Z', 'First version.');
        return before
          ? [first, version(2, definition, `${before.until}T00:00:00Z`, 'Legs and beds as rows, with an itinerary.')]
          : [first];
      }),
    );
    await insertMany(
      tx,
      t.requests,
      projections.map(({ request, rows, events }) => {
        const { id, number, workflow, version: workflowVersion, asker, askedAt, state } = request;
        const sealed = { ...rows.request, id, workflow, workflowVersion, head: events.at(-1)?.seal ?? null };
        const outside = state.outside?.mail ?? null;
        return { ...sealed, rowSeal: db.keys.seal(rowText(sealed)), number, asker, outside, askedAt };
      }),
    );
    await insertMany(
      tx,
      t.events,
      projections.flatMap(({ events }) => events),
    );
    await insertMany(
      tx,
      t.tasks,
      projections.flatMap(({ rows }) => rows.given),
    );
    await insertMany(
      tx,
      t.leaveEntries,
      projections.flatMap(({ rows }) => (rows.leave ? [rows.leave] : [])),
    );
    await insertMany(
      tx,
      t.alerts,
      history.requests.flatMap(({ id, state }) =>
        (state.alerted?.people ?? []).map(person => ({ request: id, person })),
      ),
    );
    const timers = history.requests.flatMap(r => history.timersAhead(r).map(timer => ({ timer, request: r.id })));
    await insertMany(
      tx,
      t.timers,
      timers.map(({ timer: { key, task, what, at }, request }) => ({ key, request, task, what, at })),
    );
    await insertMany(
      tx,
      t.effects,
      history.letters.flatMap(({ at, effect }) =>
        waitingRows('key' in effect ? requestOf(effect.key) : null, [effect], at),
      ),
    );
    await insertMany(
      tx,
      t.effects,
      history.provided.flatMap(one => providedRows(one, results)),
    );
    await insertMany(
      tx,
      t.plannerLines,
      history.lines.map(({ request, effect: { key, step, person, from, to, label } }) => ({
        key,
        request,
        step,
        person,
        firstDay: from,
        lastDay: to,
        label,
      })),
    );
    const marks = 'mark,experience,screened,interview-day,from';
    const list = (name: string, step: string, shown: string) => ({
      owner: 'marit',
      name,
      query: `whose=held&workflow=application&step=${step}&columns=what,asker,asked&shown=${shown}`,
      shared: false,
      role: 'HR partner',
    });
    await tx
      .insert(t.savedSets)
      .values([
        list('New applications', 'screen', 'open-post,experience,from'),
        list('Wait for a talk', 'interview', `open-post,${marks}`),
      ]);
    // Known beforehand, so that it can be tried by its address.
    await tx.insert(t.publicForms).values({
      workflow: 'application',
      token: 'applications-at-selkie-sound'.padEnd(43, '0'),
      taken: history.requests.filter(request => request.state.outside).length,
      at: '2025-11-03T09:00:00Z',
      by: 'wren',
    });
    for (const effect of history.rows) await changeList(tx, lists, effect);
    await putOnFile(tx, history);
    await keepCases(tx, history);
    await keepWishes(tx);
    for (const { request, effect } of history.kept) await keepPaper(tx, request, effect);
    for (const [key, renewal] of history.renewals)
      await tx.update(t.papers).set({ renewal }).where(eq(t.papers.key, key));
    await insertMany(
      tx,
      t.paperNumbers,
      [...history.numbers].map(([file, number]) => ({ file, number })),
    );
    await insertMany(
      tx,
      t.paperRules,
      ['Identity card', 'Permit to work'].map(kind => ({ kind, rules: { ...usualRules(kind), workflow: 'renewal' } })),
    );
    await insertMany(
      tx,
      t.files,
      history.files.map(({ file, at, ...where }) => ({
        ...where,
        ...file,
        digest: digestOf(paperBytes(file.name)),
        whole: true,
        at: toMilliseconds(at),
      })),
    );
    await insertMany(
      tx,
      t.filePieces,
      history.files.map(({ file }) => ({ file: file.id, seq: 0, bytes: paperBytes(file.name) })),
    );
    await insertMany(
      tx,
      t.files,
      history.made.map(({ file, at, request, field }) => ({
        request,
        field,
        owner: `letter:${request}`,
        ...file,
        digest: digestOf(pages.get(file.id) as Buffer),
        whole: true,
        at: toMilliseconds(at),
      })),
    );
    await insertMany(
      tx,
      t.filePieces,
      history.made.map(({ file }) => ({ file: file.id, seq: 0, bytes: pages.get(file.id) as Buffer })),
    );
    await loadReview(tx, history);
    await failingConnection(tx);
    await tx.insert(t.house).values({
      id: 1,
      now: demoNow,
      directoryVersion: 1,
      name: 'Selkie Sound Lights',
      colleaguesRead: ['manager', 'mail'],
    });
  });
  return { people: directory.people.length, requests: history.requests.length };
}

/** A connection that has not answered since Friday: what was asked of it waits, and the page says why. */
async function failingConnection(tx: Transaction): Promise<void> {
  const settings = { address: 'http://127.0.0.1:9/keys', secret: 'a secret of the demo', inside: true };
  await tx.insert(t.connections).values({ name: 'Key cabinet', kind: 'http', settings, paused: false });
  await tx.insert(t.effects).values({
    key: 'demo:key cabinet',
    connection: 'Key cabinet',
    action: 'call',
    target: 'key cabinet',
    payload: { values: { key: 'Lamp room', person: 'bahram-rackham' } } as never,
    state: 'waiting',
    attempts: 9,
    nextTry: Date.now() + 12 * 3_600_000,
    fault: 'connect ECONNREFUSED 127.0.0.1:9',
    writtenAt: `${addDays(demoDay, -3)}T15:20:00Z`,
  });
}

/** The connection that the demo's workflows ask for accounts, groups and spaces. */
export async function connectDirectory(db: Database, address: string, token: string): Promise<void> {
  const settings = { address, token, inside: true, groups: groupRules };
  await keepConnection(db, { name: 'Directory', kind: 'directory', settings, paused: false });
}
