import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyWorkflow } from '../../testing/anyWorkflow.ts';
import { annualLeave, index } from '../../testing/house.ts';
import { flow } from '../../testing/run.ts';
import { procedure, readWords, stepById, written } from '../index.ts';

test('every sentence that the sheet writes can be typed anew', () => {
  fc.assert(
    fc.property(anyWorkflow, definition => {
      for (const line of procedure(definition, index)) {
        if (line.verb === 'Ask') continue;
        const typed = `${line.verb}: ${written(line.sentence)}`;
        const read = readWords(typed, definition, index);
        if (!read.ok) throw new Error(`${typed}\n${read.message}`);
        expect(read.steps.map(step => step.verb)).toEqual([stepById(definition, line.step)?.verb]);
      }
    }),
    { numRuns: 100 },
  );
});

describe('what is left over', () => {
  const left = (text: string) => {
    const read = readWords(text, annualLeave, index);
    return read.ok ? undefined : { at: read.at, left: read.left };
  };

  test('is said from where it begins, and nothing is taken', () => {
    expect(left('manager decides within 2 days unless it rains')).toEqual({ at: 40, left: ['rains'] });
    expect(left('manager decides within 2 days hopefully')).toEqual({ at: 30, left: ['hopefully'] });
    expect(left('manager decides within')).toEqual({ at: 22, left: ['(something is missing at the end)'] });
  });

  test.each([
    'HR aproves',
    'HR aproves the papers',
    'HR checks the papers wihtin 2 days',
    'HR checks the papers after Dates',
    'HR checks the papers, then it closes somehow',
  ])('a slip of the pen does not make a task of a decision or a limit: %s', text => {
    expect(readWords(text, annualLeave, index).ok).toBe(false);
  });
});

describe('who has a step', () => {
  const who = (text: string) => {
    const read = readWords(text, annualLeave, index);
    if (!read.ok) throw new Error(read.message);
    return read.steps.map(step => ('who' in step ? step.who : undefined));
  };

  test('may be either of several, of whom one answers', () => {
    expect(who('manager or HR decides')).toEqual([
      {
        first: {
          kind: 'either',
          rules: [
            { kind: 'manager', levels: 1 },
            { kind: 'role', role: 'HR partner' },
          ],
        },
        otherwise: [],
      },
    ]);
  });

  test('may be both, who then answer one after the other', () => {
    expect(who('both the manager and the director decide')).toMatchObject([
      { first: { kind: 'manager' } },
      { first: { kind: 'post', post: 'director' } },
    ]);
  });

  test('may have somebody else where nobody is found, and somebody who never is', () => {
    expect(who('manager, else HR partner, but never the asker decides')).toEqual([
      {
        first: { kind: 'manager', levels: 1 },
        otherwise: [{ kind: 'role', role: 'HR partner' }],
        except: [{ kind: 'asker' }],
      },
    ]);
  });

  test('is never a mixture that can be read in two ways', () => {
    expect(readWords('manager and HR or the director decide', annualLeave, index).ok).toBe(false);
  });
});

describe('what is asked for outside', () => {
  test.each([
    'until the Start date',
    'undo it on Start date',
    'undo it at the end of Start date',
    'remove it after the Start date',
  ])('ends with its last day, in several ways of saying so: %s', words => {
    const read = readWords(`ask “Directory” to add to group; ${words}`, flow(), index);
    if (!read.ok) throw new Error(read.message);
    expect(read.steps).toMatchObject([{ verb: 'Provision', removeOn: 'Start date' }]);
  });
});
