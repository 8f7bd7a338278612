/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import type { PreviewView } from '@north-pebble/contract';
import { balanceAhead, explainAmount } from '@north-pebble/core/leave';
import type { Definition } from '@north-pebble/core/workflow';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { annual, annualLeave, bookOf, halves, person } from '../../../../core/testing/house.ts';
import { answersOf, FormFields, initialTyped, type Typed } from '../../parts/form/FormFields.tsx';
import { open } from '../../testing/page.tsx';
import { PreviewMargin, WhatHappensNext } from './RequestForm.tsx';

afterEach(cleanup);

const leaveTypes = [
  { id: 'annual', name: 'Annual leave', hasBalance: true },
  { id: 'sick', name: 'Sick leave', hasBalance: false },
];

function Form({
  start = {},
  open,
  faults = [],
  seen,
}: {
  start?: Typed;
  open?: string[];
  faults?: { field: string; message: string }[];
  seen: (typed: Typed) => void;
}) {
  const [typed, setTyped] = useState<Typed>(start);
  return (
    <FormFields
      definition={annualLeave}
      house={{ leaveTypes, lists: [], people: [] }}
      typed={typed}
      faults={faults}
      {...(open ? { open } : {})}
      onChange={next => {
        setTyped(next);
        seen(next);
      }}
    />
  );
}

describe('what is typed and what is sent', () => {
  test('a span is sent only when both of its days are there', () => {
    expect(answersOf(annualLeave, {})).toEqual({});
    const half = { dates: { from: { date: '2026-02-09', half: 'am' }, to: { date: '', half: 'pm' } } };
    expect(answersOf(annualLeave, half)).toEqual({});
    const whole = { kind: 'annual', dates: halves('2026-02-09', '2026-02-13'), remark: '' };
    expect(answersOf(annualLeave, whole)).toEqual({ kind: 'annual', dates: halves('2026-02-09', '2026-02-13') });
  });

  test('what the form does not have is not sent', () => {
    expect(answersOf(annualLeave, { kind: 'sick', salary: '1' })).toEqual({ kind: 'sick' });
  });

  test('the first of the offered kinds is chosen already, unless a draft says otherwise', () => {
    const only: Definition = {
      ...annualLeave,
      form: {
        fields: [{ kind: 'choice', id: 'kind', label: 'Kind', required: true, options: 'leave types', only: ['sick'] }],
      },
    };
    expect(initialTyped(only)).toEqual({ kind: 'sick' });
    expect(initialTyped(only, { kind: 'annual' })).toEqual({ kind: 'annual' });
    expect(initialTyped(annualLeave)).toEqual({});
  });
});

describe('the form', () => {
  test('shows each fault at its field and keeps what was typed', async () => {
    const seen = jest.fn<(typed: Typed) => void>();
    const faults = [
      { field: 'dates', message: 'The last day is before the first. Choose a later last day.' },
      { field: 'remark', message: 'Keep it under 5,000 letters.' },
    ];
    render(<Form seen={seen} faults={faults} start={{ remark: 'Rowing' }} />);
    expect(screen.getByRole('alert').textContent).toContain('The last day is before the first.');
    const remark = screen.getByRole('textbox', { name: /Remark/ });
    expect(remark).toHaveProperty('value', 'Rowing');
    expect(remark.getAttribute('aria-invalid')).toBe('true');
    await userEvent.setup().type(remark, ' and tea');
    expect(seen.mock.calls.at(-1)?.[0]).toMatchObject({ remark: 'Rowing and tea' });
  });

  test('names what may stay empty, and offers the kinds of leave by name', async () => {
    const seen = jest.fn<(typed: Typed) => void>();
    const user = userEvent.setup();
    render(<Form seen={seen} />);
    expect(screen.getByRole('textbox', { name: 'Remark (may stay empty)' })).toBeTruthy();
    await user.click(screen.getByRole('combobox', { name: 'Kind' }));
    expect(screen.getAllByRole('option').map(o => o.textContent)).toEqual(['Annual leave', 'Sick leave']);
    await user.click(screen.getByRole('option', { name: 'Sick leave' }));
    expect(seen).toHaveBeenLastCalledWith({ kind: 'sick' });
  });

  test('in rework only the opened fields may be changed', () => {
    render(
      <Form seen={() => {}} open={['remark']} start={{ kind: 'annual', dates: halves('2026-02-09', '2026-02-13') }} />,
    );
    expect(screen.getByRole('textbox', { name: /Remark/ })).toHaveProperty('disabled', false);
    expect(screen.getByRole('combobox', { name: 'Kind' }).getAttribute('aria-disabled')).toBe('true');
    expect(screen.getByRole('combobox', { name: 'Begins' }).getAttribute('aria-disabled')).toBe('true');
  });

  test('half days are chosen in words', async () => {
    const seen = jest.fn<(typed: Typed) => void>();
    const user = userEvent.setup();
    render(<Form seen={seen} start={{ dates: halves('2026-02-09', '2026-02-09') }} />);
    await user.click(screen.getByRole('combobox', { name: 'Ends' }));
    await user.click(screen.getByRole('option', { name: 'at midday' }));
    expect(seen).toHaveBeenLastCalledWith({ dates: halves('2026-02-09', '2026-02-09', { to: 'am' }) });
  });
});

