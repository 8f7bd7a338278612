/** Programs that a command of ours runs one after another: a signal to the command ends the one that runs, and all of its own. */
import { spawn } from 'node:child_process';
import { root } from './prepare.mjs';

const signals = ['SIGINT', 'SIGTERM', 'SIGHUP'];

/**
 * @param {string} command
 * @param {string[]} args
 * @param {{ env?: Record<string, string> }} [options] what its environment has besides
 * @returns {Promise<number>} its exit code, 1 when it was ended
 */
export function run(command, args, { env = {} } = {}) {
  // A group of its own, so that all that it started can be told.
  const child = spawn(command, args, {
    cwd: root,
    stdio: 'inherit',
    detached: true,
    env: { ...process.env, ...env },
  });
  const end = signal => {
    try {
      process.kill(-child.pid, signal);
    } catch {
      // It has ended already.
    }
    process.exitCode = 1;
    stopped = true;
  };
  for (const signal of signals) process.on(signal, end);
  return new Promise((done, fail) => {
    child.once('error', fail);
    child.once('exit', code => {
      for (const signal of signals) process.off(signal, end);
      if (stopped) process.exit(1);
      done(code ?? 1);
    });
  });
}

let stopped = false;
