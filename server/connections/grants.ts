/** What requests gave through a connection and nobody has taken away again: memberships, and accounts that they made. */
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { type Executor, type Transaction, tables as t } from '../database/index.ts';

export type Grant = {
  readonly person: string;
  readonly account: string;
  readonly group: string;
  /** The request that gave it. */
  readonly request: string | null;
};
export type Granted = {
  /** Memberships that stand. */
  readonly grants: readonly Grant[];
  /** Groups that were ever asked for, whether or not anybody is in them now. */
  readonly groups: readonly string[];
  /** Ids of accounts that were made. */
  readonly made: readonly string[];
  /** Accounts that a request disabled, as long as that is the last that was done with them. */
  readonly shut: readonly { readonly person: string; readonly account: string; readonly request: string }[];
};

type Payload = { values?: Readonly<Record<string, unknown>> };
const words = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
/** What puts right what the directory holds is no reason of its own. */
export const mendingKey = 'mend:';

/** A call that was delivered or undone, as far as it tells who was given what. */
export type GivingCall = {
  readonly key: string;
  readonly request: string | null;
  readonly action: string | null;
  readonly state: string;
  readonly payload: unknown;
  readonly result: Readonly<Record<string, unknown>> | null;
};
/** Actions that give what stands on, and those that take it away again. */
export const givingOrTaking = [
  'add to group',
  'take out of group',
  'create account',
  'disable account',
  'create space',
] as const;

type Standing = Grant & { id: string };

const alike = (one: Standing, other: Standing): boolean =>
  (['id', 'person', 'account'] as const).some(name => one[name] !== '' && one[name] === other[name]);

/**
 * What stands of all that was given, by the key of the call that gave it: from that call until it is undone, or until a
 * later one takes it away: a step of another request, or a review.
 * @param calls of one connection, in the order in which they came to their end
 */
export function stillGiven(calls: readonly GivingCall[]): ReadonlyMap<string, Standing> {
  const standing = new Map<string, Standing>();
  const accounts = new Set<string>();
  for (const { key, request, action, state, payload, result } of calls) {
    if (state !== 'delivered') continue;
    // An account that was mended shut is shut; what puts a group right neither gives nor takes away.
    if (key.startsWith(mendingKey) && action !== 'disable account') continue;
    const values = (payload as Payload).values ?? {};
    const one = {
      id: words(result?.id),
      person: words(values.person),
      account: words(result?.account) || words(values.account),
      group: words(values.group),
      request,
    };
    if (action === 'create account') accounts.add(key);
    if (action === 'add to group' || action === 'create account' || action === 'create space') standing.set(key, one);
    if (action === 'disable account')
      for (const given of accounts) {
        const made = standing.get(given);
        if (made && alike(one, made)) standing.delete(given);
      }
    if (action === 'take out of group')
      for (const [given, other] of standing)
        if (other.group !== '' && other.group.toLowerCase() === one.group.toLowerCase() && alike(one, other))
          standing.delete(given);
  }
  return standing;
}

export async function grantsOf(db: Executor, connection: string): Promise<Granted> {
  const rows = await db
    .select({
      key: t.effects.key,
      request: t.effects.request,
      action: t.effects.action,
      state: t.effects.state,
      payload: t.effects.payload,
      result: t.effects.result,
    })
    .from(t.effects)
    .where(
      and(
        eq(t.effects.connection, connection),
        isNull(t.effects.undoes),
        inArray(t.effects.action, ['add to group', 'take out of group', 'create account', 'disable account']),
        inArray(t.effects.state, ['delivered', 'undone']),
      ),
    )
    .orderBy(asc(t.effects.doneAt), asc(t.effects.id));
  const standing = stillGiven(rows);
  const shut = new Map<string, Granted['shut'][number]>();
  for (const { action, state, payload, result, request } of rows) {
    const values = (payload as unknown as Payload).values ?? {};
    const person = words(values.person);
    const account = words(result?.account) || words(values.account);
    const key = account || person;
    if (action === 'disable account' && state === 'delivered' && request !== null)
      shut.set(key, { person, account, request });
    else if (action === 'create account') shut.delete(key);
  }
  const groups = new Map<string, string>();
  for (const { key, action, payload } of rows) {
    if (action !== 'add to group' || key.startsWith(mendingKey)) continue;
    const group = words((payload as unknown as Payload).values?.group);
    groups.set(group.toLowerCase(), groups.get(group.toLowerCase()) ?? group);
  }
  return {
    grants: rows.flatMap(({ key, action }) => {
      const one = action === 'add to group' ? standing.get(key) : undefined;
      if (!one) return [];
      const { id: _, ...grant } = one;
      return [grant];
    }),
    groups: [...groups.values()],
    shut: [...shut.values()],
    made: rows.flatMap(({ action, state, result }) =>
      action === 'create account' && state === 'delivered' && typeof result?.id === 'string' ? [result.id] : [],
    ),
  };
}

type EffectRow = typeof t.effects.$inferSelect;

/** What is given besides a membership that comes to its end: the oldest other one of the same account in the same group. */
export async function givenBesides(db: Executor, of: EffectRow): Promise<EffectRow | undefined> {
  if (of.action !== 'add to group' || of.state !== 'delivered') return undefined;
  const rows = await db
    .select()
    .from(t.effects)
    .where(
      and(
        eq(t.effects.connection, of.connection),
        isNull(t.effects.undoes),
        inArray(t.effects.action, ['add to group', 'take out of group']),
        inArray(t.effects.state, ['delivered', 'undone']),
      ),
    )
    .orderBy(asc(t.effects.doneAt), asc(t.effects.id));
  const standing = stillGiven(rows);
  const mine = standing.get(of.key);
  if (!mine) return undefined;
  const same = (one: Standing) =>
    one.group !== '' && one.group.toLowerCase() === mine.group.toLowerCase() && alike(one, mine);
  return rows.find(row => row.key !== of.key && same(standing.get(row.key) ?? nobody));
}
const nobody: Standing = { id: '', person: '', account: '', group: '', request: null };

/**
 * Whoever was put into a group first knows how it stood before; when that one ends and another stands, it is the other that
 * has to know, so that with the last of them it is as it was.
 */
export async function passOn(tx: Transaction, key: string): Promise<void> {
  const [ends] = await tx.select().from(t.effects).where(eq(t.effects.key, key)).for('update');
  const found = ends && (await givenBesides(tx, ends));
  const [other] = found ? await tx.select().from(t.effects).where(eq(t.effects.key, found.key)).for('update') : [];
  // Both came to their end at once: whoever is second takes it away.
  if (other?.state !== 'delivered') throw new Error('what gave the same has ended too');
  const before = ends?.result?.before;
  if (before === undefined || other.result?.before === false) return;
  await tx
    .update(t.effects)
    .set({ result: { ...other.result, before } })
    .where(eq(t.effects.key, other.key));
}

/** The groups that requests gave to one account, or to whoever it is on file. */
export async function groupsGiven(db: Executor, connection: string, who: { person: string; account: string }) {
  const { grants } = await grantsOf(db, connection);
  return grants
    .filter(
      one => (who.person !== '' && one.person === who.person) || (who.account !== '' && one.account === who.account),
    )
    .map(one => one.group);
}
