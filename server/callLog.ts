/**
 * One line a call: what was called, how it ended, how long it took. Only what is named here is written down: headers hold
 * sessions, one-time addresses open accounts, and what somebody looks for is often a name.
 */
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';

/** The path alone, with the tokens of one-time addresses taken out. */
const pathOf = (url: string): string => url.split('?')[0].replace(/^(\/api\/(?:links|guest)\/)[^/]+/, '$1…');

export const callLog = (log: Logger) =>
  pinoHttp({
    logger: log,
    autoLogging: { ignore: request => !(request.url ?? '').startsWith('/api') },
    wrapSerializers: false,
    serializers: {
      req: (request: IncomingMessage & { id?: unknown; originalUrl?: string }) => ({
        id: request.id,
        method: request.method,
        path: pathOf(request.originalUrl ?? request.url ?? ''),
        from: request.socket.remoteAddress,
      }),
      res: (response: ServerResponse) => ({ status: response.statusCode }),
    },
  });
