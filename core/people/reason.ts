/**
 * Why somebody is found for a step, or nobody: a code and what it is about, by ids. Words are made where it is shown, so
 * that a person or a post is called what it is called there, and nothing that is stored has to be read as a sentence.
 */
import type { CivilDate } from '../time/index.ts';
import type { DirectoryIndex, PersonId, PostId } from './directory.ts';

/** Why nobody holds a post: somebody left, or nobody ever came. */
export type Vacancy = { readonly person: PersonId; readonly left: CivilDate } | null;

type Unit = { readonly what: 'department' | 'place'; readonly id: string | null; readonly of: PersonId | null };

/** Those of the place or department of a person or a post, or those who hold it for that person or post alone. */
type Where =
  | (({ readonly of: PersonId } | { readonly post: PostId }) & { readonly within?: 'place' | 'department' })
  | null;

/** What each code is about. */
type About = {
  // The reporting line.
  'reports to': { post: PostId; above: PostId };
  'holds post': { person: PersonId; post: PostId };
  'post vacant, goes up': { post: PostId; vacancy: Vacancy };
  'may not decide, goes up': { person: PersonId };
  'nobody above post': { post: PostId };
  'reports to no post': { post: PostId };
  'line in a circle': { post: PostId };
  'holds no post': { person: PersonId };
  // Whom a rule means.
  asked: { person: PersonId };
  owns: { person: PersonId };
  'is the subject': { person: PersonId };
  'named in workflow': { person: PersonId };
  'given in form': { person: PersonId };
  'post in form': { post: PostId };
  'decided before': { person: PersonId };
  everyone: object;
  heads: { person: PersonId; unit: Unit };
  'first manager with': { person: PersonId; above: PersonId; what: string; least: number; has: number };
  'dotted line to': { person: PersonId; to: PersonId };
  'has role': { person: PersonId; role: string; where: Where };
  // Why it goes to somebody else.
  'left, goes up': { person: PersonId; left: CivilDate };
  'own request, goes up': object;
  'covers, but may not have it': { person: PersonId; for: PersonId };
  'away and covered': { person: PersonId; until: CivilDate; by: PersonId };
  covered: { person: PersonId; until: CivilDate; by: PersonId };
  'away, goes up': { person: PersonId; until: CivilDate };
  'away, waits': { person: PersonId; until: CivilDate };
  // Why nobody is found.
  'person not on file': { person: PersonId };
  'post not on file': { post: PostId };
  'post vacant': { post: PostId; vacancy: Vacancy };
  'no head': { unit: Unit };
  'no person given': object;
  'no post given': object;
  'not decided yet': object;
  'nobody works there': object;
  'nobody above': { person: PersonId };
  'least not known': { formula: string };
  'no manager with': { above: PersonId; what: string; least: number };
  'no dotted line': { person: PersonId };
  'nobody has role': { role: string; where: Where };
  'may not be asked': { people: readonly PersonId[] };
  'nobody above who could': { people: readonly PersonId[] };
  'several gaps': { gaps: readonly PeopleReason[] };
  // What only a request can tell.
  'depends on person': object;
  'depends on post': object;
  'depends on decision': object;
  'depends on request': object;
};

export type PeopleReason = { [Code in keyof About]: { readonly code: Code } & Readonly<About[Code]> }[keyof About];

/** Whoever may help requests on: who they are is known to those who send letters, not where one is written. */
export const hrOperations = '#operations' as PersonId;

export const personName = (index: DirectoryIndex, id: PersonId): string =>
  id === hrOperations ? 'HR operations' : (index.person(id)?.name ?? id);
const postTitle = (index: DirectoryIndex, id: PostId): string => index.post(id)?.title ?? id;

const vacancyWords = (index: DirectoryIndex, vacancy: Vacancy): string =>
  vacancy ? `${personName(index, vacancy.person)} left on ${vacancy.left}` : 'nobody holds it';

function unitWords(index: DirectoryIndex, { what, id, of }: Unit): string {
  const found = id === null ? undefined : what === 'department' ? index.department(id) : index.place(id);
  return found?.name ?? (of === null ? `the ${what} of the post` : `${personName(index, of)}’s ${what}`);
}

function whereWords(index: DirectoryIndex, where: Where): string {
  if (!where) return '';
  const name = 'post' in where ? `the post ${postTitle(index, where.post)}` : personName(index, where.of);
  return where.within ? ` in the ${where.within} of ${name}` : ` for ${name}`;
}

