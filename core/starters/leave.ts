/** Starters for time away. */
import {
  approve,
  ask,
  bookLeave,
  bookLeaveWithReason,
  decide,
  decline,
  declined,
  end,
  goodAndBad,
  leaveDates,
  leaveKind,
  lineManager,
  longText,
  managerAbove,
  message,
  role,
  sendBack,
  starter,
  subjectsManager,
  task,
  tell,
  text,
  within,
} from './pieces.ts';

const booked = message(
  'done',
  'Booked',
  'Booked: {Kind}, {Dates}',
  'Hello {asker},',
  'your leave is booked: {Kind}, {Dates}, {Days}. It is on your team’s planner ({request}).',
);

const figures = [
  { id: 'days', name: 'Days', formula: 'leave days(Dates)', unit: 'days' as const },
  { id: 'balance-after', name: 'Balance after', formula: 'balance after(Kind, Dates)', unit: 'days' as const },
  { id: 'others-away', name: 'Others away', formula: 'others away(Dates)', unit: 'number' as const },
];

export const leave = starter('leave', {
  name: 'Leave',
  area: 'Leave',
  tags: ['time away', 'balance'],
  purpose: 'Days off from the yearly entitlement, with short ones booked at once.',
  form: { fields: [leaveKind('annual', 'family', 'unpaid'), leaveDates, longText('remark', 'Remark')] },
  access: { manager: { kind: 'editable', dates: 'editable' } },
  figures,
  steps: [
    ask,
    {
      verb: 'Choose',
      id: 'by-length',
      when: null,
      rows: [
        { id: 'short', condition: 'Days <= 2 and Others away = 0', go: { to: 'step', step: 'book' } },
        { id: 'long', condition: 'Days > 10', go: { to: 'step', step: 'line' } },
      ],
      otherwise: { to: 'step', step: 'manager' },
    },
    decide('manager', lineManager, within(2, 'pass up'), [
      { ...approve, leads: { to: 'step', step: 'book' } },
      sendBack('by-length', 'dates'),
      decline,
    ]),
    decide(
      'line',
      { first: { kind: 'managers', levels: 2 }, otherwise: [{ kind: 'role', role: 'HR partner' }] },
      within(3),
      [approve, sendBack('by-length', 'dates'), decline],
      { count: 'in turn' },
    ),
    bookLeaveWithReason,
    end('done'),
  ],
  messages: [booked, declined],
  closings: goodAndBad('Booked'),
});

export const compensationTime = starter('compensation-time', {
  name: 'Compensation time',
  area: 'Leave',
  tags: ['time away', 'extra hours'],
  purpose: 'Time off for extra hours already worked.',
  form: {
    fields: [
      leaveKind('compensation'),
      leaveDates,
      text('earned-with', 'Earned with', true, { help: 'The work the hours come from.' }),
    ],
  },
  figures: figures.slice(0, 2),
  steps: [
    ask,
    decide('manager', lineManager, within(3, 'pass up'), [
      approve,
      sendBack('manager', 'dates', 'earned-with'),
      decline,
    ]),
    bookLeave,
    end('done'),
  ],
  messages: [booked, declined],
  closings: goodAndBad('Booked'),
});

export const sickLeave = starter('sick-leave', {
  name: 'Sick leave',
  area: 'Leave',
  tags: ['time away', 'papers'],
  purpose: 'Days of illness, also without a last day: on the planner at once, with a doctor’s note for longer ones.',
  form: {
    fields: [
      leaveKind('sick'),
      leaveDates,
      longText('reason', 'Reason', false, { readers: ['HR partner'], help: 'Only the HR partner reads it.' }),
      {
        kind: 'document',
        id: 'note',
        label: 'Doctor’s note',
        required: false,
        expires: false,
        takes: ['PDF', 'picture'],
        readers: ['HR partner'],
      },
    ],
  },
  // Told by oneself or by the manager; back earlier or later than thought is told the same way, and holds at once.
  opening: { forWhom: ['self', 'report'] },
  afterwards: { change: 'at once', cancel: 'at once' },
  figures: [
    ...figures.slice(0, 1),
    { id: 'paper-day', name: 'Paper day', formula: 'paper due(Kind, Dates)', unit: 'date' },
    { id: 'needs-note', name: 'Needs note', formula: 'Paper day != null', unit: 'yes/no' },
  ],
  steps: [
    ask,
    bookLeave,
    tell('tell-manager', 'away', [subjectsManager]),
    {
      verb: 'Split',
      id: 'meanwhile',
      when: null,
      needs: 'all',
      lanes: [
        {
          id: 'back',
          name: 'Back at work',
          steps: [
            {
              verb: 'Hold',
              id: 'until-back',
              when: 'Dates.end = null',
              until: { kind: 'last day', field: 'dates', remind: { every: { workingDays: 5 }, atMost: 20 } },
            },
          ],
        },
        {
          id: 'papers',
          name: 'The doctor’s note',
          steps: [
            {
              verb: 'Hold',
              id: 'some-days',
              when: 'Dates.end = null and Needs note',
              until: { kind: 'date', formula: 'Paper day' },
            },
            {
              verb: 'Hold',
              id: 'paper',
              when: 'Needs note',
              until: { kind: 'document', field: 'note', remind: { every: { workingDays: 2 }, atMost: 5 } },
            },
            task('check', role('HR partner'), 'Checks the doctor’s note', within(3), ['The note covers these days'], {
              when: 'Needs note',
            }),
          ],
        },
      ],
    },
    end('done'),
  ],
  messages: [
    booked,
    message('away', 'Somebody is ill', '{asker} is away, {Dates}', '{asker} is away, {Dates}. It is on the planner.'),
  ],
  closings: [{ id: 'done', name: 'On file', tone: 'good', message: 'done' }],
});

