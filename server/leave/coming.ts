/** Joiners and leavers: what the first year gives, and what is left on the last day, before any date is on file. */
import type { AskJoining, JoiningView, LeavingView } from '@north-pebble/contract';
import { spanWords } from '@north-pebble/core/form';
import { asTold, atJoining, atLeaving, leaveAfter } from '@north-pebble/core/leave';
import { type PersonId, todayFor } from '@north-pebble/core/people';
import { type CivilDate, yearOf } from '@north-pebble/core/time';
import { mayPlan } from '../access/index.ts';
import { type House, rulesFor } from '../house/index.ts';
import { type Caller, mustHave, notFound, refusedField } from '../http/index.ts';
import { bookOf } from './standings.ts';

export async function leavingView(
  house: House,
  caller: Caller,
  id: PersonId,
  { on }: { on: CivilDate },
): Promise<LeavingView> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const person = index.person(id);
  if (!person || !mayPlan(caller, id, index, today)) throw notFound();
  if (on < person.joined) throw refusedField('on', 'That is before the first day of work. Choose a later one.');
  const book = { ...(await bookOf(house, [id], today)), index };
  const year = yearOf(today);
  const found = book.types.flatMap(type => {
    const at = atLeaving(book, id, type, on);
    return at ? [{ type, at }] : [];
  });
  const names = new Map(book.types.map(type => [type.id, type.name]));
  return {
    person: id,
    name: person.name,
    on,
    types: found.map(({ type, at: { unit, plan, entitled, balance } }) => ({
      ...{ id: type.id, name: type.name, unit, plan, entitled, balance },
    })),
    after: leaveAfter(book, id, on).map(entry => ({
      request: entry.request,
      label: `${names.get(entry.type) ?? entry.type}${entry.state === 'held' ? ', asked for' : ''}: ${spanWords(asTold(entry), year)}`,
    })),
  };
}

export async function joiningView(
  house: House,
  caller: Caller,
  { plan: id, joined, share }: AskJoining,
): Promise<JoiningView> {
  mustHave(caller, 'keep records');
  const { plans } = await rulesFor(house.db, await house.directory(house.db));
  const plan = plans.find(one => one.id === id);
  if (!plan) throw refusedField('plan', 'There is no such leave plan. Choose one of the list.');
  return { unit: plan.unit, years: [...atJoining(plan, joined, share)] };
}
