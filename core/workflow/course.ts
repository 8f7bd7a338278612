/**
 * The course of a request through its steps while one command is carried out: events and effects pile up here,
 * and the steps that need nobody are taken one after another until somebody is needed or the request ends.
 */
import { obstacles } from '../leave/index.ts';
import { above, type Holder, mainPost, type PersonId, resolve } from '../people/index.ts';
import { type Context, dueFor, nameOf, todayOf } from './context.ts';
import { closingById, type Definition, type Go, type Limit, type Step, type StepOf, stepNumber } from './definition.ts';
import { evaluateFigures, judge } from './evaluate.ts';
import type { Effect, Happening, RequestEvent } from './events.ts';
import { dueWords, fillMessage, insertions, titleOf } from './letters.ts';
import { type RequestState, reduce, type Task } from './state.ts';

/** Steps taken in one go before it is taken for a loop with nobody in it. */
const mostSteps = 1000;

/** What a step without a person leads to; nothing when the request now waits. */
type Onward = Go | null;

export class Course {
  readonly definition: Definition;
  readonly context: Context;
  readonly #events: RequestEvent[] = [];
  readonly #effects: Effect[] = [];
  #state: RequestState;

  constructor(definition: Definition, state: RequestState, context: Context) {
    this.definition = definition;
    this.context = context;
    this.#state = state;
  }

