/** Routes served as the contract declares them: who may call, what is read, with which status it is answered. */
import { type Capability, may } from '@north-pebble/contract';
import {
  type AnswerOf,
  type BodyOf,
  isMedia,
  methodOf,
  type Name,
  type ParamsOf,
  Part,
  partsOf,
  pathOf,
  type QueryOf,
  type Routes,
  routeOf,
  statusOf,
} from '@north-pebble/contract/routes';
import type { Request, RequestHandler, Response, Router } from 'express';
import { z } from 'zod';
import { type Caller, callerOf, callerOrNobody } from './caller.ts';
import { ProblemError, read } from './problem.ts';

/** What is said to whoever may not. */
const refusals: Record<Capability, string> = {
  'design workflows': 'Workflows are changed by HR operations.',
  'read every workflow': 'This workflow is seen by the people named for it.',
  'read workflows': 'Workflows are looked after by HR operations.',
  'read every record': 'Everybody’s requests are looked through by HR operations and auditors.',
  'help requests on': 'Stuck requests are helped on by HR operations.',
  'rule papers': 'What is done about papers is said by HR operations.',
  export: 'Lists are exported by HR operations and auditors.',
  'correct answers': 'Corrections are made by administrators.',
  'keep accounts': 'Accounts are looked after by administrators.',
  'see as others': 'North Pebble is seen as somebody else by administrators alone.',
  'read connections': 'Connections are looked after by administrators.',
  'keep records': 'Records are kept by HR operations.',
  'keep connections': 'Connections are set up by administrators.',
  'move the clock': 'The clock is moved by HR operations, in the demo only.',
  'read the Mailroom': 'The Mailroom is for HR operations, in the demo only.',
  'write in the Mailroom': 'Mails are answered in the Mailroom by HR operations, in the demo only.',
};

export function mustHave(caller: Caller, capability: Capability): void {
  if (!may(caller, capability)) throw new ProblemError('not allowed', refusals[capability]);
}

/** What may be done while somebody sees as another: to stop it, or to sign out. */
const endsSeeing: ReadonlySet<Name> = new Set(['DELETE /session/as', 'DELETE /session']);

type CallerFor<N extends Name> = Routes[N]['who'] extends 'anybody' ? Caller | null : Caller;

/** What a handler comes back with: nothing where the route answers nothing. */
type Done<N extends Name> = AnswerOf<N> extends undefined ? Promise<void> : Promise<AnswerOf<N>>;

/** One call, read as its route declares it. */
export type Call<N extends Name> = {
  readonly caller: CallerFor<N>;
  readonly params: ParamsOf<N>;
  readonly query: QueryOf<N>;
  readonly body: BodyOf<N>;
  readonly request: Request;
  readonly response: Response;
};

const paramsSchema = (path: string): z.ZodObject =>
  z.object(Object.fromEntries(partsOf(path).map(part => [part, Part])));

/**
 * Adds routes to a router, by their names.
 * @returns a function that takes a route's name, what it does, and what stands before it
 */
export const serving =
  (router: Router) =>
  <N extends Name>(name: N, carryOut: (call: Call<N>) => Done<N>, ...before: RequestHandler[]): void => {
    const route = routeOf(name);
    const { who, query, body, answer } = route;
    const path = pathOf(name);
    const params = route.params ?? paramsSchema(path);
    const status = statusOf(route);
    const handler: RequestHandler = async (request, response) => {
      const caller = who === 'anybody' ? callerOrNobody(request) : callerOf(request);
      if (caller?.seenBy && methodOf(name) !== 'GET' && !endsSeeing.has(name))
        throw new ProblemError('not allowed', 'You see North Pebble as somebody else: reading only. Stop that first.');
      if (who !== 'anybody' && who !== 'signed in') mustHave(caller as Caller, who);
      const call = {
        caller,
        params: read(params, request.params),
        query: query && read(query, request.query),
        body: body && !isMedia(body) ? read(body, request.body) : undefined,
        request,
        response,
      };
      const found = await carryOut(call as unknown as Call<N>);
      // A file, or an answer that is the same for everybody, was sent as it was made.
      if ((answer && isMedia(answer)) || response.headersSent) return;
      if (status === 204) response.status(204).end();
      else response.status(status).json(found);
    };
    const method = methodOf(name).toLowerCase() as 'get' | 'post' | 'put' | 'delete';
    router[method](path, ...before, handler);
  };
