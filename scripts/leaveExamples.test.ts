/** The examples of `docs/leave` are true: each is worked out from its facts and compared line by line. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from '@jest/globals';
import {
  comingBack,
  evidenceDue,
  heardOn,
  type LeaveBook,
  type LeaveEntry,
  type LeaveType,
  limitsMet,
  metWords,
  type NamedPlan,
  shutdownBooking,
  statementOf,
  takenDays,
} from '../core/leave/index.ts';
import type { Holds } from '../core/people/index.ts';
import { annual, bookOf, date, directory, halves, person, standard, withDirectory } from '../core/testing/house.ts';
import type { CivilDate } from '../core/time/index.ts';

type Facts = {
  joined: string;
  left?: string;
  fte?: number;
  plans?: { from: string; unit: 'days' | 'hours'; perYear: number; per?: number }[];
  opening?: { on: string; own: number; carried: number; lapses: string | null };
  /** Leave type, first and last day, the half in which it ends, and what it is for where the house booked it. */
  booked?: [string, string, string, ('am' | 'pm')?, string?][];
  /** What the plans say of carrying over besides the five days that lapse on 31 March. */
  carryOver?: { kept?: { types: string[]; months: number }[]; warned?: true };
  /** What was put on the balance: type, day, amount. */
  put?: [string, string, number][];
  /** Letters that told what lapses, by day. */
  letters?: string[];
  children?: string[];
  /** Absences of one cause: the later and the earlier one, as numbers of `booked`. */
  sameCause?: [number, number][];
  /** Coming back by stages: the number of the booking, from when on, and minutes of a day. */
  stages?: [number, string, number][];
  /** Types of which a paper is brought from the first day, and from when to when that is so. */
  paperAtOnce?: [string, string, string | null][];
};
type Example = { facts: Facts } & (
  | { of?: string; until: string; lines: [string, string, number, number][] }
  /** What is said when leave is asked for: type, first and last day, and every limit that it does not keep to. */
  | { today: string; asks: [string, string, string, string[]][] }
  /** What pay is told of the days between two: day, code, minutes of work lost. */
  | { pay: [string, string]; told: [string, string, number][] }
  /** The day from which a paper is due for leave between two days; nothing where none is. */
  | { papers: [string, string, string, string | null][] }
  /** The first day of work after the last booking, and from which day on HR and the manager hear of it. */
  | { back: [string, string] | null }
  /** The days on which HR hears of the last booking. */
  | { heard: [number, string][] }
);

const folder = join(import.meta.dirname, '../docs/leave');
const files = readdirSync(folder).filter(name => name.endsWith('.md') && name !== 'README.md');
const examplesIn = (name: string): Example[] =>
  [...readFileSync(join(folder, name), 'utf8').matchAll(/```json\n([\s\S]*?)```/g)].map(
    match => JSON.parse(match[1] ?? '') as Example,
  );

const ina = directory.people.find(one => one.id === 'ina') as (typeof directory.people)[number];
const [record] = ina.records;
const types: LeaveType[] = [
  annual,
  { ...annual, id: 'unpaid', name: 'Unpaid leave', takesFrom: 'nothing', earnsUntil: 30 },
  { ...annual, id: 'parental', name: 'Parental leave', takesFrom: 'nothing', earnsUntil: 0, tellsReturn: 30 },
  { ...annual, id: 'compensation', name: 'Compensation time', takesFrom: 'earned', earnedMonths: 6, earnedMost: 40 },
  {
    ...annual,
    ...{ id: 'sick', name: 'Sick leave', takesFrom: 'nothing', counting: 'calendar' },
    ...{ payCode: '200', payLater: [{ after: 42, code: '210' }], spellMonths: 12, tellsHr: [28, 42] },
    limits: [{ rule: 'evidence', after: 3 }],
  },
  {
    ...{ ...annual, id: 'child-sick', name: 'Child is ill', takesFrom: 'nothing' },
    limits: [{ rule: 'most a year for each child', days: 10, under: 12, how: 'stops' }],
  },
  {
    ...{ ...annual, id: 'event', name: 'Family event', takesFrom: 'nothing' },
    limits: [{ rule: 'most an event', days: 2, how: 'stops' }],
  },
  {
    ...{ ...annual, id: 'turns', name: 'Annual leave' },
    limits: [
      { rule: 'bridge days', days: 1, how: 'asks why' },
      { rule: 'turn', name: 'Midwinter', from: '12-21', to: '01-02', how: 'warns' },
    ],
  },
];

