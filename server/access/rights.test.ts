/** Each rule of who may see and do what, at its edge, for people who stand unlike to what it is about. */
import { describe, expect, test } from '@jest/globals';
import type { Permissions } from '@north-pebble/contract';
import { date, directory, person, index as plain, withDirectory } from '../../core/testing/house.ts';
import type { Caller } from '../http/index.ts';
import {
  colleagueReader,
  mayKeepLeave,
  mayPlan,
  mayPlanForSome,
  maySeeBalance,
  maySeePaper,
  maySeeRequest,
  maySetCoverFor,
  maySetCoverForSome,
  mustBeDemo,
  mustCommand,
  mustEdit,
  mustKeepLeave,
  mustPublish,
  mustSetCoverFor,
  readerOf,
  surelySeesRequest,
  workflowRights,
} from './index.ts';

const today = date('2026-02-02');
const caller = (id: string, ...rights: Caller['rights']): Caller => ({ id: person(id), rights }) as Caller;
/** HR at Ovay, HR elsewhere, and whoever stands in for Tom in leave alone. */
const index = withDirectory({
  roles: [
    ...directory.roles,
    { role: 'HR partner', person: person('con'), place: 'ovay' },
    { role: 'HR partner', person: person('sub'), place: 'skarn' },
    { role: 'First aider', person: person('per') },
    { role: 'Boat keeper', person: person('per'), to: date('2026-01-31') },
  ],
  covers: [
    {
      person: person('tom'),
      by: person('kay'),
      from: date('2026-02-02'),
      to: date('2026-02-06'),
      workflows: ['annual'],
    },
    { person: person('tom'), by: person('rin'), from: date('2026-02-01'), to: date('2026-02-02') },
  ],
});
const [ina, per, tom, dora, con, sub, kay, rin] = ['ina', 'per', 'tom', 'dora', 'con', 'sub', 'kay', 'rin'].map(id =>
  caller(id),
);
const designer = caller('per', 'designer');
const administrator = caller('per', 'administrator');
const auditor = caller('per', 'auditor');

describe('workflows', () => {
  const rights = (who: Caller, permissions: Permissions | null) => {
    const { see, edit, publish } = workflowRights(who, permissions);
    return [see, edit, publish];
  };
  const others: Permissions = { edit: ['kay'], publish: ['kay'], see: ['kay'] };
  test.each<[string, Caller, Permissions | null, boolean[]]>([
    ['nobody without a right', ina, null, [false, false, false]],
    ['every designer where nothing is said', designer, null, [true, true, true]],
    ['no designer who is not named', designer, others, [false, false, false]],
    ['a designer who is named to see', designer, { ...others, see: ['per'] }, [true, false, false]],
    ['a designer who is named to edit, who sees it then', designer, { ...others, edit: ['per'] }, [true, true, false]],
    ['a designer who is named to publish', designer, { ...others, publish: ['per'] }, [true, false, true]],
    [
      'every designer where a list names nobody',
      designer,
      { edit: [], publish: ['kay'], see: ['kay'] },
      [true, true, false],
    ],
    ['nobody who is named and has no right', kay, others, [false, false, false]],
  ])('are open to %s', (_, who, permissions, expected) => {
    expect(rights(who, permissions)).toEqual(expected);
  });
  test('are changed and published by those alone who may', () => {
    expect(() => mustEdit(designer, null)).not.toThrow();
    expect(() => mustEdit(designer, others)).toThrow('changed by the people named');
    expect(() => mustPublish(designer, null)).not.toThrow();
    expect(() => mustPublish(designer, others)).toThrow('published by the people named');
  });
  test('a part of the demo is there in the demo alone', () => {
    expect(() => mustBeDemo(true)).not.toThrow();
    expect(() => mustBeDemo(false)).toThrow('demo only');
  });
});

