/** What can happen to a request. Events are only ever added; everything known about a request is folded from them. */

import type { Coming, NewPost, PersonChange } from '../../facts/index.ts';
import type { Answers, Change, GivenFile } from '../../form/index.ts';
import type { HalfSpan, LeaveSpan, Met, Strength } from '../../leave/index.ts';
import type { Holder, PersonId } from '../../people/index.ts';
import type { CivilDate, Instant } from '../../time/index.ts';
import type { FigureValues } from '../figures/evaluate.ts';
import type { Attached, FilledLetter, Invitation } from './outgoing.ts';
import type { Ask, Reason } from './reason.ts';

/** The number of the form in which events are stored now; `stored.ts` reads those of older ones. */
export const eventForm = 2;

/** As calendars answer (RFC 5546): for good, not at all, or perhaps. */
export type CalendarAnswer = 'accepted' | 'declined' | 'perhaps';

/** Somebody without an account, as they named themselves. */
export type OutsideAsker = { readonly name: string; readonly mail: string };

/** Answers given at a step, with the figures worked out anew from them. */
export type Filled = { answers: Answers; figures: FigureValues; changes: readonly Change[] };

/** To whom a message goes when what it tells of is done; `step` is the one that sends it, nothing for a closing. */
export type HeldLetter = {
  step: string | null;
  people: readonly PersonId[];
  addresses?: readonly string[];
};

/** A limit of a leave type that was met while asking, and who of HR let it pass. */
export type KeptLimit = {
  readonly how: Strength;
  readonly met: Met;
  readonly pass: { readonly by: PersonId; readonly reason: string } | null;
};

