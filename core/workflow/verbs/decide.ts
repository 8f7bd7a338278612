/** Decide: people choose an outcome. */

import { idFrom } from '../../form/index.ts';
import type { Findings } from '../checking/finding.ts';
import { fieldReference, goFinding, ruleReferences } from '../checking/references.ts';
import { fieldById, type Go, type Outcome, type Rework, type Step, type StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { type Placed, stepNumber, structure } from '../definition/structure.ts';
import { assign } from '../execution/assigning.ts';
import { levelAt } from '../figures/filling.ts';
import type { LineParts, Row } from '../language/line.ts';
import { finish, need, type Passage, readFields, readGo, readWhen } from '../language/passage.ts';
import { type Phrase, quoted, say } from '../language/phrase.ts';
import { type Known, readLimitTime, readQuorum, readRule } from '../language/ruleReader.ts';
import { countWords, limitWords } from '../language/ruleWords.ts';
import { Scanner } from '../language/scanner.ts';
import { goPhrase, label, peoplePhrase, type Writing, when } from '../language/writing.ts';
import { attachmentFindings, attachmentPhrases, readFiles } from './parts/attaching.ts';
import { afterPhrases, limitFindings, personParts } from './parts/people.ts';
import type { VerbModule } from './verb.ts';

const tones = { good: 'good', rework: 'rework', bad: 'bad' } as const;

function leadPhrases(writing: Writing, step: Step, leads: Go | Rework, path: Path): Phrase[] {
  if (leads.to !== 'rework') return [goPhrase(writing, leads, step, path)];
  const { definition } = writing;
  const by =
    leads.whom === undefined ? 'the asker' : `whoever settled step ${stepNumber(definition, leads.whom) || '?'}`;
  const back: Phrase = { text: by, edit: { kind: 'go', path, go: leads, step: step.id } };
  const fields: Phrase = {
    text: leads.fields.map(id => label(writing, id)).join(', '),
    written: leads.fields.map(id => quoted(label(writing, id))).join(', '),
    edit: { kind: 'fields', path: [...path, 'fields'], fields: leads.fields },
  };
  const from = stepNumber(definition, leads.resume) || '?';
  const often = leads.atMost === 1 ? 'once' : `at most ${leads.atMost} times`;
  return [
    back,
    say('may change'),
    fields,
    say(';'),
    { text: `again from ${from}, ${often}`, edit: { kind: 'go', path, go: leads, step: step.id } },
  ];
}

function outcomeRow(writing: Writing, step: StepOf<'Decide'>, outcome: Outcome, path: Path): Row {
  const edit = { kind: 'outcome' as const, path, outcome, step: step.id };
  const phrases: Phrase[] = [];
  if (outcome.note === 'must') phrases.push({ text: 'note needed', edit }, say(';'));
  if (outcome.note === 'may') phrases.push({ text: 'a note may be given', edit }, say(';'));
  if (outcome.needs) {
    const names = outcome.needs.map(id => label(writing, id));
    phrases.push(
      { text: `needs ${names.join(', ')}`, written: `needs ${names.map(quoted).join(', ')}`, edit },
      say(';'),
    );
  }
  return {
    label: outcome.label,
    written: `${quoted(outcome.label)} (${tones[outcome.tone]})`,
    tone: outcome.tone,
    phrases: [...phrases, ...leadPhrases(writing, step, outcome.leads, [...path, 'leads'])],
    path,
  };
}

function sentence(writing: Writing, step: StepOf<'Decide'>, path: Path): LineParts {
  const count = countWords(step.count);
  return {
    sentence: [
      ...when(writing, step, path),
      peoplePhrase(writing, step.who, [...path, 'who']),
      {
        text: count ? `decides ${count}` : 'decides',
        edit: { kind: 'count', path: [...path, 'count'], count: step.count },
      },
      {
        text: limitWords(step.limit, writing.definition),
        written: limitWords(step.limit, writing.definition, 'written'),
        edit: { kind: 'limit', path: [...path, 'limit'], limit: step.limit, step: step.id },
      },
      ...attachmentPhrases(writing, step.attach, path),
      say('.'),
    ],
    rows: step.outcomes.map((outcome, o) => outcomeRow(writing, step, outcome, [...path, 'outcomes', o])),
    after: afterPhrases(writing, step, path),
  };
}

/** How the lead of a rework is written: `the asker may change “Dates”; again from 2, at most 3 times`. */
function readRework(s: Scanner, known: Known): Rework | undefined {
  return s.try(() => {
    const whom = s.eat(/whoever settled step\s+([0-9a-z]+)\s+may change/);
    if (!whom && !s.eat(/the asker may change/)) return undefined;
    const fields = readFields(s, known);
    s.eat(/;/);
    const from = need(s, s.eat(/again from\s+([0-9a-z]+)/, 'again from'), '');
    const often = s.eat(/,?\s*(?:(once)|at most\s+(\d+)\s+times)/);
    const by = whom ? (known.stepAt(whom[1]) ?? '?') : undefined;
    return {
      to: 'rework' as const,
      ...(by ? { whom: by } : {}),
      fields,
      resume: known.stepAt(from[1]) ?? '?',
      atMost: often?.[2] ? Number(often[2]) : often ? 1 : 3,
    };
  });
}

function readOutcome(text: string, known: Known, taken: readonly string[]): Outcome {
  const s = new Scanner(text);
  const label = need(s, s.quoted(), 'as the words of an outcome');
  const tone = need(s, s.eat(/\((good|rework|bad)\)/, '(good), (rework) or (bad)'), 'as a tone')[1] as Outcome['tone'];
  s.eat(/:/);
  let note: Outcome['note'] = 'none';
  if (s.eat(/note needed\s*;/)) note = 'must';
  else if (s.eat(/a note may be given\s*;/)) note = 'may';
  let needs: string[] | undefined;
  if (s.eat(/needs(?=\s)/)) {
    needs = readFields(s, known);
    s.eat(/;/);
  }
  const leads = need(s, readRework(s, known) ?? readGo(s, known), 'as where it leads');
  finish(s);
  return { id: idFrom(label, taken), label, tone, note, ...(needs ? { needs } : {}), leads };
}

function read(passage: Passage, known: Known, id: string): StepOf<'Decide'> {
  const s = new Scanner(passage.sentence);
  const when = readWhen(s, known);
  const who = need(s, readRule(s, known), 'as who decides');
  need(s, s.eat(/decides?/, 'decides'), '');
  const count = readQuorum(s);
  const within = readLimitTime(s, known);
  const attach = readFiles(s, known);
  finish(s);
  const outcomes: Outcome[] = [];
  for (const row of passage.rows)
    outcomes.push(
      readOutcome(
        row,
        known,
        outcomes.map(o => o.id),
      ),
    );
  const { limit, whenAway, undecided, ...more } = personParts(passage, known, within, outcomes);
  return {
    verb: 'Decide',
    id,
    when,
    who,
    ...(count ? { count } : {}),
    ...(count && undecided !== undefined ? { undecided } : {}),
    whenAway,
    ...more,
    limit,
    outcomes,
    ...(attach ? { attach } : {}),
  };
}

function check(findings: Findings, placed: Placed, step: StepOf<'Decide'>): void {
  const { definition } = findings;
  const { path } = placed;
  ruleReferences(findings, step.who, step, [...path, 'who']);
  limitFindings(findings, placed, step);
  attachmentFindings(findings, step, step.attach, path);
  // Whoever keeps it for somebody outside has no wish of their own in it.
  if (step.askerMay && !findings.definition.opening?.outside)
    findings.add(
      'warns',
      'asker may',
      step,
      [...path, 'askerMay'],
      `The asker may have step ${placed.number}`,
      'That is right where they take it back, confirm or give something in. Nobody should decide their own wish.',
      { fix: { label: 'Never let the asker have it', path: [...path, 'askerMay'], value: undefined } },
    );
  if (typeof step.count === 'object' && !step.outcomes.some(o => o.tone === 'good')) {
    findings.add(
      'stops',
      'count',
      step,
      [...path, 'count'],
      'No outcome here counts as in favour',
      `At least ${step.count.atLeast} answers in favour are wanted, and they can never come.`,
      { fix: { label: 'Let the first answer settle', path: [...path, 'count'], value: undefined } },
    );
  }
  undecidedFinding(findings, step, path);
  if (step.outcomes.every(outcome => outcome.leads.to === 'rework')) {
    findings.add(
      'stops',
      'only back',
      step,
      [...path, 'outcomes'],
      'Every outcome here sends it back',
      'Once it was sent back as often as it may be, nobody can answer any more. Add one that leads on or closes.',
    );
  }
  const labels = new Set<string>();
  step.outcomes.forEach((outcome, o) => {
    const at: Path = [...path, 'outcomes', o];
    if (labels.has(outcome.label))
      findings.add(
        'stops',
        'label',
        step,
        [...at, 'label'],
        `“${outcome.label}” stands twice`,
        'Each outcome needs words of its own.',
      );
    labels.add(outcome.label);
    goFinding(findings, placed, outcome.leads, [...at, 'leads'], `“${outcome.label}”`);
    outcome.needs?.forEach((id, n) => {
      const field = fieldReference(findings, step, id, [...at, 'needs', n], null, 'what this outcome needs');
      if (!field || ['editable', 'required'].includes(levelAt(definition, step.id, field))) return;
      findings.add(
        'stops',
        'needs',
        step,
        [...at, 'needs', n],
        `“${outcome.label}” needs ${field.label}, which cannot be filled in here`,
        `At this step it is ${levelAt(definition, step.id, field)}.`,
        {
          fix: { label: 'Let it be filled in here', path: ['access', step.id, field.id], value: 'editable' },
        },
      );
    });
    if (outcome.leads.to !== 'rework') return;
    const { leads } = outcome;
    const unknown = leads.fields.filter(id => !fieldById(definition, id));
    const rest = leads.fields.filter(id => !unknown.includes(id));
    if (unknown.length > 0) {
      findings.add(
        'stops',
        'rework',
        step,
        [...at, 'leads', 'fields'],
        `“${outcome.label}” opens a field that is not in the form`,
        `${unknown.join(', ')} cannot be changed.`,
        rest.length > 0 ? { fix: { label: 'Take it out', path: [...at, 'leads', 'fields'], value: rest } } : {},
      );
    }
    const by = leads.whom === undefined ? undefined : structure(definition).of(leads.whom)?.step;
    if (leads.whom !== undefined && by?.verb !== 'Decide' && by?.verb !== 'Do') {
      findings.add(
        'stops',
        'whom',
        step,
        [...at, 'leads', 'whom'],
        `“${outcome.label}” sends back to a step that nobody handles`,
        'Choose a step that somebody decides or does.',
        {
          fix: { label: 'Send it back to the asker', path: [...at, 'leads', 'whom'], value: undefined },
        },
      );
    }
  });
}

/** The outcome that nobody minds if people do not agree: the one that declines, else one that sends back. */
const cautious = ({ outcomes }: StepOf<'Decide'>): Outcome =>
  outcomes.find(o => o.tone === 'bad') ?? outcomes.find(o => o.tone === 'rework') ?? outcomes[outcomes.length - 1];

function undecidedFinding(findings: Findings, step: StepOf<'Decide'>, path: Path): void {
  const { count, undecided } = step;
  if (undecided !== undefined && !step.outcomes.some(o => o.id === undecided)) {
    findings.add(
      'stops',
      'undecided',
      step,
      [...path, 'undecided'],
      'If they do not agree, an outcome is taken that is not there',
      `There is no outcome “${undecided}”.`,
      { fix: { label: `Take “${cautious(step).label}”`, path: [...path, 'undecided'], value: cautious(step).id } },
    );
    return;
  }
  // Where all must agree, the first answer against settles it; two outcomes in favour are two sides.
  const canDisagree =
    count === 'everyone' ? step.outcomes.filter(o => o.tone === 'good').length > 1 : step.outcomes.length > 1;
  if (undecided !== undefined || count === undefined || count === 'in turn' || !canDisagree) return;
  findings.add(
    'warns',
    'undecided',
    step,
    [...path, 'undecided'],
    'It does not say what happens if they do not agree',
    'The request would be blocked until HR operations name somebody to decide.',
    { fix: { label: `Take “${cautious(step).label}” then`, path: [...path, 'undecided'], value: cautious(step).id } },
  );
}

export const decide: VerbModule<'Decide'> = { take: assign, say: sentence, read, check };
