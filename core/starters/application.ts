/** Somebody outside applies for an open post: one form in stages, from the public address to their answer to the offer. */
import type { Field } from '../form/index.ts';
import type { Step } from '../workflow/index.ts';
import {
  ask,
  asker,
  close,
  decide,
  end,
  longText,
  message,
  on,
  people,
  role,
  starter,
  task,
  tell,
  text,
  within,
} from './pieces.ts';

const hr = role('HR partner');
/** Whoever stands above the post that is applied for, as the list of open posts says it. */
const aboveThePost = people({ kind: 'above post in', field: 'open-post' }, { kind: 'role', role: 'HR partner' });

const mark = (id: string, label: string, section: string, leastWords: string, mostWords: string): Field => ({
  kind: 'scale',
  id,
  label,
  required: false,
  section,
  least: 1,
  most: 5,
  leastWords,
  mostWords,
});

/** What is offered, and what is said to it: the same where somebody is offered a post who did not apply at the address. */
const offerFields: readonly Field[] = [
  {
    kind: 'money',
    id: 'pay',
    label: 'Yearly pay',
    required: false,
    currency: 'EUR',
    section: 'offer',
    askerReads: true,
  },
  {
    kind: 'decimal',
    id: 'share',
    label: 'Share of full time',
    required: false,
    least: 0.2,
    most: 1,
    section: 'offer',
    askerReads: true,
  },
  { kind: 'date', id: 'start', label: 'Start date', required: false, section: 'offer', askerReads: true },
  {
    kind: 'date',
    id: 'good-until',
    label: 'Good until',
    required: false,
    section: 'offer',
    askerReads: true,
    checks: [{ formula: 'Good until < Start date', message: 'It ends before the first day.' }],
  },
  { kind: 'yes/no', id: 'boat', label: 'Works on a boat', required: false, section: 'offer' },
  { kind: 'files', id: 'offer-letter', label: 'Offer', required: false, section: 'offer', askerReads: true },
  {
    kind: 'choice',
    id: 'answer',
    label: 'Your answer',
    required: true,
    section: 'answer',
    options: ['I accept', 'I do not accept'],
    checks: [
      { formula: 'today() <= Good until', message: 'The last day of this offer is over. Ask us for another one.' },
    ],
  },
  longText('answer-words', 'A word to us', false, { section: 'answer' }),
];
const termsAt = {
  pay: 'required',
  share: 'required',
  start: 'required',
  'good-until': 'required',
  boat: 'required',
} as const;

const offerLetter = {
  id: 'offer',
  name: 'Offer',
  title: 'An offer for {Name}',
  body: [
    '<p>{Name}, we offer you the post {Open post}.</p><h3>Conditions</h3>',
    '<p>{Yearly pay} a year, {Share of full time} of full time, from {Start date} on.</p>',
    '<p>This offer is good until {Good until}.</p>',
  ].join(''),
  foot: '{request}, as of {today}',
};

/** From the terms to the answer; whoever accepts is asked for as a new colleague. */
const offering: readonly Step[] = [
  task('terms', hr, 'Writes the conditions of the offer', within(3), [], {}),
  { verb: 'Record', id: 'write', when: null, effect: { kind: 'make letter', letter: 'offer', field: 'offer-letter' } },
  { ...tell('send-offer', 'offer', [asker]), attach: [{ what: 'files', field: 'offer-letter' }] } as Step,
  {
    verb: 'Do',
    id: 'answering',
    when: null,
    who: hr,
    pool: true,
    whenAway: 'waits',
    task: 'Waits for the answer to the offer',
    limit: null,
    guest: {
      name: 'name',
      mail: 'mail',
      sections: ['answer'],
      days: 21,
      remind: { everyDays: 5, atMost: 3 },
      goesOn: true,
      message: 'answer',
    },
    couldNot: close('lapsed'),
  },
  {
    verb: 'Choose',
    id: 'accepted',
    when: null,
    rows: [{ id: 'yes', condition: 'Your answer = "I accept"', go: on }],
    otherwise: close('turned-down'),
  },
];

const joining: Step = {
  verb: 'Record',
  id: 'joins',
  when: null,
  effect: {
    kind: 'open',
    workflow: 'new-colleague',
    values: [
      { name: 'Name', formula: 'Name' },
      { name: 'Post', formula: 'Open post.Post on file' },
      { name: 'Start date', formula: 'Start date' },
      { name: 'Private mail', formula: 'Mail' },
      { name: 'Works on a boat', formula: 'Works on a boat' },
    ],
  },
};

