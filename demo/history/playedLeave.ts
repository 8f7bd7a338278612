/** Leave as it is while the history is played: of each person, and on each day. */
import type { LeaveEntry } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import { type CivilDate, type DayNumber, toDay } from '@north-pebble/core/time';
import type { RequestState } from '@north-pebble/core/workflow';

export class PlayedLeave {
  readonly #of = new Map<PersonId, LeaveEntry[]>();
  readonly #on = new Map<DayNumber, Set<LeaveEntry>>();

  of(person: PersonId): readonly LeaveEntry[] {
    return this.#of.get(person) ?? [];
  }

  on(day: CivilDate): LeaveEntry[] {
    return [...(this.#on.get(toDay(day)) ?? [])];
  }

  /** What a request holds or has booked, in the place of what it did before. */
  keep(request: string, person: PersonId, leave: RequestState['leave']): void {
    const all = this.of(person);
    const onDays = ({ span }: LeaveEntry, change: (day: Set<LeaveEntry>) => void) => {
      for (let day = toDay(span.from.date); day <= toDay(span.to.date); day++) {
        const there = this.#on.get(day) ?? new Set();
        this.#on.set(day, there);
        change(there);
      }
    };
    for (const old of all) if (old.request === request) onDays(old, day => day.delete(old));
    const others = all.filter(e => e.request !== request);
    if (leave) {
      const { type, span, state } = leave;
      const entry: LeaveEntry = { request, person, type, span, state };
      others.push(entry);
      onDays(entry, day => day.add(entry));
    }
    this.#of.set(person, others);
  }
}
