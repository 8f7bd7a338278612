/**
 * A server of SCIM 2.0 (RFC 7644) for directories that tell of people: create, change, switch off. People are kept by the
 * same changes as by hand; nobody is deleted, what they did names them.
 */

import { createHash, timingSafeEqual } from 'node:crypto';
import { todayFor } from '@north-pebble/core/people';
import { eq } from 'drizzle-orm';
import express, { type Request, type RequestHandler, type Response } from 'express';
import { z } from 'zod';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { ProblemError } from '../http/index.ts';
import {
  enterpriseSchema,
  errorSchema,
  IncomingUser,
  type Known,
  listSchema,
  userOf,
  userSchema,
  workSchema,
} from './resource.ts';
import { addUser, changeUser, NotTaken } from './users.ts';

const media = 'application/scim+json';
const readBody = express.json({ limit: '200kb', inflate: false, type: [media, 'application/json'] });
const mostResults = 200;

export const hashOfToken = (token: string): string => createHash('sha256').update(token).digest('hex');

const same = (a: string, b: string): boolean => timingSafeEqual(Buffer.from(a), Buffer.from(b));

function answer(response: Response, status: number, body?: object): void {
  response.status(status);
  if (body === undefined) response.end();
  else response.type(media).send(JSON.stringify(body));
}
const refuse = (response: Response, status: number, detail: string, scimType?: string): void =>
  answer(response, status, {
    schemas: [errorSchema],
    status: String(status),
    detail,
    ...(scimType ? { scimType } : {}),
  });

const Operation = z.object({
  op: z
    .string()
    .max(10)
    .transform(op => op.toLowerCase())
    .pipe(z.enum(['add', 'replace', 'remove'])),
  path: z.string().max(300).optional(),
  value: z.unknown().optional(),
});
const Patch = z.object({ Operations: z.array(Operation).min(1).max(50) });

/** What is not offered in a schema is named by no path, and what is only read is not written. */
function mustBeOffered(schema: string, name: string): void {
  const offered = schemas
    .find(one => one.id === schema)
    ?.attributes.find(one => one.name.toLowerCase() === name.toLowerCase());
  if (!offered) throw new NotTaken('invalidPath', `${name.slice(0, 80)} is not kept here.`);
  if (offered.name !== name) throw new NotTaken('invalidPath', `Write it ${offered.name}.`);
  if (offered.mutability === 'readOnly') throw new NotTaken('mutability', `${name} is only read here.`);
}

/** A user as it stands, with operations of a patch put on it: whole attributes, and those of extensions by their path. */
function patched(user: Record<string, unknown>, operations: z.infer<typeof Patch>['Operations']): unknown {
  const next = structuredClone(user);
  let isShown = false;
  const put = (path: string, value: unknown): void => {
    const urn = [enterpriseSchema, workSchema, userSchema].find(one =>
      path.toLowerCase().startsWith(`${one.toLowerCase()}:`),
    );
    if (urn && urn !== userSchema) {
      const [first = '', second] = path.slice(urn.length + 1).split('.');
      mustBeOffered(urn, first);
      // Some directories send the manager's id alone.
      const isManager = first.toLowerCase() === 'manager' && second === undefined && typeof value === 'string';
      const named = second === undefined ? (isManager ? { value } : value) : { [second]: value };
      next[urn] = { ...(next[urn] as object | undefined), [first]: named };
      return;
    }
    const plain = urn ? path.slice(urn.length + 1) : path;
    if ([enterpriseSchema, workSchema].includes(plain) && typeof value === 'object') {
      for (const [name, one] of Object.entries(value ?? {})) put(`${plain}:${name}`, one);
      return;
    }
    if (/^emails(\[.*\])?(\.value)?$/i.test(plain)) {
      next.emails = Array.isArray(value) ? value : [{ value, primary: true }];
      return;
    }
    const [first = '', second] = plain.split('.');
    mustBeOffered(userSchema, first);
    if (second === undefined) next[first] = value;
    else next[first] = { ...(next[first] as object | undefined), [second]: value };
    if (first === 'displayName') isShown = true;
    // A name that is given in parts takes the place of the whole.
    if (first === 'name' && second !== undefined && second !== 'formatted')
      next.name = { ...(next.name as object), formatted: null };
    if (first === 'name' && !isShown) next.displayName = null;
  };
  for (const { op, path, value } of operations) {
    if (op === 'remove') {
      if (path === undefined) throw new NotTaken('noTarget', 'Say what is removed.');
      if (path.toLowerCase() !== 'externalid')
        throw new NotTaken('mutability', `${path} is always there: replace it instead.`);
      put('externalId', null);
    } else if (path !== undefined) put(path, value);
    else for (const [name, one] of Object.entries((value ?? {}) as object)) put(name, one);
  }
  // Some directories send what is true or false as a word.
  if (typeof next.active === 'string') next.active = next.active.toLowerCase() === 'true';
  return next;
}

