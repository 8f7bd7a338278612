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

// Compiled once: it is started many times. That it starts as it stands is a test of its own.
const compiled = execFileSync(
  process.execPath,
  ['scripts/machine/compiled.mjs', 'scripts/calc.ts', process.env.NP_PROGRAMS ?? '.data'],
  { encoding: 'utf8' },
);
const calc = (kind: string, input: string, ...house: string[]) =>
  execFileSync(process.execPath, [compiled, kind, ...house], {
    input,
    encoding: 'utf8',
    stdio: 'pipe',
  })
    .trim()
    .split('\n')
    .map(line => JSON.parse(line) as unknown);

describe('the calc door', () => {
  test.each([
    ['leave-days', 'leave-days'],
    ['weights', 'leave-days'],
    ['balance', 'balance'],
    ['changes', 'changes'],
    ['afford', 'afford'],
    ['deadline', 'deadline'],
    ['countback', 'countback'],
  ])('agrees with every worked case of %s', (name, kind) => {
    const known = cases(name);
    expect(known.length).toBeGreaterThan(4);
    const out = calc(kind, known.map(c => JSON.stringify(c.in)).join('\n'));
    expect(out).toEqual(known.map(c => c.out));
  });

  test('opens by its command', () => {
    const [{ in: input, out }] = cases('leave-days');
    const said = execFileSync('npm', ['run', '-s', 'calc', '--', 'leave-days'], {
      input: JSON.stringify(input),
      encoding: 'utf8',
    });
    expect(JSON.parse(said)).toEqual(out);
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

  test('works formulas out, and says what is wrong and where', () => {
    const lines = [
      {
        formula: 'Days * 2 > 8 and Kind = "Annual"',
        names: { Days: 'number', Kind: 'text' },
        values: { Days: 4.5, Kind: 'Annual' },
      },
      { formula: 'Start + duration("P7D")', names: { Start: 'date' }, values: { Start: '2026-02-09' } },
      { formula: 'Days + Kind', names: { Days: 'number', Kind: 'string' }, values: {} },
      { formula: 'for i in 1..9999999 return i' },
      { names: {} },
    ];
    expect(calc('formula', lines.map(line => JSON.stringify(line)).join('\n'))).toEqual([
      { value: true },
      { value: '2026-02-16' },
      { error: '“+” needs numbers, this is a text.', at: [7, 11] },
      { error: 'This is more work than a formula may be.', at: [0, 28] },
      { error: expect.stringContaining('malformed: formula') },
    ]);
  });

  test('reads sentences as people type them: none is taken wrongly, and most are understood', () => {
    const known = cases('sentences') as unknown as {
      say: string;
      want?: string[];
      not?: string[];
      refuse?: boolean;
      may?: boolean;
    }[];
    const out = calc(
      'sentences',
      known.map(({ say }) => JSON.stringify({ say })).join('\n'),
      'scripts/cases/sentences-house.json',
    ) as { taken: boolean; sentences: string[]; left: string[] }[];
    const read = known.map((one, i) => {
      const said = out[i].sentences.join(' ').toLowerCase();
      const right =
        !one.refuse &&
        (one.want ?? []).every(part => said.includes(part)) &&
        !one.not?.some(part => said.includes(part));
      return { ...one, taken: out[i].taken, right, left: out[i].left };
    });
    expect(read.filter(one => one.taken && !one.right).map(one => one.say)).toEqual([]);
    expect(read.filter(one => !one.taken && one.left.length === 0).map(one => one.say)).toEqual([]);
    const wanted = read.filter(one => !one.refuse && !one.may);
    expect(wanted.length).toBeGreaterThan(150);
    expect(wanted.filter(one => one.taken).length / wanted.length).toBeGreaterThan(0.95);
  });

  test('a house that is missing or malformed is refused before anything is read', () => {
    expect(() => calc('sentences', '{"say":"HR decides"}')).toThrow();
    expect(() => calc('sentences', '{"say":"HR decides"}', 'package.json')).toThrow();
    const out = calc('sentences', '{"says":1}\n{"say":"HR decides"}', 'scripts/cases/sentences-house.json');
    expect(out).toMatchObject([{ error: expect.stringContaining('malformed') }, { taken: true }]);
  });
});
