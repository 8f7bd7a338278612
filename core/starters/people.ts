/** Starters for people coming, going and moving. */
import type { SingleRule } from '../people/index.ts';
import { joinersFields, joinersSections } from './joiner.ts';
import {
  approve,
  ask,
  asker,
  before,
  byPlan,
  decide,
  decline,
  declined,
  end,
  goodAndBad,
  longText,
  message,
  people,
  role,
  sendBack,
  starter,
  subjectsManager,
  task,
  tell,
  text,
  within,
} from './pieces.ts';

const hr: SingleRule = { kind: 'role', role: 'HR partner' };
/** A joiner is not on file yet: their manager is whoever stands above the post, their HR that of its place. */
const abovePost = people({ kind: 'above post in', field: 'post' }, hr);
const hrOfPost = people({ ...hr, within: 'place', of: { post: 'post' } }, hr);

export const newColleague = starter('new-colleague', {
  name: 'New colleague',
  area: 'Joining',
  tags: ['onboarding', 'countback'],
  purpose: 'Everything that must be ready on somebody’s first day, counted back from it.',
  opening: { forWhom: ['self', 'joiner', 'report'] },
  // Whoever never comes: all that was made for them is taken back.
  afterwards: { change: 'not', cancel: 'at once' },
  form: {
    sections: [
      { id: 'person', title: 'Who and when' },
      { id: 'needs', title: 'What they need' },
      { id: 'papers', title: 'Papers' },
      ...joinersSections,
    ],
    fields: [
      text('name', 'Name', true, { section: 'person' }),
      { kind: 'pick', id: 'post', label: 'Post', required: true, list: 'posts', section: 'person' },
      {
        kind: 'date',
        id: 'start',
        label: 'Start date',
        required: true,
        section: 'person',
      },
      {
        kind: 'several choices',
        id: 'kit',
        label: 'Kit',
        required: false,
        options: ['Oilskins', 'Radio', 'Laptop', 'Keys'],
        section: 'needs',
      },
      { kind: 'yes/no', id: 'boat', label: 'Works on a boat', required: true, section: 'needs' },
      {
        kind: 'text',
        id: 'account',
        label: 'Account name',
        required: false,
        section: 'papers',
        askerReads: true,
      },
      text('private-mail', 'Private mail', true, {
        section: 'person',
        help: 'Where their personal link goes: they have no address here yet.',
      }),
      longText('remark', 'Remark', false, { section: 'needs' }),
      ...joinersFields,
    ],
  },
  countsBack: {
    field: 'start',
    place: 'post',
    notice: 12,
    tightWithin: 2,
    alert: {
      workingDays: 8,
      tell: hrOfPost,
    },
  },
  access: {
    ask: { account: 'hidden' },
    systems: { account: 'required' },
  },
  figures: [],
  steps: [
    ask,
    decide('agree', abovePost, within(2, 'pass up'), [approve, sendBack('agree', 'start', 'post'), decline], {
      plan: { takes: 2 },
    }),
    {
      verb: 'Split',
      id: 'ready',
      when: null,
      needs: 'all',
      lanes: [
        {
          id: 'stores',
          name: 'Stores',
          steps: [
            task(
              'stores-kit',
              role('Stores desk'),
              'Lays out the kit',
              byPlan,
              ['Kit is laid out', 'Locker has a name'],
              { plan: { takes: 3, daysBefore: 3 } },
            ),
          ],
        },
        {
          id: 'systems',
          name: 'Systems',
          steps: [
            task('systems', role('Access steward'), 'Prepares the account', byPlan, ['Account name is chosen'], {
              plan: { takes: 2, daysBefore: 2, after: ['contract'] },
            }),
            {
              verb: 'Provision',
              id: 'account',
              when: null,
              connection: 'Directory',
              action: 'create account',
              values: [
                { name: 'name', formula: 'Name' },
                { name: 'account', formula: 'Account name' },
                { name: 'title', formula: 'Post' },
                { name: 'place', formula: 'Post.Place' },
                { name: 'department', formula: 'Post.Department' },
                { name: 'welcome', formula: 'Private mail' },
              ],
              // Two of one name get two accounts: the one that was made is that which stands in the form then.
              waits: true,
              fills: [{ from: 'account', field: 'account' }],
            },
          ],
        },
        {
          id: 'pay',
          name: 'People and Pay',
          steps: [
            task(
              'contract',
              role('Payroll'),
              'Prepares the contract',
              byPlan,
              ['Pay and hours are agreed', 'The contract is right'],
              { plan: { takes: 4, daysBefore: 5 } },
            ),
          ],
        },
        {
          id: 'own',
          name: 'Their own papers',
          steps: [
            task(
              'joiner',
              hrOfPost,
              'Looks through the papers',
              byPlan,
              ['Name and day of birth are those of the identity paper'],
              {
                plan: { takes: 5, daysBefore: 3 },
                guest: {
                  name: 'name',
                  mail: 'private-mail',
                  sections: joinersSections.map(section => section.id),
                  days: 60,
                  remind: { everyDays: 3, atMost: 5 },
                },
              },
            ),
            {
              verb: 'Record',
              id: 'keep-card',
              when: null,
              effect: { kind: 'keep paper', field: 'id-card', as: 'Identity card', holder: 'name' },
            },
            {
              verb: 'Record',
              id: 'keep-permit',
              when: 'Citizenship = "Of another country"',
              effect: { kind: 'keep paper', field: 'permit', as: 'Permit to work', holder: 'name' },
            },
          ],
        },
        {
          id: 'sea',
          name: 'Sea safety',
          steps: [
            task(
              'drill',
              people({ kind: 'post in', field: 'post' }, { kind: 'role', role: 'HR partner' }),
              'Plans the safety drill',
              byPlan,
              [],
              { when: 'Works on a boat', plan: { takes: 2, daysBefore: 1 } },
            ),
          ],
        },
      ],
    },
    {
      verb: 'Record',
      id: 'on-file',
      when: null,
      effect: {
        kind: 'add person',
        values: [
          { name: 'name', formula: 'Name' },
          { name: 'first day', formula: 'Start date' },
          { name: 'post', formula: 'Post' },
        ],
      },
    },
    { verb: 'Hold', id: 'day-before', when: null, until: { kind: 'before', workingDays: 1, field: 'start' } },
    tell('welcome', 'tomorrow', [asker, abovePost]),
    end('done'),
  ],
  messages: [
    message(
      'tomorrow',
      'Starts tomorrow',
      '{Name} starts on {Start date}',
      '{Name} begins as {Post} on {Start date}. Everything is ready: {Kit}.',
    ),
    message(
      'done',
      'Ready',
      'Ready for {Name}',
      'Hello {asker},',
      'all is ready for {Name}, who starts on {Start date} ({request}).',
    ),
    declined,
  ],
  closings: goodAndBad('Ready'),
});

