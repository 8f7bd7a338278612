/** Signing in and out. Only a token's hash is kept; each sign-in gets a new token. */
import { randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { may, type Right, type SessionView, type SignIn } from '@north-pebble/contract';
import {
  isEmployed,
  looksAfterSome,
  type PersonId,
  personName,
  reportsOf,
  todayFor,
  zoneOf,
} from '@north-pebble/core/people';
import { type CivilDate, civilDateAt, type Instant } from '@north-pebble/core/time';
import { and, asc, eq, isNotNull, lt, sql } from 'drizzle-orm';
import { hashOf, mustBeRight, takeCode } from '../accounts/index.ts';
import {
  type Executor,
  inBatches,
  inLedger,
  inOneTrip,
  inTransaction,
  prepared,
  tables as t,
} from '../database/index.ts';
import { type House, machineNow } from '../house/index.ts';
import { type Caller, ProblemError, refusedField } from '../http/index.ts';

const sessionDays = 14;

async function accountByMail(db: Executor, mail: string) {
  const [row] = await db
    .select({ account: t.accounts })
    .from(t.accounts)
    .innerJoin(t.people, eq(t.people.id, t.accounts.person))
    .where(eq(t.people.mail, mail.toLowerCase()));
  return row?.account;
}

/** The hash of a password that nobody has. */
const nobodysHash = hash(randomBytes(16).toString('hex'));

async function accountFor(house: House, input: SignIn) {
  if ('card' in input) {
    const [row] = house.demo ? await house.db.select().from(t.accounts).where(eq(t.accounts.person, input.card)) : [];
    if (row && row.card !== null) return row;
    throw new ProblemError('bad input', 'There is no such card to sign in with.');
  }
  const account = await accountByMail(house.db, input.mail);
  // A name that nobody has takes as long as one that somebody has.
  const right = await verify(account?.passwordHash ?? (await nobodysHash), input.password);
  if (!account?.passwordHash || !right)
    throw new ProblemError('bad input', 'The mail address or the password is not right.');
  return account;
}

/** Whether a second factor was used; whoever has one cannot sign in by password without it. */
async function secondFactor(house: House, person: string, input: SignIn): Promise<boolean> {
  if ('card' in input) return false;
  const { code } = input;
  const taken = await inTransaction(house.db, async tx => {
    const [account] = await tx.select().from(t.accounts).where(eq(t.accounts.person, person)).for('update');
    if (!account || account.factorSecret === null) return null;
    return code === undefined ? 'none' : takeCode(tx, account, code);
  });
  if (taken === null) return false;
  if (taken === 'none') throw refusedField('code', 'Give the code that your other device shows now.');
  mustBeRight(taken);
  return true;
}

/** Signs a person in; the token goes into their cookie and is kept nowhere. */
export async function signIn(house: House, input: SignIn): Promise<string> {
  const account = await accountFor(house, input);
  const index = await house.directory(house.db);
  const person = index.person(account.person as PersonId);
  const today = person && todayOf(house, person.id, await house.now(house.db));
  if (!person || !today || account.closed || !isEmployed(person, today))
    throw new ProblemError('not allowed', 'This account is not open now.');
  const isStrong = await secondFactor(house, account.person, input);
  const token = randomBytes(32).toString('base64url');
  const expires = Date.now() + sessionDays * 86_400_000;
  await house.db.insert(t.sessions).values({ tokenHash: hashOf(token), person: person.id, expires, strong: isStrong });
  return token;
}

/** For how long somebody is seen as at once. */
const seesMinutes = 30;

/** From now on this session sees as somebody else does, reading only; kept for whoever asks later. */
export async function seeAs(
  house: House,
  caller: Caller,
  token: string,
  { person, reason }: { person: PersonId; reason: string },
): Promise<void> {
  const { index, now } = await house.moment(house.db);
  const found = index.person(person);
  if (!found || person === caller.id) throw refusedField('person', 'Choose somebody else who is on file.');
  await inTransaction(house.db, async tx => {
    const [{ insertId: id }] = await tx.insert(t.seenAs).values({ by: caller.id, as: person, at: now, reason });
    await inLedger(tx, { what: 'look as somebody', keys: [{ id }] });
    await tx
      .update(t.sessions)
      .set({ seesAs: person, seesUntil: Date.now() + seesMinutes * 60_000 })
      .where(eq(t.sessions.tokenHash, hashOf(token)));
  });
}

export const stopSeeing = (house: House, token: string) =>
  house.db
    .update(t.sessions)
    .set({ seesAs: null, seesUntil: 0 })
    .where(eq(t.sessions.tokenHash, hashOf(token)));

export async function signOut(house: House, token: string): Promise<void> {
  await house.db.delete(t.sessions).where(eq(t.sessions.tokenHash, hashOf(token)));
}

/** Sessions that are over are forgotten. */
export const dropOldSessions = (db: Executor) => db.delete(t.sessions).where(lt(t.sessions.expires, Date.now()));

const sessionsByHash = prepared<'hashes'>((build, slot) =>
  build
    .select({
      hash: t.sessions.tokenHash,
      person: t.sessions.person,
      expires: t.sessions.expires,
      rights: t.accounts.rights,
      strong: t.sessions.strong,
      seesAs: t.sessions.seesAs,
      seesUntil: t.sessions.seesUntil,
      joined: t.people.joined,
      leftOn: t.people.leftOn,
      now: sql<string | null>`(select ${t.house.now} from ${t.house} where ${t.house.id} = 1)`.as('now'),
      required: sql<string | null>`(select ${t.house.factorRights} from ${t.house} where ${t.house.id} = 1)`.as(
        'required',
      ),
    })
    .from(t.sessions)
    .innerJoin(t.accounts, and(eq(t.accounts.person, t.sessions.person), eq(t.accounts.closed, false)))
    .innerJoin(t.people, eq(t.people.id, t.sessions.person))
    .where(sql`${t.sessions.tokenHash} in (${slot('hashes')})`),
);
/** As the driver gives it. */
type SessionRow = {
  token_hash: string;
  person: PersonId;
  expires: number;
  rights: string;
  strong: number;
  sees_as: PersonId | null;
  sees_until: number;
  required: string | null;
  joined: CivilDate;
  left_on: CivilDate | null;
  now: Instant | null;
};

/** Today where a person works; by the clock of the whole world until the directory has been read. */
function todayOf(house: House, id: PersonId, now: Instant): CivilDate {
  const index = house.lastSeen()?.index;
  return index ? todayFor(index, id, now) : civilDateAt(now, 'UTC');
}

/** Tells whose token one is, while it lasts; those who ask at the same moment are looked up together. */
export function callersByToken(house: House): (token: string) => Promise<Caller | null> {
  const sessionOf = inBatches(async hashes => {
    const [rows] = await inOneTrip(house.db, [sessionsByHash({ hashes })]);
    return new Map((rows as SessionRow[]).map(row => [row.token_hash, row]));
  });
  return async token => {
    const row = await sessionOf(hashOf(token));
    if (!row || row.expires <= Date.now()) return null;
    // Asked at every call: whoever has left has no rights from the first minute after their last day.
    const today = todayOf(house, row.person, row.now ?? machineNow());
    const isHere = isEmployed({ joined: row.joined, left: row.left_on }, today);
    if (!isHere) return null;
    const isStrong = row.strong === 1;
    const rights = JSON.parse(row.rights) as Right[];
    const required = row.required && !isStrong ? (JSON.parse(row.required) as Right[]) : [];
    const withheld = rights.filter(right => required.includes(right));
    const caller = { id: row.person, rights: rights.filter(right => !withheld.includes(right)), withheld, isStrong };
    if (row.sees_as === null || row.sees_until <= Date.now() || !may(caller, 'see as others')) return caller;
    const [other] = await house.db.select().from(t.accounts).where(eq(t.accounts.person, row.sees_as));
    return { id: row.sees_as, rights: other && !other.closed ? other.rights : [], seenBy: row.person };
  };
}

export async function sessionView(house: House, caller: Caller | null, isNew: boolean): Promise<SessionView> {
  const [own] = await house.db.select({ name: t.house.name }).from(t.house).where(eq(t.house.id, 1));
  const index = await house.directory(house.db);
  const now = await house.now(house.db);
  const person = caller && index.person(caller.id);
  const today = todayFor(index, caller?.id ?? null, now);
  const held = person ? index.holdingsOfPerson(person.id) : [];
  const cards = house.demo
    ? await house.db.select().from(t.accounts).where(isNotNull(t.accounts.card)).orderBy(asc(t.accounts.card))
    : [];
  return {
    self:
      person && caller
        ? {
            id: person.id,
            name: person.name,
            zone: zoneOf(index, person, today),
            rights: [...caller.rights],
            withheld: [...(caller.withheld ?? [])],
            seenBy: caller.seenBy ? personName(index, caller.seenBy) : null,
            keepsLists: (await house.lists(house.db)).some(list => list.owners?.includes(person.id)),
            looksAfterSome: looksAfterSome(index, person.id, today),
            hasReports: held.some(h => reportsOf(index, h.post, today).length > 0),
          }
        : null,
    demo: house.demo,
    house: own?.name ?? null,
    isNew,
    now,
    cards: cards.flatMap(card => {
      const found = index.person(card.person as PersonId);
      return found ? [{ id: found.id, name: found.name, role: card.cardWords ?? '' }] : [];
    }),
  };
}
