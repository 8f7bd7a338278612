/** When somebody agreed is said by the clock of the house, not by whoever agrees. */
import { type Answers, isEmptyAnswer } from '../../form/index.ts';
import type { Instant } from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';

/** The answers with each new consent at this moment; one that was given before for the same version stays as it was. */
export function consentsNow(definition: Definition, input: unknown, before: Answers, now: Instant): unknown {
  const consents = definition.form.fields.filter(field => field.kind === 'consent');
  if (consents.length === 0 || typeof input !== 'object' || input === null) return input;
  const stamped: Record<string, unknown> = { ...input };
  for (const { id } of consents) {
    const given = stamped[id];
    if (isEmptyAnswer(given) || typeof given !== 'object' || given === null) continue;
    const { version } = given as { version?: unknown };
    const had = before[id] as { version?: unknown } | null | undefined;
    stamped[id] = had && had.version === version ? had : { version, at: now };
  }
  return stamped;
}
