/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { RequestRow, VolumeView } from '@north-pebble/contract';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { person } from '../../../../core/testing/house.ts';
import { address, now, open, Refusal, type Sent, serve, unserve } from '../../testing/page.tsx';
import { AnswerMany, outcomesOf } from './AnswerMany.tsx';
import { VolumePlace } from './VolumePlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const decline = { id: 'decline', label: 'Decline', tone: 'bad' as const, note: 'must' as const };
const invite = { id: 'invite', label: 'Invite', tone: 'good' as const, note: 'may' as const };
const row = (n: number, decide: RequestRow['decide']): RequestRow => ({
  id: `R-${n}`,
  title: 'Application',
  workflow: 'application',
  workflowName: 'Application',
  asker: person('dora'),
  askerName: `Applicant ${n}`,
  status: 'open',
  standing: 'waits for Dora Quill',
  askedAt: now,
  closedAt: null,
  decide,
});
const at = (step: string, ...outcomes: (typeof decline | typeof invite)[]) => ({
  task: 't',
  seen: 3,
  step: `application/1/${step}`,
  outcomes,
});

describe('several answered at once', () => {
  test('may be answered with what can be answered to all of them, at one step', () => {
    const both = row(1, at('screen', invite, decline));
    expect(outcomesOf([both, row(2, at('screen', decline))]).map(one => one.id)).toEqual(['decline']);
    expect(outcomesOf([both, row(2, at('interview', decline))])).toEqual([]);
    expect(outcomesOf([both, row(2, null)])).toEqual([]);
    expect(outcomesOf([])).toEqual([]);
  });

  test('need the note that the answer needs, are asked about once more, and each is sent for itself', async () => {
    const user = userEvent.setup();
    const seen: Sent[] = serve({
      'POST /requests/R-1/commands': { request: 'R-1', version: 4 },
      'POST /requests/R-2/commands': new Refusal('It has moved on since you opened it.', [], 409),
    });
    open(<AnswerMany rows={[row(1, at('screen', decline)), row(2, at('screen', decline))]} onDone={() => undefined} />);
    await user.click(screen.getByRole('button', { name: 'Decline 2' }));
    expect(screen.getByText('This answer needs a short note.')).toBeTruthy();
    await user.type(screen.getByRole('textbox', { name: 'Note for all of them' }), 'Not this time.');
    await user.click(screen.getByRole('button', { name: 'Decline 2' }));
    expect(seen).toEqual([]);
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Decline 2' }));
    expect(await screen.findByText('1 of them stayed as they were')).toBeTruthy();
    expect(screen.getByText('Applicant 2: It has moved on since you opened it.')).toBeTruthy();
    expect(seen.map(one => one.body?.command)).toMatchObject([
      { kind: 'answer', outcome: 'decline', note: 'Not this time.', seen: 3 },
      { kind: 'answer', outcome: 'decline' },
    ]);
  });

  test('that wait for nobody here say so', () => {
    open(<AnswerMany rows={[row(1, at('screen', decline)), row(2, null)]} onDone={() => undefined} />);
    expect(screen.getByText('Not all of them wait for an answer of yours.')).toBeTruthy();
  });
});

describe('requests added up', () => {
  const view: VolumeView = {
    rows: [
      { group: '2026-02', requests: 3, sums: { cost: [{ currency: 'EUR', sum: 1234.5, held: 3 }] } },
      { group: '2026-01', requests: 2, sums: { cost: [{ currency: 'EUR', sum: 40, held: 1 }] } },
    ],
    total: { requests: 5, sums: { cost: [{ currency: 'EUR', sum: 1274.5, held: 4 }] } },
    by: [
      { id: 'month', label: 'Month' },
      { id: 'programme', label: 'Programme' },
    ],
    of: [{ id: 'cost', label: 'Cost' }],
    lookedAt: null,
  };
  const shown = (more: Partial<VolumeView> = {}, search = '?workflow=trip&of=cost') => {
    const seen = serve({
      'GET /askable': [{ id: 'trip', name: 'Trip', area: 'Travel', purpose: '' }],
      'GET /requests/volume': { ...view, ...more },
    });
    open(<VolumePlace />, { at: `/requests/volume${search}` });
    return seen;
  };

  test('stand by month with their amounts, of how many where not all hold one, and all of them together below', async () => {
    shown();
    const table = await screen.findByRole('table');
    const lines = within(table)
      .getAllByRole('row')
      .map(line => line.textContent);
    expect(lines).toEqual([
      'MonthRequestsCost',
      'February 202631,234.50 EUR',
      'January 2026240.00 EURof 1 request',
      'All51,274.50 EURof 4 requests',
    ]);
  });

  test('are told apart by something else, which stands in the address', async () => {
    const user = userEvent.setup();
    shown();
    await screen.findByRole('table');
    await user.click(screen.getByRole('combobox', { name: 'By' }));
    await user.click(await screen.findByRole('option', { name: 'Programme' }));
    await waitFor(() => expect(address()).toContain('by=programme'));
  });

  test('say when there are none, and when not all were looked at', async () => {
    shown({ rows: [], total: { requests: 0, sums: {} }, lookedAt: 20_000 });
    expect(await screen.findByText('Nothing was asked for in these days')).toBeTruthy();
    expect(screen.getByText('The newest 20,000 are added up')).toBeTruthy();
  });
});
