import type { PersonId } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { QueryClient, queryOptions } from '@tanstack/react-query';
import { call, isPassing, RefusedCall } from './client.ts';
import { fetched } from './fetched.ts';
import { allPages } from './pages.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5000,
      // What the server refused stays refused; what could not be reached is tried again.
      retry: (count, fault) => count < 20 && fault instanceof RefusedCall && isPassing(fault.problem),
      retryDelay: 1500,
    },
  },
});

const seconds = (n: number): number => n * 1000;

export const sessionQuery = queryOptions({ queryKey: ['session'], queryFn: () => call('GET /session') });
export const deskQuery = queryOptions({
  queryKey: ['desk'],
  queryFn: () => call('GET /desk'),
  // Told live; looked at now and then for the case that the stream is not let through.
  refetchInterval: seconds(15),
});
/** Requests that were answered a moment ago and are not sent yet: they count nowhere as waiting. */
export const answeredQuery = queryOptions({
  queryKey: ['answered'],
  queryFn: (): readonly string[] => [],
  initialData: [] as readonly string[],
  staleTime: Number.POSITIVE_INFINITY,
});
export const requestsQuery = queryOptions({ queryKey: ['requests'], queryFn: () => call('GET /requests') });
export const requestQuery = (id: string) =>
  queryOptions({ queryKey: ['request', id], queryFn: () => call('GET /requests/:id', { params: { id } }) });
/** Where the guests of a request are; asked for anew with every change of the request. */
export const guestsQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['guests', id, version],
    queryFn: () => call('GET /requests/:id/guests', { params: { id } }),
    refetchInterval: seconds(10),
    placeholderData: before => before,
  });
/** What the person of a request holds. */
export const holdsQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['holds', id, version],
    queryFn: () => call('GET /requests/:id/holds', { params: { id } }),
    placeholderData: before => before,
  });
export const guestPreviewQuery = (id: string, step: string) =>
  queryOptions({
    queryKey: ['guest preview', id, step],
    queryFn: () => call('GET /requests/:id/guests/:step', { params: { id, step } }),
  });
export const reviewsQuery = queryOptions({
  queryKey: ['reviews'],
  queryFn: () => call('GET /reviews'),
  refetchInterval: seconds(15),
});
export const reviewQuery = (id: number) =>
  queryOptions({
    queryKey: ['reviews', id],
    queryFn: () => call('GET /reviews/:id', { params: { id } }),
    refetchInterval: seconds(5),
  });
export const papersQuery = (query: string) =>
  queryOptions({
    queryKey: ['papers', query],
    queryFn: () => call('GET /papers', { query }),
    placeholderData: before => before,
  });
/** What a directory holds against what it should; looked at often while it is compared or mended. */
export const differencesQuery = (name: string) =>
  queryOptions({
    queryKey: ['differences', name],
    queryFn: () => call('GET /connections/:name/differences', { params: { name } }),
    refetchInterval: ({ state: { data } }) =>
      data?.state === 'running' || data?.rows.some(row => row.mending === 'on its way') ? 1000 : seconds(30),
  });
/** What the demo's directory holds. */
export const directoryRoomQuery = (words: string) =>
  queryOptions({
    queryKey: ['directory room', words],
    queryFn: () => call('GET /mailroom/directory', { query: `words=${encodeURIComponent(words)}` }),
    refetchInterval: seconds(5),
  });
export const plansQuery = queryOptions({
  queryKey: ['plans'],
  queryFn: () => call('GET /plans'),
  refetchInterval: seconds(30),
});
/** What moving the date of a request would do. */
export const tryDateQuery = (id: string, to: string) =>
  queryOptions({
    queryKey: ['try date', id, to],
    queryFn: () => call('GET /requests/:id/date', { params: { id }, query: `to=${to}` }),
  });
export const askableQuery = queryOptions({ queryKey: ['askable'], queryFn: () => call('GET /askable') });
export const askQuery = (workflow: string) =>
  queryOptions({
    queryKey: ['ask', workflow],
    queryFn: () => call('GET /askable/:workflow', { params: { workflow } }),
    // The form must not change under the asker's hands.
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });
export const balanceQuery = (person: string) =>
  queryOptions({
    queryKey: ['balance', person],
    queryFn: () => call('GET /balances/:person', { params: { person } }),
  });
export const leaveRulesQuery = queryOptions({
  queryKey: ['leave', 'rules'],
  queryFn: () => call('GET /leave/rules'),
});
export const wishRoundsQuery = queryOptions({ queryKey: ['wishes', 'rounds'], queryFn: () => call('GET /wishes') });
export const wishesQuery = (id: number) =>
  queryOptions({ queryKey: ['wishes', id], queryFn: () => call('GET /wishes/:id', { params: { id } }) });
export const passesQuery = (person: string) =>
  queryOptions({
    queryKey: ['leave', 'passes', person],
    queryFn: () => call('GET /leave/passes/:person', { params: { person } }),
  });
