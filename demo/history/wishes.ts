/** Who asks for anything but planned leave, and when: illness, trips, new colleagues, access, spaces and posts. */
import type { ReferenceList } from '@north-pebble/core/form';
import { type DirectoryIndex, managerOf, type Person, recordOn, zoneOf } from '@north-pebble/core/people';
import { addDays, type CivilDate, fromDay, toDay, toMilliseconds, wallClock } from '@north-pebble/core/time';
import { lists } from '../lists.ts';
import { demoDay, id } from '../organisation.ts';
import { type Random, random } from '../random.ts';
import { legsFrom } from '../workflows.ts';
import { lettersOf } from './replies.ts';
import type { Asking, Fate, Wish } from './wish.ts';

const reasons = ['A heavy cold.', 'Back pain.', 'Stomach illness.', 'Migraine.', 'A sprained wrist.', ''];
const errands = [
  'Moves the console to the new screens.',
  'Stands in on the night watch and needs to see the readings.',
  'Checks the alarm limits before the season.',
  'Trains the new observers.',
  'Compares two months of readings.',
];
const subjects = [
  'Berths',
  'Gauge readings',
  'Lamp logs',
  'Fair week',
  'Slipway repair',
  'Winter stores',
  'Crew lists',
];
const circles = ['east side', 'west side', 'day watch', 'season plan', 'handbook'];
const kit = ['Oilskins', 'Radio', 'Laptop', 'Keys'];

const sumsFor = { Ferry: 86, 'Relief boat': 0, Charter: 940 } as const;

/** Everything that is asked from the first day on, in no order. */
export function wishes(index: DirectoryIndex, firstDay: CivilDate): Asking[] {
  const chance = random(4711);
  const askings: Asking[] = [];
  const add = (person: Person, day: CivilDate, hour: number, wish: Wish, fate: Partial<Fate> = {}) => {
    const at = wallClock(toDay(day), hour * 60 + chance.whole(0, 59), zoneOf(index, person, demoDay));
    askings.push({ person: person.id, at, wish, fate: { ...fateOf(chance), ...fate } });
  };
  for (const person of index.directory.people) {
    const days = daysOf(chance, firstDay, 60, 420);
    for (const day of days) add(person, day, chance.whole(6, 8), illness(chance, day), { outcome: 'approve' });
    if (mayTravel(person) && chance.chance(0.4))
      for (const day of daysOf(chance, firstDay, 110, 300))
        add(person, day, chance.whole(9, 16), trip(chance, index, person, day));
    if (usesConsoles(person) && chance.chance(0.35))
      for (const day of daysOf(chance, firstDay, 200, 480)) add(person, day, chance.whole(9, 16), access(chance, day));
  }
  everyday(index, firstDay, add);
  joiners(index, firstDay, chance, add);
  comers(index, add);
  spaces(index, firstDay, chance, add);
  posts(index, chance, add);
  return askings;
}

type Add = (person: Person, day: CivilDate, hour: number, wish: Wish, fate?: Partial<Fate>) => void;

/** What comes again and again in a house of this size: a day or two of illness, the next trip. */
function everyday(index: DirectoryIndex, firstDay: CivilDate, add: Add): void {
  // Dice of its own, so that what else was asked for stays as it is.
  const chance = random(1123);
  for (const person of index.directory.people) {
    for (const day of daysOf(chance, firstDay, 55, 170))
      add(person, day, chance.whole(6, 8), illness(chance, day), { ...fateOf(chance), outcome: 'approve' });
    if (mayTravel(person))
      for (const day of daysOf(chance, firstDay, 55, 160))
        add(person, day, chance.whole(9, 16), trip(chance, index, person, day), fateOf(chance));
  }
}

function fateOf(chance: Random): Fate {
  const roll = chance.next();
  const outcome = roll < 0.88 ? 'approve' : roll < 0.96 ? 'send-back' : 'decline';
  return { outcome, hours: chance.chance(0.03) ? chance.whole(60, 90) : chance.whole(1, 30), asked: false };
}

/** Days on which somebody does the same kind of thing again and again. */
function daysOf(chance: Random, first: CivilDate, least: number, most: number): CivilDate[] {
  const days: CivilDate[] = [];
  // The last days before the demo’s morning are left to what is planned by hand.
  for (let day = toDay(first) + chance.whole(0, most); day < toDay(demoDay) - 4; day += chance.whole(least, most))
    days.push(fromDay(day));
  return days;
}

const departmentOf = (person: Person): string => recordOn(person, demoDay)?.department ?? '';
const mayTravel = (person: Person): boolean =>
  ['observatory', 'workshop', 'systems', 'directorate', 'people-and-pay'].includes(departmentOf(person));
const usesConsoles = (person: Person): boolean =>
  ['observatory', 'systems', 'lights', 'ferries'].includes(departmentOf(person));

function illness(chance: Random, day: CivilDate): Wish {
  const length = chance.chance(0.72) ? chance.whole(1, 3) : chance.chance(0.85) ? chance.whole(4, 9) : 15;
  return {
    workflow: 'sick-leave',
    answers: {
      kind: 'sick',
      dates: { from: { date: day, half: 'am' }, to: { date: addDays(day, length - 1), half: 'pm' } },
      reason: chance.pick(reasons),
    },
  };
}

