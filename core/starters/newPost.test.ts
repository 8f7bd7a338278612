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
const asked = { title: 'Watch lead', department: 'Observatory', need: 'Nights stand empty', pay: 60_000, share: 1 };
const paper = { id: 'f1', name: 'paper.pdf', size: 900, type: 'application/pdf' };

/** The paper that was asked for last is made. */
function made(run: Run): Run {
  const letter = run.wanted.filter(effect => effect.kind === 'make letter').at(-1);
  if (letter?.kind !== 'make letter') throw new Error('no paper is made');
  const result = { file: paper } as never;
  return run.do({ kind: 'effect', key: letter.key, outcome: { state: 'delivered', result } }, null);
}
const papersOf = (run: Run) => run.wanted.flatMap(effect => (effect.kind === 'make letter' ? [effect.letter] : []));
const mails = (run: Run, to: string) =>
  run.wanted.flatMap(effect => (effect.kind === 'mail' && effect.to === to ? [effect.body] : []));
/** As far as the director, the paper being made. */
const before = () => made(new Run(definition, asked)).answer('approve', 'tom');
const disagrees = (run: Run) =>
  run.do(
    {
      kind: 'could not',
      seen: run.state.version,
      task: run.state.tasks[0].id,
      note: 'Nobody comes for that.',
    },
    'ina',
  );

test('a director who changes the pay has it told, old and new, with the paper anew, and answered', () => {
  const run = before();
  expect(run.holders).toEqual(['dora']);
  made(run.answer('approve', 'dora', { answers: { pay: 52_000 } }));
  expect(run.state.answers).toMatchObject({ pay: 52_000, 'asked-pay': 60_000 });
  expect(mails(run, 'ina').some(body => body.includes('60,000.00 EUR → 52,000.00 EUR'))).toBe(true);
  expect(JSON.stringify(papersOf(run).at(-1))).toContain('52,000.00 EUR a year');
  expect(run.holders).toEqual(['ina']);
});

test('whoever decides first may change the figures too, and whoever decides after reads them', () => {
  const run = made(new Run(definition, asked)).answer('approve', 'tom', { answers: { share: 0.8 } });
  expect(run.holders).toEqual(['dora']);
  made(run.answer('approve', 'dora'));
  expect(run.state.answers).toMatchObject({ share: 0.8, 'asked-share': 1 });
  expect(run.holders).toEqual(['ina']);
});

test('a director who changes nothing asks nobody to agree', () => {
  const run = before().answer('approve', 'dora');
  expect(mails(run, 'ina')).toEqual([]);
  expect(papersOf(run)).toHaveLength(1);
  expect(run.holders).toEqual(['dora']);
  expect(run.state.tasks[0].step).toBe('open-it');
});

test.each([52_000, 30_000])('who does not agree to %i has it decided again, from the first who decided', pay => {
  const run = disagrees(made(before().answer('approve', 'dora', { answers: { pay } })));
  expect(run.holders).toEqual(['tom']);
  run.answer('approve', 'tom', { answers: { pay: 58_000 } });
  made(run.answer('approve', 'dora'));
  expect(run.holders).toEqual(['ina']);
  expect(mails(run, 'ina').some(body => body.includes('60,000.00 EUR → 58,000.00 EUR'))).toBe(true);
});

test('who agrees lets HR open the post, which stands on the list at what it costs', () => {
  const run = made(before().answer('approve', 'dora', { answers: { pay: 52_000 } }));
  run.do(
    { kind: 'complete', seen: run.state.version, task: run.state.tasks[0].id, ticked: [], answers: {}, note: null },
    'ina',
  );
  const [task] = run.state.tasks;
  expect(task.step).toBe('open-it');
  const ticked = definition.steps.flatMap(step =>
    step.id === 'open-it' && 'checklist' in step ? (step.checklist ?? []).map(item => item.id) : [],
  );
  const answers = { profile: 'Leads a watch of four.' };
  run.do({ kind: 'complete', seen: run.state.version, task: task.id, ticked, answers, note: null }, 'dora');
  const row = run.wanted.find(effect => effect.kind === 'add row');
  expect(row).toMatchObject({ list: 'open-posts', values: { Title: 'Watch lead', Cost: 67_600 } });
});

test.each([
  ['Band 3', 60_000, true],
  ['Band 2', 60_000, false],
  ['Band 1', 24_000, true],
  ['Band 1', 23_999, false],
  [null, 500_000, true],
])('in %s a pay of %i is taken in: %s', (band, pay, isIn) => {
  const ask = () => new Run(definition, { ...asked, band, pay });
  if (isIn) expect(ask().state.status).toBe('open');
  else expect(ask).toThrow('This lies outside of the pay band.');
});

test('what is approved lies within the band, or the band is changed with it', () => {
  const run = made(new Run(definition, { ...asked, band: 'Band 3' })).answer('approve', 'tom');
  expect(() => run.answer('approve', 'dora', { answers: { pay: 30_000 } })).toThrow('outside of the pay band');
  made(run.answer('approve', 'dora', { answers: { pay: 30_000, band: 'Band 1' } }));
  expect(run.state.answers).toMatchObject({ pay: 30_000, band: 'Band 1' });
});
