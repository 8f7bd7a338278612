import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyWorkflow, base } from '../../testing/anyWorkflow.ts';
import { annualLeave, contextFor, instant, person } from '../../testing/house.ts';
import { wholeTrail } from '../../testing/run.ts';
import {
  allSteps,
  type Definition,
  getAt,
  goWords,
  insideSplit,
  limitSentences,
  limitTimeWords,
  mayGoTo,
  peopleWords,
  procedure,
  type RequestEvent,
  readAloud,
  type Step,
  setAt,
  splitsAround,
  structure,
  waysFrom,
} from '../index.ts';

const task = (id: string): Step => ({
  verb: 'Do',
  id,
  when: null,
  who: { first: { kind: 'asker' }, otherwise: [] },
  whenAway: 'waits',
  task: id,
  limit: null,
});
const split: Step = {
  verb: 'Split',
  id: 'split',
  when: null,
  needs: 'all',
  lanes: [
    { id: 'a', name: 'A', steps: [task('one'), task('two')] },
    { id: 'b', name: 'B', steps: [] },
  ],
};
const definition: Definition = { ...base, steps: [base.steps[0], split, task('last'), base.steps[5]] };

describe('the block structure', () => {
  test('numbers lanes by letter and finds every step at its path', () => {
    expect(structure(definition).all.map(p => `${p.number} ${p.step.id}`)).toEqual([
      '1 ask',
      '2 split',
      '2a1 one',
      '2a2 two',
      '3 last',
      '4 end',
    ]);
    fc.assert(
      fc.property(anyWorkflow, any => {
        for (const { step, path } of structure(any).all) expect(getAt(any, path)).toBe(step);
        expect(allSteps(any)).toHaveLength(structure(any).all.length);
      }),
      { numRuns: 100 },
    );
  });

  test('a lane may be left, never entered from outside', () => {
    expect(mayGoTo(definition, 'one', 'last')).toBe(true);
    expect(mayGoTo(definition, 'one', 'two')).toBe(true);
    expect(mayGoTo(definition, 'last', 'one')).toBe(false);
    expect(mayGoTo(definition, 'last', 'gone')).toBe(false);
    expect(splitsAround(definition, 'two').map(s => s.id)).toEqual(['split']);
    expect(insideSplit(split as never).map(s => s.id)).toEqual(['one', 'two']);
  });

  test('the end of a lane leads behind the split, an empty lane at once', () => {
    const ways = (id: string) => waysFrom(definition, structure(definition).of(id)!.step);
    expect(ways('two')).toEqual([{ to: 'step', step: 'last', label: '', kind: 'join' }]);
    expect(ways('split')).toMatchObject([
      { step: 'one', kind: 'lane' },
      { step: 'last', label: 'B' },
    ]);
    expect(ways('one')).toMatchObject([{ step: 'two', kind: 'on' }]);
  });

  test('setting nothing takes a key out, and a place that is not there is made', () => {
    expect(setAt({ a: 1, b: 2 }, ['b'], undefined)).toEqual({ a: 1 });
    expect(setAt({} as Record<string, unknown>, ['access', 'ask', 'x'], 'hidden')).toEqual({
      access: { ask: { x: 'hidden' } },
    });
  });
});

