/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { FoundPeople } from '@north-pebble/contract';
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { person } from '../../../../core/testing/house.ts';
import { commandsOf, now, open, Refusal, requestFor, serve, task, unserve } from '../../testing/page.tsx';
import { Delegation } from './Delegation.tsx';
import { ChangeOwner } from './Owner.tsx';
import { Remedies } from './Remedies.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const found: FoundPeople = {
  people: [
    { id: person('per'), name: 'Per Lauder', what: 'Tide observer', balance: false },
    { id: person('kay'), name: 'Kay Voss', what: 'Keeper', balance: false },
  ],
  roles: ['HR partner'],
};
const sent = { request: 'R-1', version: 9 };
const house = (answer: unknown = sent) => serve({ 'GET /people': found, 'POST /requests/R-1/commands': answer });
const choose = async (user: ReturnType<typeof userEvent.setup>, label: RegExp, option: RegExp) => {
  await user.click(screen.getByRole('combobox', { name: label }));
  await user.click(await screen.findByRole('option', { name: option }));
};

describe('what a holder does besides answering', () => {
  test('asks: only with words, and the form goes away when it is sent', async () => {
    const seen = house();
    const user = userEvent.setup();
    open(<Delegation request={requestFor({ pass: 'R-1.1' })} />);
    await user.click(screen.getByRole('button', { name: 'Ask' }));
    expect(screen.getByText('The clock stands still until the reply.')).toBeTruthy();
    const send = screen.getByRole('button', { name: 'Send the question' });
    expect(send.hasAttribute('disabled')).toBe(true);
    await user.type(screen.getByRole('textbox', { name: 'Your question' }), 'Which boat?');
    await user.click(send);
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Send the question' })).toBeNull());
    expect(commandsOf(seen)).toEqual([{ kind: 'ask', seen: 8, task: 'R-1.1', question: 'Which boat?' }]);
  });

  test.each([
    ['a person', /Per Lauder/, { person: 'per' }],
    ['a role', /HR partner/, { role: 'HR partner' }],
  ])('hands over to %s, with a note that is needed', async (_, option, to) => {
    const seen = house();
    const user = userEvent.setup();
    open(<Delegation request={requestFor({ pass: 'R-1.1' })} />);
    await user.click(screen.getByRole('button', { name: 'Hand over' }));
    await choose(user, /^To$/, option);
    const send = screen.getByRole('button', { name: 'Hand it over' });
    expect(send.hasAttribute('disabled')).toBe(true);
    await user.type(screen.getByRole('textbox', { name: /^Note for/ }), 'You know the tides.');
    await user.click(send);
    await waitFor(() => expect(commandsOf(seen)).toHaveLength(1));
    expect(commandsOf(seen)).toEqual([{ kind: 'hand over', seen: 8, task: 'R-1.1', to, note: 'You know the tides.' }]);
  });

  test('a refusal stands at its field, and what was typed stays', async () => {
    const gap = 'Nobody decides their own request.';
    house(new Refusal(gap, [{ field: 'to', message: gap }]));
    const user = userEvent.setup();
    open(<Delegation request={requestFor({ pass: 'R-1.1' })} />);
    await user.click(screen.getByRole('button', { name: 'Hand over' }));
    await choose(user, /^To$/, /Per Lauder/);
    await user.type(screen.getByRole('textbox', { name: /^Note for/ }), 'Please');
    await user.click(screen.getByRole('button', { name: 'Hand it over' }));
    expect(await screen.findByText(gap)).toBeTruthy();
    expect(screen.getByRole('textbox', { name: /^Note for/ })).toHaveProperty('value', 'Please');
    expect(screen.getByRole('combobox', { name: /^To$/ })).toHaveProperty('value', 'Per Lauder');
  });

  test('opens one form at a time, and closes it without sending', async () => {
    const seen = house();
    const user = userEvent.setup();
    open(<Delegation request={requestFor({ pass: 'R-1.1' })} />);
    await user.click(screen.getByRole('button', { name: 'Set aside' }));
    expect(await screen.findByRole('group', { name: 'Until' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Ask' }));
    expect(screen.queryByRole('group', { name: 'Until' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Not now' }));
    expect(screen.queryByRole('form')).toBeNull();
    expect(commandsOf(seen)).toEqual([]);
  });

  test('while a question is open it is shown, and no second one is offered', () => {
    const question = { text: 'Which boat?', by: person('tom'), at: now };
    open(<Delegation request={requestFor({ pass: 'R-1.1' }, { tasks: [task({ question })] })} />);
    expect(screen.getByText('You asked Ina Okell')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Ask' })).toBeNull();
    expect(screen.getByRole('button', { name: 'Hand over' })).toBeTruthy();
  });

  test.each([
    ['set aside', { aside: { until: '2026-02-10' as never, back: now, note: 'tide table' } }, 'Bring it back now'],
    ['lent', { lentBy: person('dora') }, 'Give it back now'],
  ])('what is %s can be brought back', async (_, change, button) => {
    const seen = house();
    const user = userEvent.setup();
    open(<Delegation request={requestFor({ pass: 'R-1.1', bringBack: 'R-1.1' }, { tasks: [task(change)] })} />);
    await user.click(screen.getByRole('button', { name: button }));
    await waitFor(() => expect(commandsOf(seen)).toEqual([{ kind: 'bring back', seen: 8, task: 'R-1.1' }]));
  });

  test('offers nothing to those who only look', () => {
    open(<Delegation request={requestFor()} />);
    expect(screen.queryAllByRole('button')).toEqual([]);
  });
});

describe('the asker’s reply', () => {
  test('answers the question that is shown', async () => {
    const seen = house();
    const user = userEvent.setup();
    const question = { text: 'Which boat?', by: person('tom'), at: now };
    open(<Delegation request={requestFor({ reply: 'R-1.1' }, { tasks: [task({ question })] })} />);
    expect(screen.getByText('Tom Lund asks you')).toBeTruthy();
    expect(screen.getByText('“Which boat?”')).toBeTruthy();
    await user.type(screen.getByRole('textbox', { name: 'Your reply' }), 'The small one.');
    await user.click(screen.getByRole('button', { name: 'Send the reply' }));
    await waitFor(() =>
      expect(commandsOf(seen)).toEqual([{ kind: 'reply', seen: 8, task: 'R-1.1', reply: 'The small one.' }]),
    );
  });
});

describe('what helps a stuck request on', () => {
  test('naming somebody for the step that finds nobody', async () => {
    const seen = house();
    const user = userEvent.setup();
    open(<Remedies request={requestFor({ appoint: 'manager', tryAgain: true })} />);
    const give = screen.getByRole('button', { name: 'Assign it to them' });
    expect(give.hasAttribute('disabled')).toBe(true);
    await choose(user, /Who does step 3/, /Kay Voss/);
    await user.click(give);
    await waitFor(() => expect(commandsOf(seen)).toEqual([{ kind: 'appoint', seen: 8, step: 'manager', to: 'kay' }]));
  });

  test('trying again; a refusal says why', async () => {
    const seen = house(new Refusal('This request is not stuck.', [], 409));
    const user = userEvent.setup();
    open(<Remedies request={requestFor({ tryAgain: true })} />);
    await act(() => user.click(screen.getByRole('button', { name: 'Try again' })));
    expect(await screen.findByText('This request is not stuck.')).toBeTruthy();
    expect(commandsOf(seen)).toEqual([{ kind: 'try again', seen: 8 }]);
  });

  test('is not there when nothing is stuck', () => {
    open(<Remedies request={requestFor()} />);
    expect(screen.queryAllByRole('button')).toEqual([]);
  });
});

describe('who owns a request', () => {
  test('is changed in a dialog: a person, a note, and what is refused stands at its field', async () => {
    const user = userEvent.setup();
    const seen = house(new Refusal('No.', [{ field: 'to', message: 'Per Lauder does not work here now.' }]));
    open(<ChangeOwner request={requestFor({ changeOwner: true })} />);
    await user.click(screen.getByRole('button', { name: 'Change owner' }));
    expect(screen.getByText(/Ina Okell owns it now/)).toBeTruthy();
    const [send] = screen.getAllByRole('button', { name: 'Change owner' }).slice(-1);
    expect(send?.hasAttribute('disabled')).toBe(true);
    await choose(user, /^New owner$/, /Per Lauder/);
    await user.type(screen.getByRole('textbox', { name: 'Note (optional)' }), 'He knows.');
    await user.click(send as HTMLElement);
    expect(await screen.findByText('Per Lauder does not work here now.')).toBeTruthy();
    expect(commandsOf(seen)).toEqual([{ kind: 'change owner', seen: 8, to: 'per', note: 'He knows.' }]);
  });

  test('is offered to nobody who may not change it', () => {
    house();
    open(<ChangeOwner request={requestFor()} />);
    expect(screen.queryByRole('button')).toBeNull();
  });
});
