import { expect, test } from '@jest/globals';
import { plainLetters } from './letters.ts';

test.each([
  ['Åse Müller-Lund', 'ase muller-lund'],
  ['Þór Ægisson', 'thor aegisson'],
  ['Łukasz Strauß', 'lukasz strauss'],
  ['Đorđe Ødegård', 'dorde odegard'],
  ['IŞIK ılgaz', 'isik ilgaz'],
  ['李小龙', '李小龙'],
  ['', ''],
])('%s is %s', (name, plain) => {
  expect(plainLetters(name)).toBe(plain);
});
