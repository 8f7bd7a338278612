/** What every capability of the server works with: the database, the log, the directory, the clock. */
import { randomBytes } from 'node:crypto';
import type { ReferenceList } from '@north-pebble/core/form';
import type { DirectoryIndex } from '@north-pebble/core/people';
import { type Instant, toInstant } from '@north-pebble/core/time';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Logger } from 'pino';
import { rulesFor } from '../book/index.ts';
import {
  type Database,
  type Executor,
  inOneTrip,
  isHidden,
  type Prepared,
  prepared,
  tables,
} from '../database/index.ts';
import { Papers } from '../papers/index.ts';
import type { Proving } from '../proving/index.ts';
import { Reckoning } from '../reckoning/index.ts';
import { loadDirectory } from './directory.ts';
import { loadLists } from './lists.ts';

export type Moment = {
  index: DirectoryIndex;
  lists: readonly ReferenceList[];
  now: Instant;
  /** Of the directory and the lists; it grows with every change. */
  directoryVersion: number;
};
export type HouseRow = { now: string | null; directoryVersion: number };

export type KeepDays = { readonly letters: number; readonly commands: number; readonly mails: number };
const usualKeepDays: KeepDays = { letters: 365, commands: 90, mails: 365 };

export type House = {
  readonly db: Database;
  readonly log: Logger;
  /** Sign-in cards, the movable clock and the Mailroom are there in the demo only. */
  readonly demo: boolean;
  /** Where people open the application. */
  readonly address: string;
  /** The mail domain of the house: of its reply addresses and of the ids of its mails. */
  readonly domain: string;
  /** For how many days what is over is kept. */
  readonly keepDays: KeepDays;
  /** The directory and the time together, in one look. */
  readonly moment: (executor: Executor) => Promise<Moment>;
  /** The lists that forms let people pick from; kept as long as the directory. */
  readonly lists: (executor: Executor) => Promise<readonly ReferenceList[]>;
  readonly directory: (executor: Executor) => Promise<DirectoryIndex>;
  /** What reply addresses are signed with; made once, the same for every server. */
  readonly secret: (executor: Executor) => Promise<string>;
  /** The house's time: the demo clock where one is set, else the machine's. */
  readonly now: (executor: Executor) => Promise<Instant>;
  /** The moment as it was last seen, to ask with before it is known whether it still stands. */
  readonly lastSeen: () => Moment | null;
  /** Takes over the house's row as it was read beside something else; nothing when the directory has changed since. */
  readonly stillStands: (row: HouseRow) => Moment | null;
  /** The thread on which definitions are proven, and the one on which papers are made. */
  readonly proving: Proving;
  readonly papers: Papers;
  /** The thread on which it is worked out what changes of facts, and files, would bring. */
  readonly reckoning: Reckoning;
  /** When what works in the background last came round, by what it is. */
  readonly beats: Map<string, number>;
  /** Called when something new may be waiting to go out. */
  readonly wake: () => void;
};

export const machineNow = (): Instant => toInstant(Date.now());

const houseStatement = prepared<never>(build =>
  build
    .select({ now: tables.house.now, directoryVersion: tables.house.directoryVersion })
    .from(tables.house)
    .where(eq(tables.house.id, 1)),
);

/** Asks for the house's row, maybe beside something else. */
const houseRow = (): Prepared => houseStatement({});

/** What asking for the house's row gave; before anything is loaded there is none. */
function readHouseRow(found: unknown): HouseRow {
  const [row] = found as { now: string | null; directory_version: number }[];
  return row ? { now: row.now, directoryVersion: row.directory_version } : { now: null, directoryVersion: 0 };
}

type Parts = Pick<House, 'db' | 'log' | 'demo' | 'address' | 'proving' | 'wake'> &
  Partial<Pick<House, 'domain' | 'keepDays' | 'beats' | 'papers' | 'reckoning'>>;

