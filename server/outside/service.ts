/** What somebody without an account does at a public address: reads what is asked, and sends it. */
import type { FormOutside, PublicAsked, SendOutside } from '@north-pebble/contract';
import type { Answers } from '@north-pebble/core/form';
import { isPickable } from '@north-pebble/core/form';
import type { PersonId } from '@north-pebble/core/people';
import { type CivilDate, civilDateAt, type Instant, toInstant, toMilliseconds } from '@north-pebble/core/time';
import {
  type Context,
  type Definition,
  factsOf,
  type GuestStep,
  guestForm,
  guestNow,
  guestSteps,
  isOutsideGuest,
  keeperOf,
  listsOf,
  outsideFields,
  outsideGuest,
} from '@north-pebble/core/workflow';
import { and, count, desc, eq, gte, inArray } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { askedOf } from '../guests/index.ts';
import { contextOf, type House, nameOfHouse } from '../house/index.ts';
import { ProblemError, refusedField } from '../http/index.ts';
import { askedFromOutside, doneBefore, guestDid, loadRequest } from '../requests/index.ts';
import { countIn, type Opened, openAddress } from './addresses.ts';

/** The sections at the address with these answers, as a guest would have them. */
function sectionsWith(definition: Definition, answers: Answers, context: Context): PublicAsked['sections'] {
  const { outside } = definition.opening ?? {};
  const own = outsideGuest(definition);
  if (!outside || !own) return [];
  const step: GuestStep = { ...own, guest: { ...own.guest, sections: outside.sections } };
  const open = new Set(outsideFields(definition, outside).map(field => field.id));
  // Nobody on file asks, so what is worked out from the asker is worked out from nobody.
  const facts = factsOf(context, '' as PersonId, null);
  return guestForm(definition, step, answers, { sections: {} }, facts).map(({ section, fields }) => ({
    id: section.id,
    title: section.title,
    help: section.help ?? null,
    fields: fields
      .filter(one => open.has(one.field.id))
      .map(({ field, needed }) => ({ field: askedOf(field), needed })),
  }));
}

async function contextFor(house: House, { definition, form }: Opened): Promise<Context> {
  const { outside } = definition.opening ?? {};
  const moment = await house.moment(house.db);
  const keeper = outside && keeperOf(outside, moment);
  return contextOf(house, house.db, { subject: (keeper ?? '') as PersonId, actor: null, workflow: form.workflow });
}

export async function publicForm(house: House, token: string): Promise<FormOutside> {
  const { db } = house;
  const opened = await openAddress(db, token, await house.now(db));
  const { definition, form, why } = opened;
  const { outside } = definition.opening ?? {};
  if (!outside) throw new ProblemError('closed', 'This is not taken in any more.');
  const context = await contextFor(house, opened);
  const sections = why === null ? sectionsWith(definition, {}, context) : [];
  const fields = sections.flatMap(one => one.fields.map(({ field }) => field));
  const lists = new Set(fields.flatMap(field => (field.kind === 'pick' ? [field.list] : [])));
  const day = civilDateAt(context.now, 'UTC');
  const later = guestSteps(definition)
    .filter(step => isOutsideGuest(definition, step))
    .slice(0, 1)
    .flatMap(step => step.guest.sections.map(id => definition.form.sections?.find(s => s.id === id)?.title ?? id));
  const days = [form.lastDay, definition.opening?.to ?? null].filter(one => one !== null).toSorted();
  return {
    house: await nameOfHouse(db),
    name: definition.name,
    purpose: outside.words ?? definition.purpose,
    shut: why,
    who: { name: outside.name, mail: outside.mail },
    changes: outsideFields(definition, outside).some(f => f.shownWhen !== undefined || f.neededWhen !== undefined),
    until: (days[0] ?? null) as CivilDate | null,
    later,
    keptMonths: outside.keptMonths ?? null,
    sections,
    lists: listsOf(context)
      .filter(list => lists.has(list.id))
      .map(({ id, rows }) => ({
        id,
        rows: rows.filter(row => isPickable(row, day)).map(row => ({ id: row.id, title: row.title })),
      })),
  };
}

