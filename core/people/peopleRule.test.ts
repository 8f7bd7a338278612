import { describe, expect, test } from '@jest/globals';
import { date, directory, index, person, withDirectory } from '../testing/house.ts';
import {
  type DirectoryIndex,
  isAbove,
  managerOf,
  type PeopleReason,
  type PeopleRule,
  peopleReasonWords,
  type Question,
  resolve,
  teamOf,
} from './index.ts';

const day = date('2026-02-02');
const ask = (asker: string, change: Partial<Question> = {}): Question => ({
  index,
  day,
  asker: person(asker),
  away: [],
  mayBeAsker: false,
  whenAway: 'goes up',
  ...change,
});
const said = (reasons: readonly PeopleReason[]) => reasons.map(reason => peopleReasonWords(reason, index)).join(' ');
const manager = (levels: number): PeopleRule => ({ first: { kind: 'manager', levels }, otherwise: [] });
const holders = (rule: PeopleRule, question: Question) => {
  const found = resolve(rule, question);
  return found.ok ? found.holders.map(h => h.person) : peopleReasonWords(found.gap, index);
};

describe('reporting lines', () => {
  test('the line manager holds the post that the main post reports to', () => {
    expect(holders(manager(1), ask('ina'))).toEqual(['tom']);
    expect(holders(manager(2), ask('ina'))).toEqual(['dora']);
  });

  test('a vacant post and a leaver go up, and the reasons say so', () => {
    const vacant = resolve(manager(1), ask('kay'));
    expect(vacant).toMatchObject({ ok: true, holders: [{ person: 'dora' }] });
    expect(said(vacant.reasons)).toContain('Head keeper is vacant');
    const leaver = resolve(manager(1), ask('sub'));
    expect(leaver).toMatchObject({ ok: true, holders: [{ person: 'dora' }] });
    expect(said(leaver.reasons)).toContain('Olda Leaver left on 2025-12-31');
  });

  test('a post that a leaver still stands on is held by whoever works here, in any order of rows', () => {
    const both = [
      { person: person('old'), post: 'lead', from: date('2020-01-01'), to: null, main: true },
      { person: person('tom'), post: 'lead', from: date('2026-01-01'), to: null, main: true },
    ];
    const others = directory.holdings.filter(one => one.post !== 'lead');
    for (const rows of [both, both.toReversed()]) {
      const moved = withDirectory({ holdings: [...others, ...rows] });
      expect(holders(manager(1), ask('ina', { index: moved }))).toEqual(['tom']);
    }
  });

  test('the top, a circle and someone without a post are gaps with a reason, never a loop', () => {
    expect(holders(manager(1), ask('dora'))).toBe('Nobody is above Director.');
    expect(holders(manager(1), ask('rin'))).toContain('circle');
    expect(holders(manager(1), ask('con'))).toContain('holds no post');
  });

  test('before a line changed the old one holds', () => {
    const posts = directory.posts.map(p =>
      p.id === 'observer-1' ? { ...p, lines: [...p.lines, { from: date('2026-03-01'), reportsTo: 'director' }] } : p,
    );
    const moved = withDirectory({ posts });
    const at = (on: string) => managerOf(moved, person('ina'), date(on));
    expect(at('2026-02-28')).toMatchObject({ person: { id: 'tom' } });
    expect(at('2026-03-01')).toMatchObject({ person: { id: 'dora' } });
  });

  test('a team is everyone under the same lead; above is transitive', () => {
    expect(teamOf(index, person('ina'), day).map(p => p.id)).toEqual(['ina', 'per']);
    expect(isAbove(index, person('dora'), person('ina'), day)).toBe(true);
    expect(isAbove(index, person('ina'), person('dora'), day)).toBe(false);
    expect(isAbove(index, person('ina'), person('rin'), day)).toBe(false);
  });
});

