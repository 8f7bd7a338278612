/** Accounts: invited by mail, forgotten, changed, switched off. */
import { setTimeout } from 'node:timers/promises';
import { hash, verify } from '@node-rs/argon2';
import { type AccountRow, type Invite, type LinkView, may } from '@north-pebble/contract';
import { idFrom } from '@north-pebble/core/form';
import { hasLeft, isEmployed, mainPost, type PersonId, recordOn, todayFor } from '@north-pebble/core/people';

import { and, asc, eq, isNull, ne } from 'drizzle-orm';
import { type Executor, inLedger, inTransaction, type Transaction, tables as t, waiting } from '../database/index.ts';
import { type House, nameOfHouse, raiseDirectoryVersion, settledMail } from '../house/index.ts';
import { type Caller, notFound, ProblemError, refusedField } from '../http/index.ts';
import { dropFactor, sealAccount } from './factor.ts';
import { findLink, useLink } from './links.ts';

/** A letter from the house itself, by no request. */
async function write(
  house: House,
  tx: Transaction,
  { person: to, address }: { person: string; address?: string },
  purpose: 'invitation' | 'password',
  subject: string,
  body: string,
) {
  await tx.insert(t.effects).values({
    key: `account:${purpose}:${to}:${Date.now()}`,
    payload: {
      to,
      ...(address === undefined ? {} : { address }),
      subject,
      body,
      account: { person: to, purpose },
    },
    ...waiting,
    writtenAt: await house.now(tx),
  });
}

export async function accountRows(db: Executor): Promise<AccountRow[]> {
  const rows = await db
    .select({ account: t.accounts, name: t.people.name, mail: t.people.mail })
    .from(t.accounts)
    .innerJoin(t.people, eq(t.people.id, t.accounts.person))
    .orderBy(asc(t.people.name));
  return rows.map(({ account, name, mail }) => ({
    person: account.person,
    name,
    mail,
    rights: account.rights,
    isOpen: account.passwordHash !== null,
    closed: account.closed,
    hasFactor: account.factorSecret !== null,
  }));
}

/** A new colleague with a post of their own under somebody, and a mail in which they choose a password. */
export async function invite(house: House, input: Invite): Promise<void> {
  const mail = input.mail.toLowerCase();
  await inTransaction(house.db, async tx => {
    const { index, now } = await house.moment(tx);
    const manager = index.person(input.manager as PersonId);
    // They begin today where their manager works, which is where they will.
    const today = todayFor(index, manager?.id ?? null, now);
    const above = manager && mainPost(index, manager.id, today);
    const record = manager && recordOn(manager, today);
    if (!manager || !above || !record || !isEmployed(manager, today))
      throw refusedField('manager', 'Choose somebody who works here and holds a post.');
    const [taken] = await tx.select().from(t.people).where(eq(t.people.mail, mail));
    if (taken) throw refusedField('mail', `${taken.name} has this mail address already.`);
    const ids = await tx.select({ id: t.people.id }).from(t.people);
    const posts = await tx.select({ id: t.posts.id }).from(t.posts);
    const person = idFrom(
      input.name,
      ids.map(row => row.id),
    );
    const post = idFrom(
      input.post,
      posts.map(row => row.id),
    );
    const { place, department, pattern, plan } = record;
    await tx
      .insert(t.people)
      .values({ id: person, name: input.name, mail, joined: today, leftOn: null, dottedTo: null });
    await tx.insert(t.personRecords).values({ person, from: today, place, department, pattern, fte: 1, plan });
    await tx.insert(t.posts).values({ id: post, title: input.post, department, place, grade: null, spending: null });
    await tx.insert(t.postLines).values({ post, from: today, reportsTo: above.id });
    await tx.insert(t.holdings).values({ post, person, from: today, to: null, main: true });
    await tx.insert(t.accounts).values({ person, passwordHash: null, rights: input.rights });
    await inLedger(
      tx,
      { what: 'person', keys: [{ id: person }] },
      { what: 'record', keys: [{ person, from: today }] },
      { what: 'post', keys: [{ id: post }] },
      { what: 'line', keys: [{ post, from: today }] },
      { what: 'holding', keys: [{ post, person, from: today }] },
      { what: 'account', keys: [{ person }] },
    );
    await raiseDirectoryVersion(tx);
    await sendInvitation(house, tx, person);
  });
  house.wake();
}

async function sendInvitation(house: House, tx: Transaction, person: string): Promise<void> {
  const name = await nameOfHouse(tx);
  await write(
    house,
    tx,
    { person },
    'invitation',
    `${name} invites you to North Pebble`,
    `Your requests to ${name} are handled in North Pebble: leave, travel, access. Choose a password within two weeks; the address below works once.`,
  );
}

export async function inviteAgain(house: House, person: string): Promise<void> {
  await inTransaction(house.db, async tx => {
    const [account] = await tx.select().from(t.accounts).where(eq(t.accounts.person, person)).for('update');
    if (!account) {
      // On file, and never invited: somebody who came with the files of a house, or by a request.
      const { index, now } = await house.moment(tx);
      const found = index.person(person as PersonId);
      if (!found || hasLeft(found, todayFor(index, found.id, now))) throw notFound();
      await tx.insert(t.accounts).values({ person, passwordHash: null, rights: [] });
      await sealAccount(tx, person);
      return sendInvitation(house, tx, person);
    }
    if (account.passwordHash !== null)
      throw new ProblemError(
        'refused',
        'They have a password already. On the page where one signs in they can ask for a new one.',
      );
    await sendInvitation(house, tx, person);
  });
  house.wake();
}

