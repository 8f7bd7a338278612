import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { addDays, type CivilDate, type DayNumber, fromDay, toDay, weekday } from '../time/index.ts';
import { type Countback, type CountedTask, countback, type PlannedTask } from './countback.ts';
import { workdayLine } from './workdayLine.ts';

const monday = toDay('2026-02-02');

const houses = fc.record({
  workdays: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 7 }),
  holidays: fc.uniqueArray(fc.integer({ min: -40, max: 60 }), { maxLength: 12 }),
});
type House = { workdays: number[]; holidays: number[] };
const working =
  ({ workdays, holidays }: House) =>
  (day: DayNumber) =>
    workdays.includes(weekday(day)) && !holidays.includes(day - monday);

/** Tasks that wait only for earlier ones, so that there is no circle. */
const plans = fc
  .array(
    fc.record({
      workingDays: fc.integer({ min: 1, max: 8 }),
      waits: fc.array(fc.nat(), { maxLength: 3 }),
      daysBefore: fc.integer({ min: 0, max: 6 }),
      done: fc.boolean().map(yes => yes),
      notBefore: fc.option(fc.integer({ min: -5, max: 20 }), { nil: undefined, freq: 5 }),
    }),
    { minLength: 1, maxLength: 12 },
  )
  .map(all =>
    all.map(
      ({ waits, notBefore, ...task }, n): CountedTask => ({
        ...task,
        id: `t${n}`,
        after: n === 0 ? [] : waits.map(w => `t${w % n}`),
        ...(notBefore === undefined ? {} : { notBefore: monday + notBefore }),
      }),
    ),
  );
const starts = fc.integer({ min: -5, max: 90 }).map(n => monday + n);

function plan(house: House, tasks: readonly CountedTask[], startDate: DayNumber, tightWithin = 1) {
  const isWorking = working(house);
  const found = countback({ startDate, today: monday, line: workdayLine(isWorking, monday), tightWithin, tasks });
  if ('error' in found) throw new Error(found.error);
  return found;
}
const byId = (tasks: readonly PlannedTask[]) => new Map(tasks.map(task => [task.id, task]));

/** Day by day: whatever may begin begins, and is worked on until it is finished. */
function simulated(house: House, tasks: readonly CountedTask[]): Map<string, DayNumber> {
  const isWorking = working(house);
  const left = new Map(tasks.filter(t => !t.done).map(t => [t.id, t.workingDays]));
  const finished = new Map<string, DayNumber>();
  for (let day = monday; left.size > finished.size; day++) {
    if (!isWorking(day)) continue;
    for (const task of tasks) {
      if (task.done || finished.has(task.id) || (task.notBefore ?? day) > day) continue;
      if (task.after.some(id => left.has(id) && (finished.get(id) ?? day) >= day)) continue;
      const rest = (left.get(task.id) as number) - 1;
      left.set(task.id, rest);
      if (rest === 0) finished.set(task.id, day);
    }
  }
  return finished;
}

