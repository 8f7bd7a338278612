import { describe, expect, test } from '@jest/globals';
import { contextFor } from '../../testing/house.ts';
import { decide, flow, Run, wholeTrail } from '../../testing/run.ts';
import { reasonWords } from '../execution/reasonWords.ts';
import { eventForm } from './events.ts';
import { fold } from './fold.ts';
import { stateForm } from './state.ts';
import { readEvent, readState } from './stored.ts';

const workflow = flow(decide());
const at = '2025-11-03T09:00:00Z';
/** As the first version stored them. */
const before = [
  {
    kind: 'given',
    step: 'decide',
    task: 'R-1.1',
    holder: 'tom',
    coverFor: null,
    reasons: ['Ina’s post reports to Tom’s'],
    due: null,
    dueReason: 'no due time: the holder is not on file',
  },
  { kind: 'passed limit', task: 'R-1.1', next: 'it goes on waiting' },
  { kind: 'ended', task: 'R-1.1', reason: 'Tom Lund answered' },
  { kind: 'provisioned', step: 'decide', words: 'Directory: create account, name Ina', undelivered: true, key: 'k' },
  { kind: 'held back', message: 'yes', because: ['Directory: create account, name Ina'] },
  { kind: 'booked', type: 'annual', span: {}, planner: true, reason: 'Asked for by telephone' },
  { kind: 'stuck', step: 'decide', reason: 'Nobody is above Ina Okell.' },
].map(event => ({ ...event, at, by: null }));

describe('what an older version stored', () => {
  test('sentences are read as sentences that were said, and what people wrote stays as it is', () => {
    const read = before.map(event => readEvent(event, 1));
    expect(read[0]).toMatchObject({
      reasons: [{ code: 'said', words: 'Ina’s post reports to Tom’s' }],
      dueReason: { code: 'said', words: 'no due time: the holder is not on file' },
    });
    expect(read[1]).toMatchObject({ next: { code: 'said', words: 'it goes on waiting' } });
    expect(read[2]).toMatchObject({ reason: { code: 'said', words: 'Tom Lund answered' } });
    expect(read[3]).toEqual({
      ...{ kind: 'provisioned', step: 'decide', undelivered: true, key: 'k', at, by: null },
      what: { code: 'said', words: 'Directory: create account, name Ina' },
    });
    expect(read[4]).toMatchObject({ because: [{ code: 'said' }] });
    expect(read[5]).toMatchObject({ reason: 'Asked for by telephone' });
  });

  test('reads on the trail as it did', () => {
    const read = before.filter(event => event.kind !== 'booked').map(event => readEvent(event, 1));
    const lines = wholeTrail(workflow, read, contextFor(null));
    expect(lines.map(line => [line.text, ...line.why].join(' | '))).toEqual([
      'assigned step 2 to Tom Lund | Ina’s post reports to Tom’s | due: no due time: the holder is not on file',
      'the limit passed; it goes on waiting',
      'asked for: Directory: create account, name Ina',
      'keeps “Approved” until what it tells of is done | Directory: create account, name Ina',
      'cannot go on at step 2 | Nobody is above Ina Okell.',
    ]);
  });

  test('a state says the same as before, in codes', () => {
    const now = new Run(workflow).state;
    expect(now.form).toBe(stateForm);
    const { form: _, ...rest } = now;
    const words = (reason: Parameters<typeof reasonWords>[0]) =>
      reasonWords(reason, { definition: workflow, ...contextFor(null) });
    const old = {
      ...rest,
      tasks: rest.tasks.map(task => ({ ...task, reasons: task.reasons.map(words), dueReason: null })),
    };
    const read = readState(JSON.parse(JSON.stringify(old)));
    expect(read.form).toBe(2);
    expect(read.tasks[0].reasons.map(words)).toEqual(now.tasks[0].reasons.map(words));
  });

  test('what is stored today is read as it is', () => {
    const { events, state } = new Run(workflow);
    expect(events.map(event => readEvent(event, eventForm))).toEqual(events);
    expect(readState(state)).toBe(state);
    expect(fold(state.request, events).form).toBe(stateForm);
  });
});
