/** @jest-environment jsdom */
import { afterEach, expect, test } from '@jest/globals';
import type { AheadView } from '@north-pebble/contract';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { open } from '../../testing/page.tsx';
import { AheadNote } from './AheadNote.tsx';

afterEach(cleanup);

const step = (number: string, names: string[], change: Partial<AheadView['steps'][number]> = {}) => ({
  number,
  verb: 'Decide' as const,
  people: names.map(name => ({ name, reasons: [`${name} leads the place`] })),
  due: null,
  waits: null,
  ...change,
});
const show = (ahead: AheadView) => open(<AheadNote ahead={ahead} title="The path ahead" />);
const lines = () =>
  within(screen.getByRole('list', { name: 'The path ahead' }))
    .getAllByRole('listitem')
    .map(li => li.textContent);

test('who has it in turn, when it is due, why them, and how it ends', async () => {
  show({
    steps: [
      step('2', ['Tom Lund'], { due: '2026-02-04T17:00:00Z' as never }),
      step('3', [], { verb: 'Hold', waits: 'until Start date (Mon 2 March 2026)' }),
      step('4', ['Dora Quill', 'Kay Voss'], { verb: 'Do' }),
      step('5', ['A', 'B', 'C', 'D']),
    ],
    ends: 'Approved',
  });
  expect(lines()).toEqual([
    '2Tom Lund decides, due Wed 4 Feb 17:00Why?',
    '3It waits until Start date (Mon 2 March 2026)',
    '4Dora Quill and Kay Voss do their partWhy?',
    '5one of 4 people decidesWhy?',
  ]);
  expect(screen.getByText(/It ends as “Approved”, if everybody agrees/)).toBeTruthy();
  await userEvent.setup().click(screen.getByRole('button', { name: 'Why Tom Lund?' }));
  expect(await screen.findByText('Tom Lund: Tom Lund leads the place.')).toBeTruthy();
});

test('nobody to ask, and an end that cannot be told', () => {
  show({ steps: [], ends: 'Booked' });
  expect(screen.getByText('Once you send it, it is “Booked”.')).toBeTruthy();
  cleanup();
  show({ steps: [step('2', ['Tom Lund'])], ends: null });
  expect(screen.getByText(/depends on what is filled in/)).toBeTruthy();
  cleanup();
  show({ steps: [], ends: null });
  expect(screen.queryByText(/path ahead|ends at once/)).toBeNull();
});
