/** Who may see and do what: decided here and nowhere else. */

import type { Permissions } from '@north-pebble/contract';
import {
  type Cover,
  type DirectoryIndex,
  isAbove,
  isHeldFor,
  looksAfter,
  looksAfterSome,
  type PersonId,
  recordOn,
} from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import type { Command, EventOf, Reader } from '@north-pebble/core/workflow';
import { type Caller, ProblemError } from '../http/index.ts';

const mayDesign = (caller: Caller): boolean => caller.rights.includes('designer');
const readsEverything = (caller: Caller): boolean => caller.rights.length > 0;

function must(allowed: boolean, words: string): void {
  if (!allowed) throw new ProblemError('not allowed', words);
}

export const mustDesign = (caller: Caller): void => must(mayDesign(caller), 'Workflows are changed by HR operations.');

/** Auditors look at workflows too; they change nothing. */
export const mustReadWorkflows = (caller: Caller): void =>
  must(readsEverything(caller), 'Workflows are looked after by HR operations.');

/** What one person may do with one workflow. Administrators may everything; without permissions every designer may. */
export function workflowRights(
  caller: Caller,
  permissions: Permissions | null,
): { see: boolean; edit: boolean; publish: boolean } {
  const named = (people: readonly string[]) => people.length === 0 || people.includes(caller.id);
  const administers = caller.rights.includes('administrator');
  const designs = mayDesign(caller);
  const publish = designs && (!permissions || named(permissions.publish));
  const edit = designs && (!permissions || named(permissions.edit));
  const see = readsEverything(caller) && (!permissions || administers || edit || publish || named(permissions.see));
  return { see, edit, publish };
}

export const mustEdit = (caller: Caller, permissions: Permissions | null): void =>
  must(workflowRights(caller, permissions).edit, 'This workflow is changed by the people named for it.');
export const mustPublish = (caller: Caller, permissions: Permissions | null): void =>
  must(workflowRights(caller, permissions).publish, 'This workflow is published by the people named for it.');

export const mustMoveClock = (caller: Caller, demo: boolean): void =>
  must(demo && mayDesign(caller), 'The clock is moved by HR operations, in the demo only.');

export const mustReadMailroom = (caller: Caller, demo: boolean): void =>
  must(demo && readsEverything(caller), 'The Mailroom is for HR operations, in the demo only.');

/** Writing as the recipient of a mail is a part of the demo, for those who look after it. */
export const mustAnswerMail = (caller: Caller, demo: boolean): void =>
  must(demo && mayDesign(caller), 'Mails are answered in the Mailroom by HR operations, in the demo only.');

export const mustFindAll = (caller: Caller): void =>
  must(readsEverything(caller), 'Everybody’s requests are looked through by HR operations and auditors.');

export const mustHelpOn = (caller: Caller): void =>
  must(mayTryAgain(caller), 'Stuck requests are helped on by HR operations.');

const administers = (caller: Caller): boolean => caller.rights.includes('administrator');
/** Where the house is connected, and how it goes, is read by those who look after it; secrets are shown to nobody. */
export const mustReadConnections = (caller: Caller): void =>
  must(readsEverything(caller), 'Connections are looked after by administrators.');
export const mustLookAfterAccounts = (caller: Caller): void =>
  must(administers(caller), 'Accounts are looked after by administrators.');
export const mustConnect = (caller: Caller): void =>
  must(administers(caller), 'Connections are set up by administrators.');

/** Commands that are not for the people of a request but for those who look after it. */
export function mustCommand(caller: Caller, kind: Command['kind']): void {
  if (['try again', 'appoint', 'done by hand', 'ask again', 'go on without'].includes(kind)) {
    mustHelpOn(caller);
  }
  if (kind === 'correct') must(mayCorrect(caller), 'Corrections are made by administrators.');
}

/** Leave is booked, changed and voided by HR operations, and by those in HR who look after the person. */
export const mayKeepLeave = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): boolean =>
  mayTryAgain(caller) || looksAfter(index, caller.id, person, day);

export const mustKeepLeave = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): void =>
  must(mayKeepLeave(caller, person, index, day), 'Leave that is booked is changed and voided by HR operations.');

/** What can be told without asking who has held a request: whose it is, who reads everything. */
export const surelySeesRequest = (caller: Caller, request: { asker: string; subject: string | null }): boolean =>
  request.asker === caller.id || request.subject === caller.id || readsEverything(caller);

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
  request: { workflow: string; asker: PersonId; subject: PersonId | null; holders: readonly string[] },
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
    isAbove(index, caller.id, request.asker, day) ||
    looksAfter(index, caller.id, subject, day)
  );
}

/** What a caller has to do with a request: theirs, the steps that they or those they stand in for have held, their roles. */
export function readerOf(
  caller: Caller,
  request: {
    workflow: string;
    asker: string;
    subject: string | null;
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
    own: request.asker === caller.id || request.subject === caller.id,
    steps: request.given.filter(g => holders.has(g.holder) || (g.coverFor && holders.has(g.coverFor))).map(g => g.step),
    roles: roles.filter(r => r.person === caller.id && isHeldFor(r, record)).map(r => r.role),
    all: readsEverything(caller) || looksAfter(index, caller.id, subject, day),
  };
}

/** A statement is seen by its person, the line above, those in HR who look after them, and those who read everything. */
export function maySeeBalance(caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): boolean {
  return (
    person === caller.id ||
    readsEverything(caller) ||
    isAbove(index, caller.id, person, day) ||
    looksAfter(index, caller.id, person, day)
  );
}

/** What was answered is set right by administrators only. */
export const mayCorrect = (caller: Caller): boolean => caller.rights.includes('administrator');

/** Cover for somebody else, who is ill, is set by HR operations and by those in HR who look after them. */
export const maySetCoverFor = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): boolean =>
  caller.id === person || mayTryAgain(caller) || looksAfter(index, caller.id, person, day);

/** Whether there is anybody else for whom cover may be set. */
export const maySetCoverForSome = (caller: Caller, index: DirectoryIndex): boolean =>
  mayTryAgain(caller) || looksAfterSome(index, caller.id);

export const mustSetCoverFor = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): void =>
  must(maySetCoverFor(caller, person, index, day), 'Cover for somebody else is set by HR operations.');

/** Whose days the reader may see besides those of their own teams. */
export const mayPlan = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): boolean =>
  caller.rights.length > 0 || looksAfter(index, caller.id, person, day);

/** Whether there is a place or department to look at as a whole. */
export const mayPlanForSome = (caller: Caller, index: DirectoryIndex): boolean =>
  caller.rights.length > 0 || looksAfterSome(index, caller.id);

/** Only designers and administrators help a stuck request on. */
export const mayTryAgain = (caller: Caller): boolean =>
  caller.rights.includes('designer') || caller.rights.includes('administrator');
