/** What guests do by their link: saving, handing in, asking, signing. Each finds its link anew. */
import type { GuestSaved, GuestView, SaveSection, SignPaper } from '@north-pebble/contract';
import type { Answers, GivenFile } from '@north-pebble/core/form';
import { and, eq, sql } from 'drizzle-orm';
import { inTransaction, tables as t } from '../database/index.ts';
import { type StoredFile, takeIn } from '../files/index.ts';
import type { House } from '../house/index.ts';
import { notFound, ProblemError } from '../http/index.ts';
import { guestDid, writeOut } from '../requests/index.ts';
import { type Found, findLink, giveCode, isKnown, isOver, makeCode } from './links.ts';
import { isPaperOf, ownerOf, paper, sign, signedPapers } from './papers.ts';
import { askedWith, guestView, shutView } from './views.ts';

/** The link and the device from which it is opened. */
export type By = { readonly token: string; readonly device: string };

/** What the link opens for a device that is known; anything else is refused. */
async function open(house: House, { token, device }: By): Promise<Found> {
  const found = await findLink(house, house.db, token);
  if (!(await isKnown(house.db, found, device)))
    throw new ProblemError('not allowed', 'This device is not known yet. Ask for a code.');
  return found;
}

async function openHere(house: House, by: By): Promise<Found> {
  const found = await open(house, by);
  if (!found.here) throw new ProblemError('closed', 'Nothing is asked of you here any more.');
  return found;
}

export async function see(house: House, { token, device }: By): Promise<GuestView> {
  const found = await findLink(house, house.db, token, true);
  const standing = found.stored.state.guests?.[found.link];
  if (!found.here || !standing) return shutView(house, found, 'over');
  if (await isOver(house, house.db, standing)) return shutView(house, found, 'expired');
  if (!(await isKnown(house.db, found, device))) return shutView(house, found, 'code');
  return guestView(house, found);
}

const mustBeTheirs = ({ here }: Found, section: string): void => {
  if (!here?.step.guest.sections.includes(section)) throw notFound();
};

/** Keeps what is typed, when nobody else has saved the section since it was loaded. */
export async function saveSection(
  house: House,
  by: By,
  section: string,
  { value, base }: SaveSection,
): Promise<GuestSaved> {
  const found = await openHere(house, by);
  mustBeTheirs(found, section);
  const { request, step } = found;
  const next = base + 1;
  await inTransaction(house.db, async tx => {
    const of = and(
      eq(t.guestTyping.request, request),
      eq(t.guestTyping.step, step),
      eq(t.guestTyping.section, section),
    );
    const [kept] = await tx.select({ base: t.guestTyping.base }).from(t.guestTyping).where(of).for('update');
    if ((kept?.base ?? 0) !== base)
      throw new ProblemError('stale', 'This part was changed on another device meanwhile.');
    const row = { request, step, section, value, base: next, at: Date.now() };
    await tx.insert(t.guestTyping).values(row).onDuplicateKeyUpdate({ set: row });
  });
  return { base: next, fields: await askedWith(house, found, section, value as Answers) };
}

export async function handIn(house: House, by: By, section: string, answers: unknown): Promise<GuestView> {
  const found = await openHere(house, by);
  mustBeTheirs(found, section);
  const { request, step } = found;
  const signed = await signedPapers(house, found);
  await guestDid(
    house,
    request,
    { kind: 'guest', step, what: { kind: 'hand in', section, answers, signed } },
    ownerOf(request),
  );
  // Typed is what is not handed in.
  await house.db
    .delete(t.guestTyping)
    .where(and(eq(t.guestTyping.request, request), eq(t.guestTyping.step, step), eq(t.guestTyping.section, section)));
  return see(house, by);
}

export async function askQuestion(house: House, by: By, text: string): Promise<GuestView> {
  const { request, step } = await openHere(house, by);
  await guestDid(house, request, { kind: 'guest', step, what: { kind: 'ask', text } });
  return see(house, by);
}

