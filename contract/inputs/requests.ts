/** What is sent about requests: asked, changed, found, looked at. */
import { LeaveSpan } from '@north-pebble/core/leave';
import { PersonId } from '@north-pebble/core/people';
import { NearDate } from '@north-pebble/core/time';
import { Command, GivenAnswers } from '@north-pebble/core/workflow';
import { z } from 'zod';
import { type RequestColumn, requestColumns } from '../columns.ts';

/** How many letters of typing are kept at one place. */
const mostUnsent = 60_000;

const CommandId = z.uuid('A command needs an id of its own.');

export const Submit = z.object({
  id: CommandId,
  workflow: z.string().min(1).max(40),
  /** For whom it is asked, when not for oneself. */
  subject: z.string().min(1).max(40).nullish(),
  answers: GivenAnswers,
});
export type Submit = z.infer<typeof Submit>;

/** HR books leave for somebody: also for days that have passed, with a reason. */
export const BookLeave = z.object({
  id: CommandId,
  person: PersonId,
  type: z.string().min(1).max(40),
  span: LeaveSpan,
  reason: z.string().trim().min(1, 'Say why.').max(1000),
});
export type BookLeave = z.infer<typeof BookLeave>;

export const SendCommand = z.object({ id: CommandId, command: Command });
export type SendCommand = z.infer<typeof SendCommand>;

export const PreviewInput = z.object({
  workflow: z.string().min(1).max(40),
  /** The request that is being changed, when it is not a new one. */
  request: z.string().max(40).nullish(),
  subject: z.string().min(1).max(40).nullish(),
  answers: GivenAnswers,
  /** Fields that the asker has typed in; the others take what is known. */
  touched: z.array(z.string().max(80)).max(500).optional(),
});
export type PreviewInput = z.infer<typeof PreviewInput>;

export const SaveDraft = z.object({
  answers: GivenAnswers.refine(answers => JSON.stringify(answers).length <= mostUnsent, 'That is too much to be kept.'),
});
export type SaveDraft = z.infer<typeof SaveDraft>;

const Columns = z.enum(Object.keys(requestColumns) as [RequestColumn, ...RequestColumn[]]);

/** Several values of one filter stand in the address side by side, with commas. */
const listOf = <T extends z.ZodType<string, string>>(one: T) =>
  z
    .string()
    .max(2000)
    .default('')
    .transform(text => text.split(',').filter(Boolean))
    .pipe(z.array(one));

/** So many columns of one workflow fit beside the others. */
export const mostShown = 12;
export const FindRequests = z.object({
  whose: z.enum(['mine', 'held', 'team', 'care', 'all']).default('mine'),
  status: listOf(z.enum(['open', 'rework', 'stuck', 'closed', 'withdrawn'])),
  workflow: listOf(z.string().max(40)),
  /** At these steps, of the one workflow that is named. */
  step: listOf(z.string().max(40)),
  /** Fields and figures of that workflow, shown as columns. */
  shown: listOf(z.string().max(40)).refine(all => all.length <= mostShown, `Choose at most ${mostShown} columns.`),
  words: z.string().trim().max(100).default(''),
  from: z.union([NearDate, z.literal('').transform(() => undefined)]).optional(),
  to: z.union([NearDate, z.literal('').transform(() => undefined)]).optional(),
  columns: listOf(Columns).transform(found =>
    found.length > 0 ? found : (Object.keys(requestColumns) as RequestColumn[]),
  ),
  /** Only those before this number: the next page. */
  before: z.coerce.number().int().positive().optional(),
});
export type FindRequests = z.infer<typeof FindRequests>;

/** What is added up of one workflow's requests, and by what they are told apart: a field by its id, or one of these. */
export const volumeBy = ['department', 'person', 'month'] as const;
export const mostSums = 4;
export const AskVolume = z
  .object({
    workflow: z.string().min(1).max(40),
    by: z.string().min(1).max(40).default('month'),
    of: listOf(z.string().max(40)).refine(all => all.length <= mostSums, `Choose at most ${mostSums} to be added up.`),
    from: z.union([NearDate, z.literal('').transform(() => undefined)]).optional(),
    to: z.union([NearDate, z.literal('').transform(() => undefined)]).optional(),
  })
  .refine(({ from, to }) => !from || !to || from <= to, {
    message: 'The last day lies before the first.',
    path: ['to'],
  });
export type AskVolume = z.infer<typeof AskVolume>;

/** Plans of one workflow or place, of those who start until a day. */
export const FindPlans = z.object({
  workflow: z.string().max(40).optional(),
  place: z.string().max(40).optional(),
});
export type FindPlans = z.infer<typeof FindPlans>;

/** A date to be tried before it is sent. */
export const TryDate = z.object({ to: NearDate });
export type TryDate = z.infer<typeof TryDate>;

/** Of which place the filters are. */
const SetPlace = z.enum(['requests', 'desk', 'people', 'balances', 'planner']);
export const NewSet = z.object({
  place: SetPlace.default('requests'),
  name: z.string().trim().min(1, 'Give it a name.').max(80),
  query: z.string().max(2000),
  shared: z.boolean(),
  /** Given to those who hold this role: they see it with how many are in it. */
  role: z.string().trim().min(1).max(80).nullable().default(null),
});
export type NewSet = z.infer<typeof NewSet>;

export const HelpEffect = z.object({ how: z.enum(['again', 'done']) });

/** What was typed for a request and not sent yet; nothing when it was sent or emptied. */
export const Unsent = z
  .object({ value: z.custom<unknown>(value => value !== undefined, 'There is nothing to keep.') })
  .refine(({ value }) => JSON.stringify(value).length <= mostUnsent, 'That is too much to be kept.');
export type Unsent = z.infer<typeof Unsent>;
export const UnsentWhat = z.string().min(1).max(80);

/** Opening one answer that only named readers see; it is recorded. */
export const Look = z.object({ id: CommandId, field: z.string().min(1).max(40) });
export type Look = z.infer<typeof Look>;

export const NewFile = z.object({ name: z.string().trim().min(1, 'A file needs a name.').max(200) });
