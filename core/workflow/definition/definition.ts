/**
 * A workflow definition: one JSON document that says who may ask, what is asked, what is worked out, who handles it in
 * which order, and how it ends. Everything else (running, sentences, stones, findings) is worked out from it.
 * What is not said is as usual: a missing key never means something that a written key could not say.
 */
import { z } from 'zod';
import { Access, type Field, Form, Formula, Id, Name } from '../../form/index.ts';
import { PeopleRule } from '../../people/index.ts';
import { CivilDate, Instant } from '../../time/index.ts';
import { mostCountedBack, Step, verbs } from './steps/index.ts';
import { upgraded } from './upgrade.ts';

export * from './steps/index.ts';

export const formatVersion = 3;

export const Unit = z.enum(['days', 'hours', 'money', 'number', 'date', 'text', 'yes/no']);
export type Unit = z.infer<typeof Unit>;

export const Figure = z.object({ id: Id, name: Name, formula: Formula, unit: Unit });
export type Figure = z.infer<typeof Figure>;

/** Longer than this nobody keeps what somebody outside has given. */
export const mostMonthsKept = 120;

/**
 * Asked for by somebody outside, at a public address: what they fill in there, and who in the house the request is with.
 * What they fill in later they are given as guests, at steps whose guest has the same address.
 */
export const Outside = z
  .object({
    /** The field with their name, and the one with the address that their own link goes to. */
    name: Id,
    mail: Id,
    /** Sections of the form that stand at the public address. */
    sections: z.array(Id).min(1, 'gives no section to fill in').max(30),
    /** Who keeps it in the house, as the asker would. */
    keptBy: PeopleRule,
    /** What stands above the form there; what the workflow is for, when nothing is said. */
    words: z.string().trim().min(1).max(500).optional(),
    /** So many months after its end everything of it is deleted. */
    keptMonths: z.number().int().min(1).max(mostMonthsKept).optional(),
  })
  .strict();
export type Outside = z.infer<typeof Outside>;

/** Who may ask, for whom, and when. */
export const Opening = z.object({
  /** Everybody when nothing is said. */
  who: PeopleRule.optional(),
  forWhom: z.array(z.enum(['self', 'report', 'joiner'])).min(1),
  from: CivilDate.optional(),
  to: CivilDate.optional(),
  /** Somebody without an account may ask too, at a public address. */
  outside: Outside.optional(),
});
export type Opening = z.infer<typeof Opening>;

export const Message = z.object({
  id: Id,
  name: Name,
  /** Names of fields and figures in braces are replaced: `{Days}`. */
  subject: z.string().min(1).max(200),
  /** Plain words, or rich text as the few HTML elements that `richText` knows. */
  body: z.string().min(1).max(10_000),
});
export type Message = z.infer<typeof Message>;

/** A paper with values put in, made into a PDF and kept in a field of the request. */
export const Letter = z.object({
  id: Id,
  name: Name,
  /** The head of its first page; names in braces are replaced, as everywhere in it. */
  title: z.string().trim().min(1).max(200),
  /** A paragraph that is the name of a table alone becomes that table; `{decisions}` who decided what. */
  body: z.string().min(1).max(20_000),
  /** What stands at the foot of every page. */
  foot: z.string().trim().max(300).optional(),
});
export type Letter = z.infer<typeof Letter>;

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
    z.object({ kind: z.literal('move date'), date: CivilDate }),
    /** What a guest hands in; papers are taken as signed. */
    z.object({ kind: z.literal('guest'), section: Id, answers: z.record(Id, z.unknown()) }),
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
  /** Asked for from outside; the asker is whoever kept it then. */
  outside: z.literal(true).optional(),
  at: Instant,
  answers: z.record(Id, z.unknown()),
  acts: z.array(Act).max(500),
  /** The course in short lines, as `traceOf` writes it. */
  expect: z.array(z.string().max(400)).max(2000),
});
export type KeptCheck = z.infer<typeof KeptCheck>;

const After = z.enum(['decided', 'at once', 'not']);
/** What the asker may still do with a request that was approved: asked for again, done at once, or not at all. */
export const Afterwards = z.object({ change: After, cancel: After });
export type Afterwards = z.infer<typeof Afterwards>;

/** The date that the request counts back from, and what is made of it. */
export const CountsBack = z
  .object({
    /** A date of the form: the first day, the last day. */
    field: Id,
    /** The field that says where the person will work: a post, a place or a person; their record when nothing is said. */
    place: Id.optional(),
    /** Asked so many working days before the date at least. */
    notice: z.number().int().min(1).max(mostCountedBack).optional(),
    /** Slack up to so many working days is tight; only no slack at all when nothing is said. */
    tightWithin: z.number().int().min(1).max(60).optional(),
    /** Who may move the date, besides the asker and HR of the person. */
    movedBy: PeopleRule.optional(),
    /** So many working days before the date these are told when it is not ready. */
    alert: z
      .object({ workingDays: z.number().int().min(1).max(mostCountedBack), tell: PeopleRule })
      .strict()
      .optional(),
  })
  .strict();
export type CountsBack = z.infer<typeof CountsBack>;

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
  /** Open tasks go to whoever has their step once the records say somebody else; they stay where nothing is said. */
  tasksMove: z.literal(true).optional(),
  /** Who looks after a request when its owner leaves or is away for long; their cover, else HR operations, when nothing is said. */
  ownedNext: PeopleRule.optional(),
  /** What else means an outcome in a reply by mail, by the label of the outcome. */
  phrases: z
    .record(Name, z.array(Name).max(10))
    .refine(all => Object.keys(all).length <= 100, 'has phrases for more than 100 outcomes')
    .optional(),
  form: Form,
  countsBack: CountsBack.optional(),
  access: Access.optional(),
  figures: z.array(Figure).max(100, 'has more than 100 figures'),
  steps: z
    .array(Step)
    .min(1, 'has no step')
    .max(mostSteps, `has more than ${mostSteps} steps`)
    .refine(steps => sizeOf(steps).count <= mostSteps, `has more than ${mostSteps} steps`)
    .refine(steps => sizeOf(steps).depth <= deepestSplit, `has splits more than ${deepestSplit - 1} deep`),
  messages: z.array(Message).max(100, 'has more than 100 messages'),
  letters: z.array(Letter).max(50, 'has more than 50 letters').optional(),
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

export const letterById = (definition: Definition, id: string): Letter | undefined =>
  definition.letters?.find(letter => letter.id === id);

/** Whether a step needs a person, a date or the outside world before it goes on. */
export const waits = (step: Step): boolean => step.verb === 'Decide' || step.verb === 'Do' || step.verb === 'Hold';
