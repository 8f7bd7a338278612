/** Dates that the answers of a request name. */
import type { Answers } from '../../form/index.ts';
import { type CivilDate, isCivilDate } from '../../time/index.ts';

/** A date of the form: of a span or range its first day; nothing where it is not known. */
export function dateIn(answers: Answers, field: string): CivilDate | null {
  const answer = answers[field];
  if (typeof answer === 'string') return isCivilDate(answer) ? (answer as CivilDate) : null;
  if (typeof answer !== 'object' || answer === null || !('from' in answer)) return null;
  return (typeof answer.from === 'string' ? answer.from : answer.from.date) as CivilDate;
}
