/** `npm run check`: types, lint, layers, and the tests of what has changed since the last commit, or since NP_SINCE. */
import { prepare } from './machine/prepare.mjs';
import { run } from './machine/running.mjs';
import { main, say } from './machine/say.mjs';

await main(async () => {
  prepare();
  const since = process.env.NP_SINCE;
  const steps = [
    ['types', 'npx', ['tsc', '-b']],
    ['lint', 'npx', ['biome', 'ci', '.']],
    ['layers', process.execPath, ['scripts/upkeep/layers.mjs']],
    [
      'tests of what changed',
      'npx',
      ['jest', since ? `--changedSince=${since}` : '--onlyChanged', '--passWithNoTests'],
    ],
  ];
  for (const [name, command, args] of steps) {
    say(`— ${name}`);
    const status = await run(command, args);
    if (status !== 0) process.exit(status);
  }
});
