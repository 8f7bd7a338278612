/** Starters for access, spaces and equipment. */
import {
  approve,
  ask,
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
      { count: 'majority', undecided: 'decline' },
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
