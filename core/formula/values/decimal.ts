/** Numbers are decimal, as FEEL has them: 0.1 + 0.2 is 0.3, not what comes of two fractions of two. */

/** So near to a number of 15 digits, it is that number: a few of the smallest steps that a fraction of two can make. */
const near = 4.5e-16;

/**
 * The decimal number that was meant, where there is one within the reach of rounding; else the value as it is.
 * @param size how large the numbers were that it came of: 3.1 - 3 is off by what 3.1 is off by, not by a part of 0.1
 */
export function exact(value: number, size = Math.abs(value)): number {
  if (Number.isInteger(value)) return value;
  const reach = size * near;
  // Most have few decimals, and are found without writing them out.
  const short = Math.round(value * 1e6) / 1e6;
  if (Math.abs(short - value) <= reach) return short;
  if (!Number.isFinite(value)) return value;
  const long = Number(value.toPrecision(15));
  return Math.abs(long - value) <= reach ? long : value;
}

/** One number and another. */
export const plus = (a: number, b: number): number => exact(a + b, Math.abs(a) + Math.abs(b));

/** All added up, each step decimal. */
export function total(all: readonly number[]): number {
  let sum = 0;
  for (const one of all) sum = plus(sum, one);
  return sum;
}

/** To so many decimals by a rule for what lies between two; nothing where they are no whole number of decimals. */
export function scaled(n: number, scale: number, rule: (n: number) => number): number | null {
  if (!Number.isInteger(scale) || Math.abs(scale) > 30) return null;
  if (scale === 0) return rule(exact(n)) + 0;
  const by = 10 ** Math.abs(scale);
  const moved = scale > 0 ? exact(n * by) : exact(n / by);
  if (!Number.isFinite(moved)) return n;
  const whole = rule(moved);
  return exact(scale > 0 ? whole / by : whole * by) + 0;
}

export const halfEven = (n: number): number => {
  const below = Math.floor(n);
  const rest = n - below;
  if (rest !== 0.5) return Math.round(n);
  return below % 2 === 0 ? below : below + 1;
};
export const halfUp = (n: number): number => Math.sign(n) * Math.floor(Math.abs(n) + 0.5);
export const halfDown = (n: number): number => Math.sign(n) * Math.ceil(Math.abs(n) - 0.5);
export const awayFromNothing = (n: number): number => (n > 0 ? Math.ceil(n) : Math.floor(n));
export const towardsNothing = (n: number): number => Math.trunc(n);
