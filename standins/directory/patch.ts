/** PATCH by RFC 7644 section 3.5.2: operations that add, replace and remove, each at a path or at the resource itself. */
import { bad } from './fault.ts';
import { type Filter, matchesValue, readFilter } from './filter.ts';
import { extensionIn, isPlain, mustBeWhole, type Plain, unique, valueFor } from './resource.ts';
import { type Attribute, common, named, placeOf, type ResourceType } from './schema.ts';

const most = 500;
const message = 'urn:ietf:params:scim:api:messages:2.0:PatchOp';

type Target = { owner: Plain; attribute: Attribute; sub: Attribute | null; filter: Filter | null };

/** `members[value eq "…"]`, `emails[type eq "work"].value`, `name.familyName`, `urn:…:User:department`. */
function targetOf(type: ResourceType, resource: Plain, path: string): Target {
  const found = /^([^[\]]+)(?:\[(.*)\](?:\.([\w$-]+))?)?$/s.exec(path.trim());
  const place = found && placeOf(type, found[1]);
  if (!found || !place) throw bad('invalidPath', `${type.name} has no attribute at “${path}”.`);
  const { extension, attribute } = place;
  if (found[2] !== undefined && (!attribute.multiValued || place.sub))
    throw bad('invalidPath', `${attribute.name} has one value only.`);
  const sub = found[3] === undefined ? place.sub : (named(attribute.subAttributes, found[3]) ?? null);
  if (found[3] !== undefined && !sub) throw bad('invalidPath', `${attribute.name} has no part “${found[3]}”.`);
  let owner = resource;
  if (extension) {
    owner = extensionIn(resource, extension) ?? {};
    resource[extension.id] = owner;
  }
  return { owner, attribute, sub, filter: found[2] === undefined ? null : readFilter(found[2]) };
}

const mustChange = (attribute: Attribute): void => {
  if (attribute.mutability === 'readOnly') throw bad('mutability', `${attribute.name} is read only.`);
};

const listed = (value: unknown): unknown[] => (Array.isArray(value) ? value : value === undefined ? [] : [value]);

/** One value that is primary makes the others not so. */
function onePrimary(all: unknown[], given: unknown[]): unknown[] {
  const chosen = given.find(one => isPlain(one) && one.primary === true);
  if (!chosen) return all;
  return all.map(one => (isPlain(one) && one !== chosen && one.primary === true ? { ...one, primary: false } : one));
}

function put(target: Target, value: unknown, replaces: boolean): void {
  const { owner, attribute, sub, filter } = target;
  mustChange(attribute);
  if (sub) mustChange(sub);
  const before = owner[attribute.name];
  if (filter) {
    const all = listed(before);
    const chosen = all.filter(one => matchesValue(filter, attribute, one));
    if (chosen.length === 0) throw bad('noTarget', `No value of ${attribute.name} fits.`);
    const changed = (one: unknown): unknown => {
      if (!isPlain(one)) return one;
      if (sub) return { ...one, [sub.name]: valueFor(sub, value) };
      if (!isPlain(value)) throw bad('invalidValue', `${attribute.name} has parts.`);
      return { ...one, ...(valueFor({ ...attribute, multiValued: false }, value) as Plain) };
    };
    const after = all.map(one => (chosen.includes(one) ? changed(one) : one));
    const made = after.filter((_, n) => chosen.includes(all[n]));
    owner[attribute.name] = onePrimary(after, made);
    return;
  }
  if (sub) {
    const own = valueFor(sub, value);
    if (attribute.multiValued) {
      if (listed(before).length === 0) throw bad('noTarget', `There is no value of ${attribute.name}.`);
      owner[attribute.name] = listed(before).map(one => (isPlain(one) ? { ...one, [sub.name]: own } : one));
    } else owner[attribute.name] = { ...(isPlain(before) ? before : {}), [sub.name]: own };
    return;
  }
  const given = valueFor(attribute, value);
  if (attribute.multiValued && !replaces) {
    const more = listed(given);
    owner[attribute.name] = onePrimary(unique([...listed(before), ...more]), more);
  } else if (attribute.type === 'complex' && !attribute.multiValued && isPlain(given))
    owner[attribute.name] = { ...(isPlain(before) ? before : {}), ...given };
  else if (given === undefined) delete owner[attribute.name];
  else owner[attribute.name] = given;
}

