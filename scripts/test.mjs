/** Everything that must hold before a change lands: types, lint, layers, Jest, Playwright. Ends with one line of counts. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { dataRoot, prepare, root } from './prepare.mjs';
import { main, say } from './say.mjs';

const counts = { passed: 0, failed: 0 };
const add = (passed, failed) => {
  counts.passed += passed;
  counts.failed += failed;
};

const run = (args, env = {}) =>
  spawnSync('npx', args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }).status === 0;

function check(name, works) {
  say(`— ${name}`);
  if (works()) add(1, 0);
  else add(0, 1);
}

function jest() {
  say('— unit and server tests');
  const out = join(dataRoot, 'jest.json');
  const ok = run(['jest', '--json', `--outputFile=${out}`, '--silent=false']);
  const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(out, 'utf8'));
  add(numPassedTests, numFailedTests || (ok ? 0 : Math.max(1, numFailedTestSuites)));
}

function browser() {
  say('— browser tests');
  const out = join(dataRoot, 'playwright.json');
  const ok = run(['playwright', 'test', '--config', 'e2e/playwright.config.ts'], { PLAYWRIGHT_JSON_OUTPUT_NAME: out });
  const { stats } = JSON.parse(readFileSync(out, 'utf8'));
  const failed = stats.unexpected;
  add(stats.expected + stats.flaky, failed || (ok ? 0 : 1));
}

await main(async () => {
  prepare({ browser: true });
  mkdirSync(dataRoot, { recursive: true });
  check('types', () => run(['tsc', '-b']));
  check('lint', () => run(['biome', 'ci', '.']));
  check('layers', () => spawnSync('node', ['scripts/layers.mjs'], { cwd: root, stdio: 'inherit' }).status === 0);
  jest();
  // The browser tests try the house as it is built, too.
  check('build', () => spawnSync('node', ['scripts/build.mjs'], { cwd: root, stdio: 'inherit' }).status === 0);
  browser();
  say(`${counts.passed} passed, ${counts.failed} failed`);
  process.exit(counts.failed === 0 ? 0 : 1);
});
