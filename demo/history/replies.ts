/** What people answer in each workflow: notes, what they change when it is sent back, what they fill in at their step. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { Answers } from '@north-pebble/core/form';
import type { HalfSpan } from '@north-pebble/core/leave';
import { addDays, type CivilDate, toDay } from '@north-pebble/core/time';
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

/** What the doer of a step fills in. */
export function filledAt(step: string, number: number, answers: Answers): Record<string, string> {
  if (step === 'book-crossing') return { booking: `SB-${40_000 + number}` };
  if (step === 'systems') {
    const plain = String(answers.name)
      .normalize('NFD')
      .replace(/[^\x20-\x7e]/g, '')
      .toLowerCase();
    return { account: plain.replace(/[^a-z]+/g, '.') };
  }
  return {};
}

/** The one paper that everybody hands in; made up, like all else. */
export const paper = readFileSync(new URL('./doctors-note.pdf', import.meta.url));

/** A paper as it is given with a request. */
export const paperOf = (number: number) => ({
  id: `00000000-0000-4000-8000-${String(number).padStart(12, '0')}`,
  name: 'Doctor’s note.pdf',
  size: paper.length,
  type: 'application/pdf',
});
export const digestOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');
