/** The connector of a directory against the stand-in: each deed, its taking back, and many of them while much goes wrong. */
import { mkdtempSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { GroupRule } from '@north-pebble/core/access';
import { directoryApp } from '../../../standins/directory/app.ts';
import type { Resource } from '../../../standins/directory/resource.ts';
import { types } from '../../../standins/directory/schema.ts';
import { membersOf } from '../../../standins/directory/store.ts';
import { dice } from '../../testing/soak.ts';
import type { Answered, Asked } from '../connector.ts';
import { accountName, directoryConnector } from './index.ts';

const token = 'a token of some length';
const enterprise = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
const roll = dice(7);
let server: Server;
let address: string;
let made: ReturnType<typeof directoryApp>;
beforeAll(async () => {
  const folder = mkdtempSync(join(tmpdir(), 'np-scim-'));
  made = directoryApp({ token, folder, base: () => address.replace('/scim/v2', ''), roll });
  server = made.app.listen(0, '127.0.0.1');
  await new Promise(done => server.once('listening', done));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/scim/v2`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

const settings = (): Parameters<typeof directoryConnector.deliver>[0] => ({
  address,
  token,
  inside: true,
  groups: rules,
});
/** Groups that go with a post or a place; the tests of that set them. */
let rules: GroupRule[] = [];
let keeps: string[] = [];
const turn = (switches: object) =>
  fetch(`${address.replace('/scim/v2', '')}/switches`, {
    method: 'PUT',
    headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
    body: JSON.stringify(switches),
  });
const users = (): Resource[] => made.directory.store.all('User');
const groups = (): Resource[] => made.directory.store.all('Group');
const spaces = (): Resource[] => made.directory.store.all('Space');
const user = (account: string) => users().find(one => one.userName === account);

let n = 0;
/** An effect as the house keeps it: its key, and what was noted of it. */
class Effect {
  noted: Readonly<Record<string, unknown>> | null = null;
  result: Readonly<Record<string, unknown>> | null = null;
  readonly key = `R-1:${++n}:Directory`;
  constructor(
    readonly action: string,
    readonly values: Record<string, unknown>,
  ) {}
  get asked(): Asked {
    return {
      key: this.key,
      action: this.action,
      request: 'R-1',
      step: 's',
      values: this.values,
      noted: this.noted,
      note: async facts => {
        this.noted = facts;
      },
      at: '2026-02-02T10:00:00Z',
      keeps: async () => keeps,
    };
  }
  /** Tried until it is done or refused; the process may end between the answer and its being written down. */
  async until(work: () => Promise<Answered>, forgets = () => false): Promise<Answered> {
    for (let tries = 0; tries < 200; tries++) {
      const answered = await work();
      if (answered.state !== 'later' && !forgets()) return answered;
    }
    throw new Error(`${this.action} never came to an end`);
  }
  async deliver(forgets?: () => boolean): Promise<Answered> {
    const answered = await this.until(() => directoryConnector.deliver(settings(), this.asked), forgets);
    if (answered.state === 'delivered') this.result = answered.result;
    return answered;
  }
  undo(forgets?: () => boolean): Promise<Answered> {
    return this.until(() => directoryConnector.undo(settings(), this.asked, this.result ?? this.noted ?? {}), forgets);
  }
}
const doing = async (action: string, values: Record<string, unknown>) => {
  const effect = new Effect(action, values);
  return { effect, answered: await effect.deliver() };
};
const makeGroup = (displayName: string) =>
  made.directory.create(types[1], {
    schemas: ['urn:ietf:params:scim:schemas:core:2.0:Group'],
    displayName,
  });

describe('names of accounts', () => {
  test.each([
    ['Pia Lindqvist', 'pia.lindqvist'],
    ['Åse Müller-Lund', 'ase.muller-lund'],
    ['  Þór  Ægisson ', 'thor.aegisson'],
    ['José María d’Ávila', 'jose.maria.d.avila'],
    ['李小龙', ''],
  ])('%s is %s', (name, account) => {
    expect(accountName(name)).toBe(account);
  });
});

describe('accounts', () => {
  test('made with what is known of the person, found by its key when it is asked for again', async () => {
    const { effect, answered } = await doing('create account', {
      name: 'Pia Lindqvist',
      person: 'pia',
      title: 'Tide observer',
      department: 'Observatory',
      place: 'Ovay Station',
      mail: 'pia@selkie.example',
    });
    expect(answered).toMatchObject({ state: 'delivered', result: { account: 'pia.lindqvist' } });
    expect(user('pia.lindqvist')).toMatchObject({
      externalId: effect.key,
      active: true,
      displayName: 'Pia Lindqvist',
      [enterprise]: { employeeNumber: 'pia', department: 'Observatory', organization: 'Ovay Station' },
    });
    const before = users().length;
    expect(await effect.deliver()).toEqual(answered);
    expect(users()).toHaveLength(before);
  });
  test('two of one name on one day get two accounts, and the second is told of the clash', async () => {
    const { answered } = await doing('create account', { name: 'Pia Lindqvist' });
    expect(answered).toMatchObject({
      state: 'delivered',
      result: { account: 'pia.lindqvist2', clash: 'pia.lindqvist was taken, so it is pia.lindqvist2' },
    });
  });
  test('a conflict where nobody has the name is tried again, not worked round', async () => {
    await turn({ nextConflicts: 1 });
    const { answered } = await doing('create account', { name: 'Orla Quay' });
    expect(answered).toMatchObject({ state: 'delivered', result: { account: 'orla.quay' } });
  });
  test('taken back, it is closed and kept', async () => {
    const { effect } = await doing('create account', { name: 'Cato Reid' });
    expect(await effect.undo()).toMatchObject({ state: 'delivered' });
    expect(user('cato.reid')).toMatchObject({ active: false });
    expect(await effect.undo()).toMatchObject({ state: 'delivered' });
  });
  test('disabled, and enabled again only where it was so before', async () => {
    const { effect } = await doing('disable account', { person: 'pia' });
    expect(user('pia.lindqvist')?.active).toBe(false);
    const { effect: second } = await doing('disable account', { person: 'pia' });
    await second.undo();
    expect(user('pia.lindqvist')?.active).toBe(false);
    await effect.undo();
    expect(user('pia.lindqvist')?.active).toBe(true);
  });
  test('changed, and changed back to what it was, also to nothing', async () => {
    const { effect } = await doing('change account', {
      person: 'pia',
      name: 'Pia Berg',
      title: 'Keeper',
      zone: 'Europe/Oslo',
    });
    expect(user('pia.lindqvist')).toMatchObject({ displayName: 'Pia Berg', title: 'Keeper', timezone: 'Europe/Oslo' });
    await effect.undo();
    expect(user('pia.lindqvist')).toMatchObject({ displayName: 'Pia Lindqvist', title: 'Tide observer' });
    expect(user('pia.lindqvist')?.timezone).toBeUndefined();
  });
  test.each<[string, Record<string, unknown>, string]>([
    ['create account', {}, 'the name is not said'],
    ['create account', { name: '李小龙' }, 'no account name can be made of that name'],
    ['disable account', { person: 'nobody' }, 'there is no account of nobody'],
    ['disable account', {}, 'whose account it is is not said'],
    ['add to group', { person: 'pia', group: 'Moon' }, 'there is no group Moon'],
    ['add to group', { person: 'pia' }, 'the group is not said'],
    ['close space', { space: 'Moon' }, 'there is no space called “Moon”'],
    ['dance', {}, 'a directory does not dance'],
  ])('%s with %j is refused in words', async (action, values, reason) => {
    const { answered } = await doing(action, values);
    expect(answered).toEqual({ state: 'refused', reason });
  });
});

describe('groups and spaces', () => {
  test('a member is added once and taken out again; who was in it before stays', async () => {
    const group = makeGroup('Ferry console');
    const members = () => membersOf(groups().find(one => one.id === group.id));
    const { effect } = await doing('add to group', { person: 'pia', group: 'ferry CONSOLE' });
    const { effect: again } = await doing('add to group', { person: 'pia', group: 'Ferry console' });
    expect(members()).toHaveLength(1);
    await again.undo();
    expect(members()).toHaveLength(1);
    await effect.undo();
    expect(members()).toHaveLength(0);
  });
  test('an answer that is lost does not make a member of before of whom it added', async () => {
    makeGroup('Lamp console');
    const effect = new Effect('add to group', { person: 'pia', group: 'Lamp console' });
    await turn({ nextLost: 1 });
    expect(await effect.deliver()).toMatchObject({ state: 'delivered', result: { before: false } });
    await effect.undo();
    expect(membersOf(groups().find(one => one.displayName === 'Lamp console'))).toEqual([]);
  });
  test('a space has its name once and its owner; closed, and open again', async () => {
    const values = { name: 'W Berths', owner: 'pia', visibility: 'house', guests: false };
    const { answered } = await doing('create space', values);
    expect(answered).toMatchObject({ state: 'delivered', result: { space: 'W Berths' } });
    expect((await doing('create space', values)).answered).toEqual({
      state: 'refused',
      reason: 'there is a space called “W Berths” already',
    });
    const { effect } = await doing('close space', { space: 'W Berths' });
    expect(spaces()[0].closed).toBe(true);
    await effect.undo();
    expect(spaces()[0].closed).toBe(false);
  });
});

describe('groups that go with a post or a place', () => {
  const rule = (by: GroupRule['by'], value: string, group: string): GroupRule => ({ by, value, group });
  const inGroups = (id: unknown) =>
    groups()
      .filter(one => membersOf(one).includes(String(id)))
      .map(one => one.displayName)
      .sort();
  beforeAll(() => {
    for (const name of ['House', 'Observers', 'Keepers', 'Ovay', 'Skarn']) makeGroup(name);
    rules = [
      rule('everybody', '', 'House'),
      rule('post', 'Observer', 'Observers'),
      rule('post', 'Keeper', 'Keepers'),
      rule('place', 'Ovay Station', 'Ovay'),
      rule('place', 'Skarn Light', 'Skarn'),
      rule('place', 'Skarn Light', 'Moon base'),
    ];
  });
  afterAll(() => {
    rules = [];
    keeps = [];
  });
  test('an account is in them from its first day, and out of them when it is taken back', async () => {
    const values = { name: 'Rula Groups', person: 'rula', title: 'Observer', place: 'Ovay Station' };
    const { effect, answered } = await doing('create account', values);
    expect(answered).toMatchObject({ state: 'delivered', result: { groups: 'House, Observers, Ovay' } });
    expect(inGroups(effect.result?.id)).toEqual(['House', 'Observers', 'Ovay']);
    // Killed between the account and its groups: what is missing is added, and nothing twice.
    const [house] = groups().filter(one => one.displayName === 'House');
    made.directory.patch(types[1], house.id, {
      schemas: ['urn:ietf:params:scim:api:messages:2.0:PatchOp'],
      Operations: [{ op: 'remove', path: `members[value eq "${effect.result?.id}"]` }],
    });
    await effect.deliver();
    expect(inGroups(effect.result?.id)).toEqual(['House', 'Observers', 'Ovay']);
    await effect.undo();
    expect(inGroups(effect.result?.id)).toEqual([]);
  });
  test('a move carries them; what a request gave stays; taken back, all is as it was', async () => {
    const values = { name: 'Mo Mover', person: 'mo', title: 'Observer', place: 'Ovay Station' };
    const { effect: account } = await doing('create account', values);
    await doing('add to group', { person: 'mo', group: 'Keepers' });
    keeps = ['Observers'];
    const effect = new Effect('change account', { person: 'mo', title: 'Keeper', place: 'Skarn Light' });
    await turn({ nextLost: 1 });
    expect(await effect.deliver()).toMatchObject({
      result: { groups: 'House, Keepers, Skarn', 'groups left': 'Ovay', 'no such group': 'Moon base' },
    });
    expect(inGroups(account.result?.id)).toEqual(['House', 'Keepers', 'Observers', 'Skarn']);
    await effect.undo();
    // Keepers stays: it was there before the move.
    expect(inGroups(account.result?.id)).toEqual(['House', 'Keepers', 'Observers', 'Ovay']);
  });
  test('a change of the name alone moves nobody', async () => {
    const { effect } = await doing('create account', { name: 'Nel Name', person: 'nel', title: 'Observer' });
    keeps = [];
    await doing('change account', { person: 'nel', name: 'Nel Newname' });
    expect(inGroups(effect.result?.id)).toEqual(['House', 'Observers']);
  });
});

describe('a directory that does not answer as it should', () => {
  test('down it is away; with another token it is tried again and says why; elsewhere it is refused', async () => {
    const once = (more: object) =>
      directoryConnector.deliver({ ...settings(), ...more }, new Effect('disable account', { person: 'pia' }).asked);
    expect(await once({ address: 'http://127.0.0.1:1/scim/v2' })).toMatchObject({ state: 'later', away: true });
    expect(await once({ token: 'some other token' })).toMatchObject({
      state: 'later',
      reason: 'The token is not right',
    });
    expect(await once({ inside: false })).toMatchObject({ state: 'refused' });
    await turn({ nextTooMany: 1, retryAfter: 9 });
    expect(await once({})).toMatchObject({ state: 'later', after: 9000 });
    expect(await directoryConnector.check(settings())).toBeNull();
    expect(await directoryConnector.check({ ...settings(), token: 'some other token' })).toBe('The token is not right');
  });

  test('many deeds while much goes wrong: nothing is doubled, and nothing is claimed that is not there', async () => {
    for (const name of ['North', 'South', 'East']) makeGroup(name);
    await turn({ chance: 0.25 });
    // Now and then the process ends between the answer and its being written down.
    const forgets = () => roll() < 0.08;
    const accounts: Effect[] = [];
    // A long run (`npm run soak`) does a thousand.
    const most = process.env.NP_SEED === undefined ? 300 : 1000;
    let deeds = 0;
    const standing = new Map<string, boolean>();
    for (let run = 0; deeds < most; run++) {
      const person = `p${run}`;
      const account = new Effect('create account', { name: `Name ${run % 40}`, person });
      expect((await account.deliver(forgets)).state).toBe('delivered');
      accounts.push(account);
      deeds++;
      const groupName = ['North', 'South', 'East'][run % 3];
      const joining = new Effect('add to group', { person, group: groupName });
      expect((await joining.deliver(forgets)).state).toBe('delivered');
      deeds++;
      const stays = roll() < 0.5;
      if (!stays) {
        expect((await joining.undo(forgets)).state).toBe('delivered');
        deeds++;
      }
      standing.set(`${groupName} ${account.result?.id}`, stays);
      if (roll() < 0.3) {
        const disabling = new Effect('disable account', { person });
        expect((await disabling.deliver(forgets)).state).toBe('delivered');
        expect(made.directory.store.get('User', String(account.result?.id))?.active).toBe(false);
        deeds++;
      }
    }
    await turn({ chance: 0 });
    // Each has one account, that which it was told of; no two have the same.
    for (const account of accounts) {
      const own = users().filter(one => one.externalId === account.key);
      expect(own.map(one => [one.userName, one.id])).toEqual([[account.result?.account, account.result?.id]]);
    }
    expect(new Set(accounts.map(one => one.result?.account)).size).toBe(accounts.length);
    for (const [what, stays] of standing) {
      const [name, id] = what.split(' ');
      const group = groups().find(one => one.displayName === name);
      expect([what, membersOf(group).filter(one => one === id)]).toEqual([what, stays ? [id] : []]);
    }
  }, 120_000);
});
