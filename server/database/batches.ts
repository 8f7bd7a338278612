/** Asking the database for many who want the same kind of thing at once. */

/**
 * One question for all keys that are wanted at the moment: the first is asked for at once, and those that come while it is
 * under way go together into the next question. Nobody is answered from before they asked.
 * @param ask what there is for each of some keys; a key without anything is left out
 */
export function inBatches<V>(ask: (keys: string[]) => Promise<ReadonlyMap<string, V>>) {
  type Waiting = { key: string; done: (found: V | undefined) => void; fail: (fault: unknown) => void };
  let waiting: Waiting[] = [];
  let isAsking = false;
  async function next(): Promise<void> {
    isAsking = true;
    for (; waiting.length > 0; await new Promise(setImmediate)) {
      const now = waiting;
      waiting = [];
      try {
        const found = await ask([...new Set(now.map(({ key }) => key))]);
        for (const { key, done } of now) done(found.get(key));
      } catch (fault) {
        for (const { fail } of now) fail(fault);
      }
    }
    isAsking = false;
  }
  return (key: string): Promise<V | undefined> =>
    new Promise((done, fail) => {
      waiting.push({ key, done, fail });
      if (!isAsking) void next();
    });
}