const offerMessages = [
  message(
    'offer',
    'Offer',
    'An offer for you: {Open post}',
    'Hello {asker},',
    'we should like you to join us as {Open post}. The offer is attached; it is good until {Good until}.',
  ),
  message(
    'answer',
    'Your answer',
    'Your answer to our offer',
    'Hello {asker},',
    'please tell us on your own page whether you accept, by {Good until}.',
  ),
  message(
    'welcome',
    'Welcome',
    'Welcome to us',
    'Hello {asker},',
    'you begin as {Open post} on {Start date}. We write to you about what we need before then.',
  ),
];
const endedWithout = message(
  'ended',
  'Offer ended',
  'Our offer to {Name} has ended: {Open post}',
  'Hello {asker},',
  'the offer of {Open post} to {Name} was not taken up, so it has ended ({request}).',
);
const offerClosings = [
  { id: 'accepted', name: 'Accepted', tone: 'good' as const, message: 'welcome' },
  { id: 'turned-down', name: 'Offer turned down', tone: 'neutral' as const, message: 'ended' },
  { id: 'lapsed', name: 'Offer lapsed', tone: 'neutral' as const, message: 'ended' },
];
/** What is read inside alone, at each step of those who judge. */
const read = { why: 'shown', experience: 'shown', papers: 'shown', from: 'shown' } as const;
const hidden = (...ids: string[]) => Object.fromEntries(ids.map(id => [id, 'hidden' as const]));
const offered = offerFields.filter(field => field.section === 'offer').map(field => field.id);
const scored = ['papers-mark', 'experience-mark', 'screening-note'];
const seen = ['interview-day', 'work-mark', 'people-mark', 'interview-note'];

export const application = starter('application', {
  name: 'Application',
  area: 'Staffing',
  tags: ['hiring', 'outside'],
  purpose: 'Somebody outside applies for an open post: looked through, talked to, offered, and answered.',
  opening: {
    forWhom: ['self'],
    outside: {
      name: 'name',
      mail: 'mail',
      sections: ['you'],
      keptBy: hr,
      keptMonths: 6,
      words:
        'Tell us who you are and for which post you apply. We send you a link to your own page, where you go on in your own time.',
    },
    who: hr,
  },
  form: {
    sections: [
      { id: 'you', title: 'About you' },
      { id: 'more', title: 'Your application', help: 'A page about you is enough; your telephone can take pictures.' },
      { id: 'screening', title: 'Looked through' },
      { id: 'interview', title: 'The talk' },
      { id: 'offer', title: 'The offer' },
      { id: 'answer', title: 'Your answer' },
    ],
    fields: [
      text('name', 'Name', true, { section: 'you' }),
      text('mail', 'Mail', true, { section: 'you', help: 'A link to your own page goes there.' }),
      { kind: 'pick', id: 'open-post', label: 'Open post', required: true, list: 'open-posts', section: 'you' },
      {
        kind: 'consent',
        id: 'privacy',
        label: 'What you give us',
        required: true,
        section: 'you',
        version: '1',
        text: 'What I give is read by those who decide about this post, and deleted six months after it is decided. I may take this back at any time.',
      },
      longText('why', 'Why you', true, { section: 'more' }),
      {
        kind: 'whole number',
        id: 'experience',
        label: 'Years of experience',
        required: true,
        section: 'more',
        least: 0,
        most: 60,
      },
      {
        kind: 'files',
        id: 'papers',
        label: 'Course of your life and papers',
        required: true,
        section: 'more',
        takes: ['PDF', 'picture'],
        most: 5,
      },
      { kind: 'date', id: 'from', label: 'Could begin on', required: false, section: 'more' },
      mark('papers-mark', 'Papers', 'screening', 'thin', 'strong'),
      mark('experience-mark', 'Experience', 'screening', 'little', 'much'),
      longText('screening-note', 'What stood out', false, { section: 'screening' }),
      {
        kind: 'date',
        id: 'interview-day',
        label: 'Day of the talk',
        required: false,
        section: 'interview',
        askerReads: true,
      },
      mark('work-mark', 'For the work', 'interview', 'not yet', 'very'),
      mark('people-mark', 'With people', 'interview', 'not yet', 'very'),
      longText('interview-note', 'From the talk', false, { section: 'interview' }),
      ...offerFields,
    ],
  },
  access: {
    ask: hidden(...scored, ...seen, ...offered),
    screen: {
      ...read,
      'papers-mark': 'required',
      'experience-mark': 'required',
      'screening-note': 'editable',
      ...hidden(...seen, ...offered),
    },
    arrange: { ...read, 'interview-day': 'required', ...hidden(...offered) },
    interview: {
      ...read,
      'work-mark': 'required',
      'people-mark': 'required',
      'interview-note': 'editable',
      ...hidden(...offered),
    },
    terms: { ...read, ...termsAt },
  },
  figures: [
    { id: 'screened', name: 'First mark', formula: '(Papers + Experience) / 2', unit: 'number' },
    { id: 'mark', name: 'Mark', formula: '(Papers + Experience + For the work + With people) / 4', unit: 'number' },
  ],
  steps: [
    ask,
    {
      verb: 'Do',
      id: 'fill',
      when: null,
      who: hr,
      pool: true,
      whenAway: 'waits',
      task: 'Waits for the application',
      limit: null,
      guest: {
        name: 'name',
        mail: 'mail',
        sections: ['more'],
        days: 30,
        remind: { everyDays: 7, atMost: 2 },
        goesOn: true,
        message: 'begun',
      },
      couldNot: close('not-finished'),
    },
    tell('thanks', 'thanks', [asker]),
    decide(
      'screen',
      hr,
      within(5),
      [
        { id: 'invite', label: 'Invite', tone: 'good', note: 'may', leads: on },
        { id: 'decline', label: 'Decline', tone: 'bad', note: 'may', leads: close('declined') },
      ],
      { askerMay: true },
    ),
    task('arrange', hr, 'Agrees on a day for the talk', within(3), ['The day is agreed with both']),
    {
      ...tell('invite-them', 'come', [asker, aboveThePost]),
      attach: [{ what: 'invitation', of: 'interview-day', title: 'Talk about {Open post}' }],
    } as Step,
    decide('interview', aboveThePost, within(10), [
      { id: 'offer', label: 'Make an offer', tone: 'good', note: 'may', leads: on },
      { id: 'decline', label: 'Decline', tone: 'bad', note: 'may', leads: close('declined') },
    ]),
    ...offering,
    joining,
    end('accepted'),
  ],
  messages: [
    message(
      'begun',
      'Go on here',
      'Your application: {Open post}',
      'Hello {asker},',
      'your application for {Open post} is begun; its number is {request}. Please go on with it on your own page. It is complete once everything there is handed in.',
    ),
    message(
      'thanks',
      'It is complete',
      'Your application is here: {Open post}',
      'Hello {asker},',
      'your application for {Open post} ({request}) is complete. We read it and write to you again.',
    ),
    message(
      'come',
      'Come and talk to us',
      'A talk about {Open post} on {Day of the talk}',
      'Hello {asker},',
      'we should like to talk about {Open post} on {Day of the talk}. If the day does not suit you, say so on your own page.',
    ),
    ...offerMessages,
    endedWithout,
    message(
      'declined',
      'Declined',
      'Your application: {Open post}',
      'Hello {asker},',
      'thank you for your application for {Open post}. We shall not go on with it, and wish you well on your way.',
    ),
    message(
      'not-finished',
      'Not finished',
      'Your application was not finished: {Open post}',
      'Hello {asker},',
      'your application for {Open post} was begun and not finished, so it has ended. As long as the post is open you may begin anew.',
    ),
  ],
  letters: [offerLetter],
  closings: [
    ...offerClosings,
    { id: 'declined', name: 'Declined', tone: 'bad', message: 'declined' },
    { id: 'not-finished', name: 'Not finished', tone: 'neutral', message: 'not-finished' },
  ],
});

