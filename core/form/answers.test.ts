import { describe, expect, test } from '@jest/globals';
import { annual, annualLeave, date, halves, index, sick } from '../testing/house.ts';
import {
  answerWords,
  bySection,
  changesBetween,
  type Field,
  type Form,
  idFrom,
  type Naming,
  postsAsList,
  type ReferenceList,
  readAnswers,
  rowsToPick,
  spanWords,
} from './index.ts';

const week = halves('2026-02-09', '2026-02-13');
const boats: ReferenceList = {
  id: 'boats',
  name: 'Boats',
  columns: [
    { id: 'quay', label: 'Quay', kind: 'text' },
    { id: 'berths', label: 'Berths', kind: 'number' },
  ],
  rows: [
    { id: 'gull', title: 'Gull', cells: { quay: 'North', berths: 4 } },
    { id: 'tern', title: 'Tern', cells: { quay: 'South', berths: 2 } },
  ],
};
const house = { leaveTypes: [annual, sick], lists: [boats, postsAsList(index)], index, today: date('2026-02-02') };
const field = (change: Partial<Field> & { kind: Field['kind'] }): Field =>
  ({ id: 'a', label: 'A', required: false, ...change }) as Field;
const one = (change: Partial<Field> & { kind: Field['kind'] }, value: unknown, more: Record<string, unknown> = {}) =>
  readAnswers(
    { fields: [field(change), field({ kind: 'text', id: 'quay', label: 'Quay' })] },
    { a: value, ...more },
    house,
  );
const fault = (read: ReturnType<typeof one>) => (read.ok ? null : read.faults[0].message);

describe('every kind of field', () => {
  const file = { id: 'f1', name: 'paper.pdf', size: 12, type: 'application/pdf' };
  test.each<[Partial<Field> & { kind: Field['kind'] }, unknown, unknown, string]>([
    [{ kind: 'text' }, 'short', 'x'.repeat(301), 'under 300'],
    [{ kind: 'whole number', least: 1, most: 9 }, 3, 3.5, 'whole number'],
    [{ kind: 'whole number', least: 1, most: 9 }, 9, 10, 'At most 9'],
    [{ kind: 'decimal', least: 0 }, 0.25, -1, 'At least 0'],
    [{ kind: 'money', currency: 'EUR' }, 10.25, 10.255, 'two decimals'],
    [{ kind: 'yes/no' }, false, 'yes', 'boolean'],
    [{ kind: 'choice', options: ['Boat', 'Charter'] }, 'Boat', 'Plane', 'Boat, Charter'],
    [{ kind: 'several choices', options: ['Mon', 'Tue'] }, ['Mon', 'Tue'], ['Sun'], 'Mon, Tue'],
    [{ kind: 'date' }, '2026-02-28', '2026-02-30', 'date'],
    [{ kind: 'time' }, '09:30', '9 o’clock', 'time'],
    [
      { kind: 'date range' },
      { from: '2026-02-01', to: '2026-02-03' },
      { from: '2026-02-04', to: '2026-02-03' },
      'before the first',
    ],
    [{ kind: 'person' }, 'tom', 'nobody', 'directory'],
    [{ kind: 'person' }, 'tom', 'old', 'directory'],
    [{ kind: 'pick', list: 'boats' }, 'gull', 'ark', 'row of the list'],
    [{ kind: 'pick', list: 'posts' }, 'lead', 'king', 'row of the list'],
    [{ kind: 'files', most: 1 }, [file], [file, file], 'At most 1'],
    [{ kind: 'document', expires: true }, { file, expires: '2027-01-01' }, { file, expires: null }, 'until when'],
    [
      { kind: 'table', columns: [{ id: 'cost', label: 'Cost', kind: 'money' }] },
      [{ cost: 12.5 }],
      [{ cost: 12.5 }, { cost: 'much' }],
      'Row 2, Cost',
    ],
  ])('%j takes what fits and says what does not', (change, good, bad, message) => {
    expect(fault(one(change, good))).toBeNull();
    expect(fault(one(change, bad))).toContain(message);
  });

  test('each has words for its answer', () => {
    const naming: Naming = {
      year: 2026,
      leaveType: id => id,
      person: id => `person ${id}`,
      row: (list, id) => `${list} ${id}`,
    };
    const words = (change: Partial<Field> & { kind: Field['kind'] }, value: unknown) =>
      answerWords(field(change), value as never, naming);
    expect(words({ kind: 'money', currency: 'EUR' }, 1234.5)).toBe('1,234.50 EUR');
    expect(words({ kind: 'person' }, 'tom')).toBe('person tom');
    expect(words({ kind: 'pick', list: 'boats' }, 'gull')).toBe('boats gull');
    expect(words({ kind: 'date range' }, { from: '2026-02-09', to: '2026-02-13' })).toBe('Mon 9 to Fri 13 February');
    expect(words({ kind: 'date' }, '2026-02-09')).toBe('Mon 9 February 2026');
    expect(words({ kind: 'several choices', options: ['A', 'B'] }, ['A', 'B'])).toBe('A, B');
    expect(words({ kind: 'document', expires: true }, { file, expires: '2027-01-01' })).toContain(
      'paper.pdf, valid until',
    );
    expect(words({ kind: 'files' }, [file])).toBe('paper.pdf');
    expect(words({ kind: 'table', columns: [{ id: 'cost', label: 'Cost', kind: 'money' }] }, [{ cost: 3 }])).toBe(
      '3.00 EUR',
    );
  });

  test('a pick that depends on another answer offers only the rows that agree', () => {
    const pick = field({ kind: 'pick', list: 'boats', where: { column: 'quay', field: 'quay' } }) as Extract<
      Field,
      { kind: 'pick' }
    >;
    expect(rowsToPick(pick, boats, { quay: 'North' }).map(r => r.id)).toEqual(['gull']);
    expect(rowsToPick(pick, boats, {})).toEqual([]);
    expect(fault(one(pick, 'tern', { quay: 'North' }))).toContain('row of the list');
    expect(fault(one(pick, 'gull', { quay: 'North' }))).toBeNull();
  });

  test('fixed text is never an answer, and what is not asked is not taken', () => {
    expect(one({ kind: 'fixed text', text: 'Read this' }, 'x')).toMatchObject({ ok: true, answers: { a: null } });
    const form: Form = { fields: [field({ kind: 'text' })] };
    expect(readAnswers(form, { a: 'x' }, house, () => 'not asked')).toMatchObject({ ok: true, answers: { a: null } });
  });
});

