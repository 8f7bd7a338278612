/**
 * Eighteen months of requests, played through the core itself in the order of time: people ask, managers answer,
 * limits pass, reminders fire. What is stored is what the core said; nothing is made up beside it.
 */
import { filesOf, type GivenFile, masked } from '@north-pebble/core/form';
import { type Adjustment, awayOf, type HalfSpan } from '@north-pebble/core/leave';
import {
  type Away,
  type Directory,
  type DirectoryIndex,
  isEmployed,
  type PersonId,
  teamOf,
  zoneOf,
} from '@north-pebble/core/people';
import { addDays, type CivilDate, civilDateAt, type Instant, toInstant, toMilliseconds } from '@north-pebble/core/time';
import {
  type Command,
  type Context,
  type Definition,
  type Effect,
  type EffectCommand,
  type FilledLetter,
  fold,
  type GuestCommand,
  handle,
  isGuestStep,
  isOpen,
  keeperOf,
  newRequest,
  type RequestEvent,
  type RequestState,
  type StepOf,
  stepById,
  type TimerCommand,
} from '@north-pebble/core/workflow';
import { lists } from '../lists.ts';
import { demoDay } from '../organisation.ts';
import { leaveTypes, plans } from '../patterns.ts';
import { type Random, random } from '../random.ts';
import { liveWorkflows } from '../workflows.ts';
import { Agenda } from './agenda.ts';
import { type Application, applications } from './applications.ts';
import { balanceWishes } from './balanceWishes.ts';
import { LeaveWishes } from './leaveWishes.ts';
import { PlayedLeave } from './playedLeave.ts';
import {
  cardNumber,
  couldNotNote,
  filledAt,
  guestAnswers,
  guestRead,
  letterFile,
  notesOf,
  paperOf,
  reworked,
} from './replies.ts';
import { type AskersDeed, type Asking, type Fate, spanOf } from './wish.ts';
import { waitingWishes, wishes } from './wishes.ts';

export const demoNow = '2026-02-02T09:40:00Z' as Instant;
const firstDay = addDays(demoDay, -550);
/** Letters are kept for so long; older ones are of no use to anybody who tries the demo. */
const lettersFrom = addDays(demoDay, -21);

export type PlayedRequest = {
  id: string;
  number: number;
  workflow: string;
  definition: Definition;
  /** That of the workflow that it runs on. */
  version: number;
  asker: PersonId;
  askedAt: Instant;
  state: RequestState;
  events: RequestEvent[];
  /** The effects that are still ahead: timers of open tasks. */
  timers: Extract<Effect, { kind: 'timer' }>[];
  context: Context;
};

type Deed =
  /** `renews` is the key of the paper for which a new one is asked. */
  | ({ what: 'ask'; renews?: string } & Pick<Asking, 'person' | 'wish' | 'fate'>)
  | { what: 'answer'; request: string; holder: PersonId; step: string }
  | { what: 'apply'; application: Application }
  | { what: 'rework'; request: string }
  | { what: 'later'; request: string; command: AskersDeed }
  | { what: 'hand in'; request: string; step: string }
  | { what: 'guest'; request: string; step: string; section: string }
  | { what: 'effect'; request: string; effect: EffectCommand }
  | { what: 'timer'; request: string; timer: TimerCommand };

export class History {
  readonly requests: PlayedRequest[] = [];
  adjustments: Adjustment[] = [];
  /** What was written in the last weeks, each with when: it goes out when the house first opens. */
  readonly letters: { at: Instant; effect: Effect }[] = [];
  /** Papers that were handed in, each at its field. */
  readonly files: { request: string; field: string; owner: PersonId; at: Instant; file: GivenFile }[] = [];
  /** What was asked of reference lists. */
  readonly rows: Extract<Effect, { kind: 'add row' | 'change row' }>[] = [];
  /** Posts that were put on file by a request. */
  readonly posts: { request: string; at: Instant; effect: Extract<Effect, { kind: 'add post' }> }[] = [];
  /** Those who were put on file by a request, and did not stay away. */
  readonly comes: { request: string; at: Instant; change: Extract<Effect, { kind: 'add person' }>['change'] }[] = [];
  /** Letters, with the files that they are kept as. */
  readonly made: { request: string; field: string; at: Instant; file: GivenFile; letter: FilledLetter }[] = [];
  /** What connections were asked for, with when; done some minutes later. */
  readonly provided: { request: string; at: Instant; effect: Extract<Effect, { kind: 'provision' }> }[] = [];
  /** What was put on the planner that is no leave. */
  readonly lines: { request: string; effect: Extract<Effect, { kind: 'planner' }> }[] = [];
  /** Papers that went into the register, and the request in which the new one of each was asked for, by its key. */
  readonly kept: { request: string; effect: Extract<Effect, { kind: 'keep paper' }> }[] = [];
  readonly renewals = new Map<string, string>();
  /** Numbers of papers, by their files. */
  readonly numbers = new Map<string, string>();
  /** Wishes that the core refused, with its words: leave in those days already, nothing left. */
  readonly refused: { workflow: string; why: string }[] = [];
  readonly #index: DirectoryIndex;
  readonly #chance: Random = random(42);
  readonly #agenda = new Agenda<Deed>();
  readonly #byId = new Map<string, PlayedRequest>();
  readonly #leave = new PlayedLeave();
  readonly #adjustmentsOf = new Map<PersonId, Adjustment[]>();
  /** Who is away on the day that was asked about last, as long as nothing is entered. */
  readonly #fates = new Map<string, Fate>();
  readonly #teams = new Map<PersonId, PersonId[]>();

