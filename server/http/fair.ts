/**
 * One caller never stops the others: nobody has more than a few calls under way at once, and what they send is read only
 * as far as the call may need it.
 */
import express, { type RequestHandler } from 'express';
import { isOutOfBounds } from './bounds.ts';
import { callerOrNobody } from './caller.ts';
import { ProblemError, send } from './problem.ts';

/**
 * So many calls of one person are worked on at once: more while nobody else calls, so that a page is there soon; fewer
 * beside others. So many more wait for their turn.
 */
const usual = { alone: 8, besideOthers: 2, waiting: 400 };
/** Whoever has called within so many milliseconds is there. */
const lately = 2000;

const madeWhole = /\.(?:csv|xlsx|pdf)$/;

/** What somebody does goes before what their pages read: a click never waits for tabs that look again. */
type Line = { running: number; readonly does: (() => void)[]; readonly reads: (() => void)[] };

/**
 * A person's calls wait for one another, those of others do not wait for them. A stream of news is open for as long as a
 * page is, so it does not count.
 */
export function fewAtOnce(most = usual): RequestHandler {
  const lines = new Map<string, Line>();
  const called = new Map<string, number>();
  /** Whoever called last stands at the end, so the first who has called lately decides. */
  const isAlone = (who: string): boolean => {
    for (const [other, at] of called) {
      if (at > Date.now() - lately) {
        if (other !== who) return false;
      } else called.delete(other);
    }
    return true;
  };
  return (request, response, next) => {
    if (request.path === '/live') return next();
    // Whoever is not known is who calls from that address.
    const who = callerOrNobody(request)?.id ?? `address ${request.ip}`;
    called.delete(who);
    called.set(who, Date.now());
    // Papers and tables are made one after the other.
    const isMade = madeWhole.test(request.path);
    const name = isMade ? `${who} papers` : who;
    const mayRun = () => (isMade ? 1 : isAlone(who) ? most.alone : most.besideOthers);
    const line = lines.get(name) ?? { running: 0, does: [], reads: [] };
    lines.set(name, line);
    if (line.does.length + line.reads.length >= most.waiting)
      return send(
        response,
        new ProblemError('too many tries', 'Too many of your calls are under way at once. Wait until some are done.'),
      );
    const begin = () => {
      line.running += 1;
      response.once('close', () => {
        line.running -= 1;
        // Counted anew for each: one that has gone away meanwhile ends at once and lets others begin.
        while (line.running < mayRun()) {
          const following = line.does.shift() ?? line.reads.shift();
          if (!following) break;
          following();
        }
        if (line.running === 0) lines.delete(name);
      });
      // Whoever has gone away meanwhile is not served.
      if (response.destroyed) response.emit('close');
      else next();
    };
    if (line.running < mayRun()) begin();
    else (request.method === 'GET' ? line.reads : line.does).push(begin);
  };
}

const kilobyte = 1024;
/** How much may be sent where, in bytes: a workflow and a change of many facts are long, all else is short. */
const bounds: readonly (readonly [path: RegExp, most: number])[] = [
  [/^\/(?:workflows|letters|records)(?:\/|$)/, 2048 * kilobyte],
  [/^\//, 512 * kilobyte],
];
/** Before it is known who calls. */
const mostOfStrangers = 256 * kilobyte;

const reader = (limit: number): RequestHandler => {
  // A short body that unpacks to a long one is not read: nobody here sends any.
  const json = express.json({ limit, inflate: false });
  return (request, response, next) =>
    json(request, response, fault => {
      if (fault) return next(fault);
      if (request.body === undefined || !isOutOfBounds(request.body)) return next();
      send(response, new ProblemError('bad input', 'This is nested too deeply, or has too many pieces.'));
    });
};
const readers = new Map<number, RequestHandler>();
function readerOf(limit: number): RequestHandler {
  const known = readers.get(limit) ?? reader(limit);
  readers.set(limit, known);
  return known;
}

/** Reads what is sent as JSON, as much of it as whoever sends it may send there. */
export const readBody: RequestHandler = (request, response, next) => {
  const limit = callerOrNobody(request)
    ? (bounds.find(([path]) => path.test(request.path))?.[1] ?? mostOfStrangers)
    : mostOfStrangers;
  return readerOf(limit)(request, response, next);
};
