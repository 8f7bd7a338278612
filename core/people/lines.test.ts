import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { date, directory, index } from '../testing/house.ts';
import { indexDirectory } from './directory.ts';
import { linesOn } from './lines.ts';

const day = date('2026-02-02');

describe('reporting lines on a day', () => {
  const { top, posts, loose } = linesOn(index, day);
  test('who reports to whom, with holders and vacant posts', () => {
    expect(top).toEqual(['director']);
    expect(posts.get('lead')).toEqual({
      post: 'lead',
      holder: 'tom',
      holdsOthers: false,
      below: ['observer-1', 'observer-2'],
      all: 2,
    });
    expect(posts.get('empty')).toMatchObject({ holder: null, below: ['keeper'] });
    // Whoever has left holds nothing any more.
    expect(posts.get('gone-lead')).toMatchObject({ holder: null });
  });
  test('what goes in a circle hangs on nothing', () => {
    expect(loose).toEqual(['ring-a', 'ring-b']);
  });
  test('another day has other lines', () => {
    const moved = indexDirectory({
      ...directory,
      posts: directory.posts.map(post =>
        post.id === 'keeper'
          ? { ...post, lines: [...post.lines, { from: date('2026-03-01'), reportsTo: 'lead' }] }
          : post,
      ),
    });
    expect(linesOn(moved, day).posts.get('lead')?.below).not.toContain('keeper');
    expect(linesOn(moved, date('2026-03-01')).posts.get('lead')?.below).toContain('keeper');
  });
  test('every post stands once, whatever the lines are', () => {
    const ids = directory.posts.map(post => post.id);
    const above = fc.array(fc.option(fc.constantFrom(...ids)), { minLength: ids.length, maxLength: ids.length });
    fc.assert(
      fc.property(above, lines => {
        const house = {
          ...directory,
          posts: directory.posts.map((post, n) => ({ ...post, lines: [{ from: day, reportsTo: lines[n] ?? null }] })),
        };
        const found = linesOn(indexDirectory(house), day);
        const met: string[] = [];
        const walk = (id: string): number => {
          met.push(id);
          return (found.posts.get(id)?.below ?? []).reduce((sum, one) => sum + 1 + walk(one), 0);
        };
        for (const id of found.top) expect(walk(id)).toBe(found.posts.get(id)?.all);
        expect([...met, ...found.loose].sort()).toEqual(ids.toSorted());
      }),
    );
  });
});
