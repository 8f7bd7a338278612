/** Who plans leave, and when: over eighteen months, and what waits on the demo’s morning. */
import type { Adjustment, HalfSpan } from '@north-pebble/core/leave';
import { type DirectoryIndex, type Person, type PersonId, recordOn, zoneOf } from '@north-pebble/core/people';
import { addDays, type CivilDate, fromDay, toDay, toMilliseconds, wallClock } from '@north-pebble/core/time';
import { demoDay, id } from '../organisation.ts';
import type { Random } from '../random.ts';
import type { Asking, Fate, Wish } from './wish.ts';

const leave = (kind: string, span: HalfSpan): Wish => ({ workflow: 'annual-leave', answers: { kind, dates: span } });
const timeOff = (date: CivilDate, earnedWith: string): Wish => ({
  workflow: 'compensation-time',
  answers: {
    kind: 'compensation',
    dates: { from: { date, half: 'am' }, to: { date, half: 'am' } },
    'earned-with': earnedWith,
  },
});

export class LeaveWishes {
  readonly askings: Asking[] = [];
  readonly adjustments: Adjustment[] = [];
  readonly #index: DirectoryIndex;
  readonly #chance: Random;
  readonly #firstDay: CivilDate;

  constructor(index: DirectoryIndex, chance: Random, firstDay: CivilDate) {
    this.#index = index;
    this.#chance = chance;
    this.#firstDay = firstDay;
    for (const person of index.directory.people) this.#planFor(person);
    this.#planByHand();
  }

  /** Everybody asks some four to seven times a year, mostly in summer; crews and keepers by whole turns. */
  #planFor(person: Person): void {
    const chance = this.#chance;
    const { plan, pattern } = recordOn(person, demoDay);
    if (plan === 'standard' && chance.chance(0.3)) this.#earn(person.id);
    let day = toDay(this.#firstDay) + chance.whole(0, 40);
    const last = toDay(demoDay) + 100;
    while (day < last) {
      const length = chance.chance(0.3) ? chance.whole(5, 12) : chance.whole(1, 4);
      const kind = plan === null || chance.chance(0.06) ? chance.pick(['family', 'study', 'unpaid']) : 'annual';
      const half = chance.chance(0.15) && pattern !== 'keeper' ? ('am' as const) : ('pm' as const);
      const span: HalfSpan = {
        from: { date: fromDay(day), half: 'am' },
        to: { date: fromDay(day + length - 1), half },
      };
      this.#askBefore(person, leave(kind, span), fromDay(day), chance.whole(4, 45));
      day += length + chance.whole(28, 110);
    }
  }

  #earn(person: PersonId): void {
    const chance = this.#chance;
    for (let i = chance.whole(1, 3); i > 0; i--) {
      const date = addDays(this.#firstDay, chance.whole(20, 520));
      const amount = chance.whole(2, 12);
      this.adjustments.push({ person, type: 'compensation', date, amount, reason: 'extra hours, storm watch' });
      const later = addDays(date, chance.whole(10, 60));
      const found = this.#index.person(person);
      if (found && chance.chance(0.6)) {
        this.#askBefore(found, timeOff(later, 'storm watch'), later, chance.whole(2, 9));
      }
    }
  }

  #askBefore(person: Person, wish: Wish, first: CivilDate, days: number, hour = this.#chance.whole(8, 15)): void {
    const zone = zoneOf(this.#index, person, demoDay);
    const at = wallClock(toDay(first) - days, hour * 60 + this.#chance.whole(0, 59), zone);
    const roll = this.#chance.next();
    const outcome = roll < 0.9 ? 'approve' : roll < 0.965 ? 'send-back' : 'decline';
    const hours = this.#chance.chance(0.04) ? this.#chance.whole(60, 110) : this.#chance.whole(1, 46);
    this.askings.push({ person: person.id, at, wish, fate: { outcome, hours, asked: false } });
  }

  /** A few requests that are waiting on the demo's morning, so that the observatory's desk has something on it. */
  #planByHand(): void {
    const never: Fate = { outcome: 'approve', hours: 1e6, asked: false };
    const ask = (person: string, at: string, from: string, to: string, kind = 'annual', fate = never) =>
      this.askings.push({
        person: id(person),
        at: toMilliseconds(at),
        wish: leave(kind, {
          from: { date: from as CivilDate, half: 'am' },
          to: { date: to as CivilDate, half: 'pm' },
        }),
        fate,
      });
    // The stores lead is away for months, and covered.
    const [cover] = this.#index.directory.covers;
    const granted: Fate = { outcome: 'approve', hours: 4, asked: false };
    ask(cover.person, '2025-09-01T09:00:00Z', cover.from, cover.to, 'family', granted);
    const [below] = this.#index.holdingsOfPost('stores-ambrel-s2');
    ask(below.person, '2026-01-20T10:15:00Z', '2026-03-23', '2026-03-27', 'annual', { ...granted });
    ask('per-lauder', '2026-01-30T14:12:00Z', '2026-05-04', '2026-05-19');
    ask('ada-dunmore', '2026-01-29T10:05:00Z', '2026-02-18', '2026-02-20');
    ask('jory-tallack', '2026-02-02T08:31:00Z', '2026-04-13', '2026-04-24', 'unpaid');
    ask('mira-kell', '2026-01-30T09:20:00Z', '2026-03-09', '2026-03-13');
    ask('tobias', '2026-01-30T16:02:00Z', '2026-07-06', '2026-07-17');
    // A contractor has no manager on file, so this one cannot go on until somebody helps.
    const rory = id('rory-flint');
    this.adjustments.push({
      person: rory,
      type: 'compensation',
      date: '2026-01-12' as CivilDate,
      amount: 8,
      reason: 'extra hours, storm watch',
    });
    this.askings.push({
      person: rory,
      at: toMilliseconds('2026-01-29T15:20:00Z'),
      wish: timeOff('2026-02-27' as CivilDate, 'moving the console room'),
      fate: never,
    });
  }
}
