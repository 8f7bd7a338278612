/** What people answer in each workflow: notes, what they change when it is sent back, what they fill in at their step. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { TableRow } from '@north-pebble/core/form';
import { type Answers, masked } from '@north-pebble/core/form';
import type { HalfSpan } from '@north-pebble/core/leave';
import { addDays, type CivilDate, type Instant, toDay } from '@north-pebble/core/time';
import { spanOf } from './wish.ts';

const notes: Record<string, { back: readonly string[]; decline: readonly string[] }> = {
  leave: {
    back: [
      'The gauge service falls on the last day, can you be back?',
      'Two of the crew are off then; could you move it by a day?',
      'Stocktaking is on that Monday.',
    ],
    decline: ['We are down to the smallest crew that week.', 'The relief boat cannot sail without you then.'],
  },
  'crossing-and-lodging': {
    back: ['Could you go a day shorter?', 'The quay is closed on the last day; please come back before.'],
    decline: ['Somebody else of the programme is there that week.', 'The frames are not ready by then.'],
  },
  'new-colleague': {
    back: ['The induction is a week later; please move the start.'],
    decline: ['The post is filled from within after all.'],
  },
  'console-access': {
    back: ['Half of that time will do. What exactly is it for?'],
    decline: ['The readings are sent to your team every morning; no access is needed.'],
  },
  'shared-space': { back: [], decline: ['There is a space for this already; I have added you.'] },
  'new-post': { back: ['Please say what happens without it.'], decline: ['Not in this year’s budget.'] },
};

export const notesOf = (workflow: string) => notes[workflow] ?? notes.leave;
export const couldNotNote = 'The safety course for this console comes first.';

/** The answers as the asker sends them again. */
export function reworked(workflow: string, answers: Answers): Answers {
  const span = spanOf(answers);
  if (span) {
    const last = span.to.date > span.from.date ? addDays(span.to.date, -1) : span.to.date;
    return { ...answers, dates: { from: span.from, to: { date: last, half: 'pm' } } satisfies HalfSpan };
  }
  const later = (field: string, days: number) => ({ ...answers, [field]: addDays(answers[field] as CivilDate, days) });
  switch (workflow) {
    case 'crossing-and-lodging': {
      const { from, to } = answers.dates as { from: CivilDate; to: CivilDate };
      // Since legs are written down, a day less is a bed less and another day for the way back.
      if (Array.isArray(answers.legs)) return tripShorter(answers, from, to);
      return { ...answers, dates: { from, to: toDay(to) > toDay(from) ? addDays(to, -1) : to } };
    }
    case 'new-colleague':
      return later('start', 7);
    case 'console-access':
      return { ...later('until', -7), why: `${answers.why} Only until it is done.` };
    default:
      return { ...answers };
  }
}

/** A trip that ends a day earlier, where it has a night to give. */
function tripShorter(answers: Answers, from: CivilDate, to: CivilDate): Answers {
  // A trip of one day leaves an hour later.
  if (toDay(to) <= toDay(from))
    return {
      ...answers,
      legs: (answers.legs as readonly TableRow[]).map((row, n) =>
        n === 0 ? { ...row, leaves: '09:30', arrives: '11:45' } : row,
      ),
    };
  const last = addDays(to, -1);
  const legs = (answers.legs as readonly TableRow[]).map((row, n, all) =>
    n === all.length - 1 ? { ...row, 'leaves-on': last, 'arrives-on': last } : row,
  );
  const nights = toDay(last) - toDay(from);
  const lodging = (answers.lodging as readonly TableRow[]).map(row => ({
    ...row,
    leave: last,
    price: Math.round((Number(row.price) * nights) / (nights + 1)),
  }));
  return { ...answers, dates: { from, to: last }, legs, lodging: nights > 0 ? lodging : [] };
}

/** A name in small letters without marks. */
export const lettersOf = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/[^\x20-\x7e]/g, '')
    .toLowerCase();

const applied = [
  'I kept the light at a smaller station for six winters and should like to lead a watch.',
  'I grew up on the sound and know its weather; I have led night shifts in a harbour.',
  'I mend engines, teach those who want to learn it, and keep a tidy bench.',
  'After ten years on fishing boats I should like to work where I can come home.',
];

/** A number of a name's own, so that a paper runs out on one day however many requests came before its own. */
const sumOf = (name: string): number =>
  [...name].reduce((sum, letter) => sum * 7 + (letter.codePointAt(0) ?? 0), 0) % 9973;

