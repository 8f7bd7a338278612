/** @jest-environment jsdom */
import { afterEach, expect, jest, test } from '@jest/globals';
import { type Definition, type Edit, procedure, type StepOf } from '@north-pebble/core/workflow';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { index } from '../../../../../../core/testing/house.ts';
import { flow, task } from '../../../../../../core/testing/run.ts';
import { PhraseEditor } from './PhraseEditor.tsx';
import { AroundContext } from './shared.tsx';

afterEach(cleanup);

const definition: Definition = {
  ...flow(
    { verb: 'Provision', id: 'p', when: null, connection: 'Stores', action: 'add to group', values: [] },
    {
      verb: 'Split',
      id: 'ready',
      when: null,
      needs: 'all',
      lanes: [
        { id: 'a', name: 'Stores', steps: [task({ id: 'kit', task: 'Lays out the kit', plan: { takes: 2 } })] },
        { id: 'b', name: 'Pay', steps: [task({ id: 'paper', task: 'Writes the contract' })] },
      ],
    },
    task({ id: 'last', task: 'Looks at all' }),
  ),
  countsBack: { field: 'start' },
};
const around = {
  lists: [],
  workflows: [],
  leaveTypes: [],
  sample: {},
  offers: {
    Stores: {
      'add to group': [
        { name: 'group', label: 'the group', needed: true },
        { name: 'person', label: 'whose it is', needed: false },
        { name: 'rights', label: 'what members may do', needed: false, words: ['read', 'change'] },
      ],
    },
    Directory: { 'add to group': null },
  },
  took: { kit: { median: 3, nineInTen: 5, of: 12 } },
};

function open(kind: Edit['kind'], end: string) {
  const edit = procedure(definition, index)
    .flatMap(line => [...line.sentence, ...line.after])
    .flatMap(phrase => (phrase.edit?.kind === kind && String(phrase.edit.path.at(-1)) === end ? [phrase.edit] : []))[0];
  const done = jest.fn<(definition?: Definition) => void>();
  render(
    <AroundContext value={around}>
      <PhraseEditor edit={edit} definition={definition} index={index} onDone={done} />
    </AroundContext>,
  );
  const result = (): Definition => {
    const [found] = done.mock.calls.at(-1) ?? [];
    if (!found) throw new Error('nothing was changed');
    return found;
  };
  return { user: userEvent.setup(), result };
}

test('a connection is chosen from those that are set up', async () => {
  const { user, result } = open('text', 'connection');
  expect(screen.getAllByRole('menuitem').map(item => item.textContent)).toEqual(['Stores', 'Directory']);
  await user.click(screen.getByRole('menuitem', { name: 'Directory' }));
  expect((result().steps[1] as StepOf<'Provision'>).connection).toBe('Directory');
});

test('what it needs stands there from the beginning, and is not taken while it is empty', async () => {
  const { user, result } = open('values', 'values');
  expect(screen.getByRole('button', { name: 'Change' })).toHaveProperty('disabled', true);
  await user.type(screen.getByRole('textbox', { name: 'group: the group' }), 'Remark');
  await user.click(screen.getByRole('combobox', { name: 'Say also' }));
  await user.click(screen.getByRole('option', { name: /^person/ }));
  await user.click(screen.getByRole('button', { name: 'Change' }));
  const names = (result().steps[1] as StepOf<'Provision'>).values.map(value => value.name);
  expect(names).toEqual(['group', 'person']);
});

test('what takes certain words alone is picked, or worked out from the request', async () => {
  const { user, result } = open('values', 'values');
  await user.type(screen.getByRole('textbox', { name: 'group: the group' }), 'Remark');
  await user.click(screen.getByRole('combobox', { name: 'Say also' }));
  await user.click(screen.getByRole('option', { name: /^rights/ }));
  await user.click(screen.getByRole('combobox', { name: 'rights: what members may do' }));
  expect(screen.getAllByRole('option').map(one => one.textContent)).toEqual(['read', 'change']);
  await user.click(screen.getByRole('option', { name: 'change' }));
  await user.click(screen.getByRole('button', { name: 'From the request instead' }));
  expect(screen.getByRole('textbox', { name: 'rights: what members may do' })).toHaveProperty('value', '"change"');
  await user.click(screen.getByRole('button', { name: 'Pick one instead' }));
  await user.click(screen.getByRole('button', { name: 'Change' }));
  expect((result().steps[1] as StepOf<'Provision'>).values.at(-1)).toEqual({ name: 'rights', formula: '"change"' });
});

test('a place in the plan is typed beside what the step took so far, and waits for steps besides those before it', async () => {
  const { user, result } = open('plan', 'plan');
  expect(screen.getByText('So far 3 in the middle, 5 or less in 9 of 10 (12 times).')).toBeTruthy();
  const takes = screen.getByRole('textbox', { name: 'Working days that it takes' });
  await user.clear(takes);
  await user.type(takes, '4');
  await user.type(screen.getByRole('textbox', { name: /^Finished so many/ }), '{Backspace}2');
  // What comes after it cannot be waited for.
  expect(screen.getAllByRole('checkbox')).toHaveLength(1);
  await user.click(screen.getByRole('checkbox', { name: '3b1 Writes the contract' }));
  await user.click(screen.getByRole('button', { name: 'Change' }));
  const [kit] = (result().steps[2] as StepOf<'Split'>).lanes[0].steps;
  expect((kit as StepOf<'Do'>).plan).toEqual({ takes: 4, daysBefore: 2, after: ['paper'] });
});
