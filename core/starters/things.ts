/** Starters for travel, access, spaces and equipment. */
import {
  approve,
  ask,
  asker,
  close,
  decide,
  decline,
  declined,
  end,
  goodAndBad,
  lineManager,
  longText,
  managerAbove,
  message,
  on,
  people,
  role,
  sendBack,
  starter,
  task,
  tell,
  text,
  within,
} from './pieces.ts';

export const crossing = starter('crossing-and-lodging', {
  name: 'Crossing and lodging',
  area: 'Travel',
  tags: ['travel', 'cost'],
  purpose: 'A trip to another station: programme, boat or charter, a bed, and who pays.',
  form: {
    sections: [
      { id: 'trip', title: 'The trip' },
      { id: 'cost', title: 'What it costs' },
    ],
    fields: [
      { kind: 'pick', id: 'programme', label: 'Programme', required: true, list: 'programmes', section: 'trip' },
      {
        kind: 'person',
        id: 'lead',
        label: 'Programme lead',
        required: true,
        section: 'trip',
        start: { from: 'picked', field: 'programme', column: 'lead' },
      },
      { kind: 'date range', id: 'dates', label: 'Away', required: true, section: 'trip' },
      text('to', 'To', true, { section: 'trip' }),
      {
        kind: 'choice',
        id: 'how',
        label: 'How',
        required: true,
        options: ['Ferry', 'Relief boat', 'Charter'],
        section: 'trip',
      },
      longText('why-charter', 'Why a charter', true, { section: 'trip', shownWhen: 'How = "Charter"' }),
      { kind: 'yes/no', id: 'bed', label: 'Lodging needed', required: true, section: 'trip' },
      {
        kind: 'table',
        id: 'costs',
        label: 'Costs',
        required: false,
        section: 'cost',
        columns: [
          { id: 'what', label: 'What', kind: 'text' },
          { id: 'amount', label: 'Amount', kind: 'money' },
        ],
      },
      text('booking', 'Booking number', false, { section: 'cost', askerReads: true }),
    ],
  },
  access: { ask: { booking: 'hidden' }, 'book-crossing': { booking: 'required' } },
  figures: [
    { id: 'nights', name: 'Nights', formula: 'nights(Away)', unit: 'number' },
    { id: 'cost', name: 'Cost', formula: 'if count(Costs) = 0 then 0 else sum(Costs.Amount)', unit: 'money' },
  ],
  steps: [
    ask,
    decide(
      'lead',
      people(
        { kind: 'person in', field: 'lead' },
        { kind: 'manager', levels: 1 },
        { kind: 'role', role: 'HR partner' },
      ),
      within(2, 'pass up'),
      [approve, sendBack('lead', 'dates', 'how', 'costs'), decline],
    ),
    {
      verb: 'Choose',
      id: 'by-cost',
      when: null,
      rows: [
        { id: 'small', condition: 'Cost <= 500 and How != "Charter"', go: { to: 'step', step: 'book-crossing' } },
        { id: 'large', condition: 'Cost > 500 or How = "Charter"', go: { to: 'step', step: 'spend' } },
      ],
      otherwise: { to: 'step', step: 'spend' },
    },
    decide(
      'spend',
      people({ kind: 'manager with', what: 'spending limit', least: 'Cost' }, { kind: 'role', role: 'HR partner' }),
      within(3, 'pass up'),
      [approve, sendBack('lead', 'dates', 'how', 'costs'), decline],
      { once: true },
    ),
    task(
      'book-crossing',
      role('Travel desk'),
      'Books the crossing and the bed',
      within(2),
      ['Crossing is booked', 'Bed is booked, if one is needed'],
      { couldNot: { to: 'step', step: 'lead' } },
    ),
    { verb: 'Record', id: 'plan', when: null, effect: { kind: 'planner', span: 'dates', label: 'Travelling' } },
    {
      verb: 'Tell',
      id: 'itinerary',
      when: null,
      to: [asker],
      message: 'trip',
      attach: [{ what: 'invitation', of: 'dates', title: 'Crossing: {Programme}' }],
    },
    end('done'),
  ],
  messages: [
    message(
      'trip',
      'Your trip',
      'Your trip to {To}: {Away}',
      'Hello {asker},',
      'you travel to {To} by {How}, {Away}, {Nights} nights. Booking number: {Booking number}.',
    ),
    message('done', 'Booked', 'Booked: {To}, {Away}', 'Hello {asker},', 'your trip to {To} is booked ({request}).'),
    declined,
  ],
  closings: goodAndBad('Booked'),
});

