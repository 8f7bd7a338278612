/** The stand-in for a directory against what RFC 7643 and RFC 7644 ask of a service, one check a line. */
import { type ChildProcess, spawn } from 'node:child_process';
import { appendFileSync, mkdtempSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { directoryApp } from './directory/app.ts';

const token = 'a token of some length';
const user = 'urn:ietf:params:scim:schemas:core:2.0:User';
const use = 'urn:north-pebble:scim:2.0:Use';
const enterprise = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
const group = 'urn:ietf:params:scim:schemas:core:2.0:Group';
const space = 'urn:north-pebble:scim:2.0:Space';
const patchOp = 'urn:ietf:params:scim:api:messages:2.0:PatchOp';
const bulkRequest = 'urn:ietf:params:scim:api:messages:2.0:BulkRequest';
const searchRequest = 'urn:ietf:params:scim:api:messages:2.0:SearchRequest';

let server: Server;
let root: string;
beforeAll(async () => {
  const folder = mkdtempSync(join(tmpdir(), 'np-scim-'));
  const { app } = directoryApp({ token, folder, base: () => root });
  server = app.listen(0, '127.0.0.1');
  await new Promise(done => server.once('listening', done));
  root = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

// biome-ignore lint/suspicious/noExplicitAny: what a service answers is what is being checked
type Answer = { status: number; headers: Headers; body: any };
async function call(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answer> {
  const response = await fetch(`${root}/scim/v2${path}`, {
    method,
    headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/scim+json', ...headers },
    ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  });
  const text = await response.text();
  return { status: response.status, headers: response.headers, body: text ? JSON.parse(text) : null };
}
const get = (path: string, headers?: Record<string, string>) => call('GET', path, undefined, headers);
const filtered = async (type: string, filter: string) =>
  ((await get(`/${type}?filter=${encodeURIComponent(filter)}`)).body.Resources ?? []).map(
    (one: { userName?: string; displayName?: string }) => one.userName ?? one.displayName,
  );
const patch = (path: string, ...Operations: object[]) => call('PATCH', path, { schemas: [patchOp], Operations });

let n = 0;
const makeUser = async (more: object = {}) =>
  (await call('POST', '/Users', { schemas: [user], userName: `user${++n}`, ...more })).body;
const makeGroup = async (members: { id: string }[] = [], more: object = {}) =>
  (
    await call('POST', '/Groups', {
      schemas: [group],
      displayName: `Group ${++n}`,
      members: members.map(one => ({ value: one.id })),
      ...more,
    })
  ).body;

describe('who calls, and what the service says of itself', () => {
  test.each([
    ['without a token', {}],
    ['with another token', { Authorization: 'Bearer another token' }],
    ['with another scheme', { Authorization: `Basic ${token}` }],
  ])('%s it is refused with 401 and how to sign in', async (_, headers) => {
    const response = await fetch(`${root}/scim/v2/Users`, { headers: headers as Record<string, string> });
    expect([response.status, response.headers.get('www-authenticate')]).toEqual([
      401,
      expect.stringContaining('Bearer'),
    ]);
    expect(await response.json()).toMatchObject({
      schemas: ['urn:ietf:params:scim:api:messages:2.0:Error'],
      status: '401',
    });
  });
  test('it answers as application/scim+json', async () => {
    expect((await get('/Users')).headers.get('content-type')).toContain('application/scim+json');
  });
  test('it takes application/json too', async () => {
    const made = await call(
      'POST',
      '/Users',
      { schemas: [user], userName: `user${++n}` },
      { 'Content-Type': 'application/json' },
    );
    expect(made.status).toBe(201);
  });
  test('ServiceProviderConfig names what it can', async () => {
    const { body } = await get('/ServiceProviderConfig');
    expect(body.schemas).toEqual(['urn:ietf:params:scim:schemas:core:2.0:ServiceProviderConfig']);
    for (const one of ['patch', 'bulk', 'filter', 'sort', 'etag'])
      expect([one, body[one].supported]).toEqual([one, true]);
    expect(body.bulk).toMatchObject({ maxOperations: 1000, maxPayloadSize: 1_048_576 });
    expect(body.filter.maxResults).toBe(200);
    expect(body.authenticationSchemes[0].type).toBe('oauthbearertoken');
  });
  test('ResourceTypes lists accounts with their extension, groups and spaces', async () => {
    const { body } = await get('/ResourceTypes');
    expect(body.Resources.map((one: { endpoint: string }) => one.endpoint)).toEqual(['/Users', '/Groups', '/Spaces']);
    expect(body.Resources[0].schemaExtensions).toEqual([
      { schema: enterprise, required: false },
      { schema: use, required: false },
    ]);
    expect((await get('/ResourceTypes/Group')).body.schema).toBe(group);
  });
  test('Schemas describe every attribute, one by its id too', async () => {
    const { body } = await get('/Schemas');
    expect(body.Resources.map((one: { id: string }) => one.id)).toEqual([user, enterprise, use, group, space]);
    const own = (await get(`/Schemas/${user}`)).body;
    expect(own.attributes.find((one: { name: string }) => one.name === 'userName')).toMatchObject({
      required: true,
      uniqueness: 'server',
      caseExact: false,
    });
    expect(own.attributes.find((one: { name: string }) => one.name === 'password')).toMatchObject({
      mutability: 'writeOnly',
      returned: 'never',
    });
  });
  test('neither is filtered', async () => {
    expect((await get('/Schemas?filter=id%20eq%20%22x%22')).status).toBe(403);
    expect((await get('/ResourceTypes?filter=id%20eq%20%22x%22')).status).toBe(403);
  });
  test.each([
    ['GET', '/Schemas/none', 404],
    ['GET', '/ResourceTypes/none', 404],
    ['GET', '/Nothing', 404],
    ['GET', '/Me', 501],
    ['PUT', '/Users', 405],
    ['POST', '/Users/x', 405],
  ])('%s %s is %s, in the form of faults', async (method, path, status) => {
    const answer = await call(method, path, method === 'GET' ? undefined : {});
    expect([answer.status, answer.body.status]).toEqual([status, String(status)]);
    expect(answer.body.schemas).toEqual(['urn:ietf:params:scim:api:messages:2.0:Error']);
  });
});

describe('making', () => {
  test('201 with its address, its version and what the directory gave it', async () => {
    const { status, headers, body } = await call('POST', '/Users', {
      schemas: [user, enterprise],
      userName: `user${++n}`,
      externalId: 'key-1',
      name: { givenName: 'Pia', familyName: 'Lindqvist' },
      [enterprise]: { employeeNumber: 'pia', department: 'Observatory' },
    });
    expect(status).toBe(201);
    expect(headers.get('location')).toBe(body.meta.location);
    expect(headers.get('etag')).toBe(body.meta.version);
    expect(body.meta).toMatchObject({ resourceType: 'User', location: `${root}/scim/v2/Users/${body.id}` });
    expect(body).toMatchObject({ active: true, externalId: 'key-1', [enterprise]: { employeeNumber: 'pia' } });
    expect(body.schemas).toEqual([user, enterprise]);
  });
  test('what is read only is not taken from outside', async () => {
    const made = await makeUser({ id: 'mine', meta: { created: 'long ago' }, groups: [{ value: 'all' }] });
    expect(made.id).not.toBe('mine');
    expect(made.groups).toBeUndefined();
    expect(Date.parse(made.meta.created)).not.toBeNaN();
  });
  test('a password is taken and never told', async () => {
    const made = await makeUser({ password: 'first one' });
    expect(made.password).toBeUndefined();
    expect((await get(`/Users/${made.id}?attributes=password`)).body.password).toBeUndefined();
  });
  test('names of attributes are the same in small and capital letters', async () => {
    expect((await makeUser({ DISPLAYNAME: 'Pia' })).displayName).toBe('Pia');
  });
  test('a name is there once, in small and capital letters alike', async () => {
    const made = await makeUser();
    const again = await call('POST', '/Users', { schemas: [user], userName: made.userName.toUpperCase() });
    expect([again.status, again.body.scimType]).toEqual([409, 'uniqueness']);
    const groups = await makeGroup();
    expect((await call('POST', '/Groups', { schemas: [group], displayName: groups.displayName })).status).toBe(409);
  });
  test.each([
    ['without schemas', { userName: 'x' }, 'invalidSyntax'],
    ['with another schema', { schemas: [group], userName: 'x' }, 'invalidSyntax'],
    ['without the name', { schemas: [user] }, 'invalidValue'],
    ['with a number for a text', { schemas: [user], userName: 7 }, 'invalidValue'],
    ['with a text for yes and no', { schemas: [user], userName: 'x', active: 'perhaps' }, 'invalidValue'],
    ['with a text for parts', { schemas: [user], userName: 'x', name: 'Pia' }, 'invalidValue'],
    [
      'with two that are primary',
      {
        schemas: [user],
        userName: 'x',
        emails: [
          { value: 'a', primary: true },
          { value: 'b', primary: true },
        ],
      },
      'invalidValue',
    ],
    ['that is no object', [1], 'invalidSyntax'],
    ['that is no JSON', '{"schemas":', 'invalidSyntax'],
  ])('an account %s is refused', async (_, body, scimType) => {
    const answer = await call('POST', '/Users', body);
    expect([answer.status, answer.body.scimType]).toEqual([400, scimType]);
  });
  test('what is empty is as if it were not there', async () => {
    const made = await makeUser({ title: null, emails: [] });
    expect('title' in made || 'emails' in made).toBe(false);
  });
  test('members are told with their names and addresses, and must be there', async () => {
    const one = await makeUser({ displayName: 'Pia Lindqvist' });
    const made = await makeGroup([one]);
    expect(made.members).toEqual([{ value: one.id, $ref: one.meta.location, type: 'User', display: 'Pia Lindqvist' }]);
    const wrong = await call('POST', '/Groups', { schemas: [group], displayName: 'X', members: [{ value: 'nobody' }] });
    expect([wrong.status, wrong.body.scimType]).toEqual([400, 'invalidValue']);
  });
  test('an account is told with the groups that it is in', async () => {
    const one = await makeUser();
    const made = await makeGroup([one]);
    expect((await get(`/Users/${one.id}`)).body.groups).toEqual([
      { value: made.id, $ref: made.meta.location, display: made.displayName, type: 'direct' },
    ]);
  });
  test('a space has an owner who is there', async () => {
    const one = await makeUser();
    const made = await call('POST', '/Spaces', {
      schemas: [space],
      displayName: `Space ${++n}`,
      owner: { value: one.id },
    });
    expect([made.status, made.body.owner.$ref]).toEqual([201, one.meta.location]);
    expect((await call('POST', '/Spaces', { schemas: [space], displayName: `Space ${++n}` })).status).toBe(400);
  });
  test('a line manager is told by name', async () => {
    const lead = await makeUser({ displayName: 'Tobias' });
    const made = await makeUser({ [enterprise]: { manager: { value: lead.id } } });
    expect(made[enterprise].manager).toMatchObject({ value: lead.id, displayName: 'Tobias' });
  });
});

describe('reading', () => {
  test('by its id, with its version', async () => {
    const made = await makeUser();
    const { body, headers } = await get(`/Users/${made.id}`);
    expect([body.id, headers.get('etag')]).toEqual([made.id, made.meta.version]);
  });
  test('304 where it has not changed since', async () => {
    const made = await makeUser();
    expect((await get(`/Users/${made.id}`, { 'If-None-Match': made.meta.version })).status).toBe(304);
    expect((await get(`/Users/${made.id}`, { 'If-None-Match': 'W/"99"' })).status).toBe(200);
  });
  test('404 where it is not there', async () => {
    expect((await get('/Users/user-999999')).status).toBe(404);
  });
  test('only what is asked for, with its schemas and its id', async () => {
    const made = await makeUser({ title: 'Observer', name: { givenName: 'Pia', familyName: 'L' } });
    const { body } = await get(`/Users/${made.id}?attributes=userName,name.givenName`);
    expect(Object.keys(body).sort()).toEqual(['id', 'name', 'schemas', 'userName']);
    expect(body.name).toEqual({ givenName: 'Pia' });
  });
  test('all but what is not wanted; what is always told stays', async () => {
    const made = await makeUser({ title: 'Observer' });
    const { body } = await get(`/Users/${made.id}?excludedAttributes=title,id`);
    expect([body.title, body.id]).toEqual([undefined, made.id]);
  });
  test('an attribute of the extension by its whole name', async () => {
    const made = await makeUser({ [enterprise]: { employeeNumber: '7', department: 'Lights' } });
    const { body } = await get(`/Users/${made.id}?attributes=${enterprise}:department`);
    expect(body[enterprise]).toEqual({ department: 'Lights' });
    expect(body.userName).toBeUndefined();
  });
});

describe('finding', () => {
  const a = () => ({
    userName: 'find.anna',
    title: 'Keeper',
    active: true,
    emails: [{ value: 'anna@selkie.example', type: 'work' }],
  });
  const b = () => ({
    userName: 'find.bram',
    title: 'Observer',
    active: false,
    [enterprise]: { department: 'Lights', employeeNumber: 'b7' },
  });
  const c = () => ({
    userName: 'find.cleo',
    nickName: 'Cl"eo',
    externalId: 'Key-C',
    emails: [
      { value: 'cleo@selkie.example', type: 'home' },
      { value: 'x@herring.example', type: 'work' },
    ],
  });
  beforeAll(async () => {
    for (const one of [a(), b(), c()]) await makeUser(one);
  });
  const all = ['find.anna', 'find.bram', 'find.cleo'];
  test.each<[string, string[]]>([
    ['userName eq "find.anna"', ['find.anna']],
    ['userName eq "FIND.ANNA"', ['find.anna']],
    ['USERNAME Eq "find.anna"', ['find.anna']],
    ['externalId eq "Key-C"', ['find.cleo']],
    ['externalId eq "key-c"', []],
    ['userName sw "find."', all],
    ['userName sw "find." and userName ew "o"', ['find.cleo']],
    ['userName co "ind.br"', ['find.bram']],
    ['userName sw "find." and userName ne "find.anna"', ['find.bram', 'find.cleo']],
    ['userName sw "find." and title pr', ['find.anna', 'find.bram']],
    ['userName sw "find." and not (title pr)', ['find.cleo']],
    ['userName sw "find." and active eq false', ['find.bram']],
    ['userName sw "find." and (title eq "keeper" or nickName pr)', ['find.anna', 'find.cleo']],
    ['title eq "Keeper" and userName eq "none" or userName eq "find.bram"', ['find.bram']],
    ['emails eq "anna@selkie.example"', ['find.anna']],
    ['emails.type eq "home"', ['find.cleo']],
    ['emails[type eq "work" and value co "herring"]', ['find.cleo']],
    ['emails[type eq "home" and value co "herring"]', []],
    ['userName sw "find." and emails[type eq "work"]', ['find.anna', 'find.cleo']],
    [`${enterprise}:department eq "Lights" and userName sw "find."`, ['find.bram']],
    [`${enterprise}:employeeNumber eq "b7"`, ['find.bram']],
    [`${user}:userName eq "find.anna"`, ['find.anna']],
    ['userName sw "find." and meta.created gt "2020-01-01T00:00:00Z"', all],
    ['userName sw "find." and meta.lastModified lt "2020-01-01T00:00:00Z"', []],
    ['userName ge "find.b" and userName le "find.c"', ['find.bram']],
    ['nickName eq "Cl\\"eo"', ['find.cleo']],
    ['userName sw "find." and title eq null', ['find.cleo']],
  ])('%s', async (filter, expected) => {
    expect(await filtered('Users', filter)).toEqual(expected);
  });
  test.each([
    'userName',
    'userName eq',
    'userName like "x"',
    'userName eq "x" and',
    '(userName eq "x"',
    'userName eq "x" or or title pr',
    'shoe eq "9"',
    'emails[size eq "9"]',
    'active gt true',
    `${'('.repeat(60)}title pr${')'.repeat(60)}`,
  ])('%s is refused as a filter', async filter => {
    const { status, body } = await get(`/Users?filter=${encodeURIComponent(filter)}`);
    expect([status, body.scimType]).toEqual([400, 'invalidFilter']);
  });
  test('groups by who is in them, accounts by the groups that they are in', async () => {
    const one = await makeUser();
    const made = await makeGroup([one]);
    expect(await filtered('Groups', `members.value eq "${one.id}"`)).toEqual([made.displayName]);
    expect(await filtered('Groups', `members[value eq "${one.id}"]`)).toEqual([made.displayName]);
    expect(await filtered('Users', `groups.value eq "${made.id}"`)).toEqual([one.userName]);
  });
  test('in the order that is asked for, those without a value last', async () => {
    const found = async (order: string) =>
      (
        await get(`/Users?filter=${encodeURIComponent('userName sw "find."')}&sortBy=title&sortOrder=${order}`)
      ).body.Resources.map((one: { userName: string }) => one.userName);
    expect(await found('ascending')).toEqual(['find.anna', 'find.bram', 'find.cleo']);
    expect((await found('descending')).at(-1)).toBe('find.anna');
  });
  test('page by page, counted from one', async () => {
    const page = async (startIndex: number, count: number) =>
      (
        await get(
          `/Users?filter=${encodeURIComponent('userName sw "find."')}&sortBy=userName&startIndex=${startIndex}&count=${count}`,
        )
      ).body;
    expect(await page(2, 1)).toMatchObject({
      totalResults: 3,
      startIndex: 2,
      itemsPerPage: 1,
      Resources: [{ userName: 'find.bram' }],
    });
    expect(await page(0, 2)).toMatchObject({ startIndex: 1, itemsPerPage: 2 });
    expect(await page(1, 0)).toMatchObject({ totalResults: 3, itemsPerPage: 0 });
    expect(await page(9, 5)).toMatchObject({ totalResults: 3, itemsPerPage: 0 });
    expect(await page(1, -4)).toMatchObject({ itemsPerPage: 0 });
  });
  test('by POST to .search, in one type and in all', async () => {
    const body = { schemas: [searchRequest], filter: 'userName eq "find.anna"', attributes: ['userName'] };
    expect((await call('POST', '/Users/.search', body)).body.Resources).toEqual([
      expect.objectContaining({ userName: 'find.anna' }),
    ]);
    const all = await call('POST', '/.search', {
      schemas: [searchRequest],
      filter: 'meta.resourceType eq "Group"',
      count: 1,
    });
    expect(all.body.Resources[0].meta.resourceType).toBe('Group');
    expect((await call('POST', '/.search', { filter: 'x' })).status).toBe(400);
  });
});

describe('replacing', () => {
  test('takes away what is not named any more, and raises the version', async () => {
    const made = await makeUser({ title: 'Observer' });
    const { status, body, headers } = await call('PUT', `/Users/${made.id}`, {
      schemas: [user],
      userName: made.userName,
    });
    expect([status, body.title, body.meta.created]).toEqual([200, undefined, made.meta.created]);
    expect(headers.get('etag')).toBe('W/"2"');
  });
  test('only the version that was seen, where that is said', async () => {
    const made = await makeUser();
    const put = (version: string) =>
      call(
        'PUT',
        `/Users/${made.id}`,
        { schemas: [user], userName: made.userName, title: version },
        { 'If-Match': version },
      );
    expect((await put('W/"1"')).status).toBe(200);
    expect((await put('W/"1"')).status).toBe(412);
    expect((await put('*')).status).toBe(200);
  });
  test('not by a name that another has; 404 where it is not there', async () => {
    const [one, other] = [await makeUser(), await makeUser()];
    expect((await call('PUT', `/Users/${one.id}`, { schemas: [user], userName: other.userName })).status).toBe(409);
    expect((await call('PUT', '/Users/user-999999', { schemas: [user], userName: 'x' })).status).toBe(404);
  });
  test('to the same leaves the version as it is', async () => {
    const made = await makeUser();
    const { body } = await call('PUT', `/Users/${made.id}`, { schemas: [user], userName: made.userName });
    expect(body.meta.version).toBe('W/"1"');
  });
});

describe('changing parts', () => {
  test('replaces one attribute, one part, one of the extension', async () => {
    const made = await makeUser({ name: { givenName: 'Pia' } });
    const { status, body } = await patch(
      `/Users/${made.id}`,
      { op: 'replace', path: 'active', value: false },
      { op: 'Replace', path: 'name.familyName', value: 'Lindqvist' },
      { op: 'add', path: `${enterprise}:department`, value: 'Lights' },
    );
    expect(status).toBe(200);
    expect(body).toMatchObject({
      active: false,
      name: { givenName: 'Pia', familyName: 'Lindqvist' },
      [enterprise]: { department: 'Lights' },
    });
    expect(body.schemas).toContain(enterprise);
  });
  test('without a path takes an object, also of the extension', async () => {
    const made = await makeUser();
    const { body } = await patch(`/Users/${made.id}`, {
      op: 'add',
      value: { title: 'Keeper', [enterprise]: { employeeNumber: '9' } },
    });
    expect(body).toMatchObject({ title: 'Keeper', [enterprise]: { employeeNumber: '9' } });
  });
  test('adds a member once, and takes it out by a filter', async () => {
    const [one, two] = [await makeUser(), await makeUser()];
    const made = await makeGroup([one]);
    const path = `/Groups/${made.id}`;
    const members = (answer: Answer) => (answer.body.members ?? []).map((m: { value: string }) => m.value);
    const add = { op: 'add', path: 'members', value: [{ value: two.id }, { value: one.id }] };
    expect(members(await patch(path, add))).toEqual([one.id, two.id]);
    expect(members(await patch(path, { op: 'remove', path: `members[value eq "${one.id}"]` }))).toEqual([two.id]);
    expect(members(await patch(path, { op: 'remove', path: 'members' }))).toEqual([]);
  });
  test('adding what is there already changes nothing, the version neither', async () => {
    const one = await makeUser();
    const made = await makeGroup([one]);
    const { body } = await patch(`/Groups/${made.id}`, { op: 'add', path: 'members', value: [{ value: one.id }] });
    expect(body.meta.version).toBe(made.meta.version);
  });
  test('one value that becomes primary makes the others not so', async () => {
    const made = await makeUser({ emails: [{ value: 'a', primary: true }, { value: 'b' }] });
    const { body } = await patch(`/Users/${made.id}`, {
      op: 'add',
      path: 'emails',
      value: [{ value: 'c', primary: true }],
    });
    expect(
      body.emails.filter((one: { primary?: boolean }) => one.primary).map((one: { value: string }) => one.value),
    ).toEqual(['c']);
  });
  test('a part of one value that a filter finds', async () => {
    const made = await makeUser({
      emails: [
        { value: 'a', type: 'work' },
        { value: 'b', type: 'home' },
      ],
    });
    const { body } = await patch(`/Users/${made.id}`, {
      op: 'replace',
      path: 'emails[type eq "work"].value',
      value: 'c',
    });
    expect(body.emails.map((one: { value: string }) => one.value)).toEqual(['c', 'b']);
  });
  test.each<[string, object, string]>([
    [
      'replaces a value that no filter finds',
      { op: 'replace', path: 'emails[type eq "work"].value', value: 'c' },
      'noTarget',
    ],
    ['removes without saying what', { op: 'remove' }, 'noTarget'],
    ['names a path that is not there', { op: 'add', path: 'shoe', value: '9' }, 'invalidPath'],
    ['names a part that is not there', { op: 'add', path: 'name.shoe', value: '9' }, 'invalidPath'],
    ['changes what is read only', { op: 'replace', path: 'id', value: 'x' }, 'mutability'],
    ['changes the groups of an account', { op: 'add', path: 'groups', value: [{ value: 'x' }] }, 'mutability'],
    ['takes away what is needed', { op: 'remove', path: 'userName' }, 'mutability'],
    ['is no operation', { op: 'move', path: 'title', value: 'x' }, 'invalidSyntax'],
    ['has no value', { op: 'add', path: 'title' }, 'invalidValue'],
    ['has a wrong filter', { op: 'remove', path: 'emails[type like "x"]' }, 'invalidFilter'],
  ])('%s: refused, and nothing is changed', async (_, operation, scimType) => {
    const made = await makeUser();
    const answer = await patch(`/Users/${made.id}`, { op: 'add', path: 'title', value: 'Keeper' }, operation);
    expect([answer.status, answer.body.scimType]).toEqual([400, scimType]);
    expect((await get(`/Users/${made.id}`)).body.title).toBeUndefined();
  });
  test('without its schema it is refused; only the version that was seen', async () => {
    const made = await makeUser();
    expect(
      (await call('PATCH', `/Users/${made.id}`, { Operations: [{ op: 'add', path: 'title', value: 'x' }] })).status,
    ).toBe(400);
    const body = { schemas: [patchOp], Operations: [{ op: 'add', path: 'title', value: 'x' }] };
    expect((await call('PATCH', `/Users/${made.id}`, body, { 'If-Match': 'W/"7"' })).status).toBe(412);
  });
});

describe('removing', () => {
  test('204, then 404, and no group has it any more', async () => {
    const one = await makeUser();
    const made = await makeGroup([one]);
    expect((await call('DELETE', `/Users/${one.id}`)).status).toBe(204);
    expect((await get(`/Users/${one.id}`)).status).toBe(404);
    expect((await call('DELETE', `/Users/${one.id}`)).status).toBe(404);
    expect((await get(`/Groups/${made.id}`)).body.members ?? []).toEqual([]);
  });
  test('its name is free again, its id is not', async () => {
    const one = await makeUser();
    await call('DELETE', `/Users/${one.id}`);
    const again = await call('POST', '/Users', { schemas: [user], userName: one.userName });
    expect([again.status, again.body.id === one.id]).toEqual([201, false]);
  });
});

describe('several together', () => {
  const send = (Operations: object[], more: object = {}) =>
    call('POST', '/Bulk', { schemas: [bulkRequest], Operations, ...more });
  test('makes an account and a group with it, by what it is called in the call', async () => {
    const { status, body } = await send([
      { method: 'POST', path: '/Users', bulkId: 'pia', data: { schemas: [user], userName: `user${++n}` } },
      {
        method: 'POST',
        path: '/Groups',
        bulkId: 'g',
        data: { schemas: [group], displayName: `Group ${++n}`, members: [{ value: 'bulkId:pia' }] },
      },
    ]);
    expect(status).toBe(200);
    expect(body.schemas).toEqual(['urn:ietf:params:scim:api:messages:2.0:BulkResponse']);
    expect(body.Operations.map((one: { status: string }) => one.status)).toEqual(['201', '201']);
    const made = (await get(new URL(body.Operations[1].location).pathname.replace('/scim/v2', ''))).body;
    expect(made.members[0].$ref).toBe(body.Operations[0].location);
  });
  test('says of each how it went, and goes on', async () => {
    const one = await makeUser();
    const { body } = await send([
      {
        method: 'PATCH',
        path: `/Users/${one.id}`,
        data: { schemas: [patchOp], Operations: [{ op: 'add', path: 'title', value: 'x' }] },
      },
      { method: 'DELETE', path: '/Users/user-999999' },
      { method: 'DELETE', path: `/Users/${one.id}` },
    ]);
    expect(body.Operations.map((op: { status: string }) => op.status)).toEqual(['200', '404', '204']);
    expect(body.Operations[1].response.status).toBe('404');
  });
  test('stops after so many faults where that is asked', async () => {
    const { body } = await send(
      [
        { method: 'DELETE', path: '/Users/user-999999' },
        { method: 'DELETE', path: '/Users/user-999998' },
      ],
      { failOnErrors: 1 },
    );
    expect(body.Operations).toHaveLength(1);
  });
  test.each<[string, object]>([
    [
      'names what nothing made',
      {
        method: 'POST',
        path: '/Groups',
        bulkId: 'g',
        data: { schemas: [group], displayName: 'Q', members: [{ value: 'bulkId:none' }] },
      },
    ],
    ['makes without a bulkId', { method: 'POST', path: '/Users', data: { schemas: [user], userName: 'q' } }],
    ['has no such method', { method: 'GET', path: '/Users/x' }],
    ['goes nowhere', { method: 'DELETE', path: '/Nothing/x' }],
  ])('%s: that one is refused', async (_, operation) => {
    const { body } = await send([operation]);
    expect(Number(body.Operations[0].status)).toBeGreaterThanOrEqual(400);
    expect(body.Operations[0].response.schemas).toEqual(['urn:ietf:params:scim:api:messages:2.0:Error']);
  });
  test('too many, or too much, is 413; nothing, or without its schema, 400', async () => {
    expect((await send(Array.from({ length: 1001 }, () => ({})))).status).toBe(413);
    expect((await send([{ method: 'PUT', path: '/Users/x', data: { title: 'x'.repeat(1_100_000) } }])).status).toBe(
      413,
    );
    expect((await send([])).status).toBe(400);
    expect((await call('POST', '/Bulk', { Operations: [{}] })).status).toBe(400);
  });
});

describe('what goes wrong when it is switched on', () => {
  const turn = (switches: object) =>
    fetch(`${root}/switches`, {
      method: 'PUT',
      headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
      body: JSON.stringify(switches),
    });
  beforeEach(() =>
    turn({ down: false, slow: 0, nextBroken: 0, nextTooMany: 0, nextConflicts: 0, nextLost: 0, nextHalfBulks: 0 }),
  );

  test('too many calls, with how long to wait; broken; then all is well again', async () => {
    await turn({ nextTooMany: 1, retryAfter: 7, nextBroken: 1 });
    const first = await get('/Users?count=0');
    expect([first.status, first.headers.get('retry-after')]).toEqual([429, '7']);
    expect((await get('/Users?count=0')).status).toBe(500);
    expect((await get('/Users?count=0')).status).toBe(200);
  });
  test('a conflict meets what changes something, and does nothing', async () => {
    await turn({ nextConflicts: 1 });
    expect((await get('/Users?count=0')).status).toBe(200);
    const name = `user${++n}`;
    expect((await call('POST', '/Users', { schemas: [user], userName: name })).status).toBe(409);
    expect(await filtered('Users', `userName eq "${name}"`)).toEqual([]);
  });
  test('an answer that is lost, and the work is done', async () => {
    await turn({ nextLost: 1 });
    const name = `user${++n}`;
    await expect(call('POST', '/Users', { schemas: [user], userName: name })).rejects.toThrow();
    expect(await filtered('Users', `userName eq "${name}"`)).toEqual([name]);
  });
  test('down, nobody answers', async () => {
    await turn({ down: true });
    await expect(get('/Users?count=0')).rejects.toThrow();
  });
  test('half of a bulk call is done', async () => {
    await turn({ nextHalfBulks: 1 });
    const [first, second] = [`user${++n}`, `user${++n}`];
    const operations = [first, second].map(userName => ({
      method: 'POST',
      path: '/Users',
      bulkId: userName,
      data: { schemas: [user], userName },
    }));
    await expect(call('POST', '/Bulk', { schemas: [bulkRequest], Operations: operations })).rejects.toThrow();
    expect(await filtered('Users', `userName eq "${first}"`)).toEqual([first]);
    expect(await filtered('Users', `userName eq "${second}"`)).toEqual([]);
  });
  test('a switch that is none is refused', async () => {
    expect((await turn({ slow: -1 })).status).toBe(400);
    expect((await turn({ shoe: 9 })).status).toBe(400);
  });
});

test('as a process of its own it keeps what was answered through a kill, and leaves out a line that was cut off', async () => {
  const port = await new Promise<number>(done => {
    const free = createServer().listen(0, '127.0.0.1', () => {
      const { port } = free.address() as AddressInfo;
      free.close(() => done(port));
    });
  });
  const folder = mkdtempSync(join(tmpdir(), 'np-scim-'));
  const start = async (): Promise<ChildProcess> => {
    const args = [
      '--import',
      'tsx',
      'standins/directory/main.ts',
      '--port',
      String(port),
      '--token',
      token,
      '--data',
      folder,
    ];
    const child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'inherit'] });
    await new Promise(done => child.stdout?.once('data', done));
    return child;
  };
  const ask = (method: string, path: string, body?: object) =>
    fetch(`http://127.0.0.1:${port}/scim/v2${path}`, {
      method,
      headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/scim+json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
  const first = await start();
  for (let i = 0; i < 20; i++)
    expect((await ask('POST', '/Users', { schemas: [user], userName: `kept${i}` })).status).toBe(201);
  first.kill('SIGKILL');
  await new Promise(done => first.once('exit', done));
  appendFileSync(join(folder, 'directory.jsonl'), '{"type":"User","id":"user-0000');
  const second = await start();
  expect(((await (await ask('GET', '/Users?count=0')).json()) as { totalResults: number }).totalResults).toBe(20);
  expect((await ask('POST', '/Users', { schemas: [user], userName: 'KEPT3' })).status).toBe(409);
  second.kill('SIGKILL');
  const wrong = spawn(process.execPath, ['--import', 'tsx', 'standins/directory/main.ts', '--port', 'x'], {
    stdio: 'ignore',
  });
  expect(await new Promise(done => wrong.once('exit', done))).toBe(2);
});