export const daysBoughtOrSold = starter('days-bought-or-sold', {
  name: 'Days bought or sold',
  area: 'Leave',
  tags: ['balance', 'pay'],
  purpose: 'Days of annual leave bought with pay, or sold for it.',
  form: {
    fields: [
      leaveKind('annual'),
      { kind: 'choice', id: 'what', label: 'What', required: true, options: ['Buy', 'Sell'] },
      {
        kind: 'decimal',
        id: 'number',
        label: 'How many',
        help: 'In days, or in hours where your plan counts hours.',
        required: true,
        least: 0.5,
        most: 100,
        checks: [
          {
            formula: 'What != "Sell" or How many <= Left',
            message: 'There is not so much left to sell.',
          },
        ],
      },
      longText('reason', 'Reason'),
    ],
  },
  figures: [{ id: 'left', name: 'Left', formula: 'balance(Kind, today())', unit: 'number' }],
  steps: [
    ask,
    decide('manager', lineManager, within(5, 'pass up'), [approve, sendBack('manager', 'what', 'number'), decline]),
    task('pay', role('HR partner'), 'Agrees the pay for it', within(5), ['Payroll knows what is paid or taken off']),
    {
      verb: 'Record',
      id: 'adjust',
      when: null,
      effect: { kind: 'adjust', type: 'kind', amount: 'if What = "Buy" then How many else -How many' },
    },
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Agreed',
      'Agreed: {What} {How many}',
      'Hello {asker},',
      '{What}: {How many}, {Kind}. It stands on your statement ({request}).',
    ),
    declined,
  ],
  closings: goodAndBad('Agreed'),
});

export const daysGiven = starter('days-given', {
  name: 'Days given',
  area: 'Leave',
  tags: ['balance', 'colleague'],
  purpose: 'Days of one’s own annual leave given to a colleague who needs them.',
  form: {
    fields: [
      leaveKind('annual'),
      { kind: 'person', id: 'to', label: 'To', required: true },
      {
        kind: 'decimal',
        id: 'number',
        label: 'How many',
        help: 'In days, or in hours where your plan counts hours. You keep at least 20.',
        required: true,
        least: 0.5,
        most: 10,
        checks: [{ formula: 'How many <= Left - 20', message: 'You keep at least 20. Give fewer.' }],
      },
      longText('reason', 'Reason', true),
    ],
  },
  figures: [{ id: 'left', name: 'Left', formula: 'balance(Kind, today())', unit: 'number' }],
  steps: [
    ask,
    decide('manager', lineManager, within(5, 'pass up'), [approve, decline]),
    { verb: 'Record', id: 'less', when: null, effect: { kind: 'adjust', type: 'kind', amount: '-How many' } },
    {
      verb: 'Record',
      id: 'more',
      when: null,
      effect: { kind: 'adjust', type: 'kind', amount: 'How many', holder: 'to' },
    },
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Given',
      'Given: {How many} of {Kind}',
      'Hello {asker},',
      '{How many} of {Kind} went from your balance to that of {To}. Both statements show it ({request}).',
    ),
    declined,
  ],
  closings: goodAndBad('Given'),
});

/** What an hour counts on the balance, by what the work was. */
const factors = [
  { name: 'Worked over', factor: 1 },
  { name: 'On call', factor: 0.5 },
  { name: 'Travelled', factor: 0.5 },
  { name: 'Called out at night', factor: 1.5 },
];

