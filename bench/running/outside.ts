/** Five hundred apply at once at a public address: how long all of them take, and whether the desk can be used meanwhile. */
import { randomUUID } from 'node:crypto';
import { tables as t } from '@north-pebble/server/database';
import { isNotNull } from 'drizzle-orm';
import { againstBar, type Row } from '../measure.ts';
import type { Served } from '../served.ts';

const applications = 500;
/** So many at one moment: each is somebody at a browser of their own. */
const atOnce = 25;

/** The 95th of a hundred, in milliseconds. */
const p95 = (times: readonly number[]): number => times.toSorted((a, b) => a - b)[Math.floor(times.length * 0.95)];

export async function outsideRows({ db, base, signIn }: Served): Promise<Row[]> {
  const [{ token }] = await db.select({ token: t.publicForms.token }).from(t.publicForms);
  const marit = await signIn('marit');
  const before = await db.$count(t.requests, isNotNull(t.requests.outside));
  let isOver = false;
  const desk: number[] = [];
  const looking = (async () => {
    while (!isOver) {
      const began = performance.now();
      const answer = await fetch(`${base}/api/desk`, { headers: { Cookie: marit } });
      await answer.arrayBuffer();
      desk.push(performance.now() - began);
    }
  })();
  let next = 0;
  const refused: string[] = [];
  const apply = async () => {
    for (let n = next++; n < applications; n = next++) {
      const answer = await fetch(`${base}/api/public/${token}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'X-North-Pebble': '1' },
        body: JSON.stringify({
          id: randomUUID(),
          website: '',
          answers: {
            name: `Applicant ${n}`,
            mail: `applicant${n}@post.example`,
            'open-post': n % 2 === 0 ? 'watch-lead' : 'workshop-lead',
            privacy: { version: '1', at: '2026-02-02T09:00:00Z' },
          },
        }),
      });
      if (!answer.ok) refused.push(`${answer.status} ${await answer.text()}`);
    }
  };
  const began = performance.now();
  await Promise.all(Array.from({ length: atOnce }, apply));
  const seconds = (performance.now() - began) / 1000;
  isOver = true;
  await looking;
  const taken = (await db.$count(t.requests, isNotNull(t.requests.outside))) - before;
  if (refused.length > 0 || taken !== applications)
    throw new Error(`${taken} of ${applications} were taken in; ${refused.length} refused, the first ${refused[0]}`);
  return [
    againstBar(`${applications} applications at a public address, ${atOnce} at once, none lost, in s`, seconds, 60),
    againstBar('the desk meanwhile, 95th of a hundred, in ms', p95(desk), 1000),
  ];
}
