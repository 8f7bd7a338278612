/** By when, in plain words: `within two days`, `no later than 3 days before start date`, `remind after one day`. */
import { isDated } from '../../form/index.ts';
import type { WorkingAmount } from '../../time/index.ts';
import type { AtLimit, Limit, LimitTime, Quorum } from '../definition/definition.ts';
import { type Known, readRuleOf } from './people.ts';
import type { Named, Words } from './words.ts';

export const dateFields = ({ definition }: Known): Named<string>[] =>
  definition.form.fields.filter(isDated).map(f => ({ name: f.label, value: f.id }));

/** Figures that are days, by their names. */
export const dateFigures = ({ definition }: Known): Named<string>[] =>
  definition.figures.flatMap(({ name, unit }) => (unit === 'date' ? [{ name, value: name }] : []));

/** Fields that take leave. */
export const spanFields = ({ definition }: Known): Named<string>[] =>
  definition.form.fields.filter(f => f.kind === 'leave span').map(f => ({ name: f.label, value: f.id }));

/** Working time only: what is said in calendar days is not the same, and is not taken for it. */
export const readAmountOf = (w: Words): WorkingAmount | undefined =>
  w.try(() => {
    const n = w.number() ?? (w.eat('a|an|the') ? 1 : undefined);
    if (n === undefined || n <= 0) return undefined;
    w.eat('full|whole');
    if (w.eat('working|business|week? day|days|weekdays|weekday'))
      return Number.isInteger(n) ? { workingDays: n } : undefined;
    if (w.eat('working? hours|hour')) return { workingHours: n };
    if (w.eat('working? weeks|week')) return { workingDays: n * 5 };
    w.missed('working days', 'working hours');
    return undefined;
  });

/** `5 working days before Start date`: how many, and which date. */
export const readBefore = (w: Words, known: Known): { workingDays: number; field: string } | undefined =>
  w.try(() => {
    const n = w.number() ?? (w.eat('a|an|one') ? 1 : undefined);
    if (n === undefined || !Number.isInteger(n)) return undefined;
    const weeks = w.eat('weeks|week');
    if (!weeks && !w.eat('working|business? days|day')) return undefined;
    if (!w.eat('before|ahead of?', 'prior to')) return undefined;
    w.eat('the|their|his|her|first? day? of?');
    w.eat('the');
    const field = w.name(dateFields(known));
    return field === undefined ? undefined : { workingDays: weeks ? n * 5 : n, field };
  });

const onDay = (w: Words, known: Known): string | undefined => {
  w.eat('the|their|his|her');
  return w.name(dateFields(known));
};

/** Until when a step is to be done. */
export const readLimitOf = (w: Words, known: Known): LimitTime | undefined =>
  w.try(() => {
    const latest = w.eat(
      'and? at the? latest',
      'and? at latest',
      'no|not later than',
      'by',
      'until',
      'up to',
      'and? this|that? by',
    );
    const before = readBefore(w, known);
    if (before) {
      if (!latest) w.eat('at the latest', 'latest');
      return { workingDaysBefore: before.workingDays, field: before.field };
    }
    if (latest) {
      w.eat('on');
      const field = onDay(w, known);
      return field === undefined ? undefined : { workingDaysBefore: 0, field };
    }
    if (w.eat('before')) {
      const field = onDay(w, known);
      return field === undefined ? undefined : { workingDaysBefore: 1, field };
    }
    if (!w.eat('within|inside|in at? most?', 'in less than', 'no longer than', 'has|have|with')) return undefined;
    w.eat('the? next');
    w.eat('at most', 'up to');
    return readAmountOf(w);
  });

const times = (w: Words): number | undefined =>
  w.try(() => {
    w.eat(',');
    w.eat('and');
    if (w.eat('once', 'only once', 'at most once', 'one time')) return 1;
    if (w.eat('twice', 'at most twice')) return 2;
    const most = w.eat('at most', 'up to', 'no more than', 'maximum', 'at the most', 'not more than');
    const n = w.number();
    if (n === undefined || !(w.eat('times|time|reminders') || most)) return undefined;
    w.eat('of them');
    return n;
  });

