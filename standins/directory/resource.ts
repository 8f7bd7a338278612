/** Resources: what comes in is read by its schemas, what goes out is cut to what was asked for. */
import { bad } from './fault.ts';
import { type Attribute, common, named, type ResourceType, type Schema } from './schema.ts';

export type Resource = Record<string, unknown> & { id: string; meta: Meta };
export type Meta = { resourceType: string; created: string; lastModified: string; location: string; version: string };
export type Plain = Record<string, unknown>;

export const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const longest = 20_000;

function single(attribute: Attribute, value: unknown, path: string): unknown {
  if (attribute.type === 'complex') {
    if (!isPlain(value)) throw bad('invalidValue', `${path} is an object.`);
    return read(attribute.subAttributes ?? [], value, path);
  }
  if (attribute.type === 'boolean') {
    // Some clients write yes and no as words.
    if (typeof value === 'string' && /^(?:true|false)$/i.test(value)) return value.toLowerCase() === 'true';
    if (typeof value !== 'boolean') throw bad('invalidValue', `${path} is true or false.`);
    return value;
  }
  if (typeof value !== 'string') throw bad('invalidValue', `${path} is a text.`);
  if (value.length > longest) throw bad('invalidValue', `${path} is too long.`);
  if (attribute.type === 'dateTime' && Number.isNaN(Date.parse(value)))
    throw bad('invalidValue', `${path} is a moment.`);
  return value;
}

/** A value as its attribute has it; nothing where none is left. */
export function valueFor(attribute: Attribute, value: unknown, path = attribute.name): unknown {
  if (value === null || value === undefined) return undefined;
  if (!attribute.multiValued) {
    const one = single(attribute, value, path);
    return isPlain(one) && Object.keys(one).length === 0 ? undefined : one;
  }
  const all = (Array.isArray(value) ? value : [value]).map((one, n) => single(attribute, one, `${path}[${n}]`));
  if (all.filter(one => isPlain(one) && one.primary === true).length > 1)
    throw bad('invalidValue', `${path} has more than one that is primary.`);
  return all.length > 0 ? unique(all) : undefined;
}

const sameValue = (a: unknown, b: unknown): boolean => {
  if (!isPlain(a) || !isPlain(b) || a.value === undefined) return JSON.stringify(a) === JSON.stringify(b);
  return a.value === b.value && (a.type === b.type || a.type === undefined || b.type === undefined);
};

/** Each value once, the first of them: by its `value`, and by its type where both have one. */
export const unique = (all: unknown[]): unknown[] => {
  const found = new Map<unknown, unknown[]>();
  return all.filter(one => {
    const key = isPlain(one) ? one.value : one;
    const alike = found.get(key) ?? [];
    if (alike.some(other => sameValue(other, one))) return false;
    found.set(key, [...alike, one]);
    return true;
  });
};

/** The attributes among what was given, those that are read only left out, unknown ones too. */
function read(attributes: readonly Attribute[], given: Plain, path = ''): Plain {
  const found: Plain = {};
  for (const [key, value] of Object.entries(given)) {
    const attribute = named(attributes, key);
    if (!attribute || attribute.mutability === 'readOnly' || attribute.name === 'schemas') continue;
    const own = valueFor(attribute, value, path ? `${path}.${attribute.name}` : attribute.name);
    if (own !== undefined) found[attribute.name] = own;
  }
  return found;
}

export const extensionIn = (given: Plain, { id }: Schema): Plain | undefined => {
  const key = Object.keys(given).find(one => one.toLowerCase() === id.toLowerCase());
  const found = key === undefined ? undefined : given[key];
  return isPlain(found) ? found : undefined;
};

/** What a client sends to make or replace a resource, without what the directory says itself. */
export function readResource(type: ResourceType, given: unknown): Plain {
  if (!isPlain(given)) throw bad('invalidSyntax', 'A resource is an object.');
  const { schemas } = given;
  if (!Array.isArray(schemas) || !schemas.some(one => String(one).toLowerCase() === type.schema.id.toLowerCase()))
    throw bad('invalidSyntax', `“schemas” names ${type.schema.id}.`);
  const found = read([...common, ...type.schema.attributes], given);
  for (const extension of type.extensions) {
    const own = extensionIn(given, extension);
    const kept = own && read(extension.attributes, own, extension.id);
    if (kept && Object.keys(kept).length > 0) found[extension.id] = kept;
  }
  return mustBeWhole(type, found);
}

export function mustBeWhole(type: ResourceType, resource: Plain): Plain {
  for (const attribute of type.schema.attributes) {
    if (!attribute.required) continue;
    const value = resource[attribute.name];
    if (value === undefined || value === '') throw bad('invalidValue', `${attribute.name} is needed.`);
  }
  return resource;
}

export const schemasOf = (type: ResourceType, resource: Plain): string[] => [
  type.schema.id,
  ...type.extensions.filter(one => resource[one.id] !== undefined).map(one => one.id),
];

/** What of a resource goes out: `attributes` alone, or all but `excludedAttributes`; what is always told stays. */
export type Wanted = { attributes?: readonly string[]; excludedAttributes?: readonly string[] };

const withoutUrn = (type: ResourceType, path: string): { urn: string; path: string } => {
  const schema = [type.schema, ...type.extensions].find(
    one => path.toLowerCase().startsWith(`${one.id.toLowerCase()}:`) || path.toLowerCase() === one.id.toLowerCase(),
  );
  if (!schema) return { urn: '', path };
  return { urn: schema === type.schema ? '' : schema.id, path: path.slice(schema.id.length + 1) };
};

function cut(
  attributes: readonly Attribute[],
  resource: Plain,
  urn: string,
  wanted: { urn: string; path: string }[] | null,
  without: { urn: string; path: string }[],
): Plain {
  const found: Plain = {};
  const lower = (text: string) => text.toLowerCase();
  for (const [key, value] of Object.entries(resource)) {
    const attribute = named(attributes, key);
    if (!attribute || attribute.returned === 'never') continue;
    const own = (list: { urn: string; path: string }[]) =>
      list.filter(one => lower(one.urn) === lower(urn)).map(one => lower(one.path));
    const always = attribute.returned === 'always';
    if (!always && own(without).includes(lower(key))) continue;
    if (!always && wanted) {
      const asked = own(wanted);
      const parts = asked.filter(one => one.startsWith(`${lower(key)}.`)).map(one => one.slice(key.length + 1));
      if (!asked.includes(lower(key)) && !asked.includes('')) {
        if (parts.length === 0) continue;
        const part = (one: unknown) =>
          isPlain(one) ? Object.fromEntries(Object.entries(one).filter(([name]) => parts.includes(lower(name)))) : one;
        found[key] = Array.isArray(value) ? value.map(part) : part(value);
        continue;
      }
    }
    found[key] = value;
  }
  return found;
}

export function told(type: ResourceType, resource: Plain, { attributes, excludedAttributes = [] }: Wanted = {}): Plain {
  const wanted = attributes?.length ? attributes.map(path => withoutUrn(type, path)) : null;
  const without = excludedAttributes.map(path => withoutUrn(type, path));
  const found = cut([...common, ...type.schema.attributes], resource, '', wanted, without);
  for (const extension of type.extensions) {
    const own = resource[extension.id];
    if (!isPlain(own) || without.some(one => one.urn === extension.id && one.path === '')) continue;
    const kept = cut(extension.attributes, own, extension.id, wanted, without);
    if (Object.keys(kept).length > 0) found[extension.id] = kept;
  }
  return { schemas: schemasOf(type, resource), ...found };
}
