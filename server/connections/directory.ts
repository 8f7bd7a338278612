/**
 * A directory over SCIM 2.0 (RFC 7643, RFC 7644): accounts, groups and spaces. What is made is found by the key of the
 * effect before it is made again (`externalId`); before anything that is there already is changed, it is noted how it
 * stood, so that a lost answer is told from what was so before, and only what was done is taken back.
 */
import type { Offered, Offers } from '@north-pebble/core/workflow';
import { z } from 'zod';
import type { Answered, Asked, Connector, HoldsOrNot, HoldsReading } from './connector.ts';
import { after, failed, isLater, type Reply, send } from './sending.ts';

const Settings = z
  .object({
    address: z
      .url('Write an address that begins with https.')
      .max(500)
      .refine(text => /^https?:/.test(text), 'Write an address that begins with http or https.')
      .transform(text => text.replace(/\/+$/, '')),
    token: z.string().min(8, 'Use at least eight letters and figures.').max(500),
    inside: z.boolean().default(false),
  })
  .strict();
type Settings = z.output<typeof Settings>;

const user = 'urn:ietf:params:scim:schemas:core:2.0:User';
const enterprise = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
const space = 'urn:north-pebble:scim:2.0:Space';
const patchOp = 'urn:ietf:params:scim:api:messages:2.0:PatchOp';
const mostAnswer = 2_000_000;
/** So many of one name are told apart by a figure. */
const mostAlike = 99;

const Resource = z.looseObject({ id: z.string() });
type Resource = z.infer<typeof Resource>;
const Found = z.looseObject({ totalResults: z.number(), Resources: z.array(Resource).optional() });
const ScimFault = z.looseObject({ detail: z.string().optional(), scimType: z.string().optional() });

/** A call that ends what is being done: with a refusal, or to be tried again. */
class Stop extends Error {
  readonly answered: Answered;
  constructor(answered: Answered) {
    super(answered.state);
    this.answered = answered;
  }
}
const refuse = (reason: string): Stop => new Stop({ state: 'refused', reason: reason.slice(0, 300) });

function faultOf(reply: Reply): z.infer<typeof ScimFault> {
  try {
    const read = ScimFault.safeParse(JSON.parse(reply.text));
    return read.success ? read.data : {};
  } catch {
    return {};
  }
}
const wordsOf = (reply: Reply): string => (faultOf(reply).detail ?? `it answered ${reply.status}`).replace(/\.$/, '');

/** What stands behind a name or an id in a filter. */
const quoted = (text: string): string => JSON.stringify(text);

/** One directory to be asked, with its token. */
class Client {
  readonly #settings: Settings;
  constructor(settings: Settings) {
    this.#settings = settings;
  }

  /** @throws Stop where it is refused, or is to be tried again; a conflict comes back as it is */
  async call(method: string, path: string, body?: object, most = mostAnswer): Promise<Reply> {
    const { address, token, inside } = this.#settings;
    let reply: Reply;
    try {
      reply = await send(`${address}${path}`, {
        method,
        headers: {
          Authorization: `Bearer ${token}`,
          'Content-Type': 'application/scim+json',
          Accept: 'application/scim+json',
        },
        ...(body ? { body: JSON.stringify(body) } : {}),
        inside,
        most,
      });
    } catch (fault) {
      throw new Stop(failed(fault));
    }
    if (isLater(reply.status)) throw new Stop({ state: 'later', reason: wordsOf(reply), ...after(reply.retryAfter) });
    if (reply.status >= 400 && reply.status !== 409 && reply.status !== 404) throw refuse(wordsOf(reply));
    return reply;
  }

