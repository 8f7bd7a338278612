/**
 * A definition as sentences. Each sentence is a row of phrases; some can be changed in place and say where in the
 * definition they stand, so that the written procedure is both what people read and what the designer edits.
 */
import type { DirectoryIndex } from '../../people/index.ts';
import { workingWords } from '../../time/index.ts';
import {
  type Definition,
  type Go,
  messageById,
  type Outcome,
  type Rework,
  type Step,
  type StepOf,
  type Until,
  type Verb,
} from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { type Placed, stepNumber, structure } from '../definition/structure.ts';
import { conditionPhrases } from '../language/conditionWords.ts';
import { aloud, type Choice, marked, named, type Phrase, quoted, say, written } from '../language/phrase.ts';
import { countWords, limitSentences, limitWords, peopleWords } from '../language/ruleWords.ts';
import {
  fieldPhrase,
  formulaPhrase,
  goPhrase,
  label,
  type NamedLists,
  type Pen,
  peoplePhrase,
  type Said,
  when,
} from '../language/writing.ts';
import { provision, record, tell } from '../verbs/effectLines.ts';

export { comparatorWords, conditionFrom } from '../language/conditionWords.ts';
export * from '../language/phrase.ts';

export type Row = {
  label: string;
  /** How the label is written where it is read back. */
  written: string;
  tone: Outcome['tone'] | 'plain';
  phrases: Phrase[];
  path: Path;
};

export type Line = {
  step: string;
  path: Path;
  /** `3`, or `4a2` for the second step in lane a of step 4. */
  number: string;
  depth: number;
  /** The lane that begins here, when this is its first step. */
  lane: string | null;
  verb: Verb;
  sentence: Phrase[];
  /** Rows under the sentence: of a table, the outcomes of a decision, a checklist, lanes. */
  rows: Row[];
  /** What holds besides: reminders, the limit. */
  after: Phrase[];
};

function afterPhrases(pen: Pen, step: StepOf<'Decide'> | StepOf<'Do'>, path: Path): Phrase[] {
  const { definition, index } = pen;
  const phrases: Phrase[] = [];
  if (step.limit) {
    const outcomeLabel = (id: string) =>
      (step.verb === 'Decide' ? step.outcomes.find(o => o.id === id)?.label : undefined) ?? id;
    const shown = limitSentences(step.limit, definition, index, 'shown', outcomeLabel);
    const back = limitSentences(step.limit, definition, index, 'written', outcomeLabel);
    const edit = { kind: 'limit' as const, path: [...path, 'limit'], limit: step.limit, step: step.id };
    shown.forEach((text, i) => phrases.push({ text, written: back[i], edit }));
  }
  if (step.whenAway === 'goes up') {
    phrases.push({
      text: 'Away without cover: it goes up the line.',
      edit: { kind: 'choice', path: [...path, 'whenAway'], value: 'goes up', choices: awayChoices },
    });
  }
  if (step.verb === 'Decide' && step.once) {
    phrases.push({
      text: 'Whoever approved the step before is not asked again.',
      edit: { kind: 'choice', path: [...path, 'once'], value: true, choices: onceChoices },
    });
  }
  if (step.verb === 'Decide' && step.askerMay) {
    phrases.push({
      text: 'The asker may have it.',
      edit: { kind: 'choice', path: [...path, 'askerMay'], value: true, choices: askerMayChoices },
    });
  }
  if (step.handTo) {
    phrases.push({
      text: 'It may be handed to anybody.',
      edit: { kind: 'choice', path: [...path, 'handTo'], value: 'anybody', choices: handToChoices },
    });
  }
  return phrases;
}

