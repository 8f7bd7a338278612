/** Reads one step from its sentence, its rows and what stands after it. */
import { idFrom } from '../../form/index.ts';
import {
  type Go,
  type Limit,
  type Outcome,
  provisions,
  type RecordEffect,
  type Rework,
  type Step,
  type StepOf,
  type Until,
  type Verb,
} from '../definition/definition.ts';
import { namesOf } from '../figures/evaluate.ts';
import { conditionFrom } from '../language/conditionWords.ts';
import {
  type After,
  type Known,
  readAfter,
  readAmount,
  readCounting,
  readField,
  readLimitTime,
  readRule,
} from '../language/ruleReader.ts';
import { Scanner } from '../language/scanner.ts';

/** One step as text: the verb, the sentence, its rows and the sentences after it. */
export type Passage = { verb: Verb; sentence: string; rows: readonly string[]; after: readonly string[] };

export class NotUnderstood extends Error {
  readonly text: string;
  readonly at: number;
  readonly expected: readonly string[];
  constructor(scanner: Scanner, what: string) {
    const rest = scanner.text.slice(scanner.furthest).trim();
    super(
      rest
        ? `“${rest}” is not understood${what ? ` ${what}` : ''}.`
        : `The sentence ends too early${what ? ` ${what}` : ''}.`,
    );
    this.text = scanner.text;
    this.at = scanner.furthest;
    this.expected = scanner.expected;
  }
}

const need = <T>(s: Scanner, found: T | undefined, what = ''): T => {
  if (found === undefined || found === false) throw new NotUnderstood(s, what);
  return found;
};

const finish = (s: Scanner): void => {
  if (s.done) return;
  if (s.at > s.furthest) s.furthest = s.at;
  throw new NotUnderstood(s, '');
};

/** A condition in marks, or in words up to where the sentence goes on. */
export function readCondition(s: Scanner, known: Known, until: RegExp): string | undefined {
  const names = namesOf(known.definition);
  const inMarks = s.marked();
  if (inMarks !== undefined) return conditionFrom(inMarks, names, 'comparisons only') ?? inMarks;
  return s.try(() => {
    const found = new RegExp(`^(.*?)(?=${until.source})`, 'i').exec(s.rest);
    const words = found?.[1].trim();
    const formula = words ? conditionFrom(words, names) : undefined;
    if (!formula || !found) return undefined;
    s.at += found[0].length;
    return formula;
  });
}

const readWhen = (s: Scanner, known: Known): string | null => {
  if (!s.eat(/(?:when|if)(?=\s)/)) return null;
  const condition = need(s, readCondition(s, known, /,|\s+then\s/), 'as a condition');
  s.eat(/,|then/);
  return condition;
};

const readFormula = (s: Scanner): string => need(s, s.marked() ?? s.eat(/[^,;.“‹]+/)?.[0].trim(), 'as a formula');

/** `go on`, `go to 4`, `close as “Approved”`. */
export function readGo(s: Scanner, known: Known): Go | undefined {
  if (s.eat(/(?:it )?go(?:es)? on(?!\w)/, 'go on')) return { to: 'next' };
  const step = s.try(() => {
    if (!s.eat(/(?:it )?go(?:es)? (?:back )?to(?: step)?(?=\s)/, 'go to')) return undefined;
    const id = s.quoted();
    if (id !== undefined) return id;
    const number = s.eat(/\d+(?:[a-z]\d+)*/);
    return number && (known.stepAt(number[0].toLowerCase()) ?? '?');
  });
  if (step !== undefined) return { to: 'step', step };
  const closing = s.try(() => {
    if (!s.eat(/(?:it )?(?:close|closes|end|ends)(?: it)? as/, 'close as')) return undefined;
    return readClosing(s, known);
  });
  return closing === undefined ? undefined : { to: 'close', closing };
}

const readClosing = (s: Scanner, { definition }: Known): string | undefined =>
  s.name(
    [
      ...definition.closings.map(c => ({ name: c.name, value: c.id })),
      ...definition.closings.map(c => ({ name: c.id, value: c.id })),
    ],
    'a closing',
  );

const readMessage = (s: Scanner, { definition }: Known): string | undefined =>
  s.name(
    [
      ...definition.messages.map(m => ({ name: m.name, value: m.id })),
      ...definition.messages.map(m => ({ name: m.id, value: m.id })),
    ],
    'a message',
  );

function readFields(s: Scanner, known: Known): string[] {
  const fields = [need(s, readField(s, known), 'as a field')];
  for (let next = more(s, known); next !== undefined; next = more(s, known)) fields.push(next);
  return fields;
}
const more = (s: Scanner, known: Known): string | undefined =>
  s.try(() => (s.eat(/,(?:\s*and(?=\s))?|and(?=\s)/) ? readField(s, known) : undefined));

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

const isNone = (within: unknown): within is 'none' => within === 'none';

