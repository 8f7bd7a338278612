/** Open formats: BPMN 2.0, JSON Schema, iCalendar and open data of holidays. */
export { writeBpmn } from './bpmnExport.ts';
export { type BpmnReading, readBpmn, type Unread } from './bpmnImport.ts';
export { calendarTimes, type FeedEvent, toldGoneFor, writeFeed } from './feed.ts';
export { holidayRuleFrom } from './holidayRules.ts';
export { type ReadCalendar, readCalendar, writeCalendar } from './iCalendar.ts';
export { type Invited, writeInvitation } from './invitation.ts';
export { workflowJsonSchema } from './jsonSchema.ts';