  #read(reply: Reply): Resource {
    const read = Resource.safeParse(JSON.parse(reply.text));
    if (!read.success) throw new Stop({ state: 'later', reason: 'it answered with what is no resource' });
    return read.data;
  }

  async get(path: string): Promise<Resource | null> {
    const reply = await this.call('GET', path);
    return reply.status === 404 ? null : this.#read(reply);
  }

  /** The only one for which a filter holds; nothing where there is none. */
  async find(
    type: 'Users' | 'Groups' | 'Spaces',
    filter: string,
    what: string,
    attributes = '',
  ): Promise<Resource | null> {
    const query = `filter=${encodeURIComponent(filter)}&count=2${attributes && `&attributes=${attributes}`}`;
    const reply = await this.call('GET', `/${type}?${query}`);
    const read = Found.safeParse(JSON.parse(reply.text));
    if (!read.success) throw new Stop({ state: 'later', reason: 'it answered with what is no list' });
    if (read.data.totalResults > 1) throw refuse(`there is more than one ${what}`);
    return read.data.Resources?.[0] ?? null;
  }

  /** The name itself, or with the smallest figure behind it that nobody has. */
  async freeName(wanted: string): Promise<string> {
    const filter = `userName sw ${quoted(wanted)}`;
    const reply = await this.call('GET', `/Users?filter=${encodeURIComponent(filter)}&attributes=userName&count=200`);
    const read = Found.safeParse(JSON.parse(reply.text));
    if (!read.success) throw new Stop({ state: 'later', reason: 'it answered with what is no list' });
    const taken = new Set((read.data.Resources ?? []).map(one => String(one.userName).toLowerCase()));
    for (let n = 1; n <= mostAlike; n++) {
      const name = n === 1 ? wanted : `${wanted}${n}`;
      if (!taken.has(name)) return name;
    }
    throw refuse(`there are ${mostAlike} of the name ${wanted} already`);
  }

  /** @returns what was made, or nothing where a name is taken */
  async make(type: 'Users' | 'Spaces', body: object): Promise<Resource | null> {
    const reply = await this.call('POST', `/${type}`, body);
    if (reply.status === 404) throw refuse(wordsOf(reply));
    return reply.status === 409 ? null : this.#read(reply);
  }

  async patch(path: string, ...Operations: object[]): Promise<Resource> {
    const reply = await this.call('PATCH', path, { schemas: [patchOp], Operations });
    if (reply.status === 404) throw refuse('it is not there any more');
    if (reply.status === 409) throw new Stop({ state: 'later', reason: wordsOf(reply) });
    return this.#read(reply);
  }
}

type Values = Asked['values'];
const text = (values: Values, ...names: string[]): string => {
  for (const name of names) {
    const value = values[name];
    if (typeof value === 'string' && value.trim() !== '') return value.trim();
  }
  return '';
};
const needed = (values: Values, what: string, ...names: string[]): string => {
  const found = text(values, ...names);
  if (found === '') throw refuse(`${what} is not said`);
  return found;
};

/** `Åse Müller-Lund` is `ase.muller-lund`: small letters, figures, dots and hyphens of the whole name. */
export const accountName = (name: string): string =>
  name
    .normalize('NFD')
    .replaceAll(/\p{M}/gu, '')
    .replaceAll('ß', 'ss')
    .replaceAll(/[øØ]/g, 'o')
    .replaceAll(/[æÆ]/g, 'ae')
    .replaceAll(/[łŁ]/g, 'l')
    .replaceAll(/[ðđÐĐ]/g, 'd')
    .replaceAll(/[þÞ]/g, 'th')
    .toLowerCase()
    .replaceAll(/[^a-z0-9-]+/g, '.')
    .replaceAll(/^[.-]+|[.-]+$/g, '')
    .slice(0, 60);

/** The account of a person on file, or the one of a name. */
async function accountOf(client: Client, values: Values): Promise<Resource> {
  const person = text(values, 'person');
  const account = text(values, 'account');
  if (person === '' && account === '') throw refuse('whose account it is is not said');
  const found =
    (person === ''
      ? null
      : await client.find('Users', `${enterprise}:employeeNumber eq ${quoted(person)}`, `account of ${person}`)) ??
    (account === '' ? null : await client.find('Users', `userName eq ${quoted(account)}`, `account ${account}`));
  if (!found) throw refuse(`there is no account of ${person || account}`);
  return found;
}

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

