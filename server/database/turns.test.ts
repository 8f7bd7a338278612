/** Turns: so many at once, in their order, and nobody kept out by what failed. */
import { describe, expect, test } from '@jest/globals';
import { inTurn, Lanes } from './turns.ts';

const soon = () => new Promise<void>(done => setImmediate(done));

describe('lanes', () => {
  test('let so many run at once, in the order in which they came, also after a fault', async () => {
    const lanes = new Lanes(3);
    let running = 0;
    let most = 0;
    const order: number[] = [];
    const all = Array.from({ length: 20 }, (_, n) =>
      lanes.run(async () => {
        order.push(n);
        most = Math.max(most, ++running);
        await soon();
        running -= 1;
        if (n % 5 === 0) throw new Error('no');
        return n;
      }),
    );
    const ends = await Promise.allSettled(all);
    expect(most).toBe(3);
    expect(order).toEqual(Array.from({ length: 20 }, (_, n) => n));
    expect(ends.filter(end => end.status === 'rejected')).toHaveLength(4);
  });
});

describe('a turn', () => {
  test('is taken one after the other under one name, and beside others under another', async () => {
    const said: string[] = [];
    const speak = (name: string, word: string) =>
      inTurn(name, async () => {
        said.push(`${word} begins`);
        await soon();
        said.push(`${word} ends`);
        if (word === 'a1') throw new Error('no');
      });
    await Promise.allSettled([speak('a', 'a1'), speak('a', 'a2'), speak('b', 'b1')]);
    expect(said.filter(one => one.startsWith('a'))).toEqual(['a1 begins', 'a1 ends', 'a2 begins', 'a2 ends']);
    expect(said.indexOf('b1 begins')).toBeLessThan(said.indexOf('a1 ends'));
  });
});
