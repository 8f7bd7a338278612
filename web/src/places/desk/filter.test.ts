import { describe, expect, test } from '@jest/globals';
import { deskItem } from '../../testing/page.tsx';
import { choicesOf, filterIn, fits, isFiltered, queryOf } from './filter.ts';

const items = [
  deskItem({ request: 'R-1', askerName: 'Zoë Okell', workflow: 'annual', workflowName: 'Annual leave' }),
  deskItem({ request: 'R-2', workflow: 'annual', workflowName: 'Annual leave', kind: 'rework' }),
  deskItem({ request: 'R-3', workflow: 'console', workflowName: 'Console access', kind: 'do', role: 'Access steward' }),
];
const found = (query: string) =>
  items.filter(item => fits(item, filterIn(new URLSearchParams(query)))).map(item => item.request);

describe('what is looked at on the desk', () => {
  test.each([
    ['', ['R-1', 'R-2', 'R-3']],
    ['workflow=annual', ['R-1', 'R-2']],
    ['workflow=annual&kind=rework', ['R-2']],
    ['role=Access+steward', ['R-3']],
    ['words=zoe+ANNUAL', ['R-1']],
    ['words=r-3', ['R-3']],
    ['workflow=gone', []],
  ])('“%s”', (query, expected) => {
    expect(found(query)).toEqual(expected);
  });

  test('choices are counted, the most first, and are none where there is nothing to choose', () => {
    expect(choicesOf(items, 'workflow').map(c => [c.name, c.n])).toEqual([
      ['Annual leave', 2],
      ['Console access', 1],
    ]);
    expect(choicesOf(items.slice(0, 2), 'workflow')).toEqual([]);
    expect(choicesOf(items, 'role').map(c => c.value)).toEqual(['Access steward']);
    expect(choicesOf(items.slice(0, 2), 'role')).toEqual([]);
  });

  test('the request that is open is no filter', () => {
    expect(isFiltered(filterIn(new URLSearchParams('item=R-1&words=+')))).toBe(false);
    expect(isFiltered(filterIn(new URLSearchParams('words=a')))).toBe(true);
    expect(queryOf(new URLSearchParams('item=R-1&kind=do'))).toBe('kind=do');
  });
});
