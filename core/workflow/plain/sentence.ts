/**
 * One sentence in plain words as one or more steps. A sentence is taken only when every word of it is understood: what is
 * left over is said, and nothing is made a task that may be a decision, a condition or a limit.
 */

import { comingProperties, postProperties, recordProperties } from '../../facts/index.ts';
import { holdsFiles, idFrom, isAsked, postColumns } from '../../form/index.ts';
import { distance } from '../../formula/index.ts';
import type { PeopleRule, SingleRule } from '../../people/index.ts';
import type {
  AtLimit,
  AttachedFiles,
  Attachment,
  Go,
  Limit,
  LimitTime,
  Outcome,
  Quorum,
  Step,
  StepOf,
} from '../definition/definition.ts';
import { invitable, provisions } from '../definition/definition.ts';
import { negated, readConditionOf } from './conditions.ts';
import {
  dateFields,
  readAmountOf,
  readAtLimitOf,
  readBefore,
  readCountOf,
  readLimitOf,
  readReminderOf,
} from './limits.ts';
import { type Known, readWhom, type Whom } from './people.ts';
import type { Named, Words } from './words.ts';

/** What is said around the main part of a sentence. */
type Around = {
  when: string[];
  limit?: LimitTime;
  remind?: NonNullable<Limit['remind']>;
  atLimit?: AtLimit;
  count?: Quorum;
  back?: { fields: string[] };
  whenAway?: 'goes up';
  once?: true;
  askerMay?: true;
  handTo?: 'anybody';
  firstTakes?: true;
};

/** What can be decided where nothing else is said. */
export const usualOutcomes = ({ definition }: Known): Outcome[] => {
  const bad = definition.closings.find(c => c.tone === 'bad') ?? definition.closings[0];
  return [
    { id: 'approve', label: 'Approve', tone: 'good', note: 'none', leads: { to: 'next' } },
    { id: 'decline', label: 'Decline', tone: 'bad', note: 'must', leads: { to: 'close', closing: bad.id } },
  ];
};

/** Verbs of a decision, as they stand behind whoever decides. */
const decides =
  'decides|decide|approves|approve|agrees|agree|consents|consent|authorises|authorise|authorizes|authorize|okays|okay|signs|sign';
const modal = 'must|may|can|shall|will|should|needs|need|has|have|is|are to? also|both|all|then? to?';

/** Words that say that a sentence is about more than a task: then it is not made one. */
const noTask = new Set(
  'decide decides approve approves approved agree agrees sign signs decision approval if when unless whenever more less fewer within until maybe perhaps possibly sometime somehow should might could informed told tells tell notify notifies wait waits hold close closes otherwise else then not never nobody somebody someone everyone majority least only both either or vote votes veto'.split(
    ' ',
  ),
);
/** Other words for what is provisioned. */
const otherwise: Partial<Record<(typeof provisions)[number], readonly string[]>> = {
  'create account': ['open', 'opens', 'make', 'makes', 'set_up', 'sets_up'],
  'change account': ['update', 'updates'],
  'disable account': ['close', 'closes', 'remove', 'removes', 'shut', 'shuts', 'block', 'blocks'],
  'add to group': [],
  'create space': ['open', 'opens', 'make', 'makes', 'set_up', 'sets_up'],
};

const keys =
  'decides approves agrees consents authorises within unless before otherwise whenever approve decide authorise'.split(
    ' ',
  );

/** Whether a word is a slip of the pen in one that decides what a sentence is: then it is not taken for a deed. */
const nearlyKey = (word: string): boolean =>
  word.length > 4 && keys.some(key => word !== key && distance(word, key) <= (key.length > 6 ? 2 : 1));

/** What begins a task: a deed, as `books`, `to book`, `is booked`. */
const noDeed = new Set(
  'a an the in at of for with by to from and or who which that it is are be been also just still'.split(' '),
);

export class Sentence {
  readonly w: Words;
  readonly known: Known;
  readonly taken: string[];
  constructor(w: Words, known: Known, taken: string[]) {
    this.w = w;
    this.known = known;
    this.taken = taken;
  }

