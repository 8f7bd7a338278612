import { z } from 'zod';
import { isOpen, isTimed, LeaveSpan } from '../../../leave/index.ts';
import { dateWords, isNear, nearWords, rangeWords } from '../../../time/index.ts';
import { common } from '../../parts.ts';
import { fieldKind, noSettings, nothing } from '../kind.ts';

export function spanWords(span: LeaveSpan, year: number): string {
  if (isTimed(span)) {
    const from = `${dateWords(span.from.date, year)} ${span.from.time}`;
    return `${from} to ${span.to.date === span.from.date ? '' : `${dateWords(span.to.date, year)} `}${span.to.time}`;
  }
  const { from, to } = span;
  if (isOpen(span))
    return `from ${dateWords(from.date, year)}${from.half === 'pm' ? ' at midday' : ''} on, the last day not known yet`;
  if (from.date === to.date && from.half === to.half) {
    return `${dateWords(from.date, year)}, ${from.half === 'am' ? 'morning' : 'afternoon'}`;
  }
  const starts = from.half === 'pm' ? ' (from the afternoon)' : '';
  const ends = to.half === 'am' ? ' (to midday)' : '';
  return `${rangeWords(from.date, to.date, year)}${starts}${ends}`;
}

export const leaveSpan = fieldKind({
  schema: z.object({ ...common, kind: z.literal('leave span') }),
  words: 'a span of leave, by halves',
  detail: nothing,
  blank: noSettings,
  type: 'leave span',
  answer: () => LeaveSpan.refine(span => isNear(span.from.date) && isNear(span.to.date), nearWords),
  say: (_, answer, naming) => spanWords(answer as LeaveSpan, naming.year),
  fault: (_, issue) => (issue.code === 'custom' ? undefined : 'Give a first and a last day.'),
  startsEmpty: true,
  dated: true,
});
