import { describe, expect, test } from '@jest/globals';
import { annual, date, index, sick } from '../../testing/house.ts';
import { Field, fieldKinds, fieldOf, isAsked, moduleOf, postsAsList, readAnswers } from '../index.ts';

const house = { leaveTypes: [annual, sick], lists: [postsAsList(index)], index, today: date('2026-02-02') };

describe.each(fieldKinds)('a field of the kind “%s”', kind => {
  const field = fieldOf(kind, { id: 'it', label: 'It', required: true });
  test('is a field as soon as it is chosen', () => {
    expect(Field.parse(field)).toEqual(field);
    expect(moduleOf(kind).words.length).toBeGreaterThan(3);
  });
  test('is asked and needed, or is never asked', () => {
    const read = readAnswers({ fields: [field] }, {}, house);
    expect(read.ok).toBe(!isAsked(field));
  });
  test('refuses what no answer can be, at its place', () => {
    const read = readAnswers({ fields: [field] }, { it: { no: 'such', answer: [1] } }, house);
    if (isAsked(field)) expect(!read.ok && read.faults.map(fault => fault.field)).toEqual(['it']);
    else expect(read.ok).toBe(true);
  });
});
