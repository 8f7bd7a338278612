import { describe, expect, test } from '@jest/globals';
import { date, directory, index, person, withDirectory } from '../testing/house.ts';
import {
  lineAbove,
  looksAfter,
  looksAfterSome,
  type PeopleRule,
  peopleReasonWords,
  type Question,
  type RequestFacts,
  resolve,
  type SingleRule,
} from './index.ts';

const facts: RequestFacts = {
  person: field => (field === 'lead' ? person('per') : null),
  post: field => (field === 'post' ? 'lead' : null),
  number: formula => (formula === 'Cost' ? 900 : null),
  decided: step => (step === 'first' ? [person('dora')] : []),
};
const graded = withDirectory({
  posts: directory.posts.map(p => ({
    ...p,
    grade: p.id === 'director' ? 9 : p.id === 'lead' ? 5 : 1,
    spending: p.id === 'director' ? 5000 : 500,
  })),
  places: directory.places.map(p => ({ ...p, head: 'director' })),
  roles: [...directory.roles, { role: 'Steward', person: person('per') }, { role: 'Steward', person: person('kay') }],
  people: directory.people.map(p =>
    p.id === 'kay' ? { ...p, records: p.records.map(r => ({ ...r, department: 'lights' })) } : p,
  ),
});
const ask = (rule: Partial<PeopleRule> & { first: SingleRule }, change: Partial<Question> = {}) =>
  resolve(
    { otherwise: [], ...rule },
    {
      index: graded,
      day: date('2026-02-02'),
      asker: person('ina'),
      away: [],
      mayBeAsker: false,
      whenAway: 'waits',
      facts,
      ...change,
    },
  );
const found = (rule: Partial<PeopleRule> & { first: SingleRule }, change: Partial<Question> = {}) => {
  const resolution = ask(rule, change);
  return resolution.ok ? resolution.holders.map(h => h.person) : peopleReasonWords(resolution.gap, index);
};

describe('every kind of rule finds its people', () => {
  test.each<[string, SingleRule, string[]]>([
    ['the person in a field', { kind: 'person in', field: 'lead' }, ['per']],
    ['the holder of a picked post', { kind: 'post in', field: 'post' }, ['tom']],
    ['the manager of the person in a field', { kind: 'manager', levels: 1, of: { field: 'lead' } }, ['tom']],
    ['every manager up to a level', { kind: 'managers', levels: 3 }, ['tom', 'dora']],
    ['the first manager of a grade', { kind: 'manager with', what: 'grade', least: '6' }, ['dora']],
    [
      'the first manager who may spend as much',
      { kind: 'manager with', what: 'spending limit', least: 'Cost' },
      ['dora'],
    ],
    ['the nearest, when they may', { kind: 'manager with', what: 'spending limit', least: '400' }, ['tom']],
    ['the head of the place', { kind: 'head of place' }, ['dora']],
    ['the head of the department', { kind: 'head of department' }, ['tom']],
    ['a role in the asker’s department', { kind: 'role', role: 'Steward', within: 'department' }, ['per']],
    ['a role anywhere', { kind: 'role', role: 'Steward' }, ['per', 'kay']],
    ['whoever settled a step', { kind: 'decided', step: 'first' }, ['dora']],
  ])('%s', (_, rule, people) => {
    expect(found({ first: rule })).toEqual(people);
  });

  test('everyone, of a place or a department; people who left are not there', () => {
    const all = found({ first: { kind: 'everyone' } }, { mayBeAsker: true });
    expect(all).not.toContain('old');
    expect(all).toContain('ina');
    expect(found({ first: { kind: 'everyone', department: 'lights' } })).toEqual(['kay']);
    expect(found({ first: { kind: 'everyone', place: 'moon' } })).toBe('Nobody works there.');
  });

  test('whom it is for counts as the asker where the rule says so', () => {
    const forPer = { subject: person('sub') };
    expect(found({ first: { kind: 'manager', levels: 1, of: 'subject' } }, forPer)).toEqual(['dora']);
    expect(found({ first: { kind: 'subject' } }, { ...forPer, mayBeAsker: true })).toEqual(['sub']);
    // Nobody decides what is for themselves either.
    expect(found({ first: { kind: 'person', person: person('sub') } }, forPer)).toEqual(['dora']);
  });
});

