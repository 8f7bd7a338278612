/**
 * A directory over SCIM 2.0 (RFC 7643, RFC 7644): accounts, groups and spaces. What is made is found by the key of the
 * effect before it is made again (`externalId`); before anything that is there already is changed, it is noted how it
 * stood, so that a lost answer is told from what was so before, and only what was done is taken back.
 */
import type { Offered, Offers } from '@north-pebble/core/workflow';
import type { Connector } from '../connector.ts';
import { changeAccount, changeBack, closeAccount, createAccount, disableAccount, enableAgain } from './accounts.ts';
import { Client, refuse, settled, wordsOf } from './client.ts';
import type { Deed, TakingBack } from './deed.ts';
import { membership, membershipBack } from './groups.ts';
import { holds, named } from './holds.ts';
import { Settings } from './settings.ts';
import { closeSpace, closeSpaceMade, createSpace, openAgain } from './spaces.ts';

export { accountName } from './accounts.ts';

const deeds: Readonly<Record<string, { deed: Deed; back: TakingBack }>> = {
  'create account': { deed: createAccount, back: closeAccount },
  'change account': { deed: changeAccount, back: changeBack },
  'disable account': { deed: disableAccount, back: enableAgain },
  'add to group': { deed: membership(true), back: membershipBack },
  'take out of group': { deed: membership(false), back: membershipBack },
  'create space': { deed: createSpace, back: closeSpaceMade },
  'close space': { deed: closeSpace, back: openAgain },
};

type Picked = Pick<Offered, 'from' | 'words'>;
const needs = (name: string, label: string, picked: Picked = {}): Offered => ({ name, label, needed: true, ...picked });
const takes = (name: string, label: string, picked: Picked = {}): Offered => ({
  name,
  label,
  needed: false,
  ...picked,
});
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
  'add to group': [needs('group', 'the name of the group', { from: 'groups' }), ...whose],
  'take out of group': [needs('group', 'the name of the group', { from: 'groups' }), ...whose],
  'create space': [
    needs('name', 'the name of the space'),
    needs('owner', 'who answers for it'),
    takes('visibility', 'who can see it', { words: ['members', 'house', 'everybody'] }),
    takes('rights', 'what members may do', { words: ['read', 'add', 'change'] }),
    takes('guests', 'whether people from outside may be let in'),
  ],
  'close space': [needs('space', 'the name of the space', { from: 'spaces' })],
};

export const directoryConnector: Connector<Settings> = {
  name: 'A directory over SCIM 2.0',
  settings: Settings,
  fields: [
    { name: 'address', kind: 'address', label: 'Base address', help: 'As in https://directory.example/scim/v2.' },
    { name: 'token', kind: 'secret', label: 'Token', help: 'Whoever looks after the directory gives it.' },
    { name: 'inside', kind: 'yes', label: 'It may be in a private network, or on this machine', help: null },
    {
      name: 'groups',
      kind: 'group rules',
      label: 'Groups that go with a post, a place or a department',
      help: 'Whoever gets an account or changes post or place is put into these, and taken out of those of before.',
    },
  ],
  offers,
  deliver: (settings, asked) =>
    settled(async () => {
      const found = deeds[asked.action];
      if (!found) throw refuse(`a directory does not ${asked.action}`);
      return found.deed(new Client(settings), asked, settings);
    }),
  undo: (settings, asked, result) =>
    settled(async () => {
      await deeds[asked.action]?.back(new Client(settings), asked, result, settings);
      return {};
    }),
  holds,
  named,
  groupRules: settings => settings.groups,
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
