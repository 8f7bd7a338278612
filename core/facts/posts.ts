/** Changes of posts: who holds one, what it is, whom it reports to, and who has a role. */
import { idFrom } from '../form/index.ts';
import { type Directory, reportsTo } from '../people/index.ts';
import { addDays, type CivilDate } from '../time/index.ts';
import { type ChangeEdits, type ChangeFault, no, type Of, yes } from './change.ts';
import type { Fact, FactEdit, FactOf } from './fact.ts';
import { factLike } from './shelves.ts';
import { mainHolder, onFile, outside, personOf } from './standing.ts';

export function holdingEdits(directory: Directory, { person: id, from, post }: Of<'post'>): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  if (!onFile(directory.posts, post)) return no({ code: 'not on file', field: 'post' });
  const missed = outside(person, from);
  if (missed) return no(missed);
  const gone = closedBefore(directory, post, from);
  if (gone) return no({ code: 'post is closed', field: 'post', closed: gone });
  const other = mainHolder(directory, post, id, from);
  if (other) return no({ code: 'post is held', field: 'post', ...other });
  const edits: FactEdit[] = [];
  for (const one of directory.holdings) {
    if (one.person !== id || !one.main || (one.to !== null && one.to < from)) continue;
    const before: FactOf<'holding'> = { kind: 'holding', ...one };
    if (one.post === post && one.from === from && one.to === null)
      return no({ code: 'nothing changes', field: 'post' });
    edits.push({ before, after: one.from < from ? { ...before, to: addDays(from, -1) } : null });
  }
  const to = directory.posts.find(one => one.id === post)?.closed ?? null;
  const after: FactOf<'holding'> = { kind: 'holding', post, person: id, from, to, main: true };
  return yes(...edits, {
    before: edits.some(edit => edit.after === null && isOf(edit.before, after)) ? null : factLike(directory, after),
    after,
  });
}
const isOf = (a: Fact | null, b: FactOf<'holding'>): boolean =>
  a?.kind === 'holding' && a.post === b.post && a.person === b.person && a.from === b.from;

export function actingEdits(directory: Directory, { person: id, post, from, to }: Of<'acts'>): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  if (!onFile(directory.posts, post)) return no({ code: 'not on file', field: 'post' });
  if (to !== null && to < from) return no({ code: 'ends before it begins', field: 'to' });
  const missed = outside(person, from) ?? (to === null ? null : outside(person, to));
  if (missed) return no(missed);
  const gone = closedBefore(directory, post, to ?? from);
  if (gone) return no({ code: 'post is closed', field: 'post', closed: gone });
  const other = directory.holdings.find(
    one =>
      one.post === post &&
      one.person === id &&
      one.from !== from &&
      (one.to === null || one.to >= from) &&
      (to === null || one.from <= to),
  );
  if (other) return no({ code: 'post is held', field: 'post', by: id, day: other.from > from ? other.from : from });
  const after: FactOf<'holding'> = { kind: 'holding', post, person: id, from, to, main: false };
  const before = factLike(directory, after);
  if (before?.kind === 'holding' && before.main) return no({ code: 'post is held', field: 'post', by: id, day: from });
  return yes({ before, after });
}

/** The holding ends on a day; one that has not begun by then is taken away. */
export function leavingEdits(directory: Directory, { person, post, last }: Of<'leaves post'>): ChangeEdits {
  const held = directory.holdings.filter(
    one => one.person === person && one.post === post && (one.to === null || one.to > last),
  );
  if (held.length === 0) return no({ code: 'not on file', field: 'post' });
  return yes(
    ...held.map((one): FactEdit => {
      const before: FactOf<'holding'> = { kind: 'holding', ...one };
      return { before, after: one.from > last ? null : { ...before, to: last } };
    }),
  );
}

