/**
 * What a change of records may not do to accounts. The address of a person on file is also where the letter with a new
 * password goes, so for whoever holds a right it is kept by those who keep accounts, whatever road the change comes by.
 */
import { may, type Right } from '@north-pebble/contract';
import type { FactEdit, FactOf } from '@north-pebble/core/facts';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import { and, eq, inArray, isNotNull } from 'drizzle-orm';
import { type Executor, inLedger, type Transaction, tables as t, waiting } from '../database/index.ts';
import { ProblemError } from '../http/index.ts';

const day = 86_400_000;

/** A person as they stood and stand; somebody who comes or goes has no account that a change could turn on somebody else. */
type Changed = { before: FactOf<'person'>; after: FactOf<'person'> | null };

const changedPeople = (edits: readonly FactEdit[]): Changed[] =>
  edits.flatMap(({ before, after }) =>
    before?.kind === 'person' && (after === null || after.kind === 'person') ? [{ before, after }] : [],
  );

const sameMail = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

const getsOtherMail = ({ before, after }: Changed): boolean => after !== null && !sameMail(before.mail, after.mail);

/** Whether somebody is there without an end, so that a house can count on them. */
const stays = (person: { joined: CivilDate; left: CivilDate | null } | null, today: CivilDate): boolean =>
  person !== null && person.left === null && person.joined <= today;

/** @param keepsAccounts whether whoever makes the change may keep accounts; what the house is told to do never may */
export async function mustLeaveAccountsAsTheyAre(
  db: Executor,
  edits: readonly FactEdit[],
  keepsAccounts: boolean,
  today: CivilDate,
): Promise<void> {
  const changed = changedPeople(edits);
  const otherMail = changed.filter(getsOtherMail);
  const goes = changed.filter(({ before, after }) => stays(before, today) && !stays(after, today));
  if (otherMail.length === 0 && goes.length === 0) return;
  const accounts = await db
    .select({ account: t.accounts, joined: t.people.joined, left: t.people.leftOn })
    .from(t.accounts)
    .innerJoin(t.people, eq(t.people.id, t.accounts.person));
  if (!keepsAccounts) {
    const withRights = new Set(accounts.filter(one => one.account.rights.length > 0).map(one => one.account.person));
    const barred = otherMail.find(({ before }) => withRights.has(before.id));
    if (barred)
      throw new ProblemError(
        'not allowed',
        `${barred.before.name} has a right in North Pebble, so an administrator changes their mail address.`,
        [{ field: 'change.set.mail', message: 'Ask an administrator to change this mail address.' }],
      );
  }
  const going = new Set<string>(goes.map(({ before }) => before.id));
  const looksAfter = accounts.filter(
    ({ account, joined, left }) =>
      !account.closed &&
      account.passwordHash !== null &&
      may(account, 'keep accounts') &&
      stays({ joined: joined as CivilDate, left: left as CivilDate | null }, today),
  );
  if (looksAfter.some(one => going.has(one.account.person)) && looksAfter.every(one => going.has(one.account.person)))
    throw new ProblemError(
      'refused',
      'They are the last administrator. Make somebody else administrator first, then give them a last day.',
    );
}

/**
 * Where letters about passwords go after a change: for a day still to the address of before, which is told.
 * @param at now, by the clock of the house
 */
export async function tellOldAddresses(tx: Transaction, edits: readonly FactEdit[], at: Instant): Promise<void> {
  const changed = changedPeople(edits).filter(getsOtherMail);
  if (changed.length === 0) return;
  const accounts = await tx
    .select()
    .from(t.accounts)
    .where(
      and(
        inArray(
          t.accounts.person,
          changed.map(({ before }) => before.id),
        ),
        isNotNull(t.accounts.passwordHash),
      ),
    );
  for (const account of accounts) {
    const one = changed.find(({ before }) => before.id === account.person);
    if (!one?.after) continue;
    // Changed twice within a day, it is still the address of the beginning that counts.
    const settled = settledMail(account, one.before.mail);
    await tx
      .update(t.accounts)
      .set({ mailBefore: settled, mailSince: Date.now() })
      .where(eq(t.accounts.person, account.person));
    await inLedger(tx, { what: 'account', keys: [{ person: account.person }] });
    if (settled === '') continue;
    await tx.insert(t.effects).values({
      key: `account:mail:${account.person}:${Date.now()}`,
      payload: {
        to: '',
        address: settled,
        subject: 'Your mail address in North Pebble has changed',
        body: `Your mail address in North Pebble is now ${one.after.mail}. If you asked for a new password today, it would still come to this address.\n\nIf you do not know of this change, tell HR operations today.`,
      },
      ...waiting,
      writtenAt: at,
    });
  }
}

/** Where a letter about the password of an account goes: to an address that has stood for a day. */
export const settledMail = (account: { mailBefore: string | null; mailSince: number }, mail: string): string =>
  account.mailBefore !== null && Date.now() < account.mailSince + day ? account.mailBefore : mail;

/** The rights that are there only for whoever has used a second factor. */
export async function requiredRights(db: Executor): Promise<Right[]> {
  const [house] = await db.select({ rights: t.house.factorRights }).from(t.house).where(eq(t.house.id, 1));
  return house?.rights ?? [];
}
