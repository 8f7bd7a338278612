/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { RequestView } from '@north-pebble/contract';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { person } from '../../../../core/testing/house.ts';
import { commandsOf, open, Refusal, requestFor, serve, unserve } from '../../testing/page.tsx';
import { useAfterwards } from './Afterwards.tsx';
import { Comment } from './Comment.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const preview = { answers: {}, fields: [], faults: [], figures: {}, leave: null, others: [], ahead: null };
const sent = { request: 'R-1', version: 9 };
const house = (answer: unknown = sent) => serve({ 'POST /preview': preview, 'POST /requests/R-1/commands': answer });

function After({ request }: { request: RequestView }) {
  const { actions, form } = useAfterwards(request);
  return (
    <>
      {actions}
      {form}
    </>
  );
}

describe('after approval', () => {
  test('offers what the reader may do, and no more', () => {
    house();
    open(<After request={requestFor({ change: true })} />);
    expect(screen.getAllByRole('button').map(b => b.textContent)).toEqual(['Change it']);
    cleanup();
    open(<After request={requestFor()} />);
    expect(screen.queryAllByRole('button')).toEqual([]);
  });

  test('a change says what it means, and is sent only when something is changed', async () => {
    const seen = house();
    const user = userEvent.setup();
    open(<After request={requestFor({ change: true })} />);
    await user.click(screen.getByRole('button', { name: 'Change it' }));
    const form = screen.getByRole('region', { name: 'Change what was approved' });
    expect(form.textContent).toContain('It is decided again. Until then what was approved stands');
    const send = within(form).getByRole('button', { name: 'Ask for the change' });
    expect(send.hasAttribute('disabled')).toBe(true);
    await user.type(await within(form).findByRole('textbox', { name: /Remark/ }), 'Home early');
    await user.type(within(form).getByRole('textbox', { name: /^Why/ }), 'ferry');
    await user.click(send);
    await waitFor(() => expect(commandsOf(seen)).toHaveLength(1));
    expect(commandsOf(seen)[0]).toMatchObject({
      kind: 'change after approval',
      seen: 8,
      answers: { kind: 'annual', remark: 'Home early' },
      note: 'ferry',
    });
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Change what was approved' })).toBeNull());
  });

  test('a correction sends what was changed and its reason, which is needed', async () => {
    const seen = house();
    const user = userEvent.setup();
    open(<After request={requestFor({ correct: true })} />);
    await user.click(screen.getByRole('button', { name: 'Correct it' }));
    const form = screen.getByRole('region', { name: 'Correct what was answered' });
    await user.type(await within(form).findByRole('textbox', { name: /Remark/ }), 'x');
    const send = within(form).getByRole('button', { name: 'Correct it' });
    expect(send.hasAttribute('disabled')).toBe(true);
    await user.type(within(form).getByRole('textbox', { name: 'Reason, for the trail' }), 'Mistyped');
    await user.click(send);
    await waitFor(() => expect(commandsOf(seen)).toHaveLength(1));
    expect(commandsOf(seen)).toEqual([{ kind: 'correct', seen: 8, answers: { remark: 'x' }, reason: 'Mistyped' }]);
  });

  test('a refusal keeps the form and what was typed', async () => {
    house(new Refusal('Tom answered this a moment ago.', [], 409));
    const user = userEvent.setup();
    open(<After request={requestFor({ change: true })} />);
    await user.click(screen.getByRole('button', { name: 'Change it' }));
    const remark = await screen.findByRole('textbox', { name: /Remark/ });
    await user.type(remark, 'Home early');
    await user.click(screen.getByRole('button', { name: 'Ask for the change' }));
    expect(await screen.findByText('Tom answered this a moment ago.')).toBeTruthy();
    expect(remark).toHaveProperty('value', 'Home early');
  });

  test.each([
    [undefined, /given back at once/],
    [{ change: 'decided', cancel: 'decided' } as const, /Whoever approved it decides/],
  ])('cancelling says what will happen first', async (afterwards, words) => {
    const seen = house();
    const user = userEvent.setup();
    const request = requestFor({ cancel: true });
    open(<After request={{ ...request, definition: { ...request.definition, afterwards } }} />);
    await user.click(screen.getByRole('button', { name: 'Cancel it' }));
    const dialog = await screen.findByRole('dialog');
    expect(dialog.textContent).toMatch(words);
    await user.click(within(dialog).getByRole('button', { name: 'Cancel it' }));
    await waitFor(() => expect(commandsOf(seen)).toEqual([{ kind: 'cancel after approval', seen: 8, note: null }]));
  });
});

describe('a comment', () => {
  const people = { people: [{ id: person('per'), name: 'Per Lauder', what: 'Tide observer' }], roles: [] };

  test('names people after an @, and tells those who are still in it', async () => {
    const seen = serve({ 'GET /people': people, 'POST /requests/R-1/commands': sent });
    const user = userEvent.setup();
    open(<Comment request={requestFor({ comment: true })} />);
    const field = screen.getByRole('textbox', { name: 'Comment' });
    await user.type(field, 'Take the ferry @Per');
    await user.click(await screen.findByRole('button', { name: 'Per Lauder' }));
    expect(field).toHaveProperty('value', 'Take the ferry @Per Lauder ');
    await user.click(screen.getByRole('button', { name: 'Comment and tell 1' }));
    await waitFor(() => expect(commandsOf(seen)).toHaveLength(1));
    expect(commandsOf(seen)).toEqual([{ kind: 'comment', text: 'Take the ferry @Per Lauder ', mentions: ['per'] }]);
    await waitFor(() => expect(field).toHaveProperty('value', ''));
  });

  test('without a name tells nobody, and without words is not sent', async () => {
    const seen = serve({ 'POST /requests/R-1/commands': sent });
    const user = userEvent.setup();
    open(<Comment request={requestFor({ comment: true })} />);
    expect(screen.getByRole('button', { name: 'Comment' }).hasAttribute('disabled')).toBe(true);
    await user.type(screen.getByRole('textbox', { name: 'Comment' }), 'per@selkie.example says hello');
    await user.click(screen.getByRole('button', { name: 'Comment' }));
    await waitFor(() => expect(commandsOf(seen)).toMatchObject([{ kind: 'comment', mentions: [] }]));
  });
});