describe('exceptions and what is asked instead', () => {
  test('whoever may never be asked is left out, and the next rule is tried when nobody is left', () => {
    expect(
      found({ first: { kind: 'managers', levels: 2 }, except: [{ kind: 'person', person: person('tom') }] }),
    ).toEqual(['dora']);
    expect(
      found({
        first: { kind: 'manager', levels: 1 },
        except: [{ kind: 'manager', levels: 1 }],
        otherwise: [{ kind: 'post', post: 'director' }],
      }),
    ).toEqual(['dora']);
    expect(found({ first: { kind: 'manager', levels: 1 }, except: [{ kind: 'manager', levels: 1 }] })).toBe(
      'Tom Lund may not be asked here.',
    );
  });

  test.each<[string, SingleRule]>([
    ['a person in the form', { kind: 'person in', field: 'lead' }],
    ['a post in the form', { kind: 'post in', field: 'post' }],
    ['an earlier decider', { kind: 'decided', step: 'first' }],
    ['an amount in the form', { kind: 'manager with', what: 'grade', least: 'Cost' }],
    ['the manager of a person in the form', { kind: 'manager', levels: 1, of: { field: 'lead' } }],
  ])('%s cannot be told before the request says more', (_, first) => {
    const { facts: _none, ...without } = {
      facts,
      index: graded,
      day: date('2026-02-02'),
      asker: person('ina'),
      away: [],
      mayBeAsker: false,
      whenAway: 'waits' as const,
    };
    expect(resolve({ first, otherwise: [] }, without)).toMatchObject({ ok: false, depends: true });
  });

  test.each<[string, SingleRule, RegExp]>([
    ['nobody given', { kind: 'person in', field: 'other' }, /No person is given/],
    ['no post given', { kind: 'post in', field: 'other' }, /No post is given/],
    ['nobody decided yet', { kind: 'decided', step: 'second' }, /Nobody has decided/],
    [
      'nobody high enough',
      { kind: 'manager with', what: 'grade', least: '12' },
      /Nobody above Ina Okell has a grade of 12/,
    ],
    ['an amount that is not known', { kind: 'manager with', what: 'grade', least: 'Moon' }, /Moon is not known/],
    [
      'a role that nobody has here',
      { kind: 'role', role: 'HR partner', within: 'department', of: { field: 'other' } },
      /No person is given/,
    ],
  ])('%s is a gap with its reason', (_, first, gap) => {
    expect(found({ first })).toMatch(gap);
  });
});

describe('the line above', () => {
  const names = (id: string, of = index) => {
    const walked: string[] = [];
    const line = lineAbove(of, person(id), date('2026-02-02'));
    for (let next = line.next(); ; next = line.next()) {
      if (next.done) return [...walked, peopleReasonWords(next.value, of)];
      walked.push(next.value.person.id);
    }
  };
  test('is walked to its end, each manager once, and says why it ends', () => {
    expect(names('ina')).toEqual(['tom', 'dora', 'Nobody is above Director.']);
    expect(names('con')).toEqual(['Con Tractor holds no post, so no line manager is on file.']);
  });
  test('a role held for a place goes before one held for everybody, and is asked for nobody else', () => {
    const skarn = { ...directory.people[0].records[0], place: 'skarn' };
    const house = withDirectory({
      people: directory.people.map(p => (p.id === 'kay' ? { ...p, records: [skarn] } : p)),
      roles: [...directory.roles, { role: 'HR partner', person: person('tom'), place: 'skarn' }],
    });
    const partnerOf = (asker: string) => {
      const found = ask({ first: { kind: 'role', role: 'HR partner' } }, { index: house, asker: person(asker) });
      return found.ok ? found.holders.map(h => h.person) : peopleReasonWords(found.gap, house);
    };
    expect(partnerOf('kay')).toEqual(['tom']);
    expect(partnerOf('ina')).toEqual(['dora']);
    expect(partnerOf('nobody')).toEqual(['dora']);
    expect(looksAfter(house, person('tom'), person('kay'), date('2026-02-02'))).toBe(true);
    expect(looksAfter(house, person('tom'), person('ina'), date('2026-02-02'))).toBe(false);
    expect(looksAfterSome(house, person('ina'), date('2026-02-02'))).toBe(false);
  });

  test('a vacant post is passed over, a circle is told', () => {
    expect(names('kay')).toEqual(['dora', 'Nobody is above Director.']);
    expect(names('rin').at(-1)).toMatch(/circle/);
  });
});
