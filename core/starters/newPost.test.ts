/** A new post whose figures the director changes: old and new are told, and whoever asked agrees or answers. */
import { expect, test } from '@jest/globals';
import { Run } from '../testing/run.ts';
import type { Definition } from '../workflow/index.ts';
import { newPost } from './newPost.ts';

/** The test house has no grades: the director is asked as HR, once. */
const definition: Definition = {
  ...newPost.definition,
  steps: newPost.definition.steps.map(step =>
    step.id === 'spend' && 'who' in step ? { ...step, when: 'Cost a year < 0' } : step,
  ),
};
const asked = { title: 'Watch lead', department: 'Lights', need: 'Nights stand empty', pay: 60_000, share: 1 };
const paper = { id: 'f1', name: 'paper.pdf', size: 900, type: 'application/pdf' };

/** As far as the director, the paper being made. */
function before(): Run {
  const run = new Run(definition, asked);
  const letter = run.wanted.find(effect => effect.kind === 'make letter');
  if (letter?.kind !== 'make letter') throw new Error('no paper is made');
  run.do({ kind: 'effect', key: letter.key, outcome: { state: 'delivered', result: { file: paper } as never } }, null);
  run.answer('approve', 'tom');
  return run;
}
const mails = (run: Run, to: string) =>
  run.wanted.flatMap(effect => (effect.kind === 'mail' && effect.to === to ? [effect.body] : []));

test('a director who changes the pay has it told, old and new, and answered', () => {
  const run = before();
  expect(run.holders).toEqual(['dora']);
  run.answer('approve', 'dora', { answers: { pay: 52_000 } });
  expect(run.state.answers).toMatchObject({ pay: 52_000, 'asked-pay': 60_000 });
  expect(mails(run, 'ina').some(body => body.includes('60,000.00 EUR → 52,000.00 EUR'))).toBe(true);
  expect(run.holders).toEqual(['ina']);
});

test('a director who changes nothing asks nobody to agree', () => {
  const run = before().answer('approve', 'dora');
  expect(mails(run, 'ina')).toEqual([]);
  expect(run.holders).toEqual(['dora']);
  expect(run.state.tasks[0].step).toBe('open-it');
});
