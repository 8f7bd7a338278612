/** What somebody with the database in their hands could want to change unseen, each tried, and what the audit says of it. */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { RequestView } from '@north-pebble/contract';
import { eq, sql } from 'drizzle-orm';
import { guardedText, Keys, openDatabase, sealOf, tables as t } from '../database/index.ts';
import { serve } from '../serve.ts';
import {
  type Browser,
  houseNow,
  type Small,
  settingsFor,
  signedIn,
  smallHouse,
  startSmall,
} from '../testing/serving.ts';
import { anchorAll, audit, readHeads, writeHead } from './index.ts';

let small: Small;
let [ina, tom, kay, dora]: Browser[] = [];
let request: string;
const said = async () => (await audit(small.db)).faults.map(fault => `${fault.request}: ${fault.words}`);
/** Does something past the server, sees what the audit says, and takes it back. */
async function by(hand: string, back: string): Promise<string[]> {
  await small.db.execute(sql.raw(hand));
  const words = await said();
  await small.db.execute(sql.raw(back));
  expect(await said()).toEqual([]);
  return words;
}

beforeAll(async () => {
  small = await startSmall();
  [ina, tom, kay, dora] = await Promise.all(['ina', 'tom', 'kay', 'dora'].map(who => signedIn(small.base, who)));
  request = (await ina.ask('2026-03-09', '2026-03-13')).body.request;
  const { tasks, version } = (await ina.get<RequestView>(`/requests/${request}`)).body;
  const yes = { kind: 'answer', seen: version, task: tasks[0].id, outcome: 'approve', note: null } as const;
  expect((await tom.command(request, yes)).status).toBe(200);
  await anchorAll(small.db);
});
afterAll(() => small.stop());
beforeEach(async () => expect(await said()).toEqual([]));

describe('requests', () => {
  test.each([
    ['title', "title = 'Nothing much'"],
    ['status', "status = 'withdrawn'"],
    ['subject', "subject = 'per'"],
    ['version of the workflow', 'workflow_version = 2'],
  ])('the %s', async (_what, set) => {
    const [row] = await small.db.select().from(t.requests).where(eq(t.requests.id, request));
    await small.db.execute(sql.raw(`update requests set ${set} where id = '${request}'`));
    const words = await said();
    await small.db.update(t.requests).set(row).where(eq(t.requests.id, request));
    expect(words).toEqual([`${request}: its columns are not the ones that were sealed`]);
  });

  test('who asked, and when', async () => {
    const where = `where id = '${request}'`;
    expect(
      await by(`update requests set asker = 'per' ${where}`, `update requests set asker = 'ina' ${where}`),
    ).toContain(`${request}: it says that somebody else asked`);
    expect(
      await by(
        `update requests set asked_at = '2025-01-01T00:00:00Z' ${where}`,
        `update requests set asked_at = '${houseNow}' ${where}`,
      ),
    ).toEqual([`${request}: it says another time at which it was asked for`]);
  });

  test('a request that is removed whole, with a row made up that says it was deleted', async () => {
    const [row] = await small.db.select().from(t.requests).where(eq(t.requests.id, request));
    const events = await small.db.select().from(t.events).where(eq(t.events.request, request));
    const [entry] = await small.db.select().from(t.leaveEntries).where(eq(t.leaveEntries.request, request));
    for (const table of ['events', 'leave_entries', 'tasks'])
      await small.db.execute(sql.raw(`delete from ${table} where request = '${request}'`));
    await small.db.delete(t.requests).where(eq(t.requests.id, request));
    await small.db.insert(t.forgotten).values({
      ...{ request, workflow: row.workflow, version: row.state.version, head: row.head },
      ...{ closedAt: houseNow, at: houseNow },
    });
    expect(await said()).toEqual([`deletion ${request}: it was added by hand`]);
    await small.db.delete(t.forgotten);
    await small.db.insert(t.requests).values(row);
    await small.db.insert(t.events).values(events);
    await small.db.insert(t.leaveEntries).values(entry);
  });

  test('who holds an open one', async () => {
    const open = (await ina.ask('2026-05-04', '2026-05-08')).body.request;
    expect(
      await by(
        `update tasks set holder = 'per' where request = '${open}'`,
        `update tasks set holder = 'tom' where request = '${open}'`,
      ),
    ).toEqual([`${open}: those who hold it are not those whom its events gave it to`]);
  });
});

