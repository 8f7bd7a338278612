/** What the places ask of the server, with the keys under which answers are kept. */
import type {
  AccountRow,
  AskableRow,
  AskView,
  BalanceView,
  ComingView,
  ConnectionsView,
  CoversView,
  DeskView,
  DraftMark,
  FoundPeople,
  MailChoiceView,
  MailroomView,
  Movable,
  PlannerView,
  RehearsalView,
  RequestRow,
  RequestView,
  SavedSet,
  SessionRow,
  SessionView,
  SheetView,
  ShelfRow,
  StuckRow,
  SurroundingsView,
} from '@north-pebble/contract';
import { type Directory, indexDirectory } from '@north-pebble/core/people';
import type { Definition } from '@north-pebble/core/workflow';
import { QueryClient, queryOptions } from '@tanstack/react-query';
import { call, RefusedCall } from './client.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5000,
      // What the server refused stays refused; what could not be reached is tried again.
      retry: (count, fault) => count < 20 && fault instanceof RefusedCall && fault.problem.code === 'database away',
      retryDelay: 1500,
    },
  },
});

const seconds = (n: number): number => n * 1000;

export const sessionQuery = queryOptions({ queryKey: ['session'], queryFn: () => call<SessionView>('/session') });
export const deskQuery = queryOptions({
  queryKey: ['desk'],
  queryFn: () => call<DeskView>('/desk'),
  // Told live; looked at now and then for the case that the stream is not let through.
  refetchInterval: seconds(15),
});
export const requestsQuery = queryOptions({ queryKey: ['requests'], queryFn: () => call<RequestRow[]>('/requests') });
export const requestQuery = (id: string) =>
  queryOptions({ queryKey: ['request', id], queryFn: () => call<RequestView>(`/requests/${encodeURIComponent(id)}`) });
export const askableQuery = queryOptions({ queryKey: ['askable'], queryFn: () => call<AskableRow[]>('/askable') });
export const askQuery = (workflow: string) =>
  queryOptions({
    queryKey: ['ask', workflow],
    queryFn: () => call<AskView>(`/askable/${encodeURIComponent(workflow)}`),
    // The form must not change under the asker's hands.
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });
export const balanceQuery = (person: string) =>
  queryOptions({
    queryKey: ['balance', person],
    queryFn: () => call<BalanceView>(`/balances/${encodeURIComponent(person)}`),
  });
/** @param group a place or department as `place=ovay`, or one's own teams */
export const plannerQuery = (from: string, to: string, group = '') =>
  queryOptions({
    queryKey: ['planner', from, to, group],
    queryFn: () => call<PlannerView>(`/planner?from=${from}&to=${to}${group && `&${group}`}`),
  });
export const shelfQuery = queryOptions({
  queryKey: ['workflows'],
  queryFn: () => call<ShelfRow[]>('/workflows'),
  // Findings that are being worked out are there in a moment.
  refetchInterval: ({ state }) => (state.data?.some(row => row.checking) ? 2000 : false),
});
export const sheetQuery = (id: string) =>
  queryOptions({ queryKey: ['sheet', id], queryFn: () => call<SheetView>(`/workflows/${encodeURIComponent(id)}`) });
/** Looked for every few seconds, so that whoever has a sheet open twice learns in time. */
export const draftMarkQuery = (id: string) =>
  queryOptions({
    queryKey: ['draft mark', id],
    queryFn: () => call<DraftMark>(`/workflows/${encodeURIComponent(id)}/draft/mark`),
    refetchInterval: seconds(4),
    refetchOnWindowFocus: 'always',
  });
export const directoryQuery = queryOptions({
  queryKey: ['directory'],
  queryFn: async () => indexDirectory(await call<Directory>('/directory')),
  staleTime: seconds(300),
});
export const surroundingsQuery = queryOptions({
  queryKey: ['surroundings'],
  queryFn: () => call<SurroundingsView>('/surroundings'),
  staleTime: seconds(60),
});
export const personFactsQuery = (person: string) =>
  queryOptions({
    queryKey: ['rehearsal', person],
    queryFn: () => call<RehearsalView>(`/rehearsal/${encodeURIComponent(person)}`),
    staleTime: seconds(300),
  });
export const versionQuery = (workflow: string, version: number) =>
  queryOptions({
    queryKey: ['version', workflow, version],
    queryFn: () => call<Definition>(`/workflows/${encodeURIComponent(workflow)}/versions/${version}`),
    staleTime: Number.POSITIVE_INFINITY,
  });
export const movableQuery = (workflow: string) =>
  queryOptions({
    queryKey: ['moving', workflow],
    queryFn: () => call<Movable[]>(`/workflows/${encodeURIComponent(workflow)}/moving`),
  });
export const peopleQuery = (words: string) =>
  queryOptions({
    queryKey: ['people', words],
    queryFn: () => call<FoundPeople>(`/people?words=${encodeURIComponent(words)}`),
    staleTime: seconds(60),
  });
export const setsQuery = queryOptions({ queryKey: ['sets'], queryFn: () => call<SavedSet[]>('/sets') });
export const comingQuery = queryOptions({
  queryKey: ['coming'],
  queryFn: () => call<ComingView>('/requests/coming'),
});
export const stuckQuery = queryOptions({
  queryKey: ['stuck'],
  queryFn: () => call<StuckRow[]>('/requests/stuck'),
  refetchInterval: seconds(30),
});
export const sessionsQuery = queryOptions({
  queryKey: ['sessions'],
  queryFn: () => call<SessionRow[]>('/sessions'),
});
export const accountsQuery = queryOptions({
  queryKey: ['accounts'],
  queryFn: () => call<AccountRow[]>('/accounts'),
});
export const connectionsQuery = queryOptions({
  queryKey: ['connections'],
  queryFn: () => call<ConnectionsView>('/connections'),
  refetchInterval: seconds(10),
});
export const mailChoiceQuery = queryOptions({
  queryKey: ['mail-choice'],
  queryFn: () => call<MailChoiceView>('/mail-choice'),
});
export const coversQuery = (person: string) =>
  queryOptions({
    queryKey: ['covers', person],
    queryFn: () => call<CoversView>(`/covers?person=${encodeURIComponent(person)}`),
  });
export const mailroomQuery = queryOptions({
  queryKey: ['mailroom'],
  queryFn: () => call<MailroomView>('/mailroom'),
  refetchInterval: seconds(3),
});
