/**
 * A workflow definition: one JSON document that says who may ask, what is asked, what is worked out, who handles it in
 * which order, and how it ends. Everything else (running, sentences, stones, findings) is worked out from it.
 * What is not said is as usual: a missing key never means something that a written key could not say.
 */
import { z } from 'zod';
import { Access, type Field, Form, Formula, Id, Name } from '../../form/index.ts';
import { PeopleRule } from '../../people/index.ts';
import { CivilDate, Instant, WorkingAmount } from '../../time/index.ts';
import { upgraded } from './upgrade.ts';

export const formatVersion = 2;

export const Unit = z.enum(['days', 'hours', 'money', 'number', 'date', 'text', 'yes/no']);
export type Unit = z.infer<typeof Unit>;

export const Figure = z.object({ id: Id, name: Name, formula: Formula, unit: Unit });
export type Figure = z.infer<typeof Figure>;

/** Who may ask, for whom, and when. */
export const Opening = z.object({
  /** Everybody when nothing is said. */
  who: PeopleRule.optional(),
  forWhom: z.array(z.enum(['self', 'report', 'joiner'])).min(1),
  from: CivilDate.optional(),
  to: CivilDate.optional(),
  /** Whether somebody without an account may ask through a link. */
  link: z.boolean().optional(),
});
export type Opening = z.infer<typeof Opening>;

/** Where an outcome or a row leads. `next` in the last place of a lane ends the lane. */
export const Go = z.discriminatedUnion('to', [
  z.object({ to: z.literal('next') }),
  z.object({ to: z.literal('step'), step: Id }),
  z.object({ to: z.literal('close'), closing: Id }),
]);
export type Go = z.infer<typeof Go>;

/** Back to the asker, or to whoever settled an earlier step, who may change the named fields; it goes on at `resume`. */
export const Rework = z.object({
  to: z.literal('rework'),
  whom: Id.optional(),
  fields: z.array(Id).min(1, 'names no field that may be changed').max(200),
  resume: Id,
  atMost: z.number().int().min(1).max(20),
});
export type Rework = z.infer<typeof Rework>;

export const Tone = z.enum(['good', 'rework', 'bad']);
export type Tone = z.infer<typeof Tone>;

export const Outcome = z.object({
  id: Id,
  label: Name,
  tone: Tone,
  note: z.enum(['none', 'may', 'must']),
  /** Fields that must be filled in before this outcome can be chosen. */
  needs: z.array(Id).min(1).max(200).optional(),
  leads: z.discriminatedUnion('to', [...Go.options, Rework]),
});
export type Outcome = z.infer<typeof Outcome>;

/** Working time of the holder, or so many working days before a date of the form. */
export const LimitTime = z.union([
  ...WorkingAmount.options,
  z.object({ workingDaysBefore: z.number().int().min(0).max(400), field: Id }).strict(),
]);
export type LimitTime = z.infer<typeof LimitTime>;

export const AtLimit = z.union([
  z.enum(['wait', 'pass up']),
  z.object({ passTo: PeopleRule }).strict(),
  z.object({ take: Id }).strict(),
  z.object({ tell: PeopleRule }).strict(),
]);
export type AtLimit = z.infer<typeof AtLimit>;

export const Limit = z.object({
  within: LimitTime,
  /** Working time before the first reminder, then between one and the next. */
  remind: z
    .object({ after: WorkingAmount, every: WorkingAmount.optional(), atMost: z.number().int().min(1).max(20) })
    .nullable(),
  atLimit: AtLimit,
});
export type Limit = z.infer<typeof Limit>;

/** How many of those asked must answer; the first answer settles when nothing is said. */
export const Counting = z.union([
  z.enum(['everyone', 'majority', 'in turn']),
  z.object({ atLeast: z.number().int().min(1).max(50) }).strict(),
]);
export type Counting = z.infer<typeof Counting>;

const when = Formula.nullable().default(null);
const whenAway = z.enum(['waits', 'goes up']);
/** To whom a holder may pass it on: those whom its own rule may find, when nothing is said, or anybody. */
const handTo = z.literal('anybody').optional();
const Valued = z.object({ name: Name, formula: Formula });

