/**
 * The stand-in for a directory, over SCIM 2.0: `npm run -s directory -- --port N --token T --data FOLDER`.
 * Its base address is `http://127.0.0.1:N/scim/v2`; whoever calls sends the token as a bearer token.
 */
import { parseArgs } from 'node:util';
import { directoryApp } from './app.ts';

function refuse(why: string): never {
  process.stderr.write(`directory: ${why}\n`);
  process.exit(2);
}

const { values } = (() => {
  try {
    return parseArgs({ options: { port: { type: 'string' }, token: { type: 'string' }, data: { type: 'string' } } });
  } catch (fault) {
    return refuse(fault instanceof Error ? fault.message : String(fault));
  }
})();
const port = Number(values.port ?? 8428);
if (!Number.isInteger(port) || port < 1 || port > 65_535) refuse(`--port is no port: ${values.port}`);
const { token, data } = values;
if (!token || token.length < 8) refuse('say a --token of eight letters at least');
if (!data) refuse('say the --data folder that it is kept in');

const { app, close } = directoryApp({ token, folder: data, base: () => `http://127.0.0.1:${port}` });
const server = app.listen(port, '127.0.0.1', () => {
  process.stdout.write(`${JSON.stringify({ listening: true, base: `http://127.0.0.1:${port}/scim/v2` })}\n`);
});
server.on('error', fault => refuse(fault.message));
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    server.close(() => {
      close();
      process.exit(0);
    });
    server.closeAllConnections();
  });
