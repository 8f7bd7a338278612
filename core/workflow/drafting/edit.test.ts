import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyWorkflow } from '../../testing/anyWorkflow.ts';
import { annualLeave } from '../../testing/house.ts';
import {
  allSteps,
  compare,
  copies,
  type Definition,
  differenceWords,
  findings,
  insertSteps,
  moveStep,
  moveTo,
  pieces,
  placeAfter,
  removeField,
  removeStep,
  rename,
  structure,
  usesOfField,
} from '../index.ts';

const ids = (definition: Definition) => allSteps(definition).map(s => s.id);
const at = (id: string) => structure(annualLeave).of(id)!;

describe('steps', () => {
  test('are put in behind a line, moved among their own, and taken out', () => {
    const hold = {
      verb: 'Hold' as const,
      id: 'pause',
      when: null,
      until: { kind: 'time' as const, amount: { workingDays: 1 } },
    };
    const more = insertSteps(annualLeave, placeAfter(at('manager')), [hold]);
    expect(ids(more)).toEqual(['ask', 'choose', 'manager', 'pause', 'above', 'record', 'end']);
    expect(ids(moveStep(more, 'pause', -1))).toEqual(['ask', 'choose', 'pause', 'manager', 'above', 'record', 'end']);
    expect(ids(moveTo(more, 'pause', 'record'))).toEqual([
      'ask',
      'choose',
      'manager',
      'above',
      'record',
      'pause',
      'end',
    ]);
    expect(removeStep(more, 'pause')).toEqual(annualLeave);
  });

  test('the first step asks, and stays where it is', () => {
    expect(moveStep(annualLeave, 'ask', 1)).toBe(annualLeave);
    expect(moveStep(annualLeave, 'choose', -1)).toBe(annualLeave);
    expect(removeStep(annualLeave, 'ask')).toBe(annualLeave);
    expect(moveStep(annualLeave, 'end', 1)).toBe(annualLeave);
  });

  test('copied steps have ids of their own, and ways among them stay among them', () => {
    fc.assert(
      fc.property(anyWorkflow, definition => {
        const made = copies(definition, definition.steps.slice(1));
        const all = [...ids(definition), ...allSteps({ steps: made }).map(s => s.id)];
        expect(new Set(all).size).toBe(all.length);
        const inside = new Set(allSteps({ steps: made }).map(s => s.id));
        for (const step of allSteps({ steps: made })) {
          if (step.verb !== 'Choose') continue;
          for (const { go } of step.rows)
            if (go.to === 'step') expect(inside.has(go.step) || go.step === 'ask').toBe(true);
        }
      }),
      { numRuns: 100 },
    );
  });
});

describe('names', () => {
  test('a new name is followed by every formula and message, and nothing else differs', () => {
    const changed = rename(annualLeave, 'Days', 'Leave days');
    expect(findings(changed).filter(f => f.level === 'stops')).toEqual([]);
    expect(JSON.stringify(changed)).toContain('Leave days <= 2 and Others away = 0');
    expect(changed.messages[0].subject).toBe('Approved: {Leave days}');
    expect(rename(changed, 'Leave days', 'Days')).toEqual(annualLeave);
  });

  test('a field that is used says where before it goes, and what is left is found', () => {
    const [, dates] = annualLeave.form.fields;
    const uses = usesOfField(annualLeave, dates);
    expect(uses.map(u => u.words)).toEqual([
      'figure “Days”: leave days(Dates)',
      'figure “Balance after”: balance after(Kind, Dates)',
      'figure “Others away”: others away(Dates)',
      'message “Approved”, text',
      'message “Declined”, text',
      'step 3, Decide',
      'step 5, Record',
    ]);
    const gone = removeField(annualLeave, 'dates');
    expect(findings(gone).filter(f => f.level === 'stops').length).toBeGreaterThanOrEqual(uses.length);
  });
});

describe('comparing', () => {
  test('a definition is the same as itself', () => {
    fc.assert(
      fc.property(anyWorkflow, definition => {
        expect(differenceWords(compare(definition, definition))).toBe('Nothing differs');
      }),
      { numRuns: 40 },
    );
  });

  test('what is new, gone, changed and moved is told apart; a shifted number changes nothing', () => {
    const after = rename(removeStep(annualLeave, 'above'), 'Remark', 'Remarks');
    const changes = compare(annualLeave, after).filter(d => d.kind !== 'same');
    expect(changes.map(d => `${d.section} ${d.id} ${d.kind}`)).toEqual([
      'Form remark changed',
      'Steps ask changed',
      'Steps above gone',
    ]);
    const moved = compare(annualLeave, moveStep(annualLeave, 'record', -1)).filter(d => d.kind !== 'same');
    expect(moved.map(d => d.kind)).toEqual(['moved']);
    expect(differenceWords(changes)).toBe('2 changed, 1 gone');
  });

  test('inside a sentence the words that differ are marked, and both sides can be read from the pieces', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (a, b) => {
        const found = pieces(a, b);
        expect(
          found
            .filter(p => p.kind !== 'new')
            .map(p => p.text)
            .join(''),
        ).toBe(a);
        expect(
          found
            .filter(p => p.kind !== 'gone')
            .map(p => p.text)
            .join(''),
        ).toBe(b);
      }),
    );
    expect(pieces('within 2 days', 'within 3 days').map(p => p.kind)).toEqual(['same', 'gone', 'new', 'same']);
  });
});
