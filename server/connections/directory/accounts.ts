/** Accounts: made under a name that nobody has, changed, closed and opened again. */

import { groupChange, groupsBy, type Standing } from '@north-pebble/core/access';
import { plainLetters } from '@north-pebble/core/people';
import { type Client, enterprise, quoted, type Resource, refuse, Stop, user } from './client.ts';
import { accountOf, byKey, type Deed, needed, notedFirst, type TakingBack, text, type Values } from './deed.ts';
import { carryGroups, findGroups, groupsBack, groupsTold, standingOf } from './groups.ts';

/** `Åse Müller-Lund` is `ase.muller-lund`: small letters, figures, dots and hyphens of the whole name. */
export const accountName = (name: string): string =>
  plainLetters(name)
    .replaceAll(/[^a-z0-9-]+/g, '.')
    .replaceAll(/^[.-]+|[.-]+$/g, '')
    .slice(0, 60);

async function attributesOf(client: Client, values: Values): Promise<Record<string, unknown>> {
  const name = text(values, 'name');
  const [title, mail, zone] = [text(values, 'title'), text(values, 'mail'), text(values, 'zone')];
  const [person, department, place] = [text(values, 'person'), text(values, 'department'), text(values, 'place')];
  const manager = text(values, 'manager');
  const lead =
    manager === '' ? null : await client.find('Users', `${enterprise}:employeeNumber eq ${quoted(manager)}`, 'manager');
  const where = {
    ...(person ? { employeeNumber: person } : {}),
    ...(department ? { department } : {}),
    ...(place ? { organization: place } : {}),
    ...(lead ? { manager: { value: lead.id } } : {}),
  };
  return {
    ...(name ? { displayName: name, name: { formatted: name } } : {}),
    ...(typeof values.active === 'boolean' ? { active: values.active } : {}),
    ...(title ? { title } : {}),
    ...(mail ? { emails: [{ value: mail, type: 'work', primary: true }] } : {}),
    ...(zone ? { timezone: zone } : {}),
    ...(Object.keys(where).length > 0 ? { [enterprise]: where } : {}),
  };
}

export const createAccount: Deed = async (client, asked, { groups }) => {
  const { key, values } = asked;
  const wanted = accountName(text(values, 'account') || needed(values, 'the name', 'name'));
  if (wanted === '') throw refuse('no account name can be made of that name');
  const told = async (made: Resource) => {
    const account = String(made.userName);
    const found = await findGroups(client, made.id, { joins: groupsBy(groups, standingOf(made)), leaves: [] });
    await carryGroups(client, made.id, found);
    return {
      ...groupsTold(found),
      account,
      id: made.id,
      ...(account === wanted ? {} : { clash: `${wanted} was taken, so it is ${account}` }),
    };
  };
  const before = await client.find('Users', byKey(key), 'account with this key');
  if (before) return told(before);
  const attributes = await attributesOf(client, values);
  const userName = await client.freeName(wanted);
  const made = await client.make('Users', {
    schemas: [user, enterprise],
    externalId: key,
    userName,
    active: true,
    ...attributes,
  });
  if (made) return told(made);
  // Somebody else was quicker, or something is wrong there; the next try finds what is free then.
  throw new Stop({ state: 'later', reason: `the name ${userName} was taken meanwhile` });
};

/** Closed and kept: what somebody wrote under it is not lost, and its name is not given to another. */
export const closeAccount: TakingBack = async (client, { key }, _, { groups }) => {
  const made = await client.find('Users', byKey(key), 'account with this key');
  if (!made) return;
  await client.patch(`/Users/${made.id}`, { op: 'replace', path: 'active', value: false });
  const leaves = groupsBy(groups, standingOf(made));
  await carryGroups(client, made.id, await findGroups(client, made.id, { joins: [], leaves }));
};

const setActive =
  (active: boolean): Deed =>
  async (client, asked) => {
    const found = await accountOf(client, asked.values);
    const { before } = await notedFirst(asked, () => ({ before: found.active !== false, id: found.id }));
    await client.patch(`/Users/${found.id}`, { op: 'replace', path: 'active', value: active });
    return { account: String(found.userName), id: found.id, before };
  };

export const disableAccount = setActive(false);
export const enableAgain: TakingBack = async (client, _, { id, before }) => {
  if (typeof id === 'string' && before === true && (await client.get(`/Users/${id}`)))
    await client.patch(`/Users/${id}`, { op: 'replace', path: 'active', value: true });
};

const kept = ['displayName', 'name', 'active', 'title', 'emails', 'timezone', enterprise] as const;

/** Values of a part are added to those that are there, as a patch of the account will. */
const afterwards = (found: Resource, wanted: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> => ({
  ...found,
  ...wanted,
  [enterprise]: { ...((found[enterprise] ?? {}) as object), ...((wanted[enterprise] ?? {}) as object) },
});

/** A new post, place or department brings its groups, and takes those of the old one away. */
export const changeAccount: Deed = async (client, asked, { groups: rules }) => {
  const found = await accountOf(client, asked.values);
  const wanted = await attributesOf(client, asked.values);
  if (Object.keys(wanted).length === 0) throw refuse('nothing is said that changes');
  const given = await asked.keeps({ person: text(asked.values, 'person'), account: String(found.userName) });
  const changeFrom = (before: Standing) => groupChange(rules, before, standingOf(afterwards(found, wanted)), given);
  const noted = await notedFirst(asked, async () => {
    const standing = standingOf(found);
    return {
      id: found.id,
      before: Object.fromEntries(kept.filter(name => name in wanted).map(name => [name, found[name] ?? null])),
      standing,
      groups: (await findGroups(client, found.id, changeFrom(standing))).before,
    };
  });
  await client.patch(`/Users/${found.id}`, { op: 'replace', value: wanted });
  const groups = await findGroups(client, found.id, changeFrom(noted.standing));
  await carryGroups(client, found.id, groups);
  const { id, before, groups: members } = noted;
  return { account: String(found.userName), id, before, ...groupsTold(groups), members };
};
export const changeBack: TakingBack = async (client, _, { id, before, ...rest }) => {
  if (typeof id !== 'string' || typeof before !== 'object' || before === null) return;
  if (!(await client.get(`/Users/${id}`))) return;
  const operations = Object.entries(before).map(([path, value]) =>
    value === null ? { op: 'remove', path } : { op: 'replace', value: { [path]: value } },
  );
  if (operations.length > 0) await client.patch(`/Users/${id}`, ...operations);
  await groupsBack(client, id, rest.members ?? rest.groups);
};
