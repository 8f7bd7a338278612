/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import type { RequestView, TeamStrip as Team } from '@north-pebble/contract';
import type { Instant } from '@north-pebble/core/time';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { annualLeave, halves, index, person } from '../../../core/testing/house.ts';
import { RefusedCall } from '../api/client.ts';
import { runs } from '../places/planner/drawing/runs.ts';
import { requestFor } from '../testing/page.tsx';
import { HereProvider } from './frame/session.ts';
import { FailureNote, Note } from './Notes.tsx';
import { Empty, Loaded, Page } from './Page.tsx';
import { PersonPebble } from './Pebble.tsx';
import { TeamStrip } from './request/leave/TeamStrip.tsx';
import { Progress } from './request/Progress.tsx';
import { RequestFacts } from './request/requestFacts.tsx';
import { Stones } from './stones/Stones.tsx';
import { ReasonRows, Why } from './Why.tsx';

afterEach(cleanup);

const request = (change: Partial<Omit<RequestView, 'may'>> = {}): RequestView =>
  requestFor(
    {},
    {
      answers: { kind: 'annual', dates: halves('2026-02-09', '2026-02-11'), remark: null },
      figures: { days: 3, after: 28, others: 0 },
      at: ['manager'],
      visited: ['choose', 'manager'],
      tasks: [],
      ...change,
    },
  );

const self = {
  id: person('tom'),
  name: 'Tom Lund',
  zone: 'Europe/Lisbon',
  rights: [],
  withheld: [],
  seenBy: null,
  keepsLists: false,
  hasReports: true,
  looksAfterSome: false,
};
const facts = (change: Partial<RequestView> = {}) =>
  render(
    <HereProvider value={{ self, now: '2026-02-02T10:00:00Z' as Instant, demo: true }}>
      <RequestFacts request={request(change)} />
    </HereProvider>,
  );

describe('facts of a request', () => {
  test('are answers and figures in words; what is empty is left out', () => {
    facts();
    const labels = screen.getAllByRole('term').map(node => node.textContent);
    expect(labels).toEqual(['Kind', 'Dates', 'Days', 'Balance after', 'Others away']);
    expect(screen.getAllByRole('definition').map(node => node.textContent)).toEqual([
      'Annual leave',
      'Mon 9 to Wed 11 February',
      '3 days',
      '28 days Why?',
      '0 Why?',
    ]);
  });

  test('what was changed shows what it was, and one’s own note is one’s own', () => {
    const before = { from: { date: '2026-02-09', half: 'am' }, to: { date: '2026-02-13', half: 'pm' } } as never;
    facts({
      changes: [{ field: 'dates', before, after: null }],
      returned: {
        fields: ['dates'],
        note: 'Back by Thursday?',
        byName: 'Tom Lund',
        at: '2026-02-02T10:00:00Z' as Instant,
      },
    });
    expect(screen.getByText('Mon 9 to Fri 13 February').tagName).toBe('S');
    expect(screen.getByText('Your note')).toBeTruthy();
    expect(screen.getByText(/Back by Thursday/)).toBeTruthy();
  });

  test('leave without a balance shows none', () => {
    facts({ answers: { ...request().answers, kind: 'sick' } });
    expect(screen.queryByText('Balance after')).toBeNull();
  });
});

describe('the course of a request', () => {
  const label = (change: Partial<RequestView>) => {
    render(<Progress request={request(change)} />);
    return screen.getByRole('img').getAttribute('aria-label');
  };

  test('says in words what is done, now and to come', () => {
    expect(label({})).toBe(
      'Steps. 1 Ask: done, 2 Choose: done, 3 Decide: now, 4 Decide: to come, 5 Record: to come, 6 Close: to come',
    );
  });

  test('shows what was sent back, and what was skipped in the end', () => {
    expect(label({ status: 'rework' })).toContain('3 Decide: sent back');
    cleanup();
    const ended = label({ status: 'closed', at: [], visited: ['choose', 'record', 'end'] });
    expect(ended).toContain('3 Decide: skipped, 4 Decide: skipped, 5 Record: done');
  });
});

