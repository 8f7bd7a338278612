/** Who may see and do what: decided here and nowhere else. */

import { type Capability, type ColleagueField, may, type Permissions } from '@north-pebble/contract';
import {
  type Cover,
  type DirectoryIndex,
  isAbove,
  isHeldFor,
  isHeldOn,
  isTheirOwn,
  looksAfter,
  looksAfterAt,
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

/**
 * Commands that are not for the people of a request but for those who look after it. Every command stands here: one that is
 * new is given to nobody before it is said to whom.
 */
const commandNeeds: Record<Command['kind'], Capability | 'told by the request' | 'keeps leave'> = {
  submit: 'told by the request',
  answer: 'told by the request',
  take: 'told by the request',
  'put back': 'told by the request',
  complete: 'told by the request',
  'could not': 'told by the request',
  resubmit: 'told by the request',
  'hand in': 'told by the request',
  'give back section': 'told by the request',
  'answer guest': 'told by the request',
  'renew link': 'told by the request',
  'end link': 'told by the request',
  withdraw: 'told by the request',
  'move date': 'told by the request',
  ask: 'told by the request',
  reply: 'told by the request',
  'hand over': 'told by the request',
  'set aside': 'told by the request',
  'bring back': 'told by the request',
  comment: 'told by the request',
  look: 'told by the request',
  'change after approval': 'told by the request',
  'cancel after approval': 'told by the request',
  'try again': 'help requests on',
  'change owner': 'told by the request',
  appoint: 'help requests on',
  'done by hand': 'help requests on',
  'ask again': 'help requests on',
  'go on without': 'help requests on',
  correct: 'correct answers',
  'book leave': 'keeps leave',
  'change leave': 'keeps leave',
  'call back': 'keeps leave',
  'void leave': 'keeps leave',
  'book past': 'keeps leave',
  'let end': 'keeps leave',
};

/** @param keeps whether the caller keeps leave for the person concerned */
export function mustCommand(caller: Caller, kind: Command['kind'], keeps: () => boolean): void {
  const needs = commandNeeds[kind];
  if (needs === 'told by the request') return;
  if (needs === 'keeps leave') must(keeps(), 'Leave that is booked is changed and voided by HR operations.');
  else mustHave(caller, needs);
}

/** Leave is booked, changed and voided by HR operations, and by those in HR who look after the person. */
export const mayKeepLeave = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): boolean =>
  may(caller, 'help requests on') || looksAfter(index, caller.id, person, day);

export const mustKeepLeave = (caller: Caller, person: PersonId, index: DirectoryIndex, day: CivilDate): void =>
  must(mayKeepLeave(caller, person, index, day), 'Leave that is booked is changed and voided by HR operations.');

/** What can be told without asking who has held a request: whose it is, who reads everything. */
export const surelySeesRequest = (
  caller: Caller,
  request: { asker: string; subject: string | null; owner?: string | null },
): boolean => isTheirOwn(request, caller.id) || request.owner === caller.id || may(caller, 'read every record');

/** Whether somebody stands in for somebody today, in this workflow: a cover for some workflows opens no others. */
const isStandingIn = (cover: Cover, caller: Caller, workflow: string, day: CivilDate): boolean =>
  cover.by === caller.id &&
  cover.from <= day &&
  day <= cover.to &&
  (cover.workflows === undefined || cover.workflows.includes(workflow));

/**
 * A request is seen by its asker, its owner and the person concerned, its present and past holders, whoever covers for them now, the line
 * above, those in HR who look after the subject, and those who read everything.
 */
export function maySeeRequest(
  caller: Caller,
  request: {
    workflow: string;
    asker: PersonId;
    subject: PersonId | null;
    owner?: string | null;
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
    owner?: string | null;
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
    // Whoever looks after it in the asker’s place reads what the asker reads.
    own: !request.outside && (isTheirOwn(request, caller.id) || request.owner === caller.id),
    steps: request.given.filter(g => holders.has(g.holder) || (g.coverFor && holders.has(g.coverFor))).map(g => g.step),
    roles: roles.filter(r => r.person === caller.id && isHeldOn(r, day) && isHeldFor(r, record)).map(r => r.role),
    all:
      may(caller, 'read every record') ||
      (request.outside ? (request.owner ?? request.asker) === caller.id : looksAfter(index, caller.id, subject, day)),
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

/** Where somebody will work who is not on file yet, as far as that is known. */
export type Workplace = { readonly place: string; readonly department?: string } | undefined;

/**
 * A paper is seen by its holder and by those in HR who look after them; of somebody who is not on file yet, by those in HR
 * who look after the place at which they will work.
 */
export const maySeePaper = (
  caller: Caller,
  { person, workplace }: { readonly person: PersonId | null; readonly workplace: Workplace },
  index: DirectoryIndex,
  day: CivilDate,
): boolean =>
  (person !== null && person === caller.id) ||
  may(caller, 'help requests on') ||
  (person === null ? looksAfterAt(index, caller.id, workplace, day) : looksAfter(index, caller.id, person, day));

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

/** What somebody reads of a colleague besides name, post, place and department. */
export type Colleague = Readonly<Record<ColleagueField, boolean>>;
const everything: Colleague = { manager: true, mail: true, joined: true, left: true };

/**
 * Tells what a caller reads of each person: everything of themselves, of those they stand above or look after, and of all
 * where their work is with all; of others what the house lets colleagues read.
 * @param shared the fields that the house lets colleagues read
 */
export function colleagueReader(
  caller: Caller,
  shared: readonly ColleagueField[],
  index: DirectoryIndex,
  day: CivilDate,
): { readonly all: boolean; readonly of: (person: PersonId) => Colleague } {
  const all = may(caller, 'read every record');
  const common: Colleague = {
    manager: shared.includes('manager'),
    mail: shared.includes('mail'),
    joined: shared.includes('joined'),
    left: shared.includes('left'),
  };
  return { all, of: person => (all || maySeeBalance(caller, person, index, day) ? everything : common) };
}
