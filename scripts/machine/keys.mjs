/** A file of keys for seals, for houses that live only as long as what is tried on them. */
import { randomBytes } from 'node:crypto';
import { writeFileSync } from 'node:fs';

/** @param {string} file @returns {string} the file */
export function makeKeys(file) {
  writeFileSync(file, `${randomBytes(32).toString('hex')}\n`, { mode: 0o600 });
  return file;
}
