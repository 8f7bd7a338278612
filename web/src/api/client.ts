/** Calls to the server. A refusal becomes a `RefusedCall` with the problem that the server described. */
import type { Problem } from '@north-pebble/contract';
import type { AnswerOf, CallOf, Name } from '@north-pebble/contract/routes';

export class RefusedCall extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

const unreachable: Problem = {
  type: 'about:blank',
  title: 'North Pebble cannot be reached',
  status: 0,
  detail: 'North Pebble cannot be reached right now. What you typed is kept.',
  code: 'database away',
};

const offline: Problem = {
  ...unreachable,
  title: 'You are offline',
  detail: 'You are offline. What you typed is kept, and is sent when you are back.',
};

/** Why nothing comes back: no connection here, nothing that answers there, or an answer that its database is away. */
export type Away = 'offline' | 'unreachable' | 'database';
/** What passes by itself, so that what was asked for is asked for again. */
export const isPassing = (problem: Problem | null): boolean =>
  problem?.code === 'database away' || problem?.code === 'busy';

type Listener = (away: Away | null) => void;
const listeners = new Set<Listener>();

/** Told whenever calls begin to fail because the house is away, and when they work again. */
export function onAway(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

const tell = (away: Away | null): void => {
  for (const listener of listeners) listener(away);
};

type Beside = { keepalive?: boolean; signal?: AbortSignal };
type Sent = {
  params?: Readonly<Record<string, string | number>>;
  query?: Readonly<Record<string, string | number | undefined>> | string;
  body?: unknown;
} & Beside;

function addressOf(path: string, { params = {}, query }: Sent): string {
  const filled = path.replace(/:(\w+)/g, (_, part: string) => encodeURIComponent(params[part]));
  if (query === undefined) return filled;
  const asked =
    typeof query === 'string'
      ? query
      : new URLSearchParams(
          Object.entries(query).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]])),
        ).toString();
  return asked === '' ? filled : `${filled}?${asked}`;
}

/**
 * Calls a route of the contract.
 * @param name as `PUT /workflows/:id/draft`
 * @param sent parts of its path, its query and its body; a `Blob` is sent as it is, anything else as JSON
 */
export async function call<N extends Name>(
  name: N,
  ...[given]: Record<never, never> extends CallOf<N> ? [sent?: CallOf<N> & Beside] : [sent: CallOf<N> & Beside]
): Promise<AnswerOf<N>> {
  const response = await answerOf(name, (given ?? {}) as Sent);
  return (response.status === 204 ? undefined : await response.json()) as AnswerOf<N>;
}

/** The same for what answers with a file. */
export const callForFile = async <N extends Name>(name: N, sent: CallOf<N> & Beside): Promise<Blob> =>
  (await answerOf(name, sent as Sent)).blob();

async function answerOf(name: string, sent: Sent): Promise<Response> {
  const { body } = sent;
  const [method, path] = name.split(' ');
  const isFile = body instanceof Blob;
  const type = isFile ? 'application/octet-stream' : 'application/json';
  let response: Response;
  try {
    response = await fetch(`/api${addressOf(path, sent)}`, {
      method,
      headers: { 'X-North-Pebble': '1', ...(body === undefined ? {} : { 'Content-Type': type }) },
      ...(body === undefined ? {} : { body: isFile ? body : JSON.stringify(body) }),
      ...(sent.signal ? { signal: sent.signal } : {}),
      keepalive: sent.keepalive ?? false,
    });
  } catch (fault) {
    if (fault instanceof DOMException && fault.name === 'AbortError') throw fault;
    const isOffline = !navigator.onLine;
    tell(isOffline ? 'offline' : 'unreachable');
    throw new RefusedCall(isOffline ? offline : unreachable);
  }
  if (response.ok) {
    tell(null);
    return response;
  }
  const problem = response.headers.get('Content-Type')?.includes('problem+json')
    ? ((await response.json()) as Problem)
    : { ...unreachable, status: response.status };
  if (problem.code === 'database away') tell('database');
  throw new RefusedCall(problem);
}

/** The problem behind any failure, in words that can be shown. */
export const problemOf = (fault: unknown): Problem | null =>
  fault instanceof RefusedCall ? fault.problem : fault ? { ...unreachable, detail: String(fault) } : null;

/** An id for a command: the same for every repeat of it. */
export const commandId = (): string => crypto.randomUUID();
