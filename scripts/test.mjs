/** Everything that must hold before a change lands: types, lint, layers, Jest, Playwright. Ends with one line of counts. */
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { dataRoot, prepare } from './machine/prepare.mjs';
import { run } from './machine/running.mjs';
import { main, say } from './machine/say.mjs';

const counts = { passed: 0, failed: 0 };
const add = (passed, failed) => {
  counts.passed += passed;
  counts.failed += failed;
};

const npx = async (args, env = {}) => (await run('npx', args, { env })) === 0;
const node = async file => (await run(process.execPath, [file])) === 0;

async function check(name, works) {
  say(`— ${name}`);
  if (await works()) add(1, 0);
  else add(0, 1);
}

async function jest() {
  say('— unit and server tests');
  const out = join(dataRoot, 'jest.json');
  const ok = await npx(['jest', '--json', `--outputFile=${out}`, '--silent=false']);
  const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(out, 'utf8'));
  add(numPassedTests, numFailedTests || (ok ? 0 : Math.max(1, numFailedTestSuites)));
}

async function browser() {
  say('— browser tests');
  const out = join(dataRoot, 'playwright.json');
  const ok = await npx(['playwright', 'test', '--config', 'e2e/playwright.config.ts'], {
    PLAYWRIGHT_JSON_OUTPUT_NAME: out,
  });
  const { stats } = JSON.parse(readFileSync(out, 'utf8'));
  const failed = stats.unexpected;
  add(stats.expected + stats.flaky, failed || (ok ? 0 : 1));
}

await main(async () => {
  prepare({ browser: true });
  mkdirSync(dataRoot, { recursive: true });
  await check('types', () => npx(['tsc', '-b']));
  await check('lint', () => npx(['biome', 'ci', '.']));
  await check('layers', () => node('scripts/upkeep/layers.mjs'));
  await jest();
  // The browser tests try the house as it is built, too.
  await check('build', () => node('scripts/build.mjs'));
  await browser();
  say(`${counts.passed} passed, ${counts.failed} failed`);
  process.exit(counts.failed === 0 ? 0 : 1);
});