/** What a guest hands in of a section of the starter’s; their papers are signed by hand. */
export function guestAnswers(section: string, number: number, answers: Answers, at: Instant): Record<string, unknown> {
  const start = String(answers.start) as CivilDate;
  const scan = (n: number, name: PaperName) => paperOf(number * 10 + n, name);
  switch (section) {
    case 'you':
      return {
        born: addDays(start, -(9000 + ((number * 37) % 9000))),
        home: `${(number % 90) + 1} Pier Street, Ambrel`,
        phone: `0555 ${String(1000 + ((number * 13) % 9000))}`,
        citizen: 'Of this country',
        call: `A. ${String(answers.name).split(' ').at(-1)}, 0555 ${2000 + (number % 700)}`,
      };
    case 'bank':
      return { 'bank-holder': answers.name, iban: `XX${10 + (number % 80)} 0000 ${100_000_000 + number * 7}` };
    case 'identity':
      return {
        'id-card': {
          file: scan(1, 'Identity card.pdf'),
          expires: addDays(start, 140 + ((sumOf(String(answers.name)) * 53) % 410)),
          number: masked(cardNumber(number)),
        },
      };
    case 'sign': {
      const byHand = { how: 'by hand', name: null, at, digest: null, file: scan(2, 'Agreement of work, signed.pdf') };
      return { agreement: byHand, picture: number % 3 === 0 ? null : { version: '2', at } };
    }
    case 'more':
      return {
        why: applied[number % applied.length],
        experience: (number * 7) % 23,
        papers: [scan(3, 'Identity card.pdf')],
        from: addDays('2026-03-02' as CivilDate, (number % 9) * 7),
      };
    case 'answer':
      return { answer: 'I do not accept', 'answer-words': 'I stay where I am, after all. Thank you.' };
    default:
      return {
        'first-day': [
          'I know where and when I begin',
          'I bring my identity paper with me',
          'I have shoes for wet decks',
        ],
      };
  }
}
/** The number of an identity card; it is kept apart from requests. */
export const cardNumber = (number: number): string => `C${String(100_000 + ((number * 7919) % 900_000))}`;

/** What a guest read in the page. */
export const guestRead = (at: Instant): Answers => ({
  'house-rules': { how: 'read', name: null, at, digest: '0'.repeat(64), file: null },
});

/** Every leg and bed with the number of its booking; now and then a crossing costs more than was thought. */
function booked(number: number, answers: Answers): Record<string, unknown> {
  const rows = (field: string) => (answers[field] ?? []) as readonly TableRow[];
  const isDearer = number % 9 === 0 && !rows('legs').some(row => row.booking);
  const legs = rows('legs').map((row, n) => ({
    ...row,
    booking: `SB-${40_000 + number}-${n + 1}`,
    ...(isDearer && n === 0 ? { price: Number(row.price ?? 0) + 18 } : {}),
  }));
  const lodging = rows('lodging').map((row, n) => ({ ...row, booking: `BED-${number}-${n + 1}` }));
  return { legs, ...(lodging.length > 0 ? { lodging } : {}) };
}

/** What the doer of a step fills in. */
export function filledAt(step: string, number: number, answers: Answers): Record<string, unknown> {
  if (step === 'book-crossing' && Array.isArray(answers.legs)) return booked(number, answers);
  if (step === 'book-crossing') return { booking: `SB-${40_000 + number}` };
  if (step === 'open-it')
    return {
      profile: `Works as ${String(answers.title).toLowerCase()} in ${answers.department}; starts when it suits both.`,
    };
  const mark = (n: number) => 2 + ((number * (n + 3)) % 4);
  if (step === 'screen')
    return {
      'papers-mark': mark(1),
      'experience-mark': mark(2),
      'screening-note': mark(1) > 3 ? 'Clear and to the point.' : '',
    };
  if (step === 'arrange') return { 'interview-day': addDays('2026-02-09' as CivilDate, number % 5) };
  if (step === 'interview')
    return {
      'work-mark': mark(3),
      'people-mark': mark(4),
      'interview-note': 'A good hour; asked the right questions.',
    };
  if (step === 'terms')
    return { pay: 42_000 + (number % 6) * 500, share: 1, start: '2026-05-04', 'good-until': '2026-02-20', boat: true };
  if (step === 'systems') {
    return { account: lettersOf(String(answers.name)).replace(/[^a-z]+/g, '.') };
  }
  return {};
}

const read = (name: string) => readFileSync(new URL(`./${name}.pdf`, import.meta.url));
/** The papers that people hand in; made up, like all else. */
export const papers = {
  'Doctor’s note.pdf': read('doctors-note'),
  'Identity card.pdf': read('identity-card'),
  'Agreement of work, signed.pdf': read('agreement-signed'),
} as const;
export type PaperName = keyof typeof papers;
export const paperBytes = (name: string): Buffer => papers[name as PaperName];

/** A paper as it is given with a request. */
export const paperOf = (number: number, name: PaperName = 'Doctor’s note.pdf') => ({
  id: `00000000-0000-4000-8000-${String(number).padStart(12, '0')}`,
  name,
  size: papers[name].length,
  type: 'application/pdf',
});
/** A letter of the house as it is kept; its size is known once it is set. */
export const letterFile = (number: number, name: string) => ({
  id: `00000000-0000-4000-9000-${String(number).padStart(12, '0')}`,
  name: `${name}.pdf`,
  type: 'application/pdf',
});
export const digestOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');
