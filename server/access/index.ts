/** Who may see and do what: decided here and nowhere else. */

import { may, type Permissions } from '@north-pebble/contract';
import {
  type Cover,
  type DirectoryIndex,
  isAbove,
  isHeldFor,
  isHeldOn,
  isTheirOwn,
  looksAfter,
  looksAfterSome,
  type PersonId,
  recordOn,
} from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import type { Command, EventOf, Reader } from '@north-pebble/core/workflow';
import { type Caller, mustHave, ProblemError } from '../http/index.ts';

function must(allowed: boolean, words: string): void {
  if (!allowed) throw new ProblemError('not allowed', words);
}

/** What one person may do with one workflow. Administrators may everything; without permissions every designer may. */
export function workflowRights(
  caller: Caller,
  permissions: Permissions | null,
): { see: boolean; edit: boolean; publish: boolean } {
  const named = (people: readonly string[]) => people.length === 0 || people.includes(caller.id);
  const designs = may(caller, 'design workflows');
  const publish = designs && (!permissions || named(permissions.publish));
  const edit = designs && (!permissions || named(permissions.edit));
  const see =
    may(caller, 'read every workflow') ||
    (may(caller, 'read workflows') && (!permissions || edit || publish || named(permissions.see)));
  return { see, edit, publish };
}

export const mustEdit = (caller: Caller, permissions: Permissions | null): void =>
  must(workflowRights(caller, permissions).edit, 'This workflow is changed by the people named for it.');
export const mustPublish = (caller: Caller, permissions: Permissions | null): void =>
  must(workflowRights(caller, permissions).publish, 'This workflow is published by the people named for it.');

/** What is there in the demo alone is there for nobody elsewhere. */
export const mustBeDemo = (demo: boolean): void => must(demo, 'This is a part of the demo only.');

/** Commands that are not for the people of a request but for those who look after it. */
export function mustCommand(caller: Caller, kind: Command['kind']): void {
  if (['try again', 'appoint', 'done by hand', 'ask again', 'go on without'].includes(kind)) {
    mustHave(caller, 'help requests on');
  }
  if (kind === 'correct') mustHave(caller, 'correct answers');
}

/** Leave is booked, changed and voided by HR operations, and by those in HR who look after the person. */
export const mayKeepLeave = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): boolean =>
  may(caller, 'help requests on') || looksAfter(index, caller.id, person, day);

export const mustKeepLeave = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): void =>
  must(mayKeepLeave(caller, person, index, day), 'Leave that is booked is changed and voided by HR operations.');

/** What can be told without asking who has held a request: whose it is, who reads everything. */
export const surelySeesRequest = (caller: Caller, request: { asker: string; subject: string | null }): boolean =>
  isTheirOwn(request, caller.id) || may(caller, 'read every record');

/** Whether somebody stands in for somebody today, in this workflow: a cover for some workflows opens no others. */
const isStandingIn = (cover: Cover, caller: Caller, workflow: string, day: CivilDate): boolean =>
  cover.by === caller.id &&
  cover.from <= day &&
  day <= cover.to &&
  (cover.workflows === undefined || cover.workflows.includes(workflow));

/**
 * A request is seen by its asker and its subject, its present and past holders, whoever covers for them now, the line
 * above, those in HR who look after the subject, and those who read everything.
 */
export function maySeeRequest(
  caller: Caller,
  request: {
    workflow: string;
    asker: PersonId;
    subject: PersonId | null;
    outside?: unknown;
    holders: readonly string[];
  },
  index: DirectoryIndex,
  day: CivilDate,
): boolean {
  const subject = request.subject ?? request.asker;
  const covers = index.directory.covers.some(
    c => isStandingIn(c, caller, request.workflow, day) && request.holders.includes(c.person),
  );
  return (
    surelySeesRequest(caller, request) ||
    request.holders.includes(caller.id) ||
    covers ||
    // Whoever keeps it for somebody outside is not whom it is about.
    (!request.outside && (isAbove(index, caller.id, request.asker, day) || looksAfter(index, caller.id, subject, day)))
  );
}

/** What a caller has to do with a request: theirs, the steps that they or those they stand in for have held, their roles. */
export function readerOf(
  caller: Caller,
  request: {
    workflow: string;
    asker: string;
    subject: string | null;
    outside?: unknown;
    given: readonly Pick<EventOf<'given'>, 'step' | 'holder' | 'coverFor'>[];
  },
  index: DirectoryIndex,
  day: CivilDate,
): Reader {
  const { covers, roles } = index.directory;
  const subject = (request.subject ?? request.asker) as PersonId;
  const about = index.person(subject);
  const record = about && recordOn(about, day);
  const standsInFor = covers.filter(c => isStandingIn(c, caller, request.workflow, day)).map(c => c.person);
  const holders = new Set<string>([caller.id, ...standsInFor]);
  return {
    own: !request.outside && isTheirOwn(request, caller.id),
    steps: request.given.filter(g => holders.has(g.holder) || (g.coverFor && holders.has(g.coverFor))).map(g => g.step),
    roles: roles.filter(r => r.person === caller.id && isHeldOn(r, day) && isHeldFor(r, record)).map(r => r.role),
    all:
      may(caller, 'read every record') ||
      (request.outside ? request.asker === caller.id : looksAfter(index, caller.id, subject, day)),
  };
}

/** A statement is seen by its person, the line above, those in HR who look after them, and those who read everything. */
export function maySeeBalance(caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): boolean {
  return (
    person === caller.id ||
    may(caller, 'read every record') ||
    isAbove(index, caller.id, person, day) ||
    looksAfter(index, caller.id, person, day)
  );
}

/** Cover for somebody else, who is ill, is set by HR operations and by those in HR who look after them. */
export const maySetCoverFor = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): boolean =>
  caller.id === person || may(caller, 'help requests on') || looksAfter(index, caller.id, person, day);

/** A paper is seen by its holder and by those in HR who look after them; of somebody who is not on file, by those in HR. */
export const maySeePaper = (caller: Caller, person: PersonId | null, index: DirectoryIndex, day: CivilDate): boolean =>
  (person !== null && person === caller.id) ||
  may(caller, 'help requests on') ||
  (person === null ? looksAfterSome(index, caller.id, day) : looksAfter(index, caller.id, person, day));

/** Whether there is anybody else for whom cover may be set. */
export const maySetCoverForSome = (caller: Caller, index: DirectoryIndex, day: CivilDate): boolean =>
  may(caller, 'help requests on') || looksAfterSome(index, caller.id, day);

export const mustSetCoverFor = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): void =>
  must(maySetCoverFor(caller, person, index, day), 'Cover for somebody else is set by HR operations.');

/** Whose days the reader may see besides those of their own teams. */
export const mayPlan = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): boolean =>
  may(caller, 'read every record') || looksAfter(index, caller.id, person, day);

/** Whether there is a place or department to look at as a whole. */
export const mayPlanForSome = (caller: Caller, index: DirectoryIndex, day: CivilDate): boolean =>
  may(caller, 'read every record') || looksAfterSome(index, caller.id, day);
