/** Workflows: the definition, its sentences and findings, and how a request runs through it. */

export type { Absent, Finding, Fix, People, Surroundings } from './checking/finding.ts';
export { afterwardsOf, mayAfterwards } from './commands/afterwards/amending.ts';
export { bookingOf } from './commands/afterwards/keptLeave.ts';
export {
  type DateMove,
  type DateNote,
  dateNotes,
  type Following,
  mayMoveDate,
  previewDate,
} from './commands/afterwards/movingDate.ts';
export { isHeldBy } from './commands/answering.ts';
export { isNotOpen, mayAsk, preview } from './commands/asking.ts';
export { guestHere, guestNow, looksAfterGuest, nextReminderLetter } from './commands/fromOutside/guests.ts';
export { checkedOutside, keeperOf, outsideFields, shutOutside } from './commands/fromOutside/outside.ts';
export * from './commands/handle.ts';
export * from './commands/migrating.ts';
export { longAway, mayChangeOwner } from './commands/owner/owning.ts';
export * from './definition/definition.ts';
export * from './definition/graph.ts';
export * from './definition/guests.ts';
export * from './definition/path.ts';
export * from './definition/structure.ts';
export {
  afterwardsWords,
  compare,
  countsBackWords,
  type Difference,
  differenceWords,
  openingWords,
  type Piece,
  pieces,
} from './drafting/compare.ts';
export * from './drafting/edit.ts';
export { mayBeAsker } from './execution/assigning.ts';
export { spacesAsked, undeliveredBy } from './execution/delivery.ts';
export { ownedNextWords, tasksMoveWords } from './execution/movingAlong.ts';
export { askWords, changeWords, reasonWords, stuckWords, type Telling } from './execution/reasonWords.ts';
export * from './execution/trail.ts';
export * from './execution/voting.ts';
export * from './figures/evaluate.ts';
export * from './figures/figureReason.ts';
export * from './figures/filling.ts';
export { formulasOf } from './figures/formulas.ts';
export * from './findings/findings.ts';
export { goesAsBefore } from './findings/peopleFindings.ts';
export * from './language/formWords.ts';
export * from './language/ruleWords.ts';
export type { NamedLists } from './language/writing.ts';
export * from './mail/letters.ts';
export { fillLetter, insertedInLetter, letterInsertionNames, readableIn } from './mail/papers.ts';
export { type IncomingMail, isAutomatic, ownWords, type Reading, readReply } from './mail/replies.ts';
export * from './mail/richText.ts';
export * from './plain/house.ts';
export * from './plain/index.ts';
export * from './planning/plan.ts';
export * from './planning/tasks.ts';
export * from './planning/told.ts';
export * from './planning/why.ts';
export * from './procedure/procedure.ts';
export * from './procedure/reader.ts';
export { inSentence } from './procedure/stepWords.ts';
export * from './request/command.ts';
export * from './request/context.ts';
export { dateIn } from './request/date.ts';
export * from './request/events.ts';
export * from './request/fold.ts';
export * from './request/guest.ts';
export * from './request/guestForm.ts';
export * from './request/outgoing.ts';
export { placeOfWork, workplaceOf } from './request/place.ts';
export * from './request/reason.ts';
export * from './request/stages.ts';
export * from './request/state.ts';
export * from './request/stored.ts';
export * from './request/visibility.ts';
