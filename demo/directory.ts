/**
 * The accounts, groups and spaces of the demo as the stand-in for a directory holds them: everybody who works here, and what
 * the history asked for, with the keys by which it was asked.
 */
import { type GroupRule, groupsBy } from '@north-pebble/core/access';
import { indexDirectory, type Person, postsOf, recordOn } from '@north-pebble/core/people';
import { addDays } from '@north-pebble/core/time';
import { ScimDirectory, typeNamed } from '../standins/directory/directory.ts';
import { demoNow, type History } from './history/index.ts';
import { lists } from './lists.ts';
import { demoDay } from './organisation.ts';

const user = 'urn:ietf:params:scim:schemas:core:2.0:User';
const use = 'urn:north-pebble:scim:2.0:Use';
const enterprise = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
const group = 'urn:ietf:params:scim:schemas:core:2.0:Group';
const space = 'urn:north-pebble:scim:2.0:Space';
const message = 'urn:ietf:params:scim:api:messages:2.0:PatchOp';

/** Groups that go with working here, with a place, with a post or with a department. */
export const groupRules: readonly GroupRule[] = [
  { by: 'everybody', value: '', group: 'House news' },
  { by: 'place', value: 'Ovay Station', group: 'Ovay Station' },
  { by: 'place', value: 'Skarn Light', group: 'Skarn Light' },
  { by: 'department', value: 'Observatory', group: 'Tide readings' },
  { by: 'post', value: 'Travel desk', group: 'Crossings' },
];

/** What each effect of the history brought about, by its key: what is needed to take it back. */
export type Provided = ReadonlyMap<string, Readonly<Record<string, unknown>>>;

const accountOf = ({ mail }: Person): string => mail.slice(0, mail.indexOf('@'));

/** What somebody has done there by hand, so that there is something to find: the demo is not tidier than houses are. */
function differ(
  directory: ScimDirectory,
  byPerson: ReadonlyMap<string, string>,
  { directory: { people } }: History,
): void {
  const [users, groups] = (['User', 'Group'] as const).map(typeNamed);
  const patch = (type: typeof users, id: string, operation: object) =>
    directory.patch(type, id, { schemas: [message], Operations: [operation] });
  const left = people.find(one => one.left !== null && one.left < demoDay);
  const own = (person: string): string => byPerson.get(person) ?? '';
  // Whoever has left can still use the account.
  if (left) patch(users, own(left.id), { op: 'replace', path: 'active', value: true });
  // Somebody moved, and nobody told the directory.
  patch(users, own('ines'), { op: 'replace', path: `${enterprise}:organization`, value: 'Skarn Light' });
  // The letters for the station do not reach one of those who work there.
  const [station] = directory.store.all('Group').filter(one => one.displayName === 'Ovay Station');
  const [absent] = (station.members as { value: string }[] | undefined) ?? [];
  if (absent) patch(groups, station.id, { op: 'remove', path: `members[value eq "${absent.value}"]` });
  // In a group without a request, and out of one in spite of one.
  const [tide] = directory.store.all('Group').filter(one => one.displayName === 'Tide console');
  patch(groups, tide.id, { op: 'add', path: 'members', value: [{ value: own('tobias') }] });
  const [member] = (tide.members as { value: string }[] | undefined) ?? [];
  if (member) patch(groups, tide.id, { op: 'remove', path: `members[value eq "${member.value}"]` });
  // Made by hand for somebody who never came.
  directory.create(users, { schemas: [user], userName: 'test.test', displayName: 'Test' });
}

