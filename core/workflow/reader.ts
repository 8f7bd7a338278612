/**
 * Words turned into steps. Deterministic: the same words always give the same steps, what is not understood is said at
 * its place, and nothing is guessed in silence. Sentences that North Pebble writes read back into the same steps.
 */
import { idFrom } from '../form/index.ts';
import type { DirectoryIndex } from '../people/index.ts';
import { conditionFrom } from './conditionWords.ts';
import { type Definition, type Outcome, provisions, type Step, type StepOf, verbs } from './definition.ts';
import { namesOf } from './evaluate.ts';
import { type Known, readAmount, readCounting, readField, readLimitTime, readRule } from './ruleReader.ts';
import { Scanner } from './scanner.ts';
import { allSteps, structure } from './sequence.ts';
import { NotUnderstood, type Passage, readCondition, readGo, readStep, readUntil } from './stepReader.ts';
import { inSentence } from './stepWords.ts';

export type ReadingFault = { line: number; message: string; expected: readonly string[] };

type Numbered = Passage & { number: string; line: number };

const head = /^\s*(\d+(?:[a-z]\d+)*)\.\s+(\w+):\s*(.*)$/;

/** The lines of a written procedure gathered into one passage a step. */
function passages(text: string): { all: Numbered[]; faults: ReadingFault[] } {
  const all: (Numbered & { rows: string[]; after: string[] })[] = [];
  const faults: ReadingFault[] = [];
  text.split('\n').forEach((line, i) => {
    if (line.trim() === '') return;
    const found = head.exec(line);
    if (found) {
      const verb = verbs.find(v => v.toLowerCase() === found[2].toLowerCase());
      if (!verb) faults.push({ line: i + 1, message: `“${found[2]}” is not a verb of a step.`, expected: verbs });
      else all.push({ number: found[1], verb, sentence: found[3], rows: [], after: [], line: i + 1 });
      return;
    }
    const part = /^\s*([-+])\s+(.*)$/.exec(line);
    const last = all[all.length - 1];
    if (!part || !last)
      faults.push({ line: i + 1, message: `“${line.trim()}” belongs to no step.`, expected: ['1. Ask: …'] });
    else (part[1] === '-' ? last.rows : last.after).push(part[2]);
  });
  return { all, faults };
}

/** Ids of the base at the same places stay, so that only what the words changed is changed. */
function keepIds(step: Step, before: Step | undefined): Step {
  if (!before || before.verb !== step.verb) return step;
  const ids = <T extends { id: string }>(mine: readonly T[], theirs: readonly { id: string }[] | undefined): T[] =>
    mine.map((item, i) => (theirs?.[i] ? { ...item, id: theirs[i].id } : item));
  switch (step.verb) {
    case 'Choose':
      return { ...step, rows: ids(step.rows, (before as typeof step).rows) };
    case 'Decide': {
      const outcomes = ids(step.outcomes, (before as typeof step).outcomes);
      const { limit } = step;
      if (!limit || typeof limit.atLimit !== 'object' || !('take' in limit.atLimit)) return { ...step, outcomes };
      const { take } = limit.atLimit;
      const at = step.outcomes.findIndex(o => o.id === take);
      return { ...step, outcomes, limit: at < 0 ? limit : { ...limit, atLimit: { take: outcomes[at].id } } };
    }
    case 'Do':
      return step.checklist ? { ...step, checklist: ids(step.checklist, (before as typeof step).checklist) } : step;
    case 'Split':
      return { ...step, lanes: ids(step.lanes, (before as typeof step).lanes) };
    default:
      return step;
  }
}

/**
 * Reads a whole written procedure.
 * @param base the definition whose form, figures, messages and closings the words name; its ids are kept where they fit
 */
export function readProcedure(
  text: string,
  base: Definition,
  index?: DirectoryIndex,
): { ok: true; steps: Step[] } | { ok: false; faults: ReadingFault[] } {
  const { all, faults } = passages(text);
  const before = new Map(structure(base).all.map(p => [p.number, p.step]));
  const ids = new Map<string, string>();
  const taken: string[] = [];
  for (const passage of all) {
    const old = before.get(passage.number);
    const id =
      old && old.verb === passage.verb && !taken.includes(old.id)
        ? old.id
        : idFrom(passage.verb, [...taken, ...allSteps(base).map(s => s.id)]);
    ids.set(passage.number, id);
    taken.push(id);
  }
  const known: Known = { definition: base, index, unsure: [], stepAt: number => ids.get(number) };
  const steps: Step[] = [];
  const byNumber = new Map<string, Step>();
  for (const passage of all) {
    try {
      const step = keepIds(readStep(passage, known, ids.get(passage.number)!), before.get(passage.number));
      byNumber.set(passage.number, step);
      const within = /^(.*)([a-z])\d+$/.exec(passage.number);
      if (!within) steps.push(step);
      else {
        const split = byNumber.get(within[1]);
        const lane = split?.verb === 'Split' ? split.lanes[within[2].charCodeAt(0) - 97] : undefined;
        if (lane) lane.steps.push(step);
        else
          faults.push({
            line: passage.line,
            message: `There is no lane ${within[2]} in step ${within[1]}.`,
            expected: [],
          });
      }
    } catch (fault) {
      if (!(fault instanceof NotUnderstood)) throw fault;
      faults.push({ line: passage.line, message: fault.message, expected: fault.expected });
    }
  }
  return faults.length > 0 ? { ok: false, faults } : { ok: true, steps };
}

