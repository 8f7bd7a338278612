/** `npm run check`: types, lint, layers, and the tests of what has changed since the last commit, or since NP_SINCE. */
import { spawnSync } from 'node:child_process';
import { prepare, root } from './prepare.mjs';
import { main, say } from './say.mjs';

await main(async () => {
  prepare();
  const since = process.env.NP_SINCE;
  const steps = [
    ['types', 'npx', ['tsc', '-b']],
    ['lint', 'npx', ['biome', 'ci', '.']],
    ['layers', process.execPath, ['scripts/layers.mjs']],
    [
      'tests of what changed',
      'npx',
      ['jest', since ? `--changedSince=${since}` : '--onlyChanged', '--passWithNoTests'],
    ],
  ];
  for (const [name, command, args] of steps) {
    say(`— ${name}`);
    const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit' });
    if (status !== 0) process.exit(status ?? 1);
  }
});