const words: { [Code in keyof About]: (about: About[Code], index: DirectoryIndex) => string } = {
  'reports to': ({ post, above }, index) => `${postTitle(index, post)} reports to ${postTitle(index, above)}`,
  'holds post': ({ person, post }, index) => `${personName(index, person)} is ${postTitle(index, post)}`,
  'post vacant, goes up': ({ post, vacancy }, index) =>
    `${postTitle(index, post)} is vacant (${vacancyWords(index, vacancy)}), so it goes up`,
  'may not decide, goes up': ({ person }, index) => `${personName(index, person)} may not decide this, so it goes up`,
  'nobody above post': ({ post }, index) => `Nobody is above ${postTitle(index, post)}.`,
  'reports to no post': ({ post }, index) => `${postTitle(index, post)} reports to a post that is not on file.`,
  'line in a circle': ({ post }, index) => `The reporting line goes in a circle at ${postTitle(index, post)}.`,
  'holds no post': ({ person }, index) => `${personName(index, person)} holds no post, so no line manager is on file.`,
  asked: ({ person }, index) => `${personName(index, person)} asked`,
  owns: ({ person }, index) => `${personName(index, person)} owns the request`,
  'is the subject': ({ person }, index) => `the request is for ${personName(index, person)}`,
  'named in workflow': ({ person }, index) => `${personName(index, person)} is named in the workflow`,
  'given in form': ({ person }, index) => `${personName(index, person)} is given in the form`,
  'post in form': ({ post }, index) => `${postTitle(index, post)} is the post in the form`,
  'decided before': ({ person }, index) => `${personName(index, person)} decided an earlier step`,
  everyone: () => 'everyone',
  heads: ({ person, unit }, index) => `${personName(index, person)} heads ${unitWords(index, unit)}`,
  'first manager with': ({ person, above, what, least, has }, index) =>
    `${personName(index, person)} is the first above ${personName(index, above)} with a ${what} of at least ${least} (${has})`,
  'dotted line to': ({ person, to }, index) => `${personName(index, person)} also answers to ${personName(index, to)}`,
  'has role': ({ person, role, where }, index) =>
    `${personName(index, person)} has the role “${role}”${whereWords(index, where)}`,
  'left, goes up': ({ person, left }, index) => `${personName(index, person)} left on ${left}, so it goes up`,
  'own request, goes up': () => 'nobody decides their own request, so it goes up',
  'covers, but may not have it': ({ person, for: whom }, index) =>
    `${personName(index, person)} covers for ${personName(index, whom)}, but may not have this`,
  'away and covered': ({ person, until, by }, index) =>
    `${personName(index, person)} is away until ${until}; ${personName(index, by)} covers`,
  covered: ({ person, until, by }, index) =>
    `${personName(index, by)} covers for ${personName(index, person)} until ${until}`,
  'away, goes up': ({ person, until }, index) =>
    `${personName(index, person)} is away until ${until} with no cover, so it goes up`,
  'away, waits': ({ person, until }, index) =>
    `${personName(index, person)} is away until ${until} with no cover; it waits`,
  'person not on file': ({ person }) => `${person} is not on file.`,
  'post not on file': ({ post }) => `The post ${post} is not on file.`,
  'post vacant': ({ post, vacancy }, index) => `${postTitle(index, post)} is vacant (${vacancyWords(index, vacancy)}).`,
  'no head': ({ unit }, index) => `No head is on file for ${unitWords(index, unit)}.`,
  'no person given': () => 'No person is given in the form yet.',
  'no post given': () => 'No post is given in the form yet.',
  'not decided yet': () => 'Nobody has decided that step yet.',
  'nobody works there': () => 'Nobody works there.',
  'nobody above': ({ person }, index) => `Nobody is above ${personName(index, person)}.`,
  'least not known': ({ formula }) => `${formula} is not known, so no manager can be chosen by it.`,
  'no manager with': ({ above, what, least }, index) =>
    `Nobody above ${personName(index, above)} has a ${what} of ${least} or more.`,
  'no dotted line': ({ person }, index) => `${personName(index, person)} has no dotted line on file.`,
  'nobody has role': ({ role, where }, index) => `Nobody${whereWords(index, where)} has the role “${role}”.`,
  'may not be asked': ({ people }, index) =>
    `${people.map(p => personName(index, p)).join(', ')} may not be asked here.`,
  'nobody above who could': ({ people }, index) =>
    `Nobody is above ${people.map(p => personName(index, p)).join(', ')} who could decide instead.`,
  'several gaps': ({ gaps }, index) => gaps.map(gap => peopleReasonWords(gap, index)).join(' '),
  'depends on person': () => 'It depends on a person in the form.',
  'depends on post': () => 'It depends on a post in the form.',
  'depends on decision': () => 'It depends on who decides an earlier step.',
  'depends on request': () => 'It depends on what the request says.',
};

/** Gaps are sentences of their own; reasons are parts of one. */
export const peopleReasonWords = (reason: PeopleReason, index: DirectoryIndex): string =>
  (words[reason.code] as (about: PeopleReason, index: DirectoryIndex) => string)(reason, index);

const codes: ReadonlySet<string> = new Set(Object.keys(words));
export const isPeopleReason = (reason: { readonly code: string }): reason is PeopleReason => codes.has(reason.code);