export const offer = starter('offer', {
  name: 'Offer',
  area: 'Staffing',
  tags: ['hiring', 'outside'],
  purpose:
    'A post offered to somebody who has no account: conditions, letter, and their answer on a page of their own.',
  opening: { forWhom: ['self'], who: hr },
  form: {
    sections: [
      { id: 'you', title: 'To whom' },
      { id: 'offer', title: 'The offer' },
      { id: 'answer', title: 'Your answer' },
    ],
    fields: [
      text('name', 'Name', true, { section: 'you' }),
      text('mail', 'Mail', true, { section: 'you' }),
      { kind: 'pick', id: 'open-post', label: 'Open post', required: true, list: 'open-posts', section: 'you' },
      ...offerFields.map(field =>
        field.section === 'offer' && field.id !== 'offer-letter' ? { ...field, required: true } : field,
      ),
    ],
  },
  access: { ask: hidden('offer-letter') },
  figures: [{ id: 'cost', name: 'Cost a year', formula: 'Yearly pay * Share of full time * 1.3', unit: 'money' }],
  steps: [
    ask,
    decide('agree', aboveThePost, within(3), [
      { id: 'agree', label: 'Agree', tone: 'good', note: 'may', leads: on },
      { id: 'decline', label: 'Decline', tone: 'bad', note: 'must', leads: close('declined') },
    ]),
    ...offering.filter(step => step.id !== 'terms' && step.id !== 'send-offer'),
    joining,
    end('accepted'),
  ],
  messages: [
    message(
      'answer',
      'Your answer',
      'An offer for you: {Open post}',
      'Hello {Name},',
      'we should like you to join us as {Open post}, from {Start date} on: {Yearly pay} a year, {Share of full time} of full time. Please tell us on your own page whether you accept, by {Good until}.',
    ),
    endedWithout,
    message('welcome', 'Accepted', '{Name} accepts: {Open post}', '{Name} begins as {Open post} on {Start date}.'),
    message(
      'declined',
      'Not agreed',
      'The offer for {Name} was not agreed to',
      'Hello {asker},',
      'the offer for {Name} ({request}) was not agreed to.',
    ),
  ],
  letters: [offerLetter],
  closings: [...offerClosings, { id: 'declined', name: 'Not agreed', tone: 'bad', message: 'declined' }],
});
