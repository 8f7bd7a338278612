/** Giving files, and reading them. */
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { type GivenFile, largestFile } from '@north-pebble/core/form';
import { eq } from 'drizzle-orm';
import { type Request, type Response, Router } from 'express';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { type Caller, notFound, ProblemError, serving } from '../http/index.ts';
import { keepOf, type StoredFile, takeIn, tooLarge } from './service.ts';

/** How long somebody who goes on sending what was refused is listened to. */
const lingering = 10_000;

/** Refuses a file by what is said of its size, before any of it is read. */
export function refuseLarge(request: Request, name: string): void {
  if (Number(request.headers['content-length'] ?? 0) > largestFile * 1_000_000) throw tooLarge(name);
}

/** Takes in what a call brings. What is refused is answered at once; the rest is taken off the line and thrown away. */
export async function receive(
  request: Request,
  response: Response,
  take: (content: AsyncIterable<Buffer>) => Promise<GivenFile>,
): Promise<GivenFile> {
  try {
    return await take(request.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>);
  } catch (fault) {
    response.setHeader('Connection', 'close');
    request.resume();
    setTimeout(() => request.destroy(), lingering).unref();
    // Nobody is there any more to be told.
    throw request.readableAborted ? new ProblemError('bad input', 'It broke off.') : fault;
  }
}

/** A file as an answer: never a page of this house, whatever is in it. */
export async function sendFile(house: House, response: Response, file: StoredFile): Promise<void> {
  response.setHeader('Content-Length', file.size);
  response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
  response.setHeader('Cache-Control', 'private, no-store');
  response.attachment(file.name);
  response.type(file.type);
  await pipeline(Readable.from(keepOf(house).read(file.id)), response);
}

/** @param mustRead throws when a file is not for the caller */
export function fileRoutes(
  house: House,
  mustRead: (house: House, caller: Caller, file: StoredFile) => Promise<void>,
): Router {
  const router = Router();
  const at = serving(router);
  at('POST /files', ({ caller, query: { name }, request, response }) => {
    refuseLarge(request, name);
    return receive(request, response, content => takeIn(house, caller.id, name, content));
  });
  at('GET /files/:id', async ({ caller, params, response }) => {
    const [file] = await house.db.select().from(t.files).where(eq(t.files.id, params.id));
    if (!file?.whole) throw notFound();
    await mustRead(house, caller, file);
    await sendFile(house, response, file);
  });
  return router;
}
