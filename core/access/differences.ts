import { type GroupRule, groupsBy } from './groupRules.ts';

/**
 * What a directory should hold against what it holds: accounts of those who work here, their names and places, and the groups
 * that were asked for. Each difference is a code with what it is about, and what would mend it.
 */

export type ShouldBe = {
  /** Everybody on file, those who have left among them. */
  readonly people: readonly {
    readonly id: string;
    readonly name: string;
    readonly mail: string;
    readonly works: boolean;
    /** Not here yet: an account of theirs is neither missing nor one too many. */
    readonly comes: boolean;
    readonly department: string;
    readonly place: string;
    /** Titles of the posts that they hold, the main one first. */
    readonly posts: readonly string[];
  }[];
  /** Memberships that were asked for and stand. */
  readonly grants: readonly {
    readonly person: string;
    /** Whose account it is, where nobody on file was named. */
    readonly account?: string;
    readonly group: string;
  }[];
  /** Groups that requests have given: whoever else is in them is there without a reason, unless a rule puts them there. */
  readonly groups: readonly string[];
  /** Groups that go with a post, a place or a department. */
  readonly rules: readonly GroupRule[];
  /** Ids of accounts that requests made for people who are not on file. */
  readonly made: readonly string[];
  /** Accounts that a request disabled and nothing has opened since, by person or by the name of the account. */
  readonly shut: readonly { readonly person: string; readonly account: string; readonly request: string }[];
};

export type Holds = {
  readonly accounts: readonly {
    readonly id: string;
    readonly account: string;
    /** The id on file, where the directory names one. */
    readonly person: string | null;
    readonly name: string;
    readonly active: boolean;
    readonly department: string | null;
    readonly place: string | null;
    readonly post: string | null;
    /** An instant, where the directory tells when it was last used. */
    readonly lastUsed?: string | null;
  }[];
  readonly groups: readonly { readonly id: string; readonly name: string; readonly members: readonly string[] }[];
};

export const comparedParts = ['name', 'department', 'place', 'post'] as const;
export type ComparedPart = (typeof comparedParts)[number];

export type Difference =
  | { readonly code: 'no account'; readonly person: string }
  | { readonly code: 'still open'; readonly person: string; readonly account: string }
  | {
      readonly code: 'closed';
      readonly person: string;
      readonly account: string;
      /** The request that closed it: whether it is to be opened again is for people to say. */
      readonly request?: string;
    }
  | { readonly code: 'two accounts'; readonly person: string; readonly accounts: readonly string[] }
  | {
      readonly code: 'other value';
      readonly person: string;
      readonly account: string;
      readonly part: ComparedPart;
      readonly should: string;
      readonly holds: string | null;
    }
  | { readonly code: 'nobody on file'; readonly account: string; readonly name: string }
  | { readonly code: 'no such group'; readonly group: string }
  | {
      readonly code: 'not a member';
      readonly person: string;
      readonly group: string;
      /** A request gave it, or a rule does. */
      readonly by: 'request' | 'rule';
    }
  | { readonly code: 'no reason'; readonly account: string; readonly name: string; readonly group: string };

/** What a difference is known by, as long as it is there. */
export function differenceKey(one: Difference): string {
  switch (one.code) {
    case 'no account':
    case 'two accounts':
      return `${one.code}:${one.person}`;
    case 'still open':
    case 'closed':
      return `${one.code}:${one.person}:${one.account}`;
    case 'other value':
      return `${one.code}:${one.person}:${one.part}`;
    case 'nobody on file':
      return `${one.code}:${one.account}`;
    case 'no such group':
      return `${one.code}:${one.group}`;
    case 'not a member':
      return `${one.code}:${one.person}:${one.group}`;
    case 'no reason':
      return `${one.code}:${one.account}:${one.group}`;
  }
}

const folded = (text: string): string => text.trim().toLowerCase();

type Wanted = ShouldBe['people'][number];
const partOf = (person: Wanted, part: ComparedPart): string | null =>
  part === 'post' ? (person.posts[0] ?? null) : person[part];

/** Everybody whom rules put into groups, by the folded name of the group. */
function byRules({ people, rules }: ShouldBe): Map<string, { name: string; people: Set<string> }> {
  const found = new Map(rules.map(({ group }) => [folded(group), { name: group, people: new Set<string>() }]));
  for (const { id, works, department, place, posts } of people) {
    if (!works) continue;
    for (const post of posts.length > 0 ? posts : [null])
      for (const group of groupsBy(rules, { department, place, post })) found.get(folded(group))?.people.add(id);
  }
  return found;
}

