/**
 * Eighteen months of requests, played through the core itself in the order of time: people ask, managers answer,
 * limits pass, reminders fire. What is stored is what the core said; nothing is made up beside it.
 */
import type { Adjustment, LeaveEntry } from '@north-pebble/core/leave';
import { awayOf, type HalfSpan } from '@north-pebble/core/leave';
import {
  type Away,
  type DirectoryIndex,
  isEmployed,
  type Person,
  type PersonId,
  recordOn,
  teamOf,
  zoneOf,
} from '@north-pebble/core/people';
import {
  addDays,
  type CivilDate,
  civilDateAt,
  fromDay,
  type Instant,
  toDay,
  toInstant,
  toMilliseconds,
  wallClock,
} from '@north-pebble/core/time';
import {
  type Command,
  type Context,
  type Definition,
  type Effect,
  fold,
  handle,
  newRequest,
  type RequestEvent,
  type RequestState,
  type TimerCommand,
} from '@north-pebble/core/workflow';
import { demoDay, id } from './organisation.ts';
import { leaveTypes, plans } from './patterns.ts';
import { type Random, random } from './random.ts';
import { workflows } from './workflows.ts';

export const demoNow = '2026-02-02T09:40:00Z' as Instant;
const firstDay = addDays(demoDay, -550);
/** Letters are kept for so long; older ones are of no use to anybody who tries the demo. */
const lettersFrom = addDays(demoDay, -21);

export type PlayedRequest = {
  id: string;
  number: number;
  workflow: string;
  definition: Definition;
  asker: PersonId;
  askedAt: Instant;
  state: RequestState;
  events: RequestEvent[];
  /** The effects that are still ahead: timers of open tasks. */
  timers: Extract<Effect, { kind: 'timer' }>[];
  context: Context;
};

type Plan = { kind: string; span: HalfSpan; workflow: string; extra: Record<string, string> };

type Deed =
  | { what: 'ask'; person: PersonId; plan: Plan; fate: Fate }
  | { what: 'answer'; request: string; holder: PersonId }
  | { what: 'rework'; request: string }
  | { what: 'timer'; request: string; timer: TimerCommand };
/** What a manager will say, decided when the request is made, and after how long. */
type Fate = { outcome: 'approve' | 'send-back' | 'decline'; hours: number; asked: boolean };

const backNotes = [
  'The gauge service falls on the last day, can you be back?',
  'Two of the crew are off then; could you move it by a day?',
  'Stocktaking is on that Monday.',
];
const declineNotes = ['We are down to the smallest crew that week.', 'The relief boat cannot sail without you then.'];

/** A queue in the order of time; deeds of one instant keep the order in which they came. */
class Agenda {
  readonly #deeds: { at: number; order: number; deed: Deed }[] = [];
  #order = 0;

