/** The kinds of connections; a new kind is a module and a line here. */
import type { Answered, Asked, Connector } from './connector.ts';
import { httpConnector } from './http.ts';

const connectors = { http: httpConnector } as const;
export type ConnectionKind = keyof typeof connectors;
export const connectionKinds = Object.keys(connectors) as ConnectionKind[];

/** A connector with settings that were read by it: what callers need to know of it. */
export type Opened = {
  actions: readonly string[];
  deliver: (asked: Asked) => Promise<Answered>;
  undo: (asked: Asked, result: Readonly<Record<string, unknown>>) => Promise<Answered>;
  check: () => Promise<string | null>;
  /** The settings as they may be shown: secrets only as being there. */
  shown: Readonly<Record<string, unknown>>;
};

function opened<Settings extends object>(connector: Connector<Settings>, settings: Settings): Opened {
  return {
    actions: connector.actions,
    deliver: asked => connector.deliver(settings, asked),
    undo: (asked, result) => connector.undo(settings, asked, result),
    check: () => connector.check(settings),
    shown: Object.fromEntries(
      Object.entries(settings).filter(([name]) => !(connector.secret as readonly string[]).includes(name)),
    ),
  };
}

export type OpenedOrNot =
  | { ok: true; connection: Opened; settings: unknown }
  | { ok: false; faults: { field: string; message: string }[] };

/** @param kept settings as they stand, whose secrets are kept where none are given anew */
export function openConnection(kind: ConnectionKind, settings: unknown, kept: unknown = {}): OpenedOrNot {
  const connector = connectors[kind] as unknown as Connector<object>;
  const before = (kept ?? {}) as Record<string, unknown>;
  const secrets = Object.fromEntries(connector.secret.map(name => [name, before[name]]));
  const given = Object.fromEntries(
    Object.entries((settings ?? {}) as object).filter(([name, value]) => !(name in secrets) || value !== ''),
  );
  const read = connector.settings.safeParse({ ...secrets, ...given });
  if (read.success) return { ok: true, connection: opened(connector, read.data), settings: read.data };
  return {
    ok: false,
    faults: read.error.issues.map(issue => ({ field: String(issue.path[0] ?? 'settings'), message: issue.message })),
  };
}

export const isConnectionKind = (kind: string): kind is ConnectionKind => kind in connectors;
