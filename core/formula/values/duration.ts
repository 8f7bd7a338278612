/** Durations (FEEL 10.3.2.3.6 and 10.3.2.3.7): one counts days and time, the other years and months, and they never mix. */
import { msOfDay } from './moment.ts';

export class DaysDuration {
  readonly ms: number;
  constructor(ms: number) {
    this.ms = ms === 0 ? 0 : ms;
  }
  toString(): string {
    if (this.ms === 0) return 'PT0S';
    let rest = Math.abs(this.ms);
    const take = (unit: number): number => {
      const n = Math.floor(rest / unit);
      rest -= n * unit;
      return n;
    };
    const [days, hours, minutes] = [take(msOfDay), take(3_600_000), take(60_000)];
    const seconds = rest / 1000;
    const time = `${hours ? `${hours}H` : ''}${minutes ? `${minutes}M` : ''}${seconds ? `${seconds}S` : ''}`;
    return `${this.ms < 0 ? '-' : ''}P${days ? `${days}D` : ''}${time ? `T${time}` : ''}`;
  }
}

export class MonthsDuration {
  readonly months: number;
  constructor(months: number) {
    this.months = months === 0 ? 0 : months;
  }
  toString(): string {
    if (this.months === 0) return 'P0M';
    const all = Math.abs(this.months);
    const [years, months] = [Math.floor(all / 12), all % 12];
    return `${this.months < 0 ? '-' : ''}P${years ? `${years}Y` : ''}${months ? `${months}M` : ''}`;
  }
}

const daysPattern = /^(-?)P(?:(\d{1,9})D)?(?:T(?:(\d{1,9})H)?(?:(\d{1,9})M)?(?:(\d{1,9}(?:\.\d{1,9})?)S)?)?$/;
const monthsPattern = /^(-?)P(?:(\d{1,6})Y)?(?:(\d{1,6})M)?$/;

/** `P5D`, `P1DT2H`, `-PT30M`, or `P1Y2M`; nothing when it is neither, or is both. */
export function readDuration(text: string): DaysDuration | MonthsDuration | null {
  if (!/\d/.test(text) || text.endsWith('T')) return null;
  const months = monthsPattern.exec(text);
  if (months) {
    const all = Number(months[2] ?? 0) * 12 + Number(months[3] ?? 0);
    return new MonthsDuration(months[1] ? -all : all);
  }
  const days = daysPattern.exec(text);
  if (!days) return null;
  const seconds = Number(days[2] ?? 0) * 86_400 + Number(days[3] ?? 0) * 3600 + Number(days[4] ?? 0) * 60;
  const ms = seconds * 1000 + Math.round(Number(days[5] ?? 0) * 1000);
  return new DaysDuration(days[1] ? -ms : ms);
}
