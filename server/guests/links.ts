/** Personal links: random, kept as hashes, good while the request says so; and the devices from which one is opened. */
import { createHash, randomBytes, randomInt, timingSafeEqual } from 'node:crypto';
import { toMilliseconds } from '@north-pebble/core/time';
import {
  type Definition,
  type GuestStanding,
  type GuestStep,
  guestNow,
  isGuestStep,
  isOutsideGuest,
  type LinkInLetter,
  outsideGuest,
  type RequestState,
  stepById,
} from '@north-pebble/core/workflow';
import { and, desc, eq, gt, lt } from 'drizzle-orm';
import { type Executor, type Transaction, tables as t } from '../database/index.ts';
import { type House, loadDefinition } from '../house/index.ts';
import { ProblemError } from '../http/index.ts';
import { loadRequest, type StoredRequest } from '../requests/index.ts';

export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** The address that a letter brings; made when the letter goes out, so that it is kept nowhere but in the letter. */
export async function linkAddress(house: House, db: Executor, request: string, link: LinkInLetter): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await db.insert(t.guestLinks).values({ hash: hashOf(token), request, step: link.step, n: link.n, at: Date.now() });
  return `${house.address}/mine#${token}`;
}

export type Found = {
  readonly request: string;
  /** The step at which something is asked of them now. */
  readonly step: string;
  /** The step whose link it is, and the one under which the devices that open it are known. */
  readonly link: string;
  readonly devices: string;
  readonly stored: StoredRequest;
  readonly definition: Awaited<ReturnType<typeof loadDefinition>>;
  /** Nothing once nothing is asked of the guest any more. */
  readonly here: { step: GuestStep; standing: GuestStanding } | undefined;
};

const noSuchLink = () =>
  new ProblemError('not found', 'This address does not work. Take the one of the newest mail that we sent you.');

/**
 * What a link opens. One that was never made, was ended or has been replaced opens nothing; all three sound alike.
 * @param mayBeOver also one whose days are over, for asking for the next
 */
export async function findLink(house: House, db: Executor, token: string, mayBeOver = false): Promise<Found> {
  const [link] = await db
    .select()
    .from(t.guestLinks)
    .where(eq(t.guestLinks.hash, hashOf(token)));
  const stored = link && (await loadRequest(db, link.request));
  if (!stored) throw noSuchLink();
  const definition = await loadDefinition(db, stored.workflow, stored.workflowVersion);
  const standing = stored.state.guests?.[link.step];
  if (!standing || standing.link.ended || standing.link.n !== link.n) throw noSuchLink();
  const here = guestNow(definition, stored.state, link.step);
  const found = {
    request: link.request,
    step: here?.step.id ?? link.step,
    link: link.step,
    devices: devicesAt(definition, stored.state, link.step),
    stored,
    definition,
    here,
  };
  if (!mayBeOver && (await isOver(house, db, standing))) throw new ProblemError('closed', overWords);
  return found;
}

const overWords = 'The days of this address are over. Ask for a new one; it comes by mail.';

export const isOver = async (house: House, db: Executor, standing: GuestStanding): Promise<boolean> =>
  toMilliseconds(standing.link.until) <= toMilliseconds(await house.now(db));

const minute = 60_000;
const codeLasts = 15 * minute;
const mostTries = 5;
const mostDevices = 20;
/** Codes of one link that are good at the same time. */
const mostCodes = 5;

/** The cookie of a device, for one link; it opens nothing without the link. */
export const newDevice = (): string => randomBytes(24).toString('base64url');
const deviceHash = (of: Pick<Found, 'request' | 'devices'>, device: string): string =>
  hashOf(`${of.request}/${of.devices}/${device}`);

/** Whoever asked from outside has one set of devices for all of their links; other guests one for each step. */
export function devicesAt(definition: Definition, state: RequestState, step: string): string {
  const own = state.outside && outsideGuest(definition);
  if (!own) return step;
  const found = stepById(definition, step);
  return step === own.id || (isGuestStep(found) && isOutsideGuest(definition, found)) ? own.id : step;
}

/**
 * Whether a device may go on. The first one is known by opening the link; any other must give a code that only the guest
 * gets, so that a link which was passed on opens nothing. Nothing is kept of those that only look, so that however many
 * open it, none shuts the guest out.
 */