export const timeEarned = starter('time-earned', {
  name: 'Time earned',
  area: 'Leave',
  tags: ['balance', 'extra hours'],
  purpose: 'Hours worked over, on call or travelled, put on the balance as time off.',
  form: {
    fields: [
      leaveKind('compensation'),
      { kind: 'date', id: 'worked-on', label: 'Worked on', required: true },
      { kind: 'choice', id: 'work', label: 'Kind of work', required: true, options: factors.map(one => one.name) },
      {
        kind: 'decimal',
        id: 'hours',
        label: 'Hours',
        help: 'As worked; what they count is worked out.',
        required: true,
        least: 0.25,
        most: 60,
      },
      longText('what', 'What it was', true),
    ],
  },
  figures: [
    {
      id: 'counted',
      name: 'Hours counted',
      formula: `Hours * (${factors
        .slice(0, -1)
        .map(({ name, factor }) => `if Kind of work = "${name}" then ${factor} else `)
        .join('')}${factors.at(-1)?.factor})`,
      unit: 'number',
    },
  ],
  steps: [
    ask,
    decide('manager', lineManager, within(5, 'pass up'), [
      approve,
      sendBack('manager', 'worked-on', 'work', 'hours', 'what'),
      decline,
    ]),
    { verb: 'Record', id: 'adjust', when: null, effect: { kind: 'adjust', type: 'kind', amount: 'Hours counted' } },
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Put on the balance',
      'On your balance: {Hours counted} hours',
      'Hello {asker},',
      'your {Hours} hours of {Worked on} ({Kind of work}) count {Hours counted} hours of time off. They are on your statement ({request}).',
    ),
    declined,
  ],
  closings: goodAndBad('Put on the balance'),
});

export const studyLeave = starter('study-leave', {
  name: 'Study leave',
  area: 'Leave',
  tags: ['time away', 'training'],
  purpose: 'Days for a course, with its papers.',
  form: {
    fields: [
      leaveKind('study', 'sea-survival'),
      leaveDates,
      text('course', 'Course'),
      { kind: 'document', id: 'invitation', label: 'Invitation to the course', required: false, expires: false },
    ],
  },
  figures: figures.slice(0, 1),
  steps: [
    ask,
    decide('manager', lineManager, within(3, 'pass up')),
    decide('above', managerAbove, within(3), [approve, decline], { when: 'Days > 5', once: true }),
    { verb: 'Hold', id: 'papers', when: null, until: { kind: 'document', field: 'invitation' } },
    bookLeave,
    tell('tell-manager', 'away', [lineManager]),
    end('done'),
  ],
  messages: [
    booked,
    declined,
    message(
      'away',
      'Away on a course',
      '{asker} will be on a course: {Dates}',
      '{asker} takes {Days} for “{Course}”, {Dates}.',
    ),
  ],
  closings: goodAndBad('Booked'),
});

export const changeOfHours = starter('change-of-hours', {
  name: 'Change of hours',
  area: 'Working time',
  tags: ['part-time', 'contract'],
  purpose: 'Work more or fewer hours from a day on.',
  form: {
    fields: [
      {
        kind: 'decimal',
        id: 'share',
        label: 'Share of full time',
        help: '1 is full time, 0.6 is three days.',
        required: true,
        least: 0.2,
        most: 1,
      },
      {
        kind: 'date',
        id: 'from',
        label: 'From',
        required: true,
        checks: [{ formula: 'Notice >= 28', message: 'Ask at least four weeks ahead.' }],
      },
      longText('reason', 'Reason'),
    ],
  },
  figures: [{ id: 'notice', name: 'Notice', formula: 'days between(today(), From)', unit: 'days' }],
  steps: [
    ask,
    decide('manager', lineManager, within(5, 'pass up'), [approve, sendBack('manager', 'share', 'from'), decline]),
    decide('above', managerAbove, within(5), [approve, decline], { once: true }),
    {
      verb: 'Record',
      id: 'record',
      when: null,
      effect: { kind: 'person', property: 'full-time share', formula: 'Share of full time' },
    },
    tell('tell-manager', 'changed', [lineManager]),
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Agreed',
      'Agreed: {Share of full time} from {From}',
      'Hello {asker},',
      'from {From} on you work {Share of full time} of full time ({request}).',
    ),
    message(
      'changed',
      'Hours changed',
      '{asker}: {Share of full time} from {From}',
      '{asker} works {Share of full time} of full time from {From} on.',
    ),
    declined,
  ],
  closings: goodAndBad('Agreed'),
});
