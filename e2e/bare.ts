/** A house without the demo, as a process of its own. */
import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';

export type Mail = { to: string; subject: string; text: string };

export async function startBare(folder: string) {
  const child = spawn(process.execPath, ['scripts/machine/bare.mjs', folder], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const lines = createInterface({ input: child.stdout })[Symbol.asyncIterator]();
  const next = async <T>() => JSON.parse((await lines.next()).value as string) as T;
  const where = await next<{ address: string; setup: string; mails: string; database: string }>();
  return {
    ...where,
    letters: async () => (await (await fetch(where.mails)).json()) as Mail[],
    /** @returns the exit code of the server, and after how many milliseconds it ended */
    stop: async () => {
      child.kill('SIGTERM');
      return next<{ code: number | null; took: number }>();
    },
  };
}