  outcome(): { events: RequestEvent[]; effects: Effect[]; state: RequestState } {
    return { events: this.#events, effects: this.#effects, state: this.#state };
  }

  happen(happening: Happening): void {
    const event: RequestEvent = { ...happening, at: this.context.now, by: this.context.actor };
    this.#events.push(event);
    this.#state = reduce(this.#state, event);
  }

  title(): string {
    return titleOf(this.definition, this.#state, this.context);
  }

  get #asker(): PersonId {
    if (!this.#state.asker) throw new Error(`request ${this.#state.request} runs without an asker`);
    return this.#state.asker;
  }

  /** A key says which mail of which event this is, so that sending it twice can be told. */
  mail(to: PersonId, subject: string, body: string): void {
    const key = `${this.#state.request}:${this.#state.version}:${this.#effects.length}:${to}`;
    this.#effects.push({ kind: 'mail', key, to, subject, body });
  }

  mailAsker(subject: string, body: string): void {
    this.mail(this.#asker, subject, body);
  }

  /** Holds the leave that the request asks for, so that nothing else can take it meanwhile. */
  hold(): void {
    for (const step of this.definition.steps) {
      if (step.verb !== 'Record') continue;
      const { span, type, planner } = step.effect;
      const asked = this.#state.answers[span];
      const kind = this.#state.answers[type];
      if (typeof asked === 'object' && asked !== null && typeof kind === 'string') {
        this.happen({ kind: 'held', type: kind, span: asked, planner });
        return;
      }
    }
  }

  release(reason: string): void {
    if (this.#state.leave) this.happen({ kind: 'released', reason });
  }

  /** Ends the open tasks; people who held one and did not act are told. */
  endTasks(reason: string): void {
    for (const task of this.#state.tasks) {
      this.happen({ kind: 'ended', task: task.id, reason });
      if (task.holder !== this.context.actor) {
        this.mail(task.holder, `No longer needed: ${this.title()}`, `${reason}. Nothing is left for you to do.`);
      }
    }
  }

  stuck(step: string, reason: string): void {
    this.happen({ kind: 'stuck', step, reason });
    this.mailAsker(
      `Waiting: ${this.title()}`,
      `Your request cannot go on by itself: ${reason} HR operations can see it and will help it on.`,
    );
  }

  /** Goes where an outcome or a row leads, and on through every step that needs nobody. */
  goOn(go: Go, from: string): void {
    let onward: Onward = go;
    let at = from;
    for (let taken = 0; onward; taken++) {
      if (taken > mostSteps) return this.stuck(at, 'The steps go round in a circle in which nobody is asked.');
      if (onward.to === 'close') return this.#close(onward.closing);
      const position = stepNumber(this.definition, onward.to === 'step' ? onward.step : at) - 1;
      const step: Step | undefined = this.definition.steps[onward.to === 'step' ? position : position + 1];
      if (!step) return this.stuck(at, 'There is no further step and no closing.');
      onward = this.#take(step);
      at = step.id;
    }
  }

  #take(step: Step): Onward {
    this.happen({ kind: 'entered', step: step.id });
    if ('when' in step && step.when) {
      const verdict = judge(this.definition, step.when, this.#scope());
      if (!verdict.known) {
        this.stuck(step.id, `${verdict.because}.`);
        return null;
      }
      if (!verdict.holds) {
        this.happen({ kind: 'skipped', step: step.id, reason: `${step.when} does not hold: ${verdict.because}` });
        return { to: 'next' };
      }
    }
    switch (step.verb) {
      case 'Ask':
        return { to: 'next' };
      case 'Choose':
        return this.#choose(step);
      case 'Decide':
        return this.#give(step);
      case 'Record':
        return this.#record(step);
      case 'Tell':
        return this.#tell(step);
      case 'Close':
        return { to: 'close', closing: step.closing };
    }
  }

  #scope() {
    const { answers, request } = this.#state;
    return evaluateFigures(this.definition, answers, this.context.book, this.#asker, request).scope;
  }

  #choose(step: StepOf<'Choose'>): Onward {
    const scope = this.#scope();
    for (const row of step.rows) {
      const verdict = judge(this.definition, row.condition, scope);
      if (!verdict.known) {
        this.stuck(step.id, `${verdict.because}.`);
        return null;
      }
      if (verdict.holds) {
        this.happen({ kind: 'chose', step: step.id, row: row.id, reason: `${row.condition}: ${verdict.because}` });
        return row.go;
      }
    }
    if (!step.otherwise) {
      this.stuck(step.id, 'No row of the table holds and there is no “otherwise”.');
      return null;
    }
    this.happen({ kind: 'chose', step: step.id, row: null, reason: 'no row holds' });
    return step.otherwise;
  }

  #give(step: StepOf<'Decide'>): Onward {
    const found = resolve(step.who, {
      index: this.context.index,
      day: todayOf(this.context, this.#asker),
      asker: this.#asker,
      away: this.context.away,
      mayBeAsker: false,
      whenAway: step.whenAway,
    });
    if (!found.ok) {
      this.stuck(step.id, found.gap);
      return null;
    }
    for (const holder of found.holders) this.#giveTo(step, holder, found.reasons);
    return null;
  }

  #giveTo(step: StepOf<'Decide'>, holder: Holder, reasons: readonly string[]): void {
    const task = `${this.#state.request}.${this.#state.given + 1}`;
    const due = step.limit ? dueFor(this.context, holder.person, step.limit.within) : null;
    this.happen({
      kind: 'given',
      step: step.id,
      task,
      holder: holder.person,
      coverFor: holder.coverFor,
      reasons,
      due: due && 'at' in due ? due.at : null,
      dueReason: due && ('at' in due ? due.reason : `no due time: ${due.never}`),
    });
    if (step.limit) this.#setTimers(step.limit, task, holder.person);
    this.#mailHolder(task, holder.person);
  }

  #setTimers(limit: Limit, task: string, holder: PersonId): void {
    const due = dueFor(this.context, holder, limit.within);
    if ('at' in due) this.#effects.push({ kind: 'timer', key: `${task}:limit`, task, what: 'limit', at: due.at });
    if (limit.remind) this.#setReminder(limit.remind.after, task, holder, 1);
  }

  #setReminder(after: Limit['within'], task: string, holder: PersonId, count: number): void {
    const due = dueFor(this.context, holder, after);
    if ('at' in due)
      this.#effects.push({ kind: 'timer', key: `${task}:remind:${count}`, task, what: 'remind', at: due.at });
  }

  #mailHolder(taskId: string, holder: PersonId): void {
    const task = this.#state.tasks.find(t => t.id === taskId);
    const asker = nameOf(this.context.index, this.#asker);
    const due = task?.due ? ` It is due ${dueWords(this.context, holder, task.due)}.` : '';
    const cover = task?.coverFor ? ` You stand in for ${nameOf(this.context.index, task.coverFor)}.` : '';
    this.mail(holder, `For you to decide: ${asker}, ${this.title()}`, `${asker} asks: ${this.title()}.${due}${cover}`);
  }

