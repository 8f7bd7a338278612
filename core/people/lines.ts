/** The reporting lines as they are on a day: which post stands under which, who holds it, and what is wrong. */
import type { CivilDate } from '../time/index.ts';
import type { DirectoryIndex, PersonId, PostId } from './directory.ts';
import { holderOf, postsOf, reportsTo } from './reportingLine.ts';

export type LinePost = {
  readonly post: PostId;
  /** Nobody where it is vacant. */
  readonly holder: PersonId | null;
  /** The holder holds another post too. */
  readonly holdsOthers: boolean;
  readonly below: readonly PostId[];
  /** How many posts stand under it, those under these among them. */
  readonly all: number;
};
export type Lines = {
  /** Posts that report to none. */
  readonly top: readonly PostId[];
  readonly posts: ReadonlyMap<PostId, LinePost>;
  /** Posts that lead into a circle, or to a post that is not on file: no top is above them. */
  readonly loose: readonly PostId[];
};

/** @returns every post once, those under one post by their titles */
export function linesOn(index: DirectoryIndex, day: CivilDate): Lines {
  const { posts } = index.directory;
  const below = new Map<PostId, PostId[]>();
  const top: PostId[] = [];
  const sorted = posts.toSorted((a, b) => a.title.localeCompare(b.title) || (a.id < b.id ? -1 : 1));
  for (const post of sorted) {
    const above = reportsTo(post, day);
    if (above === null) top.push(post.id);
    else below.set(above, [...(below.get(above) ?? []), post.id]);
  }
  // From the tops down: whatever is not met is loose. An own stack, since lines may be long.
  const met: PostId[] = [];
  const stack = [...top];
  for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
    met.push(at);
    stack.push(...(below.get(at) ?? []));
  }
  const counts = new Map<PostId, number>();
  for (const id of met.toReversed())
    counts.set(
      id,
      (below.get(id) ?? []).reduce((sum, one) => sum + 1 + (counts.get(one) ?? 0), 0),
    );
  const reached = new Set(met);
  return {
    top,
    loose: sorted.filter(post => !reached.has(post.id)).map(post => post.id),
    posts: new Map(
      posts.map(post => {
        const found = holderOf(index, post, day);
        const holder = 'person' in found ? found.person.id : null;
        return [
          post.id,
          {
            post: post.id,
            holder,
            holdsOthers: holder !== null && postsOf(index, holder, day).length > 1,
            below: below.get(post.id) ?? [],
            all: counts.get(post.id) ?? 0,
          },
        ];
      }),
    ),
  };
}
