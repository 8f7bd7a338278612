/** Who was, is and will be somebody's line manager. */
import { addDays, type CivilDate } from '../time/index.ts';
import type { DirectoryIndex, Person, PersonId, PostId } from './directory.ts';
import { managerOf } from './reportingLine.ts';

export type ManagerStretch = {
  readonly from: CivilDate;
  /** The last day, included; nothing where it goes on. */
  readonly to: CivilDate | null;
  readonly manager: PersonId | null;
};

/** Every day on which the line above somebody may become another: posts they hold, and all that were ever above those. */
function daysOfChange(index: DirectoryIndex, person: Person): ReadonlySet<CivilDate> {
  const days = new Set<CivilDate>();
  const began = ({ from, to }: { from: CivilDate; to: CivilDate | null }) => {
    days.add(from);
    if (to !== null) days.add(addDays(to, 1));
  };
  const seen = new Set<PostId>();
  const open: PostId[] = [];
  for (const holding of index.holdingsOfPerson(person.id)) {
    began(holding);
    open.push(holding.post);
  }
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const post = seen.has(id) ? undefined : index.post(id);
    if (!post) continue;
    seen.add(id);
    for (const holding of index.holdingsOfPost(id)) {
      began(holding);
      const holder = index.person(holding.person);
      if (holder) began({ from: holder.joined, to: holder.left });
    }
    for (const line of post.lines) {
      days.add(line.from);
      if (line.reportsTo !== null) open.push(line.reportsTo);
    }
  }
  return days;
}

/** From the first day to the last, or without an end; neighbours have different managers. */
export function managersThrough(index: DirectoryIndex, person: Person): ManagerStretch[] {
  const { joined, left } = person;
  const days = [...daysOfChange(index, person)].filter(day => day > joined && (left === null || day <= left)).sort();
  const found: ManagerStretch[] = [];
  for (const from of [joined, ...days]) {
    const above = managerOf(index, person.id, from);
    const manager = 'person' in above ? above.person.id : null;
    const last = found.at(-1);
    if (last?.manager === manager) continue;
    if (last) found[found.length - 1] = { ...last, to: addDays(from, -1) };
    found.push({ from, to: left, manager });
  }
  return found;
}
