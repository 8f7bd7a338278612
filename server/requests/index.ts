/** Requests: commands in, views out. */

export {
  askedFromOutside,
  command,
  effectCameBack,
  guestDid,
  isConcerned,
  mailSaid,
  mindOwner,
  openByHouse,
  timerDue,
} from './commands/commands.ts';
export { dropOldUnsent } from './drafts/unsent.ts';
export { dropOldCommands, dropOldLetters, lettersToMake, waitingRows, writeOut } from './effects.ts';
export * from './routes.ts';
export * from './store.ts';
export { waitingFor } from './views/desk.ts';
export { accessOf } from './views/holds.ts';
export { mustReadFile, sightsFor } from './views/looking.ts';
export { standing } from './views/views.ts';
