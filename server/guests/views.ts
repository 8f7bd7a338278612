/** The page of a guest, and where guests are, for those who look after them. */

import type { GuestSaved, GuestStandingView, GuestView } from '@north-pebble/contract';
import { may } from '@north-pebble/contract';
import type { Answers, Field } from '@north-pebble/core/form';
import { todayFor, zoneFor } from '@north-pebble/core/people';

import { fullDate, toMilliseconds } from '@north-pebble/core/time';
import {
  answersSeen,
  type Context,
  countedFrom,
  type Definition,
  dateIn,
  factsOf,
  type GuestSection,
  type GuestStanding,
  type GuestStep,
  guestForm,
  guestHere,
  guestNow,
  guestSteps,
  isOutsideGuest,
  listsOf,
  looksAfterGuest,
  nameOf,
  nextReminderLetter,
  outsideGuest,
  ownerOf,
  type RequestState,
  type Sights,
  stepNumber,
} from '@north-pebble/core/workflow';
import { and, eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { contextOf, type House, loadDefinition, nameOfHouse, subjectOf } from '../house/index.ts';
import { type Caller, notFound } from '../http/index.ts';
import { isConcerned, loadEvents, loadRequest, type StoredRequest, sightsFor } from '../requests/index.ts';
import { devicesAt, devicesOf, type Found } from './links.ts';
import { signedPapers } from './papers.ts';

type Typed = Readonly<Record<string, { value: Record<string, unknown>; base: number; at: number }>>;

const facts = (context: Context, state: RequestState) => factsOf(context, state.asker!, state.subject, state.request);

/** What a field asks, without how that is worked out and who else reads it. */
export const askedOf = ({
  readers: _,
  shownWhen: __,
  neededWhen: ___,
  checks: ____,
  start: _____,
  ...field
}: Field): Field => field as Field;

const fieldViews = (section: GuestSection, contact: string) =>
  section.fields.map(({ field, needed }) => ({
    field: askedOf(field),
    needed,
    readBy: field.readers ? field.readers.join(' and ') : contact,
  }));

/** Who is asked about it: whoever has the step. */
const contactOf = (context: Context, state: RequestState, step: GuestStep): string => {
  const task = state.tasks.find(one => one.step === step.id);
  // What goes on by itself is nobody's task; whoever keeps it is asked.
  return task
    ? nameOf(context.index, task.holder)
    : state.outside || step.guest.goesOn
      ? nameOf(context.index, ownerOf(state))
      : '';
};

const zoneOfSubject = ({ index, now }: Context, { subject, asker }: RequestState): string =>
  zoneFor(index, subject ?? asker, now);

function wordsOf(context: Context, standing: GuestStanding, name: string, isGuest: boolean) {
  return standing.words.map(({ by, at, text }) => ({
    who: by === null ? name : nameOf(context.index, by),
    mine: isGuest === (by === null),
    at,
    text,
  }));
}

const nameOfGuest = ({ guest }: GuestStep, state: RequestState, context: Context): string => {
  const given = state.answers[guest.name];
  return context.index.person(given as never)?.name ?? String(given ?? '');
};

/** What whoever asked from outside has besides: its number, what they are asked, and that they may want it no more. */
const ownOf = (state: RequestState, context: Context): NonNullable<GuestView['own']> => ({
  number: state.request,
  asks: state.tasks.flatMap(({ id, question }) =>
    question ? [{ task: id, who: nameOf(context.index, question.by), text: question.text, at: question.at }] : [],
  ),
});

function viewOf(
  house: string,
  definition: Definition,
  state: RequestState,
  context: Context,
  { step, standing }: { step: GuestStep; standing: GuestStanding },
  typed: Typed,
  answers: Answers,
): GuestView {
  const form = guestForm(definition, step, state.answers, standing, facts(context, state));
  const name = nameOfGuest(step, state, context);
  const contact = contactOf(context, state, step);
  const from = countedFrom(definition);
  const date = from && dateIn(state.answers, from.field.id);
  const lists = new Set(
    form.flatMap(one => one.fields.flatMap(({ field }) => (field.kind === 'pick' ? [field.list] : []))),
  );
  return {
    state: form.every(one => one.state === 'in') ? 'all in' : 'open',
    name,
    house,
    about: definition.name,
    until: standing.link.until,
    now: context.now,
    date: from && date ? `${from.field.label}: ${fullDate(date)}` : null,
    contact,
    due: state.tasks.find(task => task.step === step.id)?.due ?? null,
    zone: zoneOfSubject(context, state),
    sections: form.map(one => {
      const { id, title, help } = one.section;
      const own = one.fields.map(({ field }) => field.id);
      const at = typed[id];
      return {
        id,
        title,
        help: help ?? null,
        state: one.state,
        note: one.note ?? null,
        fields: fieldViews(one, contact),
        answers: Object.fromEntries(own.flatMap(field => (field in answers ? [[field, answers[field]]] : []))),
        typed: at ? { value: at.value, base: at.base, at: new Date(at.at).toISOString() } : null,
      };
    }),
    words: wordsOf(context, standing, name, true),
    own: state.outside && isOutsideGuest(definition, step) ? ownOf(state, context) : null,
    lists: listsOf({ index: context.index, lists: context.lists ?? [] })
      .filter(list => lists.has(list.id))
      .map(({ id, rows }) => ({ id, rows: rows.map(row => ({ id: row.id, title: row.title })) })),
  };
}

const nothing: Omit<GuestView, 'state' | 'name' | 'house' | 'about' | 'now'> = {
  until: null,
  date: null,
  contact: '',
  due: null,
  zone: 'UTC',
  sections: [],
  words: [],
  own: null,
  lists: [],
};

export async function typedOf(house: House, request: string, step: string): Promise<Typed> {
  const rows = await house.db
    .select()
    .from(t.guestTyping)
    .where(and(eq(t.guestTyping.request, request), eq(t.guestTyping.step, step)));
  return Object.fromEntries(rows.map(({ section, value, base, at }) => [section, { value, base, at }]));
}

const contextFor = (house: House, stored: StoredRequest): Promise<Context> =>
  contextOf(house, house.db, { subject: subjectOf(stored), actor: null, workflow: stored.workflow });

/** Where a link leads when it opens no page: over, expired, or shut until a code is given. */
export async function shutView(house: House, found: Found, state: 'over' | 'expired' | 'code'): Promise<GuestView> {
  const now = await house.now(house.db);
  const about = state === 'code' ? '' : found.definition.name;
  return { ...nothing, state, name: '', house: await nameOfHouse(house.db), about, now };
}

export async function guestView(house: House, found: Found): Promise<GuestView> {
  const { stored, definition, here } = found;
  if (!here) return shutView(house, found, 'over');
  const context = await contextFor(house, stored);
  const typed = await typedOf(house, found.request, found.step);
  // What was signed in the page and not handed in yet stands there as given.
  const signed = await signedPapers(house, found);
  const name = await nameOfHouse(house.db);
  return viewOf(name, definition, stored.state, context, here, typed, { ...stored.state.answers, ...signed });
}

/** What is asked in a section with what is typed in it: other fields may be asked, or needed, than before. */
export async function askedWith(
  house: House,
  found: Found,
  section: string,
  value: Answers,
): Promise<GuestSaved['fields']> {
  const { stored, definition, here } = found;
  if (!here) throw notFound();
  const context = await contextFor(house, stored);
  const { state } = stored;
  const mine = new Set(definition.form.fields.filter(f => f.section === section).map(f => f.id));
  const typed = Object.fromEntries(Object.entries(value).filter(([id]) => mine.has(id)));
  const form = guestForm(definition, here.step, { ...state.answers, ...typed }, here.standing, facts(context, state));
  const one = form.find(found => found.section.id === section);
  return one ? fieldViews(one, contactOf(context, state, here.step)) : [];
}

/** Everybody who has a page of their own in a request. */
function guestsIn(definition: Definition, state: RequestState): GuestStep[] {
  const own = state.outside && outsideGuest(definition);
  return own ? [own, ...guestSteps(definition)] : [...guestSteps(definition)];
}

async function concerned(house: House, caller: Caller, id: string) {
  const { db } = house;
  const stored = await loadRequest(db, id);
  if (!stored || !(await isConcerned(house, db, stored, caller))) throw notFound();
  const definition = await loadDefinition(db, stored.workflow, stored.workflowVersion);
  const context = await contextOf(house, db, {
    subject: subjectOf(stored),
    actor: caller.id,
    workflow: stored.workflow,
  });
  const day = todayFor(context.index, subjectOf(stored), context.now);
  const events = await loadEvents(db, id);
  const sights = await sightsFor(db, caller, stored, { index: context.index, day, events });
  const { state } = stored;
  const steps = guestsIn(definition, state);
  const holds = (id: string) => {
    const step = steps.find(one => one.id === id);
    return step !== undefined && looksAfterGuest(definition, state, step, caller.id, context);
  };
  const held = (step: string) => events.some(e => e.kind === 'given' && e.step === step && e.holder === caller.id);
  const helps = may(caller, 'help requests on');
  return {
    stored,
    definition,
    context,
    sights,
    holds,
    mayLook: (step: string) => helps || holds(step) || held(step),
    helps,
  };
}

/** Where the guests of a request are: for whoever has or had their step, and for HR operations. */
export async function guestStandings(house: House, caller: Caller, id: string): Promise<GuestStandingView[]> {
  const { stored, definition, context, holds, helps, mayLook } = await concerned(house, caller, id);
  const { state } = stored;
  const found: GuestStandingView[] = [];
  for (const step of guestsIn(definition, state)) {
    const standing = state.guests?.[step.id];
    if (!standing || !mayLook(step.id)) continue;
    const typed = await typedOf(house, id, step.id);
    const name = nameOfGuest(step, state, context);
    const letter = nextReminderLetter(definition, state, step.id, context);
    const isHere = guestHere(definition, state, step.id) !== undefined;
    found.push({
      step: step.id,
      number: stepNumber(definition, step.id),
      name,
      address: String(state.answers[step.guest.mail] ?? ''),
      link: {
        until: standing.link.until,
        // Any link of whoever asked from outside leads to their page, also when this step is over.
        ended: standing.link.ended === true || guestNow(definition, state, step.id) === undefined,
        over: toMilliseconds(standing.link.until) <= toMilliseconds(context.now),
      },
      ...(await devicesOf(house.db, id, devicesAt(definition, state, step.id))),
      sections: guestForm(definition, step, state.answers, standing, facts(context, state)).map(one => ({
        id: one.section.id,
        title: one.section.title,
        state: one.state,
        at: standing.sections[one.section.id]?.at ?? null,
        note: one.note ?? null,
        begun: one.section.id in typed,
      })),
      words: wordsOf(context, standing, name, false),
      reminder:
        letter && isHere && standing.remindAt && !standing.link.ended
          ? { at: standing.remindAt, subject: letter.subject, body: letter.body }
          : null,
      mayAct: isHere && (helps || holds(step.id)),
    });
  }
  return found;
}

/** The page as the guest sees it, with no answer that the reader may not see. */
export async function previewView(house: House, caller: Caller, id: string, step: string): Promise<GuestView> {
  const { stored, definition, context, sights, mayLook } = await concerned(house, caller, id);
  const here = guestHere(definition, stored.state, step);
  if (!here || !mayLook(step)) throw notFound();
  const answers = seenBy(stored.state.answers, sights);
  return viewOf(await nameOfHouse(house.db), definition, stored.state, context, here, {}, answers);
}

const seenBy = (answers: Answers, sights: Sights): Answers => answersSeen(answers, sights).answers;
