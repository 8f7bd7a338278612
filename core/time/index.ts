/** Civil dates, work patterns, holidays, working time and deadlines. */
export * from './civilDate.ts';
export * from './cycle.ts';
export * from './deadline.ts';
export * from './holidays.ts';
export * from './pattern.ts';
export { CivilDate, Instant, MonthDay, NearDate, Zone } from './schemas.ts';
export * from './wording.ts';
export * from './workingTime.ts';
export * from './zone.ts';