/** `userName eq "ines"`, and the same of the other names that a directory looks people up by. */
function filterOf(text: string): (one: { user: ReturnType<typeof userOf> }) => boolean {
  const found = /^\s*(userName|externalId|id|displayName|emails\.value|emails)\s+eq\s+"((?:[^"\\]|\\.)*)"\s*$/i.exec(
    text,
  );
  if (!found)
    throw new NotTaken('invalidFilter', 'Filters are userName, externalId, id, displayName or emails eq "…".');
  const wanted = (JSON.parse(`"${found[2]}"`) as string).toLowerCase();
  const name = (found[1] ?? '').toLowerCase();
  return ({ user }) => {
    const values = {
      username: user.userName,
      externalid: 'externalId' in user ? user.externalId : '',
      id: user.id,
      displayname: user.displayName,
    };
    if (name.startsWith('emails')) return user.emails.some(one => one.value.toLowerCase() === wanted);
    return (values[name as keyof typeof values] ?? '').toLowerCase() === wanted;
  };
}

const configuration = {
  schemas: ['urn:ietf:params:scim:schemas:core:2.0:ServiceProviderConfig'],
  patch: { supported: true },
  bulk: { supported: false, maxOperations: 0, maxPayloadSize: 0 },
  filter: { supported: true, maxResults: mostResults },
  changePassword: { supported: false },
  sort: { supported: false },
  etag: { supported: false },
  authenticationSchemes: [
    { type: 'oauthbearertoken', name: 'Token', description: 'A token that North Pebble gave once.' },
  ],
};
const resourceType = {
  schemas: ['urn:ietf:params:scim:schemas:core:2.0:ResourceType'],
  id: 'User',
  name: 'User',
  endpoint: '/Users',
  schema: userSchema,
  schemaExtensions: [
    { schema: enterpriseSchema, required: false },
    { schema: workSchema, required: false },
  ],
};
type Attribute = { name: string; mutability: string };
const attribute = (name: string, more: object = {}): Attribute => ({
  ...{ name, type: 'string', multiValued: false, required: false, caseExact: false, mutability: 'readWrite' },
  ...{ returned: 'default', uniqueness: 'none', ...more },
});
const schema = (id: string, name: string, attributes: Attribute[]) => ({
  schemas: ['urn:ietf:params:scim:schemas:core:2.0:Schema'],
  ...{ id, name, attributes },
});
const schemas = [
  schema(userSchema, 'User', [
    attribute('userName', { required: true, uniqueness: 'server' }),
    attribute('externalId', { caseExact: true }),
    attribute('displayName'),
    attribute('name', {
      type: 'complex',
      subAttributes: [attribute('formatted'), attribute('givenName'), attribute('familyName')],
    }),
    attribute('title'),
    attribute('active', { type: 'boolean' }),
    attribute('emails', {
      type: 'complex',
      multiValued: true,
      subAttributes: [attribute('value'), attribute('primary', { type: 'boolean' })],
    }),
  ]),
  schema(enterpriseSchema, 'EnterpriseUser', [
    attribute('department'),
    attribute('organization'),
    attribute('manager', {
      type: 'complex',
      subAttributes: [attribute('value'), attribute('displayName', { mutability: 'readOnly' })],
    }),
    attribute('employeeNumber', { mutability: 'readOnly' }),
  ]),
  schema(workSchema, 'Work', [attribute('firstDay', { mutability: 'immutable' })]),
];
const listed = (all: readonly object[], start = 1, total = all.length) => ({
  schemas: [listSchema],
  totalResults: total,
  startIndex: start,
  itemsPerPage: all.length,
  Resources: all,
});

