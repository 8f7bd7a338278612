/** Starters for travel: a trip from asking to the itinerary and the invitation. */
import {
  approve,
  ask,
  asker,
  decide,
  decline,
  declined,
  end,
  goodAndBad,
  lineManager,
  longText,
  message,
  people,
  programmeAndLead,
  role,
  sendBack,
  starter,
  task,
  text,
  within,
} from './pieces.ts';

/** When somebody leaves and is back, by the first and the last leg, whatever the order of the rows. */
const start = 'min(for l in Legs return date and time(l.Leaves on, l.Leaves))';
const back = 'max(for l in Legs return date and time(l.Arrives on, l.Arrives))';

/**
 * The days of a trip as parts: a whole one from twelve hours on, half a day from six on, by the clocks of the rows. It
 * looks at the first departure and the last arrival alone, so that the order of the rows and how a leg is cut change nothing.
 */
const dayParts = [
  `{start: ${start}, back: ${back},`,
  'parts: for d in date(start)..date(back) return',
  '{from: max(start, date and time(d, time("00:00:00"))),',
  'to: min(back, date and time(d + duration("P1D"), time("00:00:00"))),',
  'hours: (to - from) / duration("PT1H"),',
  'part: if hours >= 12 then 1 else if hours >= 6 then 0.5 else 0},',
  'all: sum(parts.part)}.all',
].join(' ');

const ordered = (table: string, to: string, from: string): string =>
  `count(${table}) < 2 or (every i in 2..count(${table}) satisfies ${table}[i].${from} >= ${table}[i - 1].${to})`;

const again = sendBack('draft', 'dates', 'legs', 'lodging', 'vehicles', 'to');

