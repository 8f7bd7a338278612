/** Provision: what is asked of a system outside through a connection. */

import { sameValue } from '../../facts/index.ts';
import { nearest } from '../../formula/index.ts';
import type { CivilDate, Instant } from '../../time/index.ts';
import { type Findings, nearestFix } from '../checking/finding.ts';
import { fieldReference, goFinding } from '../checking/references.ts';
import { type Go, nameInQuotes, type Offered, provisions, type StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import type { Placed } from '../definition/structure.ts';
import type { Execution } from '../execution/execution.ts';
import { workOut } from '../figures/evaluate.ts';
import type { LineParts, Row } from '../language/line.ts';
import { finish, need, type Passage, readFormula, readGo, readValues, readWhen } from '../language/passage.ts';
import { type Choice, named, say } from '../language/phrase.ts';
import type { Known } from '../language/ruleReader.ts';
import { readField } from '../language/ruleReader.ts';
import { Scanner } from '../language/scanner.ts';
import { fieldPhrase, formulaPhrase, goPhrase, type Writing, when } from '../language/writing.ts';
import type { NamedValues } from '../request/events.ts';
import { values, valuesPhrase } from './parts/values.ts';
import type { VerbModule } from './verb.ts';

function take(execution: Execution, step: StepOf<'Provision'>): void {
  const found = values(execution, step.id, step.values);
  if (!found) return;
  let undoOn: CivilDate | null = null;
  if (step.removeOn) {
    const worked = workOut(execution.definition, step.removeOn, 'date', execution.scope(), execution.facts().lists);
    if (!worked.known) return execution.stuck(step.id, worked.because);
    undoOn = worked.value as CivilDate;
  }
  const { connection, action } = step;
  const undoAt = undoOn && execution.endOf(undoOn);
  if (movesDay(execution, step, { values: found, undoOn, undoAt })) return execution.goOn({ to: 'next' }, step.id);
  const key = execution.key(connection);
  execution.effect({ kind: 'provision', key, step: step.id, connection, action, values: found, undoOn, undoAt });
  execution.emit({
    kind: 'provisioned',
    step: step.id,
    what: { code: 'asked of connection', connection, action, values: found, until: undoOn },
    undelivered: true,
    key,
  });
  if (!step.waits) return execution.goOn({ to: 'next' }, step.id);
  execution.emit({
    kind: 'waiting',
    step: step.id,
    until: null,
    reason: { code: 'until connection answered', connection },
  });
}

type Wanted = { values: NamedValues; undoOn: CivilDate | null; undoAt: Instant | null };

/**
 * Gone through again with the same values, as after a change that was approved, a step gives nothing twice: what it gave
 * stands, and ends on the day that is said now. What it gave with other values is taken back.
 */
function movesDay(execution: Execution, step: StepOf<'Provision'>, { values, undoOn, undoAt }: Wanted): boolean {
  const { connection, action } = step;
  let moves = false;
  for (const { key, step: of, what } of execution.state.provided ?? []) {
    if (of !== step.id || what?.code !== 'asked of connection') continue;
    const isSame = what.connection === connection && what.action === action && sameValue(what.values, values) && !moves;
    if (!isSame) {
      execution.effect({ kind: 'undo', key: `${key}:undo`, of: key });
      continue;
    }
    moves = true;
    if ((what.until ?? null) === undoOn) continue;
    // Each move is an effect of its own, however often the day is changed.
    const moved = `${key}:${execution.state.version}`;
    if (undoOn && undoAt)
      execution.effect({ kind: 'undo on', key: `${moved}:undo on`, of: key, on: undoOn, at: undoAt });
    else execution.effect({ kind: 'undo never', key: `${moved}:undo never`, of: key });
    execution.emit({
      kind: 'provisioned',
      step: step.id,
      what: { code: 'asked of connection', connection, action, values, until: undoOn },
      moves: key,
    });
  }
  return moves;
}

function sentence(writing: Writing, step: StepOf<'Provision'>, path: Path): LineParts {
  const undo = step.removeOn
    ? [say('; undo it at the end of'), formulaPhrase(step.removeOn, [...path, 'removeOn'], 'date')]
    : [
        {
          text: '; for good',
          edit: {
            kind: 'formula' as const,
            path: [...path, 'removeOn'],
            source: '',
            wanted: 'date' as const,
            mayBeEmpty: true as const,
          },
        },
      ];
  return {
    sentence: [
      ...when(writing, step, path),
      say('Ask'),
      named(step.connection, { kind: 'text', path: [...path, 'connection'], value: step.connection }),
      say('to'),
      {
        text: step.action,
        edit: {
          kind: 'choice',
          path: [...path, 'action'],
          value: step.action,
          choices: provisions.map(value => ({ value, words: value })),
        },
      },
      say('with'),
      valuesPhrase(step.values, [...path, 'values']),
      ...undo,
      say('.'),
    ],
    rows: [
      ...(step.fills ?? []).map((fill, n): Row => {
        const at: Path = [...path, 'fills', n];
        return {
          label: '',
          written: '',
          tone: 'plain',
          phrases: [
            say('take'),
            named(fill.from, { kind: 'text', path: [...at, 'from'], value: fill.from }),
            say('into'),
            fieldPhrase(writing, fill.field, [...at, 'field']),
          ],
          path: at,
        };
      }),
      ...(step.refused
        ? [
            {
              label: 'Refused',
              written: 'refused',
              tone: 'bad' as const,
              phrases: [goPhrase(writing, step.refused, step, [...path, 'refused'])],
              path: [...path, 'refused'],
            },
          ]
        : []),
    ],
    after: step.waits
      ? [
          {
            text: 'It waits until that is done.',
            edit: { kind: 'choice', path: [...path, 'waits'], value: true, choices: waitsChoices },
          },
        ]
      : [],
  };
}

export const waitsChoices: Choice[] = [
  { value: true, words: 'It waits until that is done' },
  { value: undefined, words: 'It goes on at once' },
];

function read(passage: Passage, known: Known, id: string): StepOf<'Provision'> {
  const s = new Scanner(passage.sentence);
  const when = readWhen(s, known);
  need(s, s.eat(/ask/, 'ask'), '');
  const connection = need(s, s.quoted(), 'as a connection');
  need(s, s.words('to') || undefined, '');
  const action = need(s, s.anyOf(...provisions) as (typeof provisions)[number] | undefined, 'as what to do');
  need(s, s.words('with') || undefined, '');
  const values = readValues(s);
  let removeOn: string | undefined;
  if (s.eat(/;\s*undo it (?:at the end of|on)/)) removeOn = readFormula(s);
  else s.eat(/;\s*for good/);
  finish(s);
  const fills: { from: string; field: string }[] = [];
  let refused: Go | undefined;
  for (const row of passage.rows) {
    const r = new Scanner(row);
    if (r.eat(/take(?=\s)/)) {
      const from = need(r, r.quoted(), 'as a name of what comes back');
      need(r, r.words('into') || undefined, '');
      fills.push({ from, field: need(r, readField(r, known), 'as a field') });
    } else {
      need(r, r.eat(/refused:?/, 'refused'), '');
      refused = need(r, readGo(r, known), 'as where it leads');
    }
    finish(r);
  }
  let waits: true | undefined;
  for (const text of passage.after) {
    const a = new Scanner(text);
    need(a, a.eat(/it waits until that is done\.?/), '');
    finish(a);
    waits = true;
  }
  return {
    verb: 'Provision',
    id,
    when,
    connection,
    action,
    values,
    ...(waits ? { waits } : {}),
    ...(fills.length > 0 ? { fills } : {}),
    ...(refused ? { refused } : {}),
    ...(removeOn ? { removeOn } : {}),
  };
}

/** A group or a space that the system outside does not know. */
function notThere(findings: Findings, step: StepOf<'Provision'>, { from }: Offered, formula: string, path: Path): void {
  const name = from && nameInQuotes(formula);
  const found = findings.around.absent?.find(
    one => one.connection === step.connection && one.from === from && one.name === name,
  );
  if (!found) return;
  const { near } = found;
  findings.add(
    'stops',
    'not there',
    step,
    path,
    `${step.connection} has no ${from === 'groups' ? 'group' : 'space'} “${name}”`,
    'It would refuse what this step asks for.',
    near === null ? {} : { fix: { label: `Take “${near}”`, path, value: JSON.stringify(near) } },
  );
}

/** What the connection does not do, values that it needs, and values that it does not know. */
function offered(findings: Findings, { path, number }: Placed, step: StepOf<'Provision'>): void {
  const { connections } = findings.around;
  // One that was never set up may come; a name that is nearly that of one that stands is a slip.
  const near =
    connections && !connections.includes(step.connection) ? nearest(step.connection, connections) : undefined;
  if (near !== undefined)
    findings.add(
      'stops',
      'connection',
      step,
      [...path, 'connection'],
      `There is no connection “${step.connection}”`,
      'Nothing would be asked of it.',
      { fix: { label: `Take “${near}”`, path: [...path, 'connection'], value: near } },
    );
  const offers = findings.around.offers?.[step.connection];
  if (!offers) return;
  const able = Object.keys(offers);
  if (!(step.action in offers)) {
    const [first] = able;
    findings.add(
      'stops',
      'not offered',
      step,
      [...path, 'action'],
      `${step.connection} does not ${step.action}`,
      `It can be asked to ${able.join(', ')}.`,
      first ? { fix: { label: `Ask it to ${first}`, path: [...path, 'action'], value: first } } : {},
    );
    return;
  }
  const values = offers[step.action];
  if (!values) return;
  const given = step.values.map(value => value.name);
  const missing = values.filter(value => value.needed && !given.includes(value.name));
  if (missing.length > 0)
    findings.add(
      'stops',
      'value missing',
      step,
      [...path, 'values'],
      `Step ${number} does not say all that ${step.connection} needs`,
      `To ${step.action} it needs ${missing.map(value => `${value.name} (${value.label})`).join(', ')}.`,
    );
  step.values.forEach(({ name, formula }, n) => {
    const known = values.find(value => value.name === name);
    if (known) return notThere(findings, step, known, formula, [...path, 'values', n, 'formula']);
    const near = nearestFix(
      name,
      values.map(value => ({ id: value.name, name: value.name })),
      [...path, 'values', n, 'name'],
    );
    findings.add(
      'warns',
      'value not known',
      step,
      [...path, 'values', n, 'name'],
      `${step.connection} takes no “${name}”`,
      `To ${step.action} it takes ${values.map(value => value.name).join(', ')}; what else is said is left aside.`,
      near,
    );
  });
}

function check(findings: Findings, placed: Placed, step: StepOf<'Provision'>): void {
  const { path } = placed;
  offered(findings, placed, step);
  step.fills?.forEach((fill, n) =>
    fieldReference(findings, step, fill.field, [...path, 'fills', n, 'field'], null, 'the field that is filled'),
  );
  if (!step.refused) return;
  goFinding(findings, placed, step.refused, [...path, 'refused'], '“refused”');
  if (step.waits) return;
  findings.add(
    'stops',
    'refused',
    step,
    [...path, 'refused'],
    'A refusal leads nowhere here',
    'The step does not wait for the answer, so the request has gone on when it comes.',
    { fix: { label: 'Let it wait', path: [...path, 'waits'], value: true } },
  );
}

export const provision: VerbModule<'Provision'> = { take, say: sentence, read, check };
