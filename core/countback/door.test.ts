/** What the calculation door takes and gives. */
import { describe, expect, test } from '@jest/globals';
import { CountbackInput, countedBack } from './door.ts';

const asked = (more: object = {}) => ({
  startDate: '2026-03-02',
  today: '2026-02-09',
  tasks: [
    { id: 'papers', workingDays: 4, after: [], doneOn: '2026-02-06' },
    { id: 'contract', workingDays: 4, after: ['papers'], daysBefore: 2 },
  ],
  ...more,
});
const faults = (more: object) => {
  const read = CountbackInput.safeParse(asked(more));
  return read.success ? [] : read.error.issues.map(issue => `${issue.path.join('.')}: ${issue.message}`);
};

describe('counting back by itself', () => {
  test('takes Monday to Friday where nothing is said, and tells what is done as done', () => {
    expect(countedBack(CountbackInput.parse(asked()))).toEqual({
      tasks: [
        { id: 'papers', state: 'done' },
        {
          ...{ id: 'contract', earliestFinish: '2026-02-12', latestStart: '2026-02-20', latestFinish: '2026-02-25' },
          ...{ slack: 9, state: 'fine' },
        },
      ],
      feasible: true,
    });
  });

  test('counts by the days that are worked, and around holidays', () => {
    const finish = (more: object) => {
      const found = countedBack(CountbackInput.parse(asked(more))) as { tasks: { earliestFinish?: string }[] };
      return found.tasks[1].earliestFinish;
    };
    expect(finish({ workdays: [1, 3] })).toBe('2026-02-18');
    expect(finish({ holidays: ['2026-02-10'] })).toBe('2026-02-13');
  });

  test('refuses a task that is named twice, and one that is none', () => {
    const task = { id: 'a', workingDays: 1, after: [] };
    expect(faults({ tasks: [task, task] })).toEqual(['tasks: names one task twice']);
    expect(faults({ tasks: [{ ...task, after: ['b'] }] })).toEqual(['tasks.0.after: names “b”, which is no task']);
    expect(faults({ tasks: [] })).toEqual([]);
  });

  test('says why there is no plan', () => {
    const circle = [{ id: 'a', workingDays: 1, after: ['a'] }];
    expect(countedBack(CountbackInput.parse(asked({ tasks: circle })))).toEqual({ error: 'circle' });
  });
});
