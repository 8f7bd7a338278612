/** Two versions of a definition side by side, sentence by sentence. */

import type { DirectoryIndex } from '../../people/index.ts';
import { workingWords } from '../../time/index.ts';
import { afterwardsOf } from '../commands/afterwards/amending.ts';
import type { Definition } from '../definition/definition.ts';
import { ownedNextWords, tasksMoveWords } from '../execution/movingAlong.ts';
import { closingWords, fieldWords, messageWords } from '../language/formWords.ts';
import { peopleWords } from '../language/ruleWords.ts';
import { plainOf } from '../mail/richText.ts';
import { type Line, procedure, readAloud } from '../procedure/procedure.ts';

export type Section =
  | 'About'
  | 'Form'
  | 'Access'
  | 'Figures'
  | 'Steps'
  | 'Messages'
  | 'Letters'
  | 'Closings'
  | 'Checks';
/** `numbers` are those of the step before and after, where it is one. */
export type Difference = {
  section: Section;
  id: string;
  kind: 'same' | 'changed' | 'moved' | 'new' | 'gone';
  before: string | null;
  after: string | null;
  numbers?: { before: string | null; after: string | null };
};

type Entry = { id: string; words: string; number?: string };

const about = (d: Definition, index?: DirectoryIndex): Entry[] => [
  { id: 'name', words: `${d.name}, in ${d.area}.` },
  { id: 'purpose', words: d.purpose },
  { id: 'tags', words: d.tags?.length ? `Tags: ${d.tags.join(', ')}.` : 'No tags.' },
  { id: 'opening', words: openingWords(d, index) },
  ...(d.countsBack ? [{ id: 'counts-back', words: countsBackWords(d, index) }] : []),
  { id: 'afterwards', words: afterwardsWords(d) },
  ...(d.tasksMove ? [{ id: 'tasks-move', words: tasksMoveWords(d) }] : []),
  ...(d.ownedNext ? [{ id: 'owned-next', words: ownedNextWords(d, index) }] : []),
  ...Object.entries(d.phrases ?? {}).map(([label, also]) => ({
    id: `phrases-${label}`,
    words: `In a reply by mail, “${label}” is also meant by ${also.map(one => `“${one}”`).join(', ')}.`,
  })),
];

/** Who may ask, in words. */
const afterWords = { decided: 'is decided again', 'at once': 'is done at once', not: 'is not open to the asker' };

/** What the asker may still do with what was approved. */
export function afterwardsWords(definition: Definition): string {
  const { change, cancel } = afterwardsOf(definition);
  return `After approval, a change ${afterWords[change]} and a cancellation ${afterWords[cancel]}.`;
}

/** What is asked for from outside, who keeps it, and for how long. */
function outsideWords(definition: Definition, index?: DirectoryIndex): string {
  const outside = definition.opening?.outside;
  if (!outside) return '';
  const { name, mail, sections, keptBy, keptMonths } = outside;
  const label = (id: string) => definition.form.fields.find(f => f.id === id)?.label ?? id;
  const titles = sections.map(id => definition.form.sections?.find(s => s.id === id)?.title ?? id);
  const kept =
    keptMonths === undefined
      ? ''
      : ` Everything of it is deleted ${keptMonths === 1 ? 'a month' : `${keptMonths} months`} after its end.`;
  return ` Somebody outside may ask too, at a public address: they fill in ${titles.join(', ')}, are called by ${label(name)} and written to at ${label(mail)}; ${peopleWords(keptBy, index, definition)} keeps it in the house.${kept}`;
}

