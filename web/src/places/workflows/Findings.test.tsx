/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { type Definition, type Finding, findings, setAt } from '@north-pebble/core/workflow';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { annualLeave, date, index } from '../../../../core/testing/house.ts';
import { Findings } from './Findings.tsx';
import { Procedure } from './Procedure.tsx';

afterEach(cleanup);

const people = { index, day: date('2026-02-02') };
const wrong = setAt(annualLeave, ['steps', 1, 'rows', 0, 'condition'], 'Balance aftr < 0');

function show(found: Finding[] | null, definition: Definition, readOnly = false) {
  const select = jest.fn<(step: string) => void>();
  const change = jest.fn<(definition: Definition) => void>();
  render(<Findings findings={found} definition={definition} readOnly={readOnly} onSelect={select} onChange={change} />);
  return { user: userEvent.setup(), select, change };
}

describe('findings in the margin', () => {
  test('say that they are being worked out, and when there are none', () => {
    show(null, annualLeave);
    expect(screen.getByText('Reading the workflow …')).toBeTruthy();
    cleanup();
    show([], annualLeave);
    expect(screen.getByRole('status').textContent).toContain('Nothing found');
  });

  test('put what stops publishing first, lead to the step, and mend with one click', async () => {
    const { user, select, change } = show(findings(wrong, people), wrong);
    const titles = screen.getAllByText(/“Balance aftr”|people would get stuck/).map(node => node.textContent);
    expect(titles[0]).toBe('“Balance aftr”');
    expect(screen.getByText('Stops publishing.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Step 2' }));
    expect(select).toHaveBeenCalledWith('choose');
    await user.click(screen.getByRole('button', { name: 'Change to “Balance after”' }));
    const mended = change.mock.calls[0][0];
    expect(findings(mended).filter(f => f.level === 'stops')).toEqual([]);
  });

  test('name the people who would get stuck, each with the reason', async () => {
    const { user } = show(findings(annualLeave, people), annualLeave);
    expect(screen.queryByText(/Con Tractor: /)).toBeNull();
    await user.click(screen.getAllByRole('button', { name: 'Show people' })[0]);
    expect(screen.getByText('Con Tractor: Con Tractor holds no post, so no line manager is on file.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Hide people' }));
    expect(screen.queryByText(/Con Tractor: /)).toBeNull();
  });

  test('offer no mend to those who only look', () => {
    show(findings(wrong, people), wrong, true);
    expect(screen.queryByRole('button', { name: /Change to/ })).toBeNull();
    expect(screen.getByRole('button', { name: 'Step 2' })).toBeTruthy();
  });
});

describe('the written procedure on the sheet', () => {
  const show = (readOnly: boolean, definition = annualLeave) => {
    const change = jest.fn<(definition: Definition) => void>();
    const select = jest.fn<(step: string) => void>();
    render(
      <Procedure
        definition={definition}
        index={index}
        findings={findings(definition)}
        readOnly={readOnly}
        selected="manager"
        onSelect={select}
        onChange={change}
      />,
    );
    return { change, select, user: userEvent.setup() };
  };

  test('has a line a step and phrases that open by keyboard', async () => {
    const { user, change } = show(false);
    expect(screen.getAllByRole('listitem')).toHaveLength(6);
    const phrase = screen.getByRole('button', { name: '2: change the value' });
    phrase.focus();
    await user.keyboard('{Enter}');
    const field = screen.getByRole('textbox', { name: 'Number' });
    await user.clear(field);
    await user.type(field, '4{Enter}');
    expect(JSON.stringify(change.mock.calls[0][0])).toContain('Days <= 4 and Others away = 0');
  });

  test('selects the line in which a phrase has the focus', async () => {
    const { select } = show(false);
    screen.getByRole('button', { name: '10: change the value' }).focus();
    expect(select).toHaveBeenCalledWith('above');
  });

  test('is plain text for those who only look', () => {
    show(true);
    expect(screen.queryAllByRole('button')).toEqual([]);
    expect(screen.getByText(/by the first line that holds/)).toBeTruthy();
  });
});
