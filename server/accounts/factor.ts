/**
 * A second factor: codes that change every thirty seconds, counted by another device from a secret that both know
 * (RFC 6238, SHA-1, six figures), and codes to be written down for the day on which that device is lost.
 */

import { verify } from '@node-rs/argon2';
import type { FactorView, Right } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { Secret, TOTP } from 'otpauth';
import { type Executor, inLedger, inTransaction, type Transaction, tables as t } from '../database/index.ts';
import { type House, requiredRights } from '../house/index.ts';
import { type Caller, ProblemError, refusedField } from '../http/index.ts';
import { hashOf } from './links.ts';

type Account = typeof t.accounts.$inferSelect;

const period = 30;
/** A device’s clock may be a step early or late. */
const tolerance = 1;
const codesGiven = 8;

const counter = (secret: string, label = '', issuer = '') =>
  new TOTP({ secret: Secret.fromBase32(secret), algorithm: 'SHA1', digits: 6, period, label, issuer });

/** Ten letters and figures that are not mistaken for each other. */
const writtenCode = (): string => new Secret({ size: 7 }).base32.slice(0, 10).toLowerCase();

/** The step of a code, when it is one of these moments and of none that was taken before. */
function stepOf(secret: string, code: string, last: number): number | null {
  const now = Math.floor(Date.now() / 1000 / period);
  const delta = counter(secret).validate({ token: code, window: tolerance });
  return delta === null || now + delta <= last ? null : now + delta;
}

/** So many wrong codes are only wrong; from then on each makes one wait twice as long, up to an hour. */
const freeTries = 5;
const longestWait = 3_600_000;
const waitAfter = (failures: number): number =>
  failures < freeTries ? 0 : Math.min(longestWait, 30_000 * 2 ** (failures - freeTries));

export type CodeTaken = 'right' | 'wrong' | 'wait';

/**
 * Takes a code of somebody’s second factor; none twice. Wrong ones are counted, so the transaction has to be kept.
 */
export async function takeCode(tx: Transaction, account: Account, code: string): Promise<CodeTaken> {
  if (account.factorSecret === null) return 'wrong';
  if (Date.now() < account.factorUntil) return 'wait';
  const step = stepOf(shown(tx, account.person, account.factorSecret), code, account.factorStep);
  const written = account.factorCodes ?? [];
  const isWritten = written.includes(hashOf(code));
  const own = eq(t.accounts.person, account.person);
  if (step === null && !isWritten) {
    const failures = account.factorFailures + 1;
    await tx
      .update(t.accounts)
      .set({ factorFailures: failures, factorUntil: Date.now() + waitAfter(failures) })
      .where(own);
    return 'wrong';
  }
  const used = step === null ? { factorCodes: written.filter(one => one !== hashOf(code)) } : { factorStep: step };
  await tx
    .update(t.accounts)
    .set({ ...used, factorFailures: 0, factorUntil: 0 })
    .where(own);
  if (step === null) await sealAccount(tx, account.person);
  return 'right';
}

/** What a person's secrets are hidden with besides the key: one is of nobody else. */
const hidden = (tx: Transaction, person: string, secret: string): string => tx.keys.hide(secret, `account ${person}`);
const shown = (tx: Transaction, person: string, kept: string): string => tx.keys.show(kept, `account ${person}`);

/** An account was changed: it stands in the ledger as it is now. */
export const sealAccount = (tx: Transaction, ...people: string[]): Promise<void> =>
  inLedger(tx, { what: 'account', keys: people.map(person => ({ person })) });

/** @throws unless the code was right */
export function mustBeRight(taken: CodeTaken): void {
  if (taken === 'wait')
    throw refusedField('code', 'Too many codes were wrong. Wait a while, then give the code of then.');
  if (taken === 'wrong')
    throw refusedField('code', 'This is not the code of now, or it was used already. Wait for the next one.');
}

const lockAccount = async (tx: Transaction, person: string): Promise<Account> => {
  const [account] = await tx.select().from(t.accounts).where(eq(t.accounts.person, person)).for('update');
  if (!account) throw new Error(`${person} is signed in without an account`);
  return account;
};

