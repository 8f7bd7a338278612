import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyWorkflow, base } from '../../testing/anyWorkflow.ts';
import { annualLeave, index } from '../../testing/house.ts';
import { conditionFrom, readProcedure, readWords, type Step, writeProcedure } from '../index.ts';

const steps = (text: string, definition = annualLeave): Step[] => {
  const reading = readWords(text, definition, index);
  if (!reading.ok) throw new Error(`${reading.message} (${reading.completions.join(' | ')})`);
  return reading.steps;
};

describe('sentences', () => {
  test('of the sample are read back into the same steps', () => {
    expect(readProcedure(writeProcedure(annualLeave, index), annualLeave, index)).toEqual({
      ok: true,
      steps: annualLeave.steps,
    });
  });

  test('of any workflow are read back into the same steps, and say the same again', () => {
    fc.assert(
      fc.property(anyWorkflow, definition => {
        const text = writeProcedure(definition, index);
        const read = readProcedure(text, definition, index);
        if (!read.ok) throw new Error(`${JSON.stringify(read.faults)}\n${text}`);
        expect(read.steps).toEqual(definition.steps);
        expect(writeProcedure({ ...definition, steps: read.steps }, index)).toBe(text);
      }),
      { numRuns: 400 },
    );
  });

  test('what is not understood is said with its line', () => {
    const text = writeProcedure(annualLeave, index)
      .replace('decides within', 'ponders within')
      .replace('close as', 'shut as');
    const read = readProcedure(text, annualLeave, index);
    if (read.ok) throw new Error('was read');
    expect(read.faults.map(f => f.line)).toEqual([5]);
    expect(read.faults[0].message).toContain('ponders within');
    expect(readProcedure('1. Ponder: it', annualLeave)).toMatchObject({ ok: false, faults: [{ line: 1 }] });
    expect(readProcedure('nothing', annualLeave)).toMatchObject({ ok: false });
  });
});

