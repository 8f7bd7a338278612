/** Field by field: what a reader sees of a request, and looks at what only named readers may see. */
import { randomUUID } from 'node:crypto';
import type { Look, Looked } from '@north-pebble/contract';
import { type DirectoryIndex, todayFor } from '@north-pebble/core/people';
import { type CivilDate, type Instant, toMilliseconds } from '@north-pebble/core/time';
import { type RequestEvent, type Sight, type Sights, sightsOf } from '@north-pebble/core/workflow';
import { readerOf } from '../../access/index.ts';
import type { Executor } from '../../database/index.ts';
import { ofComments, type StoredFile } from '../../files/index.ts';
import { type House, loadDefinition, subjectOf } from '../../house/index.ts';
import { type Caller, notFound, ProblemError } from '../../http/index.ts';
import { command, isConcerned } from '../commands/commands.ts';
import { loadEvents, loadRequest, type StoredRequest } from '../store.ts';

/** What is open to a caller of a request that they may see. */
export async function sightsFor(
  db: Executor,
  caller: Caller,
  stored: StoredRequest,
  around: { index: DirectoryIndex; day: CivilDate; events: readonly RequestEvent[] },
): Promise<Sights> {
  const definition = await loadDefinition(db, stored.workflow, stored.workflowVersion);
  const given = around.events.flatMap(event => (event.kind === 'given' ? [event] : []));
  return sightsOf(definition, readerOf(caller, { ...stored, given }, around.index, around.day));
}

async function seen(house: House, caller: Caller, id: string) {
  const { db } = house;
  const stored = await loadRequest(db, id);
  if (!stored || !(await isConcerned(house, db, stored, caller))) throw notFound();
  const { index, now } = await house.moment(db);
  const day = todayFor(index, subjectOf(stored), now);
  const events = await loadEvents(db, id);
  return { stored, events, now, sights: await sightsFor(db, caller, stored, { index, day, events }) };
}

const mustSeeField = (sight: Sight | undefined): void => {
  if (sight === 'open' || sight === 'guarded') return;
  if (sight === 'withheld') throw new ProblemError('not allowed', 'Only the people named for this field may read it.');
  throw notFound();
};

/** A look stands on the trail under the name of whoever looks: nobody looks in somebody else's. */
function mustBeThemselves(caller: Caller): void {
  if (caller.seenBy)
    throw new ProblemError(
      'not allowed',
      'You see North Pebble as somebody else, and a look is kept under the name of whoever looks. Stop that first.',
    );
}

/** Opens one answer; a look at what is guarded is an event of the request. */
export async function look(house: House, caller: Caller, id: string, { id: key, field }: Look): Promise<Looked> {
  const { stored, sights } = await seen(house, caller, id);
  const sight = sights.get(field);
  mustSeeField(sight);
  if (sight === 'guarded') mustBeThemselves(caller);
  if (sight === 'guarded') await command(house, caller, id, { id: key, command: { kind: 'look', field } });
  return { answer: stored.state.answers[field] ?? null };
}

/** Opening a document just after its name was shown is the same look. */
const sameLook = 10 * 60_000;

/** A file that no request has named is its owner’s; others are read like the field that they answer. */
export async function mustReadFile(house: House, caller: Caller, file: StoredFile): Promise<void> {
  if (file.request === null || file.field === null) {
    if (file.owner !== caller.id) throw notFound();
    return;
  }
  const { field } = file;
  const { sights, events, now } = await seen(house, caller, file.request);
  // Whoever sees the request reads its comments, and what came with them.
  if (field === ofComments) return;
  const sight = sights.get(field);
  mustSeeField(sight);
  if (sight !== 'guarded') return;
  const isRecent = (at: Instant) => toMilliseconds(now) - toMilliseconds(at) < sameLook;
  const before = events.some(e => e.kind === 'looked' && e.by === caller.id && e.field === field && isRecent(e.at));
  mustBeThemselves(caller);
  if (before) return;
  await command(house, caller, file.request, { id: randomUUID(), command: { kind: 'look', field } });
}
