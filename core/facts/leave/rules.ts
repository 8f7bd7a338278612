/** Changes of leave rules: what a type or a plan says from a day on, and how many are needed where. */
import { idFrom } from '../../form/index.ts';
import { type LeaveType, typeOn } from '../../leave/index.ts';
import type { CivilDate } from '../../time/index.ts';
import { type ChangeEdits, type ChangeFault, no, type Of, yes } from '../change.ts';
import { type Fact, type FactEdit, type FactOf, factKey, fromTheFirst, type OnFile } from '../fact.ts';
import { factLike, factsOf } from '../shelves.ts';
import { onFile } from '../standing.ts';

const put = (file: OnFile, after: Fact): FactEdit => ({ before: factLike(file, after), after });

function idOf(all: readonly { id: string; name: string }[], id: string, name: string): string {
  const ids = all.map(one => one.id);
  return id === 'new' ? idFrom(name, ids) : id;
}

const nameTaken = (all: readonly { id: string; name: string }[], id: string, name: string): ChangeFault | null =>
  all.some(one => one.id !== id && one.name.toLowerCase() === name.toLowerCase())
    ? { code: 'name taken', field: 'name', name }
    : null;

export const hasOwnBalance = (type: LeaveType, day: CivilDate): boolean =>
  ['plan', 'earned'].includes(typeOn(type, day).takesFrom);

export function leaveTypeEdits(file: OnFile, { type, from }: Of<'leave type'>): ChangeEdits {
  const all = file.leaveTypes ?? [];
  const id = idOf(all, type.id, type.name);
  const taken = nameTaken(all, id, type.name);
  if (taken) return no({ ...taken, field: 'type.name' });
  if (type.id !== 'new' && !onFile(all, id)) return no({ code: 'not on file', field: 'type.id' });
  if (type.takesFrom === 'other') {
    const other = all.find(one => one.id === type.balanceOf);
    if (!other) return no({ code: 'not on file', field: 'type.balanceOf' });
    // From the first there may be a version of the other that has none yet; leave goes by what holds on its day.
    if (other.id === id || !hasOwnBalance(other, from ?? fromTheFirst))
      return no({ code: 'takes from itself', field: 'type.balanceOf' });
  }
  for (const [n, limit] of (type.limits ?? []).entries())
    if (limit.rule === 'closed' && limit.from.length > 5 && limit.to < limit.from)
      return no({ code: 'ends before it begins', field: `type.limits.${n}.to` });
  const edit = put(file, { kind: 'leave type', id, from: from ?? fromTheFirst, rules: { ...type, id } });
  // A type has one name at all times.
  const named = factsOf(file, ['leave type'])
    .filter((fact): fact is FactOf<'leave type'> => fact.kind === 'leave type' && fact.id === id)
    .filter(fact => factKey(fact) !== factKey(edit.after as Fact) && fact.rules.name !== type.name)
    .map(fact => ({ before: fact, after: { ...fact, rules: { ...fact.rules, name: type.name } } }));
  return yes(edit, ...named);
}

export function leavePlanEdits(file: OnFile, { plan, from }: Of<'leave plan'>): ChangeEdits {
  const all = file.leavePlans ?? [];
  const id = idOf(all, plan.id, plan.name);
  const taken = nameTaken(all, id, plan.name);
  if (taken) return no({ ...taken, field: 'plan.name' });
  const known = all.find(one => one.id === id);
  if (plan.id !== 'new' && !known) return no({ code: 'not on file', field: 'plan.id' });
  if (known && known.unit !== plan.unit) return no({ code: 'unit stays', field: 'plan.unit' });
  if (known && known.rules.yearStart !== plan.rules.yearStart)
    return no({ code: 'year start stays', field: 'plan.rules.yearStart' });
  const years = plan.rules.perYear.map(tier => tier.fromServiceYears);
  const twice = years.find((one, n) => years.indexOf(one) !== n);
  if (twice !== undefined) return no({ code: 'tiers twice', field: 'plan.rules.perYear', years: twice });
  const own = { kind: 'leave plan' as const, ...plan, id };
  const edit = put(file, { ...own, from: from ?? fromTheFirst });
  // A plan has one name at all times.
  const named = factsOf(file, ['leave plan'])
    .filter((fact): fact is FactOf<'leave plan'> => fact.kind === 'leave plan' && fact.id === id)
    .filter(fact => factKey(fact) !== factKey(edit.after as Fact) && fact.name !== plan.name)
    .map(fact => ({ before: fact, after: { ...fact, name: plan.name } }));
  return yes(edit, ...named);
}

/** What was said from a day on is taken away. */
export function notFromThenEdits(file: OnFile, { of, id, from }: Of<'not from then'>): ChangeEdits {
  const found = factsOf(file, [of]).find(
    fact => (fact.kind === 'leave type' || fact.kind === 'leave plan') && fact.id === id && fact.from === from,
  );
  return found && from !== fromTheFirst
    ? yes({ before: found, after: null })
    : no({ code: 'not on file', field: 'from' });
}

export function presenceEdits(file: OnFile, { presence, needed }: Of<'presence'>): ChangeEdits {
  const all = file.presence ?? [];
  const id = idOf(all, presence.id, presence.name);
  if (!needed) {
    const there = factLike(file, { kind: 'presence', ...presence });
    return there ? yes({ before: there, after: null }) : no({ code: 'not on file', field: 'presence.id' });
  }
  const taken = nameTaken(all, id, presence.name);
  if (taken) return no({ ...taken, field: 'presence.name' });
  if (presence.place !== null && !onFile(file.places, presence.place))
    return no({ code: 'not on file', field: 'presence.place' });
  if (presence.department !== null && !onFile(file.departments, presence.department))
    return no({ code: 'not on file', field: 'presence.department' });
  if (presence.from !== null && presence.to !== null && presence.to < presence.from)
    return no({ code: 'ends before it begins', field: 'presence.to' });
  // Whoever is there by what is known last: a rule that holds always has no day to look at.
  const people = file.people.filter(({ left, records }) => {
    const record = records.at(-1);
    const { place, department } = presence;
    return (
      left === null &&
      record !== undefined &&
      (place === null || record.place === place) &&
      (department === null || record.department === department)
    );
  }).length;
  if (presence.people > people)
    return no({ code: 'more than there are', field: 'presence.people', needed: presence.people, people });
  return yes(put(file, { kind: 'presence', ...presence, id }));
}