export type WordReading =
  | { ok: true; steps: Step[]; understood: string[]; unsure: string[] }
  | { ok: false; message: string; at: number; completions: string[] };

const usualOutcomes = (definition: Definition): Outcome[] => {
  const bad = definition.closings.find(c => c.tone === 'bad') ?? definition.closings[0];
  return [
    { id: 'approve', label: 'Approve', tone: 'good', note: 'none', leads: { to: 'next' } },
    { id: 'decline', label: 'Decline', tone: 'bad', note: 'must', leads: { to: 'close', closing: bad.id } },
  ];
};

const wordStart = /(?:,?\s*(?:and )?then\s+|;\s*)/i;

class LineReader {
  readonly known: Known;
  readonly taken: string[];
  constructor(definition: Definition, index: DirectoryIndex | undefined) {
    this.known = {
      definition,
      index,
      unsure: [],
      stepAt: number => structure(definition).all.find(p => p.number === number)?.step.id,
    };
    this.taken = allSteps(definition).map(s => s.id);
  }

  id(words: string): string {
    const id = idFrom(words, this.taken);
    this.taken.push(id);
    return id;
  }

  /** `line manager and then station lead decide within 3 working days, send back for dates` */
  decide(s: Scanner, when: string | null): Step[] | undefined {
    const { definition } = this.known;
    const rules = [];
    do {
      const rule = readRule(s, this.known);
      if (!rule) return undefined;
      rules.push(rule);
    } while (s.eat(/,?\s*(?:and then|then|,)\s+(?=\w)/));
    if (!s.eat(/(?:must |may |can )?(?:decides?|approves?|agrees?|signs?(?: off)?|answers?)(?!\w)/, 'decides'))
      return undefined;
    const count = readCounting(s);
    const within = readLimitTime(s, this.known);
    const limit: StepOf<'Decide'>['limit'] =
      within && within !== 'none' ? { within, remind: null, atLimit: 'wait' } : null;
    const steps: StepOf<'Decide'>[] = rules.map(who => ({
      verb: 'Decide',
      id: this.id('decide'),
      when,
      who,
      ...(count ? { count } : {}),
      whenAway: 'waits',
      limit,
      outcomes: usualOutcomes(definition),
    }));
    while (s.eat(/,|and(?=\s)|;|\./)) {
      if (!this.#more(s, steps)) return undefined;
    }
    return steps;
  }

  /** What is said after a decision: outcomes besides the usual two, reminders, the limit. */
  #more(s: Scanner, steps: StepOf<'Decide'>[]): boolean {
    s.eat(/(?:they |it )?(?:may|can)(?=\s)/);
    if (s.eat(/sends? (?:it )?back(?: for)?/, 'send back for')) {
      const fields: string[] = [];
      do {
        const field = readField(s, this.known);
        if (!field) break;
        fields.push(field);
      } while (s.eat(/,|and(?=\s)/));
      const all = this.known.definition.form.fields.filter(f => f.kind !== 'fixed text').map(f => f.id);
      if (fields.length === 0 && all.length === 0) return false;
      for (const step of steps) {
        const leads = { to: 'rework' as const, fields: fields.length > 0 ? fields : all, resume: step.id, atMost: 3 };
        step.outcomes = [
          step.outcomes[0],
          { id: 'send-back', label: 'Send back', tone: 'rework', note: 'must', leads },
          ...step.outcomes.slice(1),
        ];
      }
      return true;
    }
    const remind = s.try(() =>
      s.eat(/reminders? (?:every|after)|remind (?:every|after)/, 'reminder after') ? readAmount(s) : undefined,
    );
    if (remind) {
      for (const step of steps) if (step.limit) step.limit = { ...step.limit, remind: { after: remind, atMost: 3 } };
      return true;
    }
    const up = s.eat(
      /(?:else|otherwise|then) (?:it )?(?:passes|goes|pass|go) (?:up|to the manager above)|passes? up/,
      'passes up',
    );
    if (up) {
      for (const step of steps) if (step.limit) step.limit = { ...step.limit, atLimit: 'pass up' };
      return true;
    }
    const within = readLimitTime(s, this.known);
    if (within && within !== 'none') {
      for (const step of steps) step.limit = { within, remind: null, atLimit: 'wait' };
      return true;
    }
    return false;
  }