export const yearEndQuery = (type: string | null, until: string | null) =>
  queryOptions({
    queryKey: ['leave', 'year-end', type, until],
    queryFn: () =>
      call('GET /leave/year-end', {
        query: new URLSearchParams({ ...(type ? { type } : {}), ...(until ? { until } : {}) }).toString(),
      }),
  });
export const payQuery = queryOptions({ queryKey: ['leave', 'pay'], queryFn: () => call('GET /leave/pay') });
export const standingsQuery = (type: string | null) =>
  queryOptions({
    queryKey: ['leave', 'balances', type],
    queryFn: () => call('GET /leave/balances', { query: type ? `type=${encodeURIComponent(type)}` : '' }),
  });
export const leavingQuery = (person: string, on: string) =>
  queryOptions({
    queryKey: ['leave', 'leaving', person, on],
    queryFn: () => call('GET /leave/leaving/:person', { params: { person }, query: `on=${on}` }),
  });
export const joiningQuery = (plan: string, joined: string, share: string) =>
  queryOptions({
    queryKey: ['leave', 'joining', plan, joined, share],
    queryFn: () =>
      call('GET /leave/joining', { query: `plan=${encodeURIComponent(plan)}&joined=${joined}&share=${share}` }),
  });
export const feedsQuery = queryOptions({ queryKey: ['feeds'], queryFn: () => call('GET /feeds') });
/** @param look whose days, from and to, as they stand in the address of the API */
export const plannerQuery = (look: string) =>
  queryOptions({ queryKey: ['planner', look], queryFn: () => call('GET /planner', { query: look }) });
export const plannerRowsQuery = (look: string, more: string) =>
  queryOptions({
    queryKey: ['planner', look, 'rows', more],
    queryFn: () => call('GET /planner/rows', { query: `${look}&${more}` }),
  });
export const plannerAwayQuery = (look: string) =>
  queryOptions({ queryKey: ['planner', look, 'away'], queryFn: () => call('GET /planner/away', { query: look }) });
export const shelfQuery = queryOptions({
  queryKey: ['workflows'],
  queryFn: () => call('GET /workflows'),
  // Findings that are being worked out are there in a moment.
  refetchInterval: ({ state }) => (state.data?.some(row => row.checking) ? 2000 : false),
});
export const sheetQuery = (id: string) =>
  queryOptions({ queryKey: ['sheet', id], queryFn: () => call('GET /workflows/:id', { params: { id } }) });
/** Looked for every few seconds, so that whoever has a sheet open twice learns in time. */
export const draftMarkQuery = (id: string) =>
  queryOptions({
    queryKey: ['draft mark', id],
    queryFn: () => call('GET /workflows/:id/draft/mark', { params: { id } }),
    refetchInterval: seconds(4),
    refetchOnWindowFocus: 'always',
  });
export const directoryQuery = queryOptions({
  queryKey: ['directory'],
  queryFn: async () => {
    // Only whoever designs needs it.
    const { indexDirectory } = await fetched(() => import('@north-pebble/core/people'));
    const {
      next: _,
      version: _of,
      ...directory
    } = await allPages(
      row => call('GET /directory', { query: { row } }),
      (a, b) => ({
        ...a,
        people: [...a.people, ...b.people],
        posts: [...a.posts, ...b.posts],
        holdings: [...a.holdings, ...b.holdings],
      }),
    );
    return indexDirectory(directory);
  },
  staleTime: seconds(300),
});
/** How long the steps of a workflow took so far. */
export const tookQuery = (id: string) =>
  queryOptions({
    queryKey: ['took', id],
    queryFn: () => call('GET /workflows/:id/took', { params: { id } }),
    staleTime: seconds(600),
  });
export const surroundingsQuery = queryOptions({
  queryKey: ['surroundings'],
  queryFn: () => call('GET /surroundings'),
  staleTime: seconds(60),
});
export const personFactsQuery = (person: string) =>
  queryOptions({
    queryKey: ['rehearsal', person],
    queryFn: () => call('GET /rehearsal/:person', { params: { person } }),
    staleTime: seconds(300),
  });
export const versionQuery = (workflow: string, version: number) =>
  queryOptions({
    queryKey: ['version', workflow, version],
    queryFn: () => call('GET /workflows/:id/versions/:version', { params: { id: workflow, version } }),
    staleTime: Number.POSITIVE_INFINITY,
  });
export const movableQuery = (workflow: string) =>
  queryOptions({
    queryKey: ['moving', workflow],
    queryFn: () => call('GET /workflows/:id/moving', { params: { id: workflow } }),
  });
export const peopleQuery = (words: string) =>
  queryOptions({
    queryKey: ['people', words],
    queryFn: () => call('GET /people', { query: { words } }),
    staleTime: seconds(60),
  });
