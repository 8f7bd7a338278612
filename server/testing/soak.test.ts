/** The short form of the long runs: `npm run soak` does them with fifty kills. */
import { describe, expect, test } from '@jest/globals';
import { eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { signedIn, startSmall } from './serving.ts';
import { balanceRun, compared, killRun } from './soak.ts';
import { effectsRun } from './soakEffects.ts';

test('what is missing and what is there twice is told by its name', async () => {
  const small = await startSmall();
  const ina = await signedIn(small.base, 'ina');
  const request = (await ina.ask('2026-03-09', '2026-03-13')).body.request;
  const [{ key }] = await small.db.select({ key: t.effects.key }).from(t.effects);
  const mail = { id: `<${encodeURIComponent(key)}@selkie.example>` };
  const now = (asked = [request], decided: string[] = [], arrived = [mail]) =>
    compared(small.db, asked, decided, arrived);
  expect(await now()).toEqual({ lost: [], doubled: [] });
  expect(await now([request, 'R-77'])).toEqual({ lost: ['request R-77: 1 missing'], doubled: [] });
  expect(await now([])).toEqual({ lost: [], doubled: [`request ${request}: 1 too many`] });
  expect(await now([request], [request])).toEqual({ lost: [`decision of ${request}: 1 missing`], doubled: [] });
  expect(await now([request], [], [])).toEqual({ lost: [`mail ${mail.id}: 1 missing`], doubled: [] });
  expect(await now([request], [], [mail, mail])).toEqual({ lost: [], doubled: [`mail ${mail.id}: 1 too many`] });
  await small.db.update(t.effects).set({ key: 'R-78:1:0:tom' }).where(eq(t.effects.key, key));
  await small.db.delete(t.leaveEntries);
  expect(await now()).toEqual({
    lost: [
      `letters of ${request}: 1 missing`,
      'mail <R-78%3A1%3A0%3Atom@selkie.example>: 1 missing',
      `leave of ${request}: 1 missing`,
    ],
    doubled: ['letters of R-78: 1 too many', `mail ${mail.id}: 1 too many`],
  });
  await small.stop();
});

describe('two servers over one database', () => {
  test('killed at random instants, they lose nothing and double nothing', async () => {
    const report = await killRun({ kills: 1, requests: 12 });
    expect(report).toMatchObject({ lost: 0, doubled: 0, faults: [] });
    expect(report.kills).toBe(1);
    expect(report.decisions).toBeGreaterThanOrEqual(6);
    expect(report.mails).toBeGreaterThan(report.decisions);
  }, 180_000);

  test('calls outside that are slow, and whose answers are lost, are each done and heard once', async () => {
    const report = await effectsRun({ kills: 1, requests: 5 });
    expect(report).toMatchObject({ kills: 1, lost: 0, doubled: 0, faults: 0 });
    expect(report.calls).toBe(report.requests * 2);
  }, 180_000);

  test('of many who ask at once for the last days of a balance, exactly as many get them as there are', async () => {
    const report = await balanceRun(60);
    expect(report).toMatchObject({ booked: report.fit, other: 0 });
    expect(report.refused).toBe(report.asked - report.fit);
  }, 120_000);
});
