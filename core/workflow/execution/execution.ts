/**
 * The execution of a request through its steps while one command is carried out: events and effects pile up here,
 * and the steps that need nobody are taken one after another until somebody is needed or the request ends.
 */
import {
  type Answer,
  type Answers,
  asAnswer,
  filesOf,
  isLeaveSpan,
  listById,
  postColumn,
  rowById,
} from '../../form/index.ts';
import type { Scope } from '../../formula/index.ts';
import { asksMore } from '../../leave/index.ts';
import type { PersonId, RequestFacts } from '../../people/index.ts';
import { type CivilDate, type Instant, toMilliseconds } from '../../time/index.ts';
import {
  closingById,
  type Definition,
  type Go,
  messageById,
  type SplitStep,
  type Step,
} from '../definition/definition.ts';
import { following, insideSplit, mayGoTo, splitsAround, stepById, structure } from '../definition/structure.ts';
import { evaluateFigures, judge, workOut } from '../figures/evaluate.ts';
import { invitationOf, takenBack } from '../mail/invitations.ts';
import {
  type FilledMessage,
  fillMessage,
  insertions,
  otherwiseInMail,
  titleOf,
  withLines,
  withReason,
} from '../mail/letters.ts';
import { askerName, type Context, endOfDay, factsOf, mayRead, nameOf } from '../request/context.ts';
import { dateIn } from '../request/date.ts';
import type { Effect, EventBody, HeldLetter, RequestEvent, TimerKind } from '../request/events.ts';
import { reduce } from '../request/fold.ts';
import type { Attached, Invitation } from '../request/outgoing.ts';
import { placeOfWork } from '../request/place.ts';
import type { Reason } from '../request/reason.ts';
import { isOpen, type RequestState } from '../request/state.ts';
import { isGuarded } from '../request/visibility.ts';
import { heldUntil } from './daysPassed.ts';
import { waitedFor } from './delivery.ts';
import { linkOutside } from './ownPage.ts';
import { askWords, reasonWords, stuckWords, type Telling } from './reasonWords.ts';

/** Steps taken in one go before it is taken for a loop with nobody in it. */
const mostSteps = 1000;

/** Where it goes on: from a step along a way, or into the first step of a lane. */
type Ahead = { go: Go; from: string } | { into: Step; leaves: readonly string[]; split: string | null };

/** What happens when a request comes to a step; each verb says it in its own module. */
export type TakeStep = (execution: Execution, step: Step) => void;

export class Execution {
  readonly definition: Definition;
  readonly context: Context;
  readonly #events: RequestEvent[] = [];
  readonly #effects: Effect[] = [];
  readonly #ahead: Ahead[] = [];
  /** The note of the command that is carried out. */
  note: string | null = null;
  #state: RequestState;
  #taken = 0;
  #worked: { answers: Answers; scope: Scope } | null = null;

  readonly #takeStep: TakeStep;

  constructor(definition: Definition, state: RequestState, context: Context, takeStep: TakeStep) {
    this.#takeStep = takeStep;
    this.definition = definition;
    this.context = context;
    this.#state = state;
  }

  get state(): RequestState {
    return this.#state;
  }

