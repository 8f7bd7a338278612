/** The directory over HTTP: SCIM 2.0 at `/scim/v2` (RFC 7644), and beside it what the demo shows and switches. */
import { createHash, timingSafeEqual } from 'node:crypto';
import express, { type NextFunction, type Request, type Response } from 'express';
import { bulk, mostBytes, mostOperations } from './bulk.ts';
import { isUnchanged, mostResults, ScimDirectory, type Search } from './directory.ts';
import { bad, Fault } from './fault.ts';
import { isPlain, type Plain } from './resource.ts';
import { type Attribute, type ResourceType, type Schema, schemas, types } from './schema.ts';
import { calm, mishap, Switches } from './switches.ts';

const media = 'application/scim+json';
const searchMessage = 'urn:ietf:params:scim:api:messages:2.0:SearchRequest';
const schemaId = 'urn:ietf:params:scim:schemas:core:2.0';

export type Settings = { token: string; folder: string; base: () => string; roll?: () => number };

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();

const listOf = (resources: Plain[]): Plain => ({
  schemas: ['urn:ietf:params:scim:api:messages:2.0:ListResponse'],
  totalResults: resources.length,
  startIndex: 1,
  itemsPerPage: resources.length,
  Resources: resources,
});

const names = (value: unknown): string[] | undefined =>
  Array.isArray(value)
    ? value.map(String)
    : typeof value === 'string' && value !== ''
      ? value.split(',').map(one => one.trim())
      : undefined;

function searchOf(given: Plain): Search {
  const number = (value: unknown, what: string): number | undefined => {
    if (value === undefined || value === '') return undefined;
    const read = Number(value);
    if (!Number.isFinite(read)) throw bad('invalidValue', `${what} is a number.`);
    return read;
  };
  const text = (value: unknown): string | undefined => (typeof value === 'string' && value !== '' ? value : undefined);
  const [attributes, excludedAttributes] = [names(given.attributes), names(given.excludedAttributes)];
  const [filter, sortBy, sortOrder] = [given.filter, given.sortBy, given.sortOrder].map(text);
  const startIndex = number(given.startIndex, 'startIndex');
  const count = number(given.count, 'count');
  return {
    ...(attributes ? { attributes } : {}),
    ...(excludedAttributes ? { excludedAttributes } : {}),
    ...(filter ? { filter } : {}),
    ...(sortBy ? { sortBy } : {}),
    ...(sortOrder ? { sortOrder } : {}),
    ...(startIndex === undefined ? {} : { startIndex }),
    ...(count === undefined ? {} : { count }),
  };
}

const header = (request: Request, name: string): string | undefined => {
  const value = request.headers[name];
  return typeof value === 'string' ? value : undefined;
};

