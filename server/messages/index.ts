/** The Mailroom: what the stand-in for mail has received, and what still waits to go out. Demo only. */
import type { MailroomView, MailView } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import { and, desc, eq, lt } from 'drizzle-orm';
import { Router } from 'express';
import { mustBeDemo } from '../access/index.ts';
import { type Database, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { notFound, ProblemError, serving } from '../http/index.ts';
import { changeByHand, directoryRoom, type StandIn, turnSwitches } from './directoryRoom.ts';

const mostWaiting = 100;

/**
 * @param received address of the stand-in's list of mails
 * @param directory the stand-in for a directory, where there is one
 */
export function mailroomRoutes(house: House, received: string, directory: StandIn | null): Router {
  const router = Router();
  const at = serving(router);
  at('GET /mailroom', async () => {
    mustBeDemo(house.demo);
    const waiting = await house.db
      .select()
      .from(t.effects)
      .where(and(eq(t.effects.connection, 'mail'), eq(t.effects.state, 'waiting')))
      .orderBy(desc(t.effects.id))
      .limit(mostWaiting);
    let mails: MailView[] = [];
    let reachable = true;
    try {
      mails = (await (await fetch(received, { signal: AbortSignal.timeout(3000) })).json()) as MailView[];
    } catch {
      reachable = false;
    }
    const view: MailroomView = {
      mails,
      reachable,
      waiting: waiting.map(row => ({
        to: row.payload.to as PersonId,
        subject: row.payload.subject,
        attempts: row.attempts,
      })),
    };
    return view;
  });
  at('GET /mailroom/attached/:kept', async ({ params, response }) => {
    mustBeDemo(house.demo);
    if (!/^[0-9a-f]{24}-\d{1,2}$/.test(params.kept)) throw notFound();
    const found = await fetch(new URL(`/attached/${params.kept}`, received), {
      signal: AbortSignal.timeout(10_000),
    }).catch(() => null);
    if (!found?.ok) throw notFound();
    response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
    response.attachment('attached');
    response.type(found.headers.get('content-type') ?? 'application/octet-stream');
    response.send(Buffer.from(await found.arrayBuffer()));
  });
  at('GET /mailroom/directory', ({ query }) => {
    mustBeDemo(house.demo);
    return directoryRoom(directory, query);
  });
  at('PUT /mailroom/directory/switches', ({ body }) => {
    mustBeDemo(house.demo);
    return turnSwitches(directory, body);
  });
  at('PUT /mailroom/directory/accounts/:id', ({ params, body }) => {
    mustBeDemo(house.demo);
    return changeByHand(directory, params.id, body);
  });
  at('POST /mailroom/answers', async ({ body: answer }) => {
    mustBeDemo(house.demo);
    const sent = await fetch(new URL('/answers', received), {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(answer),
      signal: AbortSignal.timeout(10_000),
    }).catch(() => null);
    if (!sent?.ok) throw new ProblemError('refused', 'The stand-in for mail could not send it. Try again in a moment.');
    return { sent: true };
  });
  return router;
}
export { replyAddress } from './address.ts';
export type { StandIn } from './directoryRoom.ts';

/** That a mail came in is known for a time; what it brought about is an event, and stays. */
export const dropOldMails = (db: Database, before: Instant) =>
  db.delete(t.receivedMails).where(lt(t.receivedMails.at, before));
