/** Where each kind of fact stands in what is on file: read out as facts, and put together from facts again. */
import type { Person, PersonRecord } from '../people/index.ts';
import type { CivilDate } from '../time/index.ts';
import {
  type Fact,
  type FactEdit,
  type FactKind,
  type FactOf,
  factKey,
  factOfEdit,
  fromTheFirst,
  type Holds,
  type OnFile,
  sameFact,
} from './fact.ts';

type Shelf<Kind extends FactKind> = {
  readonly read: (file: OnFile) => FactOf<Kind>[];
  /** The file with these facts of the kind, and no others of it. */
  readonly fill: (file: OnFile, facts: readonly FactOf<Kind>[]) => OnFile;
};

const byFrom = (a: { from: string }, b: { from: string }): number => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0);
const bare = <F extends Fact>({ kind: _, ...own }: F): Omit<F, 'kind'> => own;

const laterOf = <R>(versions: readonly { from: CivilDate; rules: R }[]) =>
  versions.length === 0 ? {} : { later: versions.map(({ from, rules }) => ({ from, rules })) };

function grouped<T, K>(all: readonly T[], key: (one: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const one of all) {
    const group = groups.get(key(one));
    if (group) group.push(one);
    else groups.set(key(one), [one]);
  }
  return groups;
}

/** What is a person's own, without what stands in them. */
export const ownOf = ({ records: _, openings: _o, circumstances: _c, ...own }: Person): FactOf<'person'> => ({
  kind: 'person',
  ...own,
});