type Deed = (client: Client, asked: Asked) => Promise<Readonly<Record<string, unknown>>>;
type TakingBack = (client: Client, asked: Asked, result: Readonly<Record<string, unknown>>) => Promise<void>;

const byKey = (key: string): string => `externalId eq ${quoted(key)}`;

const createAccount: Deed = async (client, asked) => {
  const { key, values } = asked;
  const wanted = accountName(text(values, 'account') || needed(values, 'the name', 'name'));
  if (wanted === '') throw refuse('no account name can be made of that name');
  const told = (made: Resource) => {
    const account = String(made.userName);
    return {
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
const closeAccount: TakingBack = async (client, { key }) => {
  const made = await client.find('Users', byKey(key), 'account with this key');
  if (made) await client.patch(`/Users/${made.id}`, { op: 'replace', path: 'active', value: false });
};

/** What was noted before the first try, or what is so now, noted before it is changed. */
async function notedFirst<Facts extends Readonly<Record<string, unknown>>>(
  asked: Asked,
  now: () => Promise<Facts> | Facts,
): Promise<Facts> {
  if (asked.noted) return asked.noted as Facts;
  const facts = await now();
  await asked.note(facts);
  return facts;
}

const setActive =
  (active: boolean): Deed =>
  async (client, asked) => {
    const found = await accountOf(client, asked.values);
    const { before } = await notedFirst(asked, () => ({ before: found.active !== false, id: found.id }));
    await client.patch(`/Users/${found.id}`, { op: 'replace', path: 'active', value: active });
    return { account: String(found.userName), id: found.id, before };
  };

const disableAccount = setActive(false);
const enableAgain: TakingBack = async (client, _, { id, before }) => {
  if (typeof id === 'string' && before === true && (await client.get(`/Users/${id}`)))
    await client.patch(`/Users/${id}`, { op: 'replace', path: 'active', value: true });
};

const kept = ['displayName', 'name', 'active', 'title', 'emails', 'timezone', enterprise] as const;

const changeAccount: Deed = async (client, asked) => {
  const found = await accountOf(client, asked.values);
  const wanted = await attributesOf(client, asked.values);
  if (Object.keys(wanted).length === 0) throw refuse('nothing is said that changes');
  const { before } = await notedFirst(asked, () => ({
    id: found.id,
    before: Object.fromEntries(kept.filter(name => name in wanted).map(name => [name, found[name] ?? null])),
  }));
  await client.patch(`/Users/${found.id}`, { op: 'replace', value: wanted });
  return { account: String(found.userName), id: found.id, before };
};
const changeBack: TakingBack = async (client, _, { id, before }) => {
  if (typeof id !== 'string' || typeof before !== 'object' || before === null) return;
  if (!(await client.get(`/Users/${id}`))) return;
  const operations = Object.entries(before).map(([path, value]) =>
    value === null ? { op: 'remove', path } : { op: 'replace', value: { [path]: value } },
  );
  if (operations.length > 0) await client.patch(`/Users/${id}`, ...operations);
};

type Member = { value?: unknown };
const hasMember = (group: Resource, id: string): boolean =>
  Array.isArray(group.members) && (group.members as Member[]).some(one => one.value === id);

async function groupOf(client: Client, values: Values): Promise<Resource> {
  const name = needed(values, 'the group', 'group');
  const found =
    (await client.find('Groups', `displayName eq ${quoted(name)}`, `group ${name}`)) ??
    (/^[\w.-]+$/.test(name) ? await client.get(`/Groups/${name}`) : null);
  if (!found) throw refuse(`there is no group ${name}`);
  return found;
}

const membership =
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
const membershipBack: TakingBack = async (client, _, { group, id, before }) => {
  if (typeof group !== 'string' || typeof id !== 'string' || typeof before !== 'boolean') return;
  const found = await client.get(`/Groups/${group}`);
  // Whoever is gone is in no group; what was so before is left as it was.
  if (!found || hasMember(found, id) === before || !(await client.get(`/Users/${id}`))) return;
  await setMember(client, group, id, before);
};

const createSpace: Deed = async (client, asked) => {
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
const closeSpaceMade: TakingBack = async (client, { key }) => {
  const made = await client.find('Spaces', byKey(key), 'space with this key');
  if (made) await client.patch(`/Spaces/${made.id}`, { op: 'replace', path: 'closed', value: true });
};

const closeSpace: Deed = async (client, asked) => {
  const name = needed(asked.values, 'the space', 'space', 'name');
  const found = await client.find('Spaces', `displayName eq ${quoted(name)}`, `space ${name}`);
  if (!found) throw refuse(`there is no space called “${name}”`);
  const { before } = await notedFirst(asked, () => ({ before: found.closed === true, id: found.id }));
  await client.patch(`/Spaces/${found.id}`, { op: 'replace', path: 'closed', value: true });
  return { space: name, id: found.id, before };
};
const openAgain: TakingBack = async (client, _, { id, before }) => {
  if (typeof id === 'string' && before === false && (await client.get(`/Spaces/${id}`)))
    await client.patch(`/Spaces/${id}`, { op: 'replace', path: 'closed', value: false });
};

const deeds: Readonly<Record<string, { deed: Deed; back: TakingBack }>> = {
  'create account': { deed: createAccount, back: closeAccount },
  'change account': { deed: changeAccount, back: changeBack },
  'disable account': { deed: disableAccount, back: enableAgain },
  'add to group': { deed: membership(true), back: membershipBack },
  'take out of group': { deed: membership(false), back: membershipBack },
  'create space': { deed: createSpace, back: closeSpaceMade },
  'close space': { deed: closeSpace, back: openAgain },
};

const pageSize = 200;
const wholeAnswer = 20_000_000;
const Listed = z.looseObject({ totalResults: z.number(), Resources: z.array(Resource).default([]) });

/** Everything of one type, page by page; nothing where it was stopped. */
async function everything(
  client: Client,
  path: string,
  reading: HoldsReading,
  before: { read: number; total: number },
): Promise<Resource[] | null> {
  const found: Resource[] = [];
  for (let startIndex = 1; ; startIndex += pageSize) {
    if (reading.stopped()) return null;
    const reply = await client.call(
      'GET',
      `${path}&startIndex=${startIndex}&count=${pageSize}`,
      undefined,
      wholeAnswer,
    );
    const page = Listed.safeParse(JSON.parse(reply.text));
    if (!page.success) throw new Stop({ state: 'later', reason: 'it answered with what is no list' });
    found.push(...page.data.Resources);
    await reading.told(before.read + found.length, before.total + page.data.totalResults);
    if (page.data.Resources.length === 0 || found.length >= page.data.totalResults) return found;
  }
}

/** Where a directory tells when an account was last used; most do not. */
const use = 'urn:north-pebble:scim:2.0:Use';
const words = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null);
const partsOf = (resource: Resource): Record<string, unknown> => {
  const own = resource[enterprise];
  return typeof own === 'object' && own !== null ? (own as Record<string, unknown>) : {};
};

async function holds(settings: Settings, reading: HoldsReading): Promise<HoldsOrNot> {
  const client = new Client(settings);
  try {
    const attributes = `userName,displayName,active,${['employeeNumber', 'department', 'organization'].map(name => `${enterprise}:${name}`).join(',')},${use}:lastUsed`;
    const users = await everything(client, `/Users?sortBy=userName&attributes=${attributes}`, reading, {
      read: 0,
      total: 0,
    });
    const groups =
      users &&
      (await everything(client, '/Groups?sortBy=displayName', reading, { read: users.length, total: users.length }));
    if (!users || !groups) return { ok: false, reason: 'it was stopped' };
    return {
      ok: true,
      holds: {
        accounts: users.map(one => ({
          id: one.id,
          account: String(one.userName),
          person: words(partsOf(one).employeeNumber),
          name: words(one.displayName) ?? '',
          active: one.active !== false,
          department: words(partsOf(one).department),
          place: words(partsOf(one).organization),
          lastUsed: words((one[use] as Record<string, unknown> | undefined)?.lastUsed),
        })),
        groups: groups.map(one => ({
          id: one.id,
          name: String(one.displayName),
          members: Array.isArray(one.members) ? (one.members as Member[]).map(member => String(member.value)) : [],
        })),
      },
    };
  } catch (fault) {
    if (fault instanceof Stop && 'reason' in fault.answered) return { ok: false, reason: fault.answered.reason };
    if (fault instanceof SyntaxError) return { ok: false, reason: 'it answered with what is no JSON' };
    throw fault;
  }
}

const needs = (name: string, label: string): Offered => ({ name, label, needed: true });
const takes = (name: string, label: string): Offered => ({ name, label, needed: false });
const whose = [takes('person', 'whose it is, as they are on file'), takes('account', 'or the name of the account')];
const parts = [
  takes('title', 'the post'),
  takes('mail', 'the mail address'),
  takes('department', 'the department'),
  takes('place', 'the place'),
  takes('manager', 'the line manager, as they are on file'),
  takes('zone', 'the time zone'),
];
const offers: Offers = {
  'create account': [
    needs('name', 'the whole name'),
    takes('account', 'the name of the account, made of the whole name where nothing is said'),
    takes('person', 'whose it is, as they are on file'),
    takes('welcome', 'the mail address to which the page with the first password is sent'),
    ...parts,
  ],
  'change account': [...whose, takes('name', 'the whole name'), ...parts, takes('active', 'whether it can be used')],
  'disable account': whose,
  'add to group': [needs('group', 'the name of the group'), ...whose],
  'take out of group': [needs('group', 'the name of the group'), ...whose],
  'create space': [
    needs('name', 'the name of the space'),
    needs('owner', 'who answers for it'),
    takes('visibility', 'members, house or everybody'),
    takes('rights', 'what members may do: read, add or change'),
    takes('guests', 'whether people from outside may be let in'),
  ],
  'close space': [needs('space', 'the name of the space')],
};

/** @returns what came of it; a call that stops on the way says how */
async function settled(work: () => Promise<Readonly<Record<string, unknown>>>): Promise<Answered> {
  try {
    return { state: 'delivered', result: await work() };
  } catch (fault) {
    if (fault instanceof Stop) return fault.answered;
    if (fault instanceof SyntaxError) return { state: 'later', reason: 'it answered with what is no JSON' };
    throw fault;
  }
}

export const directoryConnector: Connector<Settings> = {
  name: 'A directory over SCIM 2.0',
  settings: Settings,
  fields: [
    { name: 'address', kind: 'address', label: 'Base address', help: 'As in https://directory.example/scim/v2.' },
    { name: 'token', kind: 'secret', label: 'Token', help: 'Whoever looks after the directory gives it.' },
    { name: 'inside', kind: 'yes', label: 'It may be in a private network, or on this machine', help: null },
  ],
  offers,
  deliver: (settings, asked) =>
    settled(async () => {
      const found = deeds[asked.action];
      if (!found) throw refuse(`a directory does not ${asked.action}`);
      return found.deed(new Client(settings), asked);
    }),
  undo: (settings, asked, result) =>
    settled(async () => {
      await deeds[asked.action]?.back(new Client(settings), asked, result);
      return {};
    }),
  holds,
  async setPassword(settings, id, password) {
    const answered = await settled(async () => {
      await new Client(settings).patch(`/Users/${encodeURIComponent(id)}`, {
        op: 'replace',
        path: 'password',
        value: password,
      });
      return {};
    });
    return answered.state === 'delivered' ? null : answered.reason;
  },
  async check(settings) {
    const answered = await settled(async () => {
      const reply = await new Client(settings).call('GET', '/ServiceProviderConfig');
      if (reply.status !== 200) throw refuse(wordsOf(reply));
      return {};
    });
    return answered.state === 'delivered' ? null : answered.reason;
  },
};