export async function withdrawConsent(house: House, by: By, field: string): Promise<GuestView> {
  const { request, step } = await openHere(house, by);
  await guestDid(house, request, { kind: 'guest', step, what: { kind: 'withdraw consent', field } });
  return see(house, by);
}

/** Whoever asked from outside answers what somebody of the house asked of them. */
export async function reply(house: House, by: By, task: string, text: string): Promise<GuestView> {
  const { request, step } = await openHere(house, by);
  await guestDid(house, request, { kind: 'guest', step, what: { kind: 'reply', task, reply: text } });
  return see(house, by);
}

export async function withdraw(house: House, by: By): Promise<GuestView> {
  const { request, step } = await openHere(house, by);
  await guestDid(house, request, { kind: 'guest', step, what: { kind: 'withdraw' } });
  return see(house, by);
}

export async function takeFile(house: House, by: By, name: string, content: AsyncIterable<Buffer>): Promise<GivenFile> {
  const { request } = await openHere(house, by);
  return takeIn(house, ownerOf(request), name, content);
}

/** A file that they gave themselves, here or in the request already, or a paper that was made for them. */
export async function mustBeTheirFile(house: House, by: By, id: string): Promise<StoredFile> {
  const found = await openHere(house, by);
  const [file] = await house.db.select().from(t.files).where(eq(t.files.id, id));
  if (!file?.whole) throw notFound();
  if (file.owner !== ownerOf(found.request) && !(await isPaperOf(house, found, id))) throw notFound();
  return file;
}

export const readPaper = async (house: House, by: By, field: string) => paper(house, await openHere(house, by), field);

export async function signPaper(house: House, by: By, field: string, input: SignPaper): Promise<GuestView> {
  await sign(house, await openHere(house, by), field, input);
  return see(house, by);
}

/** Another link for one that is over: it goes to the address on file, whoever asks for it. */
export async function askForLink(house: House, { token }: By): Promise<void> {
  const { request, step, link, stored } = await findLink(house, house.db, token, true);
  const standing = stored.state.guests?.[link];
  if (!standing || !(await isOver(house, house.db, standing)))
    throw new ProblemError('refused', 'This address is still good.');
  await guestDid(house, request, { kind: 'guest', step, what: { kind: 'ask for link' } });
}

/** A code for a device that is not known, to the address on file. */
export async function askForCode(house: House, { token, device }: By): Promise<void> {
  const found = await findLink(house, house.db, token);
  if (await isKnown(house.db, found, device)) return;
  const { here, request, stored } = found;
  const address = here && stored.state.answers[here.step.guest.mail];
  if (typeof address !== 'string') throw notFound();
  const code = await makeCode(house.db, found, device);
  const now = await house.now(house.db);
  await writeOut(
    house,
    request,
    {
      kind: 'mail out',
      key: `${request}:code:${Date.now()}`,
      address: address.trim(),
      subject: `Your code: ${code}`,
      body: `Your page was opened on another device. If that was you, type this code there:\n\n${code}\n\nIt is good for 15 minutes. If it was not you, somebody has your address: tell whoever sent it to you.`,
    },
    now,
  );
}

export async function giveTheCode(house: House, by: By, code: string): Promise<GuestView> {
  const found = await findLink(house, house.db, by.token);
  await inTransaction(house.db, tx => giveCode(tx, found, by.device, code));
  if (!(await isKnown(house.db, found, by.device)))
    throw new ProblemError('bad input', 'This is not the code, or its time is over.', [
      { field: 'code', message: 'This is not the code, or its time is over. After five tries ask for another.' },
    ]);
  return see(house, by);
}

/** Typing of guests whose step is over. */
export const dropOldGuestTyping = (house: House) =>
  house.db.execute(sql`delete from ${t.guestTyping} where ${t.guestTyping.at} < ${Date.now() - 180 * 86_400_000}`);
