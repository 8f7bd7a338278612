import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type GroupRule, groupChange, groupsBy, groupsGoBy } from './groupRules.ts';

const rules: GroupRule[] = [
  { by: 'everybody', value: '', group: 'House' },
  { by: 'post', value: 'Tide observer', group: 'Tide console' },
  { by: 'place', value: 'Skarn Light', group: 'Skarn' },
  { by: 'department', value: 'Lights', group: 'skarn' },
];
const observer = { post: 'Tide observer', place: 'Ovay Station', department: 'Observatory' };
const keeper = { post: 'Keeper', place: 'skarn light', department: 'Lights' };

describe('groups that go with where somebody stands', () => {
  test('each once, in whatever letters; without a post only those of everybody', () => {
    expect(groupsBy(rules, observer)).toEqual(['House', 'Tide console']);
    expect(groupsBy(rules, keeper)).toEqual(['House', 'Skarn']);
    expect(groupsBy(rules, { post: null, place: null, department: null })).toEqual(['House']);
  });
  test('a move brings the new ones and takes the old ones, those that were given for another reason excepted', () => {
    expect(groupChange(rules, observer, keeper, [])).toEqual({ joins: ['House', 'Skarn'], leaves: ['Tide console'] });
    expect(groupChange(rules, observer, keeper, ['TIDE CONSOLE']).leaves).toEqual([]);
  });
  test('there and back again leaves the groups of before', () => {
    const value = fc.constantFrom('A', 'B', 'C');
    const standing = fc.record({ post: fc.option(value), place: fc.option(value), department: fc.option(value) });
    const rule = fc.record({ by: fc.constantFrom(...groupsGoBy), value, group: fc.constantFrom('g', 'G', 'h', 'i') });
    const given = fc.subarray(['g', 'h', 'i']);
    fc.assert(
      fc.property(fc.array(rule), standing, standing, given, (all, one, other, kept) => {
        const folded = (groups: readonly string[]) => groups.map(group => group.toLowerCase());
        const start = new Set(folded([...groupsBy(all, one), ...kept]));
        const now = new Set(start);
        for (const { joins, leaves } of [groupChange(all, one, other, kept), groupChange(all, other, one, kept)]) {
          for (const group of folded(leaves)) now.delete(group);
          for (const group of folded(joins)) now.add(group);
        }
        expect([...now].sort()).toEqual([...start].sort());
      }),
    );
  });
});
