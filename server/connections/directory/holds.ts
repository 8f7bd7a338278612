/** Everything that a directory holds, page by page. */
import { z } from 'zod';
import type { HoldsOrNot, HoldsReading, NamedThere, NamesOrNot } from '../connector.ts';
import { Client, enterprise, quoted, Resource, Stop } from './client.ts';
import type { Member } from './groups.ts';
import type { Settings } from './settings.ts';

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

export async function holds(settings: Settings, reading: HoldsReading): Promise<HoldsOrNot> {
  const client = new Client(settings);
  try {
    const attributes = `userName,displayName,active,title,${['employeeNumber', 'department', 'organization'].map(name => `${enterprise}:${name}`).join(',')},${use}:lastUsed`;
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
          post: words(one.title),
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

const mostNamed = 30;

/** Names of what is there, with these letters in them: enough to pick from. */
export async function named(settings: Settings, what: NamedThere, typed: string): Promise<NamesOrNot> {
  const client = new Client(settings);
  const filter = typed === '' ? '' : `&filter=${encodeURIComponent(`displayName co ${quoted(typed)}`)}`;
  const type = { groups: 'Groups', spaces: 'Spaces' }[what];
  try {
    const query = `sortBy=displayName&attributes=displayName&count=${mostNamed}${filter}`;
    const reply = await client.call('GET', `/${type}?${query}`);
    const read = Listed.safeParse(reply.status === 404 ? { totalResults: 0 } : JSON.parse(reply.text));
    if (!read.success) return { ok: false, reason: 'it answered with what is no list' };
    const names = read.data.Resources.map(one => String(one.displayName));
    return { ok: true, names, more: Math.max(0, read.data.totalResults - names.length) };
  } catch (fault) {
    if (fault instanceof Stop && 'reason' in fault.answered) return { ok: false, reason: fault.answered.reason };
    if (fault instanceof SyntaxError) return { ok: false, reason: 'it answered with what is no JSON' };
    throw fault;
  }
}
