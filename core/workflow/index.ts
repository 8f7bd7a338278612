/** Workflows: the definition, its sentences and findings, and how a request runs through it. */
export { afterwardsOf, mayAfterwards } from './commands/amending.ts';
export { isHeldBy } from './commands/answering.ts';
export { isNotOpen, mayAsk, preview } from './commands/asking.ts';
export * from './request/command.ts';
export {
  afterwardsWords,
  compare,
  type Difference,
  differenceWords,
  openingWords,
  type Piece,
  pieces,
} from './drafting/compare.ts';
export * from './request/context.ts';
export * from './execution/voting.ts';
export * from './definition/definition.ts';
export { spacesAsked, undeliveredBy } from './execution/delivery.ts';
export * from './drafting/edit.ts';
export * from './figures/evaluate.ts';
export * from './request/events.ts';
export * from './figures/figureReason.ts';
export * from './figures/filling.ts';
export type { Finding, Mend, People, Surroundings } from './findings/finding.ts';
export * from './findings/findings.ts';
export { formulasOf } from './findings/formFindings.ts';
export * from './language/formWords.ts';
export * from './definition/graph.ts';
export * from './commands/handle.ts';
export { bookingOf } from './commands/keptLeave.ts';
export * from './mail/letters.ts';
export * from './commands/migrating.ts';
export * from './definition/path.ts';
export type { NamedLists } from './language/writing.ts';
export * from './plain/house.ts';
export * from './plain/index.ts';
export * from './procedure/reader.ts';
export { type IncomingMail, isAutomatic, ownWords, type Reading, readReply } from './mail/replies.ts';
export * from './mail/richText.ts';
export * from './language/ruleWords.ts';
export * from './request/visibility.ts';
export * from './definition/structure.ts';
export * from './request/state.ts';
export * from './request/trail.ts';
export * from './procedure/procedure.ts';