function remove(target: Target, value: unknown): void {
  const { owner, attribute, sub, filter } = target;
  mustChange(attribute);
  if (attribute.required && !sub && !filter) throw bad('mutability', `${attribute.name} is needed.`);
  const before = owner[attribute.name];
  if (filter) {
    const all = listed(before);
    const chosen = all.filter(one => matchesValue(filter, attribute, one));
    if (sub) {
      if (chosen.length === 0) throw bad('noTarget', `No value of ${attribute.name} fits.`);
      owner[attribute.name] = all.map(one => {
        if (!chosen.includes(one) || !isPlain(one)) return one;
        const { [sub.name]: _gone, ...rest } = one;
        return rest;
      });
    } else owner[attribute.name] = all.filter(one => !chosen.includes(one));
  } else if (sub) {
    if (isPlain(before)) delete before[sub.name];
  } else if (attribute.multiValued && value !== undefined) {
    // Some clients name what goes by its value instead of by a filter.
    const gone = listed(value).map(one => (isPlain(one) ? one.value : one));
    owner[attribute.name] = listed(before).filter(one => !gone.includes(isPlain(one) ? one.value : one));
  } else delete owner[attribute.name];
  if (Array.isArray(owner[attribute.name]) && (owner[attribute.name] as unknown[]).length === 0)
    delete owner[attribute.name];
}

/** Each attribute of an object as if it stood at its path. */
function putAll(type: ResourceType, resource: Plain, value: unknown, replaces: boolean): void {
  if (!isPlain(value)) throw bad('invalidValue', 'Without a path the value is an object.');
  for (const [key, one] of Object.entries(value)) {
    const extension = type.extensions.find(schema => schema.id.toLowerCase() === key.toLowerCase());
    if (extension && isPlain(one)) {
      for (const [name, own] of Object.entries(one)) {
        if (named(extension.attributes, name)) put(targetOf(type, resource, `${extension.id}:${name}`), own, replaces);
      }
    } else if (key.includes('.') || key.includes(':') || named([...common, ...type.schema.attributes], key)) {
      if (key !== 'schemas') put(targetOf(type, resource, key), one, replaces);
    }
  }
}

/** @returns the resource as it is then; nothing is changed where one operation is refused */
export function patched(type: ResourceType, before: Plain, body: unknown): Plain {
  if (!isPlain(body) || !Array.isArray(body.schemas) || !body.schemas.includes(message))
    throw bad('invalidSyntax', `“schemas” names ${message}.`);
  const operations = body.Operations;
  if (!Array.isArray(operations) || operations.length === 0) throw bad('invalidSyntax', 'There are no operations.');
  if (operations.length > most) throw bad('tooMany', `At most ${most} operations go together.`);
  const resource = JSON.parse(JSON.stringify(before)) as Plain;
  for (const operation of operations) {
    if (!isPlain(operation)) throw bad('invalidSyntax', 'An operation is an object.');
    const op = String(operation.op ?? '').toLowerCase();
    const { path, value } = operation;
    if (path !== undefined && typeof path !== 'string') throw bad('invalidPath', 'A path is a text.');
    if (op === 'remove') {
      if (path === undefined) throw bad('noTarget', 'It says nothing of what is to go.');
      remove(targetOf(type, resource, path), value);
    } else if (op === 'add' || op === 'replace') {
      if (value === undefined) throw bad('invalidValue', 'There is no value.');
      if (path === undefined) putAll(type, resource, value, op === 'replace');
      else put(targetOf(type, resource, path), value, op === 'replace');
    } else throw bad('invalidSyntax', `“${op}” is no operation; there are add, replace and remove.`);
  }
  for (const extension of type.extensions) {
    const own = resource[extension.id];
    if (isPlain(own) && Object.keys(own).length === 0) delete resource[extension.id];
  }
  return mustBeWhole(type, resource);
}
