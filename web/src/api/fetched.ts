/** Parts of the application that are fetched when they are first needed: tried again until they come. */

const tries = 4;
const pause = (n: number) => new Promise<void>(done => setTimeout(done, 400 * 2 ** n));

/** Resolves when the browser has a connection again; at once while it has one. */
export const online = (): Promise<void> =>
  navigator.onLine ? Promise.resolve() : new Promise(done => addEventListener('online', () => done(), { once: true }));

/**
 * What `load` brings. Without a connection it waits for one and asks again, so that a click is carried out later instead of
 * breaking the page; with one it gives up after a few tries, as when a newer version has other parts.
 */
export async function fetched<T>(load: () => Promise<T>): Promise<T> {
  for (let n = 0; ; n++) {
    await online();
    try {
      return await load();
    } catch (fault) {
      if (!navigator.onLine) continue;
      if (n >= tries) throw fault;
      await pause(n);
    }
  }
}
