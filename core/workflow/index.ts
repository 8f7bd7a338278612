/** Workflows: the definition, its sentences and findings, and how a request runs through it. */
export { afterwardsOf, mayAfterwards } from './afterwards.ts';
export { isHeldBy } from './answering.ts';
export { isNotOpen, mayAsk, preview } from './asking.ts';
export * from './command.ts';
export {
  afterwardsWords,
  compare,
  type Difference,
  differenceWords,
  openingWords,
  type Piece,
  pieces,
} from './compare.ts';
export * from './context.ts';
export * from './counting.ts';
export * from './definition.ts';
export { spacesAsked, undeliveredBy } from './delivery.ts';
export * from './edit.ts';
export * from './evaluate.ts';
export * from './events.ts';
export * from './figureReason.ts';
export * from './filling.ts';
export type { Finding, Mend, People, Surroundings } from './finding.ts';
export * from './findings.ts';
export { formulasOf } from './formFindings.ts';
export * from './formWords.ts';
export * from './graph.ts';
export * from './handle.ts';
export { bookingOf } from './keptLeave.ts';
export * from './letters.ts';
export * from './moving.ts';
export * from './path.ts';
export type { NamedLists } from './pen.ts';
export * from './plain/house.ts';
export * from './plain/index.ts';
export * from './reader.ts';
export { type IncomingMail, isAutomatic, ownWords, type Reading, readReply } from './replies.ts';
export * from './richText.ts';
export * from './ruleWords.ts';
export * from './seeing.ts';
export * from './sequence.ts';
export * from './state.ts';
export * from './trail.ts';
export * from './words.ts';
