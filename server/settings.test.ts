import { describe, expect, test } from '@jest/globals';
import { z } from 'zod';
import { isDatabaseAway, isDuplicate } from './database/index.ts';
import { ProblemError, read, refused } from './http/index.ts';
import { readSettings } from './settings.ts';

describe('settings', () => {
  test('have usual values, and only the database must be said', () => {
    expect(readSettings({ NP_DATABASE: 'mysql://127.0.0.1:3306/x' })).toMatchObject({
      NP_PORT: 8420,
      NP_DEMO: '0',
      NP_LOG: 'info',
    });
    expect(() => readSettings({})).toThrow('NP_DATABASE');
  });

  test.each([
    ['NP_PORT', '99999'],
    ['NP_DEMO', 'yes'],
    ['NP_LOG', 'loud'],
    ['NP_SIGN_IN_TRIES', '0'],
  ])('%s=%s is refused by name', (name, value) => {
    expect(() => readSettings({ NP_DATABASE: 'mysql://127.0.0.1/x', [name]: value })).toThrow(name);
  });
});

describe('problems', () => {
  const fault = (work: () => unknown) => {
    try {
      work();
    } catch (thrown) {
      if (thrown instanceof ProblemError) return thrown.problem;
    }
    throw new Error('there was no problem');
  };

  test('bad input names every field that is wrong', () => {
    const schema = z.object({ from: z.string(), days: z.number().positive() });
    expect(read(schema, { from: 'a', days: 1 })).toEqual({ from: 'a', days: 1 });
    const problem = fault(() => read(schema, { days: -1 }));
    expect(problem).toMatchObject({ status: 400, code: 'bad input' });
    expect(problem.faults?.map(f => f.field)).toEqual(['from', 'days']);
  });

  test.each([
    ['stale', 409],
    ['not open', 409],
    ['not yours', 403],
    ['bad answers', 400],
    ['note needed', 400],
    ['too many rounds', 422],
  ] as const)('a refusal that is “%s” is answered with %d', (code, status) => {
    expect(refused({ code, message: 'So it is.' }).problem).toMatchObject({ status, detail: 'So it is.' });
  });
});

describe('faults of the database', () => {
  test('are told apart by the code at any depth of their causes', () => {
    const deep = { message: 'query failed', cause: { cause: { code: 'ECONNREFUSED' } } };
    expect(isDatabaseAway(deep)).toBe(true);
    expect(isDatabaseAway({ code: 'ER_PARSE_ERROR' })).toBe(false);
    expect(isDatabaseAway('ECONNREFUSED')).toBe(false);
    expect(isDuplicate(Object.assign(new Error('twice'), { code: 'ER_DUP_ENTRY' }))).toBe(true);
    expect(isDuplicate(null)).toBe(false);
  });
});