/** What stands inside something else goes back into it; what it stands in comes first. */
const shelves: { readonly [Kind in FactKind]: Shelf<Kind> } = {
  place: {
    read: file => file.places.map(({ head = null, ...own }) => ({ kind: 'place', ...own, head })),
    fill: (file, facts) => ({ ...file, places: facts.map(bare) }),
  },
  department: {
    read: file => file.departments.map(own => ({ kind: 'department', ...own })),
    fill: (file, facts) => ({ ...file, departments: facts.map(bare) }),
  },
  pattern: {
    read: file => file.patterns.map(own => ({ kind: 'pattern', ...own })),
    fill: (file, facts) => ({ ...file, patterns: facts.map(bare) }),
  },
  calendar: {
    read: file =>
      file.calendars.map(({ id, name, buildsOn, rules = [] }) => ({
        kind: 'calendar',
        id,
        name,
        buildsOn,
        rules: [...rules],
      })),
    fill: (file, facts) => {
      const there = new Map(file.calendars.map(one => [one.id, one.holidays]));
      return { ...file, calendars: facts.map(fact => ({ ...bare(fact), holidays: there.get(fact.id) ?? [] })) };
    },
  },
  holiday: {
    read: file =>
      file.calendars.flatMap(({ id, holidays }) =>
        holidays.map(({ name = 'Holiday', ...own }) => ({ kind: 'holiday' as const, calendar: id, ...own, name })),
      ),
    fill: (file, facts) => {
      const of = grouped(facts, fact => fact.calendar);
      return {
        ...file,
        calendars: file.calendars.map(one => ({
          ...one,
          holidays: (of.get(one.id) ?? [])
            .map(({ date, part, name }) => ({ date, part, name }))
            .toSorted((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0)),
        })),
      };
    },
  },
  person: {
    read: file => file.people.map(ownOf),
    fill: (file, facts) => {
      const there = new Map(file.people.map(one => [one.id, one]));
      return {
        ...file,
        people: facts.map(fact => {
          const { records = [], openings, circumstances } = there.get(fact.id) ?? {};
          return {
            ...bare(fact),
            records,
            ...(openings ? { openings } : {}),
            ...(circumstances ? { circumstances } : {}),
          };
        }),
      };
    },
  },
  opening: {
    read: file =>
      file.people.flatMap(({ id, openings = [] }) => openings.map(own => ({ kind: 'opening', person: id, ...own }))),
    fill: (file, facts) => {
      const of = grouped(facts, fact => fact.person);
      return {
        ...file,
        people: file.people.map(({ openings: _, ...one }) => {
          const own = of.get(one.id);
          return own ? { ...one, openings: own.map(({ kind: _k, person: _p, ...opening }) => opening) } : one;
        }),
      };
    },
  },
  circumstance: {
    read: file =>
      file.people.flatMap(({ id, circumstances = [] }) =>
        circumstances.map(own => ({
          kind: 'circumstance' as const,
          person: id,
          id: own.id,
          holds: own.holds as Holds,
        })),
      ),
    fill: (file, facts) => {
      const of = grouped(facts, fact => fact.person);
      return {
        ...file,
        people: file.people.map(({ circumstances: _, ...one }) => {
          const own = of.get(one.id);
          return own ? { ...one, circumstances: own.map(({ id, holds }) => ({ id, holds })) } : one;
        }),
      };
    },
  },
  record: {
    read: file =>
      file.people.flatMap(({ id, records }) => records.map(own => ({ kind: 'record', person: id, ...own }))),
    fill: (file, facts) => {
      const of = grouped(facts, fact => fact.person);
      const recordsOf = (all: readonly FactOf<'record'>[]): PersonRecord[] =>
        all.map(({ kind: _, person: _p, ...own }) => own).toSorted(byFrom);
      return { ...file, people: file.people.map(one => ({ ...one, records: recordsOf(of.get(one.id) ?? []) })) };
    },
  },
  post: {
    read: file =>
      file.posts.map(({ lines: _, grade = null, spending = null, closed = null, ...own }) => ({
        kind: 'post',
        ...own,
        grade,
        spending,
        closed,
      })),
    fill: (file, facts) => {
      const there = new Map(file.posts.map(one => [one.id, one.lines]));
      return { ...file, posts: facts.map(fact => ({ ...bare(fact), lines: there.get(fact.id) ?? [] })) };
    },
  },
  line: {
    read: file => file.posts.flatMap(({ id, lines }) => lines.map(own => ({ kind: 'line', post: id, ...own }))),
    fill: (file, facts) => {
      const of = grouped(facts, fact => fact.post);
      return {
        ...file,
        posts: file.posts.map(one => ({
          ...one,
          lines: (of.get(one.id) ?? []).map(({ from, reportsTo }) => ({ from, reportsTo })).toSorted(byFrom),
        })),
      };
    },
  },
  holding: {
    read: file => file.holdings.map(own => ({ kind: 'holding', ...own })),
    fill: (file, facts) => ({ ...file, holdings: facts.map(bare) }),
  },
  role: {
    read: file =>
      file.roles.map(({ role, person, place = null, department = null, from = null, to = null }) => ({
        kind: 'role',
        role,
        person,
        place,
        department,
        from,
        to,
      })),
    fill: (file, facts) => ({
      ...file,
      roles: facts.map(({ role, person, place, department, from, to }) => ({
        role,
        person,
        ...(place ? { place } : {}),
        ...(department ? { department } : {}),
        ...(from ? { from } : {}),
        ...(to ? { to } : {}),
      })),
    }),
  },
  list: {
    read: file =>
      (file.lists ?? []).map(({ id, name, columns, owners = [] }) => ({
        kind: 'list',
        id,
        name,
        columns: [...columns],
        owners: [...owners],
      })),
    fill: (file, facts) => {
      const there = new Map((file.lists ?? []).map(one => [one.id, one.rows]));
      return { ...file, lists: facts.map(fact => ({ ...bare(fact), rows: there.get(fact.id) ?? [] })) };
    },
  },
  row: {
    read: file =>
      (file.lists ?? []).flatMap(({ id: list, rows }) =>
        rows.map(({ from = null, to = null, ...own }) => ({ kind: 'row', list, ...own, from, to })),
      ),
    fill: (file, facts) => {
      const of = grouped(facts, fact => fact.list);
      return {
        ...file,
        lists: (file.lists ?? []).map(one => ({
          ...one,
          rows: (of.get(one.id) ?? []).map(({ id, title, cells, from, to }) => ({ id, title, cells, from, to })),
        })),
      };
    },
  },
  adjustment: {
    read: file => (file.adjustments ?? []).map(own => ({ kind: 'adjustment', ...own })),
    fill: (file, facts) => ({ ...file, adjustments: facts.map(bare) }),
  },
  'leave type': {
    read: file =>
      (file.leaveTypes ?? []).flatMap(({ later = [], ...rules }) => [
        { kind: 'leave type' as const, id: rules.id, from: fromTheFirst, rules },
        ...later.map(({ from, rules: then }) => ({ kind: 'leave type' as const, id: rules.id, from, rules: then })),
      ]),
    fill: (file, facts) => ({
      ...file,
      leaveTypes: [...grouped(facts, fact => fact.id).values()].map(versions => {
        const [first, ...later] = versions.toSorted(byFrom);
        return { ...first.rules, ...laterOf(later) };
      }),
    }),
  },
  'leave plan': {
    read: file =>
      (file.leavePlans ?? []).flatMap(({ id, name, unit, rules: { later = [], ...rules } }) =>
        [{ from: fromTheFirst, rules }, ...later].map(version => ({
          kind: 'leave plan' as const,
          ...{ id, name, unit },
          ...version,
        })),
      ),
    fill: (file, facts) => ({
      ...file,
      leavePlans: [...grouped(facts, fact => fact.id).values()].map(versions => {
        const [{ id, name, unit, rules }, ...later] = versions.toSorted(byFrom);
        return { id, name, unit, rules: { ...rules, ...laterOf(later) } };
      }),
    }),
  },
  presence: {
    read: file => (file.presence ?? []).map(own => ({ kind: 'presence', ...own })),
    fill: (file, facts) => ({ ...file, presence: facts.map(bare) }),
  },
  booking: {
    read: file => (file.bookings ?? []).map(own => ({ kind: 'booking', ...own })),
    fill: (file, facts) => ({ ...file, bookings: facts.map(bare) }),
  },
};

