/** `The line manager decides within 2 days`: a decision, as somebody says it. */
import { isAsked } from '../../../form/index.ts';
import type { SingleRule } from '../../../people/index.ts';
import type { AttachedFiles, Outcome, Step, StepOf } from '../../definition/definition.ts';
import { readConditionOf } from '../conditions.ts';
import { readAmountOf } from '../limits.ts';
import { type Known, readWhom, type Whom } from '../people.ts';
import { type Around, behindAll, isSound, leading, limitOf, whenOf } from './around.ts';
import { readAttachedFiles } from './attachment.ts';
import type { Saying } from './saying.ts';

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

export function active(s: Saying, around: Around): Whom | undefined {
  const { w, known } = s;
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
export function passive(s: Saying): Whom | undefined {
  const { w, known } = s;
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
export function object(s: Saying, around: Around): void {
  const { w } = s;
  w.eat(
    'on|about|over? it|this|that|them|the_request|everything',
    'on|about? the? request|requests|leave|trip|trips',
    'it|this|that|everything|too|also|itself',
    'too|also|as well|again|first|together',
  );
  w.eat('too|also|as well|again|together');
  const condition = w.try(() => {
    // `anything over 10 days`, `requests longer than a week`, `trips that cost more than 500`.
    if (!w.eat('anything|everything|requests|request|leave|trips|trip|absences|those|any|all requests|leave|trips?')) {
      if (!/^(over|above|longer|more)$/.test(w.peek())) return undefined;
    }
    w.eat('that|which|who');
    return readConditionOf(w, s.known);
  });
  if (condition) around.when.push(condition);
}

export function decisions(s: Saying, whom: Whom, around: Around): Step[] {
  // Several people one after another are several steps: each of those has one person, who answers by themselves.
  const said = around.count ?? whom.count;
  const count = said === 'in turn' && whom.rules.length > 1 ? undefined : said;
  const rules: SingleRule[] = whom.rules;
  const steps = rules.map(
    (first): StepOf<'Decide'> => ({
      verb: 'Decide',
      id: s.id('decide'),
      when: whenOf(around),
      who: { first, ...whom.besides },
      ...(count ? { count } : {}),
      whenAway: around.whenAway ?? 'waits',
      ...(around.once ? { once: around.once } : {}),
      ...(around.askerMay ? { askerMay: around.askerMay } : {}),
      ...(around.handTo ? { handTo: around.handTo } : {}),
      limit: limitOf(around),
      outcomes: usualOutcomes(s.known),
    }),
  );
  const { back } = around;
  if (back) {
    const all = s.known.definition.form.fields.filter(isAsked).map(f => f.id);
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

export function decided(s: Saying): Step[] | undefined {
  const { w } = s;
  const around = leading(s);
  const whom = w.try(() => passive(s)) ?? w.try(() => active(s, around));
  if (!whom) return undefined;
  object(s, around);
  const files: AttachedFiles[] = [];
  const attached = () => {
    const one = readAttachedFiles(s);
    if (one) files.push(one);
    return one !== undefined;
  };
  if (!behindAll(s, around, attached) || !isSound(around)) return undefined;
  if (around.firstTakes && whom.how !== 'any') return undefined;
  const steps = decisions(s, whom, around);
  return files.length === 0 ? steps : steps.map(one => (one.verb === 'Decide' ? { ...one, attach: files } : one));
}
