/** Selkie Sound Lights: an invented trust with lighthouses, ferries and a tide observatory. */
import type { Directory, Holding, Person, PersonId, Post, RoleHolding } from '@north-pebble/core/people';
import { addDays, type CivilDate, type HolidayRule } from '@north-pebble/core/time';
import { familyNames, givenNames } from './names.ts';
import { patterns } from './patterns.ts';
import { type Random, random } from './random.ts';

export const demoDay = '2026-02-02' as CivilDate;
const linesFrom = '2010-01-01' as CivilDate;
const day = (text: string) => text as CivilDate;
export const id = (text: string) => text as PersonId;

const onDate = (monthDay: string, name: string): HolidayRule => ({
  name,
  part: 'day',
  on: { kind: 'date', monthDay },
});
const onWeekday = (
  month: number,
  weekday: number,
  nth: 1 | 2 | 3 | 4 | 'last',
  name: string,
  part: HolidayRule['part'] = 'day',
): HolidayRule => ({ name, part, on: { kind: 'weekday', month, weekday, nth } });

const monday = 1;
const friday = 5;
const lampDay = onDate('01-16', 'Lamp Day');
const everywhere = [
  onDate('01-01', 'New Year’s Day'),
  onWeekday(4, monday, 1, 'First Boats'),
  onDate('06-24', 'Midsummer Tide'),
  onWeekday(8, friday, 'last', 'Herring Fair', 'pm'),
  onWeekday(10, monday, 1, 'Storm’s End'),
  onDate('12-21', 'Long Night'),
];

const calendars: Directory['calendars'] = [
  { id: 'sound', name: 'Sound', buildsOn: null, rules: [lampDay, ...everywhere], holidays: [] },
  {
    id: 'ovay',
    name: 'Ovay',
    buildsOn: 'sound',
    rules: ([1, 2, 3, 4] as const).map(nth => onWeekday(2, friday, nth, 'Ovay Friday', 'pm')),
    holidays: [],
  },
  { id: 'skarn', name: 'Skarn', buildsOn: 'sound', rules: [onDate('07-02', 'Lamplighters’ Day')], holidays: [] },
  { id: 'hollin', name: 'Hollin', buildsOn: null, rules: [...everywhere, onDate('05-18', 'Quay Day')], holidays: [] },
];

const places: Directory['places'] = [
  { id: 'ambrel', name: 'Port Ambrel', zone: 'Europe/Lisbon', calendar: 'sound' },
  { id: 'ovay', name: 'Ovay Station', zone: 'Europe/Lisbon', calendar: 'ovay' },
  { id: 'skarn', name: 'Skarn Light', zone: 'Atlantic/Reykjavik', calendar: 'skarn' },
  { id: 'hollin', name: 'Hollin Quay', zone: 'Europe/Oslo', calendar: 'hollin' },
];

type Named = { id: string; name: string };
type Work = { pattern: string; plan: string };
/** What a department's work is charged to. */
const costCentres: Readonly<Record<string, string>> = {
  'people-and-pay': '1100',
  finance: '1200',
  systems: '1300',
  harbour: '2100',
  workshop: '2200',
  stores: '2300',
  ferries: '2400',
  observatory: '3100',
  lights: '3200',
};
const costCentreOf = (department: string): string => costCentres[department] ?? '1000';

/** A part of the house: a lead, supervisors where it is large, and staff. */
type Unit = {
  department: string;
  place: string;
  size: number;
  lead: { title: string; named?: Named };
  supervisor: string;
  staff: string;
  work: Work;
  /** People with a name of their own, straight under the lead, with their titles. */
  named?: (Named & { title: string })[];
};

