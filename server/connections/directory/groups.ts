/** Groups, and who is in them. */
import type { GroupChange, Standing } from '@north-pebble/core/access';
import { type Client, enterprise, quoted, type Resource, refuse } from './client.ts';
import { accountOf, type Deed, needed, notedFirst, type TakingBack, type Values } from './deed.ts';

export type Member = { value?: unknown };
const hasMember = (group: Resource, id: string): boolean =>
  Array.isArray(group.members) && (group.members as Member[]).some(one => one.value === id);

const named = (client: Client, name: string): Promise<Resource | null> =>
  client.find('Groups', `displayName eq ${quoted(name)}`, `group ${name}`);

async function groupOf(client: Client, values: Values): Promise<Resource> {
  const name = needed(values, 'the group', 'group');
  const found = (await named(client, name)) ?? (/^[\w.-]+$/.test(name) ? await client.get(`/Groups/${name}`) : null);
  if (!found) throw refuse(`there is no group ${name}`);
  return found;
}

/** Where an account stands, as the directory says. */
export const standingOf = (account: Readonly<Record<string, unknown>>): Standing => {
  const own = (account[enterprise] ?? {}) as Readonly<Record<string, unknown>>;
  const words = (value: unknown) => (typeof value === 'string' && value !== '' ? value : null);
  return { post: words(account.title), place: words(own.organization), department: words(own.department) };
};

/** Memberships before they are changed, by the id of the group. */
export type MembershipsBefore = Readonly<Record<string, boolean>>;
export type GroupsFound = {
  readonly before: MembershipsBefore;
  readonly joins: readonly Resource[];
  readonly leaves: readonly Resource[];
  /** Named by a rule, and not there. */
  readonly missing: readonly string[];
};

/** The groups that a change is about, as they stand. */
export async function findGroups(client: Client, account: string, change: GroupChange): Promise<GroupsFound> {
  const found = { joins: [] as Resource[], leaves: [] as Resource[] };
  const missing: string[] = [];
  for (const way of ['joins', 'leaves'] as const)
    for (const name of change[way]) {
      const group = await named(client, name);
      if (group) found[way].push(group);
      // Nobody is in a group that is not there: only who should join it misses it.
      else if (way === 'joins') missing.push(name);
    }
  const before = Object.fromEntries([...found.joins, ...found.leaves].map(one => [one.id, hasMember(one, account)]));
  return { ...found, before, missing };
}

/** Puts an account into groups and takes it out of others; whoever is where they should be is left there. */
export async function carryGroups(client: Client, account: string, { joins, leaves }: GroupsFound): Promise<void> {
  for (const group of joins) if (!hasMember(group, account)) await setMember(client, group.id, account, true);
  for (const group of leaves) if (hasMember(group, account)) await setMember(client, group.id, account, false);
}

/** What is told of it: names, for whoever reads the request. */
export const groupsTold = ({ joins, leaves, missing }: GroupsFound): Readonly<Record<string, string>> => {
  const names = (groups: readonly Resource[]) => groups.map(one => String(one.displayName)).join(', ');
  return {
    ...(joins.length > 0 ? { groups: names(joins) } : {}),
    ...(leaves.length > 0 ? { 'groups left': names(leaves) } : {}),
    ...(missing.length > 0 ? { 'no such group': missing.join(', ') } : {}),
  };
};

/** Memberships as they were; whoever is gone is in no group. */
export async function groupsBack(client: Client, account: string, before: unknown): Promise<void> {
  if (typeof before !== 'object' || before === null) return;
  for (const [id, was] of Object.entries(before)) {
    const group = await client.get(`/Groups/${id}`);
    if (group && typeof was === 'boolean' && hasMember(group, account) !== was)
      await setMember(client, id, account, was);
  }
}

export const membership =
  (wanted: boolean): Deed =>
  async (client, asked) => {
    const group = await groupOf(client, asked.values);
    const account = await accountOf(client, asked.values);
    const { before } = await notedFirst(asked, () => ({
      before: hasMember(group, account.id),
      group: group.id,
      id: account.id,
    }));
    if (hasMember(group, account.id) !== wanted) await setMember(client, group.id, account.id, wanted);
    return { group: group.id, id: account.id, account: String(account.userName), before };
  };
const setMember = (client: Client, group: string, id: string, wanted: boolean) =>
  client.patch(
    `/Groups/${group}`,
    wanted
      ? { op: 'add', path: 'members', value: [{ value: id }] }
      : { op: 'remove', path: `members[value eq ${quoted(id)}]` },
  );
export const membershipBack: TakingBack = async (client, _, { group, id, before }) => {
  if (typeof group !== 'string' || typeof id !== 'string' || typeof before !== 'boolean') return;
  const found = await client.get(`/Groups/${group}`);
  // Whoever is gone is in no group; what was so before is left as it was.
  if (!found || hasMember(found, id) === before || !(await client.get(`/Users/${id}`))) return;
  await setMember(client, group, id, before);
};
