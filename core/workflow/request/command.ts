/** What people and timers may ask of a request, and what they get: events and effects, or a refusal with its reason. */
import { z } from 'zod';
import { type Answers, type FieldFault, GivenFile } from '../../form/index.ts';
import { HalfSpan, LeaveSpan } from '../../leave/index.ts';
import { PersonId } from '../../people/index.ts';
import { NearDate } from '../../time/index.ts';
import type { CalendarAnswer, Effect, NamedValues, RequestEvent, TimerKind } from './events.ts';
import type { RequestState } from './state.ts';

const seen = z.number().int().nonnegative();
const note = z.string().max(5000).nullish();
const words = z.string().trim().min(1, 'Write a few words.').max(5000);
/** Why HR books, changes or voids leave; it stands on the statement. */
const reason = z.string().trim().min(1, 'Say why.').max(1000);
const mostAnswers = 400;
/** Counted before anything else is looked at: a cheap call must not cost much. */
export const GivenAnswers = z
  .custom<Record<string, unknown>>(
    all => typeof all !== 'object' || all === null || Object.keys(all).length <= mostAnswers,
    'These are more answers than any form has fields.',
  )
  .pipe(z.record(z.string().max(80), z.unknown()));
const answers = GivenAnswers;

/** Somebody else who is to have a task: a person, or those who hold a role. */
export const ToWhom = z.union([
  z.object({ person: PersonId }).strict(),
  z.object({ role: z.string().min(1).max(80) }).strict(),
]);
export type ToWhom = z.infer<typeof ToWhom>;

/** So many files may come with one comment. */
export const mostCommentFiles = 5;

/** Commands of people. `seen` is the version of the request that the person had in front of them. */
export const Command = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('submit'), answers, subject: z.string().max(40).nullish() }),
  z.object({
    kind: z.literal('answer'),
    seen,
    task: z.string().max(80),
    outcome: z.string().max(80),
    note,
    answers: answers.optional(),
  }),
  z.object({ kind: z.literal('take'), seen, task: z.string() }),
  z.object({ kind: z.literal('put back'), seen, task: z.string() }),
  z.object({
    kind: z.literal('complete'),
    seen,
    task: z.string().max(80),
    /** Of the checklist; all of it must be ticked. */
    ticked: z.array(z.string().max(80)).max(40).default([]),
    answers: answers.default({}),
    note,
  }),
  z.object({ kind: z.literal('could not'), seen, task: z.string().max(80), note }),
  z.object({ kind: z.literal('resubmit'), seen, answers }),
  z.object({ kind: z.literal('hand in'), seen, step: z.string().max(80), answers }),
  // Looking after a guest: a section back, a word to them, another link, no link any more.
  z.object({
    kind: z.literal('give back section'),
    seen,
    step: z.string().max(80),
    section: z.string().max(80),
    note: words,
  }),
  z.object({ kind: z.literal('answer guest'), seen, step: z.string().max(80), text: words }),
  z.object({ kind: z.literal('renew link'), seen, step: z.string().max(80) }),
  z.object({ kind: z.literal('end link'), seen, step: z.string().max(80), note }),
  z.object({ kind: z.literal('withdraw'), seen, note }),
  z.object({ kind: z.literal('try again'), seen }),
  // The date that it counts back from.
  z.object({ kind: z.literal('move date'), seen, date: NearDate, reason: words }),
  z.object({ kind: z.literal('ask'), seen, task: z.string().max(80), question: words }),
  z.object({ kind: z.literal('reply'), seen, task: z.string().max(80), reply: words }),
  z.object({ kind: z.literal('hand over'), seen, task: z.string().max(80), to: ToWhom, note: words }),
  z.object({
    kind: z.literal('set aside'),
    seen,
    task: z.string().max(80),
    until: NearDate,
    /** Oneself when nobody is said. */
    to: ToWhom.nullish(),
    note,
  }),
  z.object({ kind: z.literal('bring back'), seen, task: z.string() }),
  z.object({
    kind: z.literal('comment'),
    text: words,
    mentions: z.array(PersonId).max(20).default([]),
    files: z.array(GivenFile).max(mostCommentFiles).optional(),
  }),
  z.object({ kind: z.literal('look'), field: z.string().max(40) }),
  z.object({ kind: z.literal('change after approval'), seen, answers, note }),
  z.object({ kind: z.literal('cancel after approval'), seen, note }),
  z.object({
    kind: z.literal('appoint'),
    seen,
    step: z.string().max(80),
    task: z.string().max(80).optional(),
    to: PersonId,
    note,
  }),
  z.object({ kind: z.literal('change owner'), seen, to: PersonId, note }),
  // What a connection has not done: HR did it by hand, asks once more, or goes on without it.
  z.object({ kind: z.literal('done by hand'), seen, key: z.string().max(150), note: words }),
  z.object({ kind: z.literal('ask again'), seen, key: z.string().max(150) }),
  z.object({ kind: z.literal('go on without'), seen, key: z.string().max(150), note: words }),
  z.object({ kind: z.literal('correct'), seen, answers, reason: words }),
  // HR keeps leave: books it for somebody, changes its dates, takes it back, also when it has begun or passed.
  z.object({
    kind: z.literal('book leave'),
    subject: PersonId,
    type: z.string().min(1).max(40),
    span: LeaveSpan,
    reason,
    /** The leave that it is the rest of, where somebody was called back from it. */
    restOf: z.string().max(20).optional(),
  }),
  z.object({ kind: z.literal('change leave'), seen, span: LeaveSpan, reason }),
  z.object({ kind: z.literal('call back'), seen, days: HalfSpan, reason }),
  z.object({ kind: z.literal('void leave'), seen, reason }),
  // Leave whose days have passed before it was decided.
  z.object({ kind: z.literal('book past'), seen, reason }),
  z.object({ kind: z.literal('let end'), seen, reason }),
]);
export type Command = z.infer<typeof Command>;