export const askerMayChoices: Choice[] = [
  { value: true, words: 'The asker may have it: it is not about their own wish' },
  { value: undefined, words: 'Nobody decides their own request' },
];
export const handToChoices: Choice[] = [
  { value: 'anybody', words: 'It may be handed to anybody' },
  { value: undefined, words: 'It is handed only to those whom its own rule may find' },
];
export const awayChoices: Choice[] = [
  { value: 'waits', words: 'Away without cover: it waits' },
  { value: 'goes up', words: 'Away without cover: it goes up the line' },
];
export const onceChoices: Choice[] = [
  { value: true, words: 'Whoever approved the step before is not asked again' },
  { value: undefined, words: 'Everybody is asked, whatever they answered before' },
];

const tones = { good: 'good', rework: 'rework', bad: 'bad' } as const;

function leadPhrases(pen: Pen, step: Step, leads: Go | Rework, path: Path): Phrase[] {
  if (leads.to !== 'rework') return [goPhrase(pen, leads, step, path)];
  const { definition } = pen;
  const by =
    leads.whom === undefined ? 'the asker' : `whoever settled step ${stepNumber(definition, leads.whom) || '?'}`;
  const back: Phrase = { text: by, edit: { kind: 'go', path, go: leads, step: step.id } };
  const fields: Phrase = {
    text: leads.fields.map(id => label(pen, id)).join(', '),
    written: leads.fields.map(id => quoted(label(pen, id))).join(', '),
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

function outcomeRow(pen: Pen, step: StepOf<'Decide'>, outcome: Outcome, path: Path): Row {
  const edit = { kind: 'outcome' as const, path, outcome, step: step.id };
  const phrases: Phrase[] = [];
  if (outcome.note === 'must') phrases.push({ text: 'note needed', edit }, say(';'));
  if (outcome.note === 'may') phrases.push({ text: 'a note may be given', edit }, say(';'));
  if (outcome.needs) {
    const names = outcome.needs.map(id => label(pen, id));
    phrases.push(
      { text: `needs ${names.join(', ')}`, written: `needs ${names.map(quoted).join(', ')}`, edit },
      say(';'),
    );
  }
  return {
    label: outcome.label,
    written: `${quoted(outcome.label)} (${tones[outcome.tone]})`,
    tone: outcome.tone,
    phrases: [...phrases, ...leadPhrases(pen, step, outcome.leads, [...path, 'leads'])],
    path,
  };
}

function decide(pen: Pen, step: StepOf<'Decide'>, path: Path): Said {
  const count = countWords(step.count);
  return {
    sentence: [
      ...when(pen, step, path),
      peoplePhrase(pen, step.who, [...path, 'who']),
      {
        text: count ? `decides ${count}` : 'decides',
        edit: { kind: 'count', path: [...path, 'count'], count: step.count },
      },
      {
        text: limitWords(step.limit, pen.definition),
        written: limitWords(step.limit, pen.definition, 'written'),
        edit: { kind: 'limit', path: [...path, 'limit'], limit: step.limit, step: step.id },
      },
      say('.'),
    ],
    rows: step.outcomes.map((outcome, o) => outcomeRow(pen, step, outcome, [...path, 'outcomes', o])),
    after: afterPhrases(pen, step, path),
  };
}

function doIt(pen: Pen, step: StepOf<'Do'>, path: Path): Said {
  const pool: Phrase = {
    text: step.pool ? ', whoever takes it first' : ', each of them',
    edit: {
      kind: 'choice',
      path: [...path, 'pool'],
      value: step.pool,
      choices: [
        { value: true, words: 'whoever takes it first' },
        { value: undefined, words: 'each of them' },
      ],
    },
  };
  const checklist = step.checklist ?? [];
  const rows: Row[] = checklist.map((item, n) => ({
    label: '',
    written: '',
    tone: 'plain',
    phrases: [say('tick'), named(item.label, { kind: 'checklist', path: [...path, 'checklist'], items: checklist })],
    path: [...path, 'checklist', n],
  }));
  if (step.couldNot) {
    rows.push({
      label: 'Could not',
      written: 'could not',
      tone: 'bad',
      phrases: [say('note needed'), say(';'), goPhrase(pen, step.couldNot, step, [...path, 'couldNot'])],
      path: [...path, 'couldNot'],
    });
  }
  return {
    sentence: [
      ...when(pen, step, path),
      peoplePhrase(pen, step.who, [...path, 'who']),
      say('does'),
      {
        text: `“${step.task}”`,
        written: quoted(step.task),
        edit: { kind: 'text', path: [...path, 'task'], value: step.task },
      },
      pool,
      {
        text: limitWords(step.limit, pen.definition),
        written: limitWords(step.limit, pen.definition, 'written'),
        edit: { kind: 'limit', path: [...path, 'limit'], limit: step.limit, step: step.id },
      },
      say('.'),
    ],
    rows,
    after: afterPhrases(pen, step, path),
  };
}

function choose(pen: Pen, step: StepOf<'Choose'>, path: Path): Said {
  const rows: Row[] = step.rows.map((r, n) => {
    const at: Path = [...path, 'rows', n];
    const sets = (r.sets ?? []).flatMap((set, s) => [
      say(', set'),
      fieldPhrase(pen, set.field, [...at, 'sets', s, 'field']),
      say('to'),
      formulaPhrase(set.formula, [...at, 'sets', s, 'formula']),
    ]);
    return {
      label: '',
      written: '',
      tone: 'plain',
      phrases: [
        ...conditionPhrases(pen.definition, r.condition, [...at, 'condition']),
        ...sets,
        say(':'),
        goPhrase(pen, r.go, step, [...at, 'go']),
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
      phrases: [say('Otherwise:'), goPhrase(pen, step.otherwise, step, at)],
      path: at,
    });
  }
  return { sentence: [...when(pen, step, path), say('By the first line that holds.')], rows, after: [] };
}

function split(pen: Pen, step: StepOf<'Split'>, path: Path): Said {
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
      ...when(pen, step, path),
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

export function untilWords(pen: Pen, until: Until, style: 'shown' | 'written'): string {
  const field = (id: string) => (style === 'shown' ? label(pen, id) : quoted(label(pen, id)));
  switch (until.kind) {
    case 'date':
      return `until ${style === 'shown' ? until.formula : marked(until.formula)}`;
    case 'before':
      return `until ${until.workingDays} working ${until.workingDays === 1 ? 'day' : 'days'} before ${field(until.field)}`;
    case 'time':
      return `for ${workingWords(until.amount)}`;
    case 'document':
      return `until ${field(until.field)} is in`;
    case 'requests':
      return 'until every request that it opened has ended';
  }
}

function saidOf(pen: Pen, { step, path }: Placed): Said {
  const { definition } = pen;
  switch (step.verb) {
    case 'Ask': {
      const labels = definition.form.fields
        .filter(f => f.kind !== 'fixed text')
        .map(f => f.label)
        .join(', ');
      return { sentence: [say(`The asker fills in ${labels || 'nothing yet'}.`)], rows: [], after: [] };
    }
    case 'Choose':
      return choose(pen, step, path);
    case 'Decide':
      return decide(pen, step, path);
    case 'Do':
      return doIt(pen, step, path);
    case 'Split':
      return split(pen, step, path);
    case 'Hold': {
      const edit = { kind: 'until' as const, path: [...path, 'until'], until: step.until };
      const phrase = {
        text: untilWords(pen, step.until, 'shown'),
        written: untilWords(pen, step.until, 'written'),
        edit,
      };
      return { sentence: [...when(pen, step, path), say('Wait'), phrase, say('.')], rows: [], after: [] };
    }
    case 'Record':
      return record(pen, step, path);
    case 'Provision':
      return provision(pen, step, path);
    case 'Tell':
      return tell(pen, step, path);
    case 'Close': {
      const closing = definition.closings.find(c => c.id === step.closing);
      const message = messageById(definition, closing?.message ?? null);
      const choices = definition.closings.map(c => ({ value: c.id, words: c.name }));
      return {
        sentence: [
          say('The request ends as'),
          named(closing?.name ?? step.closing, {
            kind: 'choice',
            path: [...path, 'closing'],
            value: step.closing,
            choices,
          }),
          ...(message ? [{ text: `and the asker gets “${message.name}”`, written: '' }] : []),
          say('.'),
        ],
        rows: [],
        after: [],
      };
    }
  }
}

function lineOf(pen: Pen, placed: Placed): Line {
  const { step, path, number, depth, around, position } = placed;
  return {
    step: step.id,
    path,
    number,
    depth,
    lane: around && position === 0 ? around.lane.name : null,
    verb: step.verb,
    ...saidOf(pen, placed),
  };
}

// Procedure and stones are drawn from the same lines; a definition never changes, so they are said once.
type SaidBefore = { index: DirectoryIndex | undefined; lists: NamedLists | undefined; lines: readonly Line[] };

const saidBefore = new WeakMap<Definition, SaidBefore>();

/** The written procedure, a line a step, the lines of lanes after the line of their split. */
export function procedure(definition: Definition, index?: DirectoryIndex, lists?: NamedLists): readonly Line[] {
  const before = saidBefore.get(definition);
  if (before && before.index === index && before.lists === lists) return before.lines;
  const pen: Pen = { definition, index, ...(lists ? { lists } : {}) };
  const lines = structure(definition).all.map(placed => lineOf(pen, placed));
  saidBefore.set(definition, { index, lists, lines });
  return lines;
}

/** One line as text: the sentence, its rows below, and what holds besides. */
export function lineText(line: Line): string {
  const tidy = (text: string) => text.replace(/\s+([.,:;])/g, '$1').replace(/ {2,}/g, ' ');
  const rows = line.rows.map(row => `  - ${tidy([row.written, written(row.phrases)].filter(Boolean).join(': '))}`);
  const after = line.after.map(phrase => `  + ${tidy(written([phrase]))}`);
  return [`${line.number}. ${line.verb}: ${tidy(written(line.sentence))}`, ...rows, ...after].join('\n');
}

/** The whole procedure as text that can be read back. */
export const writeProcedure = (definition: Definition, index?: DirectoryIndex): string =>
  procedure(definition, index).map(lineText).join('\n');

/** The procedure as people would read it aloud: one paragraph a step. */
export const readAloud = (line: Line): string =>
  [
    aloud(line.sentence),
    ...line.rows.map(row => `${row.label ? `${row.label}: ` : ''}${aloud(row.phrases)}.`),
    ...line.after.map(p => p.text),
  ].join(' ');

/** One sentence that describes a whole workflow, made from its definition. */
export function inOneSentence(definition: Definition, index?: DirectoryIndex): string {
  const deeds: string[] = [];
  for (const { step } of structure(definition).all) {
    if (step.verb === 'Decide')
      deeds.push(
        `${peopleWords({ ...step.who, otherwise: [], except: undefined }, index, definition)} ${step.when ? 'may decide' : 'decides'}`,
      );
    if (step.verb === 'Do')
      deeds.push(
        `${peopleWords({ ...step.who, otherwise: [], except: undefined }, index, definition)} does “${step.task}”`,
      );
    if (step.verb === 'Record' && step.effect.kind === 'book leave') deeds.push('the leave is booked');
    if (step.verb === 'Provision') deeds.push(`${step.connection} is asked to ${step.action}`);
  }
  const unique = [...new Set(deeds)];
  const good = definition.closings.find(c => c.tone === 'good') ?? definition.closings[0];
  const n = definition.form.fields.filter(f => f.kind !== 'fixed text').length;
  const first = `The asker fills in ${n} ${n === 1 ? 'field' : 'fields'}`;
  const all = [first, ...unique];
  const body = all.length > 1 ? `${all.slice(0, -1).join(', ')} and then ${all[all.length - 1]}` : all[0];
  return `${body}; it ends as ${
    definition.closings.length > 1
      ? `${good.name} or ${definition.closings
          .filter(c => c !== good)
          .map(c => c.name)
          .join(' or ')}`
      : good.name
  }.`;
}
