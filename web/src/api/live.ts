/**
 * News from the server, one stream for all tabs of a browser: a browser opens only a few connections to one address, and a
 * stream holds one for as long as it is open. The tab that holds the lock listens and passes on what it hears; when it is
 * closed, another one takes its place.
 */

type Heard = () => void;

const name = 'north-pebble live';

function listen(heard: Heard): () => void {
  const stream = new EventSource('/api/live');
  stream.addEventListener('desk', heard);
  return () => stream.close();
}

/** Tells of news until it is stopped. */
export function hearNews(heard: Heard): () => void {
  // Where tabs cannot be told of one another, each listens for itself.
  if (!('locks' in navigator) || typeof BroadcastChannel === 'undefined') return listen(heard);
  const channel = new BroadcastChannel(name);
  channel.addEventListener('message', heard);
  const stopping = new AbortController();
  let stop = () => {};
  void navigator.locks
    .request(name, { signal: stopping.signal }, () => {
      const close = listen(() => {
        heard();
        channel.postMessage('desk');
      });
      // What happened while nobody listened is asked for.
      heard();
      return new Promise<void>(done => {
        stop = () => {
          close();
          done();
        };
      });
    })
    .catch(() => {});
  return () => {
    stopping.abort();
    stop();
    channel.close();
  };
}