export const consoleAccess = starter('console-access', {
  name: 'Console access',
  area: 'Access',
  tags: ['access', 'review'],
  purpose: 'Access to a console for as long as it is needed, and looked at again.',
  form: {
    fields: [
      { kind: 'pick', id: 'group', label: 'Console', required: true, list: 'groups' },
      {
        kind: 'date',
        id: 'until',
        label: 'Until',
        required: true,
        checks: [
          { formula: 'Length <= 365', message: 'At most a year; ask again then.' },
          { formula: 'Length > 0', message: 'Choose a day ahead.' },
        ],
      },
      longText('why', 'What for', true),
    ],
  },
  figures: [{ id: 'length', name: 'Length', formula: 'days between(today(), Until)', unit: 'days' }],
  steps: [
    ask,
    decide('manager', lineManager, within(2, 'pass up'), [approve, sendBack('manager', 'until', 'why'), decline]),
    task('grant', role('Access steward'), 'Checks what the access allows', within(1), ['Least access that will do'], {
      couldNot: { to: 'close', closing: 'declined' },
    }),
    {
      verb: 'Provision',
      id: 'add',
      when: null,
      connection: 'Directory',
      action: 'add to group',
      values: [
        { name: 'group', formula: 'Console' },
        { name: 'person', formula: 'Subject' },
      ],
      removeOn: 'Until',
      waits: true,
    },
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Access given',
      'You have access to {Console}',
      'Hello {asker},',
      'you have access to {Console} until {Until} ({request}).',
    ),
    declined,
  ],
  closings: goodAndBad('Access given'),
});

/** One access looked at again, by whoever answers for it; a round over all of them is a place of its own. */
export const accessReview = starter('access-review', {
  name: 'Access review',
  area: 'Access',
  tags: ['access', 'review'],
  purpose: 'Whether somebody still needs an access: the owner says so, and what is not needed is taken away.',
  form: {
    fields: [
      { kind: 'person', id: 'who', label: 'Whose access', required: true },
      { kind: 'pick', id: 'group', label: 'Console', required: true, list: 'groups' },
      {
        kind: 'person',
        id: 'owner',
        label: 'Owner',
        required: true,
        start: { from: 'picked', field: 'group', column: 'steward' },
      },
      longText('why', 'Why it is looked at', true),
    ],
  },
  figures: [],
  steps: [
    ask,
    decide(
      'owner',
      people({ kind: 'person in', field: 'owner' }, { kind: 'role', role: 'HR partner' }),
      within(5, 'pass up'),
      [
        { id: 'stays', label: 'It stays', tone: 'good', note: 'may', leads: close('stays') },
        { id: 'taken', label: 'Take it away', tone: 'bad', note: 'must', leads: on },
      ],
    ),
    {
      verb: 'Provision',
      id: 'take',
      when: null,
      connection: 'Directory',
      action: 'take out of group',
      values: [
        { name: 'group', formula: 'Console' },
        { name: 'person', formula: 'Whose access' },
      ],
      waits: true,
    },
    end('taken'),
  ],
  messages: [
    message(
      'stays',
      'It stays',
      '{Whose access} keeps {Console}',
      'Hello {asker},',
      'the access of {Whose access} to {Console} was looked at again, and it stays ({request}).',
    ),
    message(
      'taken',
      'Taken away',
      '{Whose access} has {Console} no more',
      'Hello {asker},',
      'the access of {Whose access} to {Console} was looked at again, and it is taken away ({request}).',
    ),
  ],
  closings: [
    { id: 'stays', name: 'It stays', tone: 'good', message: 'stays' },
    { id: 'taken', name: 'Taken away', tone: 'good', message: 'taken' },
  ],
});

