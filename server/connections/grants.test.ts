/** What stands of all that requests gave. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type GivingCall, mendingKey, stillGiven } from './grants.ts';

let made = 0;
const call = (
  action: string,
  values: Readonly<Record<string, unknown>>,
  more: Partial<GivingCall> = {},
): GivingCall => ({
  key: `call ${++made}`,
  request: 'R-1',
  action,
  state: 'delivered',
  payload: { values },
  result: null,
  ...more,
});
const into = (group: string, person: string, more?: Partial<GivingCall>) =>
  call('add to group', { group, person }, more);
const outOf = (group: string, person: string, more?: Partial<GivingCall>) =>
  call('take out of group', { group, person }, more);
const stands = (...calls: GivingCall[]) => {
  const found = stillGiven(calls);
  return calls.map(one => found.has(one.key));
};

describe('a group', () => {
  test('stands until a later call takes it away, however its name is written', () => {
    expect(stands(into('Tide console', 'ina'))).toEqual([true]);
    expect(stands(into('Tide console', 'ina'), outOf('tide CONSOLE', 'ina'))).toEqual([false, false]);
  });
  test('is given again afterwards, and then stands', () => {
    expect(stands(into('Mail', 'ina'), outOf('Mail', 'ina'), into('Mail', 'ina'))).toEqual([false, false, true]);
  });
  test('of another, or another group, is not touched', () => {
    expect(stands(into('Mail', 'ina'), outOf('Mail', 'tom'), outOf('Post', 'ina'))[0]).toBe(true);
  });
  test('that was given twice is taken away once for both', () => {
    expect(stands(into('Mail', 'ina'), into('Mail', 'ina'), outOf('Mail', 'ina'))).toEqual([false, false, false]);
  });
  test('that was undone, or never delivered, does not stand; taking it away counts once it is delivered', () => {
    expect(stands(into('Mail', 'ina', { state: 'undone' }))).toEqual([false]);
    expect(stands(into('Mail', 'ina'), outOf('Mail', 'ina', { state: 'undone' }))[0]).toBe(true);
  });
  test('is known again by the account when nobody is named', () => {
    const given = call('add to group', { group: 'Mail', account: 'ina.okell' });
    const taken = call('take out of group', { group: 'Mail' }, { result: { account: 'ina.okell' } });
    expect(stands(given, taken)).toEqual([false, false]);
  });
  test('that was only put right is no reason of its own, and its putting right takes nothing away', () => {
    expect(stands(into('Mail', 'ina', { key: `${mendingKey}1` }))).toEqual([false]);
    expect(stands(into('Mail', 'ina'), outOf('Mail', 'ina', { key: `${mendingKey}2` }))[0]).toBe(true);
  });
  test('without a name is taken for no other without one', () => {
    expect(stands(into('', 'ina'), outOf('', 'ina'))[0]).toBe(true);
  });
});

describe('an account', () => {
  const account = call('create account', { person: 'ina' }, { result: { id: '7', account: 'ina.okell' } });
  test('stands until it is shut, by name, by number or by whose it is', () => {
    expect(stands(account)).toEqual([true]);
    for (const shut of [{ person: 'ina' }, { account: 'ina.okell' }])
      expect(stands(account, call('disable account', shut))[0]).toBe(false);
    expect(stands(account, call('disable account', {}, { result: { id: '7' } }))[0]).toBe(false);
  });
  test('is shut as well by what puts the directory right', () => {
    const shut = call('disable account', { account: 'ina.okell' }, { key: `${mendingKey}3` });
    expect(stands(account, shut)[0]).toBe(false);
  });
  test('that is shut leaves the groups of it and a space as they are', () => {
    const space = call('create space', { owner: 'ina', person: 'ina', name: 'Tides' });
    expect(stands(account, into('Mail', 'ina'), space, call('disable account', { person: 'ina' }))).toEqual([
      false,
      true,
      true,
      false,
    ]);
  });
  test('of another is not shut with it', () => {
    expect(stands(account, call('disable account', { person: 'tom' }))[0]).toBe(true);
  });
});

test('of any calls, exactly those stand that nothing later takes away', () => {
  const one = fc.record({
    gives: fc.boolean(),
    group: fc.constantFrom('Mail', 'Post', 'Tides'),
    person: fc.constantFrom('ina', 'tom', 'per'),
    state: fc.constantFrom('delivered', 'undone', 'refused'),
  });
  fc.assert(
    fc.property(fc.array(one, { maxLength: 20 }), all => {
      const calls = all.map(({ gives, group, person, state }) => (gives ? into : outOf)(group, person, { state }));
      const expected = all.map(
        (given, n) =>
          given.gives &&
          given.state === 'delivered' &&
          !all
            .slice(n + 1)
            .some(
              later =>
                !later.gives &&
                later.state === 'delivered' &&
                later.group === given.group &&
                later.person === given.person,
            ),
      );
      expect(stands(...calls)).toEqual(expected);
    }),
  );
});
