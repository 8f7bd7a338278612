/** The server as a process of its own, or as several that share its port: each is a whole server over the one database. */
import cluster, { type Worker } from 'node:cluster';
import { once } from 'node:events';
import { ofAllProcesses, serveMetrics } from './metrics.ts';
import { serve } from './serve.ts';
import { readSettings, settingsWords } from './settings.ts';

/** One clear sentence, and an end that whoever started it can tell from a good one. */
function giveUp(words: string): never {
  process.stderr.write(`${words}\n`);
  process.exit(1);
}

if (process.argv.includes('--help')) {
  process.stdout.write(`${settingsWords()}\n`);
  process.exit(0);
}
const settings = (() => {
  try {
    return readSettings(process.env);
  } catch (fault) {
    return giveUp(fault instanceof Error ? fault.message : String(fault));
  }
})();

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
  if (settings.NP_METRICS_PORT !== undefined) {
    void serveMetrics(settings.NP_METRICS_PORT, settings.NP_HOST, ofAllProcesses());
  }
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
  const serving = await serve(settings).catch((fault: unknown) =>
    giveUp(
      `North Pebble cannot start: ${fault instanceof Error ? (fault.cause instanceof Error ? fault.cause.message : fault.message) : fault}`,
    ),
  );
  if (serving.setup && cluster.isPrimary)
    process.stdout.write(`Nobody looks after this house yet. Set it up within an hour at ${serving.setup}\n`);
  whenEnded(serving.stop);
  if (cluster.isPrimary) sayListening(serving.port);
  else process.send?.({ port: serving.port });
}