export function lineEdits(directory: Directory, { post: id, from, reportsTo: above }: Of<'line'>): ChangeEdits {
  const post = directory.posts.find(one => one.id === id);
  if (!post) return no({ code: 'not on file', field: 'post' });
  if (above !== null && !onFile(directory.posts, above)) return no({ code: 'not on file', field: 'reportsTo' });
  const gone = above === null ? null : closedBefore(directory, above, from);
  if (gone) return no({ code: 'post is closed', field: 'reportsTo', closed: gone });
  if (reportsTo(post, from) === above && post.lines.some(line => line.from <= from))
    return no({ code: 'nothing changes', field: 'reportsTo' });
  const after: FactOf<'line'> = { kind: 'line', post: id, from, reportsTo: above };
  const circle = circleFrom(directory, after);
  return circle ? no(circle) : yes({ before: factLike(directory, after), after });
}

/** A circle that a line would close on its first day or on any later day on which lines change. */
function circleFrom(directory: Directory, line: FactOf<'line'>): ChangeFault | null {
  const posts = new Map(directory.posts.map(post => [post.id, post]));
  const own = posts.get(line.post);
  if (!own) return null;
  const lines = [...own.lines.filter(one => one.from !== line.from), { from: line.from, reportsTo: line.reportsTo }];
  posts.set(own.id, { ...own, lines: lines.toSorted((a, b) => (a.from < b.from ? -1 : 1)) });
  const days = new Set([line.from, ...directory.posts.flatMap(post => post.lines.map(one => one.from))]);
  for (const day of [...days].filter(one => one >= line.from).sort()) {
    const path = [line.post];
    for (let at = posts.get(line.post); at; ) {
      const next = reportsTo(at, day);
      if (next === null) break;
      if (next === line.post) return { code: 'circle', field: 'reportsTo', day, posts: path };
      // Somebody else's circle is not this line's.
      if (path.includes(next)) break;
      path.push(next);
      at = posts.get(next);
    }
  }
  return null;
}

export function roleEdits(directory: Directory, { what: _, held, ...given }: Of<'role'>): ChangeEdits {
  const role = { ...given, from: given.from ?? null, to: given.to ?? null };
  if (!personOf(directory, role.person)) return no({ code: 'not on file', field: 'person' });
  if (role.place !== null && !onFile(directory.places, role.place)) return no({ code: 'not on file', field: 'place' });
  if (role.department !== null && !onFile(directory.departments, role.department))
    return no({ code: 'not on file', field: 'department' });
  if (role.from !== null && role.to !== null && role.to < role.from)
    return no({ code: 'ends before it begins', field: 'to' });
  const after: FactOf<'role'> = { kind: 'role', ...role };
  const before = factLike(directory, after);
  return yes({ before, after: held ? after : null });
}

/** The last day of a post that is not there on a day any more. */
function closedBefore(directory: Directory, id: string, day: CivilDate): CivilDate | null {
  const closed = directory.posts.find(one => one.id === id)?.closed ?? null;
  return closed !== null && closed < day ? closed : null;
}

/** A post comes, or is another: one that somebody holds afterwards is not closed. */
export function aPostEdits(directory: Directory, { post, under }: Of<'a post'>): ChangeEdits {
  const isNew = post.id === 'new' || !onFile(directory.posts, post.id);
  const id =
    post.id === 'new'
      ? idFrom(
          post.title,
          directory.posts.map(one => one.id),
        )
      : post.id;
  if (!onFile(directory.departments, post.department)) return no({ code: 'not on file', field: 'post.department' });
  if (!onFile(directory.places, post.place)) return no({ code: 'not on file', field: 'post.place' });
  if (post.closed !== null) {
    const held = mainHolder(directory, id, null, addDays(post.closed, 1));
    if (held) return no({ code: 'post is held', field: 'post.closed', ...held });
  }
  const after: FactOf<'post'> = { kind: 'post', ...post, id };
  const edits: FactEdit[] = [{ before: factLike(directory, after), after }];
  if (isNew && under) {
    if (under.reportsTo !== null && !onFile(directory.posts, under.reportsTo))
      return no({ code: 'not on file', field: 'under.reportsTo' });
    edits.push({ before: null, after: { kind: 'line', post: id, ...under } });
  }
  return yes(...edits);
}
