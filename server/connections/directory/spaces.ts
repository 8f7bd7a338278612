/** Shared spaces: made once by their name, closed and opened again. */
import { quoted, type Resource, refuse, Stop, space } from './client.ts';
import { accountOf, byKey, type Deed, needed, notedFirst, type TakingBack, text } from './deed.ts';

export const createSpace: Deed = async (client, asked) => {
  const { key, values } = asked;
  const before = await client.find('Spaces', byKey(key), 'space with this key');
  const told = (made: Resource) => ({ space: String(made.displayName), id: made.id });
  if (before) return told(before);
  const displayName = needed(values, 'the name of the space', 'name', 'space');
  const owner = await accountOf(client, { person: text(values, 'owner', 'person'), account: text(values, 'owner') });
  const [visibility, memberRights] = [text(values, 'visibility'), text(values, 'rights')];
  const made = await client.make('Spaces', {
    schemas: [space],
    externalId: key,
    displayName,
    owner: { value: owner.id },
    ...(visibility ? { visibility } : {}),
    ...(memberRights ? { memberRights } : {}),
    ...(typeof values.guests === 'boolean' ? { guests: values.guests } : {}),
    members: [{ value: owner.id }],
  });
  if (made) return told(made);
  const other = await client.find('Spaces', `displayName eq ${quoted(displayName)}`, `space ${displayName}`);
  if (!other) throw new Stop({ state: 'later', reason: `${displayName} is said to be taken, and nothing has it` });
  if (other.externalId === key) return told(other);
  throw refuse(`there is a space called “${displayName}” already`);
};
export const closeSpaceMade: TakingBack = async (client, { key }) => {
  const made = await client.find('Spaces', byKey(key), 'space with this key');
  if (made) await client.patch(`/Spaces/${made.id}`, { op: 'replace', path: 'closed', value: true });
};

export const closeSpace: Deed = async (client, asked) => {
  const name = needed(asked.values, 'the space', 'space', 'name');
  const found = await client.find('Spaces', `displayName eq ${quoted(name)}`, `space ${name}`);
  if (!found) throw refuse(`there is no space called “${name}”`);
  const { before } = await notedFirst(asked, () => ({ before: found.closed === true, id: found.id }));
  await client.patch(`/Spaces/${found.id}`, { op: 'replace', path: 'closed', value: true });
  return { space: name, id: found.id, before };
};
export const openAgain: TakingBack = async (client, _, { id, before }) => {
  if (typeof id === 'string' && before === false && (await client.get(`/Spaces/${id}`)))
    await client.patch(`/Spaces/${id}`, { op: 'replace', path: 'closed', value: false });
};