export const Until = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('date'), formula: Formula }),
  z.object({ kind: z.literal('before'), workingDays: z.number().int().min(0).max(400), field: Id }),
  z.object({ kind: z.literal('time'), amount: WorkingAmount }),
  z.object({ kind: z.literal('document'), field: Id }),
  /** Until every request that this one opened has come to its end. */
  z.object({ kind: z.literal('requests') }),
]);
export type Until = z.infer<typeof Until>;

export const RecordEffect = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('book leave'), span: Id, type: Id, planner: z.boolean() }),
  z.object({ kind: z.literal('planner'), span: Id, label: Name }),
  z.object({ kind: z.literal('person'), property: Name, formula: Formula }),
  z.object({ kind: z.literal('add row'), list: z.string().min(1).max(40), values: z.array(Valued).min(1).max(12) }),
  z.object({ kind: z.literal('change row'), row: Id, values: z.array(Valued).min(1).max(12) }),
  z.object({ kind: z.literal('set'), field: Id, formula: Formula }),
  z.object({ kind: z.literal('open'), workflow: z.string().min(1).max(40), values: z.array(Valued).max(40) }),
]);
export type RecordEffect = z.infer<typeof RecordEffect>;

/** What a person’s record has that a request may ask to be changed. */
export const recordProperties = [
  'name',
  'mail',
  'post',
  'place',
  'department',
  'line manager',
  'dotted-line manager',
  'work pattern',
  'full-time share',
  'leave plan',
  'last day',
] as const;

export const provisions = [
  'create account',
  'change account',
  'disable account',
  'add to group',
  'take out of group',
  'create space',
  'close space',
] as const;

const flat = [
  z.object({ verb: z.literal('Ask'), id: Id }),
  z.object({
    verb: z.literal('Choose'),
    id: Id,
    when,
    rows: z
      .array(
        z.object({
          id: Id,
          condition: Formula,
          sets: z
            .array(z.object({ field: Id, formula: Formula }))
            .min(1)
            .max(20)
            .optional(),
          go: Go,
        }),
      )
      .max(100, 'has more than 100 rows'),
    otherwise: Go.nullable(),
  }),
  z.object({
    verb: z.literal('Decide'),
    id: Id,
    when,
    who: PeopleRule,
    count: Counting.optional(),
    whenAway,
    /** Whoever approved the step before is not asked again. */
    once: z.literal(true).optional(),
    /** The asker may hold it: it is not a decision about their own wish, but about its course. */
    askerMay: z.literal(true).optional(),
    handTo,
    limit: Limit.nullable(),
    outcomes: z.array(Outcome).min(1, 'has no outcome').max(9),
  }),
  z.object({
    verb: z.literal('Do'),
    id: Id,
    when,
    who: PeopleRule,
    /** The first to take it does it; otherwise everybody found does. */
    pool: z.literal(true).optional(),
    handTo,
    whenAway,
    task: z.string().trim().min(1, 'says nothing to do').max(200),
    checklist: z
      .array(z.object({ id: Id, label: z.string().trim().min(1).max(200) }))
      .max(40)
      .optional(),
    limit: Limit.nullable(),
    /** Where “could not” leads; without it, it cannot be said. */
    couldNot: Go.optional(),
  }),
  z.object({ verb: z.literal('Hold'), id: Id, when, until: Until }),
  z.object({ verb: z.literal('Record'), id: Id, when, effect: RecordEffect }),
  z.object({
    verb: z.literal('Provision'),
    id: Id,
    when,
    connection: Name,
    action: z.enum(provisions),
    values: z.array(Valued).max(20),
    /** The date on which it is undone again. */
    removeOn: Formula.optional(),
  }),
  z.object({
    verb: z.literal('Tell'),
    id: Id,
    when,
    to: z.array(PeopleRule).max(10),
    addresses: z.array(z.email('is no mail address')).max(10).optional(),
    message: Id,
    attach: z.enum(['invitation', 'pdf']).optional(),
  }),
  z.object({ verb: z.literal('Close'), id: Id, closing: Id }),
] as const;

