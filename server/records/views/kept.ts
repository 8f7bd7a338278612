/** What the house is worked out from besides people, as it is kept. */
import {
  type ChangesView,
  capabilities,
  capabilityWords,
  type ListsView,
  type MeasuresView,
  type PostRow,
  type PostsView,
  type RolesView,
  rights,
} from '@north-pebble/contract';
import type { Of } from '@north-pebble/core/facts';
import {
  above,
  type DirectoryIndex,
  hasLeft,
  holderOf,
  holdsOn,
  hrPartner,
  isEmployed,
  type PersonId,
  personName,
  recordOn,
  reportsTo,
  todayFor,
} from '@north-pebble/core/people';
import { type CivilDate, calendarChain, type Instant } from '@north-pebble/core/time';
import { desc, isNotNull, sql } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import { type House, loadDefinition, rulesFor } from '../../house/index.ts';
import { type Caller, pagedOf, pageOf } from '../../http/index.ts';
import { mayChangeRecords } from '../changing.ts';
import { editWords, forManyWords } from './words.ts';

const byName = <T extends { name: string }>(all: readonly T[]): T[] =>
  all.toSorted((a, b) => a.name.localeCompare(b.name));
const named = (all: readonly { id: string; name: string }[], id: string) => ({
  id,
  name: all.find(one => one.id === id)?.name ?? id,
});
const person = (index: DirectoryIndex, id: PersonId) => ({ id, name: personName(index, id) });
const bare = (all: readonly { id: string; name: string }[]) => byName(all.map(({ id, name }) => ({ id, name })));

async function now(house: House, caller: Caller) {
  const moment = await house.moment(house.db);
  return { ...moment, today: todayFor(moment.index, caller.id, moment.now) };
}

function postRow(index: DirectoryIndex, post: DirectoryIndex['directory']['posts'][number], today: CivilDate): PostRow {
  const { places, departments } = index.directory;
  const found = holderOf(index, post, today);
  const holdings = index.holdingsOfPost(post.id).toSorted((a, b) => (a.from < b.from ? 1 : -1));
  const holder = 'person' in found ? found.person : null;
  const isActing =
    holder !== null && !holdings.some(one => one.person === holder.id && one.main && holdsOn(one, today));
  const isClosed = post.closed !== null && post.closed !== undefined && post.closed < today;
  const up = reportsTo(post, today);
  const next = holder || isClosed ? null : above(index, post, today, new Set());
  return {
    id: post.id,
    title: post.title,
    place: named(places, post.place),
    department: named(departments, post.department),
    grade: post.grade ?? null,
    spending: post.spending ?? null,
    closed: post.closed ?? null,
    standing: isClosed ? 'closed' : holder === null ? 'vacant' : isActing ? 'acting' : 'held',
    holder: holder && person(index, holder.id),
    meanwhile: next && 'person' in next ? next.person.name : null,
    reportsTo: up === null ? null : { id: up, title: index.post(up)?.title ?? up },
    reports: index.postsUnder(post.id).filter(one => reportsTo(one, today) === post.id).length,
    holders: holdings.map(({ person: id, from, to, main }) => ({ person: person(index, id), from, to, main })),
  };
}

/** In the order of their titles, put so once for all pages. */
const sortedPosts = new WeakMap<DirectoryIndex, DirectoryIndex['directory']['posts']>();

export async function postsView(house: House, caller: Caller, row: number): Promise<PostsView> {
  const { index, today, directoryVersion } = await now(house, caller);
  const { posts, places, departments } = index.directory;
  const sorted =
    sortedPosts.get(index) ?? posts.toSorted((a, b) => a.title.localeCompare(b.title) || (a.id < b.id ? -1 : 1));
  sortedPosts.set(index, sorted);
  return {
    today,
    ...pagedOf(posts.length, row, directoryVersion),
    rows: pageOf(sorted, row).map(post => postRow(index, post, today)),
    places: bare(places),
    departments: bare(departments),
  };
}

/** Names of the live workflows, each with its definition as text: what names a role or a list is found in it. */
async function liveTexts(house: House): Promise<{ id: string; name: string; text: string }[]> {
  const rows = await house.db
    .select({ id: t.workflows.id, version: t.workflows.liveVersion })
    .from(t.workflows)
    .where(isNotNull(t.workflows.liveVersion));
  return Promise.all(
    rows.map(async ({ id, version }) => {
      const definition = await loadDefinition(house.db, id, version ?? 1);
      return { id, name: definition.name, text: JSON.stringify(definition) };
    }),
  );
}

/** What `looksAfter` opens, for those of whom somebody is HR partner. */
const lookedAfter = [
  'Sees the requests, statements, papers and records of the people for whom it is held.',
  'Books, changes and voids their leave, and sets cover for them.',
];

