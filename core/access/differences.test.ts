import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  type Difference,
  differenceKey,
  differences,
  differenceWords,
  type Holds,
  mendingOf,
  type ShouldBe,
} from './differences.ts';
import { groupsGoBy } from './groupRules.ts';

const person = (id: string, more: Partial<ShouldBe['people'][number]> = {}): ShouldBe['people'][number] => ({
  id,
  name: `Name of ${id}`,
  mail: `${id}@selkie.example`,
  works: true,
  comes: false,
  department: 'Lights',
  place: 'Ovay Station',
  posts: [],
  ...more,
});
const account = (of: string | null, more: Partial<Holds['accounts'][number]> = {}): Holds['accounts'][number] => ({
  id: `u-${of}`,
  account: `a.${of}`,
  person: of,
  name: `Name of ${of}`,
  active: true,
  department: 'Lights',
  place: 'Ovay Station',
  post: null,
  ...more,
});
const should = (more: Partial<ShouldBe>): ShouldBe => ({
  people: [],
  grants: [],
  groups: [],
  rules: [],
  made: [],
  shut: [],
  ...more,
});
const codes = (a: ShouldBe, b: Holds) => differences(a, b).map(differenceKey);

describe('what a directory should hold', () => {
  test.each<[string, ShouldBe, Holds, string[]]>([
    ['all is as it should be', should({ people: [person('pia')] }), { accounts: [account('pia')], groups: [] }, []],
    [
      'somebody works here and has no account',
      should({ people: [person('pia')] }),
      { accounts: [], groups: [] },
      ['no account:pia'],
    ],
    [
      'who comes next is not missed',
      should({ people: [person('pia', { works: false, comes: true })] }),
      { accounts: [], groups: [] },
      [],
    ],
    [
      'somebody has left and the account is open',
      should({ people: [person('old', { works: false })] }),
      { accounts: [account('old')], groups: [] },
      ['still open:old:a.old'],
    ],
    [
      'it is closed',
      should({ people: [person('old', { works: false })] }),
      { accounts: [account('old', { active: false })], groups: [] },
      [],
    ],
    [
      'disabled though they work here, and at another place',
      should({ people: [person('pia')] }),
      { accounts: [account('pia', { active: false, place: 'Skarn Light', department: null })], groups: [] },
      ['closed:pia:a.pia', 'other value:pia:department', 'other value:pia:place'],
    ],
    [
      'two accounts of one person',
      should({ people: [person('pia')] }),
      { accounts: [account('pia'), account('pia', { id: 'u-2', account: 'pia2' })], groups: [] },
      ['two accounts:pia'],
    ],
    [
      'an account of nobody, and one that a request made',
      should({ made: ['u-mine'] }),
      { accounts: [account('ghost'), account(null, { id: 'u-mine', account: 'mine' })], groups: [] },
      ['nobody on file:a.ghost'],
    ],
    [
      'groups: who should be in it and is not, who is and should not be, who has left',
      should({
        people: [person('pia'), person('ines'), person('old', { works: false })],
        groups: ['Ferry console', 'Moon'],
        grants: [
          { person: 'pia', group: 'ferry console' },
          { person: 'old', group: 'Ferry console' },
          { person: 'pia', group: 'Moon' },
        ],
      }),
      {
        accounts: [account('pia'), account('ines'), account('old', { active: false })],
        groups: [{ id: 'g', name: 'Ferry console', members: ['u-ines', 'gone'] }],
      },
      ['not a member:pia:Ferry console', 'no reason:a.ines:Ferry console', 'no such group:Moon'],
    ],
    [
      'another post than on file, and whoever holds none may have any title',
      should({ people: [person('pia', { posts: ['Tide observer', 'Diver'] }), person('ines')] }),
      { accounts: [account('pia', { post: 'Diver' }), account('ines', { post: 'Mate' })], groups: [] },
      ['other value:pia:post'],
    ],
    [
      'groups by rule: by any post, by place, in whatever letters; whoever was made and is not on file yet is left there',
      should({
        people: [
          person('pia', { posts: ['Tide observer', 'Diver'] }),
          person('ines', { place: 'Skarn Light' }),
          person('old', { works: false, posts: ['Diver'] }),
        ],
        rules: [
          { by: 'post', value: 'diver ', group: 'Divers' },
          { by: 'place', value: 'Skarn Light', group: 'Skarn' },
          { by: 'everybody', value: '', group: 'House' },
        ],
        made: ['u-joiner'],
      }),
      {
        accounts: [
          account('pia', { post: 'Tide observer' }),
          account('ines', { place: 'Skarn Light' }),
          account('old', { active: false }),
          account(null, { id: 'u-joiner', account: 'joiner' }),
        ],
        groups: [
          { id: 'g', name: 'DIVERS', members: ['u-ines', 'u-joiner', 'u-old'] },
          { id: 'h', name: 'House', members: ['u-pia', 'u-ines'] },
        ],
      },
      ['not a member:pia:Divers', 'no reason:a.ines:Divers', 'no reason:a.old:Divers', 'no such group:Skarn'],
    ],
    [
      'given to an account of whom nobody is on file',
      should({ groups: ['Guests'], grants: [{ person: '', account: 'a.null', group: 'Guests' }], made: ['x'] }),
      {
        accounts: [account(null, { id: 'x2', active: false })],
        groups: [{ id: 'g', name: 'Guests', members: ['x2'] }],
      },
      [],
    ],
    [
      'a group that no request gives is nobody’s business',
      should({ people: [person('ines')] }),
      { accounts: [account('ines')], groups: [{ id: 'g', name: 'Choir', members: ['u-ines'] }] },
      [],
    ],
  ])('%s', (_, a, b, expected) => {
    expect(codes(a, b)).toEqual(expected);
  });

  test('each has words, a key of its own, and what mends it or a person to look', () => {
    const all: Difference[] = [
      { code: 'no account', person: 'pia' },
      { code: 'still open', person: 'pia', account: 'a' },
      { code: 'closed', person: 'pia', account: 'a' },
      { code: 'two accounts', person: 'pia', accounts: ['a', 'b'] },
      { code: 'other value', person: 'pia', account: 'a', part: 'place', should: 'Ovay', holds: null },
      { code: 'nobody on file', account: 'a', name: '' },
      { code: 'no such group', group: 'g' },
      { code: 'not a member', person: 'pia', group: 'g', by: 'rule' },
      { code: 'no reason', account: 'a', name: 'Ines', group: 'g' },
    ];
    expect(new Set(all.map(differenceKey)).size).toBe(all.length);
    for (const one of all) expect(differenceWords(one, id => id).what).toMatch(/\w/);
    // Whoever works here keeps their account, whatever was found before they came back.
    expect(all.map(one => mendingOf(one, { people: [person('pia')] })?.action ?? null)).toEqual([
      'create account',
      null,
      'change account',
      null,
      'change account',
      'disable account',
      null,
      'add to group',
      'take out of group',
    ]);
  });

  test('of a leaver opens nothing again, not what a request disabled and not what was found before they left', () => {
    const left = { people: [person('pia', { works: false })] };
    const all: Difference[] = [
      { code: 'no account', person: 'pia' },
      { code: 'closed', person: 'pia', account: 'a' },
      { code: 'not a member', person: 'pia', group: 'g', by: 'request' },
      { code: 'still open', person: 'pia', account: 'a' },
    ];
    expect(all.map(one => mendingOf(one, left)?.action ?? null)).toEqual([null, null, null, 'disable account']);
    const holds = { accounts: [account('pia', { active: false })], groups: [] };
    const shut = should({ people: [person('pia')], shut: [{ person: 'pia', account: '', request: 'R-9' }] });
    const [found] = differences(shut, holds);
    expect(found).toMatchObject({ code: 'closed', request: 'R-9' });
    expect(mendingOf(found!, shut)).toBeNull();
    expect(differenceWords(found!, id => id).cause).toContain('R-9 disabled it, and no last day is on file');
  });

  test('whatever differs: with everything mended nothing differs any more', () => {
    const ids = ['p1', 'p2', 'p3', 'p4'];
    const groups = ['North', 'South'];
    const rules = fc.uniqueArray(
      fc.record({
        by: fc.constantFrom(...groupsGoBy),
        value: fc.constantFrom('A', 'B', 'Mate', 'Lights'),
        group: fc.constantFrom(...groups, 'south'),
      }),
      { maxLength: 4 },
    );
    const posts = fc.uniqueArray(fc.constantFrom('Mate', 'Diver'), { maxLength: 2 });
    const persons = fc.uniqueArray(
      fc.record({ id: fc.constantFrom(...ids), works: fc.boolean(), place: fc.constantFrom('A', 'B'), posts }),
      { selector: one => one.id, maxLength: 4 },
    );
    const accounts = fc.uniqueArray(
      fc.record({ of: fc.constantFrom(...ids, 'ghost'), active: fc.boolean(), place: fc.constantFrom('A', 'B') }),
      { selector: one => one.of, maxLength: 5 },
    );
    const memberships = fc.uniqueArray(fc.tuple(fc.constantFrom(...groups), fc.constantFrom(...ids, 'ghost')), {
      maxLength: 6,
    });
    fc.assert(
      fc.property(persons, accounts, memberships, memberships, rules, (people, held, granted, members, ruled) => {
        const wanted = should({
          people: people.map(({ id, ...rest }) => person(id, rest)),
          groups,
          rules: ruled,
          grants: granted.map(([group, one]) => ({ person: one, group })),
        });
        let now: Holds = {
          accounts: held.map(({ of, active, place }) => account(of, { active, place })),
          groups: groups.map(name => ({
            id: name,
            name,
            members: members
              .filter(([group, one]) => group === name && held.some(h => h.of === one))
              .map(([, one]) => `u-${one}`),
          })),
        };
        const mend = ({ action, values }: { action: string; values: Readonly<Record<string, unknown>> }) => {
          const is = (one: Holds['accounts'][number]) => one.account === values.account || one.person === values.person;
          const changed = (change: object) => now.accounts.map(one => (is(one) ? { ...one, ...change } : one));
          const inGroup = (change: (members: readonly string[]) => readonly string[]) =>
            now.groups.map(one =>
              one.name.toLowerCase() === String(values.group).toLowerCase()
                ? { ...one, members: change(one.members) }
                : one,
            );
          const id = now.accounts.find(is)?.id ?? '';
          const { account: _a, person: _p, group: _g, title, ...rest } = values;
          const parts = { ...rest, ...(typeof title === 'string' ? { post: title } : {}) };
          if (action === 'create account')
            now = { ...now, accounts: [...now.accounts, account(String(values.person), parts)] };
          else if (action === 'disable account') now = { ...now, accounts: changed({ active: false }) };
          else if (action === 'change account') now = { ...now, accounts: changed(parts) };
          else if (action === 'add to group') now = { ...now, groups: inGroup(all => [...all, id]) };
          else now = { ...now, groups: inGroup(all => all.filter(one => one !== id)) };
        };
        // A membership may wait for the account that is made first.
        for (let round = 0; round < 2; round++)
          for (const one of differences(wanted, now)) {
            const mending = mendingOf(one, wanted);
            if (mending) mend(mending);
          }
        expect(differences(wanted, now)).toEqual([]);
      }),
    );
  });
});
