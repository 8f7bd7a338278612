import { describe, expect, test } from '@jest/globals';
import { annualLeave, contextFor, halves, index, instant, person } from '../testing/house.ts';
import {
  answerWords,
  changesBetween,
  dueFor,
  fill,
  handle,
  insertedNames,
  insertionNames,
  insertions,
  newRequest,
  readAnswers,
  spanWords,
  titleOf,
  trail,
} from './index.ts';

const context = contextFor('ina');
const week = halves('2026-02-09', '2026-02-13');
const types = ['annual', 'sick'];

function asked() {
  const answers = { kind: 'annual', dates: week, remark: 'Rowing with <friends>' };
  const result = handle(annualLeave, newRequest('R-1'), { kind: 'submit', answers }, context);
  if (!result.ok) throw new Error(result.refusal.message);
  return result;
}

describe('messages', () => {
  test('insert fields and figures in words', () => {
    const words = insertions(annualLeave, asked().state, context);
    expect(words).toMatchObject({
      asker: 'Ina Okell',
      request: 'R-1',
      workflow: 'Annual leave',
      Kind: 'Annual leave',
      Dates: 'Mon 9 to Fri 13 February',
      Days: '4½ days',
      'Balance after': '26½ days',
      'Others away': '0',
      Remark: 'Rowing with <friends>',
    });
    expect(Object.keys(words).sort()).toEqual([...insertionNames(annualLeave)].sort());
  });

  test('leave what is not known as it is written, and never insert twice', () => {
    expect(insertedNames('Hello { asker }, {Days} and {Moon}')).toEqual(['asker', 'Days', 'Moon']);
    expect(fill('Hello { asker }, {Moon}', { asker: '{Days}', Days: '3' })).toBe('Hello {Days}, {Moon}');
  });

  test('a title says what it is about', () => {
    expect(titleOf(annualLeave, asked().state, context)).toBe('Annual leave, Mon 9 to Fri 13 February');
    const bare = { ...annualLeave, form: { fields: [] } };
    expect(titleOf(bare, asked().state, context)).toBe('Annual leave');
  });
});

describe('answers', () => {
  test('are read with every fault at its field', () => {
    const read = readAnswers(annualLeave, { kind: 'moon', dates: { from: 'x' }, extra: 1 }, types);
    expect(read).toEqual({
      ok: false,
      faults: [
        { field: 'kind', message: 'Choose one of: annual, sick.' },
        { field: 'dates', message: 'Give a first and a last day.' },
        { field: 'extra', message: 'The form has no such field.' },
      ],
    });
    expect(readAnswers(annualLeave, {}, types)).toMatchObject({
      faults: [{ message: 'Kind is needed.' }, { message: 'Dates is needed.' }],
    });
    expect(readAnswers(annualLeave, 'text', types)).toMatchObject({ faults: [{ field: '' }] });
    expect(readAnswers(annualLeave, null, types).ok).toBe(false);
  });

  test('of a choice of some leave types only take those', () => {
    const [kind, ...rest] = annualLeave.form.fields;
    const only = { ...annualLeave, form: { fields: [{ ...kind, only: ['annual'] } as typeof kind, ...rest] } };
    expect(readAnswers(only, { kind: 'sick', dates: week }, types).ok).toBe(false);
    expect(readAnswers(only, { kind: 'annual', dates: week }, types).ok).toBe(true);
  });

  test('too long is said, empty is nothing', () => {
    expect(readAnswers(annualLeave, { kind: 'annual', dates: week, remark: 'x'.repeat(5001) }, types)).toMatchObject({
      faults: [{ field: 'remark', message: 'Keep it under 5,000 letters.' }],
    });
    const read = readAnswers(annualLeave, { kind: 'annual', dates: week, remark: '' }, types);
    expect(read).toMatchObject({ ok: true, answers: { remark: null } });
  });

  test('differ field by field, whatever order their parts were written in', () => {
    const before = { kind: 'annual', dates: week, remark: null };
    expect(changesBetween(annualLeave, before, { ...before })).toEqual([]);
    expect(changesBetween(annualLeave, before, { kind: 'sick', dates: week })).toEqual([
      { field: 'kind', before: 'annual', after: 'sick' },
    ]);
  });

  test.each([
    [halves('2026-02-09', '2026-02-13'), 'Mon 9 to Fri 13 February'],
    [halves('2026-02-09', '2026-02-09'), 'Mon 9 February'],
    [halves('2026-02-09', '2026-02-09', { to: 'am' }), 'Mon 9 February, morning'],
    [halves('2026-02-09', '2026-02-09', { from: 'pm' }), 'Mon 9 February, afternoon'],
    [
      halves('2026-02-09', '2026-02-11', { from: 'pm', to: 'am' }),
      'Mon 9 to Wed 11 February (from the afternoon) (to midday)',
    ],
  ])('%j is %s', (span, words) => {
    expect(spanWords(span)).toBe(words);
  });

  test('in words are never empty', () => {
    const name = (id: string) => id.toUpperCase();
    const [kind, dates, remark] = annualLeave.form.fields;
    expect(answerWords(kind, 'sick', name)).toBe('SICK');
    expect(answerWords(dates, null, name)).toBe('nothing');
    expect(answerWords(remark, '', name)).toBe('nothing');
    expect(answerWords({ kind: 'yes/no', id: 'a', label: 'A', required: false }, false, name)).toBe('no');
  });
});

describe('due times', () => {
  test('count in the holder’s working time and say so', () => {
    const due = dueFor(context, person('tom'), { workingDays: 2 });
    expect(due).toEqual({
      at: '2026-02-04T17:00:00Z',
      reason: '2 working days in Tom Lund’s working time, counted from Mon 2 Feb 10:00 (Europe/Lisbon)',
    });
    expect(dueFor(context, person('nobody'), { workingDays: 1 })).toEqual({ never: 'the holder is not on file' });
  });
});

describe('the trail', () => {
  test('says who did what, and answers why', () => {
    const { events } = asked();
    const lines = trail(annualLeave, events, { index, book: context.book });
    expect(lines.map(l => `${l.who} ${l.text}`)).toEqual([
      'Ina Okell asked for annual leave',
      'North Pebble held annual leave, Mon 9 to Fri 13 February',
      'North Pebble took “otherwise” at step 2',
      'North Pebble gave step 3 to Tom Lund',
    ]);
    expect(lines[3].why.join(' ')).toContain('Tide observer reports to Observatory lead');
    expect(lines[3].why.join(' ')).toContain('due: 2 working days');
    expect(lines.every(l => l.at === instant('2026-02-02T10:00:00Z'))).toBe(true);
  });
});
