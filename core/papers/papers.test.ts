/** What is done about a paper on which day, also when days are skipped, and that nothing is done twice. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { addDays, type CivilDate } from '../time/index.ts';
import { byMonth, forgottenOn, type KeptPaper, paperWork, usualRules } from './index.ts';

const day = (text: string) => text as CivilDate;
const rules = { ...usualRules('Identity card'), workflow: 'renewal' };
const card: KeptPaper = {
  kind: 'Identity card',
  keptOn: day('2025-01-10'),
  expires: day('2026-03-31'),
  replacedOn: null,
  leftOn: null,
  asked: false,
  reminded: null,
};

describe('a paper', () => {
  test.each<[string, Partial<KeptPaper>, string, object]>([
    ['long before', {}, '2026-01-29', { ask: false, remind: null, forget: false }],
    ['sixty days before', {}, '2026-01-30', { ask: true, remind: null, forget: false }],
    ['asked for already', { asked: true }, '2026-02-10', { ask: false, remind: null, forget: false }],
    ['thirty days before', { asked: true }, '2026-03-01', { ask: false, remind: 30, forget: false }],
    ['reminded on that step', { asked: true, reminded: 30 }, '2026-03-02', { ask: false, remind: null, forget: false }],
    ['two steps later, after a week away', { reminded: 30 }, '2026-03-29', { ask: true, remind: 3, forget: false }],
    ['on its last day', { reminded: 3 }, '2026-03-31', { ask: true, remind: null, forget: false }],
    ['after it', {}, '2026-04-01', { ask: true, remind: null, forget: false }],
    ['of somebody who left', { leftOn: day('2026-02-28') }, '2026-03-20', { ask: false, remind: null, forget: false }],
    ['with a newer one', { replacedOn: day('2026-03-05') }, '2026-03-20', { ask: false, remind: null, forget: false }],
    [
      'half a year after a newer one',
      { replacedOn: day('2026-03-05') },
      '2026-09-01',
      { ask: false, remind: null, forget: true },
    ],
    ['half a year after it ran out', {}, '2026-09-27', { ask: false, remind: null, forget: true }],
    ['that never runs out', { expires: null }, '2040-01-01', { ask: false, remind: null, forget: false }],
  ])('%s', (_, change, today, work) => {
    expect(paperWork({ ...card, ...change }, rules, day(today))).toEqual(work);
  });

  test('is asked for by nobody where no workflow is named', () => {
    expect(paperWork(card, usualRules('Identity card'), day('2026-03-30')).ask).toBe(false);
  });

  test('is done with after as many days as its rules say, whichever days somebody looks', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 40 }), { maxLength: 40 }), gaps => {
        let paper = card;
        let today = day('2026-01-01');
        const said: number[] = [];
        let asked = 0;
        for (const gap of gaps) {
          today = addDays(today, gap);
          const work = paperWork(paper, rules, today);
          if (work.ask) asked++;
          if (work.remind !== null) said.push(work.remind);
          paper = { ...paper, asked: paper.asked || work.ask, reminded: work.remind ?? paper.reminded };
          expect(work.forget).toBe(today >= (forgottenOn(paper, rules) as CivilDate));
        }
        expect(asked).toBeLessThanOrEqual(1);
        // Each step once, and only ever nearer to the day.
        expect(said).toEqual([...new Set(said)].sort((a, b) => b - a));
      }),
    );
  });

  test('counts in the month in which it runs out; what ran out before counts now', () => {
    const all = [day('2025-11-01'), day('2026-02-28'), day('2026-12-31'), null].map(expires => ({ expires }));
    const found = byMonth(all, day('2026-02-02'));
    expect(found).toHaveLength(12);
    expect(found.filter(one => one.papers > 0)).toEqual([
      { month: '2026-02', papers: 2 },
      { month: '2026-12', papers: 1 },
    ]);
  });
});