  constructor(index: DirectoryIndex) {
    this.#index = index;
  }

  get directory(): Directory {
    return this.#index.directory;
  }

  /** Plays everything up to an instant, the demo's morning when none is said. */
  play(end: Instant = demoNow): void {
    const leave = new LeaveWishes(this.#index, this.#chance, firstDay);
    this.adjustments = leave.adjustments;
    for (const one of leave.adjustments)
      this.#adjustmentsOf.set(one.person, [...(this.#adjustmentsOf.get(one.person) ?? []), one]);
    const all = [...leave.askings, ...wishes(this.#index, firstDay), ...waitingWishes(this.#index), ...balanceWishes];
    for (const application of applications) this.#agenda.add(application.at, { what: 'apply', application });
    for (const { at, ...asking } of all) this.#agenda.add(at, { what: 'ask', ...asking });
    const until = toMilliseconds(end);
    for (let next = this.#agenda.next(until); next; next = this.#agenda.next(until)) this.#do(next.at, next.deed);
  }

  #adjust({ person, type, on: date, amount, reason }: Extract<Effect, { kind: 'adjust' }>): void {
    const one: Adjustment = { person, type, date, amount, reason };
    this.adjustments.push(one);
    this.#adjustmentsOf.set(person, [...(this.#adjustmentsOf.get(person) ?? []), one]);
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
    const entries = this.#team(asker).flatMap(p => this.#leave.of(p));
    return {
      now,
      actor,
      index: this.#index,
      book: {
        index: this.#index,
        types: leaveTypes,
        plans,
        entries,
        adjustments: this.#adjustmentsOf.get(asker) ?? [],
        today,
      },
      away: this.#away(today),
      lists,
    };
  }

  #away(today: CivilDate): Away[] {
    return awayOf(this.#leave.on(today));
  }

  #do(at: number, deed: Deed): void {
    if (deed.what === 'ask') return this.#ask(at, deed);
    if (deed.what === 'apply') return this.#apply(at, deed.application);
    const request = this.#byId.get(deed.request);
    if (!request) return;
    if (deed.what === 'effect') return void this.#carryOut(request, deed.effect, at, null);
    if (deed.what === 'timer') return void this.#carryOut(request, deed.timer, at, null);
    if (deed.what === 'later') {
      const command = { ...deed.command, seen: request.state.version };
      if (!this.#carryOut(request, command, at, request.asker)) throw new Error(`${request.id}: ${command.kind}`);
      return;
    }
    if (deed.what === 'rework') {
      const answers = reworked(request.workflow, request.state.answers);
      return void this.#carryOut(
        request,
        { kind: 'resubmit', seen: request.state.version, answers },
        at,
        request.asker,
      );
    }
    if (deed.what === 'hand in') return this.#handIn(request, deed.step, at);
    if (deed.what === 'guest') return this.#byGuest(request, deed.step, deed.section, at);
    const task = request.state.tasks.find(t => t.holder === deed.holder && t.step === deed.step);
    const fate = this.#fates.get(request.id);
    const step = task && stepById(request.definition, task.step);
    if (!task || !fate || fate.leaves?.includes(task.step)) return;
    if (step?.verb === 'Do') return this.#work(request, step, task.id, at, deed.holder);
    const may = step?.verb === 'Decide' ? step.outcomes.map(o => o.id) : [];
    const good = step?.verb === 'Decide' ? step.outcomes.find(o => o.tone === 'good')?.id : undefined;
    const isTheirs = fate.declines === undefined ? !fate.asked : fate.declines === task.step;
    const outcome = isTheirs && may.includes(fate.outcome) ? fate.outcome : (good ?? 'approve');
    fate.asked = true;
    const { back, decline } = notesOf(request.workflow);
    const note =
      outcome === 'send-back' ? this.#chance.pick(back) : outcome === 'decline' ? this.#chance.pick(decline) : null;
    const answers = outcome === good ? filledAt(task.step, request.number, request.state.answers) : {};
    const filled = Object.keys(answers).length > 0 ? { answers } : {};
    const command: Command = { kind: 'answer', seen: request.state.version, task: task.id, outcome, note, ...filled };
    this.#carryOut(request, command, at, deed.holder);
  }

  #work(request: PlayedRequest, step: StepOf<'Do'>, task: string, at: number, holder: PersonId): void {
    const { version: seen, answers } = request.state;
    if (step.couldNot && this.#chance.chance(0.03))
      return void this.#carryOut(request, { kind: 'could not', seen, task, note: couldNotNote }, at, holder);
    const ticked = (step.checklist ?? []).map(item => item.id);
    const filled = filledAt(step.id, request.number, answers);
    this.#carryOut(request, { kind: 'complete', seen, task, ticked, answers: filled, note: null }, at, holder);
  }

  #handIn(request: PlayedRequest, step: string, at: number): void {
    const held = stepById(request.definition, step);
    if (held?.verb !== 'Hold' || held.until.kind !== 'document') return;
    const { field } = held.until;
    const file = paperOf(request.number, request.workflow === 'renewal' ? 'Identity card.pdf' : undefined);
    const { version: seen } = request.state;
    const isRenewal = request.workflow === 'renewal';
    const renewed = {
      expires: addDays(demoDay, 2900 + ((request.number * 31) % 800)),
      number: masked(cardNumber(request.number)),
    };
    const answers = { [field]: { file, expires: null, ...(isRenewal ? renewed : {}) } };
    if (this.#carryOut(request, { kind: 'hand in', seen, step, answers }, at, request.asker))
      this.files.push({ request: request.id, field, owner: request.asker, at: toInstant(at), file });
    if (isRenewal) this.numbers.set(file.id, cardNumber(request.number));
  }

  #byGuest(request: PlayedRequest, step: string, section: string, at: number): void {
    const now = toInstant(at);
    const answers = guestAnswers(section, request.number, request.state.answers, now);
    const what = { kind: 'hand in' as const, section, answers, signed: section === 'sign' ? guestRead(now) : {} };
    if (!this.#carryOut(request, { kind: 'guest', step, what }, at, null))
      throw new Error(`${request.id}: ${section} was not taken`);
    const owner = `guest:${request.id}` as PersonId;
    for (const [field, answer] of Object.entries(answers))
      for (const file of filesOf(answer)) {
        this.files.push({ request: request.id, field, owner, at: now, file });
        if (field === 'id-card') this.numbers.set(file.id, cardNumber(request.number));
      }
  }

  #ask(at: number, { person, wish, fate, renews }: Extract<Deed, { what: 'ask' }>): void {
    const found = this.#index.person(person);
    const workflow = liveWorkflows.find(w => w.id === wish.workflow);
    if (!found || !workflow || !isEmployed(found, toInstant(at).slice(0, 10) as CivilDate)) return;
    // Whoever is away already does not fall ill for the house.
    if (wish.workflow === 'sick-leave' && this.#isAway(person, spanOf(wish.answers))) return;
    const number = this.requests.length + 1001;
    const isBefore = workflow.before && toInstant(at).slice(0, 10) < workflow.before.until;
    const request: PlayedRequest = {
      id: `R-${number}`,
      number,
      workflow: workflow.id,
      definition: isBefore && workflow.before ? workflow.before.definition : workflow.definition,
      version: workflow.before && !isBefore ? 2 : 1,
      asker: person,
      askedAt: toInstant(at),
      state: newRequest(`R-${number}`),
      events: [],
      timers: [],
      context: this.#context(at, person, person),
    };
    const { answers, subject } = wish;
    const result = handle(request.definition, request.state, { kind: 'submit', answers, subject }, request.context);
    // Someone who has nothing left, or leave already in those days, does not ask.
    if (!result.ok) {
      this.refused.push({ workflow: workflow.id, why: result.refusal.message });
      return;
    }
    this.requests.push(request);
    this.#byId.set(request.id, request);
    this.#fates.set(request.id, fate);
    if (renews !== undefined) this.renewals.set(renews, request.id);
    for (const { at: when, command } of fate.later ?? [])
      this.#agenda.add(when, { what: 'later', request: request.id, command });
    this.#after(request, result, at);
  }

  /** Somebody outside begins to apply at the public address. */
  #apply(at: number, { name, mail, post, fate }: Application): void {
    const workflow = liveWorkflows.find(w => w.id === 'application');
    const outside = workflow?.definition.opening?.outside;
    const context = this.#context(at, '' as PersonId, null);
    const keeper = outside && keeperOf(outside, context);
    if (!workflow || !keeper) throw new Error('nobody keeps applications');
    const number = this.requests.length + 1001;
    const request: PlayedRequest = {
      id: `R-${number}`,
      number,
      workflow: workflow.id,
      definition: workflow.definition,
      version: 1,
      asker: keeper,
      askedAt: toInstant(at),
      state: newRequest(`R-${number}`),
      events: [],
      timers: [],
      context,
    };
    const answers = { name, mail, 'open-post': post, privacy: { version: '1', at: toInstant(at) } };
    const result = handle(request.definition, request.state, { kind: 'ask from outside', answers }, context);
    if (!result.ok) throw new Error(`${name}: ${result.refusal.message}`);
    this.requests.push(request);
    this.#byId.set(request.id, request);
    this.#fates.set(request.id, { ...fate });
    this.#after(request, result, at);
  }

  #isAway(person: PersonId, span: HalfSpan | undefined): boolean {
    const mine = this.#leave.of(person);
    return span !== undefined && mine.some(e => e.span.from.date <= span.to.date && span.from.date <= e.span.to.date);
  }