/** @param folder where the directory keeps it; it is empty */
export function fillDirectory(folder: string, history: History): Provided {
  const directory = new ScimDirectory(
    folder,
    () => '/scim/v2',
    () => new Date(demoNow),
  );
  const [users, groups, spaces] = (['User', 'Group', 'Space'] as const).map(typeNamed);
  const results = new Map<string, Readonly<Record<string, unknown>>>();
  const byPerson = new Map<string, string>();
  const byRule = new Map(groupRules.map(({ group: name }) => [name, [] as string[]]));
  const index = indexDirectory(history.directory);
  const made = history.provided.filter(one => one.effect.action === 'create account');
  const { people, places, departments } = history.directory;
  for (const person of people) {
    // Whoever comes next has no account yet.
    if (person.joined > demoDay) continue;
    const account = accountOf(person);
    const asked = made.find(one => one.effect.values.account === account);
    const { place, department } = recordOn(person, demoDay);
    const where = {
      place: places.find(one => one.id === place)?.name ?? place,
      department: departments.find(one => one.id === department)?.name ?? department,
    };
    const [post = null, ...others] = postsOf(index, person.id, demoDay).map(one => one.title);
    const resource = directory.create(users, {
      schemas: [user, enterprise, use],
      userName: account,
      ...(asked ? { externalId: asked.effect.key } : {}),
      displayName: person.name,
      name: { formatted: person.name },
      active: person.left === null || person.left >= demoDay,
      emails: [{ value: person.mail, type: 'work', primary: true }],
      [enterprise]: {
        employeeNumber: person.id,
        department: where.department,
        organization: where.place,
      },
      ...(post === null ? {} : { title: post }),
      [use]: { lastUsed: lastUsed(person.id) },
    });
    byPerson.set(person.id, resource.id);
    if (resource.active)
      for (const title of [post, ...others])
        for (const name of groupsBy(groupRules, { ...where, post: title })) byRule.get(name)?.push(resource.id);
    if (asked) results.set(asked.effect.key, { account, id: resource.id });
  }
  // Accounts of those who are not on file: they are to come, or never came.
  for (const { request, effect } of made) {
    if (results.has(effect.key)) continue;
    const isTaken = history.requests.find(one => one.id === request)?.state.status === 'withdrawn';
    const name = String(effect.values.name);
    const resource = directory.create(users, {
      schemas: [user],
      userName: String(effect.values.account),
      externalId: effect.key,
      displayName: name,
      name: { formatted: name },
      active: !isTaken,
    });
    results.set(effect.key, { account: resource.userName, id: resource.id });
  }
  const titles = lists.find(one => one.id === 'groups')?.rows.map(row => row.title) ?? [];
  const members = new Map<string, string[]>([...titles.map(title => [title, []] as [string, string[]]), ...byRule]);
  for (const { effect } of history.provided) {
    const { values } = effect;
    const id = byPerson.get(String(values.person ?? values.owner));
    if (effect.action === 'add to group' && id) {
      const isOver = effect.undoAt !== null && effect.undoAt < demoNow;
      if (!isOver) members.get(String(values.group))?.push(id);
      results.set(effect.key, { id, group: String(values.group), before: false });
    }
    if (effect.action === 'create space' && id) {
      const resource = directory.create(spaces, {
        schemas: [space],
        displayName: String(values.name),
        externalId: effect.key,
        owner: { value: id },
        guests: values.guests === true,
        members: [{ value: id }],
      });
      results.set(effect.key, { space: resource.displayName, id: resource.id });
    }
  }
  for (const [displayName, all] of members) {
    const { id } = directory.create(groups, { schemas: [group], displayName });
    if (all.length > 0)
      directory.patch(groups, id, {
        schemas: [message],
        Operations: [{ op: 'add', path: 'members', value: [...new Set(all)].map(value => ({ value })) }],
      });
    for (const [key, result] of results) if (result.group === displayName) results.set(key, { ...result, group: id });
  }
  differ(directory, byPerson, history);
  directory.store.close();
  return results;
}

/** Some day of the last months: most use it every week, some have not for long. */
export function lastUsed(person: string): string {
  const n = [...person].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 9973, 7);
  const day = addDays(demoDay, -(n % 5 === 0 ? 40 + (n % 160) : 1 + (n % 9)));
  return `${day}T${String(6 + (n % 12)).padStart(2, '0')}:${String(n % 60).padStart(2, '0')}:00Z`;
}