export const crossing = starter('crossing-and-lodging', {
  name: 'Crossing and lodging',
  area: 'Travel',
  tags: ['travel', 'cost'],
  purpose: 'A trip to another station: programme, boat or charter, a bed, and who pays.',
  afterwards: { change: 'decided', cancel: 'at once' },
  form: {
    sections: [
      { id: 'trip', title: 'The trip' },
      { id: 'way', title: 'The way and the bed' },
      { id: 'desk', title: 'From the travel desk' },
    ],
    fields: [
      ...programmeAndLead,
      text('contract', 'Contract', false, {
        section: 'trip',
        start: { from: 'picked', field: 'programme', column: 'contract' },
      }),
      { kind: 'pick', id: 'to', label: 'To', required: true, list: 'places', section: 'trip' },
      {
        kind: 'date range',
        id: 'dates',
        label: 'Away',
        required: true,
        section: 'trip',
        checks: [
          { formula: 'Nights <= 60', message: 'At most sixty nights: longer is a posting.' },
          {
            formula:
              'Nights <= sum(append(for b in Lodging return days between(b.First night, b.Leaves on), 0)) + count(Legs[Arrives on > Leaves on])',
            message: 'There is a night without a bed. A night on board counts.',
          },
        ],
      },
      {
        kind: 'table',
        id: 'legs',
        label: 'Legs',
        required: true,
        section: 'way',
        help: 'Each crossing or drive, there and back, with the times on the clocks of each place.',
        columns: [
          { id: 'from', label: 'From', kind: 'place' },
          { id: 'leaves-on', label: 'Leaves on', kind: 'date' },
          { id: 'leaves', label: 'Leaves', kind: 'time' },
          { id: 'by', label: 'By', kind: 'choice', options: ['Ferry', 'Relief boat', 'Charter', 'Vehicle'] },
          { id: 'to', label: 'To', kind: 'place' },
          { id: 'arrives-on', label: 'Arrives on', kind: 'date' },
          { id: 'arrives', label: 'Arrives', kind: 'time' },
          { id: 'price', label: 'Price', kind: 'money' },
          { id: 'booking', label: 'Booking', kind: 'text' },
        ],
        checks: [
          {
            formula:
              'every l in Legs satisfies l.Leaves on != null and l.Arrives on != null and l.Leaves != null and l.Arrives != null and l.Price != null',
            message: 'Say of every leg when it leaves and arrives, and what it costs.',
          },
          {
            formula: 'every l in Legs satisfies l.Arrives on >= l.Leaves on',
            message: 'A leg arrives before it leaves.',
          },
          {
            formula:
              'count(Legs) < 2 or (every i in 2..count(Legs) satisfies date and time(Legs[i].Leaves on, Legs[i].Leaves) >= date and time(Legs[i - 1].Arrives on, Legs[i - 1].Arrives))',
            message: 'A leg leaves before the one above it has arrived. Put them in the order of the way.',
          },
          {
            formula: 'min(Legs.Leaves on) >= Away.start and max(Legs.Arrives on) <= Away.end',
            message: 'The legs go beyond the days away.',
          },
        ],
      },
      longText('why-charter', 'Why a charter', true, {
        section: 'way',
        shownWhen: 'some l in Legs satisfies l.By = "Charter"',
      }),
      {
        kind: 'table',
        id: 'lodging',
        label: 'Lodging',
        required: false,
        section: 'way',
        columns: [
          { id: 'where', label: 'Where', kind: 'text' },
          { id: 'first', label: 'First night', kind: 'date' },
          { id: 'leave', label: 'Leaves on', kind: 'date' },
          { id: 'price', label: 'Price', kind: 'money' },
          { id: 'booking', label: 'Booking', kind: 'text' },
        ],
        checks: [
          {
            formula:
              'every b in Lodging satisfies b.First night != null and b.Leaves on != null and b.Leaves on > b.First night and b.Price != null',
            message: 'Say of every bed its first night, the day of leaving it, and what it costs.',
          },
          {
            formula: ordered('Lodging', 'Leaves on', 'First night'),
            message: 'Two beds are taken for the same night.',
          },
        ],
      },
      {
        kind: 'table',
        id: 'vehicles',
        label: 'Vehicles',
        required: false,
        section: 'way',
        help: 'What is hired or taken along at the other end.',
        columns: [
          { id: 'what', label: 'What', kind: 'choice', options: ['Car', 'Van', 'Lorry', 'Boat on a trailer'] },
          { id: 'from', label: 'From', kind: 'date' },
          { id: 'to', label: 'Until', kind: 'date' },
          { id: 'price', label: 'Price', kind: 'money' },
          { id: 'booking', label: 'Booking', kind: 'text' },
        ],
        checks: [
          {
            formula:
              'every v in Vehicles satisfies v.What != null and v.From != null and v.Until != null and v.Until >= v.From and v.Price != null',
            message: 'Say of every vehicle what it is, from when until when, and what it costs.',
          },
          {
            formula: 'every v in Vehicles satisfies v.From >= Away.start and v.Until <= Away.end',
            message: 'A vehicle is taken beyond the days away.',
          },
        ],
      },
      {
        kind: 'document',
        id: 'identity',
        label: 'Identity paper',
        required: false,
        section: 'way',
        expires: true,
        readers: ['Travel desk'],
        help: 'Only the travel desk opens it, and each look is kept.',
      },
      {
        kind: 'money',
        id: 'approved',
        label: 'Approved cost',
        currency: 'EUR',
        required: false,
        section: 'desk',
        askerReads: true,
      },
      { kind: 'files', id: 'itinerary', label: 'Itinerary', required: false, section: 'desk', askerReads: true },
    ],
  },
  access: {
    ask: { approved: 'hidden', itinerary: 'hidden' },
    'book-crossing': { legs: 'required', lodging: 'editable', vehicles: 'editable' },
  },
  figures: [
    { id: 'nights', name: 'Nights', formula: 'nights(Away)', unit: 'number' },
    {
      id: 'working-days',
      name: 'Working days away',
      formula: 'working days between(Away.start - duration("P1D"), Away.end)',
      unit: 'days',
    },
    { id: 'fares', name: 'Fares', formula: 'if count(Legs) = 0 then 0 else sum(Legs.Price)', unit: 'money' },
    { id: 'beds', name: 'Beds', formula: 'if count(Lodging) = 0 then 0 else sum(Lodging.Price)', unit: 'money' },
    { id: 'hire', name: 'Hire', formula: 'if count(Vehicles) = 0 then 0 else sum(Vehicles.Price)', unit: 'money' },
    { id: 'cost', name: 'Cost', formula: 'Fares + Beds + Hire', unit: 'money' },
    {
      id: 'beyond',
      name: 'Beyond the programme',
      formula: 'max(0, Cost - Programme.Trip at most)',
      unit: 'money',
    },
    { id: 'day-parts', name: 'Days paid for', formula: dayParts, unit: 'number' },
    {
      id: 'allowance',
      name: 'Allowance',
      formula: 'row of("Allowances", To).Rate * Days paid for * (if Asker grade >= 4 then 1.2 else 1)',
      unit: 'money',
    },
    {
      id: 'own',
      name: 'The asker pays',
      formula: 'max(0, Beds - row of("Allowances", To).Bed at most * Nights)',
      unit: 'money',
    },
    { id: 'house', name: 'The house pays', formula: 'Cost + Allowance - The asker pays', unit: 'money' },
  ],
  steps: [
    ask,
    {
      verb: 'Record',
      id: 'draft',
      when: null,
      effect: { kind: 'make letter', letter: 'itinerary', field: 'itinerary' },
    },
    decide(
      'lead',
      people(
        { kind: 'person in', field: 'lead' },
        { kind: 'manager', levels: 1 },
        { kind: 'role', role: 'HR partner' },
      ),
      within(2, 'pass up'),
      [approve, again, decline],
      { attach: [{ what: 'files', field: 'itinerary' }] },
    ),
    {
      verb: 'Choose',
      id: 'by-cost',
      when: null,
      rows: [
        {
          id: 'small',
          condition: 'Cost <= 500 and Beyond the programme = 0 and not(some l in Legs satisfies l.By = "Charter")',
          go: { to: 'step', step: 'remember' },
        },
      ],
      otherwise: { to: 'step', step: 'spend' },
    },
    decide(
      'spend',
      people({ kind: 'manager with', what: 'spending limit', least: 'Cost' }, { kind: 'role', role: 'HR partner' }),
      within(3, 'pass up'),
      [approve, again, decline],
      { once: true, attach: [{ what: 'files', field: 'itinerary' }] },
    ),
    { verb: 'Record', id: 'remember', when: null, effect: { kind: 'set', field: 'approved', formula: 'Cost' } },
    task(
      'book-crossing',
      role('Travel desk'),
      'Books the crossing and the bed',
      within(2),
      ['Every leg is booked', 'Beds are booked, where some are needed', 'Prices stand as booked'],
      { couldNot: { to: 'step', step: 'lead' } },
    ),
    {
      verb: 'Choose',
      id: 'dearer',
      when: null,
      rows: [{ id: 'dearer', condition: 'Cost > Approved cost', go: { to: 'step', step: 'tell-dearer' } }],
      otherwise: { to: 'step', step: 'final' },
    },
    { verb: 'Tell', id: 'tell-dearer', when: null, to: [asker], message: 'dearer' },
    {
      verb: 'Choose',
      id: 'again',
      when: null,
      rows: [{ id: 'again', condition: 'Cost > Approved cost', go: { to: 'step', step: 'draft' } }],
      otherwise: { to: 'step', step: 'final' },
    },
    {
      verb: 'Record',
      id: 'final',
      when: null,
      effect: { kind: 'make letter', letter: 'itinerary', field: 'itinerary' },
    },
    { verb: 'Record', id: 'plan', when: null, effect: { kind: 'planner', span: 'dates', label: 'Travelling' } },
    {
      verb: 'Tell',
      id: 'itinerary',
      when: null,
      to: [asker],
      message: 'trip',
      attach: [
        { what: 'files', field: 'itinerary' },
        { what: 'invitation', of: 'legs', title: 'Trip to {To}: {Programme}' },
      ],
    },
    end('done'),
  ],
  messages: [
    message(
      'trip',
      'Your trip',
      'Your trip to {To}: {Away}',
      'Hello {asker},',
      'your trip to {To} is booked: {Away}, {Nights} nights. The itinerary is attached, and your calendar gets the trip.',
    ),
    message(
      'dearer',
      'As booked',
      'Your trip to {To} costs more than was approved',
      'Hello {asker},',
      'as booked, your trip to {To} ({Away}) costs {Cost}; {Approved cost} was approved. It goes to {Programme lead} again ({request}).',
    ),
    message('done', 'Booked', 'Booked: {To}, {Away}', 'Hello {asker},', 'your trip to {To} is booked ({request}).'),
    declined,
  ],
  letters: [
    {
      id: 'itinerary',
      name: 'Itinerary',
      title: 'Itinerary: {subject} to {To}',
      body: [
        '<p>{Away}, {Nights} nights, {Working days away} of work. Programme: {Programme}, contract {Contract}.</p>',
        '<h3>Legs</h3><p>{Legs}</p><h3>Lodging</h3><p>{Lodging}</p>',
        '<h3>Vehicles</h3><p>{Vehicles}</p>',
        '<h3>Money</h3><p>Cost {Cost}. Allowance {Allowance}, for {Days paid for} days. The house pays {The house pays}, the traveller {The asker pays}.</p>',
        '<h3>Decided</h3><p>{decisions}</p>',
        '<p>Times are those on the clocks of each place.</p>',
      ].join(''),
      foot: '{request}, as of {today}',
    },
  ],
  closings: goodAndBad('Booked'),
});

