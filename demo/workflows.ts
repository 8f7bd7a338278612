/** The workflows that are live in the demo. */
import { readFileSync } from 'node:fs';
import { starters } from '@north-pebble/core/starters';
import type { CivilDate } from '@north-pebble/core/time';
import { type Definition, type Outcome, readDefinition, type Step } from '@north-pebble/core/workflow';

const approve: Outcome = { id: 'approve', label: 'Approve', tone: 'good', note: 'may', leads: { to: 'next' } };
const decline: Outcome = {
  id: 'decline',
  label: 'Decline',
  tone: 'bad',
  note: 'must',
  leads: { to: 'close', closing: 'declined' },
};

const sendBack = (fields: string[], resume: string): Outcome => ({
  id: 'send-back',
  label: 'Send back',
  tone: 'rework',
  note: 'must',
  leads: { to: 'rework', fields, resume, atMost: 3 },
});

type FormField = Definition['form']['fields'][number];
const kindOf = (...only: string[]): FormField => ({
  kind: 'choice',
  id: 'kind',
  label: 'Kind',
  required: true,
  options: 'leave types',
  only,
});
const dates: FormField = { kind: 'leave span', id: 'dates', label: 'Dates', required: true };
const book: Step = {
  verb: 'Record',
  id: 'book',
  when: null,
  effect: { kind: 'book leave', span: 'dates', type: 'kind', planner: true },
};
/** Where a rule of the leave type asks for a reason, the remark is it. */
const bookWithRemark: Step = {
  ...book,
  effect: { kind: 'book leave', span: 'dates', type: 'kind', planner: true, why: 'remark' },
};

const messages: Definition['messages'] = [
  {
    id: 'approved',
    name: 'Approved',
    subject: 'Approved: {Kind}, {Dates}',
    body: 'Hello {asker},\n\nyour leave is booked: {Kind}, {Dates}, {Days}.\n\nIt is on your team’s planner ({request}).',
  },
  {
    id: 'declined',
    name: 'Declined',
    subject: 'Declined: {Kind}, {Dates}',
    body: 'Hello {asker},\n\nyour request for {Kind} ({Dates}) was declined ({request}).',
  },
  {
    id: 'for-the-record',
    name: 'For the record',
    subject: '{asker} will be away: {Dates}',
    body: '{asker} takes {Days} of {Kind}, {Dates}.',
  },
];

const closings: Definition['closings'] = [
  { id: 'approved', name: 'Approved', tone: 'good', message: 'approved' },
  { id: 'declined', name: 'Declined', tone: 'bad', message: 'declined' },
];

export const annualLeave: Definition = {
  formatVersion: 3,
  name: 'Annual leave',
  area: 'Leave',
  purpose: 'Days off from the yearly entitlement, and family, study or unpaid leave.',
  form: {
    fields: [
      kindOf('annual', 'family', 'study', 'unpaid'),
      dates,
      {
        kind: 'long text',
        id: 'remark',
        label: 'Remark',
        help: 'Anything your manager should know. Not needed.',
        required: false,
      },
    ],
  },
  access: { 'line-manager': { kind: 'editable', dates: 'editable' } },
  figures: [
    { id: 'days', name: 'Days', formula: 'leave days(Dates)', unit: 'days' },
    { id: 'balance-after', name: 'Balance after', formula: 'balance after(Kind, Dates)', unit: 'number' },
    { id: 'others-away', name: 'Others away', formula: 'others away(Dates)', unit: 'number' },
  ],
  steps: [
    { verb: 'Ask', id: 'ask' },
    {
      verb: 'Choose',
      id: 'by-length',
      when: null,
      rows: [{ id: 'short', condition: 'Days <= 2 and Others away = 0', go: { to: 'step', step: 'book' } }],
      otherwise: { to: 'next' },
    },
    {
      verb: 'Decide',
      id: 'line-manager',
      when: null,
      who: { first: { kind: 'manager', levels: 1 }, otherwise: [{ kind: 'role', role: 'HR partner' }] },
      handTo: 'anybody',
      whenAway: 'goes up',
      limit: {
        within: { workingDays: 2 },
        remind: { after: { workingDays: 1 }, atMost: 3 },
        atLimit: 'pass up',
      },
      outcomes: [approve, sendBack(['dates'], 'by-length'), decline],
    },
    {
      verb: 'Decide',
      id: 'manager-above',
      when: 'Days > 10',
      who: { first: { kind: 'manager', levels: 2 }, otherwise: [{ kind: 'role', role: 'HR partner' }] },
      whenAway: 'goes up',
      limit: { within: { workingDays: 2 }, remind: { after: { workingDays: 1 }, atMost: 3 }, atLimit: 'wait' },
      outcomes: [approve, decline],
    },
    bookWithRemark,
    {
      verb: 'Tell',
      id: 'tell-manager',
      when: 'Days > 2 or Others away > 0',
      to: [{ first: { kind: 'manager', levels: 1 }, otherwise: [{ kind: 'role', role: 'HR partner' }] }],
      message: 'for-the-record',
    },
    { verb: 'Close', id: 'end', closing: 'approved' },
  ],
  messages,
  closings,
};

