import { describe, expect, test } from '@jest/globals';
import { annualLeave, contextFor, halves } from '../testing/house.ts';
import { bad, decide, flow, given, good, later, task, told, who } from '../testing/run.ts';
import { type Definition, handle, newRequest } from '../workflow/index.ts';
import { pathAhead } from './index.ts';

function ahead(definition: Definition, answers: Record<string, unknown> = given) {
  const context = later('2026-02-02T10:00:00Z', 'ina');
  const sent = handle(definition, newRequest('R-1'), { kind: 'submit', answers }, context);
  if (!sent.ok) throw new Error(sent.refusal.message);
  const { steps, ends } = pathAhead(definition, sent, context);
  return {
    ends,
    steps: steps.map(s => [
      s.number,
      s.verb,
      s.waits ? told(s.waits, definition) : s.people.map(p => p.person).join(' '),
    ]),
  };
}
const role = who({ kind: 'role', role: 'HR partner' });

describe('the path ahead', () => {
  test('names everybody in turn and how it ends, without the steps that will be skipped', () => {
    const leave = (from: string, to: string) => {
      const answers = { kind: 'annual', dates: halves(from, to) };
      const sent = handle(annualLeave, newRequest('R-1'), { kind: 'submit', answers }, contextFor('ina'));
      if (!sent.ok) throw new Error(sent.refusal.message);
      return pathAhead(annualLeave, sent, contextFor('ina'));
    };
    const week = leave('2026-03-09', '2026-03-13');
    expect(week).toMatchObject({ ends: 'Approved', steps: [{ number: '3', people: [{ person: 'tom' }] }] });
    expect(week.steps[0].due).toBe('2026-02-04T17:00:00Z');
    expect(week.steps[0].people[0].reasons.map(reason => told(reason, annualLeave)).join()).toContain('reports to');
    const month = leave('2026-03-02', '2026-03-20');
    expect(month.steps.map(s => [s.people[0].person, s.due !== null])).toEqual([
      ['tom', true],
      ['dora', false],
    ]);
    expect(leave('2026-03-09', '2026-03-10')).toEqual({ ends: 'Approved', steps: [] });
  });

  test('everybody who is asked at one step stands there together', () => {
    const all = decide({ count: 'everyone', who: who({ kind: 'managers', levels: 2 }) });
    expect(ahead(flow(all))).toEqual({ ends: 'Approved', steps: [['2', 'Decide', 'tom dora']] });
    expect(ahead(flow(decide({ count: 'in turn', who: who({ kind: 'managers', levels: 2 }) }))).steps).toEqual([
      ['2', 'Decide', 'tom dora'],
    ]);
  });

  test('goes on over pools, checklists and days that are waited for', () => {
    const hold = { verb: 'Hold', id: 'hold', when: null, until: { kind: 'date', formula: 'Start date' } };
    const pool = task({ pool: true, who: role, checklist: [{ id: 'a', label: 'A' }] });
    const { ends, steps } = ahead(flow(decide(), hold, pool));
    expect(ends).toBe('Approved');
    expect(steps.map(s => s.slice(0, 2))).toEqual([
      ['2', 'Decide'],
      ['3', 'Hold'],
      ['4', 'Do'],
    ]);
    expect(steps[1][2]).toMatch(/2 March/);
  });

  test('stops where nobody can know: a document, a field to fill in, nothing but declining, nobody found', () => {
    const paper = { verb: 'Hold', id: 'hold', when: null, until: { kind: 'document', field: 'paper' } };
    expect(ahead(flow(paper, decide()))).toMatchObject({ ends: null, steps: [['2', 'Hold', expect.any(String)]] });
    expect(ahead(flow(decide({ outcomes: [bad] }), task()))).toMatchObject({
      ends: null,
      steps: [['2', 'Decide', 'tom']],
    });
    expect(ahead(flow(decide({ outcomes: [{ ...good, needs: ['remark'] }, bad] })))).toMatchObject({ ends: null });
    const nobody = decide({ id: 'second', who: who({ kind: 'role', role: 'Nobody' }) });
    expect(ahead(flow(decide(), nobody))).toMatchObject({ ends: null, steps: [['2', 'Decide', 'tom']] });
  });

  test('changes nothing', () => {
    const context = later('2026-02-02T10:00:00Z', 'ina');
    const definition = flow(decide());
    const sent = handle(definition, newRequest('R-1'), { kind: 'submit', answers: given }, context);
    if (!sent.ok) throw new Error(sent.refusal.message);
    const before = JSON.stringify(sent);
    pathAhead(definition, sent, context);
    expect(JSON.stringify(sent)).toBe(before);
  });
});