export type EventBody =
  /** `outside` is who asked where that is nobody on file; the asker keeps it for them in the house then. */
  | {
      kind: 'asked';
      asker: PersonId;
      subject?: PersonId;
      outside?: OutsideAsker;
      answers: Answers;
      figures: FigureValues;
    }
  /** `reason` is what HR wrote when they booked or changed it. */
  | {
      kind: 'held' | 'booked';
      type: string;
      span: LeaveSpan;
      planner: boolean;
      reason?: string;
      /** The leave that it is the rest of, where HR called somebody back from it. */
      restOf?: string;
    }
  /** Limits of the leave type that the dates do not keep to: said, given a reason for, or let pass by HR. */
  | { kind: 'against rules'; limits: readonly KeptLimit[] }
  | { kind: 'released'; reason: Reason }
  /** `from` names the steps that it leaves; all of them when nothing is said. */
  | { kind: 'entered'; step: string; from?: readonly string[] }
  | { kind: 'skipped'; step: string; reason: Reason }
  | { kind: 'chose'; step: string; row: string | null; reason: Reason }
  | { kind: 'set'; step: string; filled: Filled }
  | {
      kind: 'given';
      step: string;
      task: string;
      holder: PersonId;
      coverFor: PersonId | null;
      reasons: readonly Reason[];
      due: Instant | null;
      dueReason: Reason | null;
      /** Of a pool: whoever takes it first does it. */
      pool?: true;
      /** Who is asked after this one, when they are asked in turn. */
      rest?: readonly Holder[];
      /** Out of how many the answers are counted. */
      of?: number;
      /** When the next reminder goes out. */
      remindAt?: Instant;
      /** Only until its day comes; then it goes back to this holder. */
      lentBy?: PersonId;
      /** For whom it was meant before a limit or a holder passed it on. */
      meantFor?: PersonId;
      /** Who had it before at this step, as far as limits passed it up. */
      had?: readonly PersonId[];
    }
  | {
      kind: 'answered';
      step: string;
      task: string;
      outcome: string;
      note: string | null;
      coverFor: PersonId | null;
      filled?: Filled;
    }
  /** An answer given before that still stands, so that nobody is asked twice. */
  | { kind: 'kept'; step: string; holder: PersonId; outcome: string; reason: Reason }
  | { kind: 'settled'; step: string; outcome: string; reason: Reason }
  | { kind: 'taken' | 'put back'; step: string; task: string }
  | { kind: 'done'; step: string; task: string; ticked: readonly string[]; filled: Filled; note: string | null }
  | { kind: 'could not'; step: string; task: string; note: string }
  /** `of` is set when fewer or more are counted from now on. */
  | { kind: 'ended'; task: string; reason: Reason; of?: { step: string; people: number } }
  | { kind: 'reminded'; task: string; remindAt?: Instant }
  /** The holder asks the asker something; the clock of the task stands still until the reply. */
  | { kind: 'questioned'; step: string; task: string; question: string }
  | {
      kind: 'replied';
      step: string;
      task: string;
      reply: string;
      /** Who replied, where that is whoever asked from outside. */
      guest?: string;
      due: Instant | null;
      dueReason: Reason | null;
      remindAt?: Instant;
    }
  | { kind: 'handed over'; step: string; task: string; to: readonly PersonId[]; role?: string; note: string }
  /** Out of sight until a day, with its holder or, when `to` says so, with somebody else. */
  | {
      kind: 'set aside';
      step: string;
      task: string;
      until: CivilDate;
      back: Instant;
      to?: readonly PersonId[];
      role?: string;
      note: string | null;
    }
  | { kind: 'brought back'; step: string; task: string }
  /** Somebody else looks after the request from now on. */
  | { kind: 'owner changed'; to: PersonId; reason: Reason; note: string | null }
  /** HR operations name who does a step for which nobody is found. */
  | { kind: 'appointed'; step: string; to: PersonId; note: string | null }
  | { kind: 'commented'; text: string; mentions: readonly PersonId[]; files?: readonly GivenFile[] }
  /** Somebody opened what only named readers may see. */
  | { kind: 'looked'; field: string }
  /** An administrator sets right what was answered. */
  | { kind: 'corrected'; filled: Filled; reason: string }
  /** HR calls somebody back from leave for some days; `rest` is what is left after them, under a request of its own. */
  | { kind: 'called back'; days: HalfSpan; rest: HalfSpan | null; filled: Filled; reason: string }
  /** After approval the asker wants it otherwise, or not at all. */
  | { kind: 'reopened'; what: 'change' | 'cancel'; note: string | null }
  /** What was asked for after approval is not given: everything is as it was approved. */
  | { kind: 'kept as approved'; reason: Reason }
  /** HR lets leave end whose days had passed before it was decided. */
  | { kind: 'let end'; last: CivilDate; reason: string }
  | { kind: 'cancelled'; note: string | null }
  /** HR takes booked leave back, for a reason. */
  | { kind: 'voided'; reason: string }
  /** The date that it counts back from is another one. */
  | { kind: 'date moved'; field: string; reason: string; filled: Filled }
  /** A limit that hangs on the date is counted anew. */
  | { kind: 'due again'; task: string; due: Instant | null; dueReason: Reason | null }
  /** The date comes near and it is not ready; `left` are the steps that are not finished. */
  | { kind: 'alerted'; people: readonly PersonId[]; left: readonly string[]; slack: number }
  /** It is ready, or its date lies far enough ahead again. */
  | { kind: 'alert over'; ready: boolean }
  | { kind: 'passed limit'; task: string; next: Reason }
  | {
      kind: 'waiting';
      step: string;
      until: Instant | null;
      reason: Reason;
      /** How often whoever is waited for has been reminded, and when they are next. */
      reminders?: number;
      remindAt?: Instant;
    }
  | { kind: 'waited'; step: string; reason: Reason; filled?: Filled }
  | { kind: 'lane done'; step: string; lane: string; from: readonly string[] }
  | { kind: 'joined'; step: string; from: readonly string[]; reason: Reason }
  | {
      kind: 'sent back';
      step: string;
      outcome: string;
      /** To whom; the asker when nothing is said. */
      to?: PersonId;
      fields: readonly string[];
      resume: string;
      note: string | null;
    }
  | { kind: 'reworked'; answers: Answers; figures: FigureValues; changes: readonly Change[] }
  /** `undelivered` where a connection is asked for it: it is not done until the effect with this key is delivered. */
  | {
      kind: 'recorded' | 'provisioned';
      step: string;
      what: Ask;
      undelivered?: true;
      key?: string;
      /** What was given before, by its key: it stands, and only its last day is another. */
      moves?: string;
    }
  | { kind: 'opened'; step: string; workflow: string; key: string; undelivered?: true }
  /** An effect came back: done, with what it gave and the fields that this fills. `note` when a person did it. */
  | { kind: 'delivered'; step: string; key: string; result: NamedValues; note?: string; filled?: Filled }
  | { kind: 'refused'; step: string; key: string; reason: string }
  | { kind: 'asked again'; step: string; key: string }
  /** It goes on without it: what was asked for is not done and will not be. */
  | { kind: 'given up'; step: string; key: string; note: string }
  /** Taken back; or its time is over, and another request still gives the same, so that it stays. */
  | { kind: 'undone'; step: string; key: string; stays?: string }
  /** A message that says that something is done, and did not go out because it is not. */
  | { kind: 'held back'; message: string; because: readonly Ask[]; letter?: HeldLetter }
  /** What was held back may go out now. */
  | { kind: 'let out'; message: string }
  | { kind: 'opened closed'; key: string; closing: string }
  /** A guest gets a link: the first one, or the next in its place. */
  | { kind: 'invited'; step: string; guest: string; address: string; link: number; until: Instant; remindAt?: Instant }
  | { kind: 'link ended'; step: string; note: string | null }
  | { kind: 'section in'; step: string; section: string; guest: string; filled: Filled }
  | { kind: 'section back'; step: string; section: string; note: string }
  | { kind: 'consent withdrawn'; step: string; field: string; guest: string; filled: Filled }
  | { kind: 'guest asked'; step: string; guest: string; text: string }
  | { kind: 'guest answered'; step: string; text: string }
  | { kind: 'guest reminded'; step: string; remindAt?: Instant }
  | {
      kind: 'told';
      people: readonly PersonId[];
      message: string;
      addresses?: readonly string[];
      /** The step that told them, where something went out with it. */
      step?: string;
      attached?: Attached;
    }
  /** Those who were invited are told that it is not to be. */
  | {
      kind: 'uninvited';
      step: string;
      invitation: Invitation;
      people: readonly PersonId[];
      addresses: readonly string[];
    }
  /** A letter of the request could not be delivered to an address. */
  | { kind: 'came back'; address: string; why: string }
  /** Somebody’s calendar answered an invitation. */
  | { kind: 'calendar answered'; step: string; who: string; answer: CalendarAnswer }
  | { kind: 'stuck'; step: string; reason: Reason }
  | { kind: 'tried again' }
  | { kind: 'moved'; from: number; to: number; reason: string; filled: Filled }
  | { kind: 'withdrawn'; note: string | null; guest?: string }
  | { kind: 'closed'; closing: string };

