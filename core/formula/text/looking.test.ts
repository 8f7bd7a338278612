import { expect, test } from '@jest/globals';
import { callsIn } from './looking.ts';

test.each<[string, [string, string | undefined][]]>([
  ['row of("Allowances", To).Rate * 2', [['row of', 'Allowances']]],
  [
    'in currency(money(3, "NOK"), "EUR", today())',
    [
      ['in currency', undefined],
      ['money', undefined],
      ['today', undefined],
    ],
  ],
  ['if row of(title: "x", list: "Rates") = null then 1 else 2', [['row of', undefined]]],
  ['1 + 2', []],
  ['1 +', []],
])('%s calls %j', (formula, calls) => {
  expect(callsIn(formula, { To: 'text' }).map(({ name, text }) => [name, text])).toEqual(calls);
});