  /** `travel desk books the crossing within 2 days` */
  do(s: Scanner, when: string | null): Step[] | undefined {
    const who = readRule(s, this.known);
    if (!who) return undefined;
    s.eat(/(?:must |to )?do(?:es)?(?=\s)|must(?=\s)|to(?=\s)/);
    const inMarks = s.quoted();
    const words =
      inMarks ??
      s
        .eat(
          /[A-Za-z][^,.;“]*?(?=\s+(?:within|by the latest|at the latest|in \d|in (?:one|two|three))|,|;|\.?$)/,
          'what is to be done',
        )?.[0]
        .trim();
    if (!words) return undefined;
    const pool = who.first.kind === 'role' || s.eat(/,?\s*whoever takes it first/) !== undefined;
    const within = readLimitTime(s, this.known);
    const task = words[0].toUpperCase() + words.slice(1);
    return [
      {
        verb: 'Do',
        id: this.id('do'),
        when,
        who,
        ...(pool ? { pool: true as const } : {}),
        whenAway: 'waits',
        task,
        limit: within && within !== 'none' ? { within, remind: null, atLimit: 'wait' } : null,
      },
    ];
  }

  one(s: Scanner): Step[] | undefined {
    const { definition } = this.known;
    const start = s.at;
    const when = s.eat(/(?:when|if)(?=\s)/)
      ? readCondition(s, this.known, /,|\s+then\s|\s+go(?:es)?\s|\s+close\s|:/)
      : null;
    if (when === undefined) return undefined;
    if (when !== null) s.eat(/,|:|then/);
    const attempts: (() => Step[] | undefined)[] = [
      () => {
        const go = when === null ? undefined : readGo(s, this.known);
        if (!go || when === null) return undefined;
        const otherwise = s.try(() => (s.eat(/,?\s*(?:otherwise|else)/) ? readGo(s, this.known) : undefined));
        return [
          {
            verb: 'Choose',
            id: this.id('choose'),
            when: null,
            rows: [{ id: 'row-1', condition: when, go }],
            otherwise: otherwise ?? { to: 'next' },
          },
        ];
      },
      () => {
        if (!s.eat(/waits?(?!\w)|hold(?!\w)/, 'wait')) return undefined;
        return [{ verb: 'Hold', id: this.id('hold'), when, until: readUntil(s, this.known) }];
      },
      () => {
        if (!s.eat(/(?:split|side by side)(?: into)?:?/, 'split into')) return undefined;
        const names: string[] = [];
        do {
          const name = s.quoted() ?? s.eat(/[^,;.]+?(?=\s+and\s|,|;|\.|$)/)?.[0].trim();
          if (!name) return undefined;
          names.push(name);
        } while (s.eat(/,?\s*and(?=\s)|,/));
        const ids: string[] = [];
        const lanes = names.map(name => {
          const id = idFrom(name, ids);
          ids.push(id);
          return { id, name: name[0].toUpperCase() + name.slice(1), steps: [] };
        });
        return [{ verb: 'Split', id: this.id('split'), when, needs: 'all', lanes }];
      },
      () => {
        if (!s.eat(/(?:tell|notify|inform)(?!\w)/, 'tell')) return undefined;
        const to = readRule(s, this.known);
        if (!to) return undefined;
        const message = s.name(
          definition.messages.map(m => ({ name: m.name, value: m.id })),
          'a message',
        );
        if (!message) return undefined;
        return [{ verb: 'Tell', id: this.id('tell'), when, to: [to], message }];
      },
      () => {
        if (!s.eat(/send(?!\s+(?:it )?back)/, 'send')) return undefined;
        const message = s.name(
          definition.messages.map(m => ({ name: m.name, value: m.id })),
          'a message',
        );
        if (!message || !s.words('to')) return undefined;
        const to = readRule(s, this.known);
        return to && [{ verb: 'Tell', id: this.id('tell'), when, to: [to], message }];
      },
      () => {
        if (!s.eat(/book(?:s)?(?: the)?(?: leave)?(?!\w)/, 'book the leave')) return undefined;
        const span = readField(s, this.known) ?? definition.form.fields.find(f => f.kind === 'leave span')?.id;
        const type = definition.form.fields.find(f => f.kind === 'choice' && f.options === 'leave types')?.id;
        if (!span || !type) return undefined;
        return [
          { verb: 'Record', id: this.id('record'), when, effect: { kind: 'book leave', span, type, planner: true } },
        ];
      },
      () => {
        if (!s.eat(/set(?=\s)/, 'set')) return undefined;
        const field = readField(s, this.known);
        if (!field || !s.words('to')) return undefined;
        const formula = s.marked() ?? s.eat(/[^,;]+/)?.[0].trim();
        return formula
          ? [{ verb: 'Record', id: this.id('record'), when, effect: { kind: 'set', field, formula } }]
          : undefined;
      },
      () => {
        if (!s.eat(/(?:close|end)s?(?: it)?(?: as)?(?!\w)/, 'close as')) return undefined;
        const closing = s.name(
          definition.closings.map(c => ({ name: c.name, value: c.id })),
          'a closing',
        );
        return closing ? [{ verb: 'Close', id: this.id('close'), closing }] : undefined;
      },
      () => {
        const connection = s.try(() => (s.eat(/ask(?=\s)/) ? (s.quoted() ?? s.eat(/\w+/)?.[0]) : undefined));
        if (connection) s.words('to', false);
        const action = s.anyOf(...provisions) as (typeof provisions)[number] | undefined;
        if (!action) return undefined;
        const where =
          connection ?? s.try(() => (s.eat(/(?:in|at|on)(?=\s)/) ? (s.quoted() ?? s.eat(/\w+/)?.[0]) : undefined));
        return where
          ? [{ verb: 'Provision', id: this.id('provision'), when, connection: where, action, values: [] }]
          : undefined;
      },
      () => this.decide(s, when),
      () => this.do(s, when),
    ];
    const from = s.at;
    for (const attempt of attempts) {
      const found = s.try(() => {
        try {
          return attempt();
        } catch (fault) {
          if (fault instanceof NotUnderstood) return undefined;
          throw fault;
        }
      });
      // One way of reading must take the words up to an end, or it is not the right one.
      if (found && (s.done || wordStart.test(s.rest))) return found;
      s.at = from;
    }
    s.at = start;
    return undefined;
  }
}