/** `by` is nobody when North Pebble acts on its own. */
export type RequestEvent = EventBody & { readonly at: Instant; readonly by: PersonId | null };
export type EventOf<Kind extends EventBody['kind']> = Extract<RequestEvent, { kind: Kind }>;

export type TimerKind = 'remind' | 'limit' | 'hold' | 'aside' | 'alert' | 'guest' | 'facts' | 'leave';

/** The link of a guest that a letter brings; the letter is not kept with it. */
export type LinkInLetter = { readonly step: string; readonly n: number; readonly until: Instant };

/** Values by name, worked out. */
export type NamedValues = Readonly<Record<string, unknown>>;

/** What is to be done outside the request, described; the server carries it out after the events are stored. */
export type Effect =
  | {
      kind: 'mail';
      key: string;
      /** The task that a reply to it may answer. */
      task?: string;
      /** It is about what came to a role that its reader holds. */
      forRole?: true;
      to: PersonId;
      subject: string;
      body: string;
      html?: string;
      attach?: Attached;
    }
  | {
      kind: 'mail out';
      key: string;
      address: string;
      subject: string;
      body: string;
      html?: string;
      attach?: Attached;
      link?: LinkInLetter;
    }
  /** `task` is the id of a task, of the step that holds, or `plan` for the plan as a whole. */
  | { kind: 'timer'; key: string; task: string; what: TimerKind; at: Instant }
  /** A paper goes into the register; its holder by name where they are not on file. */
  | {
      kind: 'keep paper';
      key: string;
      field: string;
      as: string;
      person: PersonId | null;
      holder: string;
      file: string;
      issued: CivilDate | null;
      expires: CivilDate | null;
      on: CivilDate;
    }
  /** A letter to be set on pages and kept; what comes back is its file. */
  | { kind: 'make letter'; key: string; step: string; name: string; letter: FilledLetter }
  | { kind: 'planner'; key: string; step: string; person: PersonId; from: CivilDate; to: CivilDate; label: string }
  /** Put on a balance of leave, or taken off it. */
  | {
      kind: 'adjust';
      key: string;
      person: PersonId;
      type: string;
      amount: number;
      on: CivilDate;
      reason: string;
    }
  /** `property` is for reading; `change` is what is stored, from that day on. */
  | {
      kind: 'change person';
      key: string;
      person: PersonId;
      property: string;
      change: PersonChange;
      from: CivilDate;
    }
  /** A post that nobody holds yet is put on file. */
  | { kind: 'add post'; key: string; change: NewPost; from: CivilDate }
  /** Somebody new is put on file. */
  | { kind: 'add person'; key: string; change: Coming }
  /** Whoever was put on file under that key never came. */
  | { kind: 'never came'; key: string; of: string }
  | { kind: 'add row'; key: string; list: string; values: NamedValues }
  | { kind: 'change row'; key: string; list: string; row: string; values: NamedValues }
  | { kind: 'open request'; key: string; step: string; workflow: string; person: PersonId; values: NamedValues }
  /** What was provisioned is taken back; `of` is the key of the effect that brought it about. */
  | { kind: 'undo'; key: string; of: string }
  /** What was provisioned, or is on its way, is to be taken back on another day than was said. */
  | { kind: 'undo on'; key: string; of: string; on: CivilDate; at: Instant }
  /** What was to be taken back on a day is for good now. */
  | { kind: 'undo never'; key: string; of: string }
  /** What is still on its way is not to go out any more. */
  | { kind: 'call off'; key: string; of: string }
  /** A refused effect is tried once more. */
  | { kind: 'again'; key: string; of: string }
  | {
      kind: 'provision';
      key: string;
      step: string;
      connection: string;
      action: string;
      values: NamedValues;
      /** Its last day, and when that is over for the subject. */
      undoOn: CivilDate | null;
      undoAt: Instant | null;
    };
