/**
 * The figures that the demo shows, worked out anew from facts alone by the plainest means there are: day after day over the
 * calendar, with nothing of the core's counting or balances in it.
 */
import { isAmount } from '@north-pebble/core/formula';
import { type DirectoryIndex, type Person, teamOf, zoneOf } from '@north-pebble/core/people';
import { demoDay, type History, leaveTypes, plans } from '../index.ts';
import { patterns } from '../patterns.ts';

const dayMs = 86_400_000;
/** Asked for the same thing often. */
function kept<K, V>(work: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>();
  return key => {
    let value = known.get(key);
    if (value === undefined) {
      value = work(key);
      known.set(key, value);
    }
    return value;
  };
}
const at = kept((text: string): number => Date.parse(`${text}T00:00:00Z`) / dayMs);
const text = kept((day: number): string => new Date(day * dayMs).toISOString().slice(0, 10));
const isoWeekday = (day: number): number => ((((day + 3) % 7) + 7) % 7) + 1;
const yearOf = kept((day: number): number => Number(text(day).slice(0, 4)));
const minutes = (clock: string): number => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));

/** The invented holidays as the scenario tells them. */
function off(place: string, day: number): { am: boolean; pm: boolean } {
  const [month, date] = [Number(text(day).slice(5, 7)), Number(text(day).slice(8))];
  const weekday = isoWeekday(day);
  const isFirst = date <= 7;
  const isLast = Number(text(day + 7).slice(5, 7)) !== month;
  const sound = place !== 'hollin';
  const whole =
    ['01-01', '06-24', '12-21'].includes(text(day).slice(5)) ||
    (weekday === 1 && isFirst && (month === 4 || month === 10)) ||
    (sound && text(day).slice(5) === '01-16') ||
    (place === 'skarn' && text(day).slice(5) === '07-02') ||
    (place === 'hollin' && text(day).slice(5) === '05-18');
  const fair = weekday === 5 && isLast && month === 8;
  const ovayFriday = place === 'ovay' && weekday === 5 && month === 2 && date <= 28;
  return { am: whole, pm: whole || fair || ovayFriday };
}

type Half = 'am' | 'pm';
type Count = { days: number; minutes: number };

function worked(person: Person, day: number, half: Half): Count | undefined {
  const record = person.records.findLast(r => at(r.from) <= day);
  const pattern = record && patterns.find(p => p.id === record.pattern);
  if (!record || !pattern || off(record.place, day)[half]) return undefined;
  const since = day - at(pattern.anchor);
  const shape = pattern.cycle[((since % pattern.cycle.length) + pattern.cycle.length) % pattern.cycle.length];
  const part = shape[half];
  return part
    ? { days: record.pattern === 'keeper' ? 1 : 0.5, minutes: minutes(part[1]) - minutes(part[0]) }
    : undefined;
}

type Span = { from: { date: string; half: Half }; to: { date: string; half: Half } };
type Entry = { request: string; person: string; type: string; span: Span; booked: boolean };

const covers = ({ from, to }: Span, day: number, half: Half): boolean => {
  const place = (one: Span['from']) => at(one.date) * 2 + (one.half === 'pm' ? 1 : 0);
  const asked = day * 2 + (half === 'pm' ? 1 : 0);
  return place(from) <= asked && asked <= place(to);
};

/**
 * @param every what every half of the calendar counts, for types that count so
 * @param ill spans of sickness, whose halves take nothing
 */
function counts(person: Person, span: Span, every = false, ill: readonly Span[] = []): Map<number, Count> {
  const found = new Map<number, Count>();
  for (let day = at(span.from.date); day <= at(span.to.date); day++) {
    for (const half of ['am', 'pm'] as const) {
      if (day === at(span.from.date) && half === 'am' && span.from.half === 'pm') continue;
      if (day === at(span.to.date) && half === 'pm' && span.to.half === 'am') continue;
      if (ill.some(one => covers(one, day, half))) continue;
      const part = every ? { days: 0.5, minutes: 0 } : worked(person, day, half);
      if (!part) continue;
      const sum = found.get(day) ?? { days: 0, minutes: 0 };
      found.set(day, { days: sum.days + part.days, minutes: sum.minutes + part.minutes });
    }
  }
  return found;
}

const sumOf = (found: Map<number, Count>, what: keyof Count): number =>
  [...found.values()].reduce((sum, count) => sum + count[what], 0);

