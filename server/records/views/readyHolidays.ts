/** Ready holidays of countries and their regions, from open data; and calendars written out for other programs. */
import type { ReadyHolidays } from '@north-pebble/contract';
import { holidayRuleFrom, writeCalendar } from '@north-pebble/core/formats';
import type { CivilDate, HolidayRule } from '@north-pebble/core/time';
import { isCivilDate } from '@north-pebble/core/time';
import type { House } from '../../house/index.ts';
import { notFound } from '../../http/index.ts';

/** What no rule here can say is given as single days for so many years. */
const years = 5;

export async function readyHolidays(
  house: House,
  { country, region }: { country?: string | undefined; region?: string | undefined },
): Promise<ReadyHolidays> {
  const { default: Holidays } = await import('date-holidays');
  const all = new Holidays();
  const named = (found: Record<string, string> | undefined) =>
    Object.entries(found ?? {})
      .map(([id, name]) => ({ id, name }))
      .sort((a, b) => a.name.localeCompare(b.name));
  const countries = named(all.getCountries('en') as unknown as Record<string, string>);
  if (!country || !countries.some(one => one.id === country))
    return { countries, regions: [], rules: [], holidays: [] };
  const regions = named(all.getStates(country, 'en') as unknown as Record<string, string>);
  const own = regions.some(one => one.id === region) ? region : undefined;
  const found = own ? new Holidays(country, own) : new Holidays(country);
  const year = Number((await house.now(house.db)).slice(0, 4));
  const rules = new Map<string, HolidayRule>();
  const holidays: ReadyHolidays['holidays'][number][] = [];
  for (let n = 0; n < years; n++)
    for (const { name, date, rule, type, substitute } of found.getHolidays(year + n, 'en')) {
      if (type !== 'public') continue;
      const on = substitute ? undefined : holidayRuleFrom(rule);
      const day = date.slice(0, 10);
      if (on) rules.set(rule, { name: name.slice(0, 200), part: 'day', on });
      else if (isCivilDate(day)) holidays.push({ date: day as CivilDate, part: 'day', name: name.slice(0, 200) });
    }
  return { countries, regions, rules: [...rules.values()], holidays };
}

export async function calendarFile(house: House, id: string): Promise<string> {
  const { index, now } = await house.moment(house.db);
  const calendar = index.directory.calendars.find(one => one.id === id);
  if (!calendar) throw notFound();
  const year = Number(now.slice(0, 4));
  const stamp = `${now.slice(0, 19).replaceAll(/[-:]/g, '')}Z`.replace('ZZ', 'Z');
  return writeCalendar(
    { ...calendar, rules: calendar.rules ?? [] },
    stamp,
    Array.from({ length: years }, (_, n) => year + n),
  );
}