export async function isKnown(db: Executor, found: Found, device: string): Promise<boolean> {
  const hash = deviceHash(found, device);
  const [row] = await db.select().from(t.guestDevices).where(eq(t.guestDevices.hash, hash));
  if (row) {
    if (row.known) await db.update(t.guestDevices).set({ at: Date.now() }).where(eq(t.guestDevices.hash, hash));
    return row.known;
  }
  const { request, devices: step } = found;
  if ((await db.$count(t.guestDevices, and(ofLink(found), eq(t.guestDevices.known, true)))) > 0) return false;
  await db.insert(t.guestDevices).values({ hash, request, step, known: true, at: Date.now() });
  return true;
}

const ofLink = ({ request, devices }: Pick<Found, 'request' | 'devices'>) =>
  and(eq(t.guestDevices.request, request), eq(t.guestDevices.step, devices));

/** Of those that are known, or that wait for a code, so many stay; the one that was there longest ago makes room. */
async function makeRoom(tx: Executor, found: Found, known: boolean): Promise<void> {
  const rows = await tx
    .select({ hash: t.guestDevices.hash })
    .from(t.guestDevices)
    .where(and(ofLink(found), eq(t.guestDevices.known, known)))
    .orderBy(desc(t.guestDevices.at))
    .offset(mostDevices - 1)
    .limit(1000);
  for (const { hash } of rows) await tx.delete(t.guestDevices).where(eq(t.guestDevices.hash, hash));
}

/** Makes a device known without a code. */
export async function letKnow(db: Executor, of: Pick<Found, 'request' | 'devices'>, device: string): Promise<void> {
  const row = { hash: deviceHash(of, device), request: of.request, step: of.devices, known: true, at: Date.now() };
  await db
    .insert(t.guestDevices)
    .values(row)
    .onDuplicateKeyUpdate({ set: { known: true } });
}

/** A new code for a device, and nothing of it kept but its hash. */
export async function makeCode(db: Executor, found: Found, device: string): Promise<string> {
  const code = String(randomInt(1_000_000)).padStart(6, '0');
  const hash = deviceHash(found, device);
  const [row] = await db.select().from(t.guestDevices).where(eq(t.guestDevices.hash, hash));
  // One code a minute, and a few at a time: a mailbox is not flooded by whoever has the link.
  const live = await db.$count(t.guestDevices, and(ofLink(found), gt(t.guestDevices.codeUntil, Date.now())));
  if ((row && row.codeUntil - codeLasts > Date.now() - minute) || live >= mostCodes)
    throw new ProblemError('too many tries', 'A code is on its way. Wait a while before you ask for another.');
  const fresh = { code: hashOf(`${hash}${code}`), codeUntil: Date.now() + codeLasts, tries: 0 };
  if (!row) await makeRoom(db, found, false);
  const { request, devices: step } = found;
  await db
    .insert(t.guestDevices)
    .values({ hash, request, step, known: false, at: Date.now(), ...fresh })
    .onDuplicateKeyUpdate({ set: fresh });
  return code;
}

/** Makes a device known by its code; a code is good for five tries. */
export async function giveCode(tx: Transaction, found: Found, device: string, code: string): Promise<void> {
  const hash = deviceHash(found, device);
  const [row] = await tx.select().from(t.guestDevices).where(eq(t.guestDevices.hash, hash)).for('update');
  const isGood = row?.code && row.codeUntil > Date.now() && row.tries < mostTries;
  const given = Buffer.from(hashOf(`${hash}${code}`));
  if (isGood && timingSafeEqual(given, Buffer.from(row.code ?? ''))) {
    await makeRoom(tx, found, true);
    await tx
      .update(t.guestDevices)
      .set({ known: true, code: null, tries: 0, at: Date.now() })
      .where(eq(t.guestDevices.hash, hash));
    return;
  }
  if (row)
    await tx
      .update(t.guestDevices)
      .set({ tries: row.tries + 1 })
      .where(eq(t.guestDevices.hash, hash));
}

export async function devicesOf(db: Executor, request: string, step: string) {
  const rows = await db
    .select({ known: t.guestDevices.known, at: t.guestDevices.at })
    .from(t.guestDevices)
    .where(and(eq(t.guestDevices.request, request), eq(t.guestDevices.step, step)))
    .orderBy(desc(t.guestDevices.at));
  const known = rows.filter(row => row.known);
  return { devices: known.length, seenAt: known[0] ? new Date(known[0].at).toISOString() : null };
}

const keptFor = 400 * 86_400_000;
/** Links that are long over, and the devices that opened them. */
export async function dropOldGuestLinks(db: Executor): Promise<void> {
  await db.delete(t.guestLinks).where(lt(t.guestLinks.at, Date.now() - keptFor));
  await db.delete(t.guestDevices).where(lt(t.guestDevices.at, Date.now() - keptFor));
}
