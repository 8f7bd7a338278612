/** Groups that go with a post, a place or a department, or with working here at all. */

export const groupsGoBy = ['everybody', 'post', 'place', 'department'] as const;
export type GroupsGoBy = (typeof groupsGoBy)[number];

/** Whoever has this post, works at this place or in this department is in the group. `everybody` looks at no value. */
export type GroupRule = { readonly by: GroupsGoBy; readonly value: string; readonly group: string };

/** Where somebody stands, in the words that are on file and in the directory. */
export type Standing = Readonly<Record<Exclude<GroupsGoBy, 'everybody'>, string | null>>;

const folded = (text: string): string => text.trim().toLowerCase();

const holdsFor = ({ by, value }: GroupRule, standing: Standing): boolean => {
  if (by === 'everybody') return true;
  const own = standing[by];
  return own !== null && folded(own) === folded(value);
};

/** @returns the names of the groups, each once whatever its letters, in the order of the rules */
export function groupsBy(rules: readonly GroupRule[], standing: Standing): string[] {
  const found = new Map<string, string>();
  for (const rule of rules)
    if (holdsFor(rule, standing) && !found.has(folded(rule.group))) found.set(folded(rule.group), rule.group);
  return [...found.values()];
}

export type GroupChange = { readonly joins: readonly string[]; readonly leaves: readonly string[] };

/**
 * What a change of post, place or department does to groups.
 * @param given groups that requests gave: nobody loses one of these because they move
 */
export function groupChange(
  rules: readonly GroupRule[],
  before: Standing,
  after: Standing,
  given: readonly string[],
): GroupChange {
  const had = groupsBy(rules, before);
  const joins = groupsBy(rules, after);
  const stays = new Set([...joins, ...given].map(folded));
  return { joins, leaves: had.filter(group => !stays.has(folded(group))) };
}
