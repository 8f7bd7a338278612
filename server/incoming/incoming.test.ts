/** People told by a directory over SCIM 2.0: created, changed, switched off, and everything that is not taken over. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { PersonPageView } from '@north-pebble/contract';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { enterpriseSchema, userSchema, workSchema } from './resource.ts';

let small: Small;
let dora: Browser;
let token = '';
beforeAll(async () => {
  small = await startSmall();
  dora = await signedIn(small.base, 'dora');
});
afterAll(() => small.stop());

// biome-ignore lint/suspicious/noExplicitAny: resources of the standard, looked at as they come
type Answer = { status: number; body: any; headers: Headers };
async function scim(method: string, path: string, body?: unknown, bearer = token): Promise<Answer> {
  const answer = await fetch(`${small.base}/scim/v2${path}`, {
    method,
    headers: { Authorization: `Bearer ${bearer}`, 'Content-Type': 'application/scim+json' },
    ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  });
  const text = await answer.text();
  return { status: answer.status, body: text ? JSON.parse(text) : undefined, headers: answer.headers };
}
const user = (more: object = {}) => ({
  schemas: [userSchema, enterpriseSchema],
  userName: 'bo@selkie.example',
  externalId: '4711',
  name: { givenName: 'Bo', familyName: 'Ødegård' },
  emails: [{ value: 'bo@selkie.example', primary: true }],
  active: true,
  [enterpriseSchema]: { department: 'Observatory', organization: 'Ovay Station' },
  [workSchema]: { firstDay: '2026-02-16' },
  ...more,
});
const person = async (id: string) => (await dora.get<PersonPageView>(`/records/${id}`)).body;

describe('without a token', () => {
  test('nothing is opened, and a token that is taken back is good no more', async () => {
    expect((await scim('GET', '/Users', undefined, 'x'.repeat(43))).status).toBe(401);
    const given = await dora.call<{ token: string }>('POST', '/incoming-directory');
    token = given.body.token;
    expect((await scim('GET', '/ServiceProviderConfig')).body).toMatchObject({ patch: { supported: true } });
    await dora.call('DELETE', '/incoming-directory');
    expect((await scim('GET', '/Users')).status).toBe(401);
    token = (await dora.call<{ token: string }>('POST', '/incoming-directory')).body.token;
    expect((await scim('GET', '/Schemas')).body.totalResults).toBe(3);
    expect((await scim('GET', '/Groups')).status).toBe(404);
  });
});

describe('a directory', () => {
  test('finds those who are on file, by what it knows of them, and page by page', async () => {
    const { body } = await scim('GET', `/Users?filter=${encodeURIComponent('userName eq "INA@selkie.example"')}`);
    expect(body).toMatchObject({ totalResults: 1, Resources: [{ id: 'ina', active: true, displayName: 'Ina Okell' }] });
    expect(body.Resources[0][enterpriseSchema]).toMatchObject({
      organization: 'Ovay Station',
      manager: { value: 'tom' },
    });
    const second = (await scim('GET', '/Users?startIndex=3&count=2')).body;
    expect([second.itemsPerPage, second.startIndex, second.totalResults]).toEqual([2, 3, 9]);
    expect((await scim('GET', '/Users?filter=name+co+%22x%22')).body).toMatchObject({
      status: '400',
      scimType: 'invalidFilter',
    });
  });

  test('creates somebody, who is on file from their first day, as everybody there works', async () => {
    const { status, body, headers } = await scim('POST', '/Users', user());
    expect(status).toBe(201);
    expect(body).toMatchObject({ id: 'bo-odegard', externalId: '4711', active: true });
    expect(headers.get('location')).toContain('/scim/v2/Users/bo-odegard');
    expect(await person('bo-odegard')).toMatchObject({
      name: 'Bo Ødegård',
      joined: '2026-02-16',
      place: 'Ovay Station',
      changes: [{ who: null, request: null, reason: 'Told by the directory.' }],
    });
    expect(await scim('POST', '/Users', user())).toMatchObject({ status: 409, body: { scimType: 'uniqueness' } });
  });

  test('knows somebody who was on file before by their address, and adds nobody', async () => {
    const { status, body } = await scim(
      'POST',
      '/Users',
      user({ userName: 'per', externalId: '12', emails: [{ value: 'per@selkie.example' }] }),
    );
    expect([status, body.id]).toEqual([201, 'per']);
    expect((await person('per')).name).toBe('Per Lauder');
  });

  test('changes a name, and switches off and on again', async () => {
    const patch = (...Operations: object[]) => scim('PATCH', '/Users/bo-odegard', { schemas: [], Operations });
    expect((await patch({ op: 'Replace', path: 'displayName', value: 'Bo Ødegård-Lund' })).body.displayName).toBe(
      'Bo Ødegård-Lund',
    );
    expect((await patch({ op: 'replace', value: { active: 'False' } })).status).toBe(200);
    // Whoever had not come yet is there for their first day alone.
    expect(await person('bo-odegard')).toMatchObject({ left: '2026-02-16' });
    expect(
      (await scim('PATCH', '/Users/kay', { Operations: [{ op: 'replace', path: 'active', value: false }] })).body.id,
    ).toBe('kay');
    expect(await person('kay')).toMatchObject({ left: '2026-02-02' });
    await scim('PATCH', '/Users/kay', { Operations: [{ op: 'replace', path: 'active', value: true }] });
    expect(await person('kay')).toMatchObject({ left: null });
    const told = (await scim('GET', '/Users/kay')).body;
    expect((await scim('PUT', '/Users/kay', told)).status).toBe(200);
    expect((await person('kay')).changes).toHaveLength(2);
  });

  test.each<[string, string, string, unknown, number]>([
    [
      'a place that is not there',
      'POST',
      '/Users',
      user({ userName: 'z', emails: [], [enterpriseSchema]: { organization: 'Moon' } }),
      400,
    ],
    ['no user name', 'POST', '/Users', { active: true }, 400],
    ['no JSON', 'POST', '/Users', '{', 400],
    [
      'an address that another has',
      'PATCH',
      '/Users/ina',
      { Operations: [{ op: 'replace', path: 'emails', value: [{ value: 'tom@selkie.example' }] }] },
      400,
    ],
    [
      'a path into the prototype',
      'PATCH',
      '/Users/ina',
      { Operations: [{ op: 'add', path: '__proto__.x', value: 1 }] },
      400,
    ],
    ['deleting', 'DELETE', '/Users/ina', undefined, 405],
    ['nobody', 'GET', '/Users/nobody', undefined, 404],
    ['a name as long as a book', 'POST', '/Users', user({ userName: 'x'.repeat(300) }), 400],
  ])('%s is told and changes nothing', async (_, method, path, body, status) => {
    const found = await scim(method, path, body);
    expect(found.status).toBe(status);
    expect(found.body).toMatchObject({ status: String(status), detail: expect.stringMatching(/.{8,}/) });
    expect((await person('ina')).changes).toEqual([]);
  });
});

describe('what a directory is told that it may send', () => {
  const patch = (path: string, value: unknown, op = 'replace') =>
    scim('PATCH', '/Users/ina', { Operations: [{ op, path, value }] });
  const ina = async () => (await scim('GET', '/Users/ina')).body;
  const at = (urn: string, name: string) => `${urn}:${name}`;

  test.each<[string, unknown, (user: Awaited<ReturnType<typeof ina>>) => unknown]>([
    ['userName', 'ina.okell', user => user.userName],
    ['externalId', '99', user => user.externalId],
    ['displayName', 'Ina Okell-Reed', user => user.displayName],
    ['name.formatted', 'Ina Mor Reed', user => user.name.formatted],
    ['name.familyName', 'Ødegård', user => user.name.familyName],
    ['name.givenName', 'Inga', user => user.name.givenName],
    ['active', true, user => user.active],
    ['emails', [{ value: 'ina.reed@selkie.example', primary: true }], user => user.emails],
    ['title', 'Ring C', user => user.title],
    [at(enterpriseSchema, 'department'), 'Workshop', user => user[enterpriseSchema].department],
    [at(enterpriseSchema, 'organization'), 'Skarn Light', user => user[enterpriseSchema].organization],
    [at(enterpriseSchema, 'manager'), 'dora', user => user[enterpriseSchema].manager.value],
    [at(enterpriseSchema, 'manager.value'), 'tom', user => user[enterpriseSchema].manager.value],
  ])('%s is there when it is read back', async (path, value, read) => {
    await small.db
      .insert(t.posts)
      .ignore()
      .values({ id: 'ring-c', title: 'Ring C', department: 'observatory', place: 'ovay' });
    await small.db.insert(t.departments).ignore().values({ id: 'workshop', name: 'Workshop', head: null });
    await small.db
      .insert(t.places)
      .ignore()
      .values({ id: 'skarn', name: 'Skarn Light', zone: 'UTC', calendar: 'ovay' });
    await raiseDirectoryVersion(small.db);
    expect(await patch(path, value)).toMatchObject({ status: 200 });
    expect(read(await ina())).toEqual(value);
  });

  test('every attribute that its schemas offer was sent above, or is only read', async () => {
    const { body } = await scim('GET', '/Schemas');
    const offered = body.Resources.flatMap((one: { attributes: { name: string; mutability: string }[] }) =>
      one.attributes.filter(own => own.mutability === 'readWrite').map(own => own.name),
    );
    const sent = ['userName', 'externalId', 'displayName', 'name', 'title', 'active', 'emails'];
    expect(offered.sort()).toEqual([...sent, 'department', 'organization', 'manager'].sort());
  });

  test.each<[string, string, unknown, string]>([
    ['an attribute that is not kept', 'nickName', 'Ini', 'invalidPath'],
    ['what is only read', at(enterpriseSchema, 'employeeNumber'), '7', 'mutability'],
    ['a first day', at(workSchema, 'firstDay'), '2021-01-01', 'mutability'],
    ['a title that no vacant post has', 'title', 'Admiral', 'invalidValue'],
    ['a manager who is nobody', at(enterpriseSchema, 'manager'), 'zoe', 'invalidValue'],
    ['two addresses', 'emails', [{ value: 'a@b.example' }, { value: 'c@d.example' }], 'invalidValue'],
  ])('%s is refused and changes nothing', async (_, path, value, scimType) => {
    const before = await ina();
    expect(await patch(path, value)).toMatchObject({ status: 400, body: { scimType } });
    expect(await ina()).toEqual(before);
  });

  test('replaced without a name, somebody keeps theirs', async () => {
    const { displayName: _, name: __, ...told } = (await scim('GET', '/Users/tom')).body;
    expect((await scim('PUT', '/Users/tom', told)).status).toBe(200);
    expect((await person('tom')).name).toBe('Tom Lund');
    expect(await scim('PUT', '/Users/tom', { ...told, phoneNumbers: [{ value: '1' }] })).toMatchObject({ status: 400 });
  });

  test('changes the address of nobody who holds a right, and takes no last administrator away', async () => {
    const mail = { Operations: [{ op: 'replace', path: 'emails', value: 'mine@evil.example' }] };
    expect(await scim('PATCH', '/Users/kay', mail)).toMatchObject({ status: 400, body: { scimType: 'mutability' } });
    const off = { Operations: [{ op: 'replace', path: 'active', value: false }] };
    expect(await scim('PATCH', '/Users/dora', off)).toMatchObject({ status: 400, body: { scimType: 'mutability' } });
    expect(await person('dora')).toMatchObject({ left: null, mail: 'dora@selkie.example' });
  });
});
