/** A server of its own over a fresh schema with the demo in it, for as long as something is measured. */
import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { loadDemo } from '@north-pebble/demo';
import { createSchema, type Database, migrateDatabase, openDatabase } from '@north-pebble/server/database';

export type Served = {
  db: Database;
  /** The address of the server, without a slash at its end. */
  base: string;
  /** Signs a person in by card; the cookie to send along. */
  signIn: (person: string) => Promise<string>;
};

/** The flags that the server is started with everywhere. */
const flags: string[] = JSON.parse(readFileSync('server/package.json', 'utf8')).config.node.split(' ');

function startServer(env: Record<string, string>): Promise<{ child: ChildProcess; port: number }> {
  const child = spawn(process.execPath, [...flags, 'build/main.mjs'], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((done, fail) => {
    child.once('exit', code => fail(new Error(`the server ended with ${code}`)));
    child.stdout?.on('data', chunk => {
      const line = String(chunk)
        .split('\n')
        .find(l => l.startsWith('{"listening"'));
      if (line) done({ child, port: (JSON.parse(line) as { listening: number }).listening });
    });
  });
}

export async function served<T>(databaseServer: string, work: (house: Served) => Promise<T>): Promise<T> {
  const url = await createSchema(databaseServer, `bench_${Date.now()}`);
  const db = openDatabase(url);
  await migrateDatabase(db);
  await loadDemo(db);
  // Nothing listens there: mails wait in the outbox, so that only the work is measured and not a mail server.
  const { child, port } = await startServer({
    NP_DATABASE: url,
    NP_PORT: '0',
    NP_DEMO: '1',
    NP_LOG: 'silent',
    // One core is left for the database, and for whoever asks.
    NP_PROCESSES: String(Math.max(1, availableParallelism() - 1)),
    NP_SMTP: 'smtp://127.0.0.1:1',
    // All who ask here come from one address.
    NP_SIGN_IN_TRIES: '2000',
  });
  const base = `http://127.0.0.1:${port}`;
  const signIn = async (person: string) => {
    const signedIn = await fetch(`${base}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-North-Pebble': '1' },
      body: JSON.stringify({ card: person }),
    });
    return signedIn.headers.get('Set-Cookie')?.split(';')[0] ?? '';
  };
  try {
    return await work({ db, base, signIn });
  } finally {
    child.kill('SIGTERM');
    if (child.exitCode === null) await once(child, 'exit');
    await db.pool.end();
  }
}
