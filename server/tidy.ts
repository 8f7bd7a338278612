/** What is cleared away in the background: loose files, typing that nobody has come back to, sessions that are over. */
import { dropOldLinks } from './accounts/index.ts';
import { clearLoose } from './files/index.ts';
import type { House } from './house/index.ts';
import { dropOldLetters, dropOldUnsent } from './requests/index.ts';
import { dropOldSessions } from './session/index.ts';

/** Once an hour, until stopped. Several servers may: what is gone is gone. */
export function keepTidy(house: House, pause = 60 * 60_000): () => void {
  const clear = async () => {
    await clearLoose(house);
    await dropOldUnsent(house.db);
    await dropOldSessions(house.db);
    await dropOldLinks(house.db);
    await dropOldLetters(house.db, house.keepDays);
  };
  const timer = setInterval(() => {
    clear().catch(fault => house.log.warn({ err: fault }, 'tidying'));
  }, pause);
  return () => clearInterval(timer);
}
