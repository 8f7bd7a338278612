/** Exact rational numbers. Amounts of leave are added as fractions, so that nothing drifts; only accruals are rounded. */

export type Fraction = { readonly top: bigint; readonly bottom: bigint };

export const zero: Fraction = { top: 0n, bottom: 1n };

function divisor(a: bigint, b: bigint): bigint {
  let x = a < 0n ? -a : a;
  let y = b;
  while (y) [x, y] = [y, x % y];
  return x || 1n;
}

export function fraction(top: bigint, bottom: bigint): Fraction {
  if (bottom === 1n) return { top, bottom };
  const d = divisor(top, bottom);
  return d === 1n ? { top, bottom } : { top: top / d, bottom: bottom / d };
}

/** The decimal that a number was written as: 0.1 is one tenth, not its nearest binary neighbour. */
export function decimal(value: number): Fraction {
  if (Number.isSafeInteger(value)) return { top: BigInt(value), bottom: 1n };
  const before = read.get(value);
  if (before) return before;
  if (read.size >= mostRead) read.clear();
  const found = readDecimal(value);
  read.set(value, found);
  return found;
}

/** Steps and shares are few and read again and again. */
const read = new Map<number, Fraction>();
const mostRead = 5000;

function readDecimal(value: number): Fraction {
  const [mantissa, exponent = '0'] = String(value).split('e');
  const [whole, digits = ''] = mantissa.split('.');
  const shift = Number(exponent) - digits.length;
  const top = BigInt(whole + digits);
  return shift >= 0 ? { top: top * 10n ** BigInt(shift), bottom: 1n } : fraction(top, 10n ** BigInt(-shift));
}

export const plus = (a: Fraction, b: Fraction): Fraction =>
  a.bottom === b.bottom
    ? fraction(a.top + b.top, a.bottom)
    : fraction(a.top * b.bottom + b.top * a.bottom, a.bottom * b.bottom);
export const minus = (a: Fraction, b: Fraction): Fraction => plus(a, { top: -b.top, bottom: b.bottom });
export const times = (a: Fraction, b: Fraction): Fraction => fraction(a.top * b.top, a.bottom * b.bottom);
export const over = (a: Fraction, by: bigint): Fraction => fraction(a.top, a.bottom * by);
/** Negative, zero or positive as a is less than, equal to or more than b. */
export const compare = (a: Fraction, b: Fraction): number => {
  const difference = a.top * b.bottom - b.top * a.bottom;
  return difference < 0n ? -1 : difference > 0n ? 1 : 0;
};
export const isZero = (a: Fraction): boolean => a.top === 0n;
export const isNegative = (a: Fraction): boolean => a.top < 0n;
export const least = (a: Fraction, b: Fraction): Fraction => (compare(a, b) <= 0 ? a : b);
export const toNumber = (a: Fraction): number => Number(a.top) / Number(a.bottom);

const floor = (a: Fraction): bigint => {
  const q = a.top / a.bottom;
  return a.top % a.bottom < 0n ? q - 1n : q;
};

/** To a multiple of `step`; `nearest` takes a half upwards. */
export function roundTo(a: Fraction, step: Fraction, mode: 'up' | 'down' | 'nearest'): Fraction {
  const steps = fraction(a.top * step.bottom, a.bottom * step.top);
  const whole =
    mode === 'down'
      ? floor(steps)
      : mode === 'up'
        ? -floor({ top: -steps.top, bottom: steps.bottom })
        : floor(plus(steps, { top: 1n, bottom: 2n }));
  return times({ top: whole, bottom: 1n }, step);
}
