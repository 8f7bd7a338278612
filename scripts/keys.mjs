/**
 * `npm run keys -- FILE`: puts a new key before those that the file has. What is sealed from the next start on is sealed with
 * it; the others are kept, since they bear out what they sealed.
 */
import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { main, say, Trouble } from './machine/say.mjs';

await main(async () => {
  const [file] = process.argv.slice(2);
  if (!file) throw new Trouble('Say which file: npm run keys -- FILE');
  const before = existsSync(file) ? readFileSync(file, 'utf8') : '';
  // Whole or not at all: a file cut short would lose keys for good.
  writeFileSync(`${file}.new`, `${randomBytes(32).toString('hex')}\n${before}`, { mode: 0o600 });
  renameSync(`${file}.new`, file);
  say(
    `${file} has a new key before the ${before.split('\n').filter(line => line !== '').length} that it had. Start every server again, then keep a copy of it.`,
  );
});
