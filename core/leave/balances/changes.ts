/** A balance through plans that change, and from an opening on, as `calc` asks it. */
import { z } from 'zod';
import { CivilDate, toDay } from '../../time/index.ts';
import { type Balance, Movement, movedOf, statement } from './balance.ts';
import { countedFrom, courseOf, isWithin, Opening, stretchOn } from './course.ts';
import { decimal, roundTo, toNumber } from './fraction.ts';
import { Employment, LeavePlan } from './plan.ts';

const plansAre = z.object({
  from: CivilDate,
  plan: LeavePlan.extend({ unit: z.enum(['days', 'hours']).default('days') }),
  per: z.number().positive().optional(),
});
export const ChangesInput = z.object({
  person: Employment,
  plans: z.tuple([plansAre], plansAre),
  opening: Opening.nullish(),
  movements: z.array(Movement),
  asOf: CivilDate,
});
export type ChangesInput = z.infer<typeof ChangesInput>;

export type Changes = (Balance & { unit?: 'days' | 'hours' }) | { error: string };

const places = decimal(0.0001);
const shown = (amount: number): number => toNumber(roundTo(decimal(amount), places, 'nearest'));

/** The question as `calc` asks it: numbers of at most four decimals out, with the unit of the plan of that day. */
export function changes({ person, plans, opening, movements, asOf }: ChangesInput): Changes {
  if (opening && !isWithin(opening, person)) return { error: 'the opening is outside of the employment' };
  const [first, ...later] = plans.map(({ plan, ...turn }) => ({ ...turn, plan, unit: plan.unit }));
  const course = courseOf([first as NonNullable<typeof first>, ...later], person, opening);
  const { balance, expiring } = statement({ person, course, moved: movements.map(movedOf) }, asOf);
  const isCounted = toDay(asOf) >= countedFrom(course, person.joined);
  return {
    balance: shown(balance),
    expiring: expiring.map(({ amount, on }) => ({ amount: shown(amount), on })),
    ...(isCounted ? { unit: stretchOn(course, toDay(asOf)).unit } : {}),
  };
}
