/**
 * `npm run mutate`: breaks the rules line by line, in the rooms that are named or in all, and tells how many broken lines the
 * tests noticed and which they did not. Takes hours; `-- countback access` takes minutes.
 */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { dataRoot, prepare } from './machine/prepare.mjs';
import { run } from './machine/running.mjs';
import { main, say, Trouble } from './machine/say.mjs';
import { rooms } from './mutation/rooms.mjs';

/** Of a hundred broken lines so many are to be noticed. */
const wanted = 85;
const noticed = ['Killed', 'Timeout'];
const missed = ['Survived', 'NoCoverage'];

/** What the report of a room comes to. */
function read(room) {
  const { files } = JSON.parse(readFileSync(join(dataRoot, `mutation-${room}.json`), 'utf8'));
  const all = Object.entries(files).flatMap(([file, { source, mutants }]) =>
    mutants.map(mutant => ({ file, line: source.split('\n')[mutant.location.start.line - 1].trim(), ...mutant })),
  );
  const count = states => all.filter(one => states.includes(one.status)).length;
  const survivors = all
    .filter(one => missed.includes(one.status))
    .map(one => ({
      file: one.file,
      at: one.location.start.line,
      line: one.line,
      became: one.replacement ?? '',
      seen: one.status === 'Survived',
    }));
  return { noticed: count(noticed), missed: count(missed), survivors };
}

await main(async () => {
  prepare();
  mkdirSync(dataRoot, { recursive: true });
  const named = process.argv.slice(2);
  const strange = named.find(name => !Object.hasOwn(rooms, name));
  if (strange) throw new Trouble(`There is no room ${strange}. There are: ${Object.keys(rooms).join(', ')}.`);
  const lines = [];
  let isEnough = true;
  for (const room of named.length > 0 ? named : Object.keys(rooms)) {
    say(`— ${room}`);
    if ((await run('npx', ['stryker', 'run'], { env: { NP_ROOM: room } })) !== 0) process.exit(1);
    const found = read(room);
    const share = (100 * found.noticed) / Math.max(1, found.noticed + found.missed);
    isEnough &&= share >= wanted;
    lines.push(`${room}: ${found.noticed} of ${found.noticed + found.missed} noticed, ${share.toFixed(1)} %`);
    writeFileSync(
      join(dataRoot, `survivors-${room}.txt`),
      found.survivors
        .map(
          one => `${one.file}:${one.at} ${one.seen ? '' : '(no test comes here) '}${one.line}\n    → ${one.became}\n`,
        )
        .join(''),
    );
  }
  for (const line of lines) say(line);
  process.exit(isEnough ? 0 : 1);
});
