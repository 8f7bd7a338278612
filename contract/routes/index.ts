/** Every route of the API. */
import type { z } from 'zod';
import { guestRoutes } from './guests.ts';
import { leaveRoutes } from './leave.ts';
import { movingRoutes } from './moving.ts';
import { outsideRoutes } from './outside.ts';
import { paperRoutes } from './papers.ts';
import { peopleRoutes } from './people.ts';
import { recordRoutes } from './records.ts';
import { requestRoutes } from './requests.ts';
import { reviewRoutes } from './reviews.ts';
import type { Media, Route } from './route.ts';
import { sessionRoutes } from './session.ts';
import { wishRoutes } from './wishes.ts';
import { workflowRoutes } from './workflows.ts';

export type Routes = typeof sessionRoutes &
  typeof requestRoutes &
  typeof workflowRoutes &
  typeof peopleRoutes &
  typeof recordRoutes &
  typeof leaveRoutes &
  typeof movingRoutes &
  typeof guestRoutes &
  typeof outsideRoutes &
  typeof paperRoutes &
  typeof reviewRoutes &
  typeof wishRoutes;
export const routes: Routes = {
  ...sessionRoutes,
  ...requestRoutes,
  ...workflowRoutes,
  ...peopleRoutes,
  ...recordRoutes,
  ...leaveRoutes,
  ...movingRoutes,
  ...guestRoutes,
  ...outsideRoutes,
  ...paperRoutes,
  ...reviewRoutes,
  ...wishRoutes,
};
export type Name = keyof Routes;

type PartOf<Path extends string> = Path extends `${string}:${infer P}/${infer Rest}`
  ? P | PartOf<`/${Rest}`>
  : Path extends `${string}:${infer P}`
    ? P
    : never;
/** The parts of a route’s path. */
export type PartsOf<N extends Name> = PartOf<N>;

/** A file, as a page holds it. */
export type Bytes = { readonly size: number; readonly type: string };

type Given<N extends Name, K extends 'params' | 'query' | 'body'> = Routes[N] extends { readonly [P in K]: infer S }
  ? S
  : never;
type Read<S> = S extends z.ZodType ? z.infer<S> : undefined;
type Sent<S> = S extends z.ZodType ? z.input<S> : S extends Media ? Bytes : never;

/** What the server has read of a call. */
export type ParamsOf<N extends Name> = [Given<N, 'params'>] extends [never]
  ? Record<PartsOf<N>, string>
  : Read<Given<N, 'params'>>;
export type QueryOf<N extends Name> = Read<Given<N, 'query'>>;
export type BodyOf<N extends Name> = Read<Given<N, 'body'>>;
export type AnswerOf<N extends Name> = Routes[N] extends { readonly answer: infer S }
  ? S extends z.ZodType
    ? z.infer<S>
    : undefined
  : undefined;

/** What a caller gives: parts of the path and the query as text, the body before it is read. */
export type CallOf<N extends Name> = ([PartsOf<N>] extends [never]
  ? { readonly params?: never }
  : { readonly params: Readonly<Record<PartsOf<N>, string | number>> }) &
  ([Given<N, 'query'>] extends [never]
    ? { readonly query?: never }
    : { readonly query?: Readonly<Record<string, string | number | undefined>> | string }) &
  ([Given<N, 'body'>] extends [never] ? { readonly body?: never } : { readonly body: Sent<Given<N, 'body'>> });

export const routeOf = (name: Name): Route => routes[name];
export {
  isMedia,
  type Media,
  type Method,
  methodOf,
  methods,
  Part,
  partsOf,
  pathOf,
  type Route,
  type RouteName,
  statusOf,
  type Who,
} from './route.ts';
