/** Calls to the server. A refusal becomes a `RefusedCall` with the problem that the server described. */
import type { Problem } from '@north-pebble/contract';

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

type Listener = (away: boolean) => void;
const listeners = new Set<Listener>();

/** Told whenever calls begin to fail because the house is away, and when they work again. */
export function onAway(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

const tell = (away: boolean): void => {
  for (const listener of listeners) listener(away);
};

/** A `Blob` is sent as it is, anything else as JSON. */
type Options = { method?: 'POST' | 'PUT' | 'DELETE'; body?: unknown; keepalive?: boolean; signal?: AbortSignal };

/** @param path below `/api` */
export async function call<T>(path: string, options: Options = {}): Promise<T> {
  const { body } = options;
  const isFile = body instanceof Blob;
  const type = isFile ? 'application/octet-stream' : 'application/json';
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method: options.method ?? 'GET',
      headers: { 'X-North-Pebble': '1', ...(body === undefined ? {} : { 'Content-Type': type }) },
      ...(body === undefined ? {} : { body: isFile ? body : JSON.stringify(body) }),
      ...(options.signal ? { signal: options.signal } : {}),
      keepalive: options.keepalive ?? false,
    });
  } catch (fault) {
    if (fault instanceof DOMException && fault.name === 'AbortError') throw fault;
    tell(true);
    throw new RefusedCall(unreachable);
  }
  if (response.ok) {
    tell(false);
    return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
  }
  const problem = response.headers.get('Content-Type')?.includes('problem+json')
    ? ((await response.json()) as Problem)
    : { ...unreachable, status: response.status };
  if (problem.code === 'database away') tell(true);
  throw new RefusedCall(problem);
}

/** The problem behind any failure, in words that can be shown. */
export const problemOf = (fault: unknown): Problem | null =>
  fault instanceof RefusedCall ? fault.problem : fault ? { ...unreachable, detail: String(fault) } : null;

/** An id for a command: the same for every repeat of it. */
export const commandId = (): string => crypto.randomUUID();