export function directoryApp({ token, folder, base, roll = Math.random }: Settings) {
  const scim = () => `${base()}/scim/v2`;
  const directory = new ScimDirectory(folder, scim);
  let switches = calm;
  const app = express();
  app.disable('x-powered-by');
  app.set('etag', false);

  const guard = (request: Request, response: Response, next: NextFunction) => {
    const given = /^Bearer (.+)$/i.exec(header(request, 'authorization') ?? '')?.[1] ?? '';
    if (timingSafeEqual(digest(given), digest(token))) return next();
    response.setHeader('WWW-Authenticate', 'Bearer realm="directory"');
    fail(response, new Fault(401, 'The token is not right.'));
  };
  const send = (response: Response, status: number, body: Plain | null, more: Record<string, string> = {}) => {
    for (const [name, value] of Object.entries(more)) response.setHeader(name, value);
    if (body === null) return void response.status(status).end();
    response.status(status).type(media).send(JSON.stringify(body));
  };
  const fail = (response: Response, fault: Fault) => send(response, fault.status, fault.body());

  /** What the demo sees and turns; it has the same token. */
  app.get('/switches', guard, (_, response) => void response.json(switches));
  app.put('/switches', guard, express.json({ limit: '10kb' }), (request, response) => {
    const read = Switches.partial().safeParse(request.body);
    if (!read.success) return void response.status(400).json({ reason: read.error.issues[0].message });
    switches = {
      ...switches,
      ...(Object.fromEntries(
        Object.entries(read.data).filter(([, value]) => value !== undefined),
      ) as Partial<Switches>),
    };
    response.json(switches);
  });

  const router = express.Router();
  app.use('/scim/v2', guard, router);
  router.use(express.json({ type: [media, 'application/json'], limit: mostBytes * 2, strict: false }));
  router.use(async (request, response, next) => {
    if (switches.down) return void request.socket.destroy();
    if (switches.slow > 0) await new Promise(done => setTimeout(done, switches.slow));
    const changes = !['GET', 'HEAD'].includes(request.method) && !request.path.endsWith('/.search');
    const met = mishap(switches, changes, roll);
    switches = met.after;
    switch (met.mishap) {
      case 'too many':
        return send(response, 429, new Fault(429, 'Too many calls.').body(), {
          'Retry-After': String(switches.retryAfter),
        });
      case 'broken':
        return fail(response, new Fault(500, 'Something is broken.'));
      case 'conflict':
        return fail(response, new Fault(409, 'Something else has the name.', 'uniqueness'));
      case 'lost': {
        // It is done, and whoever asked does not hear of it.
        response.json = response.send = (() => {
          request.socket.destroy();
          return response;
        }) as never;
        response.end = (() => {
          request.socket.destroy();
          return response;
        }) as never;
        return next();
      }
      case null:
        return next();
    }
  });

  const shown = (type: ResourceType, resource: ReturnType<ScimDirectory['get']>, request: Request) => {
    const { attributes, excludedAttributes } = searchOf(request.query as Plain);
    return directory.shown(type, resource, {
      ...(attributes ? { attributes } : {}),
      ...(excludedAttributes ? { excludedAttributes } : {}),
    });
  };
  const post = (body: unknown): Search => {
    if (!isPlain(body) || !Array.isArray(body.schemas) || !body.schemas.includes(searchMessage))
      throw bad('invalidSyntax', `“schemas” names ${searchMessage}.`);
    return searchOf(body);
  };

  router.get('/ServiceProviderConfig', (_, response) =>
    send(response, 200, {
      schemas: [`${schemaId}:ServiceProviderConfig`],
      patch: { supported: true },
      bulk: { supported: true, maxOperations: mostOperations, maxPayloadSize: mostBytes },
      filter: { supported: true, maxResults: mostResults },
      changePassword: { supported: true },
      sort: { supported: true },
      etag: { supported: true },
      authenticationSchemes: [
        {
          type: 'oauthbearertoken',
          name: 'Bearer token',
          description: 'One token, given when it is started.',
          primary: true,
        },
      ],
      meta: { resourceType: 'ServiceProviderConfig', location: `${scim()}/ServiceProviderConfig` },
    }),
  );
  const typeView = (type: ResourceType): Plain => ({
    schemas: [`${schemaId}:ResourceType`],
    id: type.name,
    name: type.name,
    endpoint: type.endpoint,
    description: type.schema.description,
    schema: type.schema.id,
    ...(type.extensions.length > 0
      ? { schemaExtensions: type.extensions.map(one => ({ schema: one.id, required: false })) }
      : {}),
    meta: { resourceType: 'ResourceType', location: `${scim()}/ResourceTypes/${type.name}` },
  });
  const schemaView = ({ id, name, description, attributes }: Schema): Plain => ({
    schemas: [`${schemaId}:Schema`],
    id,
    name,
    description,
    attributes: attributes as readonly Attribute[] as unknown as Plain[],
    meta: { resourceType: 'Schema', location: `${scim()}/Schemas/${id}` },
  });
  for (const [path, views] of [
    ['/ResourceTypes', () => types.map(typeView)],
    ['/Schemas', () => schemas.map(schemaView)],
  ] as const) {
    router.get(path, (request, response) => {
      if (request.query.filter !== undefined) throw new Fault(403, 'Nothing is filtered here.');
      send(response, 200, listOf(views()));
    });
    router.get(`${path}/:id`, (request, response) => {
      const found = views().find(one => one.id === request.params.id);
      if (!found) throw new Fault(404, `There is no “${request.params.id}”.`);
      send(response, 200, found);
    });
  }

  router.all('/Me', () => {
    throw new Fault(501, 'Nobody is signed in here.');
  });
  router.post('/Bulk', (request, response) => {
    if (JSON.stringify(request.body ?? '').length > mostBytes)
      throw new Fault(413, `A bulk call is at most ${mostBytes} bytes.`, 'tooMany');
    const halves = switches.nextHalfBulks > 0;
    if (halves) switches = { ...switches, nextHalfBulks: switches.nextHalfBulks - 1 };
    const answer = bulk(directory, request.body, () => {
      if (!halves) return;
      throw new Half();
    });
    send(response, 200, answer);
  });
  router.get('/', (request, response) => send(response, 200, directory.list(types, searchOf(request.query as Plain))));
  router.post('/.search', (request, response) => send(response, 200, directory.list(types, post(request.body))));

  for (const type of types) {
    router.get(type.endpoint, (request, response) =>
      send(response, 200, directory.list([type], searchOf(request.query as Plain))),
    );
    router.post(`${type.endpoint}/.search`, (request, response) =>
      send(response, 200, directory.list([type], post(request.body))),
    );
    router.post(type.endpoint, (request, response) => {
      const resource = directory.create(type, request.body);
      send(response, 201, shown(type, resource, request), {
        Location: resource.meta.location,
        ETag: resource.meta.version,
      });
    });
    const own = `${type.endpoint}/:id`;
    router.get(own, (request, response) => {
      const resource = directory.get(type, String(request.params.id));
      const { version: ETag, location: Location } = resource.meta;
      if (isUnchanged(header(request, 'if-none-match'), ETag)) return send(response, 304, null, { ETag });
      send(response, 200, shown(type, resource, request), { ETag, Location });
    });
    router.put(own, (request, response) => {
      const resource = directory.replace(type, String(request.params.id), request.body, header(request, 'if-match'));
      send(response, 200, shown(type, resource, request), {
        ETag: resource.meta.version,
        Location: resource.meta.location,
      });
    });
    router.patch(own, (request, response) => {
      const resource = directory.patch(type, String(request.params.id), request.body, header(request, 'if-match'));
      send(response, 200, shown(type, resource, request), {
        ETag: resource.meta.version,
        Location: resource.meta.location,
      });
    });
    router.delete(own, (request, response) => {
      directory.remove(type, String(request.params.id), header(request, 'if-match'));
      send(response, 204, null);
    });
    for (const path of [type.endpoint, own])
      router.all(path, (request: Request) => {
        throw new Fault(405, `${request.method} is not possible here.`);
      });
  }
  router.use((request: Request) => {
    throw new Fault(404, `There is nothing at ${request.path}.`);
  });
  app.use((fault: unknown, request: Request, response: Response, _next: NextFunction) => {
    if (fault instanceof Half) return void request.socket.destroy();
    if (fault instanceof Fault) return fail(response, fault);
    const status = (fault as { status?: number }).status;
    if (status === 413) return fail(response, new Fault(413, 'This is too much.', 'tooMany'));
    if (status !== undefined && status < 500) return fail(response, bad('invalidSyntax', 'This is not JSON.'));
    process.stderr.write(`${fault instanceof Error ? fault.stack : String(fault)}\n`);
    fail(response, new Fault(500, 'Something went wrong.'));
  });
  return { app, directory, close: () => directory.store.close() };
}

/** A bulk call that ends halfway: what was done before stays, and nobody hears of it. */
class Half extends Error {}