const office: Work = { pattern: 'office', plan: 'standard' };
const units: Unit[] = [
  {
    department: 'people-and-pay',
    place: 'ambrel',
    size: 10,
    lead: { title: 'Head of People and Pay', named: { id: 'marit', name: 'Marit Solheim' } },
    supervisor: 'Payroll supervisor',
    staff: 'Pay clerk',
    work: office,
    named: [{ id: 'wren', name: 'Wren Castellane', title: 'HR operations specialist' }],
  },
  {
    department: 'finance',
    place: 'ambrel',
    size: 10,
    lead: { title: 'Head of Finance' },
    supervisor: 'Ledger supervisor',
    staff: 'Bookkeeper',
    work: office,
    named: [{ id: 'yusra', name: 'Yusra Benali', title: 'Internal auditor' }],
  },
  {
    department: 'systems',
    place: 'ambrel',
    size: 11,
    lead: { title: 'Head of Systems' },
    supervisor: 'Network supervisor',
    staff: 'Systems engineer',
    work: office,
    named: [{ id: 'kofi', name: 'Kofi Adair', title: 'Access steward' }],
  },
  {
    department: 'harbour',
    place: 'ambrel',
    size: 14,
    lead: { title: 'Harbour master' },
    supervisor: 'Berth supervisor',
    staff: 'Harbour clerk',
    work: office,
    named: [{ id: 'bettina', name: 'Bettina Rook', title: 'Travel desk' }],
  },
  {
    department: 'workshop',
    place: 'ambrel',
    size: 34,
    lead: { title: 'Workshop lead' },
    supervisor: 'Workshop foreman',
    staff: 'Fitter',
    work: { pattern: 'workshop', plan: 'standard' },
  },
  {
    department: 'stores',
    place: 'ambrel',
    size: 14,
    lead: { title: 'Stores lead' },
    supervisor: 'Stores supervisor',
    staff: 'Storekeeper',
    work: office,
  },
  {
    department: 'ferries',
    place: 'ambrel',
    size: 30,
    lead: { title: 'Ferries lead' },
    supervisor: 'Ferry master',
    staff: 'Deckhand',
    work: { pattern: 'crew', plan: 'crew' },
  },
  {
    department: 'observatory',
    place: 'ovay',
    size: 43,
    lead: { title: 'Observatory lead', named: { id: 'tobias', name: 'Tobias Fennimore' } },
    supervisor: 'Instrument supervisor',
    staff: 'Gauge technician',
    work: { pattern: 'ovay-office', plan: 'standard' },
    named: [
      { id: 'ines', name: 'Ines Okoro', title: 'Tide observer' },
      { id: 'per-lauder', name: 'Per Lauder', title: 'Tide observer' },
      { id: 'ada-dunmore', name: 'Ada Dunmore', title: 'Tide observer' },
      { id: 'soren-mabey', name: 'Soren Mabey', title: 'Tide observer' },
      { id: 'mira-kell', name: 'Mira Kell', title: 'Tide observer' },
      { id: 'jory-tallack', name: 'Jory Tallack', title: 'Tide observer' },
    ],
  },
  {
    department: 'stores',
    place: 'ovay',
    size: 3,
    lead: { title: 'Ovay storekeeper' },
    supervisor: '',
    staff: 'Storekeeper',
    work: { pattern: 'ovay-office', plan: 'standard' },
  },
  {
    department: 'lights',
    place: 'skarn',
    size: 23,
    lead: { title: 'Skarn station lead' },
    supervisor: 'Watch lead',
    staff: 'Light keeper',
    work: { pattern: 'keeper', plan: 'keeper' },
  },
  {
    department: 'ferries',
    place: 'skarn',
    size: 8,
    lead: { title: 'Relief boat master' },
    supervisor: '',
    staff: 'Relief boat hand',
    work: { pattern: 'crew', plan: 'crew' },
  },
  {
    department: 'ferries',
    place: 'hollin',
    size: 35,
    lead: { title: 'Northern ferries lead' },
    supervisor: 'Ferry master',
    staff: 'Deckhand',
    work: { pattern: 'crew', plan: 'crew' },
  },
];

const departmentNames: Record<string, string> = {
  lights: 'Lights',
  ferries: 'Ferries',
  observatory: 'Observatory',
  workshop: 'Workshop',
  stores: 'Stores',
  harbour: 'Harbour Office',
  'people-and-pay': 'People and Pay',
  finance: 'Finance',
  systems: 'Systems',
  directorate: 'Directorate',
};

const perSupervisor = 8;

const placeHeads: Record<string, string> = {
  ambrel: 'operations',
  ovay: 'observatory-ovay-lead',
  skarn: 'lights-skarn-lead',
  hollin: 'ferries-hollin-lead',
};

class Builder {
  readonly people: Person[] = [];
  readonly posts: Post[] = [];
  readonly holdings: Holding[] = [];
  readonly roles: RoleHolding[] = [];
  readonly #chance: Random;
  readonly #names = new Set<string>();

