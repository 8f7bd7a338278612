/** The directory itself: resources made, read, found, changed and removed, as RFC 7644 says; nothing here knows of HTTP. */
import { isDeepStrictEqual } from 'node:util';
import { bad, Fault } from './fault.ts';
import { matches, readFilter, valuesAt } from './filter.ts';
import { patched } from './patch.ts';
import { isPlain, type Plain, type Resource, readResource, told, type Wanted } from './resource.ts';
import { type ResourceType, type TypeName, types } from './schema.ts';
import { membersOf, nameOf, Store } from './store.ts';

export const mostResults = 200;
const listMessage = 'urn:ietf:params:scim:api:messages:2.0:ListResponse';

export type Search = Wanted & {
  filter?: string;
  sortBy?: string;
  sortOrder?: string;
  startIndex?: number;
  count?: number;
};

export const typeNamed = (name: TypeName): ResourceType => types.find(type => type.name === name) as ResourceType;

export class ScimDirectory {
  readonly store: Store;
  readonly #base: () => string;
  readonly #now: () => Date;

  /** @param base the address that locations begin with */
  constructor(folder: string, base: () => string, now: () => Date = () => new Date()) {
    this.store = new Store(folder);
    this.#base = base;
    this.#now = now;
  }

  create(type: ResourceType, given: unknown): Resource {
    const read = readResource(type, given);
    const id = this.store.newId(type.name);
    const at = this.#now().toISOString();
    const whole = { active: true, ...read };
    const resource = {
      ...(type.name === 'User' ? whole : read),
      id,
      meta: {
        resourceType: type.name,
        created: at,
        lastModified: at,
        location: this.#location(type, id),
        version: 'W/"1"',
      },
    } as Resource;
    const kept = this.#checked(type, resource, null);
    this.store.write([{ type: type.name, id, resource: kept }]);
    return kept;
  }

  /** @throws 404 where it is not there */
  get(type: ResourceType, id: string): Resource {
    const found = this.store.get(type.name, id);
    if (!found) throw new Fault(404, `There is no ${type.name} “${id}”.`);
    return found;
  }