describe('leave', () => {
  test('that was booked: changed, taken away, or booked by nobody', async () => {
    const [entry] = await small.db.select().from(t.leaveEntries).where(eq(t.leaveEntries.request, request));
    const back = () => small.db.insert(t.leaveEntries).values(entry).onDuplicateKeyUpdate({ set: entry });
    await small.db.update(t.leaveEntries).set({ lastDay: '2026-03-10' }).where(eq(t.leaveEntries.request, request));
    expect(await said()).toEqual([`${request}: the leave that is booked is not what its events come to`]);
    await back();
    await small.db.delete(t.leaveEntries).where(eq(t.leaveEntries.request, request));
    expect(await said()).toEqual([`${request}: leave that was booked is gone`]);
    await back();
    await small.db.insert(t.leaveEntries).values({ ...entry, request: 'X-1' });
    expect(await said()).toEqual(['booking X-1: it was added by hand']);
    await small.db.delete(t.leaveEntries).where(eq(t.leaveEntries.request, 'X-1'));
  });

  test('an adjustment that is made up', async () => {
    const row = "('ina', 'annual', '2026-01-01', 20, 'a gift')";
    expect(
      await by(
        `insert into leave_adjustments (person, type, date, amount, reason) values ${row}`,
        "delete from leave_adjustments where reason = 'a gift'",
      ),
    ).toEqual(['adjustment ina annual 2026-01-01 a gift: it was added by hand']);
  });
});

describe('facts, rules and rights', () => {
  test('a change of facts that is taken away, and a fact that is put back behind it', async () => {
    const change = { what: 'last day', person: 'con', left: '2026-06-30' };
    const preview = await kay.call<{ digest: string }>('POST', '/records/preview', { change });
    const { digest } = preview.body;
    expect((await kay.call('POST', '/records/changes', { change, reason: 'moves', digest })).status).toBe(200);
    expect(await said()).toEqual([]);
    const [kept] = await small.db.select().from(t.factChanges);
    await small.db.delete(t.factChanges).where(eq(t.factChanges.id, kept.id));
    expect(await said()).toEqual([`change of facts ${kept.id}: it was taken away by hand`]);
    await small.db.insert(t.factChanges).values(kept);
    const where = "where id = 'con'";
    expect(
      await by(`update people set left_on = null ${where}`, `update people set left_on = '2026-06-30' ${where}`),
    ).toEqual(['person con: it was changed by hand']);
  });

  test('a published rule, and which version is live', async () => {
    const [version] = await small.db.select().from(t.workflowVersions);
    await small.db
      .update(t.workflowVersions)
      .set({ definition: { ...version.definition, name: 'Another' } })
      .where(eq(t.workflowVersions.workflow, version.workflow));
    expect(await said()).toEqual(['version annual 1: it was changed by hand']);
    await small.db.update(t.workflowVersions).set(version).where(eq(t.workflowVersions.workflow, version.workflow));
    expect(await by('update workflows set live_version = null', 'update workflows set live_version = 1')).toEqual([
      'workflow annual: it was changed by hand',
    ]);
  });

  test('a right that is raised, a role that is given, a password that is put in', async () => {
    expect(
      await by(
        `update accounts set rights = '["administrator"]' where person = 'ina'`,
        "update accounts set rights = '[]' where person = 'ina'",
      ),
    ).toEqual(['account ina: it was changed by hand']);
    const [{ passwordHash }] = await small.db.select().from(t.accounts).where(eq(t.accounts.person, 'dora'));
    expect(
      await by(
        "update accounts set password_hash = 'x' where person = 'dora'",
        `update accounts set password_hash = '${passwordHash}' where person = 'dora'`,
      ),
    ).toEqual(['account dora: it was changed by hand']);
    expect(
      await by(
        "insert into roles (role, person) values ('HR partner', 'ina')",
        "delete from roles where role = 'HR partner' and person = 'ina'",
      ),
    ).toEqual(['role HR partner ina  : it was added by hand']);
  });

  test('looks that are emptied', async () => {
    expect((await dora.call('POST', '/session/as', { person: 'ina', reason: 'She asked me to look.' })).status).toBe(
      204,
    );
    expect((await dora.call('DELETE', '/session/as')).status).toBe(204);
    const rows = await small.db.select().from(t.seenAs);
    await small.db.delete(t.seenAs);
    expect(await said()).toEqual([`look as somebody ${rows[0].id}: it was taken away by hand`]);
    await small.db.insert(t.seenAs).values(rows);
  });
});