export type FlatStep = z.infer<(typeof flat)[number]>;
export type Lane = { id: string; name: string; steps: Step[] };
export type SplitStep = {
  verb: 'Split';
  id: string;
  when: string | null;
  /** How many lanes must be done before it goes on. */
  needs: 'all' | 'any' | number;
  lanes: Lane[];
};
export type Step = FlatStep | SplitStep;
export type Verb = Step['verb'];
export type StepOf<V extends Verb> = Extract<Step, { verb: V }>;

export const verbs = [
  'Ask',
  'Choose',
  'Decide',
  'Do',
  'Split',
  'Hold',
  'Record',
  'Provision',
  'Tell',
  'Close',
] as const satisfies readonly Verb[];

// Named once, so that a getter can point back at it.
const Split = z.object({
  verb: z.literal('Split'),
  id: Id,
  when,
  needs: z.union([z.enum(['all', 'any']), z.number().int().min(1).max(20)]),
  get lanes(): z.ZodArray<z.ZodObject<{ id: typeof Id; name: typeof Name; steps: z.ZodArray<z.ZodType<Step>> }>> {
    return z
      .array(z.object({ id: Id, name: Name, steps: z.array(Step).max(200) }))
      .min(1)
      .max(20);
  },
});
export const Step: z.ZodType<Step> = z.discriminatedUnion('verb', [...flat, Split]) as unknown as z.ZodType<Step>;

export const Message = z.object({
  id: Id,
  name: Name,
  /** Names of fields and figures in braces are replaced: `{Days}`. */
  subject: z.string().min(1).max(200),
  /** Plain words, or rich text as the few HTML elements that `richText` knows. */
  body: z.string().min(1).max(10_000),
});
export type Message = z.infer<typeof Message>;

export const Closing = z.object({
  id: Id,
  name: Name,
  tone: z.enum(['good', 'bad', 'neutral']),
  /** The message that tells the asker how it ended. */
  message: Id.nullable(),
});
export type Closing = z.infer<typeof Closing>;

/** A word for colleagues beside a line: a step, a field, a figure or a message, by id. */
export const SheetNote = z.object({
  id: Id,
  on: z.object({ what: z.enum(['step', 'field', 'figure', 'message']), id: Id }),
  text: z.string().trim().min(1).max(1000),
  by: z.string().min(1).max(40),
  at: Instant,
});
export type SheetNote = z.infer<typeof SheetNote>;

/** One thing done in a rehearsal: after how many minutes, by whom, what. The asker asks first. */
export const Act = z.object({
  minutes: z.number().int().nonnegative(),
  by: z.string().min(1).max(40).nullable(),
  step: Id.nullable(),
  what: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('outcome'),
      outcome: Id,
      note: z.string().max(5000).nullable(),
      answers: z.record(Id, z.unknown()).optional(),
    }),
    z.object({ kind: z.literal('done'), answers: z.record(Id, z.unknown()) }),
    z.object({ kind: z.literal('could not'), note: z.string().max(5000) }),
    z.object({ kind: z.literal('resubmit'), answers: z.record(Id, z.unknown()) }),
    z.object({ kind: z.literal('document'), answers: z.record(Id, z.unknown()) }),
    z.object({ kind: z.literal('withdraw') }),
    z.object({ kind: z.literal('wait') }),
  ]),
});
export type Act = z.infer<typeof Act>;

/** A rehearsal kept with its expected course, and tried again before every publishing. */
export const KeptCheck = z.object({
  id: Id,
  name: Name,
  asker: z.string().min(1).max(40),
  subject: z.string().min(1).max(40).optional(),
  at: Instant,
  answers: z.record(Id, z.unknown()),
  acts: z.array(Act).max(500),
  /** The course in short lines, as `courseOf` writes it. */
  expect: z.array(z.string().max(400)).max(2000),
});
export type KeptCheck = z.infer<typeof KeptCheck>;

const After = z.enum(['decided', 'at once', 'not']);
/** What the asker may still do with a request that was approved: asked for again, done at once, or not at all. */
export const Afterwards = z.object({ change: After, cancel: After });
export type Afterwards = z.infer<typeof Afterwards>;

