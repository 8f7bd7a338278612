/** Sets of sections that somebody without an account fills in by a personal link: ready to be used, changed and mixed. */
import type { Field, Section } from '../form/index.ts';
import { longText, text } from './pieces.ts';

/** Sections that belong together, with what is asked in them. */
export type SectionSet = {
  readonly name: string;
  readonly sections: readonly Section[];
  readonly fields: readonly Field[];
};

const you: SectionSet = {
  name: 'About somebody',
  sections: [{ id: 'you', title: 'About you', help: 'As it stands on your identity paper.' }],
  fields: [
    {
      kind: 'date',
      id: 'born',
      label: 'Day of birth',
      required: true,
      section: 'you',
      why: 'Your insurance is registered under it.',
      readers: ['Payroll'],
    },
    longText('home', 'Home address', true, { section: 'you', why: 'Your contract and your pay slips go there.' }),
    text('phone', 'Telephone', true, { section: 'you' }),
    {
      kind: 'choice',
      id: 'citizen',
      label: 'Citizenship',
      required: true,
      section: 'you',
      options: ['Of this country', 'Of another country'],
      why: 'Only those from elsewhere need a permit to work; we ask for it then.',
    },
    text('call', 'Whom we call if something happens to you', true, { section: 'you', help: 'Name and telephone.' }),
  ],
};

const bank: SectionSet = {
  name: 'Bank account',
  sections: [{ id: 'bank', title: 'Your bank account' }],
  fields: [
    text('bank-holder', 'Account holder', true, { section: 'bank' }),
    text('iban', 'Account number', true, {
      help: 'Your IBAN; it stands on your bank card or statement.',
      section: 'bank',
      why: 'Your pay goes to this account.',
      readers: ['Payroll'],
      checks: [
        {
          formula: 'string length(Account number) >= 15',
          message: 'An IBAN has at least 15 letters and digits.',
        },
      ],
    }),
  ],
};

const identity: SectionSet = {
  name: 'Identity papers',
  sections: [
    {
      id: 'identity',
      title: 'Identity papers',
      help: 'A photograph of each page is enough; your telephone can take it.',
    },
  ],
  fields: [
    {
      kind: 'document',
      id: 'id-card',
      label: 'Identity card or passport',
      required: true,
      section: 'identity',
      expires: true,
      numbered: true,
      takes: ['PDF', 'picture'],
      why: 'We must know who works here; it is asked for again before it runs out.',
    },
    {
      kind: 'document',
      id: 'permit',
      label: 'Permit to work',
      required: true,
      section: 'identity',
      expires: true,
      numbered: true,
      takes: ['PDF', 'picture'],
      shownWhen: 'Citizenship = "Of another country"',
      why: 'Without it nobody from elsewhere may work here.',
    },
  ],
};

const agreements: SectionSet = {
  name: 'Papers to sign',
  sections: [{ id: 'sign', title: 'Papers to sign' }],
  fields: [
    {
      kind: 'paper',
      id: 'agreement',
      label: 'Agreement of work',
      required: true,
      section: 'sign',
      signed: 'either',
      text: 'Agreement of work\n\nbetween the house and {Name}, who begins as {Post} on {Start date}.\n\nPay and hours are those of the letter of appointment. Either side may end this agreement with the notice that the law sets.\n\nThe house rules are a part of this agreement.',
    },
    {
      kind: 'paper',
      id: 'house-rules',
      label: 'House rules',
      required: true,
      section: 'sign',
      signed: 'read',
      text: 'House rules\n\nWho is on the water wears a life jacket. Who is alone at a light reports by radio every four hours. What is seen at work about people stays at work.',
    },
    {
      kind: 'consent',
      id: 'picture',
      label: 'Your picture on the staff page',
      required: false,
      section: 'sign',
      text: 'My picture may be shown on the staff page. I may take this back at any time, and it is taken down then.',
      version: '2',
    },
  ],
};

const first: SectionSet = {
  name: 'Before the first day',
  sections: [{ id: 'first', title: 'Before your first day' }],
  fields: [
    {
      kind: 'several choices',
      id: 'first-day',
      label: 'To be thought of',
      required: true,
      section: 'first',
      all: true,
      options: ['I know where and when I begin', 'I bring my identity paper with me', 'I have shoes for wet decks'],
    },
    text('eats', 'What you do not eat', false, { section: 'first' }),
  ],
};

export const sectionSets: readonly SectionSet[] = [you, bank, identity, agreements, first];
export const joinersSections: readonly Section[] = sectionSets.flatMap(set => set.sections);
export const joinersFields: readonly Field[] = sectionSets.flatMap(set => set.fields);