  #limitOf(task: Task): Limit | null {
    const step = this.definition.steps.find(s => s.id === task.step);
    return step?.verb === 'Decide' ? step.limit : null;
  }

  remind(task: Task): void {
    const remind = this.#limitOf(task)?.remind;
    if (!remind || task.reminders >= remind.atMost) return;
    this.happen({ kind: 'reminded', task: task.id });
    const due = task.due ? ` It is due ${dueWords(this.context, task.holder, task.due)}.` : '';
    const asker = nameOf(this.context.index, this.#asker);
    this.mail(task.holder, `Reminder: ${asker}, ${this.title()}`, `This still waits for your answer.${due}`);
    if (task.reminders + 1 < remind.atMost) this.#setReminder(remind.after, task.id, task.holder, task.reminders + 2);
  }

  /** The limit has passed: it stays late where it is, or goes to the manager above with a new limit. */
  passLimit(task: Task): void {
    const step = this.definition.steps.find(s => s.id === task.step);
    if (step?.verb !== 'Decide' || !step.limit) return;
    const day = todayOf(this.context, task.holder);
    const post = step.limit.atLimit === 'pass up' ? mainPost(this.context.index, task.holder, day) : undefined;
    const next = post && above(this.context.index, post, day, new Set([this.#asker, task.holder]));
    if (!next || 'gap' in next) {
      const why = step.limit.atLimit === 'wait' ? 'it goes on waiting' : 'nobody is above, so it goes on waiting';
      this.happen({ kind: 'passed limit', task: task.id, next: why });
      this.mail(task.holder, `Past the limit: ${this.title()}`, 'This is late and still waits for your answer.');
      return;
    }
    this.happen({ kind: 'passed limit', task: task.id, next: `passed to ${next.person.name}` });
    this.endTasks('The limit passed and it went to the manager above');
    this.#giveTo(step, { person: next.person.id, coverFor: null }, next.reasons);
  }

  #record(step: StepOf<'Record'>): Onward {
    const span = this.#state.answers[step.effect.span];
    const type = this.#state.answers[step.effect.type];
    if (typeof span !== 'object' || span === null || typeof type !== 'string') {
      this.stuck(step.id, 'The dates or the kind of leave are not known, so nothing can be booked.');
      return null;
    }
    const [obstacle] = obstacles(this.context.book, this.#asker, type, span, this.#state.request);
    if (obstacle) {
      this.stuck(step.id, obstacle.message);
      return null;
    }
    this.happen({ kind: 'booked', type, span, planner: step.effect.planner });
    return { to: 'next' };
  }

  #tell(step: StepOf<'Tell'>): Onward {
    const message = this.definition.messages.find(m => m.id === step.message);
    if (!message) {
      this.stuck(step.id, 'The message to be sent is not there.');
      return null;
    }
    const people = new Set<PersonId>();
    for (const rule of step.to) {
      const found = resolve(rule, {
        index: this.context.index,
        day: todayOf(this.context, this.#asker),
        asker: this.#asker,
        away: [],
        mayBeAsker: true,
        whenAway: 'waits',
      });
      // A reader who cannot be found does not hold the request up; the trail shows who was told.
      if (found.ok) for (const holder of found.holders) people.add(holder.person);
    }
    this.#send(message.id, [...people]);
    return { to: 'next' };
  }

  #send(messageId: string, people: readonly PersonId[]): void {
    const message = this.definition.messages.find(m => m.id === messageId);
    if (!message || people.length === 0) return;
    this.happen({ kind: 'told', people, message: messageId });
    const { subject, body } = fillMessage(message, insertions(this.definition, this.#state, this.context));
    for (const person of people) this.mail(person, subject, body);
  }

  #close(closingId: string): void {
    const closing = closingById(this.definition, closingId);
    if (!closing) throw new Error(`closing ${closingId} is not in the definition`);
    // Leave that was only held is given back; booked leave stays booked.
    if (this.#state.leave?.state === 'held') this.release(`closed as ${closing.name}`);
    this.happen({ kind: 'closed', closing: closing.id });
    if (closing.message) this.#send(closing.message, [this.#asker]);
  }
}