function bookFor({ joined, left, fte = 1, opening, booked = [], ...more }: Facts, today?: string): LeaveBook {
  const given = more.plans ?? [{ from: joined, unit: 'days' as const, perYear: 25 }];
  const plans = given.map(
    ({ unit, perYear }, n): NamedPlan => ({
      ...standard,
      ...{ id: `p${n}`, name: `Plan ${n}`, unit },
      rules: {
        ...standard.rules,
        perYear: [{ fromServiceYears: 0, amount: perYear }],
        carryOver: { max: 5, expires: '03-31', ...more.carryOver },
      },
    }),
  );
  const request = (n: number) => `R-${n + 1}`;
  const holds: Holds[] = [
    ...(more.children ?? []).map(born => ({ is: 'child' as const, born: date(born) })),
    ...(more.sameCause ?? []).map(([later, earlier]) => ({
      ...{ is: 'same cause' as const, request: request(later), follows: request(earlier) },
    })),
    ...(more.paperAtOnce ?? []).map(([type, from, to]) => ({
      ...{ is: 'paper at once' as const, type, from: date(from), to: to === null ? null : date(to) },
    })),
    ...(more.stages ?? []).map(([n, from, minutes]) => ({
      ...{ is: 'stages' as const, request: request(n), stages: [{ from: date(from), minutes }] },
    })),
  ];
  const own = {
    ...ina,
    joined: date(joined),
    left: left === undefined ? null : date(left),
    records: given.map(({ from, per }, n) => ({
      ...(record as NonNullable<typeof record>),
      ...{ from: date(from), fte, plan: `p${n}` },
      ...(per === undefined ? {} : { planPer: per }),
    })),
    circumstances: holds.map((one, n) => ({ id: String(n + 1), holds: one })),
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
  const { calendars } = directory;
  const index = withDirectory({
    people: directory.people.map(one => (one.id === 'ina' ? own : one)),
    calendars: calendars.map(one => ({ ...one, holidays: holidays[one.id] ?? [] })),
  });
  const entries = booked.map(
    ([type, from, to, half = 'pm', reason], n): LeaveEntry => ({
      request: reason === undefined ? request(n) : shutdownBooking('ina', type, from),
      ...{ person: person('ina'), type, state: 'booked' },
      span: { from: { date: date(from), half: 'am' }, to: { date: date(to), half } },
      ...(reason === undefined ? {} : { reason }),
    }),
  );
  const on = (type: string, day: string, amount: number, warns: boolean) => ({
    ...{ person: person('ina'), type, date: date(day), amount, reason: '', warns },
  });
  const adjustments = [
    ...(more.put ?? []).map(([type, day, amount]) => on(type, day, amount, false)),
    ...(more.letters ?? []).map(day => on('annual', day, 0, true)),
  ];
  return bookOf(entries, { index, plans, types, adjustments, ...(today ? { today: date(today) } : {}) });
}

/** In the examples there is one holiday, and it is said: Thursday 14 May 2026. */
const holidays: Record<string, { date: CivilDate; part: 'day'; name: string }[]> = {
  sound: [{ date: date('2026-05-14'), part: 'day', name: 'Tide Day' }],
};

const ofType = (id: string): LeaveType => types.find(one => one.id === id) as LeaveType;
const INA = person('ina');

/** What an example says, and what is worked out. */
function workedOut(example: Example): [said: unknown, found: unknown] {
  const { facts } = example;
  if ('lines' in example) {
    const { until, of = 'annual', lines } = example;
    const found = statementOf(bookFor(facts), INA, ofType(of), date(until))?.lines ?? [];
    return [lines, found.map(({ date: on, kind, amount, balance }) => [on, kind, amount, balance])];
  }
  if ('asks' in example) {
    const book = bookFor(facts, example.today);
    const found = example.asks.map(([type, from, to]) => [
      ...[type, from, to],
      limitsMet(book, INA, ofType(type), halves(from, to)).map(({ met }) => metWords(met, book.today)),
    ]);
    return [example.asks, found];
  }
  if ('pay' in example) {
    const [from, to] = example.pay;
    const found = takenDays(bookFor(facts, to), INA, date(from), date(to));
    return [
      example.told,
      found.map(({ type, date: on, code, minutes }) => [on, code ?? ofType(type).payCode, minutes]),
    ];
  }
  if ('papers' in example) {
    const known = bookFor(facts).index.person(INA);
    const found = example.papers.map(([type, from, to]) => [
      ...[type, from, to],
      evidenceDue(ofType(type), halves(from, to), known)?.on ?? null,
    ]);
    return [example.papers, found];
  }
  const book = bookFor(facts);
  const last = book.entries.at(-1) as LeaveEntry;
  if ('back' in example) {
    const back = comingBack(book, INA, last);
    return [[example.back], [back && [back.on, back.tellOn]]];
  }
  return [example.heard, heardOn(book, INA, last).map(({ after, on }) => [after, on])];
}

describe.each(files)('%s', name => {
  test('says what is worked out', () => {
    const examples = examplesIn(name);
    expect(examples.length).toBeGreaterThan(0);
    for (const example of examples) {
      const [said, found] = workedOut(example);
      expect(Array.isArray(said) && said.length > 0).toBe(true);
      expect(found).toEqual(said);
    }
  });
});