  constructor(chance: Random) {
    this.#chance = chance;
  }

  #name(): Named {
    for (;;) {
      const name = `${this.#chance.pick(givenNames)} ${this.#chance.pick(familyNames)}`;
      if (!this.#names.has(name)) return { id: this.#idFrom(name), name };
    }
  }

  #idFrom(name: string): string {
    const plain = name
      .normalize('NFD')
      .replace(/[^\x20-\x7e]/g, '')
      .toLowerCase();
    return plain.replace(/[^a-z]+/g, '-').replace(/^-|-$/g, '');
  }

  post(id: string, title: string, department: string, place: string, reportsTo: string | null): string {
    this.posts.push({ id, title, department, place, lines: [{ from: linesFrom, reportsTo }] });
    return id;
  }

  hire(
    unit: Pick<Unit, 'department' | 'place' | 'work'>,
    post: string | null,
    named?: Named,
    joined?: CivilDate,
  ): PersonId {
    const who = named ?? this.#name();
    this.#names.add(who.name);
    const since =
      joined ?? day(`${this.#chance.whole(2009, 2025)}-${String(this.#chance.whole(1, 12)).padStart(2, '0')}-01`);
    const isPartTime = !named && unit.work.pattern === 'office' && this.#chance.chance(0.12);
    const person: Person = {
      id: id(who.id),
      number: String(10_000 + this.people.length * 7),
      name: who.name,
      mail: `${this.#idFrom(who.name).replace(/-/g, '.')}@selkie.example`,
      joined: since,
      left: null,
      dottedTo: null,
      records: [
        {
          from: since,
          place: unit.place,
          department: unit.department,
          pattern: isPartTime ? 'three-day' : unit.work.pattern,
          fte: isPartTime ? 0.6 : 1,
          plan: unit.work.plan,
          costCentre: costCentreOf(unit.department),
        },
      ],
    };
    this.people.push(person);
    if (post) this.holdings.push({ post, person: person.id, from: since, to: null, main: true });
    return person.id;
  }

  unit(unit: Unit, above: string): string {
    const key = `${unit.department}-${unit.place}`;
    const lead = this.post(`${key}-lead`, unit.lead.title, unit.department, unit.place, above);
    this.hire(unit, lead, unit.lead.named);
    let left = unit.size - 1;
    (unit.named ?? []).forEach(({ title, ...named }, i) => {
      const post = this.post(`${key}-own-${i + 1}`, title, unit.department, unit.place, lead);
      const joined = day(`${2016 + i}-0${(i % 6) + 2}-01`);
      this.hire(unit, post, named, joined);
      left--;
    });
    const groups = unit.supervisor ? Math.ceil(left / (perSupervisor + 1)) : 0;
    const supervisors = Array.from({ length: groups }, (_, i) => {
      const post = this.post(`${key}-s${i + 1}`, unit.supervisor, unit.department, unit.place, lead);
      this.hire(unit, post);
      left--;
      return post;
    });
    for (let i = 0; left > 0; i++, left--) {
      const above = supervisors.length > 0 ? supervisors[i % supervisors.length] : lead;
      this.hire(unit, this.post(`${key}-${i + 1}`, unit.staff, unit.department, unit.place, above));
    }
    return lead;
  }
}

/** Grade and spending limit by how far below the director a post stands. */
function standing(posts: readonly Post[], post: Post): { grade: number; spending: number } {
  let depth = 0;
  for (let at: Post | undefined = post; at?.lines[0].reportsTo && depth < 5; depth++) {
    const above: string = at.lines[0].reportsTo;
    at = posts.find(p => p.id === above);
  }
  const [grade, spending] = (
    [
      [9, 1_000_000],
      [8, 100_000],
      [6, 20_000],
      [4, 2_000],
    ] as const
  )[depth] ?? [2, 0];
  return { grade, spending };
}

