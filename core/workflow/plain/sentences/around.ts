/** What is said around the main part of a sentence: conditions, limits, reminders, who may have it. */
import type { AtLimit, Limit, LimitTime, Quorum } from '../../definition/definition.ts';
import { negated, readConditionOf } from '../conditions.ts';
import { readAtLimitOf, readCountOf, readLimitOf, readReminderOf } from '../limits.ts';
import type { Saying } from './saying.ts';

/** What is said around the main part of a sentence. */
export type Around = {
  when: string[];
  limit?: LimitTime;
  remind?: NonNullable<Limit['remind']>;
  atLimit?: AtLimit;
  count?: Quorum;
  back?: { fields: string[] };
  whenAway?: 'goes up';
  once?: true;
  askerMay?: true;
  handTo?: 'anybody';
  firstTakes?: true;
};

export function end(s: Saying): void {
  while (s.w.eat('.|!|,'));
}

/** What stands before the main part: conditions, times, reminders. */
export function leading(s: Saying): Around {
  const { w } = s;
  const around: Around = { when: [] };
  for (;;) {
    const found = w.try(() => {
      const condition = readCondition(s);
      if (condition) {
        around.when.push(condition);
        return true;
      }
      const remind = readReminderOf(w);
      if (remind) {
        around.remind = remind;
        return true;
      }
      const limit = around.limit ? undefined : readLimitOf(w, s.known);
      if (limit) {
        around.limit = limit;
        return true;
      }
      return undefined;
    });
    if (!found) return around;
    w.eat(',|:');
    w.eat('then');
  }
}

/** `if …`, `only for …`, `unless …`. */
export function readCondition(s: Saying): string | undefined {
  const { w } = s;
  return w.try(() => {
    if (w.eat('unless', 'except when|if|for')) {
      const formula = readConditionOf(w, s.known);
      return formula && negated(formula);
    }
    if (
      !w.eat(
        'but? only? if|when|whenever',
        'only for',
        'in case',
        'provided that?',
        'as long as',
        'but? only for',
        'for',
        'on condition that',
      )
    )
      return undefined;
    return readConditionOf(w, s.known);
  });
}

/** One thing that stands behind the main part. */
export function behind(s: Saying, around: Around): boolean {
  const { w, known } = s;
  const start = w.at;
  const got = <T>(found: T | undefined, put: (value: T) => void): boolean => {
    if (found === undefined) return false;
    put(found);
    return true;
  };
  const said = (...phrases: string[]) => w.eat(...phrases);
  if (said('whoever approved the step before is not asked again')) {
    around.once = true;
    return true;
  }
  if (said('the asker may have it')) {
    around.askerMay = true;
    return true;
  }
  if (said('it may be handed to anybody')) {
    around.handTo = 'anybody';
    return true;
  }
  if (said('away without cover : it goes up the line')) {
    around.whenAway = 'goes up';
    return true;
  }
  if (
    said(
      'whoever is|comes first',
      'whoever takes it first',
      'whichever is first',
      'whoever is|gets there first',
      'first come first served',
    )
  ) {
    around.firstTakes = true;
    return true;
  }
  if (around.atLimit === undefined && got(readAtLimitOf(w, known), v => (around.atLimit = v))) return true;
  w.at = start;
  if (around.back === undefined && got(sentBack(s), v => (around.back = v))) return true;
  if (around.remind === undefined && got(readReminderOf(w), v => (around.remind = v))) return true;
  if (got(readCondition(s), v => around.when.push(v))) return true;
  if (around.count === undefined && got(readCountOf(w), v => (around.count = v))) return true;
  if (around.limit === undefined && got(readLimitOf(w, known), v => (around.limit = v))) return true;
  if (said('with no limit', 'without a limit')) return true;
  w.at = start;
  return false;
}

/** Everything behind the main part, up to the end of the words; false when something is left over. */
/** @param more what may stand there besides, told whether it did */
export function behindAll(s: Saying, around: Around, more: () => boolean = () => false): boolean {
  const { w } = s;
  for (;;) {
    end(s);
    if (w.done) return true;
    if (more()) continue;
    const start = w.at;
    w.eat('and|but|;');
    if (behind(s, around)) continue;
    w.at = start;
    if (behind(s, around)) continue;
    return false;
  }
}

/** `may send back for dates with a note`. */
export function sentBack(s: Saying): { fields: string[] } | undefined {
  const { w } = s;
  return w.try(() => {
    w.eat('they|he|she|it|who|and');
    w.eat('may|can|could|or');
    if (
      !w.eat(
        'sends|send|return|returns|give|gives it|this? back',
        'send|sends|sent it? back',
        'return|returns it|this to_the_asker?',
        'return|returns to_the_asker',
        'ask|asks for changes|rework',
      )
    )
      return undefined;
    w.eat('to the? asker');
    const fields: string[] = [];
    if (w.eat('for|to_change in?')) {
      w.eat('changes|change|corrections|other|new|rework of|to|in?');
      do {
        w.eat('the|other|new');
        const field = w.name(s.fields);
        if (field === undefined) break;
        fields.push(field);
      } while (w.eat(', and?', 'and', 'or'));
      if (fields.length === 0 && !w.eat('rework|changes|corrections|more')) return undefined;
    }
    w.eat('with a|an note|reason|comment', 'and a note|reason');
    return { fields };
  });
}

export function limitOf(around: Around): Limit | null {
  if (!around.limit) return null;
  return { within: around.limit, remind: around.remind ?? null, atLimit: around.atLimit ?? 'wait' };
}

/** What is said of a limit without one, or of a reminder without anything to remind of, is not taken. */
export function isSound(around: Around): boolean {
  return around.limit !== undefined || (around.remind === undefined && around.atLimit === undefined);
}

/** Fields before the rest: conditions joined, each in brackets where it has an “or”. */
export function whenOf(around: Around): string | null {
  const { when } = around;
  if (when.length === 0) return null;
  if (when.length === 1) return when[0];
  return when.map(one => (/ or /.test(one) ? `(${one})` : one)).join(' and ');
}