function trip(chance: Random, index: DirectoryIndex, person: Person, day: CivilDate): Wish {
  const programme = chance.pick(lists.find(list => list.id === 'programmes')?.rows ?? []);
  const home = recordOn(person, demoDay)?.place;
  const to = chance.pick(index.directory.places.filter(place => place.id !== home));
  const how = chance.chance(0.1) ? 'Charter' : to.id === 'skarn' ? 'Relief boat' : 'Ferry';
  const from = addDays(day, chance.whole(9, 34));
  const nights = chance.whole(0, 4);
  const costs = [
    { what: how, amount: sumsFor[how] },
    ...(nights > 0 ? [{ what: 'Lodging', amount: nights * chance.whole(58, 96) }] : []),
  ].filter(row => row.amount > 0);
  if (day >= legsFrom)
    return tripByLegs(programme, { to, from, nights, how, costs, home: index.place(home ?? '')?.name });
  return {
    workflow: 'crossing-and-lodging',
    answers: {
      programme: programme.id,
      lead: programme.cells.lead,
      dates: { from, to: addDays(from, nights) },
      to: to.name,
      how,
      ...(how === 'Charter' ? { 'why-charter': 'No ferry sails with the gauge frames on deck.' } : {}),
      bed: nights > 0,
      costs,
    },
  };
}

/** The same trip as it is written down since legs are asked for. */
function tripByLegs(
  programme: ReferenceList['rows'][number],
  trip: {
    to: { id: string; name: string };
    from: CivilDate;
    nights: number;
    how: keyof typeof sumsFor;
    costs: readonly { what: string; amount: number }[];
    home: string | undefined;
  },
): Wish {
  const { to, from, nights, how, costs, home = 'Port Ambrel' } = trip;
  const last = addDays(from, nights);
  const leg = (there: string, back: string, on: CivilDate, leaves: string, arrives: string) => ({
    from: there,
    'leaves-on': on,
    leaves,
    by: how,
    to: back,
    'arrives-on': on,
    arrives,
    price: sumsFor[how] / 2,
    booking: null,
  });
  const bed = costs.find(cost => cost.what === 'Lodging');
  return {
    workflow: 'crossing-and-lodging',
    answers: {
      programme: programme.id,
      lead: programme.cells.lead,
      contract: programme.cells.contract,
      to: to.id,
      dates: { from, to: last },
      legs: [leg(home, to.name, from, '08:30', '10:45'), leg(to.name, home, last, '15:30', '17:45')],
      ...(how === 'Charter' ? { 'why-charter': 'No ferry sails with the gauge frames on deck.' } : {}),
      lodging: bed
        ? [{ where: `Keepers’ house, ${to.name}`, first: from, leave: last, price: bed.amount, booking: null }]
        : [],
    },
  };
}

const access = (chance: Random, day: CivilDate): Wish => ({
  workflow: 'console-access',
  answers: {
    group: chance.pick(lists.find(list => list.id === 'groups')?.rows ?? []).id,
    until: addDays(day, chance.whole(14, 340)),
    why: chance.pick(errands),
  },
});

/** Where somebody reads mail who has no address here yet. */
const privateMail = (name: string): string => `${lettersOf(name).replace(/ /g, '.')}@post.example`;

/** Whoever joined since the first day, and whoever joins next: their manager sends the request. */
function joiners(index: DirectoryIndex, firstDay: CivilDate, chance: Random, add: Add): void {
  for (const person of index.directory.people) {
    const { joined } = person;
    if (joined < addDays(firstDay, 55)) continue;
    const [holding] = index.holdingsOfPerson(person.id);
    const manager = managerOf(index, person.id, joined);
    if (!holding || !('person' in manager)) continue;
    const isComing = joined > demoDay;
    const { pattern } = recordOn(person, joined) ?? {};
    add(
      manager.person,
      addDays(joined, isComing ? -35 : -chance.whole(32, 50)),
      chance.whole(9, 15),
      {
        workflow: 'new-colleague',
        subject: person.id,
        answers: {
          name: person.name,
          post: holding.post,
          start: joined,
          kit: kit.filter(() => chance.chance(0.6)),
          boat: pattern === 'crew' || pattern === 'keeper',
          'private-mail': privateMail(person.name),
          remark: '',
        },
      },
      // They did join, so nobody declined.
      isComing
        ? { outcome: 'approve', hours: 20, leaves: ['systems', 'contract'], handsIn: 2 }
        : { outcome: chance.chance(0.1) ? 'send-back' : 'approve' },
    );
  }
}