  #carryOut(
    request: PlayedRequest,
    command: Command | TimerCommand | EffectCommand | GuestCommand,
    at: number,
    actor: PersonId | null,
  ): boolean {
    const context = this.#context(at, request.asker, actor);
    const result = handle(request.definition, request.state, command, context);
    if (!result.ok) return false;
    request.context = context;
    this.#after(request, result, at);
    return true;
  }

  #after(
    request: PlayedRequest,
    brought: { events: RequestEvent[]; effects: Effect[]; state: RequestState },
    at: number,
  ): void {
    const before = request.state;
    request.state = brought.state;
    request.events.push(...brought.events);
    const { state } = request;
    if (state.leave || before.leave) this.#leave.keep(request.id, request.asker, state.leave);
    for (const effect of brought.effects) {
      const isLetter = effect.kind === 'mail' || effect.kind === 'mail out';
      if (isLetter && at >= toMilliseconds(`${lettersFrom}T00:00:00Z`))
        this.letters.push({ at: toInstant(at), effect });
      if (effect.kind === 'add row' || effect.kind === 'change row') this.rows.push(effect);
      if (effect.kind === 'adjust') this.#adjust(effect);
      if (effect.kind === 'add post') this.posts.push({ request: request.id, at: toInstant(at), effect });
      if (effect.kind === 'add person')
        this.comes.push({ request: request.id, at: toInstant(at), change: effect.change });
      if (effect.kind === 'never came')
        this.comes.splice(0, this.comes.length, ...this.comes.filter(one => one.request !== request.id));
      if (effect.kind === 'provision') this.#provide(request, effect, at);
      if (effect.kind === 'make letter') this.#makeLetter(request, effect, at);
      if (effect.kind === 'planner') this.lines.push({ request: request.id, effect });
      if (effect.kind === 'keep paper') this.#keepPaper(request, effect, at);
      if (effect.kind !== 'timer') continue;
      request.timers.push(effect);
      const timer: TimerCommand = { kind: 'timer', task: effect.task, what: effect.what };
      this.#agenda.add(toMilliseconds(effect.at), { what: 'timer', request: request.id, timer });
    }
    for (const event of brought.events) {
      if (event.kind === 'given') this.#answerLater(request, event.holder, event.step, at);
      if (event.kind === 'invited') this.#handInLater(request, event.step, at);
      // Whoever looks after a guest looks through it once all is in.
      if (event.kind === 'section in')
        for (const task of request.state.tasks)
          if (task.step === event.step) this.#answerLater(request, task.holder, event.step, at);
      if (
        event.kind === 'waiting' &&
        event.until === null &&
        !this.#fates.get(request.id)?.leaves?.includes(event.step)
      )
        this.#agenda.add(at + this.#chance.whole(20, 90) * 3_600_000, {
          what: 'hand in',
          request: request.id,
          step: event.step,
        });
      if (event.kind === 'sent back') {
        this.#agenda.add(at + this.#chance.whole(2, 30) * 3_600_000, { what: 'rework', request: request.id });
      }
    }
  }

  /** A letter is there a minute later; its pages are set when the house is filled. */
  #makeLetter(request: PlayedRequest, effect: Extract<Effect, { kind: 'make letter' }>, at: number): void {
    const step = stepById(request.definition, effect.step);
    if (step?.verb !== 'Record' || step.effect.kind !== 'make letter') return;
    const file = { ...letterFile(this.made.length + 1, effect.name), size: 1 };
    const made = { request: request.id, field: step.effect.field, at: toInstant(at), file, letter: effect.letter };
    this.made.push(made);
    const effectBack: EffectCommand = {
      kind: 'effect',
      key: effect.key,
      outcome: { state: 'delivered', result: { file } },
    };
    this.#agenda.add(at + 60_000, { what: 'effect', request: request.id, effect: effectBack });
  }

  /** The directory does what it is asked for within minutes, and takes it back on the day that was said. */
  #provide(request: PlayedRequest, effect: Extract<Effect, { kind: 'provision' }>, at: number): void {
    this.provided.push({ request: request.id, at: toInstant(at), effect });
    const back = (outcome: EffectCommand['outcome']): Deed => ({
      what: 'effect',
      request: request.id,
      effect: { kind: 'effect', key: effect.key, outcome },
    });
    const minutes = this.#chance.whole(1, 4) * 60_000;
    const { account } = effect.values;
    const result = typeof account === 'string' ? { account } : {};
    this.#agenda.add(at + minutes, back({ state: 'delivered', result }));
    if (effect.undoAt)
      this.#agenda.add(Math.max(toMilliseconds(effect.undoAt), at + minutes) + 60_000, back({ state: 'undone' }));
  }

  /** The new one is asked for in good time; those whose day is still ahead have not given it yet. */
  #keepPaper({ id }: PlayedRequest, effect: Extract<Effect, { kind: 'keep paper' }>, at: number): void {
    this.kept.push({ request: id, effect });
    const { person, expires, as } = effect;
    if (person === null || expires === null || expires > addDays(demoDay, 60)) return;
    const asksAt = toMilliseconds(`${addDays(expires, -60)}T08:00:00Z`);
    const leaves = expires > addDays(demoDay, 5) ? ['new'] : [];
    this.#agenda.add(Math.max(asksAt, at + 3_600_000), {
      what: 'ask',
      renews: effect.key,
      person,
      wish: { workflow: 'renewal', answers: { paper: as, 'runs-out': expires } },
      fate: { outcome: 'approve', hours: 30, asked: false, leaves },
    });
  }

  #answerLater(request: PlayedRequest, holder: PersonId, step: string, at: number): void {
    const hours = this.#fates.get(request.id)?.hours ?? 24;
    let when = at + hours * 3_600_000;
    // People answer by day.
    const hour = new Date(when).getUTCHours();
    if (hour < 8 || hour > 17) when += ((32 - hour) % 24) * 3_600_000;
    this.#agenda.add(when, { what: 'answer', request: request.id, holder, step });
  }

  /** A guest fills in a part in the evening of one day and of the next. */
  #handInLater(request: PlayedRequest, id: string, at: number): void {
    const step = stepById(request.definition, id);
    if (!isGuestStep(step)) return;
    if (this.#fates.get(request.id)?.leaves?.includes(id)) return;
    const sections = step.guest.sections.slice(0, this.#fates.get(request.id)?.handsIn ?? 99);
    sections.forEach((section, n) => {
      this.#agenda.add(at + (8 + n * 14) * 3_600_000, { what: 'guest', request: request.id, step: id, section });
    });
  }

  /** Timers that are still ahead, of open tasks, of waits, and of the plan. */
  timersAhead(request: PlayedRequest): PlayedRequest['timers'] {
    const { state } = request;
    const open = new Set([...state.tasks.map(task => task.id), ...state.holds.map(hold => hold.step), ...state.at]);
    if (isOpen(state)) open.add('plan');
    return request.timers.filter(timer => open.has(timer.task) && timer.at > demoNow);
  }
}

/** The events of a request fold to its state; a builder that breaks this would load a lie. */
export const isSound = (request: PlayedRequest): boolean =>
  JSON.stringify(fold(request.id, request.events)) === JSON.stringify(request.state);
