/** The server as a process of its own, or as several that share its port: each is a whole server over the one database. */
import cluster, { type Worker } from 'node:cluster';
import { once } from 'node:events';
import { serve } from './serve.ts';
import { readSettings } from './settings.ts';

const settings = readSettings(process.env);

/** Told once, whatever signal comes how often. */
function whenEnded(stop: () => Promise<void>): void {
  let ending = false;
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      if (ending) return;
      ending = true;
      void stop().then(() => process.exit(0));
    });
  }
}

const sayListening = (port: number) => process.stdout.write(`${JSON.stringify({ listening: port })}\n`);

const pauseBeforeAnother = 500;

/** Starts as many as wanted, says so when all of them listen, and starts another one for each that dies. */
function serveTogether(processes: number): void {
  let ending = false;
  let listening = 0;
  const start = () => {
    cluster.fork().once('message', ({ port }: { port: number }) => {
      listening += 1;
      if (listening === processes) sayListening(port);
    });
  };
  cluster.on('exit', () => {
    if (!ending) setTimeout(() => !ending && start(), pauseBeforeAnother);
  });
  for (let n = 0; n < processes; n++) start();
  whenEnded(async () => {
    ending = true;
    const workers = Object.values(cluster.workers ?? {}).filter(worker => worker !== undefined);
    const ended = async (worker: Worker) => {
      const gone = once(worker, 'exit');
      worker.process.kill('SIGTERM');
      await gone;
    };
    await Promise.all(workers.map(ended));
  });
}

if (cluster.isPrimary && settings.NP_PROCESSES > 1) serveTogether(settings.NP_PROCESSES);
else {
  const serving = await serve(settings);
  whenEnded(serving.stop);
  if (cluster.isPrimary) sayListening(serving.port);
  else process.send?.({ port: serving.port });
}
