/** `npm run layers`: imports point one way, between the folders and between the rooms inside them; nothing goes in a circle. */

import { root } from '../machine/prepare.mjs';
import { wrongImports } from './imports.mjs';

const wrong = wrongImports(root);
for (const line of wrong) process.stdout.write(`${line}\n`);
process.stdout.write(
  wrong.length === 0
    ? 'Layers hold.\n'
    : `${wrong.length} ${wrong.length === 1 ? 'import points' : 'imports point'} the wrong way.\n`,
);
process.exit(wrong.length === 0 ? 0 : 1);
