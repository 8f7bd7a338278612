import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { relief, type WeekTask } from './relief.ts';

const task = (id: string, week: number, until: number, workingDays: number, plan = id): WeekTask => ({
  id,
  plan,
  week,
  until,
  workingDays,
});

describe('what could be moved where', () => {
  test('a week with room enough is left alone', () => {
    expect(relief([task('a', 1, 9, 3), task('b', 1, 9, 2)], 5)).toEqual([]);
  });
  test('who can wait longest waits, for the first week with room for it', () => {
    expect(relief([task('a', 1, 2, 3), task('b', 1, 4, 3), task('c', 2, 2, 4)], 5)).toEqual([
      { week: 1, workingDays: 6, room: 5, moves: [{ id: 'b', from: 1, to: 3 }], over: 0 },
    ]);
  });
  test('where nothing can wait, it is said how much is too much', () => {
    expect(relief([task('a', 1, 1, 4), task('b', 1, 1, 4)], 5)).toEqual([
      { week: 1, workingDays: 8, room: 5, moves: [], over: 3 },
    ]);
  });
  test('of one plan one at most', () => {
    const [full] = relief([task('a', 1, 9, 4, 'R-1'), task('b', 1, 9, 4, 'R-1'), task('c', 1, 1, 4, 'R-2')], 5);
    expect(full).toMatchObject({ moves: [{ id: 'a', to: 2 }], over: 3 });
  });
  test('weeks are told in their order, whatever the order of the tasks', () => {
    const weeks = relief([task('c', 12, 12, 6), task('b', 3, 3, 6), task('a', 2, 2, 6)], 5).map(full => full.week);
    expect(weeks).toEqual([2, 3, 12]);
  });
  test('of those who can wait as long the longer goes first, then by its name, and no more than is needed', () => {
    const moved = (...tasks: WeekTask[]) =>
      relief(tasks, 5).flatMap(full => full.moves.map(move => [move.id, move.to]));
    expect(moved(task('a', 1, 4, 2), task('b', 1, 4, 3), task('c', 1, 1, 3))).toEqual([['b', 2]]);
    expect(moved(task('b', 1, 4, 3), task('a', 1, 4, 3), task('c', 1, 1, 2))).toEqual([['a', 2]]);
    expect(moved(task('b', 1, 5, 2), task('a', 1, 4, 3), task('c', 1, 1, 2))).toEqual([['b', 2]]);
    // Six days where there is room for five: one move makes it fit exactly, and nothing more is moved.
    expect(moved(task('a', 1, 4, 1), task('b', 1, 4, 1), task('c', 1, 1, 4))).toEqual([['a', 2]]);
  });
  test('a task may go into its last week, and fill a week to the end', () => {
    expect(relief([task('a', 1, 2, 2), task('b', 1, 1, 4), task('c', 2, 2, 3)], 5)).toEqual([
      { week: 1, workingDays: 6, room: 5, moves: [{ id: 'a', from: 1, to: 2 }], over: 0 },
    ]);
  });
  test('no move goes past its last week, makes another week too full, or loses a day of work', () => {
    const tasks = fc.array(
      fc
        .tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 5 }), fc.integer({ min: 1, max: 6 }))
        .map(([week, wait, days]) => ({ week, until: week + wait, workingDays: days })),
      { maxLength: 25 },
    );
    fc.assert(
      fc.property(tasks, fc.integer({ min: 1, max: 10 }), (some, room) => {
        const all = some.map((one, n) => ({ ...one, id: `t${n}`, plan: `p${n % 7}` }));
        const found = relief(all, room);
        const moves = found.flatMap(week => week.moves);
        const loadOf = (weekOf: (one: WeekTask) => number) => {
          const load = new Map<number, number>();
          for (const one of all) load.set(weekOf(one), (load.get(weekOf(one)) ?? 0) + one.workingDays);
          return load;
        };
        const before = loadOf(one => one.week);
        const after = loadOf(one => moves.find(move => move.id === one.id)?.to ?? one.week);
        for (const move of moves) expect(move.to).toBeLessThanOrEqual(all.find(one => one.id === move.id)?.until ?? -1);
        for (const [week, days] of after) expect(days).toBeLessThanOrEqual(Math.max(room, before.get(week) ?? 0));
        for (const { week, over } of found) expect(Math.max(0, (after.get(week) ?? 0) - room)).toBe(over);
        expect(new Set(moves.map(move => all.find(one => one.id === move.id)?.plan)).size).toBe(moves.length);
      }),
    );
  });
});
