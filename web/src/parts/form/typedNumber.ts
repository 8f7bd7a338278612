/** A number as somebody typed it, with a point or a comma; not a number where it is none, or nothing. */
export const typedNumber = (text: string): number =>
  text.trim() === '' ? Number.NaN : Number(text.trim().replace(',', '.'));
