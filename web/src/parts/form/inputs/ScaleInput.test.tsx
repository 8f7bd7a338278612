/** @jest-environment jsdom */
import { afterEach, expect, jest, test } from '@jest/globals';
import { Field } from '@north-pebble/core/form';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { FieldInput } from '../FieldInput.tsx';

afterEach(cleanup);

const mood = {
  kind: 'scale',
  id: 'mood',
  label: 'Mood',
  required: false,
  least: -1,
  most: 1,
  leastWords: 'low',
  mostWords: 'high',
};
const show = (value: unknown, onChange: (value: unknown) => void) =>
  render(
    <FieldInput
      field={Field.parse(mood)}
      value={value}
      answers={{}}
      onChange={onChange}
      fault={undefined}
      closed={false}
      highlighted={false}
      house={{ leaveTypes: [], lists: [], people: [] }}
    />,
  );

test('offers its marks under the words of their ends, and gives back that none is set', async () => {
  const user = userEvent.setup();
  const given = jest.fn();
  const { unmount } = show(null, given);
  expect(screen.getAllByRole('radio')).toHaveLength(3);
  expect(screen.queryByRole('button')).toBeNull();
  await user.click(screen.getByRole('radio', { name: '1, high' }));
  expect(given).toHaveBeenLastCalledWith(1);
  unmount();
  show(-1, given);
  expect((screen.getByRole('radio', { name: '-1, low' }) as HTMLInputElement).checked).toBe(true);
  await user.click(screen.getByRole('button', { name: 'No mark' }));
  expect(given).toHaveBeenLastCalledWith(null);
});
