/** Plans counted back from a date, in working days. */
export { type Countback, type CountedTask, countback, type PlannedTask, type TaskState } from './countback.ts';
export { CountbackInput, countedBack } from './door.ts';
export { type FullWeek, relief, type WeekTask } from './relief.ts';
export { type WorkdayLine, workdayLine } from './workdayLine.ts';