describe('commands', () => {
  const refused = (who: Caller, kind: Parameters<typeof mustCommand>[1], keeps = false) => {
    try {
      mustCommand(who, kind, () => keeps);
      return false;
    } catch {
      return true;
    }
  };
  test('of the people of a request are told by the request', () => {
    for (const kind of ['answer', 'complete', 'withdraw', 'comment', 'look', 'move date'] as const)
      expect(refused(ina, kind)).toBe(false);
  });
  test('that help a request on are for those who may', () => {
    for (const kind of ['try again', 'appoint', 'done by hand', 'ask again', 'go on without', 'correct'] as const) {
      expect(refused(ina, kind)).toBe(true);
      expect(refused(ina, kind, true)).toBe(true);
      expect(refused(caller('per', 'designer', 'administrator'), kind)).toBe(false);
    }
  });
  test('about leave are for those who keep leave for the person', () => {
    for (const kind of ['book leave', 'change leave', 'call back', 'void leave'] as const) {
      expect(refused(ina, kind, false)).toBe(true);
      expect(refused(ina, kind, true)).toBe(false);
    }
  });
});

describe('a request of Ina’s that Tom held', () => {
  const request = { workflow: 'annual', asker: ina.id, subject: null, holders: [tom.id] };
  const sees = (who: Caller, more: object = {}, day = today) => maySeeRequest(who, { ...request, ...more }, index, day);
  test('is seen by her, by him, by the line above, by HR of her place, and by those who read everything', () => {
    for (const who of [ina, tom, dora, con, auditor]) expect(sees(who)).toBe(true);
    for (const who of [per, sub]) expect(sees(who)).toBe(false);
  });
  test('is seen by whoever stands in for him, in that workflow, on those days', () => {
    expect(sees(kay)).toBe(true);
    expect(sees(kay, { workflow: 'travel' })).toBe(false);
    expect(sees(kay, {}, date('2026-02-06'))).toBe(true);
    expect(sees(kay, {}, date('2026-02-07'))).toBe(false);
    expect(sees(kay, {}, date('2026-02-01'))).toBe(false);
    expect(sees(kay, { holders: [dora.id] })).toBe(false);
    // A cover for every workflow, on its first and its last day.
    expect([
      sees(rin, { workflow: 'travel' }),
      sees(rin, {}, date('2026-02-01')),
      sees(rin, {}, date('2026-02-03')),
    ]).toEqual([true, true, false]);
  });
  test('is theirs whom it is about, too', () => {
    expect(sees(per, { subject: per.id })).toBe(true);
    expect(surelySeesRequest(per, { asker: 'ina', subject: 'per' })).toBe(true);
    expect(surelySeesRequest(per, { asker: 'ina', subject: null })).toBe(false);
    expect(surelySeesRequest(auditor, { asker: 'ina', subject: null })).toBe(true);
  });
  test('from outside is seen by its keeper and holders, and not by the line above the keeper', () => {
    const outside = { outside: { name: 'Sölvi', mail: 's@post.example' }, holders: [] as never[] };
    expect(sees(ina, outside)).toBe(true);
    expect(sees(tom, outside)).toBe(false);
    expect(sees(con, outside)).toBe(false);
    expect(sees(tom, { ...outside, holders: [tom.id] })).toBe(true);
  });
});

describe('what a reader has to do with a request', () => {
  const given = [
    { step: 'first', holder: tom.id, coverFor: null },
    { step: 'second', holder: con.id, coverFor: kay.id },
  ];
  const request = { workflow: 'annual', asker: 'ina', subject: null, given };
  const of = (who: Caller, more: object = {}) => readerOf(who, { ...request, ...more }, index, today);
  test('theirs, the steps they or those they stand in for held, the roles they hold today', () => {
    expect(of(ina)).toEqual({ own: true, steps: [], roles: [], all: false });
    expect(of(tom)).toMatchObject({ own: false, steps: ['first'], all: false });
    // Kay stands in for Tom, and Con stood in for her.
    expect(of(kay)).toMatchObject({ steps: ['first', 'second'] });
    expect(of(kay, { workflow: 'travel' })).toMatchObject({ steps: ['second'] });
    expect(of(per)).toMatchObject({ roles: ['First aider'], all: false });
    expect(of(con)).toMatchObject({ roles: ['HR partner'], all: true });
    expect(of(sub)).toMatchObject({ roles: [], all: false });
    expect(of(auditor)).toMatchObject({ all: true });
    expect(of(per, { subject: 'per' })).toMatchObject({ own: true });
  });
  test('what came from outside is nobody’s own, and its keeper reads all of it', () => {
    const outside = { outside: {}, given: [] };
    expect(of(ina, outside)).toMatchObject({ own: false, all: true });
    expect(of(con, outside)).toMatchObject({ all: false });
  });
});