export function openingWords(definition: Definition, index?: DirectoryIndex): string {
  const { opening } = definition;
  if (!opening) return 'Everybody may ask, for themselves.';
  const forWhom = {
    self: 'themselves',
    report: 'people who report to them',
    joiner: 'people who have not started yet',
  };
  const first = opening.who?.first;
  const who =
    first === undefined || first.kind === 'asker'
      ? 'Everybody'
      : first.kind === 'role'
        ? `Anyone with the role ${first.role}`
        : first.kind === 'everyone'
          ? `Everyone in ${[first.place && (index?.place(first.place)?.name ?? first.place), first.department && (index?.department(first.department)?.name ?? first.department)].filter(Boolean).join(', ') || 'the house'}`
          : `Whoever is found by “${first.kind}”`;
  const from = opening.from ? ` From ${opening.from} on.` : '';
  const to = opening.to ? ` Until ${opening.to}.` : '';
  return `${who} may ask, for ${opening.forWhom.map(f => forWhom[f]).join(' and for ')}.${from}${to}${outsideWords(definition, index)}`;
}

/** From which date a workflow counts back, and what is made of it; nothing is counted back where none is said. */
export function countsBackWords(definition: Definition, index?: DirectoryIndex): string {
  const { countsBack } = definition;
  if (!countsBack) return 'Nothing is counted back from a date.';
  const { field, place, notice, tightWithin, movedBy, alert } = countsBack;
  const label = (id: string) => definition.form.fields.find(f => f.id === id)?.label ?? id;
  const days = (workingDays: number) => workingWords({ workingDays });
  const where = place === undefined ? 'the person that it is for' : label(place);
  return [
    `It counts back from ${label(field)}, in working days of the place of ${where}.`,
    notice === undefined ? '' : `It is asked ${days(notice)} before at least.`,
    tightWithin === undefined ? '' : `Up to ${days(tightWithin)} to spare is tight.`,
    movedBy
      ? `The date is moved by the asker, by HR, and by ${peopleWords(movedBy, index, definition)}.`
      : 'The date is moved by the asker and by HR.',
    alert
      ? `${days(alert.workingDays)} before, ${peopleWords(alert.tell, index, definition)} is told when it is not ready.`
      : '',
  ]
    .filter(Boolean)
    .join(' ');
}

const accessEntries = (d: Definition): Entry[] =>
  Object.entries(d.access ?? {}).flatMap(([step, levels]) =>
    Object.entries(levels).map(([field, level]) => ({
      id: `${step}/${field}`,
      words: `${d.form.fields.find(f => f.id === field)?.label ?? field} is ${level} at “${step}”.`,
    })),
  );

const lineEntry = (line: Line): Entry => ({
  id: line.step,
  words: `${line.verb}: ${readAloud(line)}`,
  number: line.number,
});

/** The sentences of one definition, by section. */
function entries(d: Definition, index?: DirectoryIndex): [Section, Entry[]][] {
  return [
    ['About', about(d, index)],
    [
      'Form',
      [
        ...(d.form.sections ?? []).map(s => ({ id: `section ${s.id}`, words: `Section “${s.title}”.` })),
        ...d.form.fields.map(f => ({ id: f.id, words: fieldWords(f, d) })),
      ],
    ],
    ['Access', accessEntries(d)],
    ['Figures', d.figures.map(f => ({ id: f.id, words: `${f.name} is ${f.formula} (${f.unit}).` }))],
    ['Steps', procedure(d, index).map(lineEntry)],
    ['Messages', d.messages.map(m => ({ id: m.id, words: messageWords(m) }))],
    [
      'Letters',
      (d.letters ?? []).map(one => ({
        id: one.id,
        words: `“${one.name}”: ${one.title}. ${plainOf(one.body)}${one.foot ? ` Foot: ${one.foot}` : ''}`,
      })),
    ],
    ['Closings', d.closings.map(c => ({ id: c.id, words: closingWords(c, d) }))],
    [
      'Checks',
      (d.checks ?? []).map(c => ({
        id: c.id,
        words: `“${c.name}”: ${c.acts.length} acts, ${c.expect[c.expect.length - 1] ?? 'nothing'}.`,
      })),
    ],
  ];
}

