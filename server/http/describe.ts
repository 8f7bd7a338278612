/** The API described for other programs. */
import { gzipSync } from 'node:zlib';
import { openApi } from '@north-pebble/contract/openapi';
import { Router } from 'express';
import { serving } from './route.ts';

/** Of the API: it grows when a route is taken away or answers otherwise. */
const version = '1.0.0';

/** Made when it is first asked for, as it is sent: it is the same for as long as the server runs. */
export function describeRoutes(): Router {
  const router = Router();
  let made: { plain: Buffer; packed: Buffer } | undefined;
  serving(router)('GET /openapi.json', async ({ request, response }) => {
    if (!made) {
      const plain = Buffer.from(JSON.stringify(openApi(version)));
      made = { plain, packed: gzipSync(plain) };
    }
    const isPacked = request.acceptsEncodings('gzip') === 'gzip';
    if (isPacked) response.setHeader('Content-Encoding', 'gzip');
    response.type('json').send(isPacked ? made.packed : made.plain);
    return { openapi: '3.1' };
  });
  return router;
}
