/** The short form of the long runs: `npm run soak` does them with fifty kills. */
import { describe, expect, test } from '@jest/globals';
import { balanceRun, killRun } from './soak.ts';

describe('two servers over one database', () => {
  test('killed at random instants, they lose nothing and double nothing', async () => {
    const report = await killRun({ kills: 4, requests: 24 });
    expect(report).toMatchObject({ lost: 0, doubled: 0, faults: [] });
    expect(report.kills).toBe(4);
    expect(report.decisions).toBeGreaterThanOrEqual(12);
    expect(report.mails).toBeGreaterThan(report.decisions);
  }, 180_000);

  test('of many who ask at once for the last days of a balance, exactly as many get them as there are', async () => {
    const report = await balanceRun(60);
    expect(report).toMatchObject({ booked: report.fit, other: 0 });
    expect(report.refused).toBe(report.asked - report.fit);
  }, 120_000);
});