export function scimServer(house: House): RequestHandler {
  const base = `${house.address}/scim/v2`;
  async function users() {
    const moment = await house.moment(house.db);
    const rows = await house.db.select().from(t.incomingPeople);
    const names = new Map<string, Known>(rows.map(row => [row.person, row]));
    return moment.index.directory.people.map(person => {
      const known = names.get(person.id) ?? { userName: person.mail, externalId: null };
      return { person, user: userOf(moment.index, person, known, todayFor(moment.index, person.id, moment.now), base) };
    });
  }
  const one = async (id: string) => (await users()).find(({ person }) => person.id === id);
  async function serve(request: Request, response: Response): Promise<void> {
    const [, what = '', id] = request.path.split('/').map(decodeURIComponent);
    const { method } = request;
    if (method === 'GET' && what === 'ServiceProviderConfig') return answer(response, 200, configuration);
    if (method === 'GET' && what === 'ResourceTypes') return answer(response, 200, listed([resourceType]));
    if (method === 'GET' && what === 'Schemas') return answer(response, 200, listed(schemas));
    if (what !== 'Users') return refuse(response, 404, 'There is no such resource.');
    if (id === undefined) {
      if (method === 'GET') return find(request, response);
      if (method !== 'POST') return refuse(response, 405, 'Users are read here, and created.');
      const person = await addUser(house, IncomingUser.parse(request.body));
      const made = await one(person);
      if (!made) throw new Error(`${person} was created and is not there`);
      response.setHeader('Location', made.user.meta.location);
      return answer(response, 201, made.user);
    }
    const found = await one(id);
    if (!found) return refuse(response, 404, 'There is no such user.');
    switch (method) {
      case 'GET':
        return answer(response, 200, found.user);
      case 'PUT':
        await changeUser(house, found.person, IncomingUser.parse(request.body));
        break;
      case 'PATCH': {
        const { Operations } = Patch.parse(request.body);
        await changeUser(house, found.person, IncomingUser.parse(patched(found.user, Operations)));
        break;
      }
      case 'DELETE':
        return refuse(response, 405, 'Nobody is deleted here: set active to false, and they have left.', 'mutability');
      default:
        return refuse(response, 405, 'A user is read, replaced or patched.');
    }
    return answer(response, 200, (await one(id))?.user);
  }
  async function find({ query }: Request, response: Response): Promise<void> {
    const text = typeof query.filter === 'string' ? query.filter.slice(0, 500) : '';
    const number = (value: unknown, otherwise: number) =>
      typeof value === 'string' && /^-?\d{1,9}$/.test(value) ? Number(value) : otherwise;
    const start = Math.max(1, number(query.startIndex, 1));
    const count = Math.max(0, Math.min(mostResults, number(query.count, mostResults)));
    const all = (await users()).filter(text ? filterOf(text) : () => true).map(({ user }) => user);
    answer(response, 200, listed(all.slice(start - 1, start - 1 + count), start, all.length));
  }
  return async (request, response) => {
    const [row] = await house.db.select({ hash: t.house.incomingToken }).from(t.house).where(eq(t.house.id, 1));
    const [, token] = /^Bearer (\S{20,200})$/.exec(request.headers.authorization ?? '') ?? [];
    if (!row?.hash || !token || !same(hashOfToken(token), row.hash)) {
      response.setHeader('WWW-Authenticate', 'Bearer');
      return refuse(response, 401, 'This token opens nothing.');
    }
    readBody(request, response, async fault => {
      if (fault) return refuse(response, 400, 'This is no JSON, or too much of it.', 'invalidSyntax');
      try {
        await serve(request, response);
      } catch (thrown) {
        if (thrown instanceof NotTaken)
          return refuse(response, thrown.type === 'uniqueness' ? 409 : 400, thrown.message, thrown.type);
        if (thrown instanceof ProblemError) {
          const message = thrown.problem.faults?.[0]?.message ?? thrown.message;
          const isKept = thrown.problem.code === 'not allowed' || thrown.problem.code === 'refused';
          return refuse(response, 400, message, isKept ? 'mutability' : 'invalidValue');
        }
        if (thrown instanceof z.ZodError) {
          const [issue] = thrown.issues;
          return refuse(response, 400, `${issue?.path.join('.')}: ${issue?.message}`, 'invalidValue');
        }
        if (thrown instanceof URIError) return refuse(response, 404, 'There is no such resource.');
        house.log.error({ err: thrown }, 'incoming directory');
        refuse(response, 500, 'The fault is ours and has been written down. Try again.');
      }
    });
  };
}