describe('working days in a row', () => {
  test('every day has its place in the line, whatever is asked first', () => {
    fc.assert(
      fc.property(houses, fc.array(fc.integer({ min: -200, max: 200 }), { minLength: 1 }), (house, wanted) => {
        const isWorking = working(house);
        const line = workdayLine(isWorking, monday);
        for (const offset of wanted) {
          const day = monday + offset;
          let next = day;
          while (!isWorking(next)) next++;
          let before = day - 1;
          while (!isWorking(before)) before--;
          const [on, off] = [line.onOrAfter(day) as number, line.before(day) as number];
          expect([line.day(on), line.day(off), on - off]).toEqual([next, before, 1]);
        }
      }),
    );
  });

  test('where nobody works from the anchor on, the last day before it is still found', () => {
    const line = workdayLine(day => day < monday && weekday(day) <= 5, monday);
    expect(line.onOrAfter(monday)).toBeUndefined();
    expect(line.onOrAfter(monday - 1)).toBeUndefined();
    const friday = line.onOrAfter(monday - 3);
    expect(friday !== undefined && line.day(friday)).toBe(monday - 3);
    const last = line.before(monday + 4);
    expect(last !== undefined && line.day(last)).toBe(monday - 3);
  });

  test('where nobody ever works there is no day, and looking for one ends', () => {
    const line = workdayLine(() => false, monday);
    expect([line.onOrAfter(monday), line.before(monday), line.day(0), line.day(-1)]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
    expect(
      countback({ startDate: monday + 30, today: monday, line, tightWithin: 0, tasks: [] as CountedTask[] }),
    ).toEqual({ error: 'no working day' });
  });
});

describe('a plan counted back', () => {
  test('slack never grows when a task gets longer', () => {
    fc.assert(
      fc.property(
        houses,
        plans,
        starts,
        fc.nat(),
        fc.integer({ min: 1, max: 5 }),
        (house, tasks, start, which, more) => {
          const longer = tasks.map((task, n) =>
            n === which % tasks.length ? { ...task, workingDays: task.workingDays + more } : task,
          );
          const before = byId(plan(house, tasks, start).tasks);
          for (const task of plan(house, longer, start).tasks)
            expect(task.slack).toBeLessThanOrEqual((before.get(task.id) as PlannedTask).slack);
        },
      ),
    );
  });

  test('its earliest finishes are those of whoever works day by day, so a plan without late tasks meets its date', () => {
    fc.assert(
      fc.property(houses, plans, starts, (house, tasks, start) => {
        const found = plan(house, tasks, start);
        const done = simulated(house, tasks);
        for (const task of found.tasks) expect(done.get(task.id)).toBe(task.earliestFinish);
        if (!found.feasible) return;
        const isWorking = working(house);
        for (const task of tasks) {
          if (task.done) continue;
          // As many working days as it asks for lie between its end and the date.
          let days = 0;
          for (let day = (done.get(task.id) as number) + 1; day < start; day++) if (isWorking(day)) days++;
          expect(days).toBeGreaterThanOrEqual(task.daysBefore);
        }
      }),
    );
  });

  test('whoever begins each task at its latest start still meets the date', () => {
    fc.assert(
      fc.property(houses, plans, starts, (house, tasks, start) => {
        const found = byId(plan(house, tasks, start).tasks);
        for (const task of tasks)
          for (const id of task.after) {
            const [before, own] = [found.get(id), found.get(task.id)];
            if (before && own) expect(before.latestFinish).toBeLessThan(own.latestStart);
          }
      }),
    );
  });

  test('the chain that decides is a path of least slack, from what nothing holds to what only the date hurries', () => {
    fc.assert(
      fc.property(houses, plans, starts, (house, tasks, start) => {
        const found = plan(house, tasks, start);
        const slacks = byId(found.tasks);
        const open = found.tasks.length;
        expect(found.chain.length === 0).toBe(open === 0);
        const least = Math.min(...found.tasks.map(task => task.slack));
        found.chain.forEach((id, n) => {
          expect(slacks.get(id)?.slack).toBe(least);
          const task = tasks.find(one => one.id === id) as CountedTask;
          if (n > 0) expect(task.after).toContain(found.chain[n - 1]);
        });
        expect(new Set(found.chain).size).toBe(found.chain.length);
      }),
    );
  });

  test('a later date gives as many working days more, and a plan stays what it is under other names and another order', () => {
    fc.assert(
      fc.property(houses, plans, starts, fc.integer({ min: 1, max: 20 }), (house, tasks, start, more) => {
        const isWorking = working(house);
        let gained = 0;
        for (let day = start; day < start + more; day++) if (isWorking(day)) gained++;
        const before = plan(house, tasks, start);
        const after = byId(plan(house, tasks, start + more).tasks);
        for (const task of before.tasks) expect(after.get(task.id)?.slack).toBe(task.slack + gained);
        const turned = byId(plan(house, [...tasks].reverse(), start).tasks);
        for (const task of before.tasks) expect(turned.get(task.id)).toEqual(task);
      }),
    );
  });

  test('a circle is named, also one through what is finished', () => {
    const task = (id: string, after: string[], done = false): CountedTask => ({
      id,
      workingDays: 1,
      after,
      daysBefore: 0,
      done,
    });
    const line = workdayLine(day => weekday(day) <= 5, monday);
    const found = (tasks: CountedTask[]): Countback =>
      countback({ startDate: monday + 30, today: monday, line, tightWithin: 0, tasks });
    expect(
      found([task('a', []), task('b', ['a', 'd']), task('c', ['b'], true), task('d', ['c']), task('e', ['d'])]),
    ).toEqual({ error: 'circle', tasks: expect.arrayContaining(['b', 'c', 'd']) });
    const self = found([task('a', ['a'])]);
    expect(self).toEqual({ error: 'circle', tasks: ['a'] });
  });

  test('a circle is told in the order in which one waits for the other, without what only waits for it', () => {
    const task = (id: string, after: string[]): CountedTask => ({
      id,
      workingDays: 1,
      after,
      daysBefore: 0,
      done: false,
    });
    const line = workdayLine(day => weekday(day) <= 5, monday);
    const tasks = [task('e', ['d']), task('b', ['d']), task('c', ['b']), task('d', ['c'])];
    expect(countback({ startDate: monday + 30, today: monday, line, tightWithin: 0, tasks })).toEqual({
      error: 'circle',
      tasks: ['b', 'c', 'd'],
    });
  });

  test('late, tight and fine end where they are said to end, and only what is late makes it impossible', () => {
    const line = workdayLine(day => weekday(day) <= 5, monday);
    // Monday to Friday before the Monday after: a task of five days has no slack.
    const of = (workingDays: number, tightWithin: number) => {
      const task = { id: 'a', workingDays, after: [], daysBefore: 0, done: false };
      const found = countback({ startDate: monday + 7, today: monday, line, tightWithin, tasks: [task] });
      if ('error' in found) throw new Error(found.error);
      return [found.tasks[0].slack, found.tasks[0].state, found.feasible];
    };
    expect(of(6, 1)).toEqual([-1, 'late', false]);
    expect(of(5, 0)).toEqual([0, 'tight', true]);
    expect(of(4, 0)).toEqual([1, 'fine', true]);
    expect(of(4, 1)).toEqual([1, 'tight', true]);
    expect(of(3, 1)).toEqual([2, 'fine', true]);
  });

  test('where working days end there is no plan for what goes beyond them, and what is finished asks for none', () => {
    // Nobody works after the second Friday.
    const line = workdayLine(day => weekday(day) <= 5 && day < monday + 12, monday);
    const of = (more: Partial<CountedTask>): Countback =>
      countback({
        ...{ startDate: monday + 14, today: monday, line, tightWithin: 0 },
        tasks: [{ id: 'a', workingDays: 2, after: [], daysBefore: 0, done: false, ...more }],
      });
    expect(of({})).toMatchObject({ feasible: true });
    expect(of({ notBefore: monday + 20 })).toEqual({ error: 'no working day' });
    expect(of({ notBefore: monday + 20, done: true })).toEqual({ tasks: [], feasible: true, chain: [] });
    expect(of({ workingDays: 11 })).toEqual({ error: 'no working day' });
    // Nor is there one where the date itself lies before all of them, or today behind them.
    const none = workdayLine(day => day >= monday, monday);
    const task = { id: 'a', workingDays: 1, after: [], daysBefore: 0, done: false };
    expect(countback({ startDate: monday, today: monday, line: none, tightWithin: 0, tasks: [task] })).toEqual({
      error: 'no working day',
    });
    expect(countback({ startDate: monday + 30, today: monday + 20, line, tightWithin: 0, tasks: [task] })).toEqual({
      error: 'no working day',
    });
  });

  test('worked by hand: papers, then the contract ten days before, and the account after it', () => {
    const of = (id: string, workingDays: number, after: string[], daysBefore = 0, done = false): CountedTask => ({
      id,
      workingDays,
      after,
      daysBefore,
      done,
    });
    const line = workdayLine(day => weekday(day) <= 5, monday);
    const found = countback({
      startDate: toDay('2026-03-02'),
      today: toDay('2026-02-09'),
      line,
      tightWithin: 0,
      tasks: [
        of('agreed', 2, [], 0, true),
        of('papers', 4, ['agreed']),
        of('contract', 4, ['papers'], 10),
        of('account', 3, ['contract']),
        of('kit', 3, ['agreed'], 3),
      ],
    });
    if ('error' in found) throw new Error(found.error);
    const told = found.tasks.map(task => [
      task.id,
      fromDay(task.earliestFinish),
      fromDay(task.latestFinish),
      task.slack,
    ]);
    expect(told).toEqual([
      // Papers until Thursday the 12th; the contract four working days after them, two too late.
      ['papers', '2026-02-12', '2026-02-09', -3],
      ['contract', '2026-02-18', '2026-02-13', -3],
      ['account', '2026-02-23', '2026-02-27', 4],
      ['kit', '2026-02-11', '2026-02-24', 9],
    ]);
    expect(found.chain).toEqual(['papers', 'contract']);
    expect(addDays('2026-03-02' as CivilDate, -1)).toBe('2026-03-01');
  });
});