type Rules = (typeof plans)[number]['rules'];
/** What a plan gives on which day, and on which days a leave year begins. */
type Given = { grants: Map<number, number>; starts: Set<number> };

/** Day after day from joining on, each day earning its share of the year or month in which it lies. */
function givenTo(person: Person, rules: Rules, until: number): Given {
  const joined = at(person.joined);
  const left = person.left ? at(person.left) : Number.POSITIVE_INFINITY;
  const startIn = (year: number) =>
    at(`${year}-${rules.yearStart === 'anniversary' ? person.joined.slice(5) : '01-01'}`);
  const yearStart = (day: number) => (startIn(yearOf(day)) <= day ? startIn(yearOf(day)) : startIn(yearOf(day) - 1));
  const monthStarts = kept((start: number) =>
    Array.from({ length: 13 }, (_, n) => {
      const from = new Date(start * dayMs);
      return Date.UTC(from.getUTCFullYear(), from.getUTCMonth() + n, from.getUTCDate()) / dayMs;
    }),
  );
  const rate = (day: number) => {
    if (day < joined || day > left) return 0;
    const served = yearOf(day) - yearOf(joined) - (text(day).slice(5) < person.joined.slice(5) ? 1 : 0);
    const tier = rules.perYear.findLast(t => t.fromServiceYears <= served);
    const fte = person.records.findLast(r => at(r.from) <= day)?.fte ?? 0;
    return (tier?.amount ?? 0) * fte;
  };
  const rounded = (amount: number) => {
    const steps = amount / rules.rounding.step;
    return (
      (rules.rounding.mode === 'up' ? Math.ceil(steps - 1e-9) : Math.floor(steps + 0.5 + 1e-9)) * rules.rounding.step
    );
  };
  const given: Given = { grants: new Map(), starts: new Set() };
  let [earned, before] = [0, 0];
  for (let day = joined; day <= until; day++) {
    const start = yearStart(day);
    const months = monthStarts(start);
    if (day === start || day === joined) {
      if (day !== joined && day <= left) given.starts.add(day);
      [earned, before] = [0, 0];
      if (rules.accrual === 'yearly') {
        for (let d = start; d < months[12]; d++) {
          const month = months.findLastIndex(m => m <= d);
          const share = rules.proration === 'daily' ? months[12] - start : 12 * (months[month + 1] - months[month]);
          earned += rate(d) / share;
        }
        given.grants.set(day, rounded(earned));
      }
    }
    if (rules.accrual !== 'yearly') {
      const month = months.findLastIndex(m => m <= day);
      earned += rate(day) / (12 * (months[month + 1] - months[month]));
      if (day === months[month + 1] - 1 || day === left) {
        given.grants.set(day, rounded(earned) - before);
        before = rounded(earned);
      }
    }
  }
  return given;
}

/** Balance at the end of each day, day after day from joining on. */
function balances(person: Person, rules: Rules, { grants, starts }: Given, taken: Map<number, number>, until: number) {
  const left = person.left ? at(person.left) : Number.POSITIVE_INFINITY;
  const found = new Map<number, number>();
  let [own, carry] = [0, 0];
  for (let day = at(person.joined); day <= until; day++) {
    if (starts.has(day)) {
      const rest = own + carry;
      carry = rest < 0 ? 0 : Math.min(rest, rules.carryOver?.max ?? 0);
      own = Math.min(rest, 0);
    }
    own += grants.get(day) ?? 0;
    const amount = taken.get(day) ?? 0;
    const fromCarry = Math.min(carry, amount);
    carry -= fromCarry;
    own -= amount - fromCarry;
    found.set(day, own + carry);
    const expires = rules.carryOver?.expires;
    if (carry > 0 && expires && text(day).slice(5) === expires && day < left) carry = 0;
  }
  return found;
}

/** What is worked out from the answers alone, by workflow. */
function sums(workflow: string, asked: string, { answers }: { answers: Record<string, unknown> }) {
  const until = (date: unknown) => at(String(date)) - at(asked);
  switch (workflow) {
    case 'crossing-and-lodging': {
      const { from, to } = answers.dates as { from: string; to: string };
      const rows = (field: string) => (answers[field] ?? []) as { price: number }[];
      const priced = [...rows('legs'), ...rows('lodging')].map(row => ({ amount: row.price }));
      const costs = [...((answers.costs ?? []) as { amount: number }[]), ...priced];
      return [
        ['nights', at(to) - at(from)],
        ['cost', costs.reduce((sum, row) => sum + row.amount, 0)],
      ] as const;
    }
    case 'console-access':
      return [['length', until(answers.until)]] as const;
    case 'shared-space':
      return [['name', `${String(answers.kind)[0]} ${answers.title}`]] as const;
    case 'new-post':
      return [['cost', Number(answers.pay) * Number(answers.share) * 1.3]] as const;
    default:
      return [];
  }
}