/** The ids that keep their order among one another: the longest run common to both. */
function inOrder(a: readonly string[], b: readonly string[]): Set<string> {
  const lengths = Array.from({ length: a.length + 1 }, () => new Array<number>(b.length + 1).fill(0));
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      lengths[i][j] = a[i] === b[j] ? lengths[i + 1][j + 1] + 1 : Math.max(lengths[i + 1][j], lengths[i][j + 1]);
  const kept = new Set<string>();
  for (let i = 0, j = 0; i < a.length && j < b.length; ) {
    if (a[i] === b[j]) {
      kept.add(a[i]);
      i++;
      j++;
    } else if (lengths[i + 1][j] >= lengths[i][j + 1]) i++;
    else j++;
  }
  return kept;
}

/** A step number inside a sentence changes with every step put before it; the sentence itself does not. */
const withoutNumbers = (words: string): string => words.replace(/\b(go to|again from|settled step) [0-9a-z]+/g, '$1 …');

export function compare(before: Definition, after: Definition, index?: DirectoryIndex): Difference[] {
  const then = new Map(entries(before, index));
  const found: Difference[] = [];
  for (const [section, now] of entries(after, index)) {
    const old = then.get(section) ?? [];
    const stays = inOrder(
      old.map(e => e.id),
      now.map(e => e.id),
    );
    const oldById = new Map(old.map(e => [e.id, e]));
    const numbers = (b?: Entry, a?: Entry) =>
      section === 'Steps' ? { numbers: { before: b?.number ?? null, after: a?.number ?? null } } : {};
    const gone = old.filter(e => !now.some(n => n.id === e.id));
    now.forEach(entry => {
      const was = oldById.get(entry.id);
      const same = was !== undefined && withoutNumbers(was.words) === withoutNumbers(entry.words);
      const kind = was === undefined ? 'new' : !same ? 'changed' : stays.has(entry.id) ? 'same' : 'moved';
      found.push({
        section,
        id: entry.id,
        kind,
        before: was?.words ?? null,
        after: entry.words,
        ...numbers(was, entry),
      });
    });
    for (const entry of gone) {
      // Stands where it stood: behind the one that came before it and is still there.
      const at = old.indexOf(entry);
      const anchor = old
        .slice(0, at)
        .reverse()
        .find(e => now.some(n => n.id === e.id) || gone.includes(e));
      const place = anchor
        ? found.findIndex(f => f.section === section && f.id === anchor.id) + 1
        : found.findIndex(f => f.section === section);
      const line: Difference = {
        section,
        id: entry.id,
        kind: 'gone',
        before: entry.words,
        after: null,
        ...numbers(entry, undefined),
      };
      if (place < 0 || (anchor && place === 0)) found.push(line);
      else found.splice(place, 0, line);
    }
  }
  return found;
}

export type Piece = { text: string; kind: 'same' | 'gone' | 'new' };

/** What changed inside a sentence, word by word. */
export function pieces(before: string, after: string): Piece[] {
  const a = before.split(/(\s+)/);
  const b = after.split(/(\s+)/);
  const lengths = Array.from({ length: a.length + 1 }, () => new Array<number>(b.length + 1).fill(0));
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      lengths[i][j] = a[i] === b[j] ? lengths[i + 1][j + 1] + 1 : Math.max(lengths[i + 1][j], lengths[i][j + 1]);
  const found: Piece[] = [];
  const add = (text: string, kind: Piece['kind']) => {
    const last = found[found.length - 1];
    if (last?.kind === kind) last.text += text;
    else found.push({ text, kind });
  };
  let i = 0;
  let j = 0;
  while (i < a.length || j < b.length) {
    if (i < a.length && j < b.length && a[i] === b[j]) {
      add(a[i++], 'same');
      j++;
    } else if (j >= b.length || (i < a.length && lengths[i + 1][j] >= lengths[i][j + 1])) add(a[i++], 'gone');
    else add(b[j++], 'new');
  }
  return found;
}

/** How many sentences differ, in words: `2 changed, 1 new`. */
export function differenceWords(differences: readonly Difference[]): string {
  const counts = (['changed', 'moved', 'new', 'gone'] as const)
    .map(kind => ({ kind, n: differences.filter(d => d.kind === kind).length }))
    .filter(c => c.n > 0);
  return counts.length === 0 ? 'Nothing differs' : counts.map(c => `${c.n} ${c.kind}`).join(', ');
}
