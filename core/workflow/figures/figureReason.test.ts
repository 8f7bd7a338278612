import { expect, test } from '@jest/globals';
import { annualLeave } from '../../testing/house.ts';
import { type Definition, Definition as DefinitionSchema, figureReason, figureWords } from '../index.ts';

const journey: Definition = DefinitionSchema.parse({
  ...annualLeave,
  form: {
    fields: [
      ...annualLeave.form.fields,
      { kind: 'date range', id: 'away', label: 'Away', required: false },
      { kind: 'date', id: 'start', label: 'Start date', required: false },
      { kind: 'decimal', id: 'pay', label: 'Yearly pay', required: false },
      {
        kind: 'table',
        id: 'costs',
        label: 'Costs',
        required: false,
        columns: [{ id: 'amount', label: 'Amount', kind: 'money' }],
      },
    ],
  },
});

test.each([
  ['sum(Costs.Amount)', 'The sum of “Amount” in “Costs”.'],
  ['if count(Costs) = 0 then 0 else sum(Costs.Amount)', 'The sum of “Amount” in “Costs”; 0 while “Costs” has no row.'],
  ['leave days(Dates)', 'The days of leave in “Dates”, by the own work pattern and holidays.'],
  ['days between(today(), Start date)', 'The calendar days from today to “Start date”.'],
  ['Yearly pay * 1.5', '“Yearly pay” times 1½.'],
  ['if Yearly pay > 10 then 1 else 0', '1 where “Yearly pay” is over 10, otherwise 0.'],
  ['nights(Away)', 'The nights of “Away”.'],
  ['-Yearly pay', 'Worked out from “Yearly pay”.'],
  ['12', '12.'],
  ['sum(', 'It cannot be worked out as it is written.'],
])('the reason of %s is a sentence', (formula, sentence) => {
  expect(figureReason(journey, { formula })).toBe(sentence);
});

test('money is said with its currency', () => {
  expect(figureWords({ unit: 'money' }, 1234.5)).toBe('1,234.50 EUR');
  expect(figureWords({ unit: 'money' }, 3, 'NOK')).toBe('3.00 NOK');
  expect(figureWords({ unit: 'number' }, 3)).toBe('3');
});
