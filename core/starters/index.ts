/** Starters: whole workflows to begin from, by area. */
import { application, offer } from './application.ts';
import { charter } from './charter.ts';
import {
  changeOfHours,
  compensationTime,
  daysBoughtOrSold,
  daysGiven,
  leave,
  sickLeave,
  studyLeave,
  timeEarned,
} from './leave.ts';
import { newPost } from './newPost.ts';
import { leaver, newColleague } from './people.ts';
import type { Starter } from './pieces.ts';
import { changeOfPost, recordChange, renewal } from './records.ts';
import { accessReview, consoleAccess, equipment, sharedSpace } from './things.ts';
import { crossing, expenses } from './travel.ts';

export { readyCalendars, readyLeaveTypes, readyPatterns, readyPlan } from './house.ts';
export { type SectionSet, sectionSets } from './joiner.ts';
export { otherWordsOf } from './otherWords.ts';
export type { Starter };
export { renewal };

export const starters: readonly Starter[] = [
  leave,
  compensationTime,
  timeEarned,
  daysBoughtOrSold,
  daysGiven,
  sickLeave,
  studyLeave,
  crossing,
  charter,
  expenses,
  newColleague,
  leaver,
  consoleAccess,
  accessReview,
  sharedSpace,
  newPost,
  application,
  offer,
  equipment,
  changeOfHours,
  recordChange,
  renewal,
  changeOfPost,
];

/** Where somebody begins who begins from nothing: a form to fill, a beginning and an end. */
export const blank = (name: string): Starter['definition'] => ({
  formatVersion: 3,
  name,
  area: 'Other',
  purpose: '',
  form: { fields: [] },
  figures: [],
  steps: [
    { verb: 'Ask', id: 'ask' },
    { verb: 'Close', id: 'end', closing: 'done' },
  ],
  messages: [],
  closings: [
    { id: 'done', name: 'Done', tone: 'good', message: null },
    { id: 'declined', name: 'Declined', tone: 'bad', message: null },
  ],
});
