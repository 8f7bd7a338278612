import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { tables as t } from './database/index.ts';
import { type Small, signedIn, startSmall } from './testing/serving.ts';
import { clearAway } from './tidy.ts';

let small: Small;
beforeAll(async () => {
  small = await startSmall({ NP_KEEP_COMMANDS_DAYS: '10', NP_KEEP_MAILS_DAYS: '40' });
});
afterAll(() => small.stop());

const day = 86_400_000;

test('what is over is cleared after the time that its setting says, and what came of it stays', async () => {
  const { db, serving } = small;
  const ina = await signedIn(small.base, 'ina');
  const { request } = (await ina.ask('2026-03-09', '2026-03-13')).body;
  const command = (days: number) => ({
    id: randomUUID(),
    actor: 'ina',
    request,
    version: 1,
    digest: null,
    at: Date.now() - days * day,
  });
  const [old, young] = [command(11), command(9)];
  await db.insert(t.commands).values([old, young]);
  const mail = (id: string, at: string) => ({ id, at, sender: 'ina@selkie.example', request, verdict: 'answered' });
  // The house’s clock stands at 2 February 2026.
  await db.insert(t.receivedMails).values([mail('old', '2025-12-20T10:00:00Z'), mail('young', '2026-01-02T10:00:00Z')]);
  await clearAway(serving.house);
  const commands = (await db.select().from(t.commands)).map(row => row.id);
  expect(commands).toContain(young.id);
  expect(commands).not.toContain(old.id);
  // That of the request itself is kept, with the time at which it was given.
  expect(commands).toHaveLength(2);
  expect((await db.select().from(t.receivedMails)).map(row => row.id)).toEqual(['young']);
  expect((await ina.get(`/requests/${request}`)).status).toBe(200);
});