export function openHouse(given: Parts): House {
  const parts = {
    domain: new URL(given.address).hostname,
    keepDays: usualKeepDays,
    beats: new Map<string, number>(),
    papers: new Papers(),
    reckoning: given.reckoning ?? new Reckoning(given.db.url),
    ...given,
  };
  // Kept while its version stands; other servers that change people raise the version in the database.
  let kept: { version: number; index: DirectoryIndex; lists: readonly ReferenceList[] } | null = null;
  let lastNow: Instant | null = null;
  function stillStands({ now, directoryVersion }: HouseRow): Moment | null {
    if (kept?.version !== directoryVersion) return null;
    lastNow = now as Instant | null;
    return { index: kept.index, lists: kept.lists, now: lastNow ?? machineNow(), directoryVersion };
  }
  async function moment(executor: Executor): Promise<Moment> {
    const [found] = await inOneTrip(executor, [houseRow()]);
    const row = readHouseRow(found);
    const known = stillStands(row);
    if (known) return known;
    const [index, lists] = [await loadDirectory(executor), await loadLists(executor)];
    // Whoever asks beside this directory knows at once what is needed where.
    await rulesFor(executor, index);
    kept = { version: row.directoryVersion, index, lists };
    lastNow = row.now as Instant | null;
    return { index, lists, now: lastNow ?? machineNow(), directoryVersion: row.directoryVersion };
  }
  let secretKept: string | null = null;
  async function secret(executor: Executor): Promise<string> {
    if (secretKept) return secretKept;
    await executor
      .update(tables.house)
      .set({ secret: executor.keys.hide(randomBytes(32).toString('hex'), 'the house') })
      .where(and(eq(tables.house.id, 1), isNull(tables.house.secret)));
    // Another server may have been first; what stands there counts.
    const [found] = await executor
      .select({ secret: tables.house.secret })
      .from(tables.house)
      .where(eq(tables.house.id, 1));
    if (!found?.secret) throw new Error('there is no house whose addresses could be signed');
    secretKept = isHidden(found.secret) ? executor.keys.show(found.secret, 'the house') : found.secret;
    return secretKept;
  }
  return {
    ...parts,
    moment,
    stillStands,
    lastSeen: () =>
      kept && {
        index: kept.index,
        lists: kept.lists,
        now: lastNow ?? machineNow(),
        directoryVersion: kept.version,
      },
    lists: async executor => (await moment(executor)).lists,
    directory: async executor => (await moment(executor)).index,
    now: async executor => (await moment(executor)).now,
    secret,
  };
}

/**
 * Asks for the house's moment, and in the same trip for what depends on it. The asking supposes that nothing has changed
 * since the moment before; when it has, what depends on it is asked for again.
 * @param depends what of a moment the statements depend on besides the directory
 */
export async function askInMoment(
  house: House,
  executor: Executor,
  depends: (moment: Moment) => string,
  statements: (moment: Moment) => readonly Prepared[],
): Promise<{ moment: Moment; found: unknown[] }> {
  const guess = house.lastSeen() ?? (await house.moment(executor));
  // The moment comes last: what is locked is waited for.
  const found = await inOneTrip(executor, [...statements(guess), houseRow()]);
  const moment = house.stillStands(readHouseRow(found.pop())) ?? (await house.moment(executor));
  const isRight = moment.index === guess.index && depends(moment) === depends(guess);
  return { moment, found: isRight ? found : await inOneTrip(executor, statements(moment)) };
}

export const raiseDirectoryVersion = (executor: Executor) =>
  executor.update(tables.house).set({ directoryVersion: sql`directory_version + 1` }).where(eq(tables.house.id, 1));

/** What the house is called. */
export const nameOfHouse = async (db: Executor): Promise<string> =>
  (await db.select({ name: tables.house.name }).from(tables.house).where(eq(tables.house.id, 1)))[0]?.name ??
  'North Pebble';
