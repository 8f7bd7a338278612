import { afterAll, describe, expect, test } from '@jest/globals';
import { findings, listsOf } from '@north-pebble/core/workflow';
import { annual, annualLeave, date, index, sick } from '../../core/testing/house.ts';
import { Proving, TooMuchToProve } from './index.ts';

const proving = new Proving();
afterAll(() => proving.stop());
const task = {
  index,
  lists: [],
  definition: annualLeave,
  facts: [],
  days: [date('2026-02-02')],
  leaveTypes: [annual.id, sick.id],
  leaveTypeNames: [annual.name, sick.name],
  connections: [],
  offers: {},
  absent: [],
  workflows: ['annual'],
};

describe('proving beside the thread that answers', () => {
  test('finds what is found here, for one after another', async () => {
    const wrong = { ...annualLeave, figures: [{ ...annualLeave.figures[0], formula: 'leave days(Moon)' }] };
    const here = (definition: typeof annualLeave) =>
      findings(definition, {
        people: { index, days: task.days },
        lists: listsOf({ index, lists: [] }),
        leaveTypes: task.leaveTypes,
        leaveTypeNames: task.leaveTypeNames,
        workflows: task.workflows,
        samples: [],
      });
    const [one, two] = await Promise.all([proving.prove(task), proving.prove({ ...task, definition: wrong })]);
    expect(one.findings).toEqual(here(annualLeave));
    expect(two.findings).toEqual(here(wrong));
    expect(two.findings.length).toBeGreaterThan(one.findings.length);
  });

  test('ends what takes longer than its budget, and goes on with the next', async () => {
    const hasty = new Proving(1);
    await expect(hasty.prove(task)).rejects.toThrow(TooMuchToProve);
    await hasty.stop();
    expect((await proving.prove(task)).failed).toEqual([]);
  });
});
