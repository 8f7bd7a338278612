/** What the server answers, held against its contract: a field more or less, or of another kind, fails the test. */
import { isDeepStrictEqual } from 'node:util';
import { Problem } from '@north-pebble/contract';
import { isMedia, methodOf, type Name, pathOf, routeOf, routes, statusOf } from '@north-pebble/contract/routes';
import type { ZodType } from 'zod';

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

/** An answer that is not what was agreed: a fault of ours, whatever else is tried. */
export class Disagreement extends Error {}

/** An answer of a route, or a problem where there is no name; what is wrong with it, if anything. */
export type AlsoHeld = (name: Name | null, status: number, answer: unknown) => string | null;
let alsoHeld: AlsoHeld = () => null;
/** From here on answers are held against something else besides the contract. */
export function holdAlso(check: AlsoHeld): void {
  alsoHeld = check;
}

/** @throws Disagreement when an answer is not what the contract says of it */
export function mustAgree(method: string, path: string, status: number, answer: unknown): void {
  const name = nameFor(method, path);
  if (status >= 400 || name === undefined) {
    if (answer !== undefined && name !== 'GET /ready') {
      must(Problem, answer, `${method} ${path}`);
      also(null, status, answer);
    }
    return;
  }
  const route = routeOf(name);
  if (status !== statusOf(route))
    throw new Disagreement(`${name} answers ${status}, not ${statusOf(route)} as agreed.`);
  if (!route.answer) {
    if (answer !== undefined) throw new Disagreement(`${name} answers something, though nothing was agreed.`);
    return;
  }
  if (isMedia(route.answer)) return;
  must(route.answer, answer, name);
  also(name, status, answer);
}

function must(schema: ZodType, answer: unknown, name: string): void {
  const read = schema.safeParse(answer);
  if (!read.success) throw new Disagreement(`${name} answers otherwise than agreed: ${read.error.message}`);
  // What a schema leaves out when it reads is more than was agreed.
  if (!isDeepStrictEqual(read.data, answer)) throw new Disagreement(`${name} answers more than agreed.`);
}

function also(name: Name | null, status: number, answer: unknown): void {
  const wrong = alsoHeld(name, status, answer);
  if (wrong !== null) throw new Disagreement(`${name ?? 'A problem'}: ${wrong}`);
}
