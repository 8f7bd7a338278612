/** Rows of the house's lists as formulas look them up: by title, on a day. */
import { cellValue, isPickable, type ReferenceList, usualCurrency } from '../../form/index.ts';
import { type Amount, isAmount, type Value } from '../../formula/index.ts';
import { type CivilDate, isCivilDate } from '../../time/index.ts';

/** The list with the rates of currencies. */
export const ratesList = 'Rates';

const plain = (text: string): string => text.trim().toLowerCase();

/** A list by its name or its id, written large or small. */
export const listNamed = (lists: readonly ReferenceList[], name: string): ReferenceList | undefined =>
  lists.find(list => plain(list.name) === plain(name) || list.id === name);

/** The row of a title that holds on a day, its cells by the labels of their columns; nothing where there is none. */
export function rowOf(lists: readonly ReferenceList[], name: string, title: string, day: CivilDate): Value {
  const list = listNamed(lists, name);
  const row = list?.rows.find(one => plain(one.title) === plain(title) && isPickable(one, day));
  if (!list || !row) return null;
  return Object.fromEntries([
    ['Title', row.title],
    ...list.columns.map(column => [column.label, cellValue(column, row.cells[column.id])]),
  ]);
}

/**
 * An amount in another currency, by the list `Rates`: a row for each currency, with how much of it one unit of the house's
 * own is worth, from a day to a day. Nothing where a rate is missing: none is guessed.
 */
export function inCurrency(lists: readonly ReferenceList[], amount: Value, currency: Value, day: Value): Value {
  if (!isAmount(amount) || typeof currency !== 'string' || typeof day !== 'string' || !isCivilDate(day)) return null;
  if (amount.currency === currency) return amount;
  const rates = listNamed(lists, ratesList);
  const rateOf = (code: string): number | null => {
    if (code === usualCurrency) return 1;
    const row = rates?.rows.find(one => one.title === code && isPickable(one, day as CivilDate));
    const rate = row && Object.values(row.cells).find(cell => typeof cell === 'number');
    return typeof rate === 'number' && rate > 0 ? rate : null;
  };
  const [from, to] = [rateOf(amount.currency), rateOf(currency)];
  if (from === null || to === null) return null;
  return { amount: (amount.amount / from) * to, currency } satisfies Amount;
}