describe('why', () => {
  test('opens with its reasons and closes again by key', async () => {
    const user = userEvent.setup();
    render(
      <Why about="4½ days">
        <ReasonRows rows={[{ key: 'a', what: 'Mon 9 Feb', note: 'worked', amount: '1' }]} />
      </Why>,
    );
    expect(screen.queryByRole('dialog')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Why 4½ days?' }));
    expect(screen.getByRole('dialog').textContent).toContain('Mon 9 Febworked1');
    await user.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });
});

describe('the team in the days of a request', () => {
  const team: Team = {
    days: ['9/2/1', '10/2/2', '11/2/3'],
    people: [
      { name: 'Ina Okell', asker: true, marks: ['held', 'held', 'held'] },
      { name: 'Per Lauder', asker: false, marks: ['am', 'away', 'here'] },
    ],
    here: [1, 1, 2],
  };

  test('is read out in words and drawn as bars', () => {
    const { container } = render(<TeamStrip team={team} />);
    const label = screen.getByRole('img').getAttribute('aria-label');
    expect(label).toContain('Per Lauder: 9 away in the morning, 10 away, 11 here');
    expect(label).toContain('Here: 1, 1, 2.');
    // One bar for the three days asked for, a half and a whole one for the colleague.
    expect([...container.querySelectorAll('rect')].map(bar => Number(bar.getAttribute('width')))).toEqual([65, 10, 21]);
  });
});

describe('the planner’s runs', () => {
  test('join equal halves and lose none', () => {
    expect(runs('wwbbbb--')).toEqual([
      { mark: 'w', from: 0, length: 2 },
      { mark: 'b', from: 2, length: 4 },
      { mark: '-', from: 6, length: 2 },
    ]);
    expect(runs('')).toEqual([]);
    const marks = 'wwwhbpbpw---w';
    expect(
      runs(marks)
        .map(r => r.mark.repeat(r.length))
        .join(''),
    ).toBe(marks);
  });
});

describe('the stones', () => {
  test('are buttons that say their sentence and open by keyboard', async () => {
    const select = jest.fn<(step: string) => void>();
    render(<Stones definition={annualLeave} index={index} selected={null} onSelect={select} />);
    const stone = screen.getByRole('button', {
      name: '3. Decide: the asker’s line manager decides within 2 working days.',
    });
    stone.focus();
    await userEvent.setup().keyboard('{Enter}');
    expect(select).toHaveBeenCalledWith('manager');
    expect(screen.getByText('Approved')).toBeTruthy();
    expect(screen.getByText('North Pebble')).toBeTruthy();
  });
});

describe('states of a page', () => {
  const query = <T,>(change: { data?: T; error?: unknown }) => ({
    data: change.data,
    error: change.error ?? null,
    isPending: !change.data && !change.error,
  });

  test('loading has the page’s shape, a fault says what and why, and data is shown', () => {
    render(<Loaded query={query<string>({})}>{text => text}</Loaded>);
    expect(screen.getByRole('status', { name: 'Loading' })).toBeTruthy();
    cleanup();
    const problem = {
      type: 'about:blank',
      title: 'There is no such thing',
      status: 404,
      detail: 'It does not exist.',
      code: 'not found',
    } as const;
    render(<Loaded query={query<string>({ error: new RefusedCall(problem) })}>{text => text}</Loaded>);
    expect(screen.getByRole('alert').textContent).toBe('There is no such thingIt does not exist.');
    cleanup();
    render(<Loaded query={query({ data: 'here' })}>{text => <b>{text}</b>}</Loaded>);
    expect(screen.getByText('here')).toBeTruthy();
  });

  test('a page names itself in the tab, and an empty one says what would be here', () => {
    render(
      <Page title="Planner">
        <Empty title="Nothing yet">What is planned stands here.</Empty>
      </Page>,
    );
    expect(document.title).toBe('Planner · North Pebble');
    expect(screen.getByText('What is planned stands here.')).toBeTruthy();
  });

  test('a fault that is none is no note; a note may be heard', () => {
    const { container } = render(<FailureNote fault={null} />);
    expect(container.textContent).toBe('');
    render(<Note tone="good" title="Sent" role="status" />);
    expect(screen.getByRole('status').textContent).toBe('Sent');
  });

  test.each([
    ['Ines Okoro', 'IO'],
    ['Åsa', 'Å'],
    ['Jean van der Berg', 'JB'],
    ['', ''],
  ])('the pebble of %p has the letters %p', (name, letters) => {
    const { container } = render(<PersonPebble name={name} />);
    expect(container.textContent).toBe(letters);
  });
});
