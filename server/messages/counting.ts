/**
 * A mail counted while it is read: one of more parts, headers or nestings than any program for mail writes is not taken
 * apart at all, since taking it apart would take minutes.
 */

const most = { headerLines: 2000, parts: 500, types: 200, letters: 5_000_000 } as const;

/** A mail that nobody wrote who wanted it read. */
export class OddMail extends Error {}

/** Only how a line begins is looked at. */
const looked = 400;

/** Hands a mail on as it comes, until it is larger or odder than may come in; the rest is not even read. */
export async function* counted(stream: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  const seen = { headerLines: 0, parts: 0, types: 0, letters: 0 };
  let line = '';
  let isHeader = true;
  let holdsMessage = false;
  const count = (what: keyof typeof seen, n = 1) => {
    seen[what] += n;
    if (seen[what] > most[what]) throw new OddMail(`more than ${most[what]} ${what}`);
  };
  const take = (text: string) => {
    if (text === '' || text === '\r') {
      // What is held by a part as a whole mail begins with headers of its own.
      isHeader = holdsMessage;
      holdsMessage = false;
      return;
    }
    if (/^--\S/.test(text)) {
      count('parts');
      isHeader = true;
      holdsMessage = false;
      return;
    }
    if (!isHeader) return;
    count('headerLines');
    if (/^content-type:/i.test(text)) count('types');
    if (/message\//i.test(text)) holdsMessage = true;
  };
  for await (const chunk of stream) {
    count('letters', chunk.length);
    for (let at = 0; at < chunk.length; ) {
      const end = chunk.indexOf(10, at);
      const stop = end < 0 ? chunk.length : end;
      if (line.length < looked) line += chunk.toString('latin1', at, Math.min(stop, at + looked));
      if (end >= 0) {
        take(line);
        line = '';
      }
      at = stop + 1;
    }
    yield chunk;
  }
}
