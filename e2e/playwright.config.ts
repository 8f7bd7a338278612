/** Browser tests against the whole demo: two houses, each started fresh on a port of its own, each with its own story. */
import { readdirSync } from 'node:fs';
import { defineConfig } from '@playwright/test';
import { type HouseName, houseFolder, houses } from './houses.ts';

const launchOptions = {
  executablePath: '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run'],
};
const names = Object.keys(houses) as HouseName[];
/** Answers once every house does. */
const readyPort = 8430;
const addressOf = (name: HouseName): string => `http://127.0.0.1:${houses[name].port}`;

const housed = new Set<string>(names.flatMap(name => houses[name].tests.map(test => `${test}.spec.ts`)));
const homeless = readdirSync(import.meta.dirname).filter(file => file.endsWith('.spec.ts') && !housed.has(file));
if (homeless.length > 0) throw new Error(`These run in no house of e2e/houses.ts: ${homeless.join(', ')}.`);

export default defineConfig({
  testDir: '.',
  outputDir: '../.data/e2e-results',
  // The tests of one house share its demo and run one after another; the houses know nothing of each other.
  workers: names.length,
  fullyParallel: false,
  timeout: 90_000,
  expect: { timeout: 10_000 },
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    launchOptions,
    trace: 'off',
  },
  projects: names.map(name => ({
    name,
    workers: 1,
    testMatch: houses[name].tests.map(test => `${test}.spec.ts`),
    use: { baseURL: addressOf(name) },
  })),
  webServer: {
    // Side by side: one after the other they would take twice as long.
    command: 'node scripts/machine/houses.mjs',
    cwd: '..',
    env: {
      HOUSES: JSON.stringify(names.map(name => ({ port: houses[name].port, folder: houseFolder(name) }))),
      READY: String(readyPort),
    },
    url: `http://127.0.0.1:${readyPort}/`,
    timeout: 400_000,
    gracefulShutdown: { signal: 'SIGTERM' as const, timeout: 20_000 },
    reuseExistingServer: false,
  },
});
