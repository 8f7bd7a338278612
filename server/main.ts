/** The server as a process of its own. */
import { serve } from './serve.ts';
import { readSettings } from './settings.ts';

const serving = await serve(readSettings(process.env));
process.stdout.write(`${JSON.stringify({ listening: serving.port })}\n`);

let ending = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (ending) return;
    ending = true;
    void serving.stop().then(() => process.exit(0));
  });
}
