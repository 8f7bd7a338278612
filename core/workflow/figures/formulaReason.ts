/** Why a formula gives nothing for a request: the formula, and what it looked at. */
import { moneyWords } from '../../form/index.ts';
import { isAmount, type Value } from '../../formula/index.ts';
import { isTimed, LeaveSpan } from '../../leave/index.ts';

/** What a formula looked at, by the names that it uses. */
export type Inputs = readonly { readonly name: string; readonly value: Value }[];

export type FormulaReason =
  | { readonly code: 'formula not read'; readonly formula: string }
  | { readonly code: 'formula has no value'; readonly formula: string; readonly inputs: Inputs }
  | { readonly code: 'condition has no answer'; readonly formula: string; readonly inputs: Inputs };

function said(value: Value): string {
  if (value === null) return 'not known';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return value.length === 0 ? 'empty' : value.map(v => said(v as Value)).join(', ');
  if (typeof value !== 'object') return String(value);
  if (isAmount(value)) return moneyWords(value.amount, value.currency);
  const span = 'from' in value ? LeaveSpan.safeParse(value) : undefined;
  if (!span?.success) return 'given';
  return `${span.data.from.date} to ${span.data.to.date}${isTimed(span.data) ? ' with times' : ''}`;
}

export const inputsWords = (inputs: Inputs): string =>
  inputs.map(({ name, value }) => `${name} is ${said(value)}`).join(', ');

/** Without a full stop: it may be a part of a sentence. */
export function formulaWords(reason: FormulaReason): string {
  switch (reason.code) {
    case 'formula not read':
      return `“${reason.formula}” cannot be read`;
    case 'formula has no value':
      return `“${reason.formula}” has no value: ${inputsWords(reason.inputs)}`;
    case 'condition has no answer':
      return `“${reason.formula}” has no answer: ${inputsWords(reason.inputs)}`;
  }
}
