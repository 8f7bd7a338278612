/** A page in a test: somebody signed in, an address, and a server that answers what it is told to. */
import type { DeskItem, RequestView, TaskView } from '@north-pebble/contract';
import type { Instant } from '@north-pebble/core/time';
import { newRequest } from '@north-pebble/core/workflow';
import { QueryClientProvider } from '@tanstack/react-query';
import { render, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter, useLocation } from 'react-router';
import { annualLeave, halves, person } from '../../../core/testing/house.ts';
import { queryClient } from '../api/queries.ts';
import { type Here, HereProvider } from '../parts/frame/session.ts';
import { forgetUnsent } from '../parts/request/unsent.ts';

export const now = '2026-02-02T10:00:00Z' as Instant;

export const here = (id: string, rights: Here['self']['rights'] = []): Here => ({
  self: {
    id: person(id),
    name: 'Tom Lund',
    zone: 'Europe/Lisbon',
    rights,
    withheld: [],
    seenBy: null,
    keepsLists: false,
    hasReports: true,
    looksAfterSome: false,
  },
  now,
  demo: true,
});

export type Sent = { method: string; path: string; query: URLSearchParams; body: Record<string, unknown> | null };
/** Answers by `GET /desk`; a function is given what was sent, and may throw a `Problem`. */
export type Routes = Record<string, unknown | ((sent: Sent) => unknown)>;

export class Refusal {
  constructor(
    readonly detail: string,
    readonly faults: { field: string; message: string }[] = [],
    readonly status = 400,
  ) {}
}

const realFetch = globalThis.fetch;

/** Everything that is asked of the server, in its order. */
export function serve(routes: Routes): Sent[] {
  const seen: Sent[] = [];
  globalThis.fetch = (async (address: string, options: { method?: string; body?: string | Blob } = {}) => {
    const url = new URL(address, 'http://house');
    const sent: Sent = {
      method: options.method ?? 'GET',
      path: url.pathname.replace(/^\/api/, ''),
      query: url.searchParams,
      body: typeof options.body === 'string' ? (JSON.parse(options.body) as Record<string, unknown>) : null,
    };
    seen.push(sent);
    const route = routes[`${sent.method} ${sent.path}`];
    let answer: unknown = route === undefined ? new Refusal('There is no such thing here.', [], 404) : route;
    if (typeof route === 'function') answer = await (route as (sent: Sent) => unknown)(sent);
    const refused = answer instanceof Refusal ? answer : null;
    const body = refused
      ? {
          type: 'about:blank',
          title: 'No',
          code: 'bad input',
          detail: refused.detail,
          status: refused.status,
          faults: refused.faults,
        }
      : answer;
    return {
      ok: !refused,
      status: refused?.status ?? 200,
      headers: new Map([['Content-Type', refused ? 'application/problem+json' : 'application/json']]),
      json: async () => body,
    };
  }) as never;
  return seen;
}

export function unserve(): void {
  globalThis.fetch = realFetch;
  queryClient.clear();
  forgetUnsent();
}

function Address() {
  const { pathname, search } = useLocation();
  return <output aria-label="Address">{pathname + search}</output>;
}

export const open = (node: ReactNode, { at = '/', as = here('tom') }: { at?: string; as?: Here } = {}) =>
  render(
    <QueryClientProvider client={queryClient}>
      <MemoryRouter initialEntries={[at]}>
        <HereProvider value={as}>
          {node}
          <Address />
        </HereProvider>
      </MemoryRouter>
    </QueryClientProvider>,
  );

/** Where the page stands. */
export const address = () => screen.getByLabelText('Address').textContent;

/** The commands among what was sent, without their ids. */
export const commandsOf = (seen: readonly Sent[]): unknown[] =>
  seen.filter(s => s.path.endsWith('/commands')).map(s => s.body?.command);

export const task = (change: Partial<TaskView> = {}): TaskView => ({
  id: 'R-1.1',
  step: 'manager',
  holder: person('tom'),
  coverFor: null,
  reasons: ['line manager of Ina Okell'],
  given: now,
  due: '2026-02-04T17:00:00Z' as Instant,
  dueReason: '2 working days',
  ...change,
  holderName: 'Tom Lund',
});

const mayNothing: RequestView['may'] = {
  answer: null,
  spent: [],
  work: null,
  handIn: [],
  rework: false,
  withdraw: false,
  changeOwner: false,
  tryAgain: false,
  pass: null,
  reply: null,
  bringBack: null,
  change: false,
  cancel: false,
  moveDate: false,
  correct: false,
  keepLeave: false,
  decidePast: false,
  appoint: null,
  helpOutside: false,
  comment: false,
};

/** Ina’s leave, waiting for Tom, as somebody sees it who may do what is said. */
export const requestFor = (
  may: Partial<RequestView['may']> = {},
  change: Partial<Omit<RequestView, 'may'>> = {},
): RequestView => {
  const { changes, at, visited, closing } = newRequest('R-1');
  return {
    id: 'R-1',
    title: 'Annual leave, Mon 9 to Fri 13 February',
    workflow: 'annual',
    workflowName: 'Annual leave',
    asker: person('ina'),
    askerName: 'Ina Okell',
    owner: person('ina'),
    ownerName: 'Ina Okell',
    subject: person('ina'),
    subjectName: 'Ina Okell',
    status: 'open',
    standing: 'waits for Tom Lund',
    askedAt: now,
    closedAt: null,
    definition: annualLeave,
    version: 8,
    workflowVersion: 1,
    restated: [],
    against: [],
    answers: { kind: 'annual', dates: halves('2026-02-09', '2026-02-13') },
    figures: { days: 4.5, after: 20, others: 0 },
    at,
    lists: [],
    people: [],
    closed: [],
    ahead: null,
    usually: null,
    plan: null,
    planMissing: null,
    visited,
    tasks: [task()],
    changes,
    outside: [],
    afterwards: null,
    returned: null,
    stuck: null,
    stuckAt: [],
    closing,
    trail: [],
    unsent: {},
    leave: null,
    leaveTypes: [
      { id: 'annual', name: 'Annual leave', hasBalance: true },
      { id: 'sick', name: 'Sick leave', hasBalance: false },
    ],
    team: null,
    may: { ...mayNothing, ...may },
    ...change,
  };
};

export const deskItem = (change: Partial<DeskItem> = {}): DeskItem => ({
  request: 'R-1',
  kind: 'decide',
  workflow: 'annual',
  workflowName: 'Annual leave',
  again: false,
  afterwards: null,
  asker: person('ina'),
  askerName: 'Ina Okell',
  concernedName: null,
  what: '4½ days of annual leave',
  facts: ['Mon 9 to Fri 13 February'],
  coverFor: null,
  coveredBy: null,
  aside: null,
  question: null,
  role: null,
  due: '2026-02-04T17:00:00Z' as Instant,
  batch: {
    seen: 8,
    task: `${change.request ?? 'R-1'}.1`,
    step: 'annual/1/manager',
    outcomes: [
      { id: 'approve', label: 'Approve', tone: 'good', note: 'none' },
      { id: 'decline', label: 'Decline', tone: 'bad', note: 'must' },
    ],
  },
  ...change,
});