describe('words', () => {
  test('people, limits and ways are said as people say them', () => {
    const rule = {
      first: { kind: 'manager' as const, levels: 2, of: 'subject' as const },
      otherwise: [{ kind: 'post in' as const, field: 'post' }],
      except: [{ kind: 'asker' as const }],
    };
    expect(peopleWords(rule, undefined, base)).toBe(
      'the manager above the line manager of the person concerned, else the holder of the post in Post, but never the asker',
    );
    expect(limitTimeWords({ workingDaysBefore: 1, field: 'start' }, base)).toBe(
      'at the latest 1 working day before Start date',
    );
    const limit = {
      within: { workingDays: 1 },
      remind: { after: { workingDays: 1 }, every: { workingHours: 4 }, atMost: 1 },
      atLimit: { tell: rule },
    };
    expect(limitSentences(limit, base)).toEqual([
      'A reminder after 1 working day, then every 4 working hours, once.',
      expect.stringMatching(/^Unanswered at the limit: it stays, and the manager above .* is told\.$/),
    ]);
    expect(goWords(definition, { to: 'step', step: 'one' })).toBe('go to 2a1');
    expect(goWords(definition, { to: 'step', step: 'gone' })).toBe('go nowhere yet');
  });

  test('a lane begins with its name, and every line can be read aloud', () => {
    const lines = procedure(definition);
    expect(lines.map(l => l.lane)).toEqual([null, null, 'A', null, null, null]);
    expect(readAloud(lines[1])).toBe('2 lanes side by side; it goes on when all are done. Lane a: A. Lane b: B.');
  });
});

describe('the trail', () => {
  const filled = {
    answers: { remark: 'new' },
    figures: {},
    changes: [{ field: 'remark', before: 'old', after: 'new' }],
  };
  const happened: [object, RegExp][] = [
    [
      {
        kind: 'kept',
        step: 'manager',
        holder: 'tom',
        outcome: 'approve',
        reason: { code: 'answered before', person: 'tom' },
      },
      /kept “Approve” of Tom Lund at step 3/,
    ],
    [
      { kind: 'settled', step: 'manager', outcome: 'decline', reason: { code: 'first answer' } },
      /settled step 3 as “Decline”/,
    ],
    [{ kind: 'taken', step: 'manager', task: 't' }, /took step 3/],
    [{ kind: 'put back', step: 'manager', task: 't' }, /put step 3 back/],
    [{ kind: 'done', step: 'manager', task: 't', ticked: [], filled, note: null }, /did step 3/],
    [{ kind: 'could not', step: 'manager', task: 't', note: 'no keys' }, /could not do step 3/],
    [{ kind: 'set', step: 'manager', filled }, /set Remark/],
    [
      { kind: 'waiting', step: 'manager', until: null, reason: { code: 'until document', field: 'remark' } },
      /waits at step 3/,
    ],
    [{ kind: 'waited', step: 'manager', reason: { code: 'document is in' } }, /went on at step 3/],
    [
      { kind: 'joined', step: 'manager', from: [], reason: { code: 'all lanes done' } },
      /went on behind the lanes of step 3/,
    ],
    [{ kind: 'recorded', step: 'manager', what: { code: 'row added', list: 'berths', values: {} } }, /added a row/],
    [{ kind: 'opened', step: 'manager', workflow: 'kit', key: 'k' }, /opened a request in kit/],
    [{ kind: 'opened closed', key: 'k', closing: 'done' }, /has ended: done/],
    [{ kind: 'moved', from: 1, to: 2, reason: 'better', filled }, /moved it from version 1 to version 2/],
    [
      { kind: 'told', people: ['tom'], message: 'yes', addresses: ['a@selkie.example'] },
      /told Tom Lund, a@selkie.example/,
    ],
    [{ kind: 'asked', asker: 'tom', subject: 'ina', answers: {}, figures: {} }, /asked for annual leave for Ina Okell/],
  ];
  test.each(happened)('%j', (happening, words) => {
    const event = { ...happening, at: instant('2026-02-02T10:00:00Z'), by: person('tom') } as RequestEvent;
    const [line] = wholeTrail(annualLeave, [event], contextFor('tom'));
    expect(line.text).toMatch(words);
    if ('filled' in happening && !('from' in happening))
      expect(line.changes).toEqual([{ label: 'Remark', before: 'old', after: 'new' }]);
  });
  test('what only moves it along is not said', () => {
    const quiet = {
      kind: 'lane done',
      step: 'split',
      lane: 'a',
      from: [],
      at: instant('2026-02-02T10:00:00Z'),
      by: null,
    } as RequestEvent;
    expect(wholeTrail(annualLeave, [quiet], contextFor('tom'))).toEqual([]);
  });
});