export async function askedWith(house: House, token: string, answers: Record<string, unknown>): Promise<PublicAsked> {
  const { db } = house;
  const opened = await openAddress(db, token, await house.now(db));
  if (opened.why !== null) throw new ProblemError('closed', opened.why);
  const known = new Set(opened.definition.form.fields.map(field => field.id));
  const typed = Object.fromEntries(Object.entries(answers).filter(([id]) => known.has(id)));
  return { sections: sectionsWith(opened.definition, typed as Answers, await contextFor(house, opened)) };
}

const day = 86_400_000;
/** So many of one workflow are begun from one mail address within a day; more is somebody who plays with it. */
const mostOfOneAddress = 5;

/** @returns the address to which the way to their own page goes */
export async function sendOutside(
  house: House,
  token: string,
  { id, answers, website }: SendOutside,
): Promise<{ mail: string }> {
  if (website.trim() !== '')
    throw new ProblemError(
      'refused',
      'This was not taken in, since a line was filled in that people do not see. Reload the page and send it again.',
    );
  const { db } = house;
  const now = await house.now(db);
  const { definition, form, why } = await openAddress(db, token, now);
  const { outside } = definition.opening ?? {};
  if (why !== null || !outside) throw new ProblemError('closed', why ?? 'This is not taken in any more.');
  const given = answers[outside.mail];
  const mail = typeof given === 'string' ? given.trim().toLowerCase() : '';
  // Its answer was lost: it is there, and so is its letter.
  if (await doneBefore(db, id)) return { mail: String(given).trim() };
  const rest = Object.fromEntries(Object.entries(answers).filter(([field]) => field !== outside.mail));
  const before = mail === '' ? null : await sentBefore(house, form.workflow, mail, rest, now);
  if (before !== null) {
    // Sent twice, it is there once; the way to it goes out again.
    const stored = await loadRequest(db, before);
    const own = outsideGuest(definition);
    const here = stored && own && guestNow(definition, stored.state, own.id);
    if (here) await guestDid(house, before, { kind: 'guest', step: here.step.id, what: { kind: 'ask for link' } });
    return { mail: String(given).trim() };
  }
  if (mail !== '') await mustBeFew(house, form.workflow, mail, outside.mail, now);
  await askedFromOutside(house, { id, workflow: form.workflow, answers, mail }, (tx, at) => countIn(tx, token, at));
  return { mail: String(given).trim() };
}

const lately = (workflow: string, mail: string, now: Instant) =>
  and(
    eq(t.requests.outside, mail),
    eq(t.requests.workflow, workflow),
    gte(t.requests.askedAt, toInstant(toMilliseconds(now) - day)),
  );

/** An open request of the last day that says the same, by the same address. */
async function sentBefore(
  house: House,
  workflow: string,
  mail: string,
  answers: Record<string, unknown>,
  now: Instant,
): Promise<string | null> {
  const rows = await house.db
    .select({ id: t.requests.id, state: t.requests.state })
    .from(t.requests)
    .where(and(lately(workflow, mail, now), inArray(t.requests.status, ['open', 'stuck', 'rework'])))
    .orderBy(desc(t.requests.number))
    .limit(mostOfOneAddress);
  const same = rows.find(({ state }) =>
    Object.entries(answers).every(([field, answer]) => isAlike(state.answers[field], answer)),
  );
  return same?.id ?? null;
}

/** Consents are stamped when they come in; all else stays as it was sent. */
function isAlike(kept: unknown, sent: unknown): boolean {
  if (typeof sent === 'object' && sent !== null && 'version' in sent)
    return (kept as { version?: unknown } | null)?.version === sent.version;
  const plain = (one: unknown) => (typeof one === 'string' ? one.trim() : (one ?? null));
  return JSON.stringify(plain(kept)) === JSON.stringify(plain(sent));
}

async function mustBeFew(house: House, workflow: string, mail: string, field: string, now: Instant): Promise<void> {
  const [{ n }] = await house.db
    .select({ n: count() })
    .from(t.requests)
    .where(lately(workflow, mail, now));
  if (n >= mostOfOneAddress)
    throw refusedField(
      field,
      'From this mail address much was sent today already. Look into your mail, or come back tomorrow.',
    );
}