/** @returns the differences, those of people first, in the order in which people and groups were given */
export function differences(should: ShouldBe, holds: Holds): Difference[] {
  const found: Difference[] = [];
  const known = new Map(should.people.map(person => [person.id, person]));
  const byPerson = new Map<string, Holds['accounts'][number][]>();
  for (const account of holds.accounts)
    if (account.person !== null) byPerson.set(account.person, [...(byPerson.get(account.person) ?? []), account]);

  for (const person of should.people) {
    const own = byPerson.get(person.id) ?? [];
    if (person.comes) continue;
    if (person.works) {
      if (own.length === 0) found.push({ code: 'no account', person: person.id });
      if (own.length > 1)
        found.push({ code: 'two accounts', person: person.id, accounts: own.map(one => one.account) });
      const [first] = own;
      if (own.length === 1 && first) {
        const by = should.shut.find(one => one.person === person.id || one.account === first.account);
        const shut = { code: 'closed' as const, person: person.id, account: first.account };
        if (!first.active) found.push(by ? { ...shut, request: by.request } : shut);
        for (const part of comparedParts) {
          const wanted = partOf(person, part);
          // Whoever holds no post may have any title there.
          if (wanted !== null && first[part] !== wanted)
            found.push({
              code: 'other value',
              person: person.id,
              account: first.account,
              part,
              should: wanted,
              holds: first[part],
            });
        }
      }
    } else
      for (const one of own)
        if (one.active) found.push({ code: 'still open', person: person.id, account: one.account });
  }
  const made = new Set(should.made);
  for (const { id, account, name, person, active } of holds.accounts)
    if (active && !made.has(id) && (person === null || !known.has(person)))
      found.push({ code: 'nobody on file', account, name });

  const groups = new Map(holds.groups.map(group => [folded(group.name), group]));
  const accounts = new Map(holds.accounts.map(account => [account.id, account]));
  const ruled = byRules(should);
  const asked = new Map(should.groups.map(name => [folded(name), name]));
  for (const [key, name] of new Map([...asked, ...[...ruled].map(([key, { name }]) => [key, name] as const)])) {
    const group = groups.get(key);
    const grants = should.grants.filter(one => folded(one.group) === key);
    const given = new Set(grants.map(one => one.person));
    const givenTo = new Set(grants.map(one => one.account));
    const byRule = ruled.get(key)?.people ?? new Set();
    const wanted = new Set([...given, ...byRule].filter(person => person !== ''));
    if (!group) {
      if (wanted.size > 0) found.push({ code: 'no such group', group: name });
      continue;
    }
    const members = new Set(group.members.map(id => accounts.get(id)?.person ?? null));
    // Whoever has left is not put back into a group.
    for (const person of wanted)
      if (known.get(person)?.works && !members.has(person))
        found.push({ code: 'not a member', person, group: name, by: byRule.has(person) ? 'rule' : 'request' });
    for (const id of group.members) {
      const account = accounts.get(id);
      if (account && !made.has(id) && !wanted.has(account.person ?? '') && !givenTo.has(account.account))
        found.push({ code: 'no reason', account: account.account, name: account.name, group: name });
    }
  }
  return found;
}

/** What a connection is asked for to mend a difference; nothing where people must look. */
export type Mending = { readonly action: string; readonly values: Readonly<Record<string, unknown>> };

export function mendingOf(one: Difference, { people }: Pick<ShouldBe, 'people'>): Mending | null {
  const person = 'person' in one ? people.find(({ id }) => id === one.person) : undefined;
  // Found out before somebody left, or came back: what would mend it then is wrong now.
  if (person && person.works === (one.code === 'still open')) return null;
  switch (one.code) {
    case 'no account': {
      if (!person) return null;
      const { id, name, mail, department, place, posts } = person;
      const title = posts[0] === undefined ? {} : { title: posts[0] };
      return { action: 'create account', values: { person: id, name, mail, department, place, ...title } };
    }
    case 'still open':
    case 'nobody on file':
      return { action: 'disable account', values: { account: one.account } };
    case 'closed':
      if (one.request !== undefined) return null;
      return { action: 'change account', values: { account: one.account, active: true } };
    case 'other value':
      return {
        action: 'change account',
        values: { account: one.account, [one.part === 'post' ? 'title' : one.part]: one.should },
      };
    case 'not a member':
      return { action: 'add to group', values: { person: one.person, group: one.group } };
    case 'no reason':
      return { action: 'take out of group', values: { account: one.account, group: one.group } };
    case 'two accounts':
    case 'no such group':
      return null;
  }
}

/** A difference as people say it. */
export function differenceWords(one: Difference, nameOf: (person: string) => string): { what: string; cause: string } {
  switch (one.code) {
    case 'no account':
      return { what: `${nameOf(one.person)} has no account`, cause: 'They work here.' };
    case 'still open':
      return { what: `The account ${one.account} of ${nameOf(one.person)} can be used`, cause: 'They have left.' };
    case 'closed':
      return {
        what: `The account ${one.account} of ${nameOf(one.person)} is disabled`,
        cause:
          one.request === undefined
            ? 'They work here.'
            : `${one.request} disabled it, and no last day is on file. Give them one, or open the account by hand.`,
      };
    case 'two accounts':
      return {
        what: `${nameOf(one.person)} has ${one.accounts.length} accounts: ${one.accounts.join(', ')}`,
        cause: 'Which is the right one, somebody must say who looks after the directory.',
      };
    case 'other value':
      return {
        what: `${one.account}: ${one.part} ${one.holds === null ? 'is empty' : `“${one.holds}”`}, on file “${one.should}”`,
        cause: 'The record has changed, or the directory was changed by hand.',
      };
    case 'nobody on file':
      return {
        what: `The account ${one.account}${one.name ? ` (${one.name})` : ''} can be used`,
        cause: 'Nobody on file has it, and no request made it.',
      };
    case 'no such group':
      return {
        what: `There is no group ${one.group}`,
        cause: 'Requests gave it, or a rule of the connection names it.',
      };
    case 'not a member':
      return {
        what: `${nameOf(one.person)} is not in ${one.group}`,
        cause:
          one.by === 'rule'
            ? 'It goes with their post, their place or their department.'
            : 'A request gave it, and it stands.',
      };
    case 'no reason':
      return {
        what: `${one.account}${one.name ? ` (${one.name})` : ''} is in ${one.group}`,
        cause: 'No request gave it and no rule does, or what gave it has ended.',
      };
  }
}
