/** The API described in OpenAPI 3.1, made from the routes and schemas that the server reads and answers by. */
import { Definition } from '@north-pebble/core/workflow';
import { z } from 'zod';
import * as index from './index.ts';
import { capabilities } from './rights.ts';
import {
  isMedia,
  methodOf,
  type Name,
  partsOf,
  pathOf,
  type Route,
  routeOf,
  routes,
  statusOf,
} from './routes/index.ts';

type Json = Record<string, unknown>;
type Io = 'input' | 'output';

const schemasOf = (io: Io): { registry: z.core.$ZodRegistry<{ id: string }>; named: Set<string> } => {
  const registry = z.registry<{ id: string }>();
  const named = new Set<string>();
  const add = (schema: z.ZodType, id: string) => {
    if (named.has(id) || registry.get(schema)) return;
    named.add(id);
    registry.add(schema, { id });
  };
  if (io === 'output') {
    add(Definition, 'Definition');
    for (const [id, value] of Object.entries(index)) if (value instanceof z.ZodType) add(value, id);
  }
  for (const name of Object.keys(routes) as Name[]) {
    const { answer, body } = routeOf(name);
    const given = io === 'output' ? answer : body;
    if (given && !isMedia(given)) add(given, `${nameOf(name)}${io === 'output' ? 'Answer' : 'Body'}`);
  }
  return { registry, named };
};

/** `getRequestsId` of `GET /requests/:id`. */
const nameOf = (name: Name): string =>
  methodOf(name).toLowerCase() +
  pathOf(name)
    .split(/[^a-zA-Z0-9]+/)
    .filter(Boolean)
    .map(word => word[0].toUpperCase() + word.slice(1))
    .join('');

function converted(io: Io): { schemas: Record<string, Json>; refOf: (schema: z.ZodType) => Json } {
  const { registry } = schemasOf(io);
  const prefix = io === 'output' ? '' : 'Given.';
  const at = (id: string) => `#/components/schemas/${prefix}${id}`;
  const { schemas } = z.toJSONSchema(registry, { io, unrepresentable: 'any', uri: at, target: 'draft-2020-12' });
  // What several share is pointed to as a document of its own; here it is a part of this one.
  const joined = JSON.parse(JSON.stringify(schemas).replaceAll('__shared#/', '__shared/')) as Record<string, Json>;
  const plain = Object.entries(joined).map(([id, { $schema: _, $id: __, ...rest }]) => [`${prefix}${id}`, rest]);
  return {
    schemas: Object.fromEntries(plain),
    refOf: schema => ({ $ref: at(registry.get(schema)?.id ?? '') }),
  };
}

const single = (schema: z.ZodType): Json => {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as Json;
  return rest;
};

function parametersOf(name: Name, route: Route): Json[] {
  const inPath = partsOf(pathOf(name)).map(part => ({
    name: part,
    in: 'path',
    required: true,
    schema: route.params
      ? single(route.params.shape[part] as z.ZodType)
      : { type: 'string', minLength: 1, maxLength: 200 },
  }));
  const query = route.query ? single(route.query) : {};
  const required = (query.required ?? []) as string[];
  const inQuery = Object.entries((query.properties ?? {}) as Json).map(([key, schema]) => ({
    name: key,
    in: 'query',
    required: required.includes(key),
    schema,
  }));
  return [...inPath, ...inQuery];
}

/** Only the schemas that a route needs, directly or through others. */
function reached(paths: Json, schemas: Record<string, Json>): Record<string, Json> {
  const kept = new Set<string>(['Problem']);
  const open = [JSON.stringify(paths), JSON.stringify(schemas.Problem)];
  for (let text = open.pop(); text !== undefined; text = open.pop()) {
    for (const [, id] of text.matchAll(/"#\/components\/schemas\/([^"/]+)/g)) {
      if (kept.has(id)) continue;
      kept.add(id);
      open.push(JSON.stringify(schemas[id]));
    }
  }
  return Object.fromEntries(Object.entries(schemas).filter(([id]) => kept.has(id)));
}

/** @param version of the house, as its package says it */
export function openApi(version: string): Json {
  const out = converted('output');
  const given = converted('input');
  const content = (of: NonNullable<Route['answer']>, refOf: (schema: z.ZodType) => Json): Json =>
    isMedia(of) ? Object.fromEntries(of.media.map(type => [type, {}])) : { 'application/json': { schema: refOf(of) } };
  const paths: Record<string, Json> = {};
  for (const name of Object.keys(routes) as Name[]) {
    const route = routeOf(name);
    const path = pathOf(name).replace(/:(\w+)/g, '{$1}');
    const { who } = route;
    paths[path] ??= {};
    paths[path][methodOf(name).toLowerCase()] = {
      operationId: nameOf(name),
      summary: route.says,
      ...(who === 'anybody' ? { security: [] } : {}),
      description:
        who === 'anybody'
          ? 'For anybody.'
          : who === 'signed in'
            ? 'For whoever is signed in, as far as it is theirs to see.'
            : `For whoever may ${who}: ${capabilities[who].join(', ')}.`,
      parameters: parametersOf(name, route),
      ...(route.body ? { requestBody: { required: true, content: content(route.body, given.refOf) } } : {}),
      responses: {
        [statusOf(route)]: {
          description: route.answer ? 'It is done, and this came of it.' : 'It is done.',
          ...(route.answer ? { content: content(route.answer, out.refOf) } : {}),
        },
        default: {
          description: 'It was not done, and why.',
          content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
        },
      },
    };
  }
  const schemas = { ...out.schemas, ...given.schemas };
  return {
    openapi: '3.1.1',
    info: {
      title: 'North Pebble',
      version,
      description:
        'What the pages of North Pebble call. A call that changes something carries the header `X-North-Pebble: 1`.',
    },
    servers: [{ url: '/api' }],
    security: [{ session: [] }],
    paths,
    components: {
      schemas: reached(paths, schemas),
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'np_session' } },
    },
  };
}
