/** Words and colours of the states of a plan: never a colour alone. */
import type { PlanLineView, PlanState } from '@north-pebble/contract';
import { type CivilDate, dateWords, workingWords } from '@north-pebble/core/time';

export const planColour: Record<PlanLineView['state'] | 'ready', string> = {
  done: 'var(--mui-palette-text-primary)',
  late: 'var(--mui-palette-error-main)',
  tight: 'var(--mui-palette-warning-main)',
  fine: 'var(--mui-palette-primary-main)',
  ready: 'var(--mui-palette-success-main)',
  'not needed': 'var(--mui-palette-text-secondary)',
};

export const stateWords: Record<PlanLineView['state'] | 'ready', string> = {
  done: 'done',
  late: 'late',
  tight: 'tight',
  fine: 'fine',
  ready: 'ready',
  'not needed': 'not needed',
};

const days = (n: number): string => workingWords({ workingDays: n });

/** `2 working days late`, `no day to spare`, `8 working days to spare`. */
export function spareWords(slack: number): string {
  if (slack < 0) return `${days(-slack)} late`;
  return slack === 0 ? 'no day to spare' : `${days(slack)} to spare`;
}

/** How a plan stands, after its date: `not ready in time as it stands, 2 working days late`. */
export function planStanding({ state, slack, toGo }: { state: PlanState; slack: number | null; toGo: number }): string {
  const left = toGo === 0 ? 'the date has come' : `${days(toGo)} to go`;
  if (state === 'ready') return `${left} · everything is ready`;
  if (slack !== null && slack < 0) return `${left} · not ready in time as it stands: ${spareWords(slack)}`;
  return `${left} · ${slack === null ? 'ready' : spareWords(slack)}`;
}

export const shortDay = (date: CivilDate, today: CivilDate): string => {
  const [weekday, day, month, year] = dateWords(date, Number(today.slice(0, 4))).split(' ');
  return [weekday, day, month?.slice(0, 3), year].filter(Boolean).join(' ');
};
