/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { TrailLine } from '@north-pebble/core/workflow';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { annualLeave, person } from '../../../../core/testing/house.ts';
import { commandsOf, now, open, requestFor, serve, unserve } from '../../testing/page.tsx';
import { AskPlace } from './AskPlace.tsx';
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
  files: [],
  tone: 'plain',
  ...change,
});
const tom = { by: person('tom'), who: 'Tom Lund' };
const trail = [
  line('assigned step 3 to Tom Lund', { why: ['line manager of Ina Okell'] }),
  line('answered “Send back” at step 3', { ...tom, note: 'Be back on Friday.' }),
  line('changed it and sent it again', {
    by: person('ina'),
    who: 'Ina Okell',
    changes: [{ label: 'Dates', before: 'a', after: 'b' }],
  }),
  line('assigned step 3 to Tom Lund'),
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

const askable = (definition = annualLeave) => ({
  workflow: 'annual',
  version: 1,
  definition,
  leaveTypes: [{ id: 'annual', name: 'Annual leave', hasBalance: true }],
  lists: [],
  people: [],
  subjects: [],
  usually: null,
  draft: null,
});
const previewed = { answers: {}, fields: [], faults: [], figures: {}, leave: null, others: [], ahead: null };

test('a draft is saved at once when the form is left in the middle of a word, and is there on coming back', async () => {
  const sent = serve({
    'GET /askable/annual': askable(),
    'POST /preview': { ...previewed, fields: annualLeave.form.fields.map(f => ({ id: f.id, level: 'editable' })) },
    'PUT /askable/annual/draft': { savedAt: now },
  });
  const user = userEvent.setup();
  const show = () =>
    open(
      <Routes>
        <Route path="/ask/:workflow" element={<AskPlace />} />
      </Routes>,
      { at: '/ask/annual' },
    );
  const { unmount } = show();
  await user.type(await screen.findByRole('textbox', { name: /^Remark/ }), 'By bo');
  unmount();
  const saves = () =>
    sent.filter(s => s.method === 'PUT').map(s => (s.body?.answers as { remark?: string } | undefined)?.remark);
  expect(saves().at(-1)).toBe('By bo');
  const before = saves().length;
  show();
  expect(await screen.findByDisplayValue('By bo')).toBeTruthy();
  cleanup();
  // Nothing was typed since, so nothing is saved.
  expect(saves()).toHaveLength(before);
});

describe('a comment', () => {
  const plan = { id: 'f1', name: 'Plan.pdf', size: 9000, type: 'application/pdf' };

  test('goes with the files that were given for it, and leaves nothing typed behind', async () => {
    const sent = serve({
      'GET /requests/R-1': requestFor({ comment: true }, { unsent: { comment: 'As drawn' } }),
      'POST /files': plan,
      'PUT /requests/R-1/unsent/comment': null,
      'PUT /requests/R-1/unsent/files%20of%20the%20comment': null,
      'POST /requests/R-1/commands': { request: 'R-1', version: 9 },
    });
    const user = userEvent.setup();
    show('/requests/R-1');
    // What was typed before, maybe on another machine, stands there.
    expect(await screen.findByDisplayValue('As drawn')).toBeTruthy();
    await user.upload(screen.getByLabelText('Files with it'), new File(['%PDF-1.7'], 'Plan.pdf'));
    expect(await screen.findByText('Plan.pdf, 9 kB')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Comment' }));
    await waitFor(() => expect(commandsOf(sent)).toHaveLength(1));
    expect(commandsOf(sent)[0]).toEqual({ kind: 'comment', text: 'As drawn', mentions: [], files: [plan] });
    await waitFor(() => expect(screen.queryByDisplayValue('As drawn')).toBeNull());
  });

  test('shows its files on the trail, to be opened', async () => {
    const said = line('wrote a comment, with Plan.pdf', { ...tom, note: 'As drawn', files: [plan] });
    serve({ 'GET /requests/R-1': requestFor({}, { trail: [said] }) });
    show('/requests/R-1');
    const link = await screen.findByRole('link', { name: 'Plan.pdf' });
    expect(link.getAttribute('href')).toBe('/api/files/f1');
  });
});

describe('asking again', () => {
  const closed = requestFor(
    {},
    {
      status: 'withdrawn',
      standing: 'Withdrawn',
      asker: person('tom'),
      tasks: [],
      answers: { kind: 'annual', remark: 'By boat' },
    },
  );

  test('is for the asker, once it is closed or withdrawn', async () => {
    serve({ 'GET /requests/R-1': closed });
    show('/requests/R-1');
    const again = await screen.findByRole('link', { name: 'Ask again' });
    expect(again.getAttribute('href')).toBe('/ask/annual?again=R-1');
    cleanup();
    unserve();
    serve({ 'GET /requests/R-1': { ...closed, status: 'open' } });
    show('/requests/R-1');
    expect(await screen.findByText('Trail')).toBeTruthy();
    expect(screen.queryByRole('link', { name: 'Ask again' })).toBeNull();
  });

  test('begins with what it said, without its files', async () => {
    const definition = {
      ...closed.definition,
      form: {
        fields: [
          ...closed.definition.form.fields,
          { kind: 'files' as const, id: 'papers', label: 'Papers', required: false },
        ],
      },
    };
    const file = { id: 'f1', name: 'a.pdf', size: 9, type: 'application/pdf' };
    serve({
      'GET /requests/R-1': { ...closed, answers: { ...closed.answers, papers: [file] } },
      'GET /askable/annual': askable(definition),
      'POST /preview': {
        answers: {},
        fields: definition.form.fields.map(f => ({ id: f.id, level: 'editable' })),
        faults: [],
        figures: {},
        leave: null,
        others: [],
        ahead: null,
      },
    });
    open(
      <Routes>
        <Route path="/ask/:workflow" element={<AskPlace />} />
      </Routes>,
      { at: '/ask/annual?again=R-1' },
    );
    expect(await screen.findByDisplayValue('By boat')).toBeTruthy();
    expect(screen.getByText(/Filled in as in R-1/)).toBeTruthy();
    expect(screen.queryByText(/a\.pdf/)).toBeNull();
  });
});