type PersonParts = Pick<StepOf<'Decide'>, 'whenAway' | 'limit' | 'once' | 'askerMay' | 'handTo'>;

/** The sentences after a step, and the limit that they belong to. */
function personParts(
  passage: Passage,
  known: Known,
  within: ReturnType<typeof readLimitTime>,
  outcomes: readonly Outcome[],
): PersonParts {
  const after: After = {};
  for (const text of passage.after) {
    const s = new Scanner(text);
    need(s, readAfter(s, known, after) || undefined, '');
    finish(s);
  }
  let limit: Limit | null = null;
  if (within !== undefined && !isNone(within)) {
    let atLimit: Limit['atLimit'] = 'wait';
    if (after.atLimit !== undefined) {
      const said = after.atLimit;
      if (typeof said === 'object' && 'takeLabel' in said) {
        const taken = outcomes.find(o => o.label === said.takeLabel || o.id === said.takeLabel);
        atLimit = { take: taken?.id ?? said.takeLabel };
      } else atLimit = said;
    }
    limit = { within, remind: after.remind ?? null, atLimit };
  }
  return {
    limit,
    whenAway: after.goesUp ? 'goes up' : 'waits',
    ...(after.once ? { once: after.once } : {}),
    ...(after.askerMay ? { askerMay: after.askerMay } : {}),
    ...(after.handTo ? { handTo: after.handTo } : {}),
  };
}

