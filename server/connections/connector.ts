/**
 * A connector is one module: what it needs to know, what it can do, how it is asked and how what it did is taken back. It
 * reads and writes nothing here; whoever asks it stores what it answers.
 */
import type { z } from 'zod';

/** What is asked for. The key is the same however often it is tried, so that the other side can tell a repeat. */
export type Asked = {
  readonly key: string;
  readonly action: string;
  readonly request: string | null;
  readonly step: string | null;
  readonly values: Readonly<Record<string, unknown>>;
  /** When it was asked for, in the house's time. */
  readonly at: string;
};

export type Answered =
  | { state: 'delivered'; result: Readonly<Record<string, unknown>> }
  | { state: 'refused'; reason: string }
  /** To be tried again: not before so many milliseconds, when the other side says so. */
  | { state: 'later'; reason: string; after?: number; away?: true };

export type Connector<Settings> = {
  /** What an administrator sets, checked; secrets are never sent to a browser. */
  readonly settings: z.ZodType<Settings>;
  /** Which of the settings are secret. */
  readonly secret: readonly (keyof Settings & string)[];
  /** What it can be asked to do: the designer chooses from these. */
  readonly actions: readonly string[];
  readonly deliver: (settings: Settings, asked: Asked) => Promise<Answered>;
  /** Takes back what was delivered with this result. */
  readonly undo: (settings: Settings, asked: Asked, result: Readonly<Record<string, unknown>>) => Promise<Answered>;
  /** Whether the other side can be reached; nothing when it can, else why not. */
  readonly check: (settings: Settings) => Promise<string | null>;
};
