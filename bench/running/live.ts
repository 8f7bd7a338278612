/** How long it takes until a page that is open hears that something waits: told by the stream, against the bar itself. */
import { randomUUID } from 'node:crypto';
import type { Row } from '../measure.ts';
import type { Served } from '../served.ts';

const rounds = 12;
const bar = 2000;

/** Counts as they are told to one person’s open page. */
async function* counts(base: string, cookie: string, stop: AbortSignal): AsyncGenerator<number> {
  const response = await fetch(`${base}/api/live`, { headers: { Cookie: cookie }, signal: stop });
  const words = new TextDecoder();
  let text = '';
  for await (const chunk of response.body ?? []) {
    text += words.decode(chunk, { stream: true });
    for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
      const data = /^data: (.*)$/m.exec(text.slice(0, end));
      text = text.slice(end + 2);
      if (data) yield (JSON.parse(data[1]) as { waiting: number }).waiting;
    }
  }
}

/** So many days after a Monday in September. */
const day = (n: number): string => new Date(Date.UTC(2026, 8, 7 + n)).toISOString().slice(0, 10);

export async function liveRow({ base, signIn }: Served): Promise<Row> {
  const [asker, holder] = [await signIn('ines'), await signIn('tobias')];
  const stop = new AbortController();
  const told = counts(base, holder, stop.signal);
  let waiting = (await told.next()).value as number;
  const times: number[] = [];
  for (let n = 0; n < rounds; n++) {
    const dates = { from: { date: day(7 * n), half: 'am' }, to: { date: day(7 * n + 3), half: 'pm' } };
    const answers = { kind: 'unpaid', dates };
    const began = performance.now();
    const sent = await fetch(`${base}/api/requests`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-North-Pebble': '1', Cookie: asker },
      body: JSON.stringify({ id: randomUUID(), workflow: 'annual-leave', answers }),
    });
    if (sent.status !== 201) throw new Error(await sent.text());
    const before = waiting;
    while (waiting <= before) waiting = (await told.next()).value as number;
    times.push(performance.now() - began);
  }
  stop.abort();
  const longest = Math.max(...times);
  return {
    what: `from asking to the count on an open page, the longest of ${rounds}, in ms`,
    ours: longest,
    theirs: bar,
    baseline: 'the bar itself',
    ratio: longest / bar,
    bar: 1,
    better: 'less',
  };
}
