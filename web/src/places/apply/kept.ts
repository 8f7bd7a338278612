/** What is typed at a public address stays in this browser until it is sent, so that a closed page loses nothing. */
export type Kept = { readonly id: string; readonly answers: Readonly<Record<string, unknown>> };

const keyOf = (token: string): string => `np-form-${token.slice(0, 12)}`;

const isKept = (value: unknown): value is Kept =>
  typeof value === 'object' &&
  value !== null &&
  typeof (value as Kept).id === 'string' &&
  typeof (value as Kept).answers === 'object' &&
  (value as Kept).answers !== null;

/** A new one has an id of its own: sent twice by an impatient hand, it is taken in once. */
export const fresh = (): Kept => ({ id: crypto.randomUUID(), answers: {} });

export function readKept(token: string): Kept {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(keyOf(token)) ?? 'null');
    return isKept(found) ? found : fresh();
  } catch {
    // A browser may keep nothing, or something else may stand there.
    return fresh();
  }
}

/** @returns whether the browser keeps it */
export function keep(token: string, kept: Kept): boolean {
  try {
    localStorage.setItem(keyOf(token), JSON.stringify(kept));
    return true;
  } catch {
    return false;
  }
}

export function forget(token: string): void {
  try {
    localStorage.removeItem(keyOf(token));
  } catch {
    // Where nothing is kept, nothing is to be forgotten.
  }
}