describe('the margin beside the form', () => {
  const span = halves('2026-02-09', '2026-02-13');
  const ina = person('ina');
  const view = (change: Partial<PreviewView> = {}): PreviewView => ({
    answers: {},
    fields: [],
    faults: [],
    figures: { days: 4.5, after: 26.5, others: 0 },
    leave: {
      days: explainAmount(bookOf(), ina, annual, span),
      balance: balanceAhead(bookOf(), ina, annual, span) ?? null,
      notes: [],
    },
    others: [],
    ahead: null,
    ...change,
  });

  test('waits for both days', () => {
    open(<PreviewMargin preview={undefined} definition={annualLeave} />);
    expect(screen.getByText(/Worked out as soon as there is a first and a last day/)).toBeTruthy();
  });

  test('says days, balance before and after, and that nobody else is away', () => {
    open(<PreviewMargin preview={view()} definition={annualLeave} />);
    expect(screen.getByText('4½ days')).toBeTruthy();
    expect(screen.getByText('Balance 31 → 26½')).toBeTruthy();
    expect(screen.getByText('Nobody else of your team is away')).toBeTruthy();
  });

  test('answers why there are so many days, day by day', async () => {
    open(<PreviewMargin preview={view()} definition={annualLeave} />);
    await userEvent.setup().click(screen.getByRole('button', { name: 'Why 4½ days?' }));
    const dialog = screen.getByRole('dialog');
    expect(dialog.querySelectorAll('tr')).toHaveLength(5);
    expect(dialog.textContent).toContain('Fri 13 Febmorning 09:00 to 12:30, afternoon off: Ovay Friday½');
  });

  test('answers what the balance is made of', async () => {
    open(<PreviewMargin preview={view()} definition={annualLeave} />);
    await userEvent.setup().click(screen.getByRole('button', { name: 'Why 26½ after?' }));
    const { textContent } = screen.getByRole('dialog');
    expect(textContent).toContain('earned, for the leave year+26 → 31');
    expect(textContent).toContain('taken, asked for here−4½ → 26½');
    expect(textContent).toContain('to use by Tue 31 March');
  });

  test('names who else is away, and leave without a balance has none', () => {
    const sick = view({ others: ['Per Lauder'], leave: { days: [], balance: null, notes: [] } });
    open(<PreviewMargin preview={sick} definition={annualLeave} />);
    expect(screen.getByText('Also away then')).toBeTruthy();
    expect(screen.getByText('Per Lauder')).toBeTruthy();
    expect(screen.queryByText(/^Balance/)).toBeNull();
  });

  test('says what happens next', () => {
    render(<WhatHappensNext definition={annualLeave} />);
    expect(screen.getByText(/It goes to whoever handles it/)).toBeTruthy();
    cleanup();
    render(<WhatHappensNext definition={{ ...annualLeave, steps: [{ verb: 'Ask', id: 'ask' }] }} />);
    expect(screen.getByText('It is handled at once.')).toBeTruthy();
  });

  test.each([
    [{ median: 0.4, nineInTen: 0.9, of: 80 }, 'Usually that takes within a day.'],
    [{ median: 1.2, nineInTen: 1.9, of: 80 }, 'Usually that takes 2 days.'],
    [{ median: 0.5, nineInTen: 3.2, of: 80 }, 'Usually that takes within a day, nine in ten 4 days.'],
  ])('how long it usually takes, from what happened before: %p', (usually, words) => {
    render(<WhatHappensNext definition={annualLeave} usually={usually} />);
    expect(document.body.textContent).toContain(words);
    expect(screen.getByRole('button', { name: /^Why/ })).toBeTruthy();
  });
});