describe('the chains themselves', () => {
  test('a line of the ledger that is changed, taken out or added without the key', async () => {
    const [last] = await small.db.select().from(t.ledger).orderBy(sql`n desc`).limit(1);
    await small.db.delete(t.ledger).where(eq(t.ledger.n, last.n));
    expect((await said())[0]).toBe(`ledger: it was cut: ${last.n - 1} of ${last.n} lines`);
    await small.db.insert(t.ledger).values(last);
    await small.db.insert(t.ledger).values({ ...last, n: last.n + 1, row: null });
    expect(await said()).toContain(`ledger: line ${last.n + 1} is not the one that was sealed`);
    await small.db.delete(t.ledger).where(eq(t.ledger.n, last.n + 1));
  });

  test('the whole of a trail made anew by somebody who knows how, with a key of their own', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'np-keys-')), 'keys');
    const theirs = new Keys(file);
    theirs.makeIfMissing();
    const events = await small.db.select().from(t.events).where(eq(t.events.request, request)).orderBy(t.events.seq);
    let seal: string | null = null;
    for (const { seq, body } of events) {
      seal = sealOf(theirs, seal, request, seq, body);
      await small.db.execute(sql`update events set seal = ${seal} where request = ${request} and seq = ${seq}`);
    }
    expect(await said()).toContain(`${request}: the event is sealed with a key that is not in ${small.db.keys.file}`);
    for (const { seq, seal } of events)
      await small.db.execute(sql`update events set seal = ${seal} where request = ${request} and seq = ${seq}`);
  });

  test('a database that is turned back to an earlier day differs from the ends that were written down', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'np-heads-')), 'heads');
    const [head] = await small.db.select().from(t.ledgerHead);
    const [account] = await small.db.select().from(t.accounts).where(eq(t.accounts.person, 'per'));
    await dora.call('PUT', '/accounts/per', { rights: ['auditor', 'designer'] });
    await writeHead(small.db, file, null);
    const heads = await readHeads(file);
    expect(heads).toHaveLength(1);
    expect((await audit(small.db, heads)).faults).toEqual([]);
    // Everything of since is taken away, chains and all: whole in itself.
    const since = await small.db.select().from(t.ledger).where(sql`n > ${head.n}`);
    expect(since).toHaveLength(1);
    await small.db.delete(t.ledger).where(sql`n > ${head.n}`);
    const [newer] = await small.db.select().from(t.ledgerHead);
    await small.db.update(t.ledgerHead).set(head);
    await small.db.update(t.accounts).set(account).where(eq(t.accounts.person, 'per'));
    expect(await said()).toEqual([]);
    expect((await audit(small.db, heads)).faults.map(fault => fault.words)).toEqual([
      `the ledger is not the one whose end was written down at ${heads[0].at}`,
    ]);
    await small.db.insert(t.ledger).values(since);
    await small.db.update(t.ledgerHead).set(newer);
    await small.db
      .update(t.accounts)
      .set({ rights: ['auditor', 'designer'] })
      .where(eq(t.accounts.person, 'per'));
  });
});

