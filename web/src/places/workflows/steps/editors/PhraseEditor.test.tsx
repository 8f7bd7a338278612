/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { type Definition, type Edit, procedure, type StepOf } from '@north-pebble/core/workflow';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { annualLeave, index } from '../../../../../../core/testing/house.ts';
import { PhraseEditor } from './PhraseEditor.tsx';

afterEach(cleanup);

const lines = procedure(annualLeave, index);
const edits = lines
  .flatMap(line => [...line.sentence, ...line.rows.flatMap(row => row.phrases)])
  .flatMap(phrase => (phrase.edit ? [phrase.edit] : []));

/** The n-th phrase of a kind. */
const edit = (kind: Edit['kind'], n = 0): Edit => edits.filter(e => e.kind === kind)[n];

function open(one: Edit) {
  const done = jest.fn<(definition?: Definition) => void>();
  render(<PhraseEditor edit={one} definition={annualLeave} index={index} onDone={done} />);
  return { done, user: userEvent.setup(), result: () => done.mock.calls.at(-1)?.[0] };
}

const choose = (definition: Definition | undefined) => definition?.steps[1] as StepOf<'Choose'>;
const decide = (definition: Definition | undefined) => definition?.steps[2] as StepOf<'Decide'>;

describe('a value', () => {
  test('is replaced in the text of the formula, and nothing else changes', async () => {
    const { user, result } = open(edit('value'));
    const field = screen.getByRole('textbox', { name: 'Number' });
    await user.clear(field);
    await user.type(field, '3.5{Enter}');
    expect(choose(result()).rows[0].condition).toBe('Days <= 3.5 and Others away = 0');
    expect(result()?.figures).toBe(annualLeave.figures);
  });

  test('that is no number is said, and cannot be taken', async () => {
    const { user, done } = open(edit('value'));
    const field = screen.getByRole('textbox', { name: 'Number' });
    await user.clear(field);
    await user.type(field, 'two{Enter}');
    expect(screen.getByText('Write a number, as in 2 or 2.5.')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Change' })).toHaveProperty('disabled', true);
    expect(done).not.toHaveBeenCalled();
  });

  test('may be kept as it is', async () => {
    const { user, done } = open(edit('value'));
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect(done).toHaveBeenCalledWith();
  });
});

describe('a comparison', () => {
  test('is chosen in words and written as FEEL', async () => {
    const { user, result } = open(edit('comparator'));
    expect(screen.getAllByRole('menuitem').map(item => item.textContent)).toEqual([
      'is below',
      'is at most',
      'is over',
      'is at least',
      'is',
      'is not',
    ]);
    await user.click(screen.getByRole('menuitem', { name: 'is below' }));
    expect(choose(result()).rows[0].condition).toBe('Days < 2 and Others away = 0');
  });
});

describe('a condition', () => {
  test('is checked while typing, with the nearest name offered, and may be saved unfinished', async () => {
    const { user, result } = open(edit('formula'));
    const field = screen.getByRole('textbox', { name: 'Condition' });
    await user.clear(field);
    await user.type(field, 'Dys > 2');
    expect(screen.getByText('There is no “Dys”. Did you mean “Days”?')).toBeTruthy();
    await user.clear(field);
    await user.type(field, 'Days > 2 or Others away > 1');
    expect(screen.getByText(/This can be read/)).toBeTruthy();
    await user.type(field, '{Enter}');
    expect(choose(result()).rows[0].condition).toBe('Days > 2 or Others away > 1');
  });
});

describe('who decides', () => {
  test('is found by typing, among rules, roles and people', async () => {
    const { user, result } = open(edit('people'));
    const field = screen.getByRole('combobox', { name: 'Who decides' });
    await user.clear(field);
    await user.type(field, 'head of');
    await user.click(screen.getByRole('option', { name: 'the head of the asker’s department' }));
    await user.click(screen.getByRole('button', { name: 'Change' }));
    expect(decide(result()).who).toEqual({ first: { kind: 'head of department' }, otherwise: [] });
  });

  test('has fallbacks in their order', async () => {
    const { user, result } = open(edit('people'));
    const field = screen.getByRole('combobox', { name: 'When nobody is found, else' });
    await user.type(field, 'HR partner');
    await user.click(screen.getByRole('option', { name: 'anyone with the role HR partner' }));
    await user.type(field, 'Kay');
    await user.click(screen.getByRole('option', { name: 'Kay Voss' }));
    await user.click(screen.getByRole('button', { name: 'Change' }));
    expect(decide(result()).who.otherwise).toEqual([
      { kind: 'role', role: 'HR partner' },
      { kind: 'person', person: 'kay' },
    ]);
  });
});

describe('the limit', () => {
  test('is changed in working days, with what happens then', async () => {
    const { user, result } = open(edit('limit'));
    const within = screen.getByRole('textbox', { name: 'Within' });
    await user.clear(within);
    await user.type(within, '5');
    await user.click(screen.getByRole('combobox', { name: 'Unanswered at the limit' }));
    await user.click(screen.getByRole('option', { name: 'it stays and is shown as late' }));
    await user.click(screen.getByRole('button', { name: 'Change' }));
    expect(decide(result()).limit).toEqual({
      within: { workingDays: 5 },
      remind: { after: { workingDays: 1 }, atMost: 2 },
      atLimit: 'wait',
    });
  });

  test('is a whole number of days; half a day is said to be wrong', async () => {
    const { user } = open(edit('limit'));
    const within = screen.getByRole('textbox', { name: 'Within' });
    await user.clear(within);
    await user.type(within, '1.5');
    expect(screen.getByText('A whole number above 0.')).toBeTruthy();
  });

  test('and the reminders can be taken away', async () => {
    const { user, result } = open(edit('limit'));
    await user.click(screen.getByRole('checkbox', { name: 'Send reminders' }));
    await user.click(screen.getByRole('button', { name: 'Change' }));
    expect(decide(result()).limit?.remind).toBeNull();
    cleanup();
    const second = open(edit('limit'));
    await second.user.click(screen.getByRole('checkbox', { name: 'There is a limit' }));
    await second.user.click(screen.getByRole('button', { name: 'Change' }));
    expect(decide(second.result()).limit).toBeNull();
  });

  test('is given a usual one where there was none', async () => {
    const { user, result } = open(edit('limit', 1));
    await user.click(screen.getByRole('checkbox', { name: 'There is a limit' }));
    await user.click(screen.getByRole('button', { name: 'Change' }));
    const above = result()?.steps[3] as StepOf<'Decide'>;
    expect(above.limit).toEqual({ within: { workingDays: 2 }, remind: null, atLimit: 'wait' });
  });
});

describe('fields that may be reworked', () => {
  test('are ticked; at least one stays', async () => {
    const { user, result, done } = open(edit('fields'));
    await user.click(screen.getByRole('checkbox', { name: 'Dates' }));
    expect(screen.getByText('Choose one field at least.')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Change' })).toHaveProperty('disabled', true);
    await user.click(screen.getByRole('checkbox', { name: 'Remark' }));
    await user.click(screen.getByRole('checkbox', { name: 'Kind' }));
    await user.click(screen.getByRole('button', { name: 'Change' }));
    expect(done).toHaveBeenCalledTimes(1);
    const back = decide(result()).outcomes[1].leads;
    // In the order of the form, however they were ticked.
    expect(back.to === 'rework' && back.fields).toEqual(['kind', 'remark']);
  });
});

describe('where an outcome leads', () => {
  test('is one of the steps or a closing', async () => {
    const { user, result } = open(edit('go', 2));
    const menu = within(screen.getByRole('menu'));
    expect(menu.getAllByRole('menuitem').map(item => item.textContent)).toEqual([
      'go on to the next step',
      'go to 2, choose',
      'go to 4, decide',
      'go to 5, record',
      'go to 6, close',
      'close as Approved',
      'close as Declined',
      'send back for changes …',
    ]);
    await user.click(menu.getByRole('menuitem', { name: 'go to 5, record' }));
    expect(decide(result()).outcomes[0].leads).toEqual({ to: 'step', step: 'record' });
  });
});