export const sharedSpace = starter('shared-space', {
  name: 'Shared space',
  area: 'Access',
  tags: ['access', 'space'],
  purpose: 'A place to keep papers together, with a name that can be found and an owner who answers for it.',
  form: {
    fields: [
      text('title', 'Title', true, {
        checks: [{ formula: 'string length(Title) >= 4', message: 'Use at least four letters.' }],
      }),
      { kind: 'choice', id: 'kind', label: 'Kind of space', required: true, options: ['Team', 'Project', 'Station'] },
      { kind: 'person', id: 'owner', label: 'Owner', required: true, start: { from: 'known', fact: 'manager' } },
      {
        kind: 'yes/no',
        id: 'guests',
        label: 'Guests from outside',
        required: true,
        start: { from: 'fixed', value: false },
      },
    ],
  },
  figures: [
    {
      id: 'name',
      name: 'Space name',
      formula:
        'if Kind of space = "Team" then "T " + Title else if Kind of space = "Project" then "P " + Title else "S " + Title',
      unit: 'text',
    },
  ],
  steps: [
    ask,
    decide(
      'owner',
      people(
        { kind: 'person in', field: 'owner' },
        { kind: 'manager', levels: 1 },
        { kind: 'role', role: 'HR partner' },
      ),
      within(2, 'pass up'),
    ),
    decide('guests', managerAbove, within(2), [approve, decline], { when: 'Guests from outside', once: true }),
    {
      verb: 'Provision',
      id: 'create',
      when: null,
      connection: 'Directory',
      action: 'create space',
      values: [
        { name: 'name', formula: 'Space name' },
        { name: 'owner', formula: 'Owner' },
        { name: 'guests', formula: 'Guests from outside' },
      ],
    },
    tell('tell-owner', 'yours', [people({ kind: 'person in', field: 'owner' })]),
    end('done'),
  ],
  messages: [
    message(
      'yours',
      'You own a space',
      'You own {Space name}',
      '{asker} asked for the space {Space name}, and you own it.',
    ),
    message('done', 'Ready', '{Space name} is ready', 'Hello {asker},', 'the space {Space name} is there ({request}).'),
    declined,
  ],
  closings: goodAndBad('Ready'),
});

export const equipment = starter('equipment', {
  name: 'Equipment',
  area: 'Equipment',
  tags: ['stores', 'cost'],
  purpose: 'Something from the stores, or something to be bought.',
  form: {
    fields: [
      { kind: 'pick', id: 'thing', label: 'Thing', required: true, list: 'equipment' },
      {
        kind: 'whole number',
        id: 'many',
        label: 'How many',
        required: true,
        least: 1,
        most: 50,
        start: { from: 'fixed', value: 1 },
      },
      { kind: 'date', id: 'by', label: 'Needed by', required: true },
      longText('why', 'What for'),
      text('shelf', 'Shelf or order number', false, { askerReads: true }),
    ],
  },
  access: { ask: { shelf: 'hidden' }, hand: { shelf: 'required' } },
  figures: [{ id: 'cost', name: 'Cost', formula: 'Thing.Price * How many', unit: 'money' }],
  steps: [
    ask,
    {
      verb: 'Choose',
      id: 'by-cost',
      when: null,
      rows: [
        { id: 'small', condition: 'Cost < 100', go: { to: 'step', step: 'hand' } },
        { id: 'middle', condition: 'Cost in [100..1000]', go: { to: 'step', step: 'manager' } },
        { id: 'large', condition: 'Cost > 1000', go: { to: 'step', step: 'board' } },
      ],
      otherwise: null,
    },
    decide('manager', lineManager, within(2, 'pass up'), [
      { ...approve, leads: { to: 'step', step: 'hand' } },
      sendBack('by-cost', 'thing', 'many'),
      decline,
    ]),
    decide(
      'board',
      { first: { kind: 'managers', levels: 3 }, otherwise: [{ kind: 'role', role: 'HR partner' }] },
      within(3),
      [approve, sendBack('by-cost', 'thing', 'many'), decline],
      { count: 'majority' },
    ),
    task('hand', role('Stores desk'), 'Hands it out or orders it', within(3), [], {
      couldNot: { to: 'close', closing: 'declined' },
    }),
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Here',
      'Your {Thing}',
      'Hello {asker},',
      '{How many} × {Thing}: {Shelf or order number} ({request}).',
    ),
    declined,
  ],
  closings: goodAndBad('Handed out'),
});
