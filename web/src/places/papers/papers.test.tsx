/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { PaperRow, PapersView } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { date } from '../../../../core/testing/house.ts';
import { open, serve, unserve } from '../../testing/page.tsx';
import { PapersPlace } from './PapersPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const row = (more: Partial<PaperRow> = {}): PaperRow => ({
  id: 4,
  holder: 'Mika Ødegård',
  isMine: false,
  person: null,
  kind: 'Permit to work',
  number: '•••• P77',
  issued: null,
  expires: date('2027-01-01'),
  keptOn: date('2026-02-02'),
  request: 'R-9',
  state: 'good',
  replacedOn: null,
  forgottenOn: null,
  forgetOn: null,
  renewal: null,
  looks: 0,
  ...more,
});
const view = (...rows: PaperRow[]): PapersView => ({
  today: date('2026-02-02'),
  rows,
  more: 0,
  months: [],
  kinds: ['Permit to work'],
  rules: [],
  workflows: [],
  mayRule: false,
});

describe('papers of somebody who was not on file', () => {
  test('are said to be of a person, whoever they are on file now', async () => {
    const sent = serve({
      'GET /papers': view(row()),
      'GET /papers/4/looks': [],
      'GET /people': { people: [{ id: 'mika', name: 'Mika Ødegård', what: 'Tide observer' }], roles: [] },
      'PUT /papers/4/holder': view(row({ person: 'mika' as PersonId })),
    });
    const mouse = userEvent.setup();
    open(<PapersPlace />);
    await mouse.click(await screen.findByRole('button', { name: /About it/ }));
    await mouse.click(await screen.findByRole('button', { name: 'They are on file now' }));
    const say = screen.getByRole('button', { name: 'These are their papers' });
    expect(say).toHaveProperty('disabled', true);
    await mouse.type(screen.getByRole('combobox', { name: 'Mika Ødegård on file' }), 'Mika');
    await mouse.click(await screen.findByRole('option', { name: /Mika Ødegård/ }));
    await mouse.click(say);
    expect(sent.find(one => one.method === 'PUT')?.body).toEqual({ person: 'mika' });
  });

  test('whose is known are not asked about', async () => {
    serve({ 'GET /papers': view(row({ person: 'mika' as PersonId })), 'GET /papers/4/looks': [] });
    const mouse = userEvent.setup();
    open(<PapersPlace />);
    await mouse.click(await screen.findByRole('button', { name: /About it/ }));
    await screen.findByText('Nobody else has looked at it.');
    expect(screen.queryByRole('button', { name: 'They are on file now' })).toBeNull();
  });
});