describe('people rules', () => {
  test('nobody decides their own request: it goes up', () => {
    const rule: PeopleRule = { first: { kind: 'person', person: person('tom') }, otherwise: [] };
    expect(holders(rule, ask('tom'))).toEqual(['dora']);
    expect(holders(rule, ask('tom', { mayBeAsker: true }))).toEqual(['tom']);
  });

  test('the next rule is tried when the one before finds nobody', () => {
    const rule: PeopleRule = {
      first: { kind: 'post', post: 'empty' },
      otherwise: [{ kind: 'role', role: 'HR partner' }],
    };
    expect(holders(rule, ask('ina'))).toEqual(['dora']);
    expect(holders({ ...rule, otherwise: [] }, ask('ina'))).toContain('vacant');
  });

  test('the head of a department, a post, a role, a named person and the asker are found', () => {
    expect(holders({ first: { kind: 'head of department' }, otherwise: [] }, ask('ina'))).toEqual(['tom']);
    expect(holders({ first: { kind: 'dotted-line manager' }, otherwise: [] }, ask('per'))).toEqual(['kay']);
    expect(holders({ first: { kind: 'dotted-line manager' }, otherwise: [] }, ask('ina'))).toContain('no dotted line');
    expect(holders({ first: { kind: 'post', post: 'lead' }, otherwise: [] }, ask('ina'))).toEqual(['tom']);
    expect(holders({ first: { kind: 'role', role: 'nobody has' }, otherwise: [] }, ask('ina'))).toContain('nobody has');
    expect(holders({ first: { kind: 'asker' }, otherwise: [] }, ask('ina', { mayBeAsker: true }))).toEqual(['ina']);
  });
});

describe('away and cover', () => {
  const away = [{ person: person('tom'), from: date('2026-02-01'), to: date('2026-02-08') }];
  const covered = (by: string): DirectoryIndex =>
    withDirectory({
      covers: [{ person: person('tom'), by: person(by), from: date('2026-01-01'), to: date('2026-12-31') }],
    });

  test('cover takes the item and is named', () => {
    const found = resolve(manager(1), ask('ina', { away, index: covered('per') }));
    expect(found).toMatchObject({ ok: true, holders: [{ person: 'per', coverFor: 'tom' }] });
  });

  test('without cover it goes up or waits, as set', () => {
    expect(holders(manager(1), ask('ina', { away }))).toEqual(['dora']);
    expect(holders(manager(1), ask('ina', { away, whenAway: 'waits' }))).toEqual(['tom']);
  });

  test('the asker never covers for their own decider', () => {
    expect(holders(manager(1), ask('ina', { away, index: covered('ina') }))).toEqual(['dora']);
  });

  test('nor does whoever it is about, and it goes up past them', () => {
    const about = { away, subject: person('per') };
    expect(holders(manager(1), ask('ina', { ...about, index: covered('per') }))).toEqual(['dora']);
    expect(holders(manager(1), ask('ina', { ...about, index: covered('per'), whenAway: 'waits' }))).toEqual(['tom']);
    expect(holders(manager(1), ask('ina', { ...about, subject: person('dora') }))).toEqual(['tom']);
  });

  test('a cover holds on its last day, and not on the day after', () => {
    const until = withDirectory({
      covers: [{ person: person('tom'), by: person('per'), from: date('2026-01-01'), to: day }],
    });
    expect(holders(manager(1), ask('ina', { index: until }))).toEqual(['per']);
    expect(holders(manager(1), ask('ina', { index: until, day: date('2026-02-03') }))).toEqual(['tom']);
  });

  test('what goes up past a leaver does not come to whoever it is about', () => {
    // Sub stands under a post whose holder has left; above it is Dora, whom the request is about.
    expect(holders(manager(1), ask('sub', { subject: person('dora') }))).toContain('Nobody is above');
    expect(holders(manager(1), ask('sub'))).toEqual(['dora']);
  });

  test('a circle of covers ends', () => {
    const circle = withDirectory({
      covers: [
        { person: person('tom'), by: person('per'), from: date('2026-01-01'), to: date('2026-12-31') },
        { person: person('per'), by: person('tom'), from: date('2026-01-01'), to: date('2026-12-31') },
      ],
    });
    const both = [...away, { person: person('per'), from: date('2026-02-01'), to: date('2026-02-08') }];
    expect(holders(manager(1), ask('ina', { away: both, index: circle, whenAway: 'waits' }))).toEqual(['per']);
    expect(holders(manager(1), ask('ina', { away: both, index: circle }))).toEqual(['dora']);
  });
});
