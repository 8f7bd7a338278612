/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { ItemList } from './ItemList.tsx';

type Told = { words: string; before: number | null }[];
afterEach(cleanup);

function Page({ start, told }: { start: string[]; told: (items: Told) => void }) {
  const [items, setItems] = useState(start);
  return (
    <>
      <ItemList
        label="Choices"
        one="choice"
        items={items}
        onChange={next => {
          told([...next]);
          if (next.length > 0) setItems(next.map(item => item.words));
        }}
      />
      <button type="button" onClick={() => setItems(start)}>
        Undo
      </button>
    </>
  );
}

function shown(start: string[]) {
  const told = jest.fn<(items: Told) => void>();
  render(<Page start={start} told={told} />);
  return { user: userEvent.setup(), last: () => told.mock.calls.at(-1)?.[0] };
}
const words = () => screen.getAllByRole('textbox').map(field => (field as HTMLInputElement).value);

describe('a list of items', () => {
  test('takes another one behind Enter, and tells which was which', async () => {
    const { user, last } = shown(['Kit', 'Keys']);
    await user.type(screen.getByRole('textbox', { name: 'choice 1' }), '{Enter}Radio');
    expect(words()).toEqual(['Kit', 'Radio', 'Keys']);
    expect(last()?.map(item => item.words)).toEqual(['Kit', 'Radio', 'Keys']);
    await user.type(screen.getByRole('textbox', { name: 'choice 3' }), '!');
    expect(last()).toEqual([
      { words: 'Kit', before: 0 },
      { words: 'Radio', before: 1 },
      { words: 'Keys!', before: 2 },
    ]);
  });

  test('moves and removes, and what is moved is still the same', async () => {
    const { user, last } = shown(['Kit', 'Keys', 'Radio']);
    await user.click(screen.getByRole('button', { name: 'Move Radio up' }));
    expect(last()).toEqual([
      { words: 'Kit', before: 0 },
      { words: 'Radio', before: 2 },
      { words: 'Keys', before: 1 },
    ]);
    await user.click(screen.getByRole('button', { name: 'Remove Kit' }));
    expect(words()).toEqual(['Radio', 'Keys']);
  });

  test('says what stands there twice, and tells it once; the last one stays', async () => {
    const { user, last } = shown(['Kit']);
    await user.type(screen.getByRole('textbox', { name: 'choice 1' }), '{Enter}Kit');
    expect(screen.getByRole('alert').textContent).toBe('twice');
    expect(last()).toEqual([{ words: 'Kit', before: 0 }]);
    await user.click(screen.getAllByRole('button', { name: 'Remove Kit' })[1]);
    await user.click(screen.getByRole('button', { name: 'Remove Kit' }));
    expect(words()).toEqual(['Kit']);
  });

  test('shows what was changed elsewhere', async () => {
    const { user } = shown(['Kit', 'Keys']);
    await user.click(screen.getByRole('button', { name: 'Remove Kit' }));
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(words()).toEqual(['Kit', 'Keys']);
  });
});