/** Every figure that a request shows and the facts do not give, in words; and how many were compared. */
export function recount(index: DirectoryIndex, history: History) {
  const happened = history.requests
    .flatMap(request => request.events.map((event, i) => ({ request, event, i })))
    .sort((a, b) => a.event.at.localeCompare(b.event.at) || 0);
  const until = at('2028-12-31');
  const given = kept((person: Person) => {
    const plan = plans.find(p => p.id === person.records.findLast(r => r.from <= demoDay)?.plan)!;
    return givenTo(person, plan.rules, until);
  });
  const entries = new Map<string, Entry>();
  let checked = { days: 0, balances: 0, others: 0, sums: 0 };
  const wrong: string[] = [];
  const check = (what: keyof typeof checked, request: string, said: unknown, figure: number | string) => {
    // An amount has its currency with it.
    const shown = isAmount(said) ? said.amount : said;
    checked = { ...checked, [what]: checked[what] + 1 };
    const isSame =
      typeof figure === 'string' ? shown === figure : typeof shown === 'number' && Math.abs(shown - figure) <= 1e-6;
    if (!isSame) wrong.push(`${request} ${what}: ${shown}, not ${figure}`);
  };
  for (const { request, event } of happened) {
    if (event.kind === 'held' || event.kind === 'booked')
      entries.set(request.id, {
        request: request.id,
        person: request.asker,
        type: event.type,
        span: event.span as Span,
        booked: event.kind === 'booked',
      });
    if (event.kind === 'released' || event.kind === 'withdrawn') entries.delete(request.id);
    if (event.kind !== 'asked' && event.kind !== 'reworked') continue;
    const person = index.person(request.asker)!;
    const zone = zoneOf(index, person, demoDay);
    const localDay = (instant: string) => new Date(instant).toLocaleDateString('sv-SE', { timeZone: zone });
    for (const [id, figure] of sums(request.workflow, localDay(event.at), event))
      check('sums', request.id, event.figures[id], figure);
    const span = event.answers.dates as Span;
    const type = leaveTypes.find(t => t.id === event.answers.kind);
    if (!span?.from || !type) continue;
    check('days', request.id, event.figures.days, sumOf(counts(person, span, type.id === 'sick'), 'days'));
    if (!('others-away' in event.figures)) continue;
    const team = teamOf(index, person.id, span.from.date as never).filter(p => p.id !== person.id);
    const others = team.filter(p => {
      const mine = [...counts(p, span).keys()];
      const theirs = [...entries.values()].filter(e => e.person === p.id);
      return theirs.some(e => mine.some(day => at(e.span.from.date) <= day && counts(p, e.span).has(day)));
    });
    check('others', request.id, event.figures['others-away'], others.length);
    const asked: Entry = { request: request.id, person: person.id, type: type.id, span, booked: false };
    const planId = person.records.findLast(r => r.from <= demoDay)?.plan;
    if (type.takesFrom !== 'plan' || !planId) continue;
    const { unit, rules } = plans.find(p => p.id === planId)!;
    const taken = new Map<number, number>();
    const ill = [...entries.values()]
      .filter(entry => entry.person === person.id && entry.type === 'sick' && entry.booked)
      .map(entry => entry.span);
    for (const entry of [...[...entries.values()].filter(e => e.request !== request.id), asked]) {
      if (entry.person !== person.id || entry.type !== 'annual') continue;
      for (const [day, count] of counts(person, entry.span, false, ill))
        taken.set(day, (taken.get(day) ?? 0) + (unit === 'hours' ? count.minutes / 60 : count.days));
    }
    const byDay = balances(person, rules, given(person), taken, until);
    const onDays = [at(span.to.date), ...[...taken.keys()].filter(day => day >= at(span.from.date))];
    check('balances', request.id, event.figures['balance-after'], Math.min(...onDays.map(day => byDay.get(day) ?? 0)));
  }
  return { wrong, checked };
}
