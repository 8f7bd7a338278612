/** Days of every year as the open data of `date-holidays` writes them, in the rules of calendars here. */
import { type HolidayRule, monthNames } from '../time/index.ts';

const weekdays = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
const monthIn = (text: string): number => monthNames.findIndex(one => one.toLowerCase() === text.toLowerCase()) + 1;

/** @returns the rule; nothing for what follows the moon or other calendars, or moves when it meets a weekend */
export function holidayRuleFrom(text: string): HolidayRule['on'] | undefined {
  const date = /^(\d{2})-(\d{2})$/.exec(text);
  if (date) return { kind: 'date', monthDay: text };
  const easter = /^easter(?: (-?\d{1,3}))?$/.exec(text);
  if (easter) return { kind: 'easter', days: Number(easter[1] ?? 0) };
  const nth = /^(\d)(?:st|nd|rd|th) ([a-z]+) in ([A-Za-z]+)$/i.exec(text);
  if (nth) {
    const [weekday, month] = [weekdays.indexOf((nth[2] ?? '').toLowerCase()) + 1, monthIn(nth[3] ?? '')];
    if (weekday > 0 && month > 0 && Number(nth[1]) >= 1 && Number(nth[1]) <= 5)
      return { kind: 'weekday', month, weekday, nth: Number(nth[1]) };
  }
  // The last one of a month is written as the one before the first of the next.
  const last = /^([a-z]+) before (\d{2})-01$/i.exec(text);
  if (last) {
    const weekday = weekdays.indexOf((last[1] ?? '').toLowerCase()) + 1;
    const month = Number(last[2]) === 1 ? 12 : Number(last[2]) - 1;
    if (weekday > 0 && month >= 1) return { kind: 'weekday', month, weekday, nth: 'last' };
  }
  return undefined;
}