export const readReminderOf = (w: Words): NonNullable<Limit['remind']> | undefined =>
  w.try(() => {
    w.eat('and|with|send');
    w.eat('is|are|gets|get|with');
    w.eat('a|one|the');
    if (
      !w.eat(
        'reminder|reminders|remind|reminded them|him|her|it? after|every|each',
        'reminder|reminders|remind them|him|her? after|every|each',
      )
    )
      return undefined;
    const repeated = ['every', 'each'].includes(w.tokens[w.at - 1].low);
    const after = readAmountOf(w) ?? (repeated ? oneDay(w) : undefined);
    if (!after) return undefined;
    const every = w.try(() => {
      w.eat(',');
      return w.eat('and? then every|each', 'then again every', 'and every')
        ? (readAmountOf(w) ?? oneDay(w))
        : undefined;
    });
    const atMost = times(w) ?? 3;
    return { after, ...(every ? { every } : {}), atMost: Math.min(20, Math.max(1, atMost)) };
  });

const oneDay = (w: Words): WorkingAmount | undefined => (w.eat('working? day') ? { workingDays: 1 } : undefined);

/** What happens when nobody has answered by then. */
export const readAtLimitOf = (w: Words, known: Known): AtLimit | undefined =>
  w.try(() => {
    const begins =
      w.eat(
        'otherwise|else|if',
        'or else',
        'after that',
        'if not',
        'unanswered at the limit :',
        'then',
        'failing that',
      ) &&
      (w.eat(
        'nobody_answers|no_one_answers|nobody_has_answered|no_answer|not|nobody|no_one in_time?',
        'not in time',
        'nobody answers in? time?',
        'they do not answer',
      ) ||
        true);
    if (!begins) return undefined;
    w.eat(',');
    w.eat('then');
    w.eat('it|this|that|the_request');
    if (
      w.eat(
        'is passed|escalated|sent up',
        'is escalated',
        'goes|passes|moves|go|pass up',
        'goes|passes|moves|go|pass|is_passed|is_escalated|is_handed|escalates on? to the? manager above',
        'goes|passes|moves|go|pass|is_passed|is_escalated|is_handed|escalates on? to the? next manager|level up?',
        "goes|passes|moves|go|pass|is_passed|is_escalated|is_handed|escalates on? to the? manager's manager",
        'escalates|escalate',
      )
    )
      return 'pass up';
    if (w.eat('waits|stays|remains', 'stays and is shown as late')) {
      const told = w.try(() => {
        w.eat(',');
        if (!w.eat('and')) return undefined;
        const rule = readRuleOf(w, known);
        return rule && w.eat('is told|informed') ? rule : undefined;
      });
      return told ? { tell: told } : 'wait';
    }
    if (w.eat('goes|passes|moves|go|pass|is_passed|is_handed|is_given on? to')) {
      const rule = readRuleOf(w, known);
      return rule && { passTo: rule };
    }
    const told = w.try(() => {
      const rule = readRuleOf(w, known);
      return rule && w.eat('is|are|gets? told|informed|notified') ? rule : undefined;
    });
    if (told) return { tell: told };
    return w.try(() => {
      if (!w.eat('tell|inform|notify')) return undefined;
      const rule = readRuleOf(w, known);
      return rule && { tell: rule };
    });
  });

export const readCountOf = (w: Words): Quorum | undefined =>
  w.try(() => {
    if (
      w.eat('all together', 'together', 'everyone|all must|have_to|has_to agree', 'unanimously', 'everyone must agree')
    )
      return 'everyone';
    if (w.eat('by a? majority')) return 'majority';
    if (w.eat('in turn', 'one after another', 'one after the other')) return 'in turn';
    if (!w.eat('with? at least')) return undefined;
    const atLeast = w.number();
    if (atLeast === undefined) return undefined;
    return w.eat('in favour', 'of them', 'must agree') ? { atLeast } : undefined;
  });
