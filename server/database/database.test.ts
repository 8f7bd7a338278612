import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { eq, sql } from 'drizzle-orm';
import { smallHouse } from '../testing/serving.ts';
import {
  change,
  type Database,
  finish,
  inBatches,
  inOneTrip,
  insertion,
  inTransaction,
  isDatabaseAway,
  isDuplicate,
  isTooBusy,
  openDatabase,
  outside,
  prepared,
  reader,
  tables as t,
} from './index.ts';

let db: Database;
/** Somebody else at the same database. */
let other: Database;
beforeAll(async () => {
  const url = await smallHouse();
  db = openDatabase(url, 2);
  other = openDatabase(url, 1);
});
afterAll(async () => {
  await db.pool.end();
  await other.pool.end();
});

const draftOf = prepared<'person'>((build, slot) =>
  build
    .select()
    .from(t.requestDrafts)
    .where(eq(t.requestDrafts.person, slot('person'))),
);
const drafts = insertion(t.requestDrafts, 'replacing');
const read = reader(t.requestDrafts);
const draft = (person: string, note: string) => ({
  person,
  workflow: 'annual',
  answers: { note },
  savedAt: '2026-02-02T10:00:00Z',
});
const noteOf = async (person: string): Promise<unknown> => {
  const [rows] = await inOneTrip(db, [draftOf({ person })]);
  const [row] = rows as Record<string, unknown>[];
  return row && read(row).answers.note;
};

describe('ready-made statements', () => {
  test.each([
    ['quotes and slashes', `O'Brien \\ "x"; drop table events; -- ?`],
    ['a question mark', 'Who? When? ???'],
    ['other scripts', 'Łukasz 東京 👩‍🔬'],
    ['nothing', ''],
  ])('give back what was written: %s', async (_, note) => {
    await inOneTrip(db, [drafts([draft('ines', note)])]);
    expect(await noteOf('ines')).toBe(note);
  });

  test('a row whose key is there takes the new values, or is refused', async () => {
    await inOneTrip(db, [drafts([draft('tobias', 'one'), draft('noor', 'two')])]);
    await inOneTrip(db, [drafts([draft('tobias', 'three')])]);
    expect([await noteOf('tobias'), await noteOf('noor')]).toEqual(['three', 'two']);
    const again = inOneTrip(db, [insertion(t.requestDrafts)([draft('tobias', 'four')])]);
    await expect(again.catch(isDuplicate)).resolves.toBe(true);
    expect(await noteOf('tobias')).toBe('three');
  });

  test('a change touches the columns it names and the row it is for', async () => {
    await inOneTrip(db, [drafts([draft('ines', 'before'), draft('noor', 'before')])]);
    const set = change(t.requestDrafts, ['answers'], 'person');
    await inOneTrip(db, [set('ines', { answers: { note: 'after' } })]);
    expect([await noteOf('ines'), await noteOf('noor')]).toEqual(['after', 'before']);
  });

  test('what has no value takes the default of its column', async () => {
    const mail = { key: 'k', payload: { to: 'ines', subject: 's', body: 'b' }, state: 'waiting' as const };
    await inOneTrip(db, [
      insertion(t.effects)([{ ...mail, attempts: 0, nextTry: 0, writtenAt: '2026-02-02T10:00:00Z' }]),
    ]);
    const [row] = await db.select().from(t.effects).where(eq(t.effects.key, 'k'));
    expect(row).toMatchObject({ daily: false, notBefore: null, payload: { body: 'b' } });
    expect(row.id).toBeGreaterThan(0);
  });

  test('a list stands where several values may', async () => {
    await inOneTrip(db, [drafts([draft('ines', 'a'), draft('noor', 'b'), draft('tobias', 'c')])]);
    const among = prepared<'people'>((build, slot) =>
      build
        .select({ person: t.requestDrafts.person })
        .from(t.requestDrafts)
        .where(sql`${t.requestDrafts.person} in (${slot('people')})`),
    );
    const [one, two] = await inOneTrip(db, [among({ people: ['noor'] }), among({ people: ['ines', 'tobias', "x'"] })]);
    expect((one as { person: string }[]).map(row => row.person)).toEqual(['noor']);
    expect((two as { person: string }[]).map(row => row.person).sort()).toEqual(['ines', 'tobias']);
  });
});

