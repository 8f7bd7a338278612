/** Starters for what is on file: a name, a paper, a post. */
import {
  approve,
  ask,
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
  text,
  within,
} from './pieces.ts';

export const recordChange = starter('record-change', {
  name: 'Change of name',
  area: 'Records',
  tags: ['records'],
  purpose: 'A new name on file, with the paper that shows it.',
  form: {
    fields: [
      text('was', 'Name on file', true, { start: { from: 'known', fact: 'name' } }),
      text('new-name', 'New name'),
      { kind: 'date', id: 'from', label: 'From', required: true },
      { kind: 'document', id: 'proof', label: 'Paper that shows it', required: false, expires: false },
    ],
  },
  figures: [],
  steps: [
    ask,
    { verb: 'Hold', id: 'paper', when: null, until: { kind: 'document', field: 'proof' } },
    task('check', role('Payroll'), 'Checks the paper', within(3), ['The name on the paper is the new name'], {
      couldNot: { to: 'close', closing: 'declined' },
    }),
    { verb: 'Record', id: 'record', when: null, effect: { kind: 'person', property: 'name', formula: 'New name' } },
    {
      verb: 'Provision',
      id: 'rename',
      when: null,
      connection: 'Directory',
      action: 'change account',
      values: [
        { name: 'person', formula: 'Subject' },
        { name: 'name', formula: 'New name' },
      ],
    },
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Changed',
      'You are on file as {New name}',
      'Hello {New name},',
      'your new name is on file from {From} on ({request}).',
    ),
    declined,
  ],
  closings: goodAndBad('Changed', 'Not shown'),
});

export const renewal = starter('renewal', {
  name: 'Renewal of papers',
  area: 'Records',
  tags: ['records', 'papers'],
  purpose: 'The new one of a paper that runs out; it opens by itself in good time.',
  form: {
    fields: [
      text('paper', 'Paper', true, { help: 'Identity card, permit, safety certificate.' }),
      { kind: 'date', id: 'runs-out', label: 'Runs out', required: true },
      {
        kind: 'document',
        id: 'new-paper',
        label: 'New paper',
        required: false,
        expires: true,
        numbered: true,
        takes: ['PDF', 'picture'],
      },
    ],
  },
  figures: [],
  steps: [
    ask,
    { verb: 'Hold', id: 'new', when: null, until: { kind: 'document', field: 'new-paper' } },
    task(
      'check',
      people({ kind: 'role', role: 'HR partner', within: 'place' }, { kind: 'role', role: 'HR partner' }),
      'Checks the new paper',
      within(3),
      ['Name and number can be read', 'It is valid'],
      { couldNot: { to: 'close', closing: 'declined' } },
    ),
    {
      verb: 'Record',
      id: 'keep',
      when: null,
      effect: { kind: 'keep paper', field: 'new-paper', as: '{Paper}' },
    },
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Accepted',
      'Your new paper is accepted',
      'Hello {asker},',
      'your new paper is on file ({request}). Thank you.',
    ),
    declined,
  ],
  closings: goodAndBad('Accepted', 'Not accepted'),
});

export const changeOfPost = starter('change-of-post', {
  name: 'Change of post or place',
  area: 'Records',
  tags: ['records', 'access', 'countback'],
  purpose: 'Another post, at another place maybe: the record, the account and what goes with the old post, on the day.',
  opening: { forWhom: ['self', 'report'] },
  form: {
    fields: [
      { kind: 'pick', id: 'post', label: 'New post', required: true, list: 'posts' },
      { kind: 'date', id: 'from', label: 'From', required: true },
      longText('keeps', 'What they keep of the old post', false, {
        help: 'Keys, consoles, spaces that are still needed.',
      }),
    ],
  },
  figures: [],
  countsBack: { field: 'from', place: 'post', tightWithin: 1 },
  steps: [
    ask,
    decide('agree', subjectsManager, within(3, 'pass up'), [approve, sendBack('agree', 'post', 'from'), decline], {
      plan: { takes: 2 },
    }),
    {
      verb: 'Split',
      id: 'moving',
      when: null,
      needs: 'all',
      lanes: [
        {
          id: 'new',
          name: 'The new post',
          steps: [
            task(
              'welcome',
              people({ kind: 'post in', field: 'post' }, { kind: 'role', role: 'HR partner' }),
              'Makes the new place ready',
              byPlan,
              ['A desk or a berth', 'Who shows them round'],
              { plan: { takes: 3, daysBefore: 1 } },
            ),
          ],
        },
        {
          id: 'old',
          name: 'The old post',
          steps: [
            task(
              'access',
              role('Access steward'),
              'Looks at the access of the old post',
              byPlan,
              ['What is kept is agreed', 'The rest is taken away'],
              { plan: { takes: 2, daysBefore: 1 } },
            ),
          ],
        },
      ],
    },
    { verb: 'Hold', id: 'day', when: null, until: { kind: 'date', formula: 'From' } },
    { verb: 'Record', id: 'record', when: null, effect: { kind: 'person', property: 'post', formula: 'New post' } },
    {
      verb: 'Provision',
      id: 'account',
      when: null,
      connection: 'Directory',
      action: 'change account',
      values: [
        { name: 'person', formula: 'Subject' },
        { name: 'title', formula: 'New post' },
        { name: 'place', formula: 'New post.Place' },
        { name: 'department', formula: 'New post.Department' },
      ],
      waits: true,
    },
    end('done'),
  ],
  messages: [
    message(
      'done',
      'Changed',
      '{New post} from {From} on',
      'Hello {asker},',
      '{New post} is on file from {From} on, and the account says so too ({request}).',
    ),
    declined,
  ],
  closings: goodAndBad('Changed'),
});
