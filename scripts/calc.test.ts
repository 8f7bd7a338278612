import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { describe, expect, test } from '@jest/globals';

/** Worked cases stand beside the project when it is checked out with them; a few of each kind are kept here too. */
const cases = (kind: string) => {
  const own = new URL(`./cases/${kind}.jsonl`, import.meta.url);
  const beside = new URL(`../../shared/cases/${kind}.jsonl`, import.meta.url);
  return [own, beside]
    .filter(file => existsSync(file))
    .flatMap(file =>
      readFileSync(file, 'utf8')
        .split('\n')
        .filter(line => line.trim()),
    )
    .map(line => JSON.parse(line) as { in: unknown; out: unknown });
};

const calc = (kind: string, input: string) =>
  execFileSync(process.execPath, ['--import', 'tsx', 'scripts/calc.ts', kind], { input, encoding: 'utf8' })
    .trim()
    .split('\n')
    .map(line => JSON.parse(line) as unknown);

describe('the calc door', () => {
  test.each([
    ['leave-days', 'leave-days'],
    ['weights', 'leave-days'],
    ['balance', 'balance'],
    ['afford', 'afford'],
    ['deadline', 'deadline'],
  ])('agrees with every worked case of %s', (name, kind) => {
    const known = cases(name);
    expect(known.length).toBeGreaterThan(4);
    const out = calc(kind, known.map(c => JSON.stringify(c.in)).join('\n'));
    expect(out).toEqual(known.map(c => c.out));
  });

  test('malformed lines are answered in their place and the rest go on; blank lines are skipped', () => {
    const [good] = cases('leave-days');
    const lines = ['{"from":', JSON.stringify(good.in), '', '{}', JSON.stringify(good.in)];
    const out = calc('leave-days', lines.join('\n')) as { error?: string }[];
    expect(out).toHaveLength(4);
    expect(out[0].error).toContain('not JSON');
    expect(out[1]).toEqual(good.out);
    expect(out[2].error).toContain('malformed');
    expect(out[3]).toEqual(good.out);
  });
});