export async function factorView(db: Executor, caller: Caller): Promise<FactorView> {
  const [account] = await db.select().from(t.accounts).where(eq(t.accounts.person, caller.id));
  return {
    isOn: account?.factorSecret !== null,
    codesLeft: account?.factorCodes?.length ?? 0,
    hasPassword: Boolean(account?.passwordHash),
  };
}

/** Begins: the secret is shown this once, and is in use only after its first code. */
export async function beginFactor(house: House, caller: Caller, password: string) {
  // Whoever finds a session open must not shut its owner out with a device of their own.
  const [kept] = await house.db
    .select({ passwordHash: t.accounts.passwordHash })
    .from(t.accounts)
    .where(eq(t.accounts.person, caller.id));
  if (kept?.passwordHash && !(await verify(kept.passwordHash, password)))
    throw refusedField('password', 'This is not your password.');
  const [own] = await house.db.select({ name: t.house.name }).from(t.house).where(eq(t.house.id, 1));
  const index = await house.directory(house.db);
  const secret = new Secret({ size: 20 }).base32;
  await inTransaction(house.db, async tx => {
    const account = await lockAccount(tx, caller.id);
    if (account.factorSecret !== null) throw new ProblemError('refused', 'You have a second factor already.');
    await tx
      .update(t.accounts)
      .set({ factorBegun: hidden(tx, caller.id, secret) })
      .where(eq(t.accounts.person, caller.id));
    await sealAccount(tx, caller.id);
  });
  const label = index.person(caller.id)?.mail ?? caller.id;
  return { address: counter(secret, label, own?.name ?? 'North Pebble').toString(), secret };
}

/** Takes it into use with its first code; the session in which that is done counts as one with a second factor. */
export const confirmFactor = (house: House, caller: Caller, code: string, session: string) =>
  inTransaction(house.db, async tx => {
    const { factorBegun: secret } = await lockAccount(tx, caller.id);
    if (secret === null) throw new ProblemError('refused', 'Begin with a second factor first.');
    const step = stepOf(shown(tx, caller.id, secret), code, 0);
    if (step === null) throw refusedField('code', 'This is not the code of now. Look at the clock of the device.');
    const codes = Array.from({ length: codesGiven }, writtenCode);
    await tx
      .update(t.accounts)
      .set({ factorSecret: secret, factorBegun: null, factorStep: step, factorCodes: codes.map(hashOf) })
      .where(eq(t.accounts.person, caller.id));
    await sealAccount(tx, caller.id);
    // Whoever is signed in elsewhere has given no code.
    await tx.update(t.sessions).set({ strong: true }).where(eq(t.sessions.tokenHash, session));
    return { codes };
  });

export async function giveUpFactor(house: House, caller: Caller, code: string): Promise<void> {
  const taken = await inTransaction(house.db, async tx => {
    const taken = await takeCode(tx, await lockAccount(tx, caller.id), code);
    if (taken === 'right') await dropFactor(tx, caller.id);
    return taken;
  });
  mustBeRight(taken);
}

/** Takes a second factor away; what was open with it is no longer counted as such. */
export async function dropFactor(tx: Transaction, person: string): Promise<void> {
  await tx
    .update(t.accounts)
    .set({ factorSecret: null, factorBegun: null, factorCodes: null, factorFailures: 0, factorUntil: 0 })
    .where(eq(t.accounts.person, person));
  await sealAccount(tx, person);
  await tx.update(t.sessions).set({ strong: false }).where(eq(t.sessions.person, person));
}

/** Whoever requires it has one themselves, so that nobody locks the house behind them. */
export async function requireFactor(house: House, caller: Caller, rights: Right[]): Promise<Right[]> {
  const locksOut = caller.rights.some(right => rights.includes(right));
  if (locksOut && !caller.isStrong)
    throw new ProblemError(
      'refused',
      'Set a second factor up for yourself first: without it you would lose the right.',
    );
  await inTransaction(house.db, async tx => {
    await tx
      .update(t.house)
      .set({ factorRights: [...new Set(rights)] })
      .where(eq(t.house.id, 1));
    await inLedger(tx, { what: 'house', keys: [{ id: 1 }] });
  });
  return requiredRights(house.db);
}
