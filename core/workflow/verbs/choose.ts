/** Choose: the first row of a table that holds leads on. */

import { idFrom } from '../../form/index.ts';
import { readTable } from '../../formula/index.ts';
import type { Findings } from '../checking/finding.ts';
import { goFinding } from '../checking/references.ts';
import type { Go, StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import type { Placed } from '../definition/structure.ts';
import type { Execution } from '../execution/execution.ts';
import { compileWorkflow, judge } from '../figures/evaluate.ts';
import { domainOf } from '../figures/formulas.ts';
import { conditionPhrases } from '../language/conditionWords.ts';
import type { LineParts, Row } from '../language/line.ts';
import { finish, need, type Passage, readCondition, readFormula, readGo, readWhen } from '../language/passage.ts';
import { say } from '../language/phrase.ts';
import { type Known, readField } from '../language/ruleReader.ts';
import { Scanner } from '../language/scanner.ts';
import { fieldPhrase, formulaPhrase, goPhrase, type Writing, when } from '../language/writing.ts';
import { settingFindings } from './parts/setting.ts';
import type { VerbModule } from './verb.ts';

function take(execution: Execution, step: StepOf<'Choose'>): void {
  const scope = execution.scope();
  const { lists } = execution.facts();
  for (const row of step.rows) {
    const verdict = judge(execution.definition, row.condition, scope, lists);
    if (!verdict.known) return execution.stuck(step.id, verdict.because);
    if (!verdict.holds) continue;
    execution.emit({
      kind: 'chose',
      step: step.id,
      row: row.id,
      reason: { code: 'row holds', formula: row.condition, inputs: verdict.inputs },
    });
    for (const { field, formula } of row.sets ?? []) if (!execution.set(step.id, field, formula)) return;
    return execution.goOn(row.go, step.id);
  }
  if (!step.otherwise) return execution.stuck(step.id, { code: 'no otherwise' });
  execution.emit({ kind: 'chose', step: step.id, row: null, reason: { code: 'no row holds' } });
  execution.goOn(step.otherwise, step.id);
}

function sentence(writing: Writing, step: StepOf<'Choose'>, path: Path): LineParts {
  const rows: Row[] = step.rows.map((r, n) => {
    const at: Path = [...path, 'rows', n];
    const sets = (r.sets ?? []).flatMap((set, s) => [
      say(', set'),
      fieldPhrase(writing, set.field, [...at, 'sets', s, 'field']),
      say('to'),
      formulaPhrase(set.formula, [...at, 'sets', s, 'formula']),
    ]);
    return {
      label: '',
      written: '',
      tone: 'plain',
      phrases: [
        ...conditionPhrases(writing.definition, r.condition, [...at, 'condition']),
        ...sets,
        say(':'),
        goPhrase(writing, r.go, step, [...at, 'go']),
      ],
      path: at,
    };
  });
  if (step.otherwise) {
    const at: Path = [...path, 'otherwise'];
    rows.push({
      label: '',
      written: '',
      tone: 'plain',
      phrases: [say('Otherwise:'), goPhrase(writing, step.otherwise, step, at)],
      path: at,
    });
  }
  return { sentence: [...when(writing, step, path), say('By the first line that holds.')], rows, after: [] };
}

function read(passage: Passage, known: Known, id: string): StepOf<'Choose'> {
  const s = new Scanner(passage.sentence);
  const when = readWhen(s, known);
  need(s, s.eat(/by the first line that holds/, 'by the first line that holds'), '');
  finish(s);
  const rows: StepOf<'Choose'>['rows'] = [];
  let otherwise: Go | null = null;
  for (const text of passage.rows) {
    const r = new Scanner(text);
    if (r.eat(/otherwise:?/)) {
      otherwise = need(r, readGo(r, known), 'as where it leads');
    } else {
      const condition = need(r, readCondition(r, known, /:|,\s*set\s/), 'as a condition');
      const sets: { field: string; formula: string }[] = [];
      while (r.eat(/,\s*set/)) {
        const field = need(r, readField(r, known), 'as a field');
        need(r, r.words('to') || undefined, '');
        sets.push({ field, formula: readFormula(r) });
      }
      need(r, r.eat(/:/, ':'), '');
      const go = need(r, readGo(r, known), 'as where it leads');
      rows.push({
        id: idFrom(
          `row-${rows.length + 1}`,
          rows.map(x => x.id),
        ),
        condition,
        ...(sets.length > 0 ? { sets } : {}),
        go,
      });
    }
    finish(r);
  }
  return { verb: 'Choose', id, when, rows, otherwise };
}

function check(findings: Findings, placed: Placed, step: StepOf<'Choose'>): void {
  const { definition, around } = findings;
  const { path } = placed;
  step.rows.forEach((row, n) => {
    goFinding(findings, placed, row.go, [...path, 'rows', n, 'go'], `Row ${n + 1}`);
    row.sets?.forEach((set, s) => settingFindings(findings, step, set, [...path, 'rows', n, 'sets', s]));
  });
  if (step.otherwise) goFinding(findings, placed, step.otherwise, [...path, 'otherwise'], '“Otherwise”');
  const { names } = compileWorkflow(definition, around.lists);
  const reading = readTable(
    step.rows.map(r => r.condition),
    domainOf(definition, names),
  );
  const fix = { label: 'Add “otherwise go on”', path: [...path, 'otherwise'], value: { to: 'next' } };
  if (!reading) {
    if (!step.otherwise)
      findings.add(
        'stops',
        'gap',
        step,
        [...path, 'otherwise'],
        'Some requests may match no row',
        'Without “otherwise” they would be stuck here.',
        { fix },
      );
    return;
  }
  for (const n of reading.never) {
    findings.add(
      'stops',
      'never',
      step,
      [...path, 'rows', n, 'condition'],
      `Row ${n + 1} can never match`,
      n === 0 ? 'No answers make it true.' : 'The rows before it take every case, or no answers make it true.',
      { fix: { label: 'Take the row out', path: [...path, 'rows'], value: step.rows.filter((_, i) => i !== n) } },
    );
  }
  if (!step.otherwise && reading.gap) {
    findings.add(
      'stops',
      'gap',
      step,
      [...path, 'otherwise'],
      'Some requests match no row',
      `For example: ${reading.gap}. They would be stuck here.`,
      { fix },
    );
  }
  for (const { rows, example } of reading.overlaps) {
    const [a, b] = rows;
    if (JSON.stringify([step.rows[a].go, step.rows[a].sets]) === JSON.stringify([step.rows[b].go, step.rows[b].sets]))
      continue;
    findings.add(
      'warns',
      `overlap:${a}:${b}`,
      step,
      [...path, 'rows', b, 'condition'],
      `Rows ${a + 1} and ${b + 1} overlap`,
      `For example: ${example}. Row ${a + 1} is taken, because it stands first.`,
    );
  }
}

export const choose: VerbModule<'Choose'> = { take, say: sentence, read, check };