  add(at: number, deed: Deed): void {
    this.#deeds.push({ at, order: this.#order++, deed });
    let i = this.#deeds.length - 1;
    while (i > 0) {
      const parent = (i - 1) >> 1;
      if (this.#before(parent, i)) break;
      [this.#deeds[parent], this.#deeds[i]] = [this.#deeds[i], this.#deeds[parent]];
      i = parent;
    }
  }

  #before(a: number, b: number): boolean {
    const x = this.#deeds[a];
    const y = this.#deeds[b];
    return x.at < y.at || (x.at === y.at && x.order < y.order);
  }

  next(until: number): { at: number; deed: Deed } | undefined {
    const [first] = this.#deeds;
    if (!first || first.at > until) return undefined;
    const last = this.#deeds.pop()!;
    if (this.#deeds.length > 0) {
      this.#deeds[0] = last;
      for (let i = 0; ; ) {
        let least = i;
        for (const child of [2 * i + 1, 2 * i + 2]) {
          if (child < this.#deeds.length && this.#before(child, least)) least = child;
        }
        if (least === i) break;
        [this.#deeds[i], this.#deeds[least]] = [this.#deeds[least], this.#deeds[i]];
        i = least;
      }
    }
    return first;
  }
}

export class History {
  readonly requests: PlayedRequest[] = [];
  readonly adjustments: Adjustment[] = [];
  /** What was written in the last weeks, each with when: it goes out when the house first opens. */
  readonly letters: { at: Instant; effect: Effect }[] = [];
  readonly #index: DirectoryIndex;
  readonly #chance: Random = random(42);
  readonly #agenda = new Agenda();
  readonly #byId = new Map<string, PlayedRequest>();
  readonly #entries = new Map<PersonId, LeaveEntry[]>();
  readonly #fates = new Map<string, Fate>();
  readonly #teams = new Map<PersonId, PersonId[]>();

  constructor(index: DirectoryIndex) {
    this.#index = index;
  }

  /** Plays everything up to an instant, the demo's morning when none is said. */
  play(end: Instant = demoNow): void {
    for (const person of this.#index.directory.people) this.#planFor(person);
    this.#planByHand();
    const until = toMilliseconds(end);
    for (let next = this.#agenda.next(until); next; next = this.#agenda.next(until)) this.#do(next.at, next.deed);
  }

  /** Everybody asks some four to seven times a year, mostly in summer; crews and keepers by whole turns. */
  #planFor(person: Person): void {
    const chance = this.#chance;
    const { plan, pattern } = recordOn(person, demoDay);
    if (plan === 'standard' && chance.chance(0.3)) this.#earn(person.id);
    let day = toDay(firstDay) + chance.whole(0, 40);
    const last = toDay(demoDay) + 100;
    while (day < last) {
      const length = chance.chance(0.3) ? chance.whole(5, 12) : chance.whole(1, 4);
      const kind = plan === null || chance.chance(0.06) ? chance.pick(['family', 'study', 'unpaid']) : 'annual';
      const half = chance.chance(0.15) && pattern !== 'keeper' ? ('am' as const) : ('pm' as const);
      const span: HalfSpan = {
        from: { date: fromDay(day), half: 'am' },
        to: { date: fromDay(day + length - 1), half },
      };
      this.#askBefore(person, { kind, span, workflow: 'annual-leave', extra: {} }, chance.whole(4, 45));
      day += length + chance.whole(28, 110);
    }
  }

  #earn(person: PersonId): void {
    const chance = this.#chance;
    for (let i = chance.whole(1, 3); i > 0; i--) {
      const date = addDays(firstDay, chance.whole(20, 520));
      const amount = chance.whole(2, 12);
      this.adjustments.push({ person, type: 'compensation', date, amount, reason: 'extra hours, storm watch' });
      const later = addDays(date, chance.whole(10, 60));
      const found = this.#index.person(person);
      if (found && chance.chance(0.6)) {
        const span: HalfSpan = { from: { date: later, half: 'am' }, to: { date: later, half: 'am' } };
        const extra = { 'earned-with': 'storm watch' };
        this.#askBefore(
          found,
          { kind: 'compensation', span, workflow: 'compensation-time', extra },
          chance.whole(2, 9),
        );
      }
    }
  }

  #askBefore(person: Person, plan: Plan, days: number, hour = this.#chance.whole(8, 15)): void {
    const zone = zoneOf(this.#index, person, demoDay);
    const at = wallClock(toDay(plan.span.from.date) - days, hour * 60 + this.#chance.whole(0, 59), zone);
    const roll = this.#chance.next();
    const outcome = roll < 0.9 ? 'approve' : roll < 0.965 ? 'send-back' : 'decline';
    const hours = this.#chance.chance(0.04) ? this.#chance.whole(60, 110) : this.#chance.whole(1, 46);
    this.#agenda.add(at, { what: 'ask', person: person.id, plan, fate: { outcome, hours, asked: false } });
  }

  /** A few requests that are waiting on the demo's morning, so that the observatory's desk has something on it. */
  #planByHand(): void {
    const never: Fate = { outcome: 'approve', hours: 1e6, asked: false };
    const ask = (person: string, at: string, from: string, to: string, kind = 'annual', fate = never) =>
      this.#agenda.add(toMilliseconds(at), {
        what: 'ask',
        person: id(person),
        plan: {
          kind,
          span: { from: { date: from as CivilDate, half: 'am' }, to: { date: to as CivilDate, half: 'pm' } },
          workflow: 'annual-leave',
          extra: {},
        },
        fate,
      });
    // The stores lead is away for months, and covered.
    const [cover] = this.#index.directory.covers;
    const granted: Fate = { outcome: 'approve', hours: 4, asked: false };
    ask(cover.person, '2025-09-01T09:00:00Z', cover.from, cover.to, 'family', granted);
    const [below] = this.#index.holdingsOfPost('stores-ambrel-s2');
    ask(below.person, '2026-01-20T10:15:00Z', '2026-03-23', '2026-03-27', 'annual', { ...granted });
    ask('per-lauder', '2026-01-30T14:12:00Z', '2026-05-04', '2026-05-19');
    ask('ada-dunmore', '2026-01-29T10:05:00Z', '2026-02-18', '2026-02-20');
    ask('jory-tallack', '2026-02-02T08:31:00Z', '2026-04-13', '2026-04-24', 'unpaid');
    ask('mira-kell', '2026-01-30T09:20:00Z', '2026-03-09', '2026-03-13');
    ask('tobias', '2026-01-30T16:02:00Z', '2026-07-06', '2026-07-17');
    // A contractor has no manager on file, so this one cannot go on until somebody helps.
    const rory = id('rory-flint');
    this.adjustments.push({
      person: rory,
      type: 'compensation',
      date: '2026-01-12' as CivilDate,
      amount: 8,
      reason: 'extra hours, storm watch',
    });
    const friday = '2026-02-27' as CivilDate;
    this.#agenda.add(toMilliseconds('2026-01-29T15:20:00Z'), {
      what: 'ask',
      person: rory,
      plan: {
        kind: 'compensation',
        span: { from: { date: friday, half: 'am' }, to: { date: friday, half: 'am' } },
        workflow: 'compensation-time',
        extra: { 'earned-with': 'moving the console room' },
      },
      fate: never,
    });
  }

  #team(person: PersonId): PersonId[] {
    let team = this.#teams.get(person);
    if (!team) {
      team = [...new Set([person, ...teamOf(this.#index, person, demoDay).map(p => p.id)])];
      this.#teams.set(person, team);
    }
    return team;
  }

  #context(at: number, asker: PersonId, actor: PersonId | null): Context {
    const now = toInstant(at);
    const person = this.#index.person(asker);
    const today = civilDateAt(now, person ? zoneOf(this.#index, person, demoDay) : 'UTC');
    const entries = this.#team(asker).flatMap(p => this.#entries.get(p) ?? []);
    return {
      now,
      actor,
      index: this.#index,
      book: {
        index: this.#index,
        types: leaveTypes,
        plans,
        entries,
        adjustments: this.adjustments.filter(a => a.person === asker),
        today,
      },
      away: this.#away(today),
    };
  }

  #away(today: CivilDate): Away[] {
    const near: LeaveEntry[] = [];
    for (const entries of this.#entries.values()) {
      for (const e of entries) if (e.span.from.date <= today && today <= e.span.to.date) near.push(e);
    }
    return awayOf(near);
  }

  #do(at: number, deed: Deed): void {
    if (deed.what === 'ask') return this.#ask(at, deed);
    const request = this.#byId.get(deed.request);
    if (!request) return;
    if (deed.what === 'timer') return this.#carryOut(request, deed.timer, at, null);
    if (deed.what === 'rework') {
      const dates = request.state.answers.dates as HalfSpan;
      const shorter = dates.to.date > dates.from.date ? addDays(dates.to.date, -1) : dates.to.date;
      const answers = { ...request.state.answers, dates: { from: dates.from, to: { date: shorter, half: 'pm' } } };
      const command: Command = { kind: 'resubmit', seen: request.state.version, answers };
      return this.#carryOut(request, command, at, request.asker);
    }
    const task = request.state.tasks.find(t => t.holder === deed.holder);
    const fate = this.#fates.get(request.id);
    if (!task || !fate) return;
    const step = request.definition.steps.find(s => s.id === task.step);
    const may = step?.verb === 'Decide' ? step.outcomes.map(o => o.id) : [];
    const outcome = !fate.asked && may.includes(fate.outcome) ? fate.outcome : 'approve';
    fate.asked = true;
    const note =
      outcome === 'send-back'
        ? this.#chance.pick(backNotes)
        : outcome === 'decline'
          ? this.#chance.pick(declineNotes)
          : null;
    const command: Command = { kind: 'answer', seen: request.state.version, task: task.id, outcome, note };
    this.#carryOut(request, command, at, deed.holder);
  }

  #ask(at: number, { person, plan, fate }: Extract<Deed, { what: 'ask' }>): void {
    const found = this.#index.person(person);
    const workflow = workflows.find(w => w.id === plan.workflow);
    if (!found || !workflow || !isEmployed(found, toInstant(at).slice(0, 10) as CivilDate)) return;
    const number = this.requests.length + 1001;
    const request: PlayedRequest = {
      id: `R-${number}`,
      number,
      workflow: workflow.id,
      definition: workflow.definition,
      asker: person,
      askedAt: toInstant(at),
      state: newRequest(`R-${number}`),
      events: [],
      timers: [],
      context: this.#context(at, person, person),
    };
    const answers = { kind: plan.kind, dates: plan.span, ...plan.extra };
    const result = handle(request.definition, request.state, { kind: 'submit', answers }, request.context);
    // Someone who has nothing left, or leave already in those days, does not ask.
    if (!result.ok) return;
    this.requests.push(request);
    this.#byId.set(request.id, request);
    this.#fates.set(request.id, fate);
    this.#after(request, result, at);
  }

  #carryOut(request: PlayedRequest, command: Command | TimerCommand, at: number, actor: PersonId | null): void {
    const context = this.#context(at, request.asker, actor);
    const result = handle(request.definition, request.state, command, context);
    if (!result.ok) return;
    request.context = context;
    this.#after(request, result, at);
  }

  #after(
    request: PlayedRequest,
    brought: { events: RequestEvent[]; effects: Effect[]; state: RequestState },
    at: number,
  ): void {
    request.state = brought.state;
    request.events.push(...brought.events);
    const { state } = request;
    const others = (this.#entries.get(request.asker) ?? []).filter(e => e.request !== request.id);
    if (state.leave) {
      const { type, span, state: held } = state.leave;
      others.push({ request: request.id, person: request.asker, type, span, state: held });
    }
    this.#entries.set(request.asker, others);
    for (const effect of brought.effects) {
      const isLetter = effect.kind === 'mail' || effect.kind === 'mail out';
      if (isLetter && at >= toMilliseconds(`${lettersFrom}T00:00:00Z`))
        this.letters.push({ at: toInstant(at), effect });
      if (effect.kind !== 'timer') continue;
      request.timers.push(effect);
      const timer: TimerCommand = { kind: 'timer', task: effect.task, what: effect.what };
      this.#agenda.add(toMilliseconds(effect.at), { what: 'timer', request: request.id, timer });
    }
    for (const event of brought.events) {
      if (event.kind === 'given') this.#answerLater(request, event.holder, at);
      if (event.kind === 'sent back') {
        this.#agenda.add(at + this.#chance.whole(2, 30) * 3_600_000, { what: 'rework', request: request.id });
      }
    }
  }

  #answerLater(request: PlayedRequest, holder: PersonId, at: number): void {
    const hours = this.#fates.get(request.id)?.hours ?? 24;
    let when = at + hours * 3_600_000;
    // People answer by day.
    const hour = new Date(when).getUTCHours();
    if (hour < 8 || hour > 17) when += ((32 - hour) % 24) * 3_600_000;
    this.#agenda.add(when, { what: 'answer', request: request.id, holder });
  }

  /** Timers that are still ahead of an open task. */
  timersAhead(request: PlayedRequest): PlayedRequest['timers'] {
    const open = new Set(request.state.tasks.map(t => t.id));
    return request.timers.filter(t => open.has(t.task) && t.at > demoNow);
  }
}

/** The events of a request fold to its state; a builder that breaks this would load a lie. */
export const isSound = (request: PlayedRequest): boolean =>
  JSON.stringify(fold(request.id, request.events)) === JSON.stringify(request.state);
