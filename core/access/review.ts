/** Rounds in which those who answer for access say of each who has it: it stays, or it is taken away. */
import type { Holds } from './differences.ts';

/** Whom a round asks: the owner of each group, or the line manager of each person. */
export const reviewers = ['owner', 'manager'] as const;
export type Reviewer = (typeof reviewers)[number];

/** What becomes of what nobody has answered when the round ends. */
export const unansweredWays = ['remove', 'up'] as const;
export type Unanswered = (typeof unansweredWays)[number];

export type ReviewItem = {
  readonly group: string;
  readonly account: string;
  /** On file; nothing for an account of nobody. */
  readonly person: string | null;
  readonly name: string;
  /** The request that gave it; nothing where none did, or it has ended. */
  readonly request: string | null;
  readonly lastUsed: string | null;
};

export type GrantedBy = { readonly person: string; readonly group: string; readonly request: string | null };

const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

/** Who is in the groups that are reviewed, each with why and with when the account was last used. */
export function reviewItems(holds: Holds, groups: readonly string[], grants: readonly GrantedBy[]): ReviewItem[] {
  const accounts = new Map(holds.accounts.map(account => [account.id, account]));
  return holds.groups
    .filter(group => groups.some(name => same(name, group.name)))
    .flatMap(group =>
      group.members.flatMap((id): ReviewItem[] => {
        const account = accounts.get(id);
        if (!account) return [];
        const grant = grants.find(one => one.person === account.person && same(one.group, group.name));
        return [
          {
            group: group.name,
            account: account.account,
            person: account.person,
            name: account.name,
            request: grant?.request ?? null,
            lastUsed: account.lastUsed ?? null,
          },
        ];
      }),
    )
    .sort((a, b) => a.group.localeCompare(b.group) || a.name.localeCompare(b.name));
}