/** Who works here, or is to come, and has no account. */
async function withoutAccount(house: House, tx: Executor): Promise<PersonId[]> {
  const { index, now } = await house.moment(tx);
  const accounts = new Set((await tx.select({ person: t.accounts.person }).from(t.accounts)).map(row => row.person));
  return index.directory.people
    .filter(one => !accounts.has(one.id) && !hasLeft(one, todayFor(index, one.id, now)))
    .map(one => one.id);
}

export const missingAccounts = async (house: House) => ({ people: (await withoutAccount(house, house.db)).length });

const mostInvited = 300;

/** Invites those who have no account, as many as one transaction takes well; asked again, it goes on. */
export async function inviteMissing(house: House): Promise<{ people: number }> {
  const left = await inTransaction(house.db, async tx => {
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    const people = await withoutAccount(house, tx);
    const invited = people.slice(0, mostInvited);
    for (const person of invited) {
      await tx.insert(t.accounts).values({ person, passwordHash: null, rights: [] });
      await sendInvitation(house, tx, person);
    }
    await sealAccount(tx, ...invited);
    return Math.max(0, people.length - mostInvited);
  });
  house.wake();
  return { people: left };
}

/** In ms, far more than writing a letter takes. */
export const leastWait = 250;

/**
 * Answers the same, and after the same while, whether there is such an account or not: nobody learns who has one.
 */
export async function forgotten(house: House, mail: string): Promise<void> {
  const least = setTimeout(leastWait);
  await mailLink(house, mail);
  await least;
}

async function mailLink(house: House, mail: string): Promise<void> {
  await inTransaction(house.db, async tx => {
    const [row] = await tx
      .select({ account: t.accounts, mail: t.people.mail })
      .from(t.accounts)
      .innerJoin(t.people, eq(t.people.id, t.accounts.person))
      .where(eq(t.people.mail, mail.toLowerCase()));
    if (!row || row.account.closed) return;
    const { person } = row.account;
    await write(
      house,
      tx,
      { person, address: settledMail(row.account, row.mail) },
      'password',
      'A new password for North Pebble',
      `Somebody asked for a new password for you. If it was not you, leave this mail: your password stays as it is. If it was, choose it within an hour; the address below works once.`,
    );
  });
  house.wake();
}

export async function linkView(house: House, token: string): Promise<LinkView> {
  const link = await findLink(house.db, token);
  if (!link) throw notFound();
  const [person] = link.person ? await house.db.select().from(t.people).where(eq(t.people.id, link.person)) : [];
  return { purpose: link.purpose, name: person?.name ?? '', mail: person?.mail ?? '' };
}

/** By a link that was mailed; every session that is open ends. */
export async function choosePassword(house: House, token: string, password: string): Promise<void> {
  const passwordHash = await hash(password);
  await inTransaction(house.db, async tx => {
    const link = await useLink(tx, token);
    if (!link?.person || link.purpose === 'setup')
      throw new ProblemError('refused', 'This address was used already, or its time is over. Ask for a new one.');
    await tx.update(t.accounts).set({ passwordHash }).where(eq(t.accounts.person, link.person));
    await sealAccount(tx, link.person);
    await tx.delete(t.sessions).where(eq(t.sessions.person, link.person));
  });
}

export async function changePassword(house: House, caller: Caller, before: string, password: string, keep: string) {
  const [account] = await house.db.select().from(t.accounts).where(eq(t.accounts.person, caller.id));
  const right = account?.passwordHash ? await verify(account.passwordHash, before) : false;
  if (!right) throw refusedField('before', 'This is not your password.');
  const passwordHash = await hash(password);
  await inTransaction(house.db, async tx => {
    await tx.update(t.accounts).set({ passwordHash }).where(eq(t.accounts.person, caller.id));
    // Whoever knew the old one is out; this session stays.
    await tx.delete(t.sessions).where(and(eq(t.sessions.person, caller.id), ne(t.sessions.tokenHash, keep)));
    await sealAccount(tx, caller.id);
  });
}

/** Rights given or taken, or an account switched off: its sessions end at once. */
export async function changeAccount(
  house: House,
  caller: Caller,
  person: string,
  change: { rights?: AccountRow['rights'] | undefined; closed?: boolean | undefined; factor?: false | undefined },
): Promise<void> {
  await inTransaction(house.db, async tx => {
    const [account] = await tx.select().from(t.accounts).where(eq(t.accounts.person, person)).for('update');
    if (!account) throw notFound();
    const after = {
      ...account,
      ...(change.rights ? { rights: change.rights } : {}),
      closed: change.closed ?? account.closed,
    };
    // Somebody who has a last day does not look after the house beyond it.
    const others = await tx
      .select({ account: t.accounts })
      .from(t.accounts)
      .innerJoin(t.people, eq(t.people.id, t.accounts.person))
      .where(and(ne(t.accounts.person, person), isNull(t.people.leftOn)));
    const isAdministrator = (one: typeof account) =>
      !one.closed && one.passwordHash !== null && may(one, 'keep accounts');
    if (isAdministrator(account) && !isAdministrator(after) && !others.some(other => isAdministrator(other.account)))
      throw new ProblemError('refused', 'Somebody must look after the house: make another person administrator first.');
    if (after.closed && person === caller.id)
      throw new ProblemError('refused', 'You cannot switch off your own account.');
    await tx
      .update(t.accounts)
      .set({ rights: after.rights, closed: after.closed })
      .where(eq(t.accounts.person, person));
    if (change.factor === false && person === caller.id)
      throw new ProblemError('refused', 'You turn off your own second factor with a code, under your own settings.');
    if (change.factor === false) await dropFactor(tx, person);
    if (after.closed) await tx.delete(t.sessions).where(eq(t.sessions.person, person));
    await sealAccount(tx, person);
  });
}
