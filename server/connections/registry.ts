/** The kinds of connections; a new kind is a module and a line here. */
import type { ConnectionKind } from '@north-pebble/contract';
import type { GroupRule } from '@north-pebble/core/access';
import type { Offers } from '@north-pebble/core/workflow';
import type { Answered, Asked, Connector, HoldsOrNot, HoldsReading, NamedThere, NamesOrNot } from './connector.ts';
import { directoryConnector } from './directory/index.ts';
import { httpConnector } from './http.ts';

const connectors: Readonly<Record<string, AnyConnector>> = { directory: directoryConnector, http: httpConnector };

/** A connector whose own settings are read by it alone. */
// biome-ignore lint/suspicious/noExplicitAny: each reads its settings by its own schema before it is asked for anything
type AnyConnector = Connector<any>;

/** What an administrator may set up, and what each kind wants to know. */
export const connectionKinds: ConnectionKind[] = Object.entries(connectors).map(([kind, { name, fields }]) => ({
  kind,
  name,
  fields: [...fields],
}));

/** A connector with settings that were read by it: what callers need to know of it. */
export type Opened = {
  offers: Offers;
  deliver: (asked: Asked) => Promise<Answered>;
  undo: (asked: Asked, result: Readonly<Record<string, unknown>>) => Promise<Answered>;
  check: () => Promise<string | null>;
  /** Nothing where it cannot say what it holds. */
  holds: ((reading: HoldsReading) => Promise<HoldsOrNot>) | null;
  /** Nothing where it has nothing that is picked by name. */
  named: ((what: NamedThere, typed: string) => Promise<NamesOrNot>) | null;
  /** Groups that go with a post, a place or a department. */
  groupRules: readonly GroupRule[];
  /** Nothing where it has no passwords. */
  setPassword: ((account: string, password: string) => Promise<string | null>) | null;
  /** The settings as they may be shown: secrets only as being there. */
  shown: Readonly<Record<string, unknown>>;
};

const secretsOf = (connector: AnyConnector): string[] =>
  connector.fields.filter(field => field.kind === 'secret').map(field => field.name);

/** The settings of a kind that are secrets. */
export const secretNames = (kind: string): string[] =>
  Object.hasOwn(connectors, kind) ? secretsOf(connectors[kind]) : [];

function opened(connector: AnyConnector, settings: object): Opened {
  const secrets = secretsOf(connector);
  return {
    offers: connector.offers,
    deliver: asked => connector.deliver(settings, asked),
    undo: (asked, result) => connector.undo(settings, asked, result),
    check: () => connector.check(settings),
    holds: connector.holds
      ? reading => (connector.holds as NonNullable<typeof connector.holds>)(settings, reading)
      : null,
    named: connector.named
      ? (what, typed) => (connector.named as NonNullable<typeof connector.named>)(settings, what, typed)
      : null,
    groupRules: connector.groupRules?.(settings) ?? [],
    setPassword: connector.setPassword
      ? (account, password) =>
          (connector.setPassword as NonNullable<typeof connector.setPassword>)(settings, account, password)
      : null,
    shown: Object.fromEntries(Object.entries(settings).filter(([name]) => !secrets.includes(name))),
  };
}

export type OpenedOrNot =
  | { ok: true; connection: Opened; settings: unknown }
  | { ok: false; faults: { field: string; message: string }[] };

/** @param kept settings as they stand, whose secrets are kept where none are given anew */
export function openConnection(kind: string, settings: unknown, kept: unknown = {}): OpenedOrNot {
  const connector = Object.hasOwn(connectors, kind) ? connectors[kind] : undefined;
  if (!connector) return { ok: false, faults: [{ field: 'kind', message: 'There is no such kind of connection.' }] };
  const before = (kept ?? {}) as Record<string, unknown>;
  const secrets = Object.fromEntries(secretsOf(connector).map(name => [name, before[name]]));
  const given = Object.fromEntries(
    Object.entries((settings ?? {}) as object).filter(([name, value]) => !(name in secrets) || value !== ''),
  );
  const read = connector.settings.safeParse({ ...secrets, ...given });
  if (read.success) return { ok: true, connection: opened(connector, read.data), settings: read.data };
  return {
    ok: false,
    faults: read.error.issues.map(issue => ({
      field: issue.path.length === 0 ? 'settings' : issue.path.join('.'),
      message: issue.message,
    })),
  };
}