describe('the keys', () => {
  const keysIn = (lines: string[]) => {
    const file = join(mkdtempSync(join(tmpdir(), 'np-keys-')), 'keys');
    writeFileSync(file, lines.join('\n'));
    return file;
  };
  const [one, two] = ['1a'.repeat(32), '2b'.repeat(32)];

  test('a house is not started without those that sealed it, and goes on with a new one beside them', async () => {
    const url = await smallHouse();
    const first = keysIn([one]);
    const settings = (file: string) => settingsFor(url, { NP_SEAL_KEYS: file });
    let serving = await serve(settings(first));
    const asked = async () => {
      const browser = await signedIn(`http://127.0.0.1:${serving.port}`, 'ina');
      const day = asked.day.pop() ?? '';
      expect((await browser.ask(day, day)).status).toBe(201);
    };
    asked.day = ['2026-04-07', '2026-04-09'];
    await asked();
    await serving.stop();
    await expect(serve(settings(keysIn([two])))).rejects.toThrow('which is not in');
    serving = await serve(settings(keysIn([two, one])));
    await asked();
    await anchorAll(serving.house.db);
    expect((await audit(serving.house.db)).faults).toEqual([]);
    const made = await serving.house.db.select({ seal: t.events.seal }).from(t.events);
    expect(new Set(made.map(row => row.seal?.slice(0, 8)))).toEqual(new Set([...serving.house.db.keys.ids]));
    await serving.stop();
    // Without the older key what it sealed is named, and the secrets that it hid stay shut.
    const db = openDatabase(url, 2, undefined, new Keys(keysIn([two])));
    expect((await audit(db)).faults.length).toBeGreaterThan(2);
    await db.pool.end();
  });

  test('a file that is missing, or holds something else, is said in words', () => {
    expect(() => new Keys('/nowhere/at/all').seal('x')).toThrow('is not there');
    expect(() => new Keys(keysIn(['not a key'])).seal('x')).toThrow('64 hexadecimal digits');
    expect(() => new Keys('/nowhere/at/all').makeIfMissing()).toThrow('cannot be written');
  });

  test('a secret opens only where it was hidden, and only as it was hidden', () => {
    const keys = new Keys(keysIn([one]));
    const hidden = keys.hide('low tide', 'account ina');
    expect(keys.show(hidden, 'account ina')).toBe('low tide');
    expect(() => keys.show(hidden, 'account per')).toThrow('cannot be read');
    expect(() => keys.show(`${hidden.slice(0, -2)}AA`, 'account ina')).toThrow('cannot be read');
    expect(hidden).not.toContain('low');
  });

  test('no secret stands in the database as it is', async () => {
    const begun = await ina.call<{ secret: string }>('POST', '/factor', { password: 'low-tide' });
    expect(begun.status).toBe(201);
    await dora.call('PUT', '/connections/Dir', {
      kind: 'directory',
      settings: { address: 'http://127.0.0.1:9/scim/v2', token: 'a-token-of-many-letters', inside: true },
      paused: false,
    });
    const signing = await small.serving.house.secret(small.db);
    const [tables] = (await small.db.execute<{ name: string }[]>(
      sql`select table_name as name from information_schema.tables where table_schema = database()`,
    )) as unknown as [{ name: string }[]];
    let all = '';
    for (const { name } of tables) {
      const [rows] = await small.db.execute(sql.raw(`select * from \`${name}\``));
      all += JSON.stringify(rows);
    }
    expect(all).toContain('account');
    for (const secret of [begun.body.secret, 'a-token-of-many-letters', signing, '5e'.repeat(32)])
      expect(all).not.toContain(secret);
    expect(readFileSync(small.db.keys.file, 'utf8')).toContain('5e5e');
  });
});

test('a column that came later leaves the seals of rows without it as they were', () => {
  const row = {
    person: 'ina',
    from: '2020-01-01',
    place: 'ovay',
    department: 'lights',
    pattern: 'office',
    fte: 1,
    plan: null,
  };
  const sealed = 'record\n["ina","2020-01-01","ovay","lights","office",1,null]';
  expect(guardedText('record', row)).toBe(sealed);
  expect(guardedText('record', { ...row, planPer: null })).toBe(sealed);
  expect(guardedText('record', { ...row, planPer: 7.5 })).not.toBe(sealed);
});