describe('a new line in words', () => {
  test('may say two decisions, a limit and what may be sent back', () => {
    const found = steps('line manager and then observatory lead decide within 3 working days, send back for dates');
    expect(found).toMatchObject([
      { verb: 'Decide', who: { first: { kind: 'manager', levels: 1 } }, limit: { within: { workingDays: 3 } } },
      { verb: 'Decide', who: { first: { kind: 'post', post: 'lead' } }, limit: { within: { workingDays: 3 } } },
    ]);
    const [first] = found;
    expect(first.verb === 'Decide' && first.outcomes.map(o => o.label)).toEqual(['Approve', 'Send back', 'Decline']);
    expect(first.verb === 'Decide' && first.outcomes[1].leads).toMatchObject({
      to: 'rework',
      fields: ['dates'],
      resume: first.id,
    });
    expect(new Set(found.map(s => s.id)).size).toBe(2);
  });

  test.each<[string, object]>([
    ['manager decides in 2 days', { verb: 'Decide', limit: { within: { workingDays: 2 } } }],
    ['their manager’s manager approves', { verb: 'Decide', who: { first: { kind: 'manager', levels: 2 } } }],
    [
      'HR partner decides by majority within 4 hours',
      { verb: 'Decide', count: 'majority', limit: { within: { workingHours: 4 } } },
    ],
    ['when Days is over 10, head of department decides', { verb: 'Decide', when: 'Days > 10' }],
    [
      'if Days is at most 2 go to 5',
      {
        verb: 'Choose',
        rows: [{ condition: 'Days <= 2', go: { to: 'step', step: 'record' } }],
        otherwise: { to: 'next' },
      },
    ],
    [
      'if Others away is 0, close as Approved, otherwise go on',
      { verb: 'Choose', rows: [{ go: { to: 'close' } }], otherwise: { to: 'next' } },
    ],
    ['wait for 2 working days', { verb: 'Hold', until: { kind: 'time', amount: { workingDays: 2 } } }],
    [
      'wait until 5 working days before Dates',
      { verb: 'Hold', until: { kind: 'before', workingDays: 5, field: 'dates' } },
    ],
    [
      'split into Stores, Systems and Payroll',
      { verb: 'Split', lanes: [{ name: 'Stores' }, { name: 'Systems' }, { name: 'Payroll' }] },
    ],
    ['tell the asker “Approved”', { verb: 'Tell', message: 'yes', to: [{ first: { kind: 'asker' } }] }],
    ['book the leave', { verb: 'Record', effect: { kind: 'book leave', span: 'dates', type: 'kind' } }],
    ['set Remark to “seen”', { verb: 'Record', effect: { kind: 'set', field: 'remark' } }],
    ['close as Declined', { verb: 'Close', closing: 'declined' }],
    ['create account in Directory', { verb: 'Provision', connection: 'Directory', action: 'create account' }],
    ['Dora Quill signs off', { verb: 'Decide', who: { first: { kind: 'person', person: 'dora' } } }],
    [
      'HR partner lays out the keys within 3 days',
      { verb: 'Do', task: 'Lays out the keys', pool: true, limit: { within: { workingDays: 3 } } },
    ],
  ])('%s', (text, step) => {
    expect(steps(text)).toMatchObject([step]);
  });

  test('says in sentences what it understood', () => {
    const reading = readWords('manager decides in 2 days', annualLeave, index);
    expect(reading.ok && reading.understood[0]).toContain(
      'Decide: the asker’s line manager decides within 2 working days.',
    );
  });

  test('titles that several posts have are never chosen in silence', () => {
    const reading = readWords('tide observer decides', annualLeave, index);
    expect(reading.ok && reading.unsure[0]).toContain('2 posts');
  });

  test('what is not understood is said at its place, with what would be', () => {
    const reading = readWords('manager decides within purple days', annualLeave, index);
    expect(reading).toMatchObject({ ok: false, at: 23 });
    expect(readWords('', annualLeave)).toMatchObject({ ok: false });
    const half = readWords('close as ', annualLeave, index);
    expect(!half.ok && half.completions).toEqual(['close as Approved', 'close as Declined']);
    expect(readWords('xyzzy', annualLeave, index).ok).toBe(false);
  });

  test('anything at all is either read or refused, never thrown at, and the same words give the same steps', () => {
    const word = fc.constantFrom(
      'manager',
      'decides',
      'within',
      '2',
      'days',
      'if',
      'Days',
      'is over',
      'then',
      'close as',
      'Approved',
      ',',
      'send back for',
      '“',
      'lead',
      'wait',
      'until',
      'Dates',
      'split into',
      'go to',
      '9',
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(word, fc.string({ maxLength: 6 })), { maxLength: 8 }), words => {
        const text = words.join(' ');
        expect(readWords(text, annualLeave, index)).toEqual(readWords(text, annualLeave, index));
      }),
    );
  });
});

describe('conditions in words', () => {
  const names = {
    Days: 'number',
    'Days away': 'number',
    Kind: 'text',
    Urgent: 'yes/no',
    'Start date': 'date',
  } as const;
  test.each([
    ['Days is over 10', 'Days > 10'],
    ['days away is at most 2.5 and Kind is “Sick”', 'Days away <= 2.5 and Kind = "Sick"'],
    ['Urgent', 'Urgent = true'],
    ['Urgent is no', 'Urgent = false'],
    ['Start date is before 2026-03-01', 'Start date < date("2026-03-01")'],
    ['Kind is not "Sick"', 'Kind != "Sick"'],
  ])('%s', (words, formula) => {
    expect(conditionFrom(words, names)).toBe(formula);
  });
  test.each(['Moon is over 3', 'Days is', 'Days is over ten thousand', 'Days', ''])('%p says nothing', words => {
    expect(conditionFrom(words, names)).toBeUndefined();
  });
  test('the form of the sample has a field of each kind that steps name', () =>
    expect(base.form.fields).toHaveLength(9));
});