describe('a person', () => {
  const about = ina.id;
  const all = (who: Caller) => ({
    balance: maySeeBalance(who, about, index, today),
    leave: mayKeepLeave(who, about, index, today),
    cover: maySetCoverFor(who, about, index, today),
    days: mayPlan(who, about, index, today),
  });
  test.each<[string, Caller, ReturnType<typeof all>]>([
    ['themselves', ina, { balance: true, leave: false, cover: true, days: false }],
    ['their manager', tom, { balance: true, leave: false, cover: false, days: false }],
    ['HR of their place', con, { balance: true, leave: true, cover: true, days: true }],
    ['HR of another place', sub, { balance: false, leave: false, cover: false, days: false }],
    ['a colleague', per, { balance: false, leave: false, cover: false, days: false }],
    ['a designer', designer, { balance: true, leave: true, cover: true, days: true }],
    ['an auditor', auditor, { balance: true, leave: false, cover: false, days: true }],
  ])('is to %s what the rules say', (_, who, expected) => {
    expect(all(who)).toEqual(expected);
  });
  test('leave is kept, and cover set, by those alone who may', () => {
    expect(() => mustKeepLeave(con, about, index, today)).not.toThrow();
    expect(() => mustKeepLeave(tom, about, index, today)).toThrow('HR operations');
    expect(() => mustSetCoverFor(con, about, index, today)).not.toThrow();
    expect(() => mustSetCoverFor(tom, about, index, today)).toThrow('HR operations');
  });
  test('there is somebody to look after for HR of a place, and for those who may everything', () => {
    const some = (who: Caller) => [maySetCoverForSome(who, index, today), mayPlanForSome(who, index, today)];
    expect([con, designer, auditor, per].map(some)).toEqual([
      [true, true],
      [true, true],
      [false, true],
      [false, false],
    ]);
    expect(mayPlanForSome(caller('con'), plain, today)).toBe(false);
  });
});

describe('a paper', () => {
  const of = (who: Caller, holder: string | null, workplace: { place: string } | undefined) =>
    maySeePaper(who, { person: holder as never, workplace }, index, today);
  test('of somebody on file is theirs, and HR’s of their place', () => {
    expect([ina, tom, con, sub, designer].map(who => of(who, 'ina', undefined))).toEqual([
      true,
      false,
      true,
      false,
      true,
    ]);
  });
  test('of somebody who is to come is HR’s of the place at which they will work', () => {
    expect([con, sub, tom].map(who => of(who, null, { place: 'ovay' }))).toEqual([true, false, false]);
    expect([con, sub].map(who => of(who, null, { place: 'skarn' }))).toEqual([false, true]);
    expect([con, sub, designer].map(who => of(who, null, undefined))).toEqual([false, false, true]);
  });
});

describe('a colleague', () => {
  const everything = { manager: true, mail: true, joined: true, left: true };
  const nothing = { manager: false, mail: false, joined: false, left: false };
  test('reads of others what the house lets them read, field by field', () => {
    const reads = (...shared: Parameters<typeof colleagueReader>[1]) =>
      colleagueReader(per, shared, index, today).of(ina.id);
    expect(reads()).toEqual(nothing);
    for (const field of ['manager', 'mail', 'joined', 'left'] as const)
      expect(reads(field)).toEqual({ ...nothing, [field]: true });
  });
  test('reads everything of themselves, of those below, and of all with a right to', () => {
    const of = (who: Caller, whom: Caller) => colleagueReader(who, [], index, today).of(whom.id);
    expect(of(ina, ina)).toEqual(everything);
    expect(of(tom, ina)).toEqual(everything);
    expect(of(con, per)).toEqual(everything);
    expect(of(ina, tom)).toEqual(nothing);
    expect(of(auditor, tom)).toEqual(everything);
    expect([auditor, ina].map(who => colleagueReader(who, [], index, today).all)).toEqual([true, false]);
    expect(of(administrator, tom)).toEqual(of(administrator, dora));
  });
});
