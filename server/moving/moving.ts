/** Moving in by files: looked at first, then taken over all at once or not at all. */
import type { GivenFile, MovedIn, MoveInput, MovingPreview } from '@north-pebble/contract';
import { may } from '@north-pebble/contract';
import { touched } from '@north-pebble/core/consequences';
import { edited, factOfEdit } from '@north-pebble/core/facts';
import { indexDirectory } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { inTransaction, tables as t } from '../database/index.ts';
import { besideOf, type House, keepFacts, type Moment, rulesFor } from '../house/index.ts';
import { type Caller, ProblemError } from '../http/index.ts';
import type { FilesRead } from '../reckoning/index.ts';
import { aroundOf, countedAhead, editWords } from '../records/index.ts';
import { beginsOn, withoutOpening } from './begins.ts';
import { leaveOnFile } from './files.ts';

const mostFacts = 80_000;
const mostSaid = 60;

/** @throws ProblemError where the files are more than can be looked at in one go */
async function read(house: House, moment: Moment, files: readonly GivenFile[]): Promise<FilesRead> {
  const lines = files.reduce((sum, file) => sum + file.rows.length, 0);
  if (lines > mostFacts)
    throw new ProblemError('bad input', `These are ${lines} lines. Move in with at most ${mostFacts} at a time.`);
  const { adjustments, bookings, decidedHere } = await leaveOnFile(house.db);
  const rules = await rulesFor(house.db, moment.index);
  const { plans, types } = rules;
  const found = await house.reckoning.files(moment.index, {
    given: files,
    beside: { ...besideOf(moment.lists, rules), adjustments, bookings },
    rules: { plans, types, decidedHere: [...decidedHere] },
  });
  return found;
}

export async function previewFiles(house: House, files: readonly GivenFile[]): Promise<MovingPreview> {
  const moment = await house.moment(house.db);
  const found = await read(house, moment, files);
  const { plans } = await rulesFor(house.db, moment.index);
  const shown = found.edits.slice(0, mostSaid);
  const index = afterwards(moment, found).after;
  const begins = (await beginsOn(house.db)) ?? (moment.now.slice(0, 10) as CivilDate);
  const missing = withoutOpening(found.edits, index, begins);
  return {
    digest: found.digest,
    counts: found.counts,
    faults: found.faults,
    moreFaults: found.more,
    says: shown.flatMap(edit => editWords({ index, plans }, edit)),
    moreSays: Math.max(0, found.edits.length - mostSaid),
    noOpening: missing.slice(0, mostSaid),
    moreNoOpening: Math.max(0, missing.length - mostSaid),
  };
}
/** The directory as the files leave it; what they put on balances and book is no part of it. */
function afterwards({ index, lists }: Moment, found: FilesRead) {
  const edits = found.edits.filter(edit => !['adjustment', 'booking'].includes(factOfEdit(edit).kind));
  const now = edited({ ...index.directory, lists }, edits);
  if (!now.ok) throw new Error(`edits of files do not fit the directory: ${now.stale}`);
  return { edits, after: indexDirectory(now.directory) };
}

export async function takeOver(house: House, caller: Caller, { files, digest }: MoveInput): Promise<MovedIn> {
  const moment = await house.moment(house.db);
  const found = await read(house, moment, files);
  if (found.faults.length > 0) throw new ProblemError('refused', 'There are lines that cannot be taken over.');
  if (found.digest !== digest)
    throw new ProblemError('stale', 'Somebody changed something meanwhile. Look at what the files bring as it is now.');
  // What was looked at already is there: taken over again without harm.
  if (found.edits.length === 0) return { id: null, facts: 0 };
  await mustNotKeepThemselves(house, caller, found);
  const { after, edits } = afterwards(moment, found);
  const rules = await rulesFor(house.db, moment.index);
  const leave = await countedAhead(house, { moment, edits, after, rules, digest }, null);
  const moved = await inTransaction(house.db, async tx => {
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    const now = await house.moment(tx);
    if (now.directoryVersion !== moment.directoryVersion)
      throw new ProblemError(
        'stale',
        'Somebody changed something meanwhile. Look at what the files bring as it is now.',
      );
    const id = await keepFacts(
      tx,
      {
        at: now.now,
        by: caller.id,
        request: null,
        reason: 'Moved in by files.',
        from: null,
        change: null,
        edits: found.edits,
        takesBack: null,
        keepsAccounts: may(caller, 'keep accounts'),
      },
      { ...aroundOf(now), ...(leave ? { leave } : {}) },
    );
    return { id, facts: found.edits.length };
  });
  house.wake();
  return moved;
}

/** Nobody keeps their own record, but whoever is alone in keeping any. */
async function mustNotKeepThemselves(house: House, caller: Caller, { edits }: FilesRead): Promise<void> {
  if (!touched(edits).includes(caller.id)) return;
  const accounts = await house.db.select().from(t.accounts);
  const others = accounts.filter(one => one.person !== caller.id && !one.closed && may(one, 'keep records'));
  if (others.length > 0)
    throw new ProblemError(
      'not allowed',
      'The files change your own record. It is kept by somebody else: leave your lines out, or ask them to move in.',
    );
}