export const compensationTime: Definition = {
  ...annualLeave,
  name: 'Compensation time',
  purpose: 'Time off for extra hours already worked.',
  form: {
    fields: [
      kindOf('compensation'),
      dates,
      { kind: 'text', id: 'earned-with', label: 'Earned with', help: 'The work the hours come from.', required: true },
    ],
  },
  steps: [
    { verb: 'Ask', id: 'ask' },
    {
      verb: 'Decide',
      id: 'line-manager',
      when: null,
      who: { first: { kind: 'manager', levels: 1 }, otherwise: [] },
      whenAway: 'goes up',
      limit: { within: { workingDays: 3 }, remind: { after: { workingDays: 2 }, atMost: 2 }, atLimit: 'pass up' },
      outcomes: [approve, sendBack(['dates', 'earned-with'], 'line-manager'), decline],
    },
    book,
    { verb: 'Close', id: 'end', closing: 'approved' },
  ],
  messages: messages.filter(m => m.id !== 'for-the-record'),
};

/** The house’s own. */
export const workflows = [
  { id: 'annual-leave', definition: annualLeave },
  { id: 'compensation-time', definition: compensationTime },
] as const;

const others = [
  'sick-leave',
  'time-earned',
  'days-bought-or-sold',
  'days-given',
  'crossing-and-lodging',
  'new-colleague',
  'console-access',
  'shared-space',
  'new-post',
  'application',
  'renewal',
];

/** Live as the starters have them. */
export const newWorkflows = starters.filter(s => others.includes(s.id));

/** A workflow as it was until a day, and as it is from then on. */
export type LiveWorkflow = {
  readonly id: string;
  readonly definition: Definition;
  readonly before?: { readonly until: CivilDate; readonly definition: Definition };
};

/** Trips were written down as sums alone until this day; since then with their legs and beds, and end in an itinerary. */
export const legsFrom = '2025-12-01' as CivilDate;

/** @throws when it is no workflow: a slip of ours */
function definitionBefore(name: string): Definition {
  const read = readDefinition(JSON.parse(readFileSync(new URL(`./history/${name}.json`, import.meta.url), 'utf8')));
  if (!read.ok) throw new Error(`${name}: ${read.faults[0].message}`);
  return read.definition;
}

/** All that people have asked through for eighteen months. */
export const liveWorkflows: readonly LiveWorkflow[] = [...workflows, ...newWorkflows].map(workflow =>
  workflow.id === 'crossing-and-lodging'
    ? { ...workflow, before: { until: legsFrom, definition: definitionBefore('crossing-1') } }
    : workflow,
);