export async function rolesView(house: House, caller: Caller): Promise<RolesView> {
  const { index, today } = await now(house, caller);
  const { places, departments, roles } = index.directory;
  const live = await liveTexts(house);
  const accounts = await house.db.select().from(t.accounts);
  return {
    today,
    rows: roles
      .map(one => {
        const holder = index.person(one.person);
        const [from, to] = [one.from ?? null, one.to ?? null];
        const isOver = to !== null && to < today;
        return {
          role: one.role,
          person: person(index, one.person),
          place: one.place ? named(places, one.place) : null,
          department: one.department ? named(departments, one.department) : null,
          from,
          to,
          standing:
            !holder || hasLeft(holder, today)
              ? ('left' as const)
              : isOver
                ? ('over' as const)
                : from !== null && from > today
                  ? ('later' as const)
                  : ('now' as const),
        };
      })
      .sort((a, b) => a.role.localeCompare(b.role) || a.person.name.localeCompare(b.person.name)),
    used: [...new Set(roles.map(one => one.role))].map(role => ({
      role,
      in: live.filter(one => one.text.includes(`"role":${JSON.stringify(role)}`)).map(one => one.name),
      reads: live
        .filter(one =>
          [...one.text.matchAll(/"readers":\[([^\]]*)\]/g)].some(([, all]) => all.includes(JSON.stringify(role))),
        )
        .map(one => one.name),
      opens: role === hrPartner ? lookedAfter : [],
    })),
    rights: rights.map(right => ({
      right,
      people: accounts
        .filter(one => !one.closed && one.rights.includes(right))
        .map(one => person(index, one.person as PersonId)),
      opens: (Object.keys(capabilities) as (keyof typeof capabilities)[])
        .filter(one => (capabilities[one] as readonly string[]).includes(right))
        .map(one => capabilityWords[one]),
    })),
    places: bare(places),
    departments: bare(departments),
  };
}

const mostNamed = 40;

export async function measuresView(house: House, caller: Caller): Promise<MeasuresView> {
  const { index, today } = await now(house, caller);
  const { patterns, calendars, places, departments, people, posts } = index.directory;
  const here = people.filter(one => isEmployed(one, today)).map(one => ({ one, record: recordOn(one, today) }));
  const count = (part: 'place' | 'department', id: string) => here.filter(({ record }) => record?.[part] === id).length;
  return {
    today,
    patterns: byName(patterns).map(({ id, name, anchor, cycle }) => {
      const own = here.filter(({ record }) => record?.pattern === id);
      return {
        ...{ id, name, anchor, cycle },
        count: own.length,
        people: own
          .slice(0, mostNamed)
          .map(({ one, record }) => ({ person: person(index, one.id), from: record.from })),
      };
    }),
    calendars: byName(calendars).map(({ id, name, buildsOn, rules = [], holidays }) => ({
      ...{ id, name, buildsOn },
      rules: [...rules],
      holidays: holidays.map(({ date, part, name: called = 'Holiday' }) => ({ date, part, name: called })),
      places: places.filter(one => calendarChain(calendars, one.calendar).includes(id)).map(one => one.name),
    })),
    places: byName(places).map(({ id, name, zone, calendar, head = null }) => ({
      ...{ id, name, zone, calendar, head },
      people: count('place', id),
    })),
    departments: byName(departments).map(one => ({ ...one, people: count('department', one.id) })),
    posts: byName(posts.map(({ id, title }) => ({ id, name: title }))),
  };
}

export async function listsView(house: House, caller: Caller): Promise<ListsView> {
  const { index, lists, today } = await now(house, caller);
  const mayKeep = mayChangeRecords(caller);
  const own = lists.filter(one => mayKeep || one.owners?.includes(caller.id));
  const live = own.length > 0 ? await liveTexts(house) : [];
  return {
    today,
    lists: own.map(one => ({
      id: one.id,
      name: one.name,
      columns: [...one.columns],
      owners: (one.owners ?? []).map(id => person(index, id)),
      rows: one.rows.map(({ id, title, cells, from = null, to = null }) => ({
        id,
        title,
        cells: { ...cells },
        from,
        to,
      })),
      used: live.filter(({ text }) => text.includes(`"list":${JSON.stringify(one.id)}`)).map(({ name }) => name),
    })),
    mayKeep,
  };
}

const mostChanges = 100;
const mostWords = 12;

/** The newest changes of the house; of one with very many facts it is said how many. */
export async function changesView(house: House, caller: Caller): Promise<ChangesView> {
  const { index } = await now(house, caller);
  const { plans } = await rulesFor(house.db, index);
  const large = 60_000;
  const { id, at, by, request, reason, from, takesBack } = t.factChanges;
  const rows = await house.db
    .select({
      ...{ id, at, by, request, reason, from, takesBack },
      size: sql<number>`length(${t.factChanges.edits})`,
      many: sql<
        string | null
      >`if(json_value(${t.factChanges.change}, '$.what') in ('shutdown', 'wishes'), ${t.factChanges.change}, null)`,
      facts: sql<number>`json_length(${t.factChanges.edits})`.mapWith(Number),
      edits: sql<string | null>`if(length(${t.factChanges.edits}) > ${large}, null, ${t.factChanges.edits})`,
    })
    .from(t.factChanges)
    .orderBy(desc(id))
    .limit(mostChanges);
  const taken = new Set(rows.flatMap(row => row.takesBack ?? []));
  return {
    rows: rows.map(row => {
      const edits = row.edits === null ? null : (JSON.parse(row.edits) as Parameters<typeof editWords>[1][]);
      const words = edits?.slice(0, mostWords).flatMap(edit => editWords({ index, plans }, edit)) ?? [
        'A great many facts, as the files said.',
      ];
      const more = (edits?.length ?? 0) - mostWords;
      const many = row.many === null ? null : (JSON.parse(row.many) as Of<'shutdown'> | Of<'wishes'>);
      return {
        id: row.id,
        at: row.at as Instant,
        who: row.by === null ? null : personName(index, row.by as PersonId),
        request: row.request,
        reason: row.reason,
        from: row.from as CivilDate | null,
        says: many ? [forManyWords(index, many, row.facts)] : more > 0 ? [...words, `And ${more} more.`] : words,
        takesBack: row.takesBack,
        takenBack: taken.has(row.id),
        isShutdown: many?.what === 'shutdown',
      };
    }),
  };
}
