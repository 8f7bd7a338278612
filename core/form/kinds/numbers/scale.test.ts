import { expect, test } from '@jest/globals';
import { annualLeave, date, index } from '../../../testing/house.ts';
import { compileWorkflow, fieldWords } from '../../../workflow/index.ts';
import { answerWords, Field, fieldOf, namingOf, readAnswers } from '../../index.ts';

const house = { leaveTypes: [], lists: [], index, today: date('2026-02-02') };
const mood = { ...fieldOf('scale', { id: 'mood', label: 'Mood', required: true }), least: 0, most: 4 };
const read = (value: unknown) => readAnswers({ fields: [mood as Field] }, { mood: value }, house);

test('takes its marks and nothing between or beyond them', () => {
  for (const mark of [0, 1, 4]) expect(read(mark)).toEqual({ ok: true, answers: { mood: mark } });
  for (const [value, message] of [
    [-1, 'At least 0.'],
    [5, 'At most 4.'],
    [2.5, 'Choose one of the marks.'],
    ['3', 'Write a number.'],
  ])
    expect(read(value)).toMatchObject({ ok: false, faults: [{ field: 'mood', message }] });
});

test('says what its ends mean', () => {
  const said = (mark: number) => answerWords(mood as Field, mark, namingOf(house));
  expect([0, 3, 4].map(said)).toEqual(['0 (not at all)', '3 of 4', '4 (very much)']);
  expect(fieldWords(mood as Field, annualLeave)).toBe(
    'Mood: a mark on a scale from 0 (not at all) to 4 (very much), needed.',
  );
});

test('is refused with its ends crossed, or with more marks than stand in a row', () => {
  expect(Field.safeParse({ ...mood, least: 4 }).error?.issues[0]).toMatchObject({ path: ['most'] });
  expect(Field.safeParse({ ...mood, most: 30 }).success).toBe(false);
  expect(Field.safeParse({ ...mood, least: 0.5 }).success).toBe(false);
});

test('is a number in formulas', () => {
  const definition = { ...annualLeave, form: { fields: [...annualLeave.form.fields, mood as Field] } };
  expect(compileWorkflow(definition).formula('Mood >= 3', 'yes/no').ok).toBe(true);
});