export const leaver = starter('leaver', {
  name: 'Leaver',
  area: 'Leaving',
  tags: ['offboarding', 'countback'],
  purpose: 'A calm last day: handover, things returned, access closed on time.',
  opening: { forWhom: ['self', 'report'] },
  form: {
    fields: [
      { kind: 'date', id: 'last-day', label: 'Last day', required: true },
      {
        kind: 'choice',
        id: 'why',
        label: 'Why',
        required: true,
        options: ['Own wish', 'End of contract', 'Retirement', 'Other'],
      },
      { kind: 'person', id: 'takes-over', label: 'Takes over', required: false },
      longText('remark', 'Remark'),
    ],
  },
  access: { stores: { remark: 'hidden', why: 'hidden' }, steward: { remark: 'hidden', why: 'hidden' } },
  figures: [
    { id: 'days-left', name: 'Days left', formula: 'days between(today(), Last day)', unit: 'days' },
    { id: 'leave-left', name: 'Leave left', formula: 'balance("annual", Last day)', unit: 'days' },
  ],
  countsBack: {
    field: 'last-day',
    tightWithin: 1,
    alert: {
      workingDays: 3,
      tell: people({ ...hr, within: 'place', of: 'subject' }, hr),
    },
  },
  steps: [
    ask,
    decide('agree', subjectsManager, within(3, 'pass up'), [approve, sendBack('agree', 'last-day', 'takes-over')]),
    // What is agreed stands on file before anything is done about it: whatever else counts by it then does.
    {
      verb: 'Record',
      id: 'on-file',
      when: null,
      effect: { kind: 'person', property: 'last day', formula: 'Last day' },
    },
    {
      verb: 'Split',
      id: 'going',
      when: null,
      needs: 'all',
      lanes: [
        {
          id: 'handover',
          name: 'Handover',
          steps: [
            task(
              'handover',
              subjectsManager,
              'Agrees the handover',
              byPlan,
              ['What is open is written down', 'Somebody takes over'],
              { plan: { takes: 5, daysBefore: 4 } },
            ),
          ],
        },
        {
          id: 'pay',
          name: 'People and Pay',
          steps: [
            task(
              'pay',
              role('Payroll'),
              'Settles the leave that is left with the last pay',
              byPlan,
              ['What is booked until the last day is right', 'What is left is paid, or what is too much is taken off'],
              { plan: { takes: 2, daysBefore: 2 } },
            ),
          ],
        },
        {
          id: 'stores',
          name: 'Stores',
          steps: [
            task('stores', role('Stores desk'), 'Takes things back', before(0, 'last-day'), [
              'Keys',
              'Oilskins',
              'Laptop',
            ]),
          ],
        },
        {
          id: 'access',
          name: 'Systems',
          steps: [
            task('steward', role('Access steward'), 'Lists the access to close', byPlan, [], {
              plan: { takes: 2, daysBefore: 1 },
            }),
            {
              verb: 'Hold',
              id: 'until-last-day',
              when: null,
              until: { kind: 'date', formula: 'Last day', at: '17:00' },
            },
            {
              verb: 'Provision',
              id: 'shut',
              when: null,
              connection: 'Directory',
              action: 'disable account',
              values: [{ name: 'person', formula: 'Subject' }],
            },
          ],
        },
      ],
    },
    end('done'),
  ],
  messages: [
    message(
      'done',
      'All done',
      'All done for {Last day}',
      'Hello {asker},',
      'everything for the last day on {Last day} is done ({request}). Thank you.',
    ),
  ],
  closings: [{ id: 'done', name: 'Left in order', tone: 'good', message: 'done' }],
});