  replace(type: ResourceType, id: string, given: unknown, ifMatch?: string): Resource {
    const before = this.#matching(type, id, ifMatch);
    const read = readResource(type, given);
    return this.#change(type, before, {
      ...read,
      ...(read.active === undefined && type.name === 'User' ? { active: true } : {}),
    });
  }

  patch(type: ResourceType, id: string, body: unknown, ifMatch?: string): Resource {
    const before = this.#matching(type, id, ifMatch);
    const { id: _id, meta: _meta, ...own } = before;
    return this.#change(type, before, patched(type, own, body));
  }

  remove(type: ResourceType, id: string, ifMatch?: string): void {
    this.#matching(type, id, ifMatch);
    const at = this.#now().toISOString();
    const others = (['Group', 'Space'] as const).flatMap(name =>
      this.store
        .all(name)
        .filter(one => one.id !== id && membersOf(one).includes(id))
        .map(one => ({
          type: name,
          id: one.id,
          resource: this.#raised(
            { ...one, members: (one.members as Plain[]).filter(member => member.value !== id) },
            at,
          ),
        })),
    );
    this.store.write([...others, { type: type.name, id, resource: null }]);
  }

  #matching(type: ResourceType, id: string, ifMatch: string | undefined): Resource {
    const before = this.get(type, id);
    if (ifMatch !== undefined && !fits(ifMatch, before.meta.version))
      throw new Fault(412, `It has changed: its version is ${before.meta.version}.`);
    return before;
  }

  #change(type: ResourceType, before: Resource, after: Plain): Resource {
    const resource = this.#checked(type, { ...after, id: before.id, meta: before.meta } as Resource, before);
    if (isDeepStrictEqual(resource, before)) return before;
    const raised = this.#raised(resource, this.#now().toISOString());
    this.store.write([{ type: type.name, id: before.id, resource: raised }]);
    return raised;
  }

  #raised(resource: Resource, at: string): Resource {
    const version = Number(/\d+/.exec(resource.meta.version)?.[0] ?? 0) + 1;
    return { ...resource, meta: { ...resource.meta, lastModified: at, version: `W/"${version}"` } };
  }

  /** Names are there once; whoever is named as a member, an owner or a manager is there, and is called by name. */
  #checked(type: ResourceType, resource: Resource, before: Resource | null): Resource {
    const other = this.store.byName(type.name, nameOf(type.name, resource));
    if (other !== undefined && other !== before?.id)
      throw new Fault(409, `There is a ${type.name} called “${nameOf(type.name, resource)}” already.`, 'uniqueness');
    const known = new Map<string, Plain>(
      (Array.isArray(before?.members) ? (before.members as Plain[]) : []).map(one => [String(one.value), one]),
    );
    const found: Resource = { ...resource };
    if (Array.isArray(resource.members))
      found.members = resource.members.map(one => {
        const value = isPlain(one) ? String(one.value ?? '') : '';
        if (value === resource.id) throw bad('invalidValue', 'It cannot be a member of itself.');
        return known.get(value) ?? this.#reference(value, 'members');
      });
    if (isPlain(resource.owner)) found.owner = this.#person(resource.owner, 'owner');
    for (const { id } of type.extensions) {
      const own = resource[id];
      if (isPlain(own) && isPlain(own.manager)) found[id] = { ...own, manager: this.#person(own.manager, 'manager') };
    }
    return found;
  }

  #reference(value: string, what: string): Plain {
    for (const name of ['User', 'Group'] as const) {
      const one = this.store.get(name, value);
      if (one)
        return {
          value,
          $ref: this.#location(typeNamed(name), value),
          type: name,
          display: String(one.displayName ?? nameOf(name, one)),
        };
    }
    throw bad('invalidValue', `${what} names “${value}”, and there is no such account or group.`);
  }

  #person(given: Plain, what: string): Plain {
    const { display, ...found } = this.#reference(String(given.value ?? ''), what);
    return { ...found, displayName: display };
  }

  #location(type: ResourceType, id: string): string {
    return `${this.#base()}${type.endpoint}/${id}`;
  }

  /** As it goes out: with the groups that it is in. */
  shown(type: ResourceType, resource: Resource, wanted: Wanted = {}): Plain {
    if (type.name !== 'User') return told(type, resource, wanted);
    const groups = this.store.groupsOf(resource.id).map(group => ({
      value: group.id,
      $ref: this.#location(typeNamed('Group'), group.id),
      display: String(group.displayName),
      type: 'direct',
    }));
    return told(type, groups.length > 0 ? { ...resource, groups } : resource, wanted);
  }

  /** @param among the types that are looked through; a filter may tell them apart by `meta.resourceType` */
  list(among: readonly ResourceType[], search: Search): Plain {
    const filter = search.filter ? readFilter(search.filter) : null;
    const found = among.flatMap(type =>
      this.store
        .all(type.name)
        .filter(one => {
          if (!filter) return true;
          try {
            return matches(filter, type, this.#searched(type, one, search.filter ?? ''));
          } catch (fault) {
            // Looked for in several types, what one of them does not have is not found in it.
            if (fault instanceof Fault && among.length > 1) return false;
            throw fault;
          }
        })
        .map(one => ({ type, one })),
    );
    // A wrong filter is wrong also where nothing is there to be tried on.
    if (filter && among.length === 1 && found.length === 0) matches(filter, among[0], {});
    const { sortBy } = search;
    if (sortBy) {
      const keys = new Map(found.map(({ type, one }) => [one, sortKey(type, one, sortBy)]));
      const turn = search.sortOrder?.toLowerCase() === 'descending' ? -1 : 1;
      found.sort((a, b) => compare(keys.get(a.one), keys.get(b.one)) * turn);
    }
    const startIndex = Math.max(1, Math.trunc(search.startIndex ?? 1));
    const count = Math.min(mostResults, Math.max(0, Math.trunc(search.count ?? mostResults)));
    const page = found.slice(startIndex - 1, startIndex - 1 + count);
    return {
      schemas: [listMessage],
      totalResults: found.length,
      startIndex,
      itemsPerPage: page.length,
      ...(page.length > 0 ? { Resources: page.map(({ type, one }) => this.shown(type, one, search)) } : {}),
    };
  }

  /** Groups are worked out only for a filter that looks at them. */
  #searched(type: ResourceType, resource: Resource, filter: string): Plain {
    return type.name === 'User' && /groups/i.test(filter) ? this.shown(type, resource) : resource;
  }
}

const fits = (ifMatch: string, version: string): boolean =>
  ifMatch === '*' || ifMatch.split(',').some(one => one.trim().replace(/^W\//, '') === version.replace(/^W\//, ''));
export const isUnchanged = (ifNoneMatch: string | undefined, version: string): boolean =>
  ifNoneMatch !== undefined && fits(ifNoneMatch, version);

/** A value to sort by: the primary one of several, else the first. */
function sortKey(type: ResourceType, resource: Plain, path: string): string | undefined {
  const { attribute, values } = valuesAt(type, resource, path);
  const [value] = values;
  if (value === undefined || value === null) return undefined;
  return attribute.caseExact ? String(value) : String(value).toLowerCase();
}
/** What has no value comes last. */
const compare = (a: string | undefined, b: string | undefined): number => {
  if (a === undefined || b === undefined) return (a === undefined ? 1 : 0) - (b === undefined ? 1 : 0);
  return a < b ? -1 : a > b ? 1 : 0;
};
