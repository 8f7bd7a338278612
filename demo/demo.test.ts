import { randomBytes } from 'node:crypto';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { emptyFile, factKey, factsOf } from '@north-pebble/core/facts';
import { matched, moveIn, writtenOut } from '@north-pebble/core/movingIn';
import { indexDirectory, isEmployed, managerOf } from '@north-pebble/core/people';
import { starters } from '@north-pebble/core/starters';
import type { Instant } from '@north-pebble/core/time';
import { aloud, findings, listsOf, planOf, procedure, readWords, stopsPublishing } from '@north-pebble/core/workflow';
import { createSchema, migrateDatabase, openDatabase } from '@north-pebble/server/database';
import {
  demoDay,
  demoNow,
  History,
  id,
  isLoaded,
  isSound,
  leaveTypes,
  lists,
  liveWorkflows,
  loadDemo,
  organisation,
  plans,
} from './index.ts';
import { recount } from './testing/recount.ts';
import { recountCases } from './testing/recountCases.ts';

const directory = organisation();
const index = indexDirectory(directory);
const around = {
  people: { index, days: [demoDay] },
  lists: listsOf({ index, lists }),
  leaveTypes: leaveTypes.map(t => t.id),
  leaveTypeNames: leaveTypes.map(t => t.name),
  workflows: starters.map(one => one.id),
  connections: ['Directory'],
};

describe('the demo organisation', () => {
  test('has its people at their places, each with a name and mail of their own', () => {
    const at = (place: string) => directory.people.filter(p => p.records[0].place === place && p.id !== 'pia').length;
    expect([at('ambrel'), at('ovay'), at('skarn'), at('hollin')]).toEqual([128, 46, 31, 35]);
    expect(new Set(directory.people.map(p => p.id)).size).toBe(directory.people.length);
    expect(new Set(directory.people.map(p => p.mail)).size).toBe(directory.people.length);
    for (const { mail } of directory.people) expect(mail).toMatch(/^[a-z.]+@selkie\.example$/);
  });

  test('has its odd cases', () => {
    expect(directory.people.filter(p => p.left !== null && p.left < demoDay)).toHaveLength(1);
    expect(directory.people.filter(p => p.joined > demoDay).map(p => p.name)).toEqual(['Pia Lindqvist']);
    expect(directory.people.filter(p => p.dottedTo !== null)).toHaveLength(1);
    expect(index.holdingsOfPerson(id('rory-flint'))).toEqual([]);
    expect(directory.covers).toHaveLength(1);
    expect(directory.posts.filter(p => index.holdingsOfPost(p.id).length === 0).map(p => p.title)).toEqual([
      'Watch lead',
    ]);
    expect(directory.holdings.filter(h => !h.main)).toHaveLength(1);
    const depth = (person: string): number => {
      const above = managerOf(index, id(person), demoDay);
      return 'person' in above ? 1 + depth(above.person.id) : 1;
    };
    expect(Math.max(...directory.people.filter(p => isEmployed(p, demoDay)).map(p => depth(p.id)))).toBe(5);
  });

  test('written out and read into an empty house is the same, fact by fact', () => {
    const house = { ...emptyFile, ...directory, lists };
    const rules = { plans, types: leaveTypes };
    const form = { dates: 'year first', decimal: '.' } as const;
    const files = writtenOut({ file: house, ...rules }).map(({ table, headings, rows }) => ({
      table,
      form,
      columns: matched(table, headings),
      rows,
    }));
    const found = moveIn(emptyFile, files, rules, (_, fault) => JSON.stringify(fault));
    expect(found.faults).toEqual([]);
    const keyed = (facts: ReturnType<typeof factsOf>) => new Map(facts.map(fact => [factKey(fact), fact]));
    const read = keyed(found.edits.flatMap(({ after }) => (after ? [after] : [])));
    const there = keyed(factsOf(house));
    expect(read.size).toBe(there.size);
    for (const [key, fact] of there) expect(read.get(key)).toEqual(fact);
  });

  test.each(starters)('the starter $id has no finding in this house', ({ definition }) => {
    // What the house cannot bring about yet is said, and nothing else is.
    const found = findings(definition, around).filter(f => !f.id.startsWith('undelivered'));
    expect(found.map(f => `${f.title}: ${f.detail}`)).toEqual([]);
  });

  test('every post and role that it names is held by somebody on file', () => {
    expect(directory.roles.filter(r => !index.person(r.person))).toEqual([]);
    expect(directory.places.filter(p => p.head && !index.post(p.head))).toEqual([]);
  });

  test('no live workflow would strand anybody', () => {
    for (const { definition } of liveWorkflows) {
      expect(stopsPublishing(findings(definition, around))).toBe(false);
    }
  });
});

