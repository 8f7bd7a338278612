/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { TrailLine } from '@north-pebble/core/workflow';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { person } from '../../../../core/testing/house.ts';
import { now, open, requestFor, serve, unserve } from '../../testing/page.tsx';
import { RequestPlace } from './RequestPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const line = (text: string, change: Partial<TrailLine> = {}): TrailLine => ({
  at: now,
  by: null,
  who: 'North Pebble',
  text,
  note: null,
  why: [],
  changes: [],
  tone: 'plain',
  ...change,
});
const tom = { by: person('tom'), who: 'Tom Lund' };
const trail = [
  line('gave step 3 to Tom Lund', { why: ['line manager of Ina Okell'] }),
  line('answered “Send back” at step 3', { ...tom, note: 'Be back on Friday.' }),
  line('changed it and sent it again', {
    by: person('ina'),
    who: 'Ina Okell',
    changes: [{ label: 'Dates', before: 'a', after: 'b' }],
  }),
  line('gave step 3 to Tom Lund'),
  line('answered “Approve” at step 3', tom),
];
const show = (at: string) =>
  open(
    <Routes>
      <Route path="/requests/:id" element={<RequestPlace />} />
    </Routes>,
    { at },
  );
const lines = async () => within(await screen.findByRole('list', { name: 'Trail' })).getAllByRole('listitem');

describe('the trail of a request', () => {
  test.each([
    ['everything', 5],
    ['what people did', 3],
    ['what changed', 1],
    ['what was said', 1],
  ])('shows %s', async (part, n) => {
    serve({ 'GET /requests/R-1': requestFor({}, { trail }) });
    const user = userEvent.setup();
    show('/requests/R-1');
    expect(await lines()).toHaveLength(5);
    await user.click(screen.getByRole('button', { name: part }));
    expect(await lines()).toHaveLength(n);
    expect(screen.getByRole('button', { name: part }).getAttribute('aria-pressed')).toBe('true');
  });

  test('the part that is looked for stands in the address; a part that there is not shows everything', async () => {
    serve({ 'GET /requests/R-1': requestFor({}, { trail }) });
    show('/requests/R-1?trail=what+changed');
    expect(await lines()).toHaveLength(1);
    cleanup();
    show('/requests/R-1?trail=secrets');
    expect(await lines()).toHaveLength(5);
  });

  test('a short one needs no parts', async () => {
    serve({ 'GET /requests/R-1': requestFor({}, { trail: trail.slice(0, 2) }) });
    show('/requests/R-1');
    expect(await lines()).toHaveLength(2);
    expect(screen.queryByRole('group', { name: 'Part of the trail' })).toBeNull();
  });

  test('its reasons are on paper too', async () => {
    serve({ 'GET /requests/R-1': requestFor({}, { trail }) });
    show('/requests/R-1');
    const [first] = await lines();
    expect(first.querySelector('.print-only')?.textContent).toBe('line manager of Ina Okell.');
  });
});
