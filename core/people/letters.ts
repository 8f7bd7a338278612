/** Names in letters without marks, for accounts, ids and looking for somebody: `Åse Ødegård` is `ase odegard`. */

const others: readonly (readonly [RegExp, string])[] = [
  [/ß/g, 'ss'],
  [/[øØ]/g, 'o'],
  [/[æÆ]/g, 'ae'],
  [/[œŒ]/g, 'oe'],
  [/[łŁ]/g, 'l'],
  [/[đĐðÐ]/g, 'd'],
  [/[þÞ]/g, 'th'],
  [/ı/g, 'i'],
];

/** Small letters; what is no letter of a name stays as it is, and so do other scripts. */
export const plainLetters = (text: string): string =>
  others
    .reduce(
      (plain, [letter, instead]) => plain.replaceAll(letter, instead),
      text.normalize('NFD').replaceAll(/\p{M}/gu, ''),
    )
    .toLowerCase();

const known = new WeakMap<object, string>();
/** The letters of somebody’s name, worked out once. */
export function nameLetters(person: { readonly name: string }): string {
  const kept = known.get(person);
  if (kept !== undefined) return kept;
  const letters = plainLetters(person.name);
  known.set(person, letters);
  return letters;
}
