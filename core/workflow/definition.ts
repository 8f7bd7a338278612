/**
 * A workflow definition: one JSON document that says what is asked, what is worked out, who handles it in which order,
 * and how it ends. Everything else (running, sentences, stones, findings) is worked out from it.
 */
import { z } from 'zod';
import { PeopleRule } from '../people/index.ts';
import { WorkingAmount } from '../time/index.ts';

export const formatVersion = 1;

const Id = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'is not an id: small letters, digits and dashes');
const Name = z.string().trim().min(1, 'needs a name').max(80, 'is longer than 80 letters');
const Formula = z.string().max(2000, 'is longer than 2,000 letters');

export const Field = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('leave span'), id: Id, label: Name, help: z.string().optional(), required: z.boolean() }),
  z.object({
    kind: z.literal('choice'),
    id: Id,
    label: Name,
    help: z.string().optional(),
    required: z.boolean(),
    /** Fixed words, or the leave types of the house. */
    options: z.union([z.array(Name).min(1), z.literal('leave types')]),
    /** Of the leave types, only these. */
    only: z.array(z.string()).min(1).optional(),
  }),
  z.object({ kind: z.literal('long text'), id: Id, label: Name, help: z.string().optional(), required: z.boolean() }),
  z.object({ kind: z.literal('text'), id: Id, label: Name, help: z.string().optional(), required: z.boolean() }),
  z.object({ kind: z.literal('yes/no'), id: Id, label: Name, help: z.string().optional(), required: z.boolean() }),
]);
export type Field = z.infer<typeof Field>;

export const Figure = z.object({
  id: Id,
  name: Name,
  formula: Formula,
  unit: z.enum(['days', 'number', 'text', 'yes/no']),
});
export type Figure = z.infer<typeof Figure>;

/** Where an outcome or a row leads. */
export const Go = z.discriminatedUnion('to', [
  z.object({ to: z.literal('next') }),
  z.object({ to: z.literal('step'), step: Id }),
  z.object({ to: z.literal('close'), closing: Id }),
]);
export type Go = z.infer<typeof Go>;

/** Back to the asker, who may change the named fields; the request goes on again at `resume`. */
export const Rework = z.object({
  to: z.literal('rework'),
  fields: z.array(Id).min(1, 'names no field that may be changed'),
  resume: Id,
  atMost: z.number().int().min(1).max(20),
});
export type Rework = z.infer<typeof Rework>;

export const Outcome = z.object({
  id: Id,
  label: Name,
  tone: z.enum(['good', 'rework', 'bad']),
  note: z.enum(['none', 'may', 'must']),
  leads: z.discriminatedUnion('to', [...Go.options, Rework]),
});
export type Outcome = z.infer<typeof Outcome>;

export const Limit = z.object({
  within: WorkingAmount,
  /** Working time before the first reminder, and between it and those after. */
  remind: z.object({ after: WorkingAmount, atMost: z.number().int().min(1).max(20) }).nullable(),
  atLimit: z.enum(['wait', 'pass up']),
});
export type Limit = z.infer<typeof Limit>;

const when = Formula.nullable().default(null);

export const Step = z.discriminatedUnion('verb', [
  z.object({ verb: z.literal('Ask'), id: Id }),
  z.object({
    verb: z.literal('Choose'),
    id: Id,
    when,
    rows: z.array(z.object({ id: Id, condition: Formula, go: Go })),
    otherwise: Go.nullable(),
  }),
  z.object({
    verb: z.literal('Decide'),
    id: Id,
    when,
    who: PeopleRule,
    whenAway: z.enum(['waits', 'goes up']),
    limit: Limit.nullable(),
    outcomes: z.array(Outcome).min(1, 'has no outcome'),
  }),
  z.object({
    verb: z.literal('Record'),
    id: Id,
    when,
    effect: z.object({ kind: z.literal('book leave'), span: Id, type: Id, planner: z.boolean() }),
  }),
  z.object({ verb: z.literal('Tell'), id: Id, when, to: z.array(PeopleRule).min(1), message: Id }),
  z.object({ verb: z.literal('Close'), id: Id, closing: Id }),
]);
export type Step = z.infer<typeof Step>;
export type StepOf<Verb extends Step['verb']> = Extract<Step, { verb: Verb }>;

export const Message = z.object({
  id: Id,
  name: Name,
  /** Names of fields and figures in braces are replaced: `{Days}`. */
  subject: z.string().min(1).max(200),
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

export const Definition = z.object({
  formatVersion: z.literal(formatVersion, `is not a format that this version reads (it reads ${formatVersion})`),
  name: Name,
  area: Name,
  purpose: z.string().max(500),
  form: z.object({ fields: z.array(Field) }),
  figures: z.array(Figure),
  steps: z.array(Step).min(1, 'has no step'),
  messages: z.array(Message),
  closings: z.array(Closing).min(1, 'has no closing'),
});
export type Definition = z.infer<typeof Definition>;

export type DefinitionFault = { path: (string | number)[]; message: string };

/** Reads a document that claims to be a workflow; every fault with the path to its place. */
export function readDefinition(
  input: unknown,
): { ok: true; definition: Definition } | { ok: false; faults: DefinitionFault[] } {
  const read = Definition.safeParse(input);
  if (read.success) return { ok: true, definition: read.data };
  return {
    ok: false,
    faults: read.error.issues.map(issue => ({
      path: issue.path.map(key => (typeof key === 'number' ? key : String(key))),
      message: wordsFor(issue, input),
    })),
  };
}

function wordsFor(issue: z.core.$ZodIssue, input: unknown): string {
  if (issue.code === 'invalid_union' && 'discriminator' in issue && issue.discriminator === 'verb') {
    let at: unknown = input;
    for (const key of issue.path) at = (at as Record<PropertyKey, unknown> | undefined)?.[key];
    return `“${String(at)}” is not a verb of a step. The verbs are ${Step.options.map(o => o.shape.verb.value).join(', ')}.`;
  }
  return issue.message;
}

/** A readable path: `steps 3, outcomes 1, label`. */
export const pathText = (path: readonly (string | number)[]): string =>
  path.map(key => (typeof key === 'number' ? String(key + 1) : key)).join(' › ') || 'the document';

export const stepNumber = (definition: Definition, id: string): number =>
  definition.steps.findIndex(step => step.id === id) + 1;
export const stepById = (definition: Definition, id: string): Step | undefined =>
  definition.steps.find(step => step.id === id);
export const fieldById = (definition: Definition, id: string): Field | undefined =>
  definition.form.fields.find(field => field.id === id);
export const closingById = (definition: Definition, id: string): Closing | undefined =>
  definition.closings.find(closing => closing.id === id);
