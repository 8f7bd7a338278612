/** People: effective-dated records, reporting lines, and the rules that find who handles a step. */

export * from './directory.ts';
export * from './letters.ts';
export * from './lines.ts';
export * from './mailChoice.ts';
export * from './managersThrough.ts';
export * from './own.ts';
export * from './peopleRule.ts';
export * from './reason.ts';
export * from './reportingLine.ts';
export * from './rule.ts';
export * from './today.ts';
