/** Pieces that starters are made of. */
import type { Field } from '../form/index.ts';
import type { PeopleRule, SingleRule } from '../people/index.ts';
import { Definition, type Go, type Limit, type Outcome, type Step, type StepOf } from '../workflow/index.ts';

export const ask: Step = { verb: 'Ask', id: 'ask' };
export const on: Go = { to: 'next' };
export const close = (closing: string): Go => ({ to: 'close', closing });

export const people = (first: SingleRule, ...otherwise: SingleRule[]): PeopleRule => ({ first, otherwise });
const hr: SingleRule = { kind: 'role', role: 'HR partner' };
export const lineManager = people({ kind: 'manager', levels: 1 }, hr);
export const managerAbove = people({ kind: 'manager', levels: 2 }, hr);
export const subjectsManager = people({ kind: 'manager', levels: 1, of: 'subject' }, hr);
export const role = (name: string): PeopleRule => people({ kind: 'role', role: name });
export const asker = people({ kind: 'asker' });

export const within = (workingDays: number, atLimit: Limit['atLimit'] = 'wait'): Limit => ({
  within: { workingDays },
  remind: { after: { workingDays: 1 }, atMost: 3 },
  atLimit,
});
export const before = (workingDaysBefore: number, field: string): Limit => ({
  within: { workingDaysBefore, field },
  remind: null,
  atLimit: 'wait',
});

/** By its last day in the plan. */
export const byPlan: Limit = { within: { byPlan: true }, remind: null, atLimit: 'wait' };

export const approve: Outcome = { id: 'approve', label: 'Approve', tone: 'good', note: 'may', leads: on };
export const decline: Outcome = {
  id: 'decline',
  label: 'Decline',
  tone: 'bad',
  note: 'must',
  leads: close('declined'),
};
export const sendBack = (resume: string, ...fields: string[]): Outcome => ({
  id: 'send-back',
  label: 'Send back',
  tone: 'rework',
  note: 'must',
  leads: { to: 'rework', fields, resume, atMost: 3 },
});

export const decide = (
  id: string,
  who: PeopleRule,
  limit: Limit | null,
  outcomes: Outcome[] = [approve, decline],
  more: Partial<StepOf<'Decide'>> = {},
): Step => ({ verb: 'Decide', id, when: null, who, whenAway: 'goes up', limit, outcomes, ...more });

export const task = (
  id: string,
  who: PeopleRule,
  words: string,
  limit: Limit | null,
  checklist: string[] = [],
  more: Partial<StepOf<'Do'>> = {},
): Step => ({
  verb: 'Do',
  id,
  when: null,
  who,
  pool: true,
  whenAway: 'waits',
  task: words,
  ...(checklist.length > 0 ? { checklist: checklist.map((label, i) => ({ id: `item-${i + 1}`, label })) } : {}),
  limit,
  ...more,
});

export const tell = (id: string, message: string, to: PeopleRule[], when: string | null = null): Step => ({
  verb: 'Tell',
  id,
  when,
  to,
  message,
});
export const end = (closing: string): Step => ({ verb: 'Close', id: `end-${closing}`, closing });

export const text = (id: string, label: string, required = true, more: Partial<Field> = {}): Field =>
  ({ kind: 'text', id, label, required, ...more }) as Field;
export const longText = (id: string, label: string, required = false, more: Partial<Field> = {}): Field =>
  ({ kind: 'long text', id, label, required, ...more }) as Field;
/** What a trip is for, and whoever leads it, as the list of programmes says. */
export const programmeAndLead: readonly Field[] = [
  { kind: 'pick', id: 'programme', label: 'Programme', required: true, list: 'programmes', section: 'trip' },
  {
    kind: 'person',
    id: 'lead',
    label: 'Programme lead',
    required: true,
    section: 'trip',
    start: { from: 'picked', field: 'programme', column: 'lead' },
  },
];
export const leaveKind = (...only: string[]): Field => ({
  kind: 'choice',
  id: 'kind',
  label: 'Kind',
  required: true,
  options: 'leave types',
  only,
});
export const leaveDates: Field = { kind: 'leave span', id: 'dates', label: 'Dates', required: true };
export const bookLeave: Step = {
  verb: 'Record',
  id: 'book',
  when: null,
  effect: { kind: 'book leave', span: 'dates', type: 'kind', planner: true },
};
/** The same, with a field in which the asker says why where a rule of the leave type asks for it. */
export const bookLeaveWithReason: Step = {
  verb: 'Record',
  id: 'book',
  when: null,
  effect: { kind: 'book leave', span: 'dates', type: 'kind', planner: true, why: 'remark' },
};

const paragraph = (words: string): string => `<p>${words}</p>`;

/** A message in the few paragraphs that it has. */
export const message = (
  id: string,
  name: string,
  subject: string,
  ...paragraphs: string[]
): Definition['messages'][number] => ({
  id,
  name,
  subject,
  body: paragraphs.map(paragraph).join(''),
});

export const goodAndBad = (good: string, bad = 'Declined'): Definition['closings'] => [
  { id: 'done', name: good, tone: 'good', message: 'done' },
  { id: 'declined', name: bad, tone: 'bad', message: 'declined' },
];
export const declined = message(
  'declined',
  'Declined',
  'Declined: {workflow}',
  'Hello {asker},',
  'your request ({request}) was declined.',
);

export type Starter = { id: string; definition: Definition };

/** Every starter passes the schema; a slip in one is a fault of ours. */
export const starter = (id: string, definition: Omit<Definition, 'formatVersion'>): Starter => ({
  id,
  definition: Definition.parse({ formatVersion: 3, ...definition }),
});
