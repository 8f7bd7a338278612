/** What is true of somebody that their leave goes by: children, papers from the first day, one cause, coming back by stages. */
import type { Person } from '../../people/index.ts';
import { type ChangeEdits, type ChangeFault, no, type Of, yes } from '../change.ts';
import type { FactOf, Holds, OnFile } from '../fact.ts';
import { onFile, personOf } from '../standing.ts';

/** Why something cannot be true of somebody; nothing where it can. */
export function circumstanceFault(file: Pick<OnFile, 'leaveTypes'>, holds: Holds): ChangeFault | null {
  switch (holds.is) {
    case 'child':
      // A birth that is expected may be on file, too.
      return null;
    case 'paper at once':
      if (file.leaveTypes !== undefined && !onFile(file.leaveTypes, holds.type))
        return { code: 'not on file', field: 'type' };
      return holds.to !== null && holds.to < holds.from ? { code: 'ends before it begins', field: 'to' } : null;
    case 'same cause':
      return holds.request === holds.follows ? { code: 'nothing changes', field: 'follows' } : null;
    case 'stages': {
      const twice = holds.stages.findIndex((stage, n) => n > 0 && stage.from <= (holds.stages[n - 1]?.from ?? ''));
      return twice < 0 ? null : { code: 'ends before it begins', field: `stages.${twice}.from` };
    }
  }
}

/** The id of a child, the same by hand and by file: by the day of birth, and a number where several have one. */
export const childId = (born: string, n: number): string => `child-${born}${n === 1 ? '' : `-${n}`}`;

/** The id of a paper that is brought from the first day, the same by hand and by file. */
export const paperId = (type: string, from: string): string => `paper-${from}-${type}`.slice(0, 40);

function firstId(holds: Holds, n: number): string {
  if (holds.is === 'child') return childId(holds.born, n);
  return holds.is === 'paper at once' && n === 1 ? paperId(holds.type, holds.from) : String(n);
}

/** A new one is called by the first that is free. */
function idOf(person: Person, holds: Holds): string {
  const taken = new Set((person.circumstances ?? []).map(one => one.id));
  for (let n = 1; ; n++) {
    const id = firstId(holds, n);
    if (!taken.has(id)) return id;
  }
}

export function circumstanceEdits(file: OnFile, { person: id, id: own, holds }: Of<'circumstance'>): ChangeEdits {
  const person = personOf(file, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  const known = (person.circumstances ?? []).find(one => one.id === own);
  if (own !== 'new' && !known) return no({ code: 'not on file', field: 'id' });
  const fact = (which: string, what: Holds): FactOf<'circumstance'> => ({
    kind: 'circumstance',
    person: id,
    id: which,
    holds: what,
  });
  const before = known ? fact(known.id, known.holds as Holds) : null;
  if (holds === null) return before ? yes({ before, after: null }) : no({ code: 'nothing changes', field: 'id' });
  const fault = circumstanceFault(file, holds);
  if (fault) return no({ ...fault, field: `holds.${fault.field}` });
  return yes({ before, after: fact(known?.id ?? idOf(person, holds), holds) });
}
