/** Giving files, and reading them. */
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { largestFile } from '@north-pebble/core/form';
import { eq } from 'drizzle-orm';
import { Router } from 'express';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { type Caller, notFound, ProblemError, serving } from '../http/index.ts';
import { keepOf, type StoredFile, takeIn, tooLarge } from './service.ts';

/** How long somebody who goes on sending what was refused is listened to. */
const lingering = 10_000;

/** @param mustRead throws when a file is not for the caller */
export function fileRoutes(
  house: House,
  mustRead: (house: House, caller: Caller, file: StoredFile) => Promise<void>,
): Router {
  const router = Router();
  const at = serving(router);
  at('POST /files', async ({ caller, query: { name }, request, response }) => {
    if (Number(request.headers['content-length'] ?? 0) > largestFile * 1_000_000) throw tooLarge(name);
    try {
      // What is refused is answered at once; the rest of it is taken off the line meanwhile and thrown away.
      const content = request.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>;
      return await takeIn(house, caller, name, content);
    } catch (fault) {
      response.setHeader('Connection', 'close');
      request.resume();
      setTimeout(() => request.destroy(), lingering).unref();
      // Nobody is there any more to be told.
      throw request.readableAborted ? new ProblemError('bad input', 'It broke off.') : fault;
    }
  });
  at('GET /files/:id', async ({ caller, params, response }) => {
    const [file] = await house.db.select().from(t.files).where(eq(t.files.id, params.id));
    if (!file?.whole) throw notFound();
    await mustRead(house, caller, file);
    response.setHeader('Content-Type', file.type);
    response.setHeader('Content-Length', file.size);
    // Never a page of this house, whatever is in it.
    response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
    response.setHeader('Cache-Control', 'private, no-store');
    response.attachment(file.name);
    response.type(file.type);
    await pipeline(Readable.from(keepOf(house).read(file.id)), response);
  });
  return router;
}
