/** Browser tests against the whole demo, started fresh on a port of its own. */
import { defineConfig } from '@playwright/test';

const port = 8431;
const launchOptions = {
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run'],
};

export default defineConfig({
  testDir: '.',
  outputDir: '../.data/e2e-results',
  // One house, one story: the tests share the demo and run one after another.
  workers: 1,
  fullyParallel: false,
  timeout: 90_000,
  expect: { timeout: 10_000 },
  reporter: [['list'], ['json']],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    launchOptions,
    trace: 'off',
  },
  webServer: {
    command: 'node scripts/demo.mjs --fresh',
    cwd: '..',
    env: { NP_PORT: String(port), NP_DATA: '.data/e2e' },
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 240_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 20_000 },
    reuseExistingServer: false,
  },
});
