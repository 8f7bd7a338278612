/** Works the findings out and tries the kept checks beside the page, so that typing never waits for them. */
import type { RehearsalView, SurroundingsView } from '@north-pebble/contract';
import { type Directory, type DirectoryIndex, indexDirectory, withOpenings } from '@north-pebble/core/people';
import { type CheckResult, type RehearsalFacts, runCheck } from '@north-pebble/core/proof';
import type { CivilDate } from '@north-pebble/core/time';
import { type Definition, type Finding, findings, listsOf } from '@north-pebble/core/workflow';

export type ToWorker =
  | { kind: 'house'; directory: Directory; surroundings: SurroundingsView }
  | { kind: 'days'; days: CivilDate[] }
  | { kind: 'facts'; person: string; facts: RehearsalView }
  | { kind: 'check'; round: number; definition: Definition };
export type CheckOutcome = { id: string; name: string; ok: boolean; differences: CheckResult['differences'] };
export type FromWorker = { round: number; findings: Finding[]; checks: CheckOutcome[] };

let house: { index: DirectoryIndex; surroundings: SurroundingsView } | undefined;
let days: CivilDate[] = [];
const facts = new Map<string, RehearsalView>();

function tryChecks(definition: Definition): CheckResult[] {
  if (!house) return [];
  const { index, surroundings } = house;
  return (definition.checks ?? []).flatMap(check => {
    const known = facts.get(check.subject ?? check.asker);
    if (!known) return [];
    const { types, plans, entries, adjustments, away } = known;
    const own = withOpenings(index, known);
    const about: RehearsalFacts = {
      index: own,
      away,
      lists: surroundings.lists,
      book: { index: own, types, plans, entries, adjustments },
    };
    return [runCheck(definition, check, about)];
  });
}

self.onmessage = (event: MessageEvent<ToWorker>) => {
  const message = event.data;
  switch (message.kind) {
    case 'house':
      house = { index: indexDirectory(message.directory), surroundings: message.surroundings };
      return;
    case 'days':
      days = message.days;
      return;
    case 'facts':
      facts.set(message.person, message.facts);
      return;
    case 'check': {
      const { definition, round } = message;
      const checks = tryChecks(definition);
      const found = findings(
        definition,
        house
          ? {
              people: { index: house.index, days },
              lists: listsOf({ index: house.index, lists: house.surroundings.lists }),
              leaveTypes: house.surroundings.leaveTypes.map(t => t.id),
              leaveTypeNames: house.surroundings.leaveTypes.map(t => t.name),
              workflows: house.surroundings.workflows.map(w => w.id),
              connections: house.surroundings.connections,
              offers: house.surroundings.offers,
              samples: checks.map(c => c.sample),
            }
          : {},
      );
      const answer: FromWorker = {
        round,
        findings: found,
        checks: checks.map(({ check, ok, differences }) => ({ id: check.id, name: check.name, ok, differences })),
      };
      self.postMessage(answer);
    }
  }
};
