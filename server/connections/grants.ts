/** What requests gave through a connection and nobody has taken away again: memberships, and accounts that they made. */
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { type Executor, tables as t } from '../database/index.ts';

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
};

type Payload = { values?: Readonly<Record<string, unknown>> };
const words = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
/** What puts right what the directory holds is no reason of its own. */
export const mendingKey = 'mend:';

/**
 * A membership stands from the call that gave it until it is undone, or until a later one takes it out: a step of another
 * request, or a review.
 */
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
        inArray(t.effects.action, ['add to group', 'take out of group', 'create account']),
        inArray(t.effects.state, ['delivered', 'undone']),
      ),
    )
    .orderBy(asc(t.effects.doneAt), asc(t.effects.id));
  const made: string[] = [];
  const groups = new Map<string, string>();
  const standing = new Map<string, Grant & { id: string }>();
  for (const { key, request, action, state, payload, result } of rows) {
    if (action === 'create account') {
      if (state === 'delivered' && typeof result?.id === 'string') made.push(result.id);
      continue;
    }
    if (key.startsWith(mendingKey)) continue;
    const values = (payload as unknown as Payload).values ?? {};
    const one = {
      id: words(result?.id),
      person: words(values.person),
      account: words(result?.account) || words(values.account),
      group: words(values.group),
      request,
    };
    const folded = one.group.toLowerCase();
    if (action === 'add to group') {
      groups.set(folded, groups.get(folded) ?? one.group);
      if (state === 'delivered') standing.set(key, one);
      continue;
    }
    if (state !== 'delivered') continue;
    const same = (name: 'id' | 'person' | 'account', other: Grant & { id: string }) =>
      one[name] !== '' && one[name] === other[name];
    for (const [given, other] of standing)
      if (
        other.group.toLowerCase() === folded &&
        (same('id', other) || same('person', other) || same('account', other))
      )
        standing.delete(given);
  }
  return {
    grants: [...standing.values()].map(({ id: _, ...grant }) => grant),
    groups: [...groups.values()],
    made,
  };
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
