/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { Definition } from '@north-pebble/core/workflow';
import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { annualLeave, halves } from '../../../../core/testing/house.ts';
import { open, Refusal, requestFor, serve, unserve } from '../../testing/page.tsx';
import { RequestFacts } from './requestFacts.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const definition: Definition = {
  ...annualLeave,
  form: {
    fields: [
      ...annualLeave.form.fields,
      { kind: 'text', id: 'reason', label: 'Reason', required: false, readers: ['Nurse', 'HR partner'] },
      { kind: 'document', id: 'note', label: 'Doctor’s note', required: false, expires: true },
    ],
  },
};
const file = { id: 'f1', name: 'note.pdf', size: 48_000, type: 'application/pdf' };
const answers = { kind: 'annual', dates: halves('2026-02-09', '2026-02-13') };
const show = (change: Parameters<typeof requestFor>[1]) =>
  open(<RequestFacts request={requestFor({}, { definition, answers, ...change })} />);

describe('an answer as its reader sees it', () => {
  test('files open by their name, with size and the day they expire', () => {
    show({ answers: { ...answers, note: { file, expires: '2026-12-31' } } as never });
    expect(screen.getByRole('link', { name: 'note.pdf' }).getAttribute('href')).toBe('/api/files/f1');
    expect(screen.getByText(/48 kB/)).toBeTruthy();
    expect(screen.getByText('valid until Thu 31 December 2026')).toBeTruthy();
  });

  test('what is withheld says who reads it', () => {
    show({ closed: [{ field: 'reason', sight: 'withheld' }] });
    expect(screen.getByText('Given. Read by Nurse and HR partner only.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Show/ })).toBeNull();
  });

  test('what is guarded is shown on demand, once, and says that the look is recorded', async () => {
    const sent = serve({ 'POST /requests/R-1/looks': { answer: 'A bad back' } });
    show({ closed: [{ field: 'reason', sight: 'guarded' }] });
    expect(screen.getByText('Your look is recorded.')).toBeTruthy();
    await userEvent.setup().click(screen.getByRole('button', { name: 'Show Reason' }));
    expect(await screen.findByText('A bad back')).toBeTruthy();
    await waitFor(() => expect(sent.filter(s => s.method === 'POST').map(s => s.body?.field)).toEqual(['reason']));
  });

  test('a look that is refused says why', async () => {
    serve({ 'POST /requests/R-1/looks': new Refusal('Only the people named for this field may read it.', [], 403) });
    show({ closed: [{ field: 'reason', sight: 'guarded' }] });
    await userEvent.setup().click(screen.getByRole('button', { name: 'Show Reason' }));
    expect(await screen.findByText('Only the people named for this field may read it.')).toBeTruthy();
  });

  test('a figure that tells of something closed does not stand there', () => {
    show({ figures: { days: 4.5 } });
    expect(screen.getByText('Days')).toBeTruthy();
    expect(screen.queryByText('Others away')).toBeNull();
  });
});
