/** The API described for other programs. */
import { openApi } from '@north-pebble/contract/openapi';
import { Router } from 'express';
import { serving } from './route.ts';

/** Of the API: it grows when a route is taken away or answers otherwise. */
const version = '1.0.0';

/** Made when it is first asked for: it is the same for as long as the server runs. */
export function describeRoutes(): Router {
  const router = Router();
  let made: { openapi: string } | undefined;
  serving(router)('GET /openapi.json', async () => {
    made ??= openApi(version) as { openapi: string };
    return made;
  });
  return router;
}