describe('a transaction', () => {
  test('keeps nothing when its work fails, whatever it was asked with', async () => {
    await inOneTrip(db, [drafts([draft('ines', 'before')])]);
    const failing = inTransaction(db, async tx => {
      await inOneTrip(tx, [drafts([draft('ines', 'ready-made')])]);
      await tx.update(t.requestDrafts).set({ answers: { note: 'built' } });
      throw new Error('on purpose');
    });
    await expect(failing).rejects.toThrow('on purpose');
    expect(await noteOf('ines')).toBe('before');
  });

  test('that ends with its last statements keeps them, and takes no more', async () => {
    const late = inTransaction(db, async tx => {
      await finish(tx, [drafts([draft('ines', 'kept')])]);
      await tx.select().from(t.house);
    });
    await expect(late).rejects.toThrow();
    expect(await noteOf('ines')).toBe('kept');
  });

  test('whose last statements fail keeps none of them, and its connection goes on', async () => {
    await inOneTrip(db, [drafts([draft('ines', 'before')])]);
    for (let n = 0; n < 4; n++) {
      const failing = inTransaction(db, tx =>
        finish(tx, [drafts([draft('ines', 'half')]), sql`insert into nowhere values (1)`]),
      );
      await expect(failing).rejects.toThrow('nowhere');
    }
    expect(await noteOf('ines')).toBe('before');
  });

  test('that asks through the builder first begins with that', async () => {
    const seen = await inTransaction(db, async tx => {
      const [row] = await tx.select({ now: t.house.now }).from(t.house);
      await tx
        .insert(t.requestDrafts)
        .values(draft('pim', 'x'))
        .onDuplicateKeyUpdate({ set: draft('pim', 'x') });
      const [outside] = await other.select().from(t.requestDrafts).where(eq(t.requestDrafts.person, 'pim'));
      return { row, outside };
    });
    expect(seen.row.now).toBe('2026-02-02T10:00:00Z');
    // Nobody else sees it before it is done.
    expect(seen.outside).toBeUndefined();
    expect(await noteOf('pim')).toBe('x');
  });
});

describe('asking for many at once', () => {
  test('those who ask while an answer is under way go together into the next question', async () => {
    const asked: string[][] = [];
    const lengthOf = inBatches(async keys => {
      asked.push(keys);
      await new Promise(setImmediate);
      return new Map(keys.filter(key => key !== 'gone').map(key => [key, key.length]));
    });
    const found = await Promise.all(['a', 'bb', 'gone', 'bb', 'ccc'].map(lengthOf));
    expect(found).toEqual([1, 2, undefined, 2, 3]);
    expect(asked).toEqual([['a'], ['bb', 'gone', 'ccc']]);
    await lengthOf('a');
    expect(asked).toHaveLength(3);
  });

  test('a fault is told to those who asked, and the next are asked for again', async () => {
    let isAway = true;
    const oneOf = inBatches(async keys => {
      if (isAway) throw new Error('away');
      return new Map(keys.map(key => [key, 1]));
    });
    const faults = await Promise.allSettled([oneOf('a'), oneOf('b')]);
    expect(faults.map(f => f.status)).toEqual(['rejected', 'rejected']);
    isAway = false;
    expect(await oneOf('a')).toBe(1);
  });
});

describe('connections', () => {
  test('work inside a transaction asks on its own connection only', async () => {
    const second = inTransaction(db, async () => db.select().from(t.house));
    await expect(second).rejects.toMatchObject({ cause: { message: expect.stringContaining('another connection') } });
    await expect(inTransaction(db, () => inTransaction(db, async () => 1))).rejects.toThrow('another connection');
    await expect(inTransaction(db, () => inOneTrip(db, [draftOf({ person: 'ines' })]))).rejects.toThrow(
      'another connection',
    );
    // What goes on by itself is no part of it, wherever it was begun.
    const begun = await inTransaction(db, async () => [outside(async () => db.select().from(t.house))]);
    await expect(begun[0]).resolves.toHaveLength(1);
    // And gives it back, whatever became of it.
    for (let i = 0; i < 5; i++) await db.select().from(t.house);
  });

  test('waiting for one has an end, and is told from other faults', async () => {
    const narrow = openDatabase(await smallHouse(), 1, 50);
    // Opening the only connection may itself take longer than anybody waits for one.
    for (let isOpen = false; !isOpen; )
      isOpen = await narrow
        .select()
        .from(t.house)
        .then(() => true)
        .catch(fault => {
          if (!isDatabaseAway(fault)) throw fault;
          return false;
        });
    let letGo = () => {};
    let hasBegun = () => {};
    const begun = new Promise<void>(done => {
      hasBegun = done;
    });
    const held = inTransaction(narrow, async tx => {
      await tx.select().from(t.house);
      await new Promise<void>(done => {
        letGo = done;
        hasBegun();
      });
    });
    await begun;
    const fault = await narrow
      .select()
      .from(t.house)
      .catch((failed: unknown) => failed);
    // It is there, and is said to have much to do, not to be away.
    expect([isTooBusy(fault), isDatabaseAway(fault)]).toEqual([true, false]);
    letGo();
    await held;
    expect(await narrow.select().from(t.house)).toHaveLength(1);
    await narrow.pool.end();
  });

  test('quote by our own mode where the server has another', async () => {
    const url = await smallHouse();
    const before = openDatabase(url, 1);
    // A server that takes a slash for a letter: what the driver escapes would end the text there.
    await before.execute(sql`set global sql_mode = 'NO_BACKSLASH_ESCAPES'`);
    await before.pool.end();
    const after = openDatabase(url, 1);
    try {
      const note = `\\'); update accounts set rights = '["administrator"]'; -- `;
      await inOneTrip(after, [drafts([draft('ines', note)])]);
      const [rows] = await inOneTrip(after, [draftOf({ person: 'ines' })]);
      expect(read((rows as Record<string, unknown>[])[0]).answers.note).toBe(note);
      const rights = (await after.select().from(t.accounts)).map(account => account.rights);
      expect(rights.filter(held => held.includes('administrator'))).toHaveLength(1);
    } finally {
      await after.execute(sql`set global sql_mode = default`);
      await after.pool.end();
    }
  });
});