  #id(words: string): string {
    const id = idFrom(words, this.taken);
    this.taken.push(id);
    return id;
  }

  get #fields(): Named<string>[] {
    return this.known.definition.form.fields.map(f => ({ name: f.label, value: f.id }));
  }
  get #messages(): Named<string>[] {
    return this.known.definition.messages.map(m => ({ name: m.name, value: m.id }));
  }
  get #closings(): Named<string>[] {
    return this.known.definition.closings.map(c => ({ name: c.name, value: c.id }));
  }

  /** Reads the whole of the words as one sentence; nothing when any of them is left over. */
  read(): Step[] | undefined {
    const { w } = this;
    const readings: (() => Step[] | undefined)[] = [
      () => this.#chosen(),
      () => this.#held(),
      () => this.#split(),
      () => this.#told(),
      () => this.#recorded(),
      () => this.#provisioned(),
      () => this.#closed(),
      () => this.#decided(),
      () => this.#done(),
    ];
    for (const reading of readings) {
      const before = this.taken.length;
      const steps = w.try(() => {
        const found = reading();
        this.#end();
        return found && w.done ? found : undefined;
      });
      if (steps) return steps;
      this.taken.length = before;
    }
    return undefined;
  }

  #end(): void {
    while (this.w.eat('.|!|,'));
  }

  /** What stands before the main part: conditions, times, reminders. */
  #leading(): Around {
    const { w } = this;
    const around: Around = { when: [] };
    for (;;) {
      const found = w.try(() => {
        const condition = this.#condition();
        if (condition) {
          around.when.push(condition);
          return true;
        }
        const remind = readReminderOf(w);
        if (remind) {
          around.remind = remind;
          return true;
        }
        const limit = around.limit ? undefined : readLimitOf(w, this.known);
        if (limit) {
          around.limit = limit;
          return true;
        }
        return undefined;
      });
      if (!found) return around;
      w.eat(',|:');
      w.eat('then');
    }
  }

  /** `if …`, `only for …`, `unless …`. */
  #condition(): string | undefined {
    const { w } = this;
    return w.try(() => {
      if (w.eat('unless', 'except when|if|for')) {
        const formula = readConditionOf(w, this.known);
        return formula && negated(formula);
      }
      if (
        !w.eat(
          'but? only? if|when|whenever',
          'only for',
          'in case',
          'provided that?',
          'as long as',
          'but? only for',
          'for',
          'on condition that',
        )
      )
        return undefined;
      return readConditionOf(w, this.known);
    });
  }

  /** One thing that stands behind the main part. */
  #behind(around: Around): boolean {
    const { w, known } = this;
    const start = w.at;
    const got = <T>(found: T | undefined, put: (value: T) => void): boolean => {
      if (found === undefined) return false;
      put(found);
      return true;
    };
    const said = (...phrases: string[]) => w.eat(...phrases);
    if (said('whoever approved the step before is not asked again')) {
      around.once = true;
      return true;
    }
    if (said('the asker may have it')) {
      around.askerMay = true;
      return true;
    }
    if (said('it may be handed to anybody')) {
      around.handTo = 'anybody';
      return true;
    }
    if (said('away without cover : it goes up the line')) {
      around.whenAway = 'goes up';
      return true;
    }
    if (
      said(
        'whoever is|comes first',
        'whoever takes it first',
        'whichever is first',
        'whoever is|gets there first',
        'first come first served',
      )
    ) {
      around.firstTakes = true;
      return true;
    }
    if (around.atLimit === undefined && got(readAtLimitOf(w, known), v => (around.atLimit = v))) return true;
    w.at = start;
    if (around.back === undefined && got(this.#sentBack(), v => (around.back = v))) return true;
    if (around.remind === undefined && got(readReminderOf(w), v => (around.remind = v))) return true;
    if (got(this.#condition(), v => around.when.push(v))) return true;
    if (around.count === undefined && got(readCountOf(w), v => (around.count = v))) return true;
    if (around.limit === undefined && got(readLimitOf(w, known), v => (around.limit = v))) return true;
    if (said('with no limit', 'without a limit')) return true;
    w.at = start;
    return false;
  }

  /** Everything behind the main part, up to the end of the words; false when something is left over. */
  /** @param more what may stand there besides, told whether it did */
  #behindAll(around: Around, more: () => boolean = () => false): boolean {
    const { w } = this;
    for (;;) {
      this.#end();
      if (w.done) return true;
      if (more()) continue;
      const start = w.at;
      w.eat('and|but|;');
      if (this.#behind(around)) continue;
      w.at = start;
      if (this.#behind(around)) continue;
      return false;
    }
  }

  /** `may send back for dates with a note`. */
  #sentBack(): { fields: string[] } | undefined {
    const { w } = this;
    return w.try(() => {
      w.eat('they|he|she|it|who|and');
      w.eat('may|can|could|or');
      if (
        !w.eat(
          'sends|send|return|returns|give|gives it|this? back',
          'send|sends|sent it? back',
          'return|returns it|this to_the_asker?',
          'return|returns to_the_asker',
          'ask|asks for changes|rework',
        )
      )
        return undefined;
      w.eat('to the? asker');
      const fields: string[] = [];
      if (w.eat('for|to_change in?')) {
        w.eat('changes|change|corrections|other|new|rework of|to|in?');
        do {
          w.eat('the|other|new');
          const field = w.name(this.#fields);
          if (field === undefined) break;
          fields.push(field);
        } while (w.eat(', and?', 'and', 'or'));
        if (fields.length === 0 && !w.eat('rework|changes|corrections|more')) return undefined;
      }
      w.eat('with a|an note|reason|comment', 'and a note|reason');
      return { fields };
    });
  }

  #limit(around: Around): Limit | null {
    if (!around.limit) return null;
    return { within: around.limit, remind: around.remind ?? null, atLimit: around.atLimit ?? 'wait' };
  }

  /** What is said of a limit without one, or of a reminder without anything to remind of, is not taken. */
  #isSound(around: Around): boolean {
    return around.limit !== undefined || (around.remind === undefined && around.atLimit === undefined);
  }

  /** Fields before the rest: conditions joined, each in brackets where it has an “or”. */
  #when(around: Around): string | null {
    const { when } = around;
    if (when.length === 0) return null;
    if (when.length === 1) return when[0];
    return when.map(one => (/ or /.test(one) ? `(${one})` : one)).join(' and ');
  }

  // A decision.

  #decided(): Step[] | undefined {
    const { w } = this;
    const around = this.#leading();
    const whom = w.try(() => this.#passive()) ?? w.try(() => this.#active(around));
    if (!whom) return undefined;
    this.#object(around);
    const files: AttachedFiles[] = [];
    const attached = () => {
      const one = this.#attachedFiles();
      if (one) files.push(one);
      return one !== undefined;
    };
    if (!this.#behindAll(around, attached) || !this.#isSound(around)) return undefined;
    if (around.firstTakes && whom.how !== 'any') return undefined;
    const steps = this.#decisions(whom, around);
    return files.length === 0 ? steps : steps.map(one => (one.verb === 'Decide' ? { ...one, attach: files } : one));
  }

  #active(around: Around): Whom | undefined {
    const { w, known } = this;
    const whom = readWhom(w, known);
    if (!whom) return undefined;
    const together = w.eat('both|all|each|together|also|too|then|and');
    if (w.eat('has|have the final? say|word', 'has|have to give approval|consent')) return whom;
    const limit = w.try(() => {
      if (!w.eat('has|have|gets|get at_most?')) return undefined;
      const within = readAmountOf(w);
      return within && w.eat('to decide|approve|agree') ? within : undefined;
    });
    if (limit) {
      around.limit = limit;
      return whom;
    }
    w.eat(modal, 'must|may|can|should|shall|will');
    w.eat('also|both|all|together|first|then|to');
    const verb =
      w.eat('says|say yes or|and no', 'says|say yes|no') ||
      w.eat('gives|give their|his|her|its|an|the? approval|consent|ok|okay|agreement|go-ahead|permission') ||
      w.eat('makes|make|takes|take the|a decision') ||
      (w.eat(decides) && (w.eat('or|and declines|decline|rejects|reject|refuses|refuse') || true));
    if (!verb) {
      w.missed('decides', 'approves');
      return undefined;
    }
    // “signs” alone may mean a paper; “signs off” is a decision.
    if (['sign', 'signs'].includes(w.tokens[w.at - 1].low)) {
      w.eat('it|this|them|the_request');
      if (!w.eat('off')) return undefined;
    }
    if (together && whom.how === 'any') return undefined;
    return whom;
  }

  /** `approval by X`, `it must be approved by X`, `X's approval is needed`. */
  #passive(): Whom | undefined {
    const { w, known } = this;
    w.eat('the|an|a');
    const noun = w.eat(
      'approval|consent|agreement|decision|sign-off|authorisation by|of|from',
      'approval|consent|agreement|sign-off is|are needed|required by|of|from',
      'it|this|that|the? request? needs|need|requires|require the|an? approval|consent|agreement|ok|okay|sign-off of|by|from',
      'needs|requires the|an? approval|consent|agreement|sign-off of|by|from',
    );
    const verb =
      !noun &&
      w.eat(
        'it|this|that|they|requests? request? is|are|gets|must|has|have|needs|need|should|will|shall|to? to? be? also? approved|decided|agreed|authorised|authorized|okayed|signed on? off? by',
        'the? request is|gets|must|has|needs|should|will|shall? to? be? also? approved|decided|agreed|authorised|authorized|okayed|signed on? off? by',
        'to? be? approved|decided|authorised|authorized by',
      );
    if (!noun && !verb) return undefined;
    const whom = readWhom(w, known);
    if (!whom) return undefined;
    if (noun) w.eat('is|are needed|required|necessary');
    return whom;
  }

  /** What is decided: the request itself, or those of a kind, which is a condition. */
  #object(around: Around): void {
    const { w } = this;
    w.eat(
      'on|about|over? it|this|that|them|the_request|everything',
      'on|about? the? request|requests|leave|trip|trips',
      'it|this|that|everything|too|also|itself',
      'too|also|as well|again|first|together',
    );
    w.eat('too|also|as well|again|together');
    const condition = w.try(() => {
      // `anything over 10 days`, `requests longer than a week`, `trips that cost more than 500`.
      if (
        !w.eat('anything|everything|requests|request|leave|trips|trip|absences|those|any|all requests|leave|trips?')
      ) {
        if (!/^(over|above|longer|more)$/.test(w.peek())) return undefined;
      }
      w.eat('that|which|who');
      return readConditionOf(w, this.known);
    });
    if (condition) around.when.push(condition);
  }

  #decisions(whom: Whom, around: Around): Step[] {
    // Several people one after another are several steps: each of those has one person, who answers by themselves.
    const said = around.count ?? whom.count;
    const count = said === 'in turn' && whom.rules.length > 1 ? undefined : said;
    const rules: SingleRule[] = whom.rules;
    const steps = rules.map(
      (first): StepOf<'Decide'> => ({
        verb: 'Decide',
        id: this.#id('decide'),
        when: this.#when(around),
        who: { first, ...whom.besides },
        ...(count ? { count } : {}),
        whenAway: around.whenAway ?? 'waits',
        ...(around.once ? { once: around.once } : {}),
        ...(around.askerMay ? { askerMay: around.askerMay } : {}),
        ...(around.handTo ? { handTo: around.handTo } : {}),
        limit: this.#limit(around),
        outcomes: usualOutcomes(this.known),
      }),
    );
    const { back } = around;
    if (back) {
      const all = this.known.definition.form.fields.filter(isAsked).map(f => f.id);
      const fields = back.fields.length > 0 ? back.fields : all;
      for (const step of steps) {
        step.outcomes.splice(1, 0, {
          id: 'send-back',
          label: 'Send back',
          tone: 'rework',
          note: 'must',
          leads: { to: 'rework', fields, resume: step.id, atMost: 3 },
        });
      }
    }
    return steps;
  }

  // A task.

  #done(): Step[] | undefined {
    return this.w.try(() => this.#activeTask()) ?? this.#passiveTask();
  }

  #activeTask(): Step[] | undefined {
    const { w, known } = this;
    const around = this.#leading();
    const whom = readWhom(w, known);
    if (!whom || whom.how === 'turn' || (whom.count && whom.count !== 'everyone')) return undefined;
    w.eat(',');
    if (this.w.eat('whoever is|comes first|free', 'whoever takes it first', 'whichever is first'))
      around.firstTakes = true;
    w.eat(',');
    const does = w.eat('do|does');
    if (w.tokens[w.at]?.quoted) {
      const task = w.tokens[w.at++].text;
      w.eat(', each of them');
      w.eat(',');
      return this.#behindAll(around) && this.#isSound(around) ? this.#tasks(whom, task, around) : undefined;
    }
    w.eat('must|has|have|is|are|shall|will to', 'must|shall|will|to');
    const from = w.at;
    return this.#taskUntil(from, around, does, task => this.#tasks(whom, task, around));
  }

  /** `the kit is laid out by Stores`. */
  #passiveTask(): Step[] | undefined {
    const { w, known } = this;
    const around = this.#leading();
    const from = w.at;
    for (let at = from + 2; at < w.tokens.length - 1; at++) {
      if (w.tokens[at].low !== 'by' || w.tokens[at].quoted) continue;
      w.at = at + 1;
      const whom = readWhom(w, known);
      if (!whom || whom.how === 'turn' || whom.count) continue;
      const words = w.tokens.slice(from, at);
      const isPassive = words.some(t => /^(is|are|be|gets|get)$/.test(t.low));
      if (
        !isPassive ||
        !this.#isTask(
          words.map(t => t.low).filter(low => low !== 'be' && low !== 'must'),
          true,
        )
      )
        continue;
      const inner: Around = { ...around, when: [...around.when] };
      if (!this.#behindAll(inner) || !this.#isSound(inner)) continue;
      return this.#tasks(whom, w.between(from, at), inner);
    }
    return undefined;
  }

  /** The words of a task, up to where what stands behind is understood to its end. */
  #taskUntil(from: number, around: Around, does: boolean, make: (task: string) => Step[]): Step[] | undefined {
    const { w } = this;
    for (let end = from + 1; end <= w.tokens.length; end++) {
      const words = w.tokens.slice(from, end);
      if (
        !this.#isTask(
          words.map(t => t.low),
          does,
        )
      )
        continue;
      w.at = end;
      const inner: Around = { ...around, when: [...around.when] };
      if (!this.#behindAll(inner) || !this.#isSound(inner)) continue;
      Object.assign(around, inner);
      return make(w.between(from, end));
    }
    return undefined;
  }

  /** Whether words can be a task and nothing else: a deed, with no decision, condition or other step in it. */
  #isTask(words: readonly string[], deed = false): boolean {
    if (words.length === 0 || words.some(word => noTask.has(word) || /^[.;:?!<>=]$/.test(word))) return false;
    if (words.some(word => nearlyKey(word)) || this.#isTimed(words)) return false;
    if (words.includes(',')) return false;
    if (deed) return words.length > 1 || !noDeed.has(words[0]);
    if (words.length === 1 && !/s$/.test(words[0])) return false;
    const [first] = words;
    return !noDeed.has(first) && /^\p{L}/u.test(first) && (/s$/.test(first) || words.length > 1) && !isNumber(first);
  }

  /** Whether words say how long, how much or around which date: then they are no part of a task. */
  #isTimed(words: readonly string[]): boolean {
    const dates = dateFields(this.known).map(({ name }) => name.toLowerCase().split(' '));
    return words.some((word, i) => {
      if (isNumber(words[i + 1] ?? '') && /^(over|above|under|below|exceeding|about|in|after|every)$/.test(word))
        return true;
      if (isNumber(word) && /^(working|business|days?|hours?|weeks?|months?|%)$/.test(words[i + 1] ?? '')) return true;
      if (!/^(after|before|until|till|by|on|from|since|ere)$/.test(word)) return false;
      const next = words[i + 1] === 'the' ? i + 2 : i + 1;
      return dates.some(name => name.every((part, at) => words[next + at] === part));
    });
  }

  #tasks(whom: Whom, words: string, around: Around): Step[] {
    const plain = words.trim().replace(/[.,]+$/, '');
    const task = plain[0].toUpperCase() + plain.slice(1);
    const pool = !whom.count && (whom.how === 'any' || around.firstTakes || (whom.how === 'one' && whom.pool));
    return whom.rules.map(first => ({
      verb: 'Do' as const,
      id: this.#id('do'),
      when: this.#when(around),
      who: { first, ...whom.besides },
      ...(pool ? { pool: true as const } : {}),
      ...(around.handTo ? { handTo: around.handTo } : {}),
      whenAway: around.whenAway ?? ('waits' as const),
      task,
      limit: this.#limit(around),
    }));
  }

  // What needs nobody.

  #go(): Go | undefined {
    const { w } = this;
    return w.try(() => {
      w.eat('it|the_request|this');
      if (w.eat('goes|go|carries|carry|continues|continue on', 'goes|go|continues|continue', 'is handled as usual')) {
        if (w.eat('back? to|with step?', 'at step?')) {
          const step = this.known.stepAt(w.peek());
          if (!step) return undefined;
          w.at++;
          return { to: 'step', step };
        }
        return { to: 'next' };
      }
      if (w.eat('skip|skips|jump|jumps to step?')) {
        const step = this.known.stepAt(w.peek());
        if (!step) return undefined;
        w.at++;
        return { to: 'step', step };
      }
      if (
        !w.eat(
          'ends|end|closes|close|is_closed|is_finished|finish|finishes it|the_request|request? as|with',
          'close|end it as',
        )
      )
        return undefined;
      const closing = w.name(this.#closings);
      return closing === undefined ? undefined : { to: 'close', closing };
    });
  }

  /** `if Days is at most 2 go to 5, otherwise go on`; `close as Declined if …`. */
  #chosen(): Step[] | undefined {
    const { w } = this;
    const choose = (condition: string, go: Go, otherwise: Go): Step[] => [
      { verb: 'Choose', id: this.#id('choose'), when: null, rows: [{ id: 'row-1', condition, go }], otherwise },
    ];
    const otherwise = (): Go | undefined =>
      w.try(() => {
        w.eat(',|;');
        if (!w.eat('otherwise|else', 'or else', 'if not')) return undefined;
        w.eat(',');
        return this.#go();
      });
    const before = w.try(() => {
      const condition = this.#condition();
      if (!condition) return undefined;
      w.eat(',|:');
      w.eat('then');
      const go = this.#go();
      return go && choose(condition, go, otherwise() ?? { to: 'next' });
    });
    if (before) return before;
    return w.try(() => {
      const go = this.#go();
      if (!go) return undefined;
      w.eat(',');
      const condition = this.#condition();
      return condition ? choose(condition, go, otherwise() ?? { to: 'next' }) : undefined;
    });
  }

  #held(): Step[] | undefined {
    const { w, known } = this;
    const around = this.#leading();
    if (around.limit || around.remind) return undefined;
    w.eat('the_request|it');
    if (!w.eat('waits|wait|hold|holds|pause|pauses|is|put? on? hold?')) {
      w.missed('wait for', 'wait until');
      return undefined;
    }
    w.eat('the_request|it');
    const until = ((): StepOf<'Hold'>['until'] | undefined => {
      const before = w.try(() => (w.eat('until|till', 'up to') ? readBefore(w, known) : undefined));
      if (before) return { kind: 'before', ...before };
      const requests = w.eat('until every request that it opened has ended', 'for|until the? requests that it opened');
      if (requests) return { kind: 'requests' };
      const amount = w.try(() => {
        w.eat('for|another');
        return readAmountOf(w);
      });
      if (amount) return { kind: 'time', amount };
      const files: Named<string>[] = known.definition.form.fields
        .filter(f => f.kind === 'files' || f.kind === 'document')
        .map(f => ({ name: f.label, value: f.id }));
      const document = w.try(() => {
        if (!w.eat('for|until|till')) return undefined;
        w.eat('the|a|their|his|her');
        const field = w.name(files);
        if (field === undefined) return undefined;
        w.eat(
          'is|are|has_been|have_been|has|have|to_be|to|comes|come? in|here|there|given|uploaded|attached|handed|arrive|arrived in?',
        );
        return field;
      });
      if (document !== undefined) return { kind: 'document', field: document };
      return w.try(() => {
        if (!w.eat('until|till')) return undefined;
        w.eat('the|their|his|her');
        const token = w.tokens[w.at];
        if (token?.quoted && w.text[token.from] === '‹') {
          w.at++;
          return { kind: 'date' as const, formula: token.text };
        }
        const date = w.name(dateFields(known));
        const field = known.definition.form.fields.find(f => f.id === date);
        if (!field) return undefined;
        return field.kind === 'date'
          ? { kind: 'date' as const, formula: field.label }
          : { kind: 'before' as const, workingDays: 0, field: field.id };
      });
    })();
    if (!until) return undefined;
    const timed = until.kind === 'date' || until.kind === 'before' ? { ...until, ...this.#timeOfDay() } : until;
    const inner: Around = { when: [...around.when] };
    if (!this.#behindAll(inner) || inner.limit || inner.back || inner.count || !this.#isSound(inner)) return undefined;
    return [{ verb: 'Hold', id: this.#id('hold'), when: this.#when(inner), until: timed }];
  }

  #split(): Step[] | undefined {
    const { w } = this;
    const lanes = (names: string[]): Step[] | undefined => {
      if (names.length < 2) return undefined;
      const ids: string[] = [];
      return [
        {
          verb: 'Split',
          id: this.#id('split'),
          when: null,
          needs: 'all',
          lanes: names.map(name => {
            const id = idFrom(name, ids);
            ids.push(id);
            return { id, name: name[0].toUpperCase() + name.slice(1), steps: [] };
          }),
        },
      ];
    };
    const names = (end: () => boolean): string[] | undefined => {
      const found: string[] = [];
      let from = w.at;
      const close = () => {
        const name = w.tokens[from]?.quoted ? w.tokens[from].text : w.between(from, w.at).trim();
        if (name) found.push(name);
      };
      for (; ; w.at++) {
        if (w.done || end()) {
          close();
          return found;
        }
        if (/^(,|and)$/.test(w.peek()) && !w.tokens[w.at].quoted) {
          close();
          while (!w.done && /^(,|and)$/.test(w.peek())) w.at++;
          from = w.at;
          w.at--;
        }
      }
    };
    if (w.eat('split|splits|fork|side by side|into :?', 'split|splits :?', 'side by side :?')) {
      w.eat('into|:');
      const found = names(() => /^[.;]$/.test(w.peek()));
      return found && lanes(found);
    }
    return w.try(() => {
      const beside = (ahead: number) =>
        ['work', 'works', 'go', 'run', 'happen', 'do'].includes(w.peek(ahead)) ||
        w.peek(ahead) === 'side' ||
        w.peek(ahead) === 'in';
      const found = names(() => beside(0));
      if (!found || w.done) return undefined;
      w.eat('work|works|go|run|happen|do their? part|work?');
      if (!w.eat('side by side', 'in parallel', 'at the same time')) return undefined;
      return lanes(found);
    });
  }

  /** `; with the files of Itinerary` */
  #attachedFiles(): AttachedFiles | undefined {
    const { w } = this;
    return w.try((): AttachedFiles | undefined => {
      w.eat(';|,|and');
      if (!w.eat('with the? files|file of', 'with the? files|file in')) return undefined;
      const files = this.known.definition.form.fields.filter(f => holdsFiles(f));
      const field = w.name(files.map(f => ({ name: f.label, value: f.id })));
      return field === undefined ? undefined : { what: 'files', field };
    });
  }

  /** `; with an invitation Trip to {To} over Legs`, or over the dates that the form asks for where nothing is said. */
  #attachment(): Attachment | undefined {
    const { w } = this;
    return (
      this.#attachedFiles() ??
      w.try(() => {
        w.eat(';|,|and');
        if (!w.eat('with a|an? invitation')) return undefined;
        const over = w.try((): Attachment | undefined => {
          let title = w.quoted();
          if (title === undefined) {
            const from = w.at;
            while (!w.done && w.peek() !== 'over') w.at++;
            title = w.between(from, w.at);
          }
          if (!w.eat('over')) return undefined;
          const dated = this.known.definition.form.fields.filter(f => invitable.some(kind => kind === f.kind));
          const of = w.name(dated.map(f => ({ name: f.label, value: f.id })));
          const called = title || dated.find(f => f.id === of)?.label;
          return of === undefined || !called ? undefined : { what: 'invitation', of, title: called };
        });
        return over ?? this.#invitation();
      })
    );
  }

  /** An invitation over the dates that the form asks for; nothing where it asks for none. */
  #invitation(): Attachment | undefined {
    const { fields } = this.known.definition.form;
    const of =
      fields.find(f => f.kind === 'date range' || f.kind === 'leave span') ?? fields.find(f => f.kind === 'date');
    return of && { what: 'invitation', of: of.id, title: of.label };
  }

  /** A message, by its name or by what it says: `that it was approved`. */
  #message(): string | undefined {
    const { w } = this;
    return w.try(() => {
      w.eat('with|about|that|of|using');
      w.eat('the|a|an');
      w.eat('message|mail');
      const plain = w.name(this.#messages);
      if (plain !== undefined) return plain;
      w.eat('it|this|they|he|she|request|the_request');
      w.eat('is|was|are|were|has|have been?');
      const said = w.name(this.#messages);
      if (said !== undefined) return said;
      // `that papers are missing`: the words of a message's name with a small word between.
      const named = this.#messages.find(({ name }) => {
        const words = name.toLowerCase().split(/\s+/);
        let at = w.at;
        for (const word of words) {
          while (/^(is|are|was|were|has|have|been|the|it)$/.test(w.tokens[at]?.low ?? '')) at++;
          if (w.tokens[at]?.low !== word) return false;
          at++;
        }
        w.at = at;
        return true;
      });
      return named?.value;
    });
  }

  #readers(): PeopleRule[] | undefined {
    const { w, known } = this;
    const to: PeopleRule[] = [];
    do {
      w.eat('to');
      const whom = readWhom(w, known);
      if (!whom || whom.how === 'turn' || (whom.count && whom.count !== 'everyone')) return undefined;
      for (const rule of whom.rules)
        to.push(...(rule.kind === 'either' ? rule.rules : [rule]).map(first => ({ first, ...whom.besides })));
    } while (w.eat('and to', '; and to', ', to', 'and also to?'));
    return to;
  }

  #told(): Step[] | undefined {
    const { w } = this;
    const around = this.#leading();
    const { limit } = around;
    if (around.remind || (limit && 'workingDays' in limit)) return undefined;
    const found =
      w.try(() => {
        // `send Starts tomorrow to the line manager`
        if (!w.eat('send|sends|mail|mails')) return undefined;
        if (/^(it|this)$/.test(w.peek()) && w.peek(1) === 'back') return undefined;
        const message = this.#message();
        if (message === undefined) return undefined;
        w.eat('message|mail');
        if (!w.eat('to')) return undefined;
        const to = this.#readers();
        return to && { message, to };
      }) ??
      w.try(() => {
        // `tell the asker that it was approved`, `let HR know with Papers missing`, `remind the manager that …`
        const letting = w.eat('let|lets');
        if (!letting && !w.eat('tell|tells|inform|informs|notify|notifies|remind|reminds|send|sends|mail|mails|write'))
          return undefined;
        const to = this.#readers();
        if (!to || (letting && !w.eat('know'))) return undefined;
        w.eat(',|:');
        const message = this.#message();
        return message === undefined ? undefined : { message, to };
      }) ??
      w.try(() => {
        // `the asker gets Approved`, `HR is told Papers missing`
        const to = this.#readers();
        if (!to || !w.eat('gets|get|receives|receive', 'is|are|must|be? be? told|informed|notified|reminded|sent'))
          return undefined;
        w.eat('that|with|of|by');
        const message = this.#message();
        return message === undefined ? undefined : { message, to };
      });
    if (!found) return undefined;
    const attach: Attachment[] = [];
    const attached = () => {
      const one = this.#attachment();
      if (one) attach.push(one);
      return one !== undefined;
    };
    const inner: Around = { when: [...around.when] };
    if (limit) inner.limit = limit;
    if (!this.#behindAll(inner, attached) || inner.back || inner.count || inner.remind || inner.atLimit !== undefined)
      return undefined;
    if (inner.limit && !('workingDaysBefore' in inner.limit)) return undefined;
    const { limit: day } = inner;
    const tell: Step = {
      verb: 'Tell',
      id: this.#id('tell'),
      when: this.#when(inner),
      to: found.to,
      message: found.message,
      ...(attach.length > 0 ? { attach } : {}),
    };
    if (!day || !('workingDaysBefore' in day)) return [tell];
    // Told some days before a date: it waits for that day first.
    const hold: Step = {
      verb: 'Hold',
      id: this.#id('hold'),
      when: null,
      until: { kind: 'before', workingDays: day.workingDaysBefore, field: day.field },
    };
    return [hold, tell];
  }

  /** `, at 17:00`. */
  #timeOfDay(): { at?: string } {
    const { w } = this;
    const at = w.try(() => {
      w.eat(',');
      if (!w.eat('at')) return undefined;
      const said = [0, 1, 2].map(n => w.tokens[w.at + n]?.text ?? '');
      if (!/^\d{1,2}$/.test(said[0]) || said[1] !== ':' || !/^\d{2}$/.test(said[2])) return undefined;
      w.at += 3;
      return `${said[0].padStart(2, '0')}:${said[2]}`;
    });
    return at === undefined ? {} : { at };
  }

  /** `Title = Name, From = Start date`. */
  /** @param known names of several words that values may have */
  #values(known: readonly string[] = []): { name: string; formula: string }[] | undefined {
    const { w } = this;
    const values: { name: string; formula: string }[] = [];
    const names: Named<string>[] = [
      // What stands beside a row that is picked: the place of a post and its department, the columns of other lists.
      ...this.known.definition.form.fields
        .flatMap(f => (f.kind === 'pick' ? this.#columnsOf(f.list).map(label => `${f.label}.${label}`) : []))
        .map(name => ({ name, value: name })),
      ...this.known.definition.form.fields.map(f => ({ name: f.label, value: f.label })),
      ...this.known.definition.figures.map(f => ({ name: f.name, value: f.name })),
      ...['Asker', 'Subject', 'Asker post', 'Asker place', 'Asker department'].map(name => ({ name, value: name })),
    ];
    do {
      w.eat('the');
      const token = w.tokens[w.at];
      if (!token || (!token.quoted && !/^\p{L}/u.test(token.low))) return undefined;
      const from = w.at;
      // The name is one word or one in marks, or all the words up to an equals sign.
      let end = w.at + 1;
      const own = token.quoted
        ? undefined
        : w.try(() =>
            w.name(
              known.map(name => ({ name, value: name })),
              false,
            ),
          );
      if (own !== undefined) end = w.at;
      else if (!token.quoted)
        while (
          end < w.tokens.length &&
          end < from + 5 &&
          /^\p{L}/u.test(w.tokens[end].low) &&
          w.tokens[end + 1] &&
          ['=', 'is', 'as', ':'].includes(w.tokens[end + 1].low)
        )
          end++;
      // A name of several words may stand right before what it becomes, as it is shown.
      if (!token.quoted && own === undefined && end === from + 1) end = this.#nameEnd(from, names);
      const name = token.quoted ? token.text : (own ?? w.between(from, end));
      w.at = end;
      w.eat('=|:|is|as|from|of');
      const value = w.tokens[w.at];
      if (value?.quoted) {
        w.at++;
        values.push({ name, formula: w.text[value.from] === '‹' ? value.text : JSON.stringify(value.text) });
        continue;
      }
      w.eat('the');
      const formula = w.name(names);
      const n = formula === undefined ? w.number() : undefined;
      if (formula === undefined && n === undefined) return undefined;
      values.push({ name, formula: formula ?? String(n) });
    } while (w.eat(', and?', 'and'));
    return values;
  }

  /** After how many words a value begins that is known and ends the part; after one where that is nowhere so. */
  #nameEnd(from: number, names: readonly Named<string>[]): number {
    const { w } = this;
    for (let end = from + 1; end <= Math.min(from + 6, w.tokens.length - 1); end++) {
      const ends = w.try(() => {
        w.at = end;
        if (w.name(names, false) === undefined) return undefined;
        const next = w.tokens[w.at]?.low;
        return next === undefined || [',', ';', '.', 'and'].includes(next) ? true : undefined;
      });
      w.at = from;
      if (ends) return end;
    }
    return from + 1;
  }

  /** The columns of a list of the house, by their labels. */
  #columnsOf(list: string): string[] {
    if (list === 'posts') return postColumns.map(({ label }) => label);
    return (this.known.lists.find(one => one.id === list)?.columns ?? []).map(({ label }) => label);
  }

  #recorded(): Step[] | undefined {
    const { w, known } = this;
    const { definition } = known;
    const around = this.#leading();
    if (around.limit || around.remind) return undefined;
    const make = (effect: StepOf<'Record'>['effect']): Step[] | undefined => {
      const inner: Around = { when: [...around.when] };
      if (!this.#behindAll(inner) || inner.limit || inner.back || inner.count || !this.#isSound(inner))
        return undefined;
      return [{ verb: 'Record', id: this.#id('record'), when: this.#when(inner), effect }];
    };
    return (
      w.try(() => {
        if (
          !w.eat(
            'book|books|record the? leave?',
            'book|books the',
            'the? leave is booked',
            'the? days|leave is|are booked',
            'take|takes|deduct|deducts the? days|leave from the? balance',
          )
        )
          return undefined;
        const spans: Named<string>[] = definition.form.fields
          .filter(f => f.kind === 'leave span')
          .map(f => ({ name: f.label, value: f.id }));
        const named = w.name(spans, false);
        const span = named ?? (spans.length === 1 ? spans[0].value : undefined);
        const types = definition.form.fields.filter(f => f.kind === 'choice');
        const type = types.find(f => f.kind === 'choice' && f.options === 'leave types') ?? types[0];
        if (!span || !type) return undefined;
        w.eat('as leave', 'in the ledger');
        const said = w.try(() => {
          if (!w.eat('of the? chosen')) return undefined;
          return w.name(types.map(f => ({ name: f.label, value: f.id })));
        });
        const texts = definition.form.fields.filter(f => f.kind === 'text' || f.kind === 'long text');
        const why = w.try(() => {
          w.eat(',');
          if (!w.eat('with the? reason|why in|from')) return undefined;
          return w.name(texts.map(f => ({ name: f.label, value: f.id })));
        });
        let planner = true;
        w.eat(',');
        if (
          w.eat(
            "; put them on the? team's? planner",
            'and put them|it on the? team|planner? planner?',
            'and on the planner',
          )
        )
          planner = true;
        else if (w.eat('; not on the planner', 'but? not on the planner')) planner = false;
        return make({ kind: 'book leave', span, type: said ?? type.id, planner, ...(why ? { why } : {}) });
      }) ??
      w.try(() => {
        if (!w.eat('make|makes|write|writes the? letter', 'make|makes a? letter')) return undefined;
        const letter = w.name((definition.letters ?? []).map(one => ({ name: one.name, value: one.id })));
        if (letter === undefined || !w.eat('and? keep|keeps|put it? in|into', 'into|in')) return undefined;
        const field = w.name(
          definition.form.fields.filter(f => f.kind === 'files').map(f => ({ name: f.label, value: f.id })),
        );
        return field === undefined ? undefined : make({ kind: 'make letter', letter, field });
      }) ??
      w.try(() => {
        if (!w.eat('keep|keeps|file|files the?')) return undefined;
        const named = (kind: 'document' | 'text') =>
          definition.form.fields.filter(f => f.kind === kind).map(f => ({ name: f.label, value: f.id }));
        const field = w.name(named('document'));
        if (field === undefined || !w.eat('among|in|with the? papers|register as', 'among the papers as'))
          return undefined;
        let as = w.quoted();
        if (as === undefined) {
          const from = w.at;
          while (!w.done && w.peek() !== 'of') w.at++;
          as = w.between(from, w.at);
        }
        const holder = w.eat('of') ? w.name(named('text')) : undefined;
        return as ? make({ kind: 'keep paper', field, as, ...(holder ? { holder } : {}) }) : undefined;
      }) ??
      w.try(() => {
        if (!w.eat('put|puts|enter|show|shows')) return undefined;
        const spans: Named<string>[] = definition.form.fields
          .filter(f => f.kind === 'leave span' || f.kind === 'date range')
          .map(f => ({ name: f.label, value: f.id }));
        let label = w.quoted();
        w.eat('the');
        const before = label === undefined ? w.name(spans) : undefined;
        if (label === undefined && before === undefined) {
          const from = w.at;
          while (!w.done && w.peek() !== 'on' && w.at - from < 6) w.at++;
          label = w.between(from, w.at);
          if (!label) return undefined;
        }
        if (!w.eat('on|in the? planner')) return undefined;
        w.eat('over|for|from the?');
        const span = before ?? w.name(spans);
        const field = definition.form.fields.find(f => f.id === span);
        return field && span ? make({ kind: 'planner', span, label: label ?? field.label }) : undefined;
      }) ??
      w.try(() => {
        if (!w.eat('put|puts somebody|someone|them|the? new? joiner|person|colleague? on|in the? file|records? with|:'))
          return undefined;
        const values = this.#values(comingProperties);
        return values && make({ kind: 'add person', values });
      }) ??
      w.try(() => {
        if (!w.eat('put|puts a|the? new? post on|in the? file|records? with|:')) return undefined;
        const values = this.#values(postProperties);
        if (!values) return undefined;
        const picks = definition.form.fields.flatMap(f =>
          f.kind === 'pick' && f.list === 'posts' ? [{ name: f.label, value: f.id }] : [],
        );
        const field = w.eat(';? it stands in') ? (w.name(picks) ?? undefined) : undefined;
        return make({ kind: 'add post', values, ...(field === undefined ? {} : { field }) });
      }) ??
      w.try(() => {
        if (!w.eat('add|adds a|an|one? new? row|line|entry to|in', 'add|adds to')) return undefined;
        w.eat('the');
        w.eat('list of?');
        let list = w.quoted() ?? w.name(known.lists.map(l => ({ name: l.name, value: l.id })));
        list = known.lists.find(l => l.name.toLowerCase() === list?.toLowerCase())?.id ?? list;
        if (list === undefined || !w.eat('with|:')) return undefined;
        const values = this.#values();
        return values && make({ kind: 'add row', list, values });
      }) ??
      w.try(() => {
        if (!w.eat('change|changes|update|updates the? row|line picked|chosen|of? in?')) return undefined;
        w.eat('in|of');
        const row = w.name(
          definition.form.fields.filter(f => f.kind === 'pick').map(f => ({ name: f.label, value: f.id })),
        );
        if (row === undefined || !w.eat(':|with')) return undefined;
        const values = this.#values();
        return values && make({ kind: 'change row', row, values });
      }) ??
      w.try(() => {
        if (!w.eat('change|changes|set|sets|update|updates the?')) return undefined;
        const property =
          w.quoted() ??
          w.name(
            recordProperties.map(name => ({ name, value: name })),
            false,
          );
        if (
          property === undefined ||
          !w.eat(
            "of|in the? subject's|person's|asker's|their record? to",
            'in their record to',
            "of the subject's record to",
          )
        )
          return undefined;
        const [value] = this.#formula() ?? [];
        return value === undefined ? undefined : make({ kind: 'person', property, formula: value });
      }) ??
      w.try(() => {
        if (!w.eat('set|sets|fill|fills the?')) return undefined;
        w.eat('in');
        const field = w.name(this.#fields);
        if (field === undefined || !w.eat('to|with|=')) return undefined;
        const [value] = this.#formula() ?? [];
        return value === undefined ? undefined : make({ kind: 'set', field, formula: value });
      }) ??
      w.try(() => {
        if (!w.eat('open|opens|start|starts a|an|the? request? in|of?', 'open|opens')) return undefined;
        let workflow = w.quoted();
        if (workflow === undefined) {
          // Without marks it goes up to the words after it.
          const from = w.at;
          const end = w.tokens.findIndex((token, n) => n > from && n < from + 12 && token.low === 'for');
          if (end === -1) return undefined;
          workflow = w.between(from, end).trim();
          w.at = end;
          if (!/^[a-z][a-z0-9-]*$/.test(workflow) || !w.eat('for the subject')) return undefined;
        } else w.eat('for the subject');
        if (!w.eat('with') || w.eat('nothing')) return make({ kind: 'open', workflow, values: [] });
        const values = this.#values();
        return values && make({ kind: 'open', workflow, values });
      })
    );
  }

  /** A value to set: a name, a number, words or a formula in marks. */
  #formula(): [string] | undefined {
    const { w } = this;
    const token = w.tokens[w.at];
    if (token?.quoted) {
      w.at++;
      return [w.text[token.from] === '‹' ? token.text : JSON.stringify(token.text)];
    }
    if (w.eat('yes')) return ['true'];
    if (w.eat('no')) return ['false'];
    w.eat('the');
    const { definition } = this.known;
    const name = w.name(
      [...definition.form.fields.map(f => f.label), ...definition.figures.map(f => f.name), 'Asker', 'Subject'].map(
        one => ({ name: one, value: one }),
      ),
    );
    if (name !== undefined) return [name];
    const n = w.number();
    return n === undefined ? undefined : [String(n)];
  }

  #provisioned(): Step[] | undefined {
    const { w, known } = this;
    const around = this.#leading();
    if (around.limit || around.remind) return undefined;
    const target = (): string | undefined => {
      w.eat('the');
      const token = w.tokens[w.at];
      if (token?.quoted) {
        w.at++;
        return token.text;
      }
      return w.name(known.connections.map(name => ({ name, value: name })));
    };
    const asked = w.try(() => {
      if (!w.eat('ask|asks')) return undefined;
      const connection = target();
      return connection !== undefined && w.eat('to') ? connection : undefined;
    });
    const action = provisions.find(one => {
      const [verb, ...rest] = one.split(' ');
      const said = [verb, `${verb}s`, ...(otherwise[one] ?? [])].join('|');
      return w.eat(`${said} a|an|the|their? new? ${rest.join(' ')}`, one);
    });
    if (!action) return undefined;
    const connection = asked ?? w.try(() => (w.eat('in|at|on|with') ? target() : undefined));
    if (connection === undefined) return undefined;
    let values: { name: string; formula: string }[] = [];
    if (w.eat('with|called|named|,? with')) {
      if (!w.eat('nothing')) {
        const read = this.#values();
        if (!read) return undefined;
        values = read;
      }
    }
    const removeOn = w.try(() => {
      const day = 'on|after|at_the_end_of';
      if (!w.eat(`;|,? undo|remove|removed it? ${day}`, ';|,? until')) return undefined;
      const token = w.tokens[w.at];
      if (token?.quoted && w.text[token.from] === '‹') {
        w.at++;
        return token.text;
      }
      w.eat('the');
      const date = w.name(dateFields(known));
      return known.definition.form.fields.find(f => f.id === date && f.kind === 'date')?.label;
    });
    w.eat('; for good');
    const inner: Around = { when: [...around.when] };
    if (!this.#behindAll(inner) || inner.limit || inner.back || inner.count || !this.#isSound(inner)) return undefined;
    return [
      {
        verb: 'Provision',
        id: this.#id('provision'),
        when: this.#when(inner),
        connection,
        action,
        values,
        ...(removeOn ? { removeOn } : {}),
      },
    ];
  }

  #closed(): Step[] | undefined {
    const { w } = this;
    w.eat('the request');
    if (
      !w.eat(
        'closes|close|ends|end|finishes|finish|is_closed|is_ended it|the_request|request? as|with',
        'closes|close|ends|end as',
      )
    ) {
      w.missed('close as');
      return undefined;
    }
    const closing = w.name(this.#closings);
    if (closing === undefined) return undefined;
    w.try(() => (w.eat('and the asker gets') ? w.quoted() : undefined));
    return [{ verb: 'Close', id: this.#id('close'), closing }];
  }
}

const isNumber = (word: string): boolean => /^\d/.test(word);
