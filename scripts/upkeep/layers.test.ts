import { spawnSync } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, describe, expect, test } from '@jest/globals';

const made: string[] = [];
afterEach(() => {
  for (const file of made.splice(0)) rmSync(file, { force: true });
});

/** Puts a file into the house, checks the layers, and takes it out again. */
function checkWith(path: string, text: string) {
  made.push(join(process.cwd(), path));
  writeFileSync(path, text);
  const { status, stdout } = spawnSync(process.execPath, ['scripts/upkeep/layers.mjs'], { encoding: 'utf8' });
  return { status, stdout };
}

describe('the layer check', () => {
  test('holds for the house as it is', () => {
    const { status, stdout } = spawnSync(process.execPath, ['scripts/upkeep/layers.mjs'], { encoding: 'utf8' });
    expect(stdout.trim()).toBe('Layers hold.');
    expect(status).toBe(0);
  });

  test.each([
    [
      'core/time/probe.tmp.ts',
      "import { readFileSync } from 'node:fs';\nexport const a = readFileSync;\n",
      'the core is pure',
    ],
    ['core/time/probe.tmp.ts', 'export const now = () => Date.now();\n', 'uses the clock or chance'],
    [
      'core/time/probe.tmp.ts',
      "export { handle } from '../workflow/handle.ts';\n",
      'time does not come after workflow',
    ],
    ['core/leave/probe.tmp.ts', "export { Submit } from '@north-pebble/contract';\n", 'imports @north-pebble/contract'],
    ['web/src/probe.tmp.ts', "export { serve } from '@north-pebble/server/serve';\n", 'imports @north-pebble/server'],
    [
      'contract/probe.tmp.ts',
      "export { theme } from '../web/src/theme/theme.ts';\n",
      'imports ../web/src/theme/theme.ts',
    ],
    [
      'core/workflow/definition/probe.tmp.ts',
      "export { findings } from '../findings/findings.ts';\n",
      'definition does not come after findings',
    ],
    [
      'server/leave/probe.tmp.ts',
      "export { anchorAll } from '../audit/index.ts';\n",
      'leave does not come after audit',
    ],
    [
      'server/workflows/probe.tmp.ts',
      "export { seals } from '../requests/store.ts';\n",
      'requests is entered by its index.ts',
    ],
    [
      'web/src/parts/form/probe.tmp.ts',
      "export { DeskPlace } from '../../places/desk/DeskPlace.tsx';\n",
      'parts does not come after places',
    ],
    ['core/time/probe.tmp.ts', "import type { A } from './probe.tmp.ts';\nexport type B = A;\n", 'a circle'],
    ['server/probe.tmp.ts', "export { loadDemo } from '@north-pebble/demo';\n", 'imports @north-pebble/demo'],
  ])('%s is refused: %j', (path, text, words) => {
    const { status, stdout } = checkWith(path, text);
    expect(status).toBe(1);
    expect(stdout).toContain(words);
    expect(stdout).toContain(path);
  });
});
