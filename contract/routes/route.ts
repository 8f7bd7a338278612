/** What a route is: how it is called, by whom, with what, and what it answers. */
import { z } from 'zod';
import type { Capability } from '../rights.ts';

export const methods = ['GET', 'POST', 'PUT', 'DELETE'] as const;
export type Method = (typeof methods)[number];
export type RouteName = `${Method} /${string}`;

/** Anybody at all, whoever is signed in, or those whose rights open it; records are looked at besides. */
export type Who = 'anybody' | 'signed in' | Capability;

/** What is not JSON: a file, a table to keep, a stream. */
export type Media = { readonly media: readonly string[] };

export type Route = {
  /** What it is for, in a sentence. */
  readonly says: string;
  readonly who: Who;
  /** 200 where it answers and nothing is said, 204 where it does not. */
  readonly status?: 201;
  /** Parts of the path; short texts where nothing is said. */
  readonly params?: z.ZodObject;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType | Media;
  readonly answer?: z.ZodType | Media;
};

/** A part of a path where nothing else is said of it. */
export const Part = z.string().min(1).max(200);

export const isMedia = (given: z.ZodType | Media): given is Media => 'media' in given;
export const statusOf = ({ status, answer }: Route): 200 | 201 | 204 => status ?? (answer ? 200 : 204);
export const methodOf = (name: RouteName): Method => name.slice(0, name.indexOf(' ')) as Method;
export const pathOf = (name: RouteName): string => name.slice(name.indexOf(' ') + 1);
/** `person` and `from` of `/covers/:person/:from`. */
export const partsOf = (path: string): string[] => [...path.matchAll(/:(\w+)/g)].map(([, part]) => part);

/** Keeps the routes as they are written, and says where one is not written as it must be. */
export const declare = <const R extends Record<RouteName, Route>>(routes: R): R => routes;
