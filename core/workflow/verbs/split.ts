/** Split: lanes side by side. */

import { idFrom } from '../../form/index.ts';
import type { Findings } from '../checking/finding.ts';
import type { StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import type { Placed } from '../definition/structure.ts';
import type { LineParts } from '../language/line.ts';
import { finish, need, type Passage, readWhen } from '../language/passage.ts';
import { type Choice, named, say } from '../language/phrase.ts';
import type { Known } from '../language/ruleReader.ts';
import { Scanner } from '../language/scanner.ts';
import { type Writing, when } from '../language/writing.ts';
import type { VerbModule } from './verb.ts';

function sentence(writing: Writing, step: StepOf<'Split'>, path: Path): LineParts {
  const n = step.lanes.length;
  const words = (needs: StepOf<'Split'>['needs']) =>
    needs === 'all' ? 'all are done' : needs === 'any' ? 'any is done' : `${needs} are done`;
  const choices: Choice[] = (
    ['all', 'any', ...Array.from({ length: Math.max(0, n - 2) }, (_, i) => i + 2)] as const
  ).map(value => ({
    value,
    words: `it goes on when ${words(value)}`,
  }));
  return {
    sentence: [
      ...when(writing, step, path),
      say(`${n} ${n === 1 ? 'lane' : 'lanes'} side by side; it goes on when`),
      { text: words(step.needs), edit: { kind: 'choice', path: [...path, 'needs'], value: step.needs, choices } },
      say('.'),
    ],
    rows: step.lanes.map((lane, i) => ({
      label: `Lane ${String.fromCharCode(97 + i)}`,
      written: 'lane',
      tone: 'plain',
      phrases: [named(lane.name, { kind: 'text', path: [...path, 'lanes', i, 'name'], value: lane.name })],
      path: [...path, 'lanes', i],
    })),
    after: [],
  };
}

function read(passage: Passage, known: Known, id: string): StepOf<'Split'> {
  const s = new Scanner(passage.sentence);
  const when = readWhen(s, known);
  need(s, s.eat(/\d+ lanes? side by side\s*;\s*it goes on when/, 'lanes side by side'), '');
  const all = s.eat(/all are done|any is done|(\d+) are done/, 'all are done');
  const said = need(s, all, '');
  const needs = /^all/i.test(said[0]) ? 'all' : /^any/i.test(said[0]) ? 'any' : Number(said[1]);
  finish(s);
  const lanes = passage.rows.map(row => {
    const r = new Scanner(row);
    need(r, r.eat(/lane:?/, 'lane'), '');
    return need(r, r.quoted(), 'as the name of a lane');
  });
  const ids: string[] = [];
  return {
    verb: 'Split',
    id,
    when,
    needs,
    lanes: lanes.map(name => {
      const lane = idFrom(name, ids);
      ids.push(lane);
      return { id: lane, name, steps: [] };
    }),
  };
}

function check(findings: Findings, { path }: Placed, step: StepOf<'Split'>): void {
  if (typeof step.needs === 'number' && step.needs > step.lanes.length) {
    findings.add(
      'stops',
      'lanes',
      step,
      [...path, 'needs'],
      `${step.needs} of ${step.lanes.length} lanes can never be done`,
      'There are not so many lanes.',
      {
        fix: { label: 'Wait for all lanes', path: [...path, 'needs'], value: 'all' },
      },
    );
  }
  step.lanes.forEach((lane, n) => {
    if (lane.steps.length === 0)
      findings.add(
        'warns',
        'lane',
        step,
        [...path, 'lanes', n],
        `Nothing happens in “${lane.name}”`,
        'The lane is done at once.',
      );
  });
}

export const split: VerbModule<'Split'> = {
  take: (execution, step) => execution.begin(step),
  say: sentence,
  read,
  check,
};