describe('forms', () => {
  test('stand under their sections in order, loose fields first', () => {
    const form: Form = {
      sections: [{ id: 's', title: 'Trip' }],
      fields: [
        field({ kind: 'text', id: 'in', section: 's' }),
        field({ kind: 'text', id: 'lost', section: 'gone' }),
        field({ kind: 'text', id: 'out' }),
      ],
    };
    expect(bySection(form).map(s => [s.section?.title ?? null, s.fields.map(f => f.id)])).toEqual([
      [null, ['lost', 'out']],
      ['Trip', ['in']],
    ]);
  });

  test('ids are made from words and are never taken twice', () => {
    expect(idFrom('Überfahrt – Início!', [])).toBe('uberfahrt-inicio');
    expect(idFrom('Send back', ['send-back', 'send-back-2'])).toBe('send-back-3');
    expect(idFrom('123', [])).toBe('x');
  });
});

describe('answers', () => {
  test('are read with every fault at its field', () => {
    const read = readAnswers(annualLeave.form, { kind: 'moon', dates: { from: 'x' }, extra: 1 }, house);
    expect(read).toMatchObject({
      ok: false,
      faults: [
        { field: 'kind', message: 'Choose one of: Annual leave, Sick leave.' },
        { field: 'dates', message: 'Give a first and a last day.' },
        { field: 'extra', message: 'The form has no such field.' },
      ],
    });
    expect(readAnswers(annualLeave.form, {}, house)).toMatchObject({
      faults: [{ message: 'Kind is needed.' }, { message: 'Dates is needed.' }],
    });
    expect(readAnswers(annualLeave.form, 'text', house)).toMatchObject({ faults: [{ field: '' }] });
    expect(readAnswers(annualLeave.form, null, house).ok).toBe(false);
  });

  test('of a choice of some leave types only take those', () => {
    const [kind, ...rest] = annualLeave.form.fields;
    const only = { ...annualLeave, form: { fields: [{ ...kind, only: ['annual'] } as typeof kind, ...rest] } };
    expect(readAnswers(only.form, { kind: 'sick', dates: week }, house).ok).toBe(false);
    expect(readAnswers(only.form, { kind: 'annual', dates: week }, house).ok).toBe(true);
  });

  test('too long is said, empty is nothing', () => {
    expect(
      readAnswers(annualLeave.form, { kind: 'annual', dates: week, remark: 'x'.repeat(5001) }, house),
    ).toMatchObject({
      faults: [{ field: 'remark', message: 'Keep it under 5,000 letters.' }],
    });
    const read = readAnswers(annualLeave.form, { kind: 'annual', dates: week, remark: '' }, house);
    expect(read).toMatchObject({ ok: true, answers: { remark: null } });
  });

  test('differ field by field, whatever order their parts were written in', () => {
    const before = { kind: 'annual', dates: week, remark: null };
    expect(changesBetween(annualLeave.form, before, { ...before })).toEqual([]);
    expect(changesBetween(annualLeave.form, before, { kind: 'sick', dates: week })).toEqual([
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
    expect(spanWords(span, 2026)).toBe(words);
  });

  test('in words are never empty', () => {
    const name: Naming = { year: 2026, leaveType: id => id.toUpperCase(), person: id => id, row: (_, id) => id };
    const [kind, dates, remark] = annualLeave.form.fields;
    expect(answerWords(kind, 'sick', name)).toBe('SICK');
    expect(answerWords(dates, null, name)).toBe('nothing');
    expect(answerWords(remark, '', name)).toBe('nothing');
    expect(answerWords({ kind: 'yes/no', id: 'a', label: 'A', required: false }, false, name)).toBe('no');
  });
});
