/**
 * What happened to the leave of some people besides: a plan that changed its year, days to hours, an opening, a last day with leave
 * after it, long sickness, a birth, a shutdown, a secondment. Each is a change as HR makes it by hand.
 */
import type { Fact, FactEdit, HouseChange } from '@north-pebble/core/facts';
import { bookingId, type LeaveEntry } from '@north-pebble/core/leave';
import type { Directory, PersonId } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';

type Days = { readonly from: string; readonly to: string };

/** A change that HR made, when and why; bookings were decided elsewhere and are put on file as they are. */
export type Case = { readonly at: string; readonly reason: string } & (
  | { readonly change: HouseChange }
  | { readonly edits: readonly FactEdit[] }
);

export type Cases = {
  readonly who: Readonly<Record<CaseName, PersonId>>;
  readonly cases: readonly Case[];
};
export const caseNames = [
  'year changes',
  'days to hours',
  'opening',
  'last day',
  'long sickness',
  'birth',
  'secondment',
] as const;
export type CaseName = (typeof caseNames)[number];

const booked = (person: PersonId, type: string, { from, to }: Days): Extract<Fact, { kind: 'booking' }> => ({
  kind: 'booking',
  id: bookingId(person, type, from),
  person,
  type,
  span: { from: { date: from as CivilDate, half: 'am' }, to: { date: to as CivilDate, half: 'pm' } },
});

const illDays: Days = { from: '2025-12-08', to: '2026-02-06' };
const birthDays: Days = { from: '2026-01-19', to: '2026-01-30' };
const afterLeaving: Days = { from: '2026-06-22', to: '2026-07-10' };

/**
 * The first of some unit whose own leave is not in the way of what happens to them.
 * @param leave all that is booked or asked for
 */
function somebody(
  { holdings, people }: Directory,
  leave: readonly Pick<LeaveEntry, 'person' | 'span'>[],
  post: RegExp,
  days: Days | null,
  taken: ReadonlySet<PersonId>,
): PersonId {
  const inOrder = holdings.toSorted((a, b) => (a.post < b.post ? -1 : 1));
  const found = inOrder.find(({ post: held, person, main }) => {
    const record = people.find(one => one.id === person);
    if (!main || !post.test(held) || taken.has(person) || record?.left || record?.records[0]?.fte !== 1) return false;
    return !leave.some(
      one => one.person === person && days !== null && one.span.from.date <= days.to && days.from <= one.span.to.date,
    );
  });
  if (!found) throw new Error(`nobody of ${post.source} is free for a case of the demo`);
  return found.person;
}

export function leaveCases(directory: Directory, leave: readonly Pick<LeaveEntry, 'person' | 'span'>[]): Cases {
  const taken = new Set<PersonId>();
  const one = (post: RegExp, days: Days | null = null): PersonId => {
    const found = somebody(directory, leave, post, days, taken);
    taken.add(found);
    return found;
  };
  const who: Record<CaseName, PersonId> = {
    'year changes': one(/^harbour-ambrel-\d+$/),
    'days to hours': one(/^harbour-ambrel-\d+$/),
    opening: one(/^stores-ovay-\d+$/),
    'last day': one(/^finance-ambrel-\d+$/, { from: '2026-06-01', to: '2026-12-31' }),
    'long sickness': one(/^workshop-ambrel-\d+$/, illDays),
    birth: one(/^systems-ambrel-\d+$/, birthDays),
    secondment: one(/^observatory-ovay-\d+$/, { from: '2026-03-02', to: '2026-05-29' }),
  };
  const put = (fact: Fact): FactEdit => ({ before: null, after: fact });
  const change = (at: string, reason: string, made: object): Case => ({
    at: `2026-01-${at}T09:00:00Z`,
    reason,
    change: made as HouseChange,
  });
  const cases: Case[] = [
    change('12', 'The Harbour Office goes over to years from April', {
      what: 'record',
      person: who['year changes'],
      from: '2026-04-01',
      set: { plan: 'harbour', planPer: null },
    }),
    change('13', 'Joins the ferries as a deckhand', {
      what: 'several',
      changes: [
        {
          what: 'record',
          person: who['days to hours'],
          from: '2026-03-01',
          set: { plan: 'crew', pattern: 'crew', department: 'ferries', planPer: 7.5 },
        },
      ],
    }),
    change('14', 'Came from the trust’s old payroll', {
      what: 'opening',
      person: who.opening,
      type: 'annual',
      opening: {
        on: '2026-01-01',
        own: 0,
        carried: 3,
        lapses: '2026-03-31',
        source: 'Old payroll, closing of 2025',
      },
    }),
    {
      at: '2025-12-10T09:00:00Z',
      reason: 'Agreed by letter',
      edits: [put(booked(who['last day'], 'annual', afterLeaving))],
    },
    change('15', 'Goes to sea', { what: 'last day', person: who['last day'], left: '2026-06-30' }),
    {
      at: '2025-12-08T09:00:00Z',
      reason: 'Reported by telephone',
      edits: [put(booked(who['long sickness'], 'sick', illDays))],
    },
    change('28', 'Agreed with the doctor', {
      what: 'circumstance',
      person: who['long sickness'],
      id: 'new',
      holds: {
        is: 'stages',
        request: bookingId(who['long sickness'], 'sick', illDays.from),
        stages: [{ from: '2026-02-02', minutes: 180 }],
      },
    }),
    change('19', 'Certificate seen', {
      what: 'circumstance',
      person: who.birth,
      id: 'new',
      holds: { is: 'child', born: '2026-01-16' },
    }),
    {
      at: '2026-01-19T10:00:00Z',
      reason: 'Birth of a child',
      edits: [put(booked(who.birth, 'birth', birthDays))],
    },
    change('20', 'The tide gauge at Hollin is set up', {
      what: 'seconded',
      person: who.secondment,
      from: '2026-03-02',
      to: '2026-05-29',
      place: 'hollin',
      post: null,
    }),
    change('21', 'Agreed with the works council', {
      what: 'shutdown',
      name: 'Slipway repair',
      place: 'ambrel',
      department: 'workshop',
      type: 'annual',
      from: { date: '2026-12-28', half: 'am' },
      to: { date: '2026-12-30', half: 'pm' },
      except: [],
    }),
  ];
  return { who, cases };
}
