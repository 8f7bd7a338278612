/** @jest-environment jsdom */
import { afterEach, expect, test } from '@jest/globals';
import type { ComingView } from '@north-pebble/contract';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { date, instant } from '../../../../core/testing/house.ts';
import { open, serve, unserve } from '../../testing/page.tsx';
import { Coming } from './Coming.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const next = (n: number): ComingView['next'] =>
  Array.from({ length: n }, (_, i) => ({
    request: `R-${i}`,
    title: `Annual leave ${i}`,
    askerName: 'Ina Okell',
    holderName: i % 2 ? '' : 'Tom Lund',
    at: instant(`2026-02-0${3 + (i % 5)}T17:00:00Z`),
    what: i === 0 ? 'limit' : 'remind',
    words: i === 0 ? 'it passes to the manager above' : 'a reminder is sent',
  }));
const day = (limits: number, reminders: number) => ({ day: date('2026-02-03'), limits, reminders, others: 0 });

test('how much comes on which day, and the nearest in words', async () => {
  serve({ 'GET /requests/coming': { days: [day(1, 9)], next: next(10) } });
  const user = userEvent.setup();
  open(<Coming />);
  expect(await screen.findByRole('img', { name: /3 Feb: 1 limits, 9 reminders, 0 waits/ })).toBeTruthy();
  const lines = () => within(screen.getByRole('list', { name: 'The nearest' })).getAllByRole('listitem');
  expect(lines()).toHaveLength(8);
  expect(lines()[0].textContent).toBe(
    'Tue 3 Feb 17:00Ina Okell, Annual leave 0 with Tom Lundit passes to the manager above',
  );
  await user.click(screen.getByRole('button', { name: 'Show 2 more' }));
  expect(lines()).toHaveLength(10);
});

test('says so when nothing comes', async () => {
  serve({ 'GET /requests/coming': { days: [day(0, 0)], next: [] } });
  open(<Coming />);
  expect(await screen.findByText('No limit and no reminder in the next two weeks.')).toBeTruthy();
  expect(screen.queryByRole('img')).toBeNull();
});
