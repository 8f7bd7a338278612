/** @jest-environment jsdom */
import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import type { Problem } from '@north-pebble/contract';
import { RefusedCall } from './client.ts';
import { Saver, type Saving, saveAll } from './saving.ts';

const refused = (code: Problem['code']) =>
  new RefusedCall({ type: 'about:blank', title: 'No', status: 400, code, detail: 'No.' });

beforeEach(() => void jest.useFakeTimers());
afterEach(() => void jest.useRealTimers());

function begin(answer: (value: string, leaving: boolean) => Promise<number>) {
  const sent: string[] = [];
  const states: Saving<number>['kind'][] = [];
  const saver = new Saver<string, number>({
    save: (value, leaving) => {
      sent.push(leaving ? `${value}, leaving` : value);
      return answer(value, leaving);
    },
    onState: state => void states.push(state.kind),
  });
  return { saver, sent, states };
}

test('only the newest value is saved, once it has stood still', async () => {
  const { saver, sent, states } = begin(async () => 1);
  saver.change('a');
  await jest.advanceTimersByTimeAsync(500);
  saver.change('ab');
  await jest.advanceTimersByTimeAsync(500);
  expect(sent).toEqual([]);
  await jest.advanceTimersByTimeAsync(200);
  expect(sent).toEqual(['ab']);
  expect([saver.isOpen, states.at(-1)]).toEqual([false, 'saved']);
});

test('one call at a time: what is changed meanwhile follows it', async () => {
  let done: (n: number) => void = () => {};
  const { saver, sent } = begin(() => new Promise(resolve => (done = resolve)));
  saver.change('a');
  await jest.advanceTimersByTimeAsync(700);
  saver.change('ab');
  await jest.advanceTimersByTimeAsync(5000);
  expect(sent).toEqual(['a']);
  done(1);
  await jest.advanceTimersByTimeAsync(0);
  expect(sent).toEqual(['a', 'ab']);
  expect(saver.isRunning).toBe(true);
  done(2);
  await jest.advanceTimersByTimeAsync(0);
  expect([saver.isOpen, saver.isRunning]).toEqual([false, false]);
});

test('while the house is away it goes on trying, with the newest', async () => {
  let away = true;
  const { saver, sent, states } = begin(async () => {
    if (away) throw refused('database away');
    return 1;
  });
  saver.change('a');
  await jest.advanceTimersByTimeAsync(700);
  expect(states.at(-1)).toBe('away');
  saver.change('ab');
  await jest.advanceTimersByTimeAsync(5000);
  expect(sent.length).toBeGreaterThan(2);
  away = false;
  await jest.advanceTimersByTimeAsync(2000);
  expect([sent.at(-1), states.at(-1), saver.isOpen]).toEqual(['ab', 'saved', false]);
});

test('what is refused is said and not sent again by itself; a further change is tried anew', async () => {
  const { saver, sent, states } = begin(async value => {
    if (value === 'bad') throw refused('bad input');
    return 1;
  });
  saver.change('bad');
  await jest.advanceTimersByTimeAsync(20_000);
  expect([sent, states.at(-1), saver.isOpen]).toEqual([['bad'], 'refused', true]);
  saver.change('good');
  await jest.advanceTimersByTimeAsync(700);
  expect([sent.at(-1), saver.isOpen]).toEqual(['good', false]);
});

test('whoever leaves the page has it saved at once; what is held or dropped is not sent', async () => {
  const one = begin(async () => 1);
  const held = begin(async () => 1);
  const dropped = begin(async () => 1);
  for (const { saver } of [one, held, dropped]) saver.change('half a word');
  held.saver.hold(true);
  dropped.saver.drop();
  window.dispatchEvent(new Event('pagehide'));
  await jest.advanceTimersByTimeAsync(0);
  expect([one.sent, held.sent, dropped.sent]).toEqual([['half a word, leaving'], [], []]);
  held.saver.hold(false);
  saveAll();
  await jest.advanceTimersByTimeAsync(0);
  expect(held.sent).toEqual(['half a word, leaving']);
});