  outcome(): { events: RequestEvent[]; effects: Effect[]; state: RequestState } {
    return { events: this.#events, effects: this.#effects, state: this.#state };
  }

  emit(body: EventBody): void {
    // What is emitted is written for this and nowhere kept, so it becomes the event itself.
    const event = Object.assign(body, { at: this.context.now, by: this.context.actor }) as RequestEvent;
    this.#events.push(event);
    this.#state = reduce(this.#state, event);
  }

  effect(effect: Effect): void {
    this.#effects.push(effect);
  }

  /** @param task a task, or the step that holds; an older timer of the same kind does nothing when it goes off */
  /** What was due before it could be known of is due now: nothing is brought about before what brings it about. */
  timer(task: string, what: TimerKind, due: Instant): void {
    const { request, version } = this.#state;
    const { now } = this.context;
    const at = toMilliseconds(due) < toMilliseconds(now) ? now : due;
    const key = `${request}:${task}:${what}:${version}`;
    // One event may set two of a kind: the next reminder, and the end of what is reminded of.
    const again = this.#effects.filter(one => one.kind === 'timer' && one.key.startsWith(key)).length;
    this.effect({ kind: 'timer', key: again === 0 ? key : `${key}:${again}`, task, what, at });
  }

  /** A key says which effect of which event this is, so that carrying it out twice can be told. */
  key(what: string): string {
    return `${this.#state.request}:${this.#state.version}:${this.#effects.length}:${what}`;
  }

  title(): string {
    return titleOf(this.definition, this.#state, this.context);
  }

  get asker(): PersonId {
    if (!this.#state.asker) throw new Error(`request ${this.#state.request} runs without an asker`);
    return this.#state.asker;
  }

  /** Who asked, as letters call them. */
  askerName(): string {
    return askerName(this.context.index, this.#state);
  }

  /** ` for Ina Okell` where it is about somebody else than the asker, else nothing. */
  forWhom(): string {
    return this.#state.outside || this.subject === this.asker ? '' : ` for ${this.who(this.subject)}`;
  }

  get subject(): PersonId {
    return this.#state.subject ?? this.asker;
  }

  facts() {
    return factsOf(this.context, this.asker, this.subject, this.#state.request);
  }

  /** What formulas look at; worked out once for as long as the answers stay the same. */
  scope(): Scope {
    const { answers } = this.#state;
    if (this.#worked?.answers !== answers) {
      this.#worked = { answers, scope: evaluateFigures(this.definition, answers, this.facts()).scope };
    }
    return this.#worked.scope;
  }

  /** Takes over what was worked out while the answers were read. */
  remember(answers: Answers, scope: Scope): void {
    this.#worked = { answers, scope };
  }

  /** What people rules may ask about this request. */
  ruleFacts(): RequestFacts {
    const { answers, settled } = this.#state;
    const text = (field: string) => (typeof answers[field] === 'string' ? (answers[field] as string) : null);
    // A row of another list, as that of the open posts, may say which post it is about.
    const post = (id: string) => {
      const field = this.definition.form.fields.find(one => one.id === id);
      if (field?.kind !== 'pick' || field.list === 'posts') return text(id);
      const cell = rowById(listById(this.facts().lists ?? [], field.list), answers[id])?.cells[postColumn];
      return typeof cell === 'string' ? cell : null;
    };
    return {
      person: field => text(field) as PersonId | null,
      post,
      number: formula => {
        const worked = workOut(this.definition, formula, 'number', this.scope(), this.facts().lists);
        return worked.known && typeof worked.value === 'number' ? worked.value : null;
      },
      decided: step => settled.find(s => s.step === step)?.people ?? [],
    };
  }

  mail(
    to: PersonId,
    subject: string,
    body: string,
    more: Partial<FilledMessage> & { attach?: Attached; task?: string; forRole?: true } = {},
  ): void {
    this.effect({ kind: 'mail', key: this.key(to), to, subject, body, ...more });
  }

  /** Who looks after it. */
  get owner(): PersonId {
    return this.#state.owner ?? this.asker;
  }

  /** Whoever looks after it, and whoever asked as long as they are here: nothing goes to a dead address. */
  askers(): PersonId[] {
    const { asker, owner, context } = this;
    return owner !== asker && mayRead(context, asker) ? [owner, asker] : [owner];
  }

  mailAsker(subject: string, body: string): void {
    for (const person of this.askers()) this.mail(person, subject, body);
  }

  /** The same to those of them who have not done it themselves. */
  mailOtherAskers(subject: string, body: string): void {
    for (const person of this.askers()) if (person !== this.context.actor) this.mail(person, subject, body);
  }

  /** Holds the leave that the request asks for, so that nothing else can take it meanwhile. */
  hold(): void {
    const { approved, leave } = this.#state;
    const wanted = this.#leaveAsked();
    if (!wanted) return;
    // What is booked stays booked while a change of it is decided; what is asked for beyond it is held besides.
    if (approved && (!leave || approved.what !== 'change')) return;
    if (approved && leave && !leave.instead && !asksMore(wanted, leave)) return;
    this.emit({ kind: 'held', ...wanted });
    this.watchDays();
  }

  /** Looks at the end of its days whether what is held has been decided. */
  watchDays(): void {
    const held = heldUntil(this.#state, this.context);
    if (held) this.timer('leave', 'leave', endOfDay(this.context, this.subject, held.until, undefined));
  }

  /** Books what the answers say now in place of what was booked or held before. */
  rebook(reason?: string): void {
    const { leave } = this.#state;
    const wanted = this.#leaveAsked();
    if (leave && wanted) this.emit({ kind: leave.state, ...wanted, ...(reason ? { reason } : {}) });
    if (leave?.state === 'held') this.watchDays();
  }

  #leaveAsked(): Omit<Extract<EventBody, { kind: 'held' | 'booked' }>, 'kind'> | null {
    for (const { step } of structure(this.definition).all) {
      if (step.verb !== 'Record' || step.effect.kind !== 'book leave') continue;
      const { span, type, planner } = step.effect;
      const asked = this.#state.answers[span];
      const kind = this.#state.answers[type];
      if (isLeaveSpan(asked) && typeof kind === 'string') {
        return { type: kind, span: asked, planner };
      }
    }
    return null;
  }

  /** What was asked for after approval is not given; everything is as it was approved. */
  keepAsApproved(reason: Reason): void {
    const { approved, leave } = this.#state;
    if (!approved) return;
    this.endTasks({ code: 'stays as approved' });
    const { instead: _, ...now } = leave ?? {};
    // Booked again only when a step on the way has booked something else; states are read from their rows, so by value.
    if (approved.leave && JSON.stringify(approved.leave) !== JSON.stringify(now)) {
      const { state, ...booked } = approved.leave;
      this.emit({ kind: state, ...booked });
    }
    this.emit({ kind: 'kept as approved', reason });
    this.mailAsker(`As it was: ${this.title()}`, `It stays as it was approved: ${this.words(reason)}.`);
  }

  /** Takes back what was approved; those who approved it are told. */
  cancel(note: string | null): void {
    const told = new Set(this.#state.settled.flatMap(s => s.people));
    this.endTasks({ code: 'cancelled' });
    this.release({ code: 'cancelled' });
    this.undoProvided();
    this.emit({ kind: 'cancelled', note });
    for (const person of new Set([...told, ...this.askers()])) {
      if (person === this.context.actor) continue;
      this.mail(
        person,
        `Cancelled: ${this.title()}`,
        `${this.askerName()} does not need it any more.${note ? `\n\n“${note}”` : ''}`,
      );
    }
  }

  /** Takes every step again at which the request is stuck. */
  tryAgain(): void {
    const { stuckAt } = this.#state;
    this.emit({ kind: 'tried again' });
    for (const { step } of stuckAt) {
      const found = stepById(this.definition, step);
      // A lane that another try has called off is not taken up again.
      if (found && this.#state.at.includes(step)) this.retry(found);
    }
  }

  release(reason: Reason): void {
    if (this.#state.leave) this.emit({ kind: 'released', reason });
  }

  /** What somebody is told who had something to do and has not any more: what it was, and why it is not. */
  noLongerNeeded(reason: Reason): string {
    return `${this.askerName()} asked${this.forWhom()}: ${this.title()}. You do not have to answer any more. ${this.words(reason)}.`;
  }

  /** Ends open tasks, all of them or those of some steps; people who held one and did not act are told. */
  endTasks(reason: Reason, steps?: readonly string[]): void {
    for (const task of this.#state.tasks) {
      if (steps && !steps.includes(task.step)) continue;
      this.emit({ kind: 'ended', task: task.id, reason });
      if (task.holder !== this.context.actor) {
        this.mail(task.holder, `No longer needed: ${this.title()}`, this.noLongerNeeded(reason));
      }
    }
  }

  stuck(step: string, reason: Reason): void {
    this.emit({ kind: 'stuck', step, reason });
    this.mailAsker(
      `Waiting: ${this.title()}`,
      `Your request cannot go on by itself: ${stuckWords(reason, this.#telling())} HR operations can see it and will help it on.`,
    );
  }

  /** Goes where an outcome or a row leads, and on through every step that needs nobody. */
  goOn(go: Go, from: string): void {
    this.#follow({ go, from });
  }

  /** Takes a step again at which the request is stuck. */
  retry(step: Step): void {
    this.#follow({ into: step, leaves: [step.id], split: null });
  }

  #follow(first: Ahead): void {
    this.#ahead.push(first);
    // Only the outermost call works the queue; steps that go on from inside add to it.
    if (this.#ahead.length > 1) return;
    for (let ahead = this.#ahead[0]; ahead; ahead = this.#ahead[0]) {
      if (isOpen(this.#state)) this.#move(ahead);
      this.#ahead.shift();
    }
  }

  #move(ahead: Ahead): void {
    if ('into' in ahead) {
      // A lane that was called off before it began is not begun any more.
      if (!ahead.split || this.#state.at.includes(ahead.split)) this.#enter(ahead.into, ahead.leaves);
      return;
    }
    const { go, from } = ahead;
    if (this.#taken > mostSteps) return this.stuck(from, { code: 'round in a circle' });
    if (go.to === 'close') return this.close(go.closing);
    const placed = structure(this.definition).of(from);
    const target = go.to === 'step' ? stepById(this.definition, go.step) : placed && following(placed);
    if (target && (go.to === 'next' || mayGoTo(this.definition, from, target.id))) {
      return this.#enter(target, this.#leaving(from, target.id));
    }
    if (go.to === 'next' && placed?.around) return this.#laneDone(placed.around.split, placed.around.lane.id, from);
    this.stuck(from, { code: 'no further step' });
  }

  /** The steps that are left by going from one to another: also every lane of the splits that are left. */
  #leaving(from: string, to: string): string[] {
    const around = new Set(splitsAround(this.definition, to).map(s => s.id));
    const left = splitsAround(this.definition, from).filter(split => split.id !== to && !around.has(split.id));
    const inside = left.flatMap(split => [split.id, ...insideSplit(split).map(s => s.id)]);
    const leaves = [from, ...inside.filter(id => id !== from && this.#state.at.includes(id))];
    if (inside.length > 0) this.endTasks({ code: 'went on without lanes' }, inside);
    return leaves;
  }

  /** Goes into every lane of a split; an empty lane is done at once. */
  begin(split: SplitStep): void {
    for (const lane of split.lanes) {
      const [first] = lane.steps;
      if (first) this.#ahead.push({ into: first, leaves: [], split: split.id });
    }
    for (const lane of split.lanes) {
      if (lane.steps.length === 0 && this.#state.at.includes(split.id)) this.#laneDone(split, lane.id, null);
    }
  }

  #laneDone(split: SplitStep, lane: string, from: string | null): void {
    this.emit({ kind: 'lane done', step: split.id, lane, from: from ? [from] : [] });
    const done = this.#state.lanes[split.id]?.length ?? 0;
    const needed = split.needs === 'all' ? split.lanes.length : split.needs === 'any' ? 1 : split.needs;
    if (done < Math.min(needed, split.lanes.length)) return;
    const inside = insideSplit(split).map(s => s.id);
    const left = inside.filter(id => this.#state.at.includes(id));
    this.endTasks({ code: 'enough lanes done' }, inside);
    const reason: Reason =
      left.length > 0 ? { code: 'lanes done', done, of: split.lanes.length } : { code: 'all lanes done' };
    this.emit({ kind: 'joined', step: split.id, from: left, reason });
    this.goOn({ to: 'next' }, split.id);
  }

  #enter(step: Step, from: readonly string[]): void {
    this.#taken++;
    this.emit({ kind: 'entered', step: step.id, from });
    this.#take(step);
  }

  #take(step: Step): void {
    if ('when' in step && step.when) {
      const verdict = judge(this.definition, step.when, this.scope(), this.facts().lists);
      if (!verdict.known) return this.stuck(step.id, verdict.because);
      if (!verdict.holds) {
        const { inputs } = verdict;
        this.emit({
          kind: 'skipped',
          step: step.id,
          reason: { code: 'condition does not hold', formula: step.when, inputs },
        });
        return this.goOn({ to: 'next' }, step.id);
      }
    }
    this.#takeStep(this, step);
  }

  /** Sets a field to what a formula gives; false when it has no value and the request is stuck. */
  set(step: string, field: string, formula: string): boolean {
    const worked = workOut(this.definition, formula, 'anything', this.scope(), this.facts().lists);
    if (!worked.known) {
      this.stuck(step, worked.because);
      return false;
    }
    const set = this.definition.form.fields.find(one => one.id === field);
    this.put(step, field, set ? asAnswer(set, worked.value) : (worked.value as Answer));
    return true;
  }

  /** Puts an answer into a field. */
  put(step: string, field: string, after: Answer): void {
    const before = this.#state.answers[field] ?? null;
    const answers = { ...this.#state.answers, [field]: after };
    const { figures } = evaluateFigures(this.definition, answers, this.facts());
    const changes = before === after ? [] : [{ field, before, after }];
    this.emit({ kind: 'set', step, filled: { answers, figures, changes } });
  }

  /** Where the person that it is about works on a date; nothing where that is not known. */
  placeOn(date: CivilDate): string | undefined {
    const { answers } = this.#state;
    return placeOfWork(this.definition, { answers, asker: this.asker, subject: this.subject }, this.context, date);
  }

  /** When a day is over for whom the request is about. */
  endOf(date: CivilDate): Instant {
    return endOfDay(this.context, this.subject, date, this.placeOn(date));
  }

  /** A date of the form: of a span or range its first day. */
  dateOf(field: string): CivilDate | null {
    return dateIn(this.#state.answers, field);
  }

  /**
   * Sends a message, with what goes out with it.
   * @param step the step that sends it, whose attachments they are; nothing for the end of the request
   */
  send(
    messageId: string,
    people: readonly PersonId[],
    addresses: readonly string[] = [],
    step: string | null = null,
    reason: string | null = null,
    tellsOtherwise = false,
  ): void {
    const message = messageById(this.definition, messageId);
    if (!message || people.length + addresses.length === 0) return;
    const attach = step === null ? undefined : this.#attachedAt(step);
    // Who was invited before and is not any more is told so.
    if (attach?.invitation && step !== null) this.uninvite(step, people, addresses);
    this.emit({
      kind: 'told',
      people,
      message: messageId,
      ...(addresses.length > 0 ? { addresses } : {}),
      ...(attach && step !== null ? { step, attached: attach } : {}),
    });
    const letter = fillMessage(message, insertions(this.definition, this.#state, this.context));
    const said = withReason(letter, message, reason);
    const whole = tellsOtherwise ? withLines(said, otherwiseInMail(this.definition, this.#state, this.context)) : said;
    const { subject, body, ...more } = { ...whole, ...(attach ? { attach } : {}) };
    for (const person of people) this.mail(person, subject, body, more);
    for (const address of addresses) {
      const key = this.key(address);
      this.effect({ kind: 'mail out', key, address, subject, body, ...more, ...linkOutside(this, address) });
    }
  }

  /** The files and the invitation that go out with what a step sends; nothing where there is neither. */
  #attachedAt(id: string): Attached | undefined {
    const step = stepById(this.definition, id);
    const wanted = step?.verb === 'Tell' || step?.verb === 'Decide' ? (step.attach ?? []) : [];
    const files = wanted.flatMap(one => {
      const field = one.what === 'files' ? this.definition.form.fields.find(f => f.id === one.field) : undefined;
      // What named readers read alone goes into no mail.
      return field && !isGuarded(field) ? filesOf(this.#state.answers[field.id]) : [];
    });
    const invited = wanted.find(one => one.what === 'invitation');
    const invitation = invited ? invitationOf(this.definition, this.#state, this.context, id, invited) : null;
    if (files.length === 0 && !invitation) return undefined;
    return { ...(files.length > 0 ? { files } : {}), ...(invitation ? { invitation } : {}) };
  }

  /** The files that a holder decides by. */
  filesAt(step: string): Attached | undefined {
    const attached = this.#attachedAt(step);
    return attached?.files ? { files: attached.files } : undefined;
  }

  /** Sends anew what calendars were asked to keep, where the answers say other days, times or words now. */
  reinvite(): void {
    for (const [id, standing] of Object.entries(this.#state.invitations ?? {})) {
      const step = stepById(this.definition, id);
      const of = step?.verb === 'Tell' ? step.attach?.find(one => one.what === 'invitation') : undefined;
      if (!standing.live || step?.verb !== 'Tell' || !of) continue;
      const { people, addresses, invitation: before } = standing;
      const invitation = invitationOf(this.definition, this.#state, this.context, id, of);
      if (!invitation) {
        this.uninvite(id);
        continue;
      }
      const same = (one: Invitation) => JSON.stringify([one.title, one.start, one.end]);
      if (same(invitation) === same(before)) continue;
      const attach = { invitation };
      const outside = addresses.length > 0 ? { addresses } : {};
      this.emit({ kind: 'told', people, message: step.message, ...outside, step: id, attached: attach });
      const subject = `Changed: ${invitation.title}`;
      const body = `${invitation.title} has changed. Your calendar takes over the new dates.`;
      for (const person of people) this.mail(person, subject, body, { attach });
      for (const address of addresses)
        this.effect({ kind: 'mail out', key: this.key(address), address, subject, body, attach });
    }
  }

  /** Takes back what calendars were asked to keep, for all who are not among those who stay. */
  uninvite(step: string, stay: readonly PersonId[] = [], stayOutside: readonly string[] = []): void {
    const standing = this.#state.invitations?.[step];
    if (!standing?.live) return;
    const people = standing.people.filter(person => !stay.includes(person));
    const addresses = standing.addresses.filter(address => !stayOutside.includes(address));
    if (people.length + addresses.length === 0) return;
    const invitation = takenBack(standing.invitation);
    this.emit({ kind: 'uninvited', step, invitation, people, addresses });
    const subject = `Not to be: ${invitation.title}`;
    const body = `${invitation.title} is not to be any more. Your calendar takes it out.`;
    for (const person of people) this.mail(person, subject, body, { attach: { invitation } });
    for (const address of addresses)
      this.effect({ kind: 'mail out', key: this.key(address), address, subject, body, attach: { invitation } });
  }

  /**
   * Whether a message waits for something that was asked for and is not delivered: then it does not go out, and the
   * trail says so; it goes out when that is done. How it ended is told to the asker all the same, in the house's own words.
   */
  heldBack(message: string, letter: HeldLetter): boolean {
    const { step } = letter;
    const because = waitedFor(this.definition, this.#state, step);
    if (because.length === 0) return false;
    this.emit({ kind: 'held back', message, because, letter });
    if (step === null) {
      const closing = closingById(this.definition, this.#state.closing ?? '');
      const list = because.map(what => `- ${askWords(what, this.#telling())}`).join('\n');
      this.mailAsker(
        `${closing?.name ?? 'Ended'}, not all of it done yet: ${this.title()}`,
        `This was decided. What was asked for is not delivered yet:\n\n${list}\n\nUntil it is, it is not done. HR operations sees it on the request.`,
      );
    }
    return true;
  }

  /** Sends what was held back and waits for nothing any more. */
  letOut(): void {
    for (const { message, step, people, addresses } of this.#state.heldBack ?? []) {
      if (waitedFor(this.definition, this.#state, step).length > 0) continue;
      this.emit({ kind: 'let out', message });
      this.send(message, people, addresses, step);
    }
  }

  /** Everything outside that this request brought about or asked for is taken back. */
  undoProvided(): void {
    for (const step of Object.keys(this.#state.invitations ?? {})) this.uninvite(step);
    // A letter that was made stays with the request.
    for (const { key: of, step } of this.#state.provided ?? [])
      if (stepById(this.definition, step)?.verb !== 'Record') this.effect({ kind: 'undo', key: `${of}:undo`, of });
    for (const of of this.#state.onFile ?? []) this.effect({ kind: 'never came', key: `${of}:never`, of });
    for (const { key: of } of this.#state.undelivered ?? [])
      if (of !== undefined) this.effect({ kind: 'call off', key: `${of}:called off`, of });
  }

  close(closingId: string): void {
    const closing = closingById(this.definition, closingId);
    if (!closing) return this.stuck(this.#state.at[0] ?? this.definition.steps[0].id, { code: 'closing not there' });
    if (this.#state.approved && closing.tone !== 'good')
      return this.keepAsApproved({ code: 'ended as', closing: closing.id });
    this.endTasks({ code: 'came to its end' });
    // Leave that was only held is given back; booked leave stays booked.
    if (this.#state.leave?.state === 'held') this.release({ code: 'closed as', closing: closing.id });
    this.emit({ kind: 'closed', closing: closing.id });
    // Whoever is declined reads why, also where the message does not think of it.
    const reason = closing.tone === 'bad' ? this.#state.reason : null;
    const { outside } = this.#state;
    const to = outside ? { people: [], addresses: [outside.mail] } : { people: this.askers(), addresses: [] };
    if (closing.message && !(closing.tone === 'good' && this.heldBack(closing.message, { step: null, ...to })))
      this.send(closing.message, to.people, to.addresses, null, reason, closing.tone === 'good');
  }

  #telling(): Telling {
    return { definition: this.definition, ...this.context };
  }

  /** A reason as mails say it. */
  words(reason: Reason): string {
    return reasonWords(reason, this.#telling());
  }

  who(id: PersonId | null): string {
    return nameOf(this.context.index, id);
  }
}
