/** The register of papers over HTTP. */
import { eq } from 'drizzle-orm';
import { Router } from 'express';
import { tables as t } from '../database/index.ts';
import { sendFile } from '../files/index.ts';
import type { House } from '../house/index.ts';
import { notFound, serving } from '../http/index.ts';
import { keepLook, looksAt, numberOf, paperFor, papersView, setHolder, setRules } from './service.ts';

const everything = { words: '', kind: '', month: '', which: 'now' } as const;

export function paperRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /papers', ({ caller, query }) => papersView(house, caller, query));
  at('POST /papers/:id/number', ({ caller, params }) => numberOf(house, caller, params.id));
  at('GET /papers/:id/looks', ({ caller, params }) => looksAt(house, caller, params.id));
  at('GET /papers/:id/file', async ({ caller, params, response }) => {
    const paper = await paperFor(house, caller, params.id);
    const [file] = await house.db.select().from(t.files).where(eq(t.files.id, paper.file));
    if (!file?.whole) throw notFound();
    await keepLook(house, caller, paper, 'file');
    await sendFile(house, response, file);
  });
  at('PUT /papers/:id/holder', async ({ caller, params, body }) => {
    await setHolder(house, caller, params.id, body.person);
    return papersView(house, caller, everything);
  });
  at('PUT /papers/rules', async ({ caller, body }) => {
    await setRules(house, body);
    return papersView(house, caller, everything);
  });
  return router;
}