/** What was paid on a trip and is to be paid back: receipts in any currency, by the rate of their day. */
export const expenses = starter('expenses', {
  name: 'Expenses of a trip',
  area: 'Travel',
  tags: ['travel', 'cost'],
  purpose: 'What somebody paid on a trip, with its receipts, to be paid back with their pay.',
  form: {
    sections: [
      { id: 'trip', title: 'The trip' },
      { id: 'paid', title: 'What was paid' },
    ],
    fields: [
      { kind: 'pick', id: 'to', label: 'To', required: true, list: 'places', section: 'trip' },
      { kind: 'date range', id: 'dates', label: 'Away', required: true, section: 'trip' },
      text('request', 'Number of the trip', false, {
        section: 'trip',
        help: 'As R-1234, where it was asked for here.',
      }),
      {
        kind: 'table',
        id: 'receipts',
        label: 'Receipts',
        required: true,
        section: 'paid',
        columns: [
          { id: 'day', label: 'Day', kind: 'date' },
          { id: 'what', label: 'What', kind: 'choice', options: ['Meal', 'Bed', 'Fare', 'Fuel', 'Other'] },
          { id: 'sum', label: 'Sum', kind: 'number' },
          { id: 'currency', label: 'Currency', kind: 'choice', options: ['EUR', 'NOK', 'ISK'] },
          { id: 'note', label: 'Note', kind: 'text' },
        ],
        checks: [
          {
            formula: 'every r in Receipts satisfies r.Day != null and r.Sum != null and r.Currency != null',
            message: 'Say of every receipt its day, its sum and its currency.',
          },
          {
            formula: 'not(some r in Receipts satisfies r.Sum <= 0)',
            message: 'The sum of a receipt is more than nothing.',
          },
          {
            formula: 'every r in Receipts satisfies r.Day >= Away.start and r.Day <= Away.end',
            message: 'A receipt is of a day outside of the trip.',
          },
          {
            formula: 'not(some r in Receipts satisfies in currency(money(r.Sum, r.Currency), "EUR", r.Day) = null)',
            message: 'There is no rate for a currency on its day. HR operations keeps the list Rates.',
          },
        ],
      },
      { kind: 'files', id: 'papers', label: 'Papers', required: true, section: 'paid', most: 20 },
    ],
  },
  figures: [
    {
      id: 'paid',
      name: 'Paid by the asker',
      formula:
        'if count(Receipts) = 0 then 0 else sum(for r in Receipts return to the smallest unit(in currency(money(r.Sum, r.Currency), "EUR", r.Day)))',
      unit: 'money',
    },
  ],
  steps: [
    ask,
    decide('manager', lineManager, within(3, 'pass up'), [approve, sendBack('manager', 'receipts', 'papers'), decline]),
    task('pay', role('Payroll'), 'Pays it back with the next pay', within(10), ['It stands in the run of the month']),
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Paid back',
      'Paid back: {Paid by the asker}',
      'Hello {asker},',
      '{Paid by the asker} for {Away} are paid with your pay ({request}).',
    ),
    declined,
  ],
  closings: goodAndBad('Paid back'),
});