/** So much fits on one sheet; more is several workflows. */
export const mostSteps = 300;
const deepestSplit = 5;

/** How many steps there are, those of lanes too, and how deep splits stand in one another. */
function sizeOf(steps: readonly Step[], depth = 1): { count: number; depth: number } {
  let size = { count: steps.length, depth };
  for (const step of steps) {
    if (step.verb !== 'Split') continue;
    for (const lane of step.lanes) {
      const inside = sizeOf(lane.steps, depth + 1);
      size = { count: size.count + inside.count, depth: Math.max(size.depth, inside.depth) };
    }
  }
  return size;
}

export const Definition = z.object({
  formatVersion: z.literal(formatVersion),
  name: Name,
  area: Name,
  tags: z.array(Name).max(20).optional(),
  purpose: z.string().max(500),
  opening: Opening.optional(),
  afterwards: Afterwards.optional(),
  /** What else means an outcome in a reply by mail, by the label of the outcome. */
  phrases: z
    .record(Name, z.array(Name).max(10))
    .refine(all => Object.keys(all).length <= 100, 'has phrases for more than 100 outcomes')
    .optional(),
  form: Form,
  access: Access.optional(),
  figures: z.array(Figure).max(100, 'has more than 100 figures'),
  steps: z
    .array(Step)
    .min(1, 'has no step')
    .max(mostSteps, `has more than ${mostSteps} steps`)
    .refine(steps => sizeOf(steps).count <= mostSteps, `has more than ${mostSteps} steps`)
    .refine(steps => sizeOf(steps).depth <= deepestSplit, `has splits more than ${deepestSplit - 1} deep`),
  messages: z.array(Message).max(100, 'has more than 100 messages'),
  closings: z.array(Closing).min(1, 'has no closing').max(50, 'has more than 50 closings'),
  notes: z.array(SheetNote).max(500).optional(),
  checks: z.array(KeptCheck).max(100).optional(),
});
export type Definition = z.infer<typeof Definition>;

export type DefinitionFault = { path: (string | number)[]; message: string };

/** Reads a document that claims to be a workflow, of this format or an older one; every fault with the path to its place. */
export function readDefinition(
  input: unknown,
): { ok: true; definition: Definition } | { ok: false; faults: DefinitionFault[] } {
  const current = upgraded(input, formatVersion);
  if ('fault' in current) return { ok: false, faults: [{ path: ['formatVersion'], message: current.fault }] };
  const read = Definition.safeParse(current.document);
  if (read.success) return { ok: true, definition: read.data };
  return {
    ok: false,
    faults: read.error.issues.map(issue => ({
      path: issue.path.map(key => (typeof key === 'number' ? key : String(key))),
      message: wordsFor(issue, current.document),
    })),
  };
}

function wordsFor(issue: z.core.$ZodIssue, input: unknown): string {
  if (issue.code === 'invalid_union' && 'discriminator' in issue && issue.discriminator === 'verb') {
    let at: unknown = input;
    for (const key of issue.path) at = (at as Record<PropertyKey, unknown> | undefined)?.[key];
    return `“${String(at)}” is not a verb of a step. The verbs are ${verbs.join(', ')}.`;
  }
  return issue.message;
}

/** A readable path: `steps 3, outcomes 1, label`. */
export const pathText = (path: readonly (string | number)[]): string =>
  path.map(key => (typeof key === 'number' ? String(key + 1) : key)).join(' › ') || 'the document';

export const fieldById = (definition: Definition, id: string): Field | undefined =>
  definition.form.fields.find(field => field.id === id);
export const closingById = (definition: Definition, id: string): Closing | undefined =>
  definition.closings.find(closing => closing.id === id);
export const messageById = (definition: Definition, id: string | null): Message | undefined =>
  definition.messages.find(message => message.id === id);

/** Whether a step needs a person, a date or the outside world before it goes on. */
export const waits = (step: Step): boolean => step.verb === 'Decide' || step.verb === 'Do' || step.verb === 'Hold';
