/** A rehearsal under way on a sheet: every step kept, so that it can be taken back; begun anew whenever the draft changes. */
import type { FieldFault } from '@north-pebble/core/form';
import type { PersonId } from '@north-pebble/core/people';
import { act, begin, nextMoment, type Rehearsal, type RehearsalFacts, skip, skipTo } from '@north-pebble/core/proof';
import type { Instant } from '@north-pebble/core/time';
import type { Command, Definition, GuestCommand } from '@north-pebble/core/workflow';
import { useCallback, useState } from 'react';

/** What is filled in before a rehearsal begins; it outlives every edit of the draft. */
export type Filled = {
  person: string;
  date: string;
  typed: Readonly<Record<string, unknown>>;
  touched: readonly string[];
  /** Asked at the public address, by somebody without an account. */
  outside: boolean;
};

export function useRehearsal(definition: Definition) {
  const [filled, setFilled] = useState<Filled | null>(null);
  const [played, setPlayed] = useState<readonly Rehearsal[]>([]);
  const [fault, setFault] = useState<{ message: string; faults: FieldFault[] } | null>(null);
  const now = played.at(-1) ?? null;
  const add = useCallback((next: Rehearsal) => {
    setFault(null);
    setPlayed(before => [...before, next]);
  }, []);
  return {
    filled,
    fill: setFilled,
    now,
    /** Whether the draft has changed since it began. */
    outdated: now !== null && now.definition !== definition,
    fault,
    begin(facts: RehearsalFacts, asker: PersonId, at: Instant, answers: Record<string, unknown>, outside: boolean) {
      const begun = begin(definition, facts, { asker, at, answers, ...(outside ? { outside } : {}) });
      if (begun.ok) {
        setFault(null);
        setPlayed([begun.rehearsal]);
      } else setFault({ message: begun.refusal.message, faults: begun.faults });
    },
    act(command: Command | GuestCommand, by: PersonId | null) {
      if (!now) return;
      const next = act(now, command, by);
      if (next.ok) add(next.rehearsal);
      else setFault({ message: next.refusal.message, faults: next.faults });
    },
    skip: (minutes: number) => now && add(skip(now, minutes)),
    skipToNext() {
      const next = now && nextMoment(now);
      if (now && next) add(skipTo(now, next));
    },
    back: () => {
      setFault(null);
      setPlayed(before => before.slice(0, -1));
    },
    steps: played.length,
    stop: () => {
      setFault(null);
      setPlayed([]);
    },
  };
}
export type Playing = ReturnType<typeof useRehearsal>;
