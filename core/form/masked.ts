/** Numbers of papers as they are shown: the last letters alone. */

/** `•••• 4711`; of a short number less, so that at least four letters stay covered. */
export function masked(number: string): string {
  const letters = number.replace(/\s/g, '');
  const shown = Math.max(0, Math.min(4, letters.length - 4));
  return `••••${shown > 0 ? ` ${letters.slice(-shown)}` : ''}`;
}
