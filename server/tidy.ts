/** What is cleared away in the background: loose files, typing that nobody has come back to, sessions that are over. */
import { toInstant, toMilliseconds } from '@north-pebble/core/time';
import { dropOldLinks } from './accounts/index.ts';
import { clearLoose } from './files/index.ts';
import { dropOldFirstPasswords } from './firstPasswords/index.ts';
import { dropOldGuestLinks, dropOldGuestTyping } from './guests/index.ts';
import type { House } from './house/index.ts';
import { dropOldMails } from './messages/index.ts';
import { forgetOver } from './outside/index.ts';
import { dropOldGone } from './planner/index.ts';
import { dropOldCommands, dropOldLetters, dropOldUnsent } from './requests/index.ts';
import { dropOldSessions } from './session/index.ts';

export async function clearAway(house: House): Promise<void> {
  const { letters, commands, mails } = house.keepDays;
  await clearLoose(house);
  await dropOldUnsent(house.db);
  await dropOldSessions(house.db);
  await dropOldLinks(house.db);
  await dropOldFirstPasswords(house);
  await dropOldGuestLinks(house.db);
  await dropOldGuestTyping(house);
  await forgetOver(house);
  await dropOldGone(house);
  await dropOldLetters(house.db, letters);
  await dropOldCommands(house.db, commands);
  await dropOldMails(house.db, toInstant(toMilliseconds(await house.now(house.db)) - mails * 86_400_000));
}

/** Once an hour, until stopped. Several servers may: what is gone is gone. */
export function keepTidy(house: House, pause = 60 * 60_000): () => void {
  const timer = setInterval(() => {
    clearAway(house).catch(fault => house.log.warn({ err: fault }, 'tidying'));
  }, pause);
  return () => clearInterval(timer);
}