/** The kinds of facts in an order in which each stands after what it names. */
export const factKinds = Object.keys(shelves) as readonly FactKind[];

const shelfOf = (kind: FactKind): Shelf<FactKind> => shelves[kind] as unknown as Shelf<FactKind>;

/** Every fact of some kinds that is on file. */
export const factsOf = (file: OnFile, kinds: readonly FactKind[] = factKinds): Fact[] =>
  kinds.flatMap(kind => shelfOf(kind).read(file));

/** A fact as it stands; nothing where it does not. */
export function factLike(file: OnFile, fact: Fact): Fact | null {
  const key = factKey(fact);
  return (
    shelfOf(fact.kind)
      .read(file)
      .find(one => factKey(one) === key) ?? null
  );
}

export type Edited<File extends OnFile = OnFile> =
  | { ok: true; directory: File }
  | { ok: false; stale: readonly string[] };

/** @returns what is on file with these edits; or the keys of what stands otherwise than the edits say */
export function edited<File extends OnFile>(file: File, edits: readonly FactEdit[]): Edited<File> {
  const stale: string[] = [];
  const touched = new Map<FactKind, Map<string, Fact>>();
  for (const edit of edits) {
    const fact = factOfEdit(edit);
    let there = touched.get(fact.kind);
    if (!there) {
      there = new Map(
        shelfOf(fact.kind)
          .read(file)
          .map(one => [factKey(one), one]),
      );
      touched.set(fact.kind, there);
    }
    const key = factKey(edit.before ?? fact);
    if (!sameFact(there.get(key) ?? null, edit.before)) stale.push(key);
    else if (edit.after) there.set(factKey(edit.after), edit.after);
    else there.delete(key);
  }
  if (stale.length > 0) return { ok: false, stale };
  let now: OnFile = file;
  for (const kind of factKinds) {
    const there = touched.get(kind);
    if (there) now = shelfOf(kind).fill(now, [...there.values()]);
  }
  return { ok: true, directory: now as File };
}

/** An empty house: what everything else is put into. */
export const emptyFile: Required<OnFile> = {
  people: [],
  posts: [],
  holdings: [],
  covers: [],
  roles: [],
  places: [],
  departments: [],
  patterns: [],
  calendars: [],
  lists: [],
  adjustments: [],
  bookings: [],
  leaveTypes: [],
  leavePlans: [],
  presence: [],
};
