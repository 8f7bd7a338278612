/** Several operations in one call, by RFC 7644 section 3.7; they may name what others of them make by its bulkId. */

import type { ScimDirectory } from './directory.ts';
import { bad, Fault } from './fault.ts';
import { isPlain, type Plain } from './resource.ts';
import { types } from './schema.ts';

export const mostOperations = 1000;
export const mostBytes = 1_048_576;
const message = 'urn:ietf:params:scim:api:messages:2.0:BulkRequest';

/** @param halfway called after half of them; it may end everything there */
export function bulk(directory: ScimDirectory, body: unknown, halfway: () => void = () => {}): Plain {
  if (!isPlain(body) || !Array.isArray(body.schemas) || !body.schemas.includes(message))
    throw bad('invalidSyntax', `“schemas” names ${message}.`);
  const operations = body.Operations;
  if (!Array.isArray(operations) || operations.length === 0) throw bad('invalidSyntax', 'There are no operations.');
  if (operations.length > mostOperations)
    throw new Fault(413, `At most ${mostOperations} operations go together.`, 'tooMany');
  const failOnErrors = Number(body.failOnErrors ?? 0);
  const made = new Map<string, string>();
  const answers: Plain[] = [];
  let errors = 0;
  for (const [n, operation] of operations.entries()) {
    if (n === Math.floor(operations.length / 2)) halfway();
    const answer = one(directory, operation, made);
    answers.push(answer);
    if (isPlain(answer.response)) errors++;
    if (failOnErrors > 0 && errors >= failOnErrors) break;
  }
  return { schemas: ['urn:ietf:params:scim:api:messages:2.0:BulkResponse'], Operations: answers };
}

function one(directory: ScimDirectory, operation: unknown, made: Map<string, string>): Plain {
  const given: Plain = isPlain(operation) ? operation : {};
  const method = String(given.method ?? '').toUpperCase();
  const bulkId = typeof given.bulkId === 'string' ? given.bulkId : undefined;
  const told = { method, ...(bulkId ? { bulkId } : {}) };
  try {
    const path = String(resolved(given.path ?? '', made));
    const [, endpoint, id, ...more] = path.split('/');
    const type = types.find(known => known.endpoint === `/${endpoint}`);
    if (!type || more.length > 0) throw bad('invalidPath', `There is nothing at “${path}”.`);
    const ifMatch = typeof given.version === 'string' ? given.version : undefined;
    const data = resolved(given.data, made);
    const done = (status: number, resource: { meta: { location: string; version: string } }) => ({
      ...told,
      location: resource.meta.location,
      version: resource.meta.version,
      status: String(status),
    });
    if (method === 'POST') {
      if (id !== undefined) throw bad('invalidPath', 'What is made has no id yet.');
      if (!bulkId) throw bad('invalidSyntax', 'What is made needs a bulkId.');
      const resource = directory.create(type, data);
      made.set(bulkId, resource.id);
      return done(201, resource);
    }
    if (!id) throw bad('invalidPath', 'It says not which one.');
    if (method === 'PUT') return done(200, directory.replace(type, id, data, ifMatch));
    if (method === 'PATCH') return done(200, directory.patch(type, id, data, ifMatch));
    if (method === 'DELETE') {
      const { location } = directory.get(type, id).meta;
      directory.remove(type, id, ifMatch);
      return { ...told, location, status: '204' };
    }
    throw bad('invalidSyntax', `“${method}” is no method of a bulk operation.`);
  } catch (fault) {
    if (!(fault instanceof Fault)) throw fault;
    return { ...told, status: String(fault.status), response: fault.body() };
  }
}

/** `bulkId:name` becomes the id of what was made under that name. */
function resolved(value: unknown, made: ReadonlyMap<string, string>): unknown {
  if (typeof value === 'string')
    return value.replace(/bulkId:([\w-]+)/g, (_, name: string) => {
      const id = made.get(name);
      if (id === undefined) throw new Fault(409, `Nothing was made under the bulkId “${name}” before.`, 'invalidValue');
      return id;
    });
  if (Array.isArray(value)) return value.map(one => resolved(one, made));
  if (isPlain(value)) return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, resolved(one, made)]));
  return value;
}
