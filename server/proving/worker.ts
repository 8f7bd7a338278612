/** The thread beside the one that answers: what is wrong with a definition, and whether its kept checks still hold. */
import type { ReferenceList } from '@north-pebble/core/form';
import type { LeaveBook } from '@north-pebble/core/leave';
import { type Away, type Directory, type DirectoryIndex, indexDirectory } from '@north-pebble/core/people';
import { type CheckResult, runCheck } from '@north-pebble/core/proof';
import type { CivilDate } from '@north-pebble/core/time';
import {
  type Absent,
  type Definition,
  type Finding,
  findings,
  listsOf,
  type Offers,
} from '@north-pebble/core/workflow';
import { answerOnThread } from '../threads/index.ts';

/** What a kept check looks at, for its asker; the directory is known to the thread. */
export type CheckFacts = { away: readonly Away[]; book: Omit<LeaveBook, 'index' | 'today'> };
export type House = { directory: Directory; lists: readonly ReferenceList[] };
export type Around = {
  days: CivilDate[];
  leaveTypes: string[];
  leaveTypeNames: string[];
  workflows: string[];
  connections: string[];
  offers: Readonly<Record<string, Offers>>;
  absent: readonly Absent[];
};
export type ToProve = Around & {
  task: number;
  /** Sent when the thread does not know the house as it is now. */
  house?: House;
  definition: Definition;
  /** One for each kept check, in their order; without them no check is tried. */
  facts: CheckFacts[];
};
export type Failed = { name: string; expected: string | null; found: string | null };
export type Proven = { findings: Finding[]; failed: Failed[] };

let known: { index: DirectoryIndex; lists: readonly ReferenceList[] } | undefined;

function prove({
  house,
  definition,
  facts,
  days,
  leaveTypes,
  leaveTypeNames,
  workflows,
  connections,
  offers,
  absent,
}: ToProve): Proven {
  if (house) known = { index: indexDirectory(house.directory), lists: house.lists };
  if (!known) throw new Error('the thread does not know the house');
  const { index, lists } = known;
  const results: CheckResult[] = (definition.checks ?? []).flatMap((check, i) => {
    const about = facts[i];
    return about
      ? [runCheck(definition, check, { index, lists, away: about.away, book: { index, ...about.book } })]
      : [];
  });
  const around = {
    people: { index, days },
    lists: listsOf({ index, lists }),
    leaveTypes,
    leaveTypeNames,
    workflows,
    connections,
    offers,
    absent,
    samples: results.map(result => result.sample),
  };
  return {
    findings: findings(definition, around),
    failed: results
      .filter(result => !result.ok)
      .map(({ check, differences: [first] }) => ({
        name: check.name,
        expected: first?.expected ?? null,
        found: first?.found ?? null,
      })),
  };
}

answerOnThread(prove);