/** A timer that has come due, or a request that this one opened and that has ended. */
export type TimerCommand = { kind: 'timer'; task: string; what: TimerKind };
/** The house looks whether whoever looks after a request is here; if not, it goes to the first of those who is. */
export type OwnerCommand = { kind: 'mind owner'; operations: readonly PersonId[] };
/** What a connection says of an effect that it was asked for. */
export type EffectCommand = {
  kind: 'effect';
  key: string;
  outcome:
    | { state: 'delivered'; result: NamedValues }
    | { state: 'refused'; reason: string }
    | { state: 'undone'; stays?: string };
};
/** What a guest does at a step, by their link. Papers that were signed in the page are said by the house, not by them. */
export type GuestCommand = {
  kind: 'guest';
  step: string;
  what:
    | { kind: 'hand in'; section: string; answers: unknown; signed: Answers }
    | { kind: 'ask'; text: string }
    | { kind: 'withdraw consent'; field: string }
    | { kind: 'ask for link' }
    /** Whoever asked from outside answers a question of a holder, or wants it no more. */
    | { kind: 'reply'; task: string; reply: string }
    | { kind: 'withdraw' };
};
/** Somebody without an account asks, at the public address of a workflow. */
export type OutsideCommand = { kind: 'ask from outside'; answers: unknown };
/** What mail servers and calendars say by themselves of what a request sent. */
export type MailCommand = {
  kind: 'mail';
  what:
    | { kind: 'came back'; address: string; why: string }
    /** `uid` of the invitation that is answered, and the address that answers. */
    | { kind: 'calendar'; uid: string; address: string; answer: CalendarAnswer };
};
export type OpenedClosed = { kind: 'opened closed'; key: string; closing: string };

export type Refusal = {
  code:
    | 'stale'
    | 'not open'
    | 'not yours'
    | 'bad answers'
    | 'no such outcome'
    | 'note needed'
    | 'too many rounds'
    | 'not ticked';
  message: string;
  faults?: FieldFault[];
};
export type Result =
  | { ok: true; events: RequestEvent[]; effects: Effect[]; state: RequestState }
  | { ok: false; refusal: Refusal };

export const refuse = (code: Refusal['code'], message: string, faults?: FieldFault[]): Result => ({
  ok: false,
  refusal: { code, message, ...(faults ? { faults } : {}) },
});
export const refuseAnswers = (faults: FieldFault[], message = faults[0].message): Result =>
  refuse('bad answers', message, faults);