describe('its history', () => {
  const history = new History(index);
  beforeAll(() => history.play());

  test('is what the core says: every request folds to its state, nothing lies in the future, two cannot go on', () => {
    expect(history.requests.length).toBeGreaterThan(1000);
    expect(history.requests.every(isSound)).toBe(true);
    for (const { events } of history.requests) {
      expect(events.every((e, i) => e.at <= demoNow && (i === 0 || e.at >= events[i - 1].at))).toBe(true);
    }
    const stuck = history.requests.filter(r => r.state.status === 'stuck');
    // Leave whose days passed before anybody decided it, and somebody without a post.
    expect(stuck.map(r => [r.asker, r.workflow, r.state.stuck?.code])).toEqual([
      ['noor-whin', 'annual-leave', 'days have passed'],
      ['rory-flint', 'compensation-time', 'holds no post'],
    ]);
    expect(stuck[1]?.state.stuck).toEqual({ code: 'holds no post', person: 'rory-flint' });
  });

  test('the letters of the last weeks are those that the core wrote, each once', () => {
    expect(history.letters.length).toBeGreaterThan(100);
    expect(new Set(history.letters.map(({ effect }) => ('key' in effect ? effect.key : ''))).size).toBe(
      history.letters.length,
    );
    expect(history.letters.every(({ at }) => at >= '2026-01-12' && at <= demoNow)).toBe(true);
  });

  test('has the days, the balance and the others away that the facts alone give, in every request', () => {
    const { wrong, checked } = recount(index, history);
    expect(wrong).toEqual([]);
    expect(checked.days).toBeGreaterThan(3000);
    expect(checked.others).toBeGreaterThan(1500);
    expect(checked.balances).toBeGreaterThan(1000);
    expect(checked.sums).toBeGreaterThan(250);
  });

  test('has rework, reminders, passed limits and cover, and a desk with work on it', () => {
    const kinds = new Set(history.requests.flatMap(r => r.events.map(e => e.kind)));
    for (const kind of ['sent back', 'reworked', 'reminded', 'passed limit', 'booked', 'released'] as const) {
      expect(kinds).toContain(kind);
    }
    const given = history.requests.flatMap(r => r.events.flatMap(e => (e.kind === 'given' ? [e] : [])));
    expect(given.some(e => e.coverFor === directory.covers[0].person && e.holder === directory.covers[0].by)).toBe(
      true,
    );
    const waiting = history.requests.filter(r => r.state.tasks.some(t => t.holder === 'tobias'));
    expect(waiting.map(r => r.asker).sort()).toEqual(['ada-dunmore', 'jory-tallack', 'mira-kell', 'per-lauder']);
  });

  test('has something of every live workflow, waiting for others on this morning too', () => {
    const count = (id: string) => history.requests.filter(r => r.workflow === id).length;
    for (const { id: workflow } of liveWorkflows) expect([workflow, count(workflow) >= 3]).toEqual([workflow, true]);
    // What nobody could have asked is refused while it is played; all else was asked as it was meant.
    const others = history.refused.filter(r => !['annual-leave', 'compensation-time'].includes(r.workflow));
    expect(others).toEqual([]);
    const open = history.requests.filter(r => r.state.status === 'open').map(r => r.workflow);
    expect([...new Set(open)].sort()).toEqual([
      'annual-leave',
      'application',
      'console-access',
      'crossing-and-lodging',
      'new-colleague',
      'renewal',
      'sick-leave',
    ]);
    const joining = history.requests.filter(r => r.workflow === 'new-colleague' && r.state.status === 'open');
    const stages = joining.map(({ definition, state, context }) => {
      const found = planOf(definition, state, { ...context, now: demoNow });
      return [state.answers.name, found?.ok ? found.plan.state : found?.reason.code, Boolean(state.alerted)];
    });
    expect(stages).toEqual(
      expect.arrayContaining([
        ['Oda Brekke', 'late', true],
        ['Emrys Vane', 'fine', false],
        ['Sunniva Falk', 'ready', false],
        ['Pia Lindqvist', 'fine', false],
      ]),
    );
    const never = history.requests.find(r => r.state.answers.name === 'Cato Reid');
    expect(never?.state.status).toBe('withdrawn');
  });

  test('says of nothing outside that it is done before it is', () => {
    for (const { events, state } of history.requests) {
      const asked = events.flatMap(e =>
        e.kind === 'provisioned' || (e.kind === 'recorded' && e.key !== undefined && e.undelivered) ? [e] : [],
      );
      expect(asked.every(e => e.undelivered === true)).toBe(true);
      // Each was done some minutes after it was asked for, and what tells of it went out then.
      const done = events.filter(e => e.kind === 'delivered');
      expect(done).toHaveLength(asked.length - state.undelivered.length);
      expect(state.heldBack ?? []).toEqual([]);
    }
  });

  test('is the same every time', () => {
    const states = () => {
      const played = new History(indexDirectory(organisation()));
      played.play('2024-10-15T00:00:00Z' as Instant);
      return played.requests.map(r => r.state);
    };
    const first = states();
    expect(first.length).toBeGreaterThan(50);
    expect(states()).toEqual(first);
  });

  test('loads into an empty database', async () => {
    const db = openDatabase(
      await createSchema(process.env.NP_DATABASE ?? '', `t_${randomBytes(6).toString('hex')}`),
      2,
    );
    await migrateDatabase(db);
    expect(await isLoaded(db)).toBe(false);
    const loaded = await loadDemo(db, history);
    expect(await isLoaded(db)).toBe(true);
    expect(loaded.requests).toBe(history.requests.length);
    const { wrong, compared } = await recountCases(db, history);
    expect(wrong).toEqual([]);
    expect(compared).toBeGreaterThan(80);
    await db.pool.end();
    // Four thousand requests with their events; longer where everything else runs beside it.
  }, 180_000);
});

test('every sentence on a sheet of the demo can be typed as it is shown, with its verb', () => {
  const missed = liveWorkflows.flatMap(({ definition }) =>
    procedure(definition, index, lists)
      .filter(line => line.verb !== 'Ask')
      .flatMap(line => {
        const typed = `${line.verb}: ${aloud(line.sentence)}`;
        const read = readWords(typed, definition, index, { lists });
        return read.ok && read.steps[0].verb === line.verb ? [] : [typed];
      }),
  );
  expect(missed).toEqual([]);
});
