/** Leave that was decided elsewhere, before the house moved in: no request here is of it. */
const before = 'before-';

export const isBookedBefore = (request: string): boolean => request.startsWith(before);

/** An id of such leave: of whose it is, of what kind, and when it begins. */
export const bookingId = (person: string, type: string, from: string): string =>
  `${before}${hashOf(person, type, from)}`;

/** Leave that is taken from everybody of a place while it is closed: no request here is of it either. */
const shutdown = 'closed-';

export const isShutdown = (request: string): boolean => request.startsWith(shutdown);
export const shutdownBooking = (person: string, type: string, from: string): string =>
  `${shutdown}${hashOf(person, type, from)}`;

/** Leave that was wished for in a round and decided together with that of others. */
const wished = 'wish-';

export const isWished = (request: string): boolean => request.startsWith(wished);
export const wishBooking = (person: string, type: string, from: string): string =>
  `${wished}${hashOf(person, type, from)}`;

/** Whether leave stands there of which there is no request here. */
export const hasNoRequest = (id: string): boolean => isBookedBefore(id) || isShutdown(id) || isWished(id);

function hashOf(person: string, type: string, from: string): string {
  let hash = 0xcbf29ce484222325n;
  for (const letter of `${person} ${type} ${from}`) {
    hash ^= BigInt(letter.codePointAt(0) ?? 0);
    hash = (hash * 0x100000001b3n) & 0xffffffffffffffffn;
  }
  return hash.toString(16).padStart(16, '0');
}
