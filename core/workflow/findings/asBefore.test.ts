/** What is known of a directory serves one in which only some people moved: the same is found as if it were asked anew. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { edited, editsOf, type OnFile } from '../../facts/index.ts';
import { type DirectoryIndex, indexDirectory, type PersonId, sameSince } from '../../people/index.ts';
import { date, annualLeave as definition, directory } from '../../testing/house.ts';
import { addDays, type CivilDate } from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';
import { findings, findingsOfRouting, goesAsBefore } from '../index.ts';

const file: OnFile = {
  ...directory,
  places: [...directory.places, { id: 'skarn', name: 'Skarn', zone: 'Europe/Lisbon', calendar: 'sound' }],
  departments: [...directory.departments, { id: 'lights', name: 'Lights', head: null }],
  posts: directory.posts.map(post =>
    post.id === 'ring-b' ? { ...post, lines: post.lines.map(one => ({ ...one, reportsTo: 'director' })) } : post,
  ),
};
const who = [
  { kind: 'role', role: 'HR partner' },
  { kind: 'role', role: 'HR partner', within: 'place' },
  { kind: 'head of department' },
  { kind: 'head of place' },
  { kind: 'everyone', department: 'lights' },
  { kind: 'everyone', place: 'skarn' },
  { kind: 'manager', levels: 1 },
] as const;
/** The workflow of tests, whose decision goes to each of these. */
const asked = (rule: (typeof who)[number]): Definition => ({
  ...definition,
  steps: definition.steps.map(step =>
    step.verb === 'Decide' ? { ...step, who: { first: rule, otherwise: [] } } : step,
  ) as never,
});
const found = (index: DirectoryIndex, day: CivilDate) =>
  who.map(rule =>
    findings(asked(rule), { people: { index, days: [day] } }).map(({ title, detail, people }) => [
      title,
      detail,
      people?.map(({ person, why }) => [person, why]),
    ]),
  );
const fresh = (index: DirectoryIndex) => indexDirectory({ ...index.directory });
const people = directory.people.map(one => one.id);

describe('findings about people', () => {
  const move = fc.record({
    person: fc.constantFrom(...people),
    days: fc.integer({ min: 0, max: 200 }),
    set: fc.constantFrom({ place: 'skarn' }, { department: 'lights' }, { place: 'skarn', department: 'lights' }),
  });
  test('of a directory in which some moved are those of asking anew', () => {
    fc.assert(
      fc.property(fc.array(move, { minLength: 1, maxLength: 3 }), fc.integer({ min: 0, max: 250 }), (moves, later) => {
        const day = addDays(date('2026-02-02'), later);
        const index = indexDirectory(file);
        const since = sameSince(index.directory, day);
        found(index, since);
        let now: OnFile = file;
        for (const { person, days, set } of moves) {
          const from = addDays(date('2026-02-02'), days);
          const made = editsOf(now, { what: 'record', person: person as PersonId, from, set }, [{ id: 'standard' }]);
          const next = made.ok ? edited(now, made.edits) : null;
          if (next?.ok) now = next.directory;
        }
        const changed = indexDirectory(now);
        goesAsBefore({ index, day: since }, { index: changed, day }, new Set(moves.map(one => one.person)));
        expect(found(changed, day)).toEqual(found(fresh(changed), day));
        // Nothing but whom steps ask is found otherwise where people moved.
        const rest = (of: DirectoryIndex) => findings(definition, { people: { index: of, days: [day] } });
        const routing = (of: DirectoryIndex) => findingsOfRouting(definition, { people: { index: of, days: [day] } });
        const others = (of: DirectoryIndex) => rest(of).slice(0, rest(of).length - routing(of).length);
        expect(others(changed)).toEqual(others(index));
      }),
      { numRuns: 12 },
    );
  });
  test('are the same on every day since the same holds of everybody', () => {
    fc.assert(
      fc.property(fc.integer({ min: -3000, max: 1000 }), n => {
        const day = addDays(date('2026-02-02'), n);
        const index = indexDirectory(file);
        const since = sameSince(index.directory, day);
        expect(since <= day).toBe(true);
        expect(found(fresh(index), since)).toEqual(found(fresh(index), day));
      }),
      { numRuns: 12 },
    );
  });
});
