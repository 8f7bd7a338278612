/** What held for somebody from when to when, a line for each kind of fact. */
import type { Stretch } from '@north-pebble/contract';
import type { RecordPart } from '@north-pebble/core/facts';
import { type DirectoryIndex, managersThrough, type Person, personName } from '@north-pebble/core/people';
import { addDays } from '@north-pebble/core/time';
import type { Rules } from '../../house/index.ts';
import { partWords } from './words.ts';

type Line = { of: string; stretches: Stretch[] };

/** Neighbours that say the same are one stretch. */
function stretched(all: readonly Stretch[]): Stretch[] {
  const found: Stretch[] = [];
  for (const one of all) {
    const last = found.at(-1);
    if (last && last.words === one.words && last.to !== null && addDays(last.to, 1) === one.from)
      found[found.length - 1] = { ...last, to: one.to };
    else found.push(one);
  }
  return found;
}

/** What holds at the same time stands in lines of its own, one beneath the other. */
function beneath(of: string, all: readonly Stretch[]): Line[] {
  const lines: Stretch[][] = [];
  for (const one of all.toSorted((a, b) => (a.from < b.from ? -1 : 1))) {
    const free = lines.find(line => {
      const last = line.at(-1)?.to;
      return last !== undefined && last !== null && last < one.from;
    });
    if (free) free.push(one);
    else lines.push([one]);
  }
  return lines.map((stretches, n) => ({ of: n === 0 ? of : `${of} (${n + 1})`, stretches }));
}

const labels: Record<RecordPart, string> = {
  place: 'Place',
  department: 'Department',
  pattern: 'Work pattern',
  fte: 'Hours',
  plan: 'Leave plan',
  costCentre: 'Cost centre',
};

export function linesOf(index: DirectoryIndex, rules: Rules, person: Person): Line[] {
  const names = { index, plans: rules.plans };
  const { records, joined, left } = person;
  const own = (Object.keys(labels) as RecordPart[]).map(part => ({
    of: labels[part],
    stretches: stretched(
      records.map((record, n) => ({
        from: n === 0 ? joined : record.from,
        to: n + 1 < records.length ? addDays(records[n + 1].from, -1) : left,
        words: partWords(names, part, record[part]),
      })),
    ),
  }));
  const held = index.holdingsOfPerson(person.id).map(one => ({
    from: one.from,
    to: one.to ?? left,
    words: `${index.post(one.post)?.title ?? one.post}${one.main ? '' : ' (beside it)'}`,
  }));
  const managers = managersThrough(index, person).map(({ from, to, manager }) => ({
    from,
    to,
    words: manager === null ? 'nobody' : personName(index, manager),
  }));
  const scope = (id: string | null | undefined, name: string | undefined) => (id ? ` for ${name ?? id}` : '');
  const roles = index.directory.roles
    .filter(one => one.person === person.id)
    .map(({ role, place, department, from, to }) => ({
      from: from ?? joined,
      to: to ?? left,
      words: `${role}${scope(place, index.place(place ?? '')?.name)}${scope(department, index.department(department ?? '')?.name)}`,
    }));
  const covers = index.coversOf(person.id).map(({ by, from, to }) => ({ from, to, words: personName(index, by) }));
  return [
    ...beneath('Post', held),
    { of: 'Line manager', stretches: managers },
    ...own,
    ...beneath('Role', roles),
    ...beneath('Stood in for by', covers),
  ];
}