/** The whole directory, with its odd cases: vacant, covered, left, doubled, dotted, coming, and without a post. */
export function organisation(): Directory {
  const builder = new Builder(random(20_260_202));
  const directorate = { department: 'directorate', place: 'ambrel', work: office };
  builder.post('director', 'Director', 'directorate', 'ambrel', null);
  builder.hire(directorate, 'director', { id: 'leif', name: 'Leif Auerbach' }, day('2008-03-01'));
  const operations = builder.post('operations', 'Operations director', 'directorate', 'ambrel', 'director');
  builder.hire(directorate, operations);
  const services = builder.post('services', 'Services director', 'directorate', 'ambrel', 'director');
  builder.hire(directorate, services);
  const assistant = builder.post('assistant', 'Assistant to the director', 'directorate', 'ambrel', 'director');
  builder.hire(directorate, assistant);

  const isService = new Set(['people-and-pay', 'finance', 'systems', 'stores']);
  const heads: Record<string, string> = { directorate: 'director' };
  for (const unit of units) {
    const above =
      unit.department === 'observatory' ? 'director' : isService.has(unit.department) ? services : operations;
    const lead = builder.unit(unit, above);
    heads[unit.department] ??= lead;
  }
  oddCases(builder);
  const people = builder.people.sort((a, b) => a.name.localeCompare(b.name));
  const stores = builder.holdings.find(h => h.post === 'stores-ambrel-lead')?.person as PersonId;
  const storesCover = builder.holdings.find(h => h.post === 'stores-ambrel-s1')?.person as PersonId;
  return {
    people,
    posts: builder.posts.map(post => ({ ...post, ...standing(builder.posts, post) })),
    holdings: builder.holdings,
    covers: [{ person: stores, by: storesCover, from: day('2026-01-12'), to: day('2026-04-30') }],
    roles: builder.roles,
    places: places.map(place => ({ ...place, head: placeHeads[place.id] ?? null })),
    departments: Object.entries(departmentNames).map(([key, name]) => ({ id: key, name, head: heads[key] ?? null })),
    patterns,
    calendars,
  };
}

function oddCases(builder: Builder): void {
  const holder = (post: string) => builder.holdings.find(h => h.post === post)?.person as PersonId;
  const change = (who: PersonId, parts: Partial<Person>) => {
    const i = builder.people.findIndex(p => p.id === who);
    builder.people[i] = { ...builder.people[i], ...parts };
  };
  // A vacant post with keepers under it.
  const vacant = builder.post('lights-skarn-s9', 'Watch lead', 'lights', 'skarn', 'lights-skarn-lead');
  const keepers = builder.posts.filter(p => /^lights-skarn-\d+$/.test(p.id)).slice(0, 2);
  for (const post of keepers) Object.assign(post, { lines: [{ from: linesFrom, reportsTo: vacant }] });
  // A supervisor who left at the end of the year, with the post not yet given to anybody else.
  change(holder('workshop-ambrel-s2'), { left: day('2025-12-31') });
  // Someone with two posts: the berth supervisor also keeps the relief berth at Skarn.
  builder.post('relief-berth', 'Relief berth keeper', 'harbour', 'skarn', 'lights-skarn-lead');
  builder.holdings.push({
    post: 'relief-berth',
    person: holder('harbour-ambrel-s1'),
    from: day('2025-03-01'),
    to: null,
    main: false,
  });
  // A dotted line from the observatory's instruments to Systems.
  change(holder('observatory-ovay-s1'), { dottedTo: holder('systems-ambrel-lead') });
  // A contractor without a post, so without a manager on file.
  const contract = { department: 'systems', place: 'ambrel', work: { pattern: 'office', plan: 'standard' } };
  builder.hire(contract, null, { id: 'rory-flint', name: 'Rory Flint' }, day('2025-09-01'));
  // A joiner next month.
  const joining = builder.post('observatory-ovay-new', 'Tide observer', 'observatory', 'ovay', 'observatory-ovay-lead');
  const ovay = { department: 'observatory', place: 'ovay', work: { pattern: 'ovay-office', plan: 'standard' } };
  builder.hire(ovay, joining, { id: 'pia', name: 'Pia Lindqvist' }, addDays(demoDay, 28));
  builder.roles.push(
    { role: 'HR partner', person: id('marit') },
    { role: 'HR partner', person: holder('people-and-pay-ambrel-s1'), place: 'hollin' },
    { role: 'Travel desk', person: id('bettina') },
    { role: 'Access steward', person: id('kofi') },
    { role: 'Stores desk', person: holder('stores-ambrel-s1') },
    { role: 'Payroll', person: holder('finance-ambrel-lead') },
  );
}
