/** The examples of `docs/leave` are true: each is worked out from its facts and compared line by line. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { type LeaveEntry, type LeaveType, type NamedPlan, shutdownBooking, statementOf } from '../core/leave/index.ts';
import { annual, bookOf, date, directory, person, standard, withDirectory } from '../core/testing/house.ts';
import type { CivilDate } from '../core/time/index.ts';

type Facts = {
  joined: string;
  left?: string;
  fte?: number;
  plans?: { from: string; unit: 'days' | 'hours'; perYear: number; per?: number }[];
  opening?: { on: string; own: number; carried: number; lapses: string | null };
  /** Leave type, first and last day, the half in which it ends, and what it is for where the house booked it. */
  booked?: [string, string, string, ('am' | 'pm')?, string?][];
};
type Example = { facts: Facts; until: string; lines: [string, string, number, number][] };

const folder = join(import.meta.dirname, '../docs/leave');
const files = readdirSync(folder).filter(name => name.endsWith('.md') && name !== 'README.md');
const examplesIn = (name: string): Example[] =>
  [...readFileSync(join(folder, name), 'utf8').matchAll(/```json\n([\s\S]*?)```/g)].map(
    match => JSON.parse(match[1] ?? '') as Example,
  );

const ina = directory.people.find(one => one.id === 'ina') as (typeof directory.people)[number];
const [record] = ina.records;
const unpaid: LeaveType = { ...annual, id: 'unpaid', name: 'Unpaid leave', takesFrom: 'nothing', earnsUntil: 30 };

function linesOf({ facts, until }: Example) {
  const { joined, left = null, fte = 1, opening, booked = [] } = facts;
  const given = facts.plans ?? [{ from: joined, unit: 'days' as const, perYear: 25 }];
  const plans = given.map(
    ({ unit, perYear }, n): NamedPlan => ({
      ...standard,
      ...{ id: `p${n}`, name: `Plan ${n}`, unit },
      rules: { ...standard.rules, perYear: [{ fromServiceYears: 0, amount: perYear }] },
    }),
  );
  const own = {
    ...ina,
    joined: date(joined),
    left: left === null ? null : date(left),
    records: given.map(({ from, per }, n) => ({
      ...(record as NonNullable<typeof record>),
      ...{ from: date(from), fte, plan: `p${n}` },
      ...(per === undefined ? {} : { planPer: per }),
    })),
    ...(opening
      ? {
          openings: [
            {
              ...opening,
              type: 'annual',
              on: date(opening.on),
              lapses: opening.lapses as CivilDate | null,
              source: '',
            },
          ],
        }
      : {}),
  };
  const index = withDirectory({ people: directory.people.map(one => (one.id === 'ina' ? own : one)) });
  const entries = booked.map(
    ([type, from, to, half = 'pm', reason], n): LeaveEntry => ({
      request: reason === undefined ? `R-${n + 1}` : shutdownBooking('ina', type, from),
      ...{ person: person('ina'), type, state: 'booked' },
      span: { from: { date: date(from), half: 'am' }, to: { date: date(to), half } },
      ...(reason === undefined ? {} : { reason }),
    }),
  );
  const book = bookOf(entries, { index, plans, types: [annual, unpaid] });
  return (statementOf(book, person('ina'), annual, date(until))?.lines ?? []).map(
    ({ date: on, kind, amount, balance }) => [on, kind, amount, balance],
  );
}

describe.each(files)('%s', name => {
  test('says what is worked out', () => {
    const examples = examplesIn(name);
    expect(examples.length).toBeGreaterThan(0);
    for (const example of examples) {
      expect(example.lines.length).toBeGreaterThan(0);
      expect(linesOf(example)).toEqual(example.lines);
    }
  });
});