export const setsQuery = queryOptions({ queryKey: ['sets'], queryFn: () => call('GET /sets') });
export const comingQuery = queryOptions({
  queryKey: ['coming'],
  queryFn: () => call('GET /requests/coming'),
});
export const stuckQuery = queryOptions({
  queryKey: ['stuck'],
  queryFn: () => call('GET /requests/stuck'),
  refetchInterval: seconds(30),
});
export const sessionsQuery = queryOptions({
  queryKey: ['sessions'],
  queryFn: () => call('GET /sessions'),
});
export const factorQuery = queryOptions({ queryKey: ['factor'], queryFn: () => call('GET /factor') });
export const requiredFactorQuery = queryOptions({
  queryKey: ['factor', 'required'],
  queryFn: () => call('GET /factor/required'),
});
export const colleaguesQuery = queryOptions({
  queryKey: ['accounts', 'colleagues'],
  queryFn: () => call('GET /colleagues'),
});
export const houseBeginsQuery = queryOptions({
  queryKey: ['moving', 'begins'],
  queryFn: () => call('GET /moving/begins'),
});
export const exportsQuery = queryOptions({
  queryKey: ['accounts', 'exports'],
  queryFn: () => call('GET /exports'),
});
export const accountsQuery = queryOptions({
  queryKey: ['accounts'],
  queryFn: () => call('GET /accounts'),
});
export const incomingQuery = queryOptions({
  queryKey: ['incoming-directory'],
  queryFn: () => call('GET /incoming-directory'),
});
export const missingAccountsQuery = queryOptions({
  queryKey: ['accounts', 'missing'],
  queryFn: () => call('GET /accounts/missing'),
});
export const connectionsQuery = queryOptions({
  queryKey: ['connections'],
  queryFn: () => call('GET /connections'),
  refetchInterval: seconds(10),
});
/** Names of what a system has, with these letters in them. */
export const namedQuery = (connection: string, what: 'groups' | 'spaces', typed: string) =>
  queryOptions({
    queryKey: ['named', connection, what, typed],
    queryFn: () => call('GET /connections/:name/named', { params: { name: connection }, query: { what, typed } }),
    staleTime: seconds(60),
  });
export const recordsQuery = (find: Readonly<Record<string, string>>) =>
  queryOptions({
    queryKey: ['records', 'found', find],
    queryFn: ({ signal }) =>
      call('GET /records', {
        query: find as never,
        signal,
      }),
  });
export const recordChoicesQuery = queryOptions({
  queryKey: ['records', 'choices'],
  queryFn: () => call('GET /records/choices'),
});
export const postsQuery = queryOptions({
  queryKey: ['records', 'posts'],
  queryFn: () =>
    allPages(
      row => call('GET /posts', { query: { row } }),
      (a, b) => ({ ...a, rows: [...a.rows, ...b.rows] }),
    ),
});
export const rolesQuery = queryOptions({ queryKey: ['records', 'roles'], queryFn: () => call('GET /roles') });
export const measuresQuery = queryOptions({ queryKey: ['records', 'measures'], queryFn: () => call('GET /measures') });
export const listsQuery = queryOptions({ queryKey: ['records', 'lists'], queryFn: () => call('GET /lists') });
export const changesQuery = queryOptions({
  queryKey: ['records', 'changes'],
  queryFn: () => call('GET /records/changes'),
});
export const movesQuery = queryOptions({ queryKey: ['records', 'moves'], queryFn: () => call('GET /moves') });
export const handOverQuery = (person: string) =>
  queryOptions({
    queryKey: ['records', person, 'hand-over'],
    queryFn: () => call('GET /records/:person/hand-over', { params: { person: person as PersonId } }),
  });
export const decidesChoicesQuery = queryOptions({
  queryKey: ['records', 'decides'],
  queryFn: () => call('GET /decides/choices'),
});
export const decidesQuery = (person: string, workflow: string, day: string) =>
  queryOptions({
    queryKey: ['records', 'decides', person, workflow, day],
    queryFn: () =>
      call('GET /decides', {
        query: { person: person as PersonId, workflow, ...(day ? { day: day as CivilDate } : {}) },
      }),
    enabled: person !== '' && workflow !== '',
  });
export const readyHolidaysQuery = (country: string, region: string) =>
  queryOptions({
    queryKey: ['ready-holidays', country, region],
    queryFn: () =>
      call('GET /ready-holidays', { query: { ...(country ? { country } : {}), ...(region ? { region } : {}) } }),
    staleTime: Number.POSITIVE_INFINITY,
  });
export const linesQuery = (day: string) =>
  queryOptions({
    queryKey: ['records', 'lines', day],
    queryFn: () =>
      allPages(
        row => call('GET /lines', { query: { row, ...(day ? { day: day as CivilDate } : {}) } }),
        (a, b) => ({ ...a, posts: [...a.posts, ...b.posts] }),
      ),
  });
export const personQuery = (person: string) =>
  queryOptions({
    queryKey: ['records', person],
    queryFn: () => call('GET /records/:person', { params: { person } }),
  });
export const mailChoiceQuery = queryOptions({
  queryKey: ['mail-choice'],
  queryFn: () => call('GET /mail-choice'),
});
export const coversQuery = (person: string) =>
  queryOptions({
    queryKey: ['covers', person],
    queryFn: () => call('GET /covers', { query: { person } }),
  });
export const mailroomQuery = queryOptions({
  queryKey: ['mailroom'],
  queryFn: () => call('GET /mailroom'),
  refetchInterval: seconds(3),
});
