/** What the server answers, held against the description of its API: a field more or less, or of another kind, fails the test. */

import { openApi } from '@north-pebble/contract/openapi';
import { isMedia, methodOf, type Name, pathOf, routeOf, routes, statusOf } from '@north-pebble/contract/routes';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import formats from 'ajv-formats';

const patterns = (Object.keys(routes) as Name[]).map(name => ({
  name,
  method: methodOf(name),
  // What is written out stands before what is filled in: `/requests/find` is no request.
  parts: (pathOf(name).match(/:/g) ?? []).length,
  path: new RegExp(`^${pathOf(name).replaceAll('.', '\\.').replace(/:\w+/g, '[^/]+')}$`),
}));
patterns.sort((a, b) => a.parts - b.parts);

const nameFor = (method: string, path: string): Name | undefined =>
  patterns.find(one => one.method === method && one.path.test(path.split('?')[0]))?.name;

type Operation = { responses: Record<string, { content?: Record<string, { schema?: { $ref: string } }> }> };
type Document = { paths: Record<string, Record<string, Operation>> };
/** An answer that is not what the description of the API says: a fault of ours, whatever else is tried. */
export class Disagreement extends Error {}

let ajv: Ajv2020 | undefined;
let document: Document | undefined;
const compiled = new Map<string, ValidateFunction>();

function checkOf(ref: string): ValidateFunction {
  if (!ajv) {
    document ??= openApi('test') as Document;
    ajv = new Ajv2020({ strict: false });
    formats.default(ajv);
    ajv.addSchema({ ...document, $id: 'api' });
  }
  const known = compiled.get(ref) ?? ajv.compile({ $ref: `api${ref}` });
  compiled.set(ref, known);
  return known;
}

/** @throws when an answer is not what the description says of it */
export function mustAgree(method: string, path: string, status: number, answer: unknown): void {
  const name = nameFor(method, path);
  if (status >= 400 || name === undefined) {
    if (answer !== undefined && name !== 'GET /ready')
      must('#/components/schemas/Problem', answer, `${method} ${path}`);
    return;
  }
  const route = routeOf(name);
  if (status !== statusOf(route))
    throw new Disagreement(`${name} answers ${status}, not ${statusOf(route)} as it is described.`);
  if (!route.answer) {
    if (answer !== undefined)
      throw new Disagreement(`${name} answers something, though it is described to answer nothing.`);
    return;
  }
  if (isMedia(route.answer)) return;
  document ??= openApi('test') as Document;
  const described = document.paths[pathOf(name).replace(/:(\w+)/g, '{$1}')][method.toLowerCase()];
  const ref = described.responses[status].content?.['application/json']?.schema?.$ref;
  if (!ref) throw new Disagreement(`${name} is not described.`);
  must(ref, answer, name);
}

function must(ref: string, answer: unknown, name: string): void {
  const check = checkOf(ref);
  if (!check(answer))
    throw new Disagreement(`${name} answers otherwise than described: ${JSON.stringify(check.errors)}`);
}
