/** The stand-in for a directory as the demo shows it: what it holds, changed by hand, and its switches. Demo only. */
import type { ChangeByHand, DirectoryRoomView, FindAccounts, Switches, TurnSwitches } from '@north-pebble/contract';
import { z } from 'zod';
import { ProblemError } from '../http/index.ts';

/** Where the stand-in is, and the token that it was started with. */
export type StandIn = { address: string; token: string };

const Named = z.looseObject({ id: z.string(), displayName: z.string().default('') });
const listed = <S extends z.ZodType>(of: S) =>
  z.looseObject({ totalResults: z.number(), Resources: z.array(of).default([]) });
const Users = listed(
  z.looseObject({
    id: z.string(),
    userName: z.string(),
    displayName: z.string().default(''),
    active: z.boolean().default(true),
    groups: z.array(z.looseObject({ display: z.string() })).default([]),
    meta: z.looseObject({ lastModified: z.string() }),
  }),
);
const Groups = listed(Named.extend({ members: z.array(z.unknown()).default([]) }));
const Spaces = listed(
  Named.extend({ closed: z.boolean().default(false), owner: z.looseObject({ displayName: z.string().default('') }) }),
);

async function ask({ address, token }: StandIn, method: string, path: string, body?: object): Promise<unknown> {
  const answer = await fetch(`${address}${path}`, {
    method,
    headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
    ...(body ? { body: JSON.stringify(body) } : {}),
    signal: AbortSignal.timeout(5000),
  });
  if (!answer.ok) throw new ProblemError('refused', `The directory answered ${answer.status}.`);
  return answer.json();
}

const empty: DirectoryRoomView = { reachable: false, switches: null, accounts: [], found: 0, groups: [], spaces: [] };

export async function directoryRoom(standIn: StandIn | null, { words }: FindAccounts): Promise<DirectoryRoomView> {
  if (!standIn) return empty;
  let switches: Switches | null = null;
  try {
    switches = (await ask(standIn, 'GET', '/switches')) as Switches;
    const said = JSON.stringify(words);
    const filter = words ? `&filter=${encodeURIComponent(`userName co ${said} or displayName co ${said}`)}` : '';
    const get = async <S extends z.ZodType>(schema: S, path: string): Promise<z.output<S>> =>
      schema.parse(await ask(standIn, 'GET', `/scim/v2${path}`));
    const [users, groups, spaces] = await Promise.all([
      get(Users, `/Users?sortBy=meta.lastModified&sortOrder=descending&count=40${filter}`),
      get(Groups, '/Groups?sortBy=displayName&count=100'),
      get(Spaces, '/Spaces?sortBy=meta.lastModified&sortOrder=descending&count=40'),
    ]);
    return {
      reachable: true,
      switches,
      found: users.totalResults,
      accounts: users.Resources.map(one => ({
        id: one.id,
        account: one.userName,
        name: one.displayName,
        active: one.active,
        groups: one.groups.map(group => group.display),
        changedAt: one.meta.lastModified,
      })),
      groups: groups.Resources.map(one => ({ id: one.id, name: one.displayName, members: one.members.length })),
      spaces: spaces.Resources.map(one => ({
        id: one.id,
        name: one.displayName,
        owner: one.owner.displayName,
        closed: one.closed,
      })),
    };
  } catch {
    // Switched off, it still says which switches are on.
    return { ...empty, switches };
  }
}

const mustBeThere = (standIn: StandIn | null): StandIn => {
  if (!standIn) throw new ProblemError('refused', 'There is no directory here.');
  return standIn;
};

export async function turnSwitches(standIn: StandIn | null, switches: TurnSwitches): Promise<Switches> {
  return (await ask(mustBeThere(standIn), 'PUT', '/switches', switches)) as Switches;
}

/** As somebody would who looks after the directory and knows nothing of North Pebble. */
export async function changeByHand(standIn: StandIn | null, id: string, { active }: ChangeByHand): Promise<void> {
  await ask(mustBeThere(standIn), 'PATCH', `/scim/v2/Users/${encodeURIComponent(id)}`, {
    schemas: ['urn:ietf:params:scim:api:messages:2.0:PatchOp'],
    Operations: [{ op: 'replace', path: 'active', value: active }],
  }).catch(fault => {
    if (fault instanceof ProblemError) throw fault;
    throw new ProblemError('refused', 'The directory does not answer. Take its switches back first.');
  });
}
