/** Papers that run out: when the new one is asked for, when its holder is reminded, when all of it is thrown away. */
import { addDays, type CivilDate, toDay } from '../time/index.ts';

/** What is done about one kind of paper. Days are calendar days. */
export type PaperRules = {
  /** `Identity card`: as workflows keep it. */
  readonly kind: string;
  /** The new one is asked for so many days before it runs out, by a request of its own. */
  readonly askBefore: number;
  /** The workflow in which that is asked; nobody is asked without one. */
  readonly workflow: string | null;
  /** Days before it runs out on which the holder is reminded. */
  readonly remindBefore: readonly number[];
  /** It is thrown away so many days after it is not needed any more. */
  readonly keepAfter: number;
};

export type KeptPaper = {
  readonly kind: string;
  readonly keptOn: CivilDate;
  readonly expires: CivilDate | null;
  /** A newer one was accepted on this day. */
  readonly replacedOn: CivilDate | null;
  /** The last day of its holder, where they leave. */
  readonly leftOn: CivilDate | null;
  /** Whether the new one was asked for. */
  readonly asked: boolean;
  /** The step of the last reminder, in days before it runs out. */
  readonly reminded: number | null;
};

export const usualRules = (kind: string): PaperRules => ({
  kind,
  askBefore: 60,
  workflow: null,
  remindBefore: [30, 14, 3],
  keepAfter: 180,
});

/** The last day on which it is needed. */
function neededUntil({ keptOn, expires, replacedOn, leftOn }: KeptPaper): CivilDate | null {
  const ends = [replacedOn, leftOn].filter(day => day !== null);
  if (ends.length > 0) return [...ends].sort()[0];
  // What never runs out is needed for as long as its holder is there.
  if (expires === null) return null;
  return expires > keptOn ? expires : keptOn;
}

/** The day on which it is thrown away; nothing while it is needed without end. */
export function forgottenOn(paper: KeptPaper, rules: PaperRules): CivilDate | null {
  const until = neededUntil(paper);
  return until && addDays(until, rules.keepAfter);
}

export type PaperWork = {
  /** The new one is to be asked for. */
  readonly ask: boolean;
  /** The step of the reminder that is due: the newest one, when several have passed. */
  readonly remind: number | null;
  readonly forget: boolean;
};

/** What is to be done about a paper on a day. */
export function paperWork(paper: KeptPaper, rules: PaperRules, today: CivilDate): PaperWork {
  const forgotten = forgottenOn(paper, rules);
  const forget = forgotten !== null && today >= forgotten;
  const isOver = paper.replacedOn !== null || (paper.leftOn !== null && paper.leftOn < today);
  if (forget || isOver || paper.expires === null) return { ask: false, remind: null, forget };
  const left = toDay(paper.expires) - toDay(today);
  const steps = rules.remindBefore.filter(step => left <= step && (paper.reminded === null || step < paper.reminded));
  return {
    ask: !paper.asked && rules.workflow !== null && left <= rules.askBefore,
    remind: left >= 0 && steps.length > 0 ? Math.min(...steps) : null,
    forget,
  };
}

/** The month in which a paper is shown, as in `2026-02`: what ran out before, in that of today. */
export const monthShown = (expires: CivilDate, today: CivilDate): string =>
  [expires.slice(0, 7), today.slice(0, 7)].sort()[1];

/** How many run out in each month, from the month of a day on; what ran out before stands in the first. */
export function byMonth(
  papers: readonly Pick<KeptPaper, 'expires'>[],
  today: CivilDate,
  months = 12,
): { month: string; papers: number }[] {
  const first = today.slice(0, 7);
  const counts = new Map<string, number>();
  for (const { expires } of papers) {
    if (expires === null) continue;
    const month = monthShown(expires, today);
    counts.set(month, (counts.get(month) ?? 0) + 1);
  }
  const [year, month] = first.split('-').map(Number);
  return Array.from({ length: months }, (_, n) => {
    const at = new Date(Date.UTC(year, month - 1 + n, 1)).toISOString().slice(0, 7);
    return { month: at, papers: counts.get(at) ?? 0 };
  });
}
