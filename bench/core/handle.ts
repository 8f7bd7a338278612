/** One command through `handle` against the same transition in a general state machine, and statements of many people. */
import { alone, employmentOf, type LeaveBook, movedOf, statement } from '@north-pebble/core/leave';
import type { CivilDate } from '@north-pebble/core/time';
import { type Context, handle, newRequest } from '@north-pebble/core/workflow';
import { annualLeave, demoNow, id, leaveTypes, plans } from '@north-pebble/demo';
import { assign, initialTransition, setup, transition } from 'xstate';
import { index } from '../house.ts';

import { type Row, secondsFor, sideBySide } from '../measure.ts';

const book: LeaveBook = {
  index,
  types: leaveTypes,
  plans,
  entries: [],
  adjustments: [],
  today: '2026-02-02' as CivilDate,
};
const contextFor = (actor: string): Context => ({ now: demoNow, actor: id(actor), index, book, away: [] });

const machine = setup({
  types: {
    context: {} as { note: string | null; decisions: readonly { by: string; outcome: string }[] },
    events: {} as { type: 'approve' | 'back' | 'decline'; by: string; holder: string; note: string | null },
  },
  guards: { isHolder: ({ event }) => event.by === event.holder, hasNote: ({ event }) => Boolean(event.note?.trim()) },
  actions: {
    keep: assign({
      decisions: ({ context, event }) => [...context.decisions, { by: event.by, outcome: event.type }],
      note: ({ event }) => event.note,
    }),
  },
}).createMachine({
  initial: 'manager',
  context: { note: null, decisions: [] },
  states: {
    manager: {
      on: {
        approve: { guard: 'isHolder', target: 'book', actions: 'keep' },
        back: { guard: 'hasNote', target: 'rework', actions: 'keep' },
        decline: { guard: 'hasNote', target: 'declined', actions: 'keep' },
      },
    },
    rework: {},
    book: {},
    declined: { type: 'final' },
  },
});

/** Sending back: the holder, the outcome and the note are checked, the task ends, the asker has it. */
export function handleRow(): Row {
  const dates = { from: { date: '2026-03-09', half: 'am' }, to: { date: '2026-03-13', half: 'pm' } };
  const asked = handle(
    annualLeave,
    newRequest('R-1'),
    { kind: 'submit', answers: { kind: 'annual', dates } },
    contextFor('ines'),
  );
  if (!asked.ok) throw new Error(asked.refusal.message);
  const { state } = asked;
  const context = contextFor('tobias');
  const command = {
    kind: 'answer',
    seen: state.version,
    task: state.tasks[0].id,
    outcome: 'send-back',
    note: 'Later?',
  } as const;
  const [start] = initialTransition(machine);
  const event = { type: 'back', by: 'tobias', holder: 'tobias', note: 'Later?' } as const;
  const { ours, theirs } = sideBySide(
    () => handle(annualLeave, state, command, context),
    () => transition(machine, start, event),
  );
  return {
    what: 'one command (send back)',
    ours,
    theirs,
    baseline: 'XState',
    ratio: theirs / ours,
    bar: 0.4,
    better: 'less',
  };
}

export function statementsRow(): Row {
  const people = Array.from({ length: 10_000 }, (_, i) => index.directory.people[i % index.directory.people.length]);
  const plan = plans[0].rules;
  const asOf = '2026-12-31' as CivilDate;
  const moved = [3, 5, 7, 9].map(month =>
    movedOf({ date: `2026-0${month}-10` as CivilDate, kind: 'taken', amount: 4 }),
  );
  const all = (count: number) => {
    for (const person of people.slice(0, count)) {
      const joined = person.joined > '2026-01-01' ? person.joined : ('2026-01-01' as CivilDate);
      statement({ person: { ...employmentOf(person), joined }, course: alone(plan, joined), moved }, asOf);
    }
  };
  all(1000);
  const tenth = secondsFor(() => all(1000));
  const whole = secondsFor(() => all(10_000));
  return {
    what: `statements of 10,000 people for a leave year, in seconds (${whole.toFixed(2)} s)`,
    ours: whole,
    theirs: tenth * 10,
    baseline: 'ten times 1,000 people',
    ratio: whole / (tenth * 10),
    bar: 1.5,
    better: 'less',
  };
}
