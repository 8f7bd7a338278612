/**
 * A connector is one module: what it needs to know, what it can do, how it is asked and how what it did is taken back. It
 * reads and writes nothing here; whoever asks it stores what it answers.
 */
import type { SettingField } from '@north-pebble/contract';
import type { GroupRule, Holds } from '@north-pebble/core/access';
import type { Offers } from '@north-pebble/core/workflow';
import type { z } from 'zod';

/** What is asked for. The key is the same however often it is tried, so that the other side can tell a repeat. */
export type Asked = {
  readonly key: string;
  readonly action: string;
  readonly request: string | null;
  readonly step: string | null;
  readonly values: Readonly<Record<string, unknown>>;
  /** What was noted of it in an earlier try: how things stood before anything was changed. */
  readonly noted: Readonly<Record<string, unknown>> | null;
  /** Notes something before it is done, so that it is known also when the answer is lost. */
  readonly note: (facts: Readonly<Record<string, unknown>>) => Promise<void>;
  /** When it was asked for, in the house's time. */
  readonly at: string;
  /** Groups that whoever it is has for other reasons: requests gave them, or another post does. */
  readonly keeps: (who: { person: string; account: string }) => Promise<readonly string[]>;
};

export type Answered =
  | { state: 'delivered'; result: Readonly<Record<string, unknown>> }
  | { state: 'refused'; reason: string }
  /** To be tried again: not before so many milliseconds, when the other side says so. */
  | { state: 'later'; reason: string; after?: number; away?: true };

export type HoldsReading = {
  readonly told: (read: number, total: number) => Promise<void>;
  /** Whether somebody has stopped it meanwhile. */
  readonly stopped: () => boolean;
};
export type HoldsOrNot = { ok: true; holds: Holds } | { ok: false; reason: string };

export type NamedThere = 'groups' | 'spaces';
/** Names of what is there, with how many more there are. */
export type NamesOrNot = { ok: true; names: readonly string[]; more: number } | { ok: false; reason: string };

export type Connector<Settings> = {
  /** What people call this kind of connection. */
  readonly name: string;
  /** What an administrator sets, checked; secrets are never sent to a browser. */
  readonly settings: z.ZodType<Settings>;
  /** The same for the page that asks for them, in their order. A secret left empty stays as it was. */
  readonly fields: readonly (SettingField & { name: keyof Settings & string })[];
  /** What it can be asked to do, with the values that it takes: the designer chooses from these. */
  readonly offers: Offers;
  readonly deliver: (settings: Settings, asked: Asked) => Promise<Answered>;
  /** Takes back what was delivered with this result. */
  readonly undo: (settings: Settings, asked: Asked, result: Readonly<Record<string, unknown>>) => Promise<Answered>;
  /** Everything that it holds, where that can be asked: told how far it is, and asked whether to stop. */
  readonly holds?: (settings: Settings, reading: HoldsReading) => Promise<HoldsOrNot>;
  /** Names of what is there, with these letters in them, for whoever picks one. */
  readonly named?: (settings: Settings, what: NamedThere, typed: string) => Promise<NamesOrNot>;
  /** Groups that go with a post, a place or a department, where it has such. */
  readonly groupRules?: (settings: Settings) => readonly GroupRule[];
  /** Sets the password of an account; nothing when it is set, else why not. */
  readonly setPassword?: (settings: Settings, account: string, password: string) => Promise<string | null>;
  /** Whether the other side can be reached; nothing when it can, else why not. */
  readonly check: (settings: Settings) => Promise<string | null>;
};