/**
 * Reads a new line as a designer types it; it may say several steps.
 * What is not understood is said at its place, with what would be.
 */
export function readWords(text: string, definition: Definition, index?: DirectoryIndex): WordReading {
  const reader = new LineReader(definition, index);
  const s = new Scanner(text);
  const steps: Step[] = [];
  if (text.trim() === '')
    return {
      ok: false,
      message: 'Say what happens, as in “manager decides in 2 days”.',
      at: 0,
      completions: starts(definition),
    };
  while (!s.done) {
    const found = reader.one(s);
    if (!found) {
      const rest = text.slice(s.furthest).trim();
      return {
        ok: false,
        message: rest ? `Not understood from “${rest.slice(0, 60)}” on.` : 'Something is still missing at the end.',
        at: s.furthest,
        completions: completions(s, definition),
      };
    }
    steps.push(...found);
    s.eat(/(?:,?\s*(?:and )?then|;)(?=\s)/);
  }
  return {
    ok: true,
    steps,
    understood: steps.map(step => inSentence(definition, step, index)),
    unsure: reader.known.unsure,
  };
}

const starts = (definition: Definition): string[] => [
  'line manager decides within 2 working days',
  'head of department decides within 3 working days',
  'wait for 1 working day',
  ...(definition.messages[0] ? [`tell the asker “${definition.messages[0].name}”`] : []),
  'split into Stores, Systems',
  ...(definition.form.fields.some(f => f.kind === 'leave span') ? ['book the leave'] : []),
  ...definition.closings.map(c => `close as ${c.name}`),
];

/** What could stand at the furthest place that was understood. */
function completions(s: Scanner, definition: Definition): string[] {
  const typed = s.text.slice(s.furthest).trim().toLowerCase();
  const before = s.text.slice(0, s.furthest).trimEnd();
  const wanted = s.expected.flatMap(what => {
    if (what === 'a field') return definition.form.fields.map(f => f.label);
    if (what === 'a closing') return definition.closings.map(c => c.name);
    if (what === 'a message') return definition.messages.map(m => m.name);
    if (what.startsWith('a ') || what.includes('…') || what.startsWith('who:') || what.startsWith('what ')) return [];
    return [what];
  });
  const fitting = wanted.filter(w => typed === '' || w.toLowerCase().startsWith(typed));
  const all = (fitting.length > 0 ? fitting : wanted).slice(0, 8).map(w => (before ? `${before} ${w}` : w));
  return all.length > 0
    ? [...new Set(all)]
    : starts(definition)
        .filter(w => w.startsWith(s.text.trim().toLowerCase()))
        .slice(0, 8);
}

/** Conditions typed in words, for places where only a condition is asked for. */
export const conditionOf = (words: string, definition: Definition): string | undefined =>
  conditionFrom(words, namesOf(definition));