/** Reads a whole passage as one step; ids are made from the words. */
export function readStep(
  passage: Passage,
  known: Known,
  id: string,
): Exclude<Step, { verb: 'Split' }> | StepOf<'Split'> {
  const s = new Scanner(passage.sentence);
  switch (passage.verb) {
    case 'Ask':
      return { verb: 'Ask', id };
    case 'Choose':
      return readChoose(s, passage, known, id);
    case 'Decide': {
      const when = readWhen(s, known);
      const who = need(s, readRule(s, known), 'as who decides');
      need(s, s.eat(/decides?/, 'decides'), '');
      const count = readCounting(s);
      const within = readLimitTime(s, known);
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
      const { limit, whenAway, ...more } = personParts(passage, known, within, outcomes);
      return {
        verb: 'Decide',
        id,
        when,
        who,
        ...(count ? { count } : {}),
        whenAway,
        ...more,
        limit,
        outcomes,
      };
    }
    case 'Do':
      return readDo(s, passage, known, id);
    case 'Split': {
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
    case 'Hold': {
      const when = readWhen(s, known);
      need(s, s.eat(/wait/, 'wait'), '');
      const until = readUntil(s, known);
      finish(s);
      return { verb: 'Hold', id, when, until };
    }
    case 'Record': {
      const when = readWhen(s, known);
      const effect = readEffect(s, known);
      finish(s);
      return { verb: 'Record', id, when, effect };
    }
    case 'Provision': {
      const when = readWhen(s, known);
      need(s, s.eat(/ask/, 'ask'), '');
      const connection = need(s, s.quoted(), 'as a connection');
      need(s, s.words('to') || undefined, '');
      const action = need(s, s.anyOf(...provisions) as (typeof provisions)[number] | undefined, 'as what to do');
      need(s, s.words('with') || undefined, '');
      const values = readValues(s);
      let removeOn: string | undefined;
      if (s.eat(/;\s*undo it on/)) removeOn = readFormula(s);
      else s.eat(/;\s*for good/);
      finish(s);
      return { verb: 'Provision', id, when, connection, action, values, ...(removeOn ? { removeOn } : {}) };
    }
    case 'Tell':
      return readTell(s, known, id);
    case 'Close': {
      need(s, s.eat(/(?:the request ends|close|end)(?: it)? as/, 'the request ends as'), '');
      const closing = need(s, readClosing(s, known) ?? s.quoted(), 'as a closing');
      finish(s);
      return { verb: 'Close', id, closing };
    }
  }
}

function readChoose(s: Scanner, passage: Passage, known: Known, id: string): StepOf<'Choose'> {
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

function readDo(s: Scanner, passage: Passage, known: Known, id: string): StepOf<'Do'> {
  const when = readWhen(s, known);
  const who = need(s, readRule(s, known), 'as who does it');
  need(s, s.eat(/do(?:es)?(?!\w)/, 'does'), '');
  const task = need(s, s.quoted(), 'as what is to be done');
  const pool = s.eat(/,?\s*whoever takes it first/) !== undefined;
  if (!pool) s.eat(/,?\s*each of them/);
  const within = readLimitTime(s, known);
  finish(s);
  const checklist: { id: string; label: string }[] = [];
  let couldNot: Go | undefined;
  for (const text of passage.rows) {
    const r = new Scanner(text);
    if (r.eat(/tick/)) {
      const label = need(r, r.quoted(), 'as something to tick');
      checklist.push({
        id: idFrom(
          label,
          checklist.map(c => c.id),
        ),
        label,
      });
    } else {
      need(r, r.eat(/could not:?/, 'could not'), '');
      r.eat(/note needed\s*;/);
      couldNot = need(r, readGo(r, known), 'as where it leads');
    }
    finish(r);
  }
  const { limit, whenAway, handTo } = personParts(passage, known, within, []);
  return {
    verb: 'Do',
    id,
    when,
    who,
    ...(pool ? { pool: true as const } : {}),
    ...(handTo ? { handTo } : {}),
    whenAway,
    task,
    ...(checklist.length > 0 ? { checklist } : {}),
    limit,
    ...(couldNot ? { couldNot } : {}),
  };
}

export function readUntil(s: Scanner, known: Known): Until {
  const amount = s.try(() => (s.words('for') ? readAmount(s) : undefined));
  if (amount) return { kind: 'time', amount };
  need(s, s.words('until') || undefined, '');
  if (s.eat(/every request that it opened has ended/, 'every request that it opened has ended'))
    return { kind: 'requests' };
  const before = s.try(() => {
    const n = s.number();
    if (n === undefined || !s.eat(/(?:working )?days? before/)) return undefined;
    const field = readField(s, known);
    return field ? { kind: 'before' as const, workingDays: n, field } : undefined;
  });
  if (before) return before;
  const document = s.try(() => {
    const field = readField(s, known);
    return field && s.words('is in') ? field : undefined;
  });
  if (document) return { kind: 'document', field: document };
  return { kind: 'date', formula: readFormula(s) };
}

function readValues(s: Scanner): { name: string; formula: string }[] {
  if (s.words('nothing')) return [];
  const values: { name: string; formula: string }[] = [];
  do {
    const name = need(s, s.quoted(), 'as a name');
    values.push({ name, formula: need(s, s.marked(), 'as a formula') });
  } while (s.eat(/,/));
  return values;
}

function readEffect(s: Scanner, known: Known): RecordEffect {
  if (s.eat(/put/)) {
    const label = need(s, s.quoted(), 'as words on the planner');
    need(s, s.words('on the planner over') || undefined, '');
    return { kind: 'planner', label, span: need(s, readField(s, known), 'as a field') };
  }
  if (s.eat(/add a row to/)) {
    const list = need(s, s.quoted(), 'as a list');
    need(s, s.words('with') || undefined, '');
    return { kind: 'add row', list, values: readValues(s) };
  }
  if (s.eat(/change the row picked in/)) {
    const row = need(s, readField(s, known), 'as a field');
    s.eat(/:/);
    return { kind: 'change row', row, values: readValues(s) };
  }
  if (s.eat(/change/)) {
    const property = need(s, s.quoted(), 'as a part of the record');
    need(s, s.words('of the subject’s record to') || undefined, '');
    return { kind: 'person', property, formula: readFormula(s) };
  }
  if (s.eat(/set(?=\s)/)) {
    const field = need(s, readField(s, known), 'as a field');
    need(s, s.words('to') || undefined, '');
    return { kind: 'set', field, formula: readFormula(s) };
  }
  if (s.eat(/open/)) {
    const workflow = need(s, s.quoted(), 'as a workflow');
    need(s, s.words('for the subject with') || undefined, '');
    return { kind: 'open', workflow, values: readValues(s) };
  }
  need(s, s.eat(/book/, 'book'), '');
  const span = need(s, readField(s, known), 'as a span of leave');
  need(s, s.words('as leave of the chosen') || undefined, '');
  const type = need(s, readField(s, known), 'as a choice of leave types');
  const planner = s.eat(/;\s*put them on the team[’']s planner/) !== undefined;
  if (!planner) s.eat(/;\s*not on the planner/);
  return { kind: 'book leave', span, type, planner };
}

function readTell(s: Scanner, known: Known, id: string): StepOf<'Tell'> {
  const when = readWhen(s, known);
  need(s, s.eat(/send/, 'send'), '');
  const message = need(s, readMessage(s, known) ?? s.quoted(), 'as a message');
  need(s, s.words('to') || undefined, '');
  const to: StepOf<'Tell'>['to'] = [];
  const addresses: string[] = [];
  if (!s.words('nobody', false)) {
    do {
      const address = s.quoted();
      if (address !== undefined) addresses.push(address);
      else to.push(need(s, readRule(s, known), 'as somebody to tell'));
    } while (s.eat(/;\s*and to/));
  }
  const attached = s.eat(/;\s*with (?:an (invitation)|a (pdf))/);
  finish(s);
  return {
    verb: 'Tell',
    id,
    when,
    to,
    ...(addresses.length > 0 ? { addresses } : {}),
    message,
    ...(attached ? { attach: attached[1] ? ('invitation' as const) : ('pdf' as const) } : {}),
  };
}
