/** One directory to be asked over SCIM 2.0 (RFC 7644): calls, and what its answers and its refusals mean. */
import { z } from 'zod';
import type { Answered } from '../connector.ts';
import { after, failed, isLater, type Reply, send } from '../sending.ts';
import type { Settings } from './settings.ts';

export const user = 'urn:ietf:params:scim:schemas:core:2.0:User';
export const enterprise = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
export const space = 'urn:north-pebble:scim:2.0:Space';
const patchOp = 'urn:ietf:params:scim:api:messages:2.0:PatchOp';
const mostAnswer = 2_000_000;
/** So many of one name are told apart by a figure. */
const mostAlike = 99;

export const Resource = z.looseObject({ id: z.string() });
export type Resource = z.infer<typeof Resource>;
const Found = z.looseObject({ totalResults: z.number(), Resources: z.array(Resource).optional() });
const ScimFault = z.looseObject({ detail: z.string().optional(), scimType: z.string().optional() });

/** A call that ends what is being done: with a refusal, or to be tried again. */
export class Stop extends Error {
  readonly answered: Answered;
  constructor(answered: Answered) {
    super(answered.state);
    this.answered = answered;
  }
}
export const refuse = (reason: string): Stop => new Stop({ state: 'refused', reason: reason.slice(0, 300) });

function faultOf(reply: Reply): z.infer<typeof ScimFault> {
  try {
    const read = ScimFault.safeParse(JSON.parse(reply.text));
    return read.success ? read.data : {};
  } catch {
    return {};
  }
}
export const wordsOf = (reply: Reply): string =>
  (faultOf(reply).detail ?? `it answered ${reply.status}`).replace(/\.$/, '');

/** What stands behind a name or an id in a filter. */
export const quoted = (text: string): string => JSON.stringify(text);

/** One directory to be asked, with its token. */
export class Client {
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

/** @returns what came of it; a call that stops on the way says how */
export async function settled(work: () => Promise<Readonly<Record<string, unknown>>>): Promise<Answered> {
  try {
    return { state: 'delivered', result: await work() };
  } catch (fault) {
    if (fault instanceof Stop) return fault.answered;
    if (fault instanceof SyntaxError) return { state: 'later', reason: 'it answered with what is no JSON' };
    throw fault;
  }
}
