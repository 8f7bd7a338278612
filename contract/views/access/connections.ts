/** Connections: what is set up, how it goes, and what waits or failed. */
import { Instant } from '@north-pebble/core/time';
import { z } from 'zod';
import { byName } from '../values.ts';

export const EffectState = z.enum(['waiting', 'delivered', 'refused', 'given up', 'undone', 'unwanted']);
export type EffectState = z.infer<typeof EffectState>;

export const EffectRow = z.strictObject({
  id: z.number(),
  connection: z.string(),
  action: z.string(),
  request: z.string().nullable(),
  state: EffectState,
  attempts: z.number(),
  fault: z.string().nullable(),
  writtenAt: Instant,
});
export type EffectRow = z.infer<typeof EffectRow>;

export const ConnectionView = z.strictObject({
  name: z.string(),
  /** `mail` is the house’s own; it is set in the environment. */
  kind: z.string(),
  shown: byName(z.unknown()),
  paused: z.boolean(),
  /** Whether it can be asked: its settings are understood. */
  usable: z.boolean(),
  waiting: z.number(),
  /** To be taken back on a day that is ahead. */
  ahead: z.number(),
  /** Tried in vain and tried again. */
  failing: z.number(),
  refused: z.number(),
  delivered: z.number(),
  /** Why it did not work the last time, when something is failing. */
  fault: z.string().nullable(),
});
export type ConnectionView = z.infer<typeof ConnectionView>;

/** Something that a kind of connection wants to know. */
export const SettingField = z.strictObject({
  name: z.string(),
  kind: z.enum(['address', 'text', 'secret', 'yes', 'group rules']),
  label: z.string(),
  help: z.string().nullable(),
});
export type SettingField = z.infer<typeof SettingField>;

/** Names in a system, to pick from. */
export const NamedView = z.strictObject({
  names: z.array(z.string()),
  more: z.number(),
  /** Why there are none, when the system does not say. */
  fault: z.string().nullable(),
});
export type NamedView = z.infer<typeof NamedView>;

export const ConnectionKind = z.strictObject({ kind: z.string(), name: z.string(), fields: z.array(SettingField) });
export type ConnectionKind = z.infer<typeof ConnectionKind>;

export const ConnectionsView = z.strictObject({
  connections: z.array(ConnectionView),
  /** What may be set up. */
  kinds: z.array(ConnectionKind),
  /** Asked for by workflows under names that nobody has set up, with how much waits. */
  missing: z.array(z.strictObject({ name: z.string(), waiting: z.number() })),
  /** What did not go through, the newest first. */
  failed: z.array(EffectRow),
});
export type ConnectionsView = z.infer<typeof ConnectionsView>;

export const CheckedView = z.strictObject({ reached: z.boolean(), words: z.string() });
export type CheckedView = z.infer<typeof CheckedView>;