/** People who are to come and are not on file yet, one at every stage: late, moved, ready, and one who never came. */
function comers(index: DirectoryIndex, add: Add): void {
  const lead = index.person(id('tobias'));
  const [post, berth] = ['ines', 'soren-mabey'].map(one => index.holdingsOfPerson(id(one))[0]?.post);
  if (!lead || !post || !berth) return;
  const morning = (days: number) => toMilliseconds(`${addDays(demoDay, days)}T09:30:00Z`);
  const colleague = (name: string, start: CivilDate, where: string): Wish => ({
    workflow: 'new-colleague',
    answers: {
      name,
      post: where,
      start,
      kit: ['Oilskins', 'Keys'],
      boat: false,
      'private-mail': privateMail(name),
      remark: '',
    },
  });
  const approved = { outcome: 'approve' as const, hours: 6 };
  add(lead, addDays(demoDay, -14), 9, colleague('Oda Brekke', addDays(demoDay, 4), post), {
    ...approved,
    leaves: ['contract', 'systems'],
    handsIn: 3,
  });
  add(lead, addDays(demoDay, -18), 10, colleague('Emrys Vane', addDays(demoDay, 15), post), {
    ...approved,
    leaves: ['systems'],
    later: [
      {
        at: morning(-4),
        command: { kind: 'move date', date: addDays(demoDay, 22), reason: 'His notice runs a week longer.' },
      },
    ],
  });
  add(lead, addDays(demoDay, -19), 11, colleague('Sunniva Falk', addDays(demoDay, 8), berth), approved);
  add(lead, addDays(demoDay, -41), 9, colleague('Cato Reid', addDays(demoDay, -11), post), {
    ...approved,
    later: [
      {
        at: morning(-7),
        command: { kind: 'cancel after approval', note: 'He did not come, and has taken another post.' },
      },
    ],
  });
}

function spaces(index: DirectoryIndex, firstDay: CivilDate, chance: Random, add: Add): void {
  const leads = index.directory.people.filter(
    person =>
      person.left === null &&
      index.directory.posts.some(post => post.lines[0].reportsTo !== null && isHeld(index, person, post.id)),
  );
  const titles = circles.flatMap(circle => subjects.map(subject => `${subject}, ${circle}`));
  for (const title of titles) {
    const person = chance.pick(leads);
    const day = addDays(firstDay, chance.whole(1, 540));
    if (day < person.joined) continue;
    const manager = managerOf(index, person.id, day);
    const owner = chance.chance(0.6) && 'person' in manager ? manager.person.id : person.id;
    add(person, day, chance.whole(9, 16), {
      workflow: 'shared-space',
      answers: { title, kind: chance.pick(['Team', 'Project', 'Station']), owner, guests: chance.chance(0.2) },
    });
  }
}

const isHeld = (index: DirectoryIndex, person: Person, post: string): boolean =>
  index.holdingsOfPerson(person.id).some(holding => holding.post === post);

function posts(index: DirectoryIndex, chance: Random, add: Add): void {
  const wanted: [
    who: string,
    day: string,
    title: string,
    department: string,
    pay: number,
    need: string,
    fate: Partial<Fate>,
  ][] = [
    [
      'tobias',
      '2025-03-11',
      'Tide modeller',
      'Observatory',
      41_000,
      'The new gauges send four times the readings.',
      { outcome: 'approve', hours: 22 },
    ],
    [
      'kofi',
      '2025-06-17',
      'Second access steward',
      'Systems',
      38_000,
      'Access is checked by one person alone.',
      { outcome: 'decline', hours: 30 },
    ],
    [
      'tobias',
      '2025-11-04',
      'Gauge fitter',
      'Observatory',
      36_500,
      'Two gauges a month are renewed from spring on.',
      { outcome: 'approve', hours: 26 },
    ],
  ];
  for (const [who, day, title, department, pay, need, fate] of wanted) {
    const person = index.person(id(who));
    if (person)
      add(
        person,
        day as CivilDate,
        chance.whole(9, 15),
        {
          workflow: 'new-post',
          answers: { title, department, band: pay < 40_000 ? 'Band 2' : 'Band 3', pay, share: 1, need },
        },
        fate,
      );
  }
}

/** What waits at the travel desk, with the steward and for a doctor’s note on the demo’s morning. */
export function waitingWishes(index: DirectoryIndex): Asking[] {
  const chance = random(8);
  const found: Asking[] = [];
  const at = (person: string, when: string, wish: Wish, leaves: string[]) =>
    found.push({
      person: id(person),
      at: toMilliseconds(when),
      wish,
      fate: { outcome: 'approve', hours: 3, asked: false, leaves },
    });
  const mira = index.person(id('mira-kell'));
  const rory = index.person(id('rory-flint'));
  if (mira)
    at('mira-kell', '2026-01-29T09:12:00Z', trip(chance, index, mira, '2026-01-29' as CivilDate), ['book-crossing']);
  if (rory) at('ada-dunmore', '2026-01-30T10:40:00Z', access(chance, '2026-01-30' as CivilDate), ['grant']);
  const [fitter] = index.holdingsOfPost('workshop-ambrel-5');
  if (fitter) {
    const dates = { from: { date: '2026-01-29', half: 'am' }, to: { date: '2026-02-04', half: 'pm' } };
    const answers = { kind: 'sick', dates, reason: 'Influenza.' };
    at(fitter.person, '2026-01-29T07:20:00Z', { workflow: 'sick-leave', answers }, ['paper']);
  }
  return found;
}
