/** Reads words from left to right, remembering how far it got and what would have been understood there. */

export class Scanner {
  readonly text: string;
  at = 0;
  /** The furthest place that was looked at, and what was expected there. */
  furthest = 0;
  #expected = new Set<string>();

  constructor(text: string) {
    this.text = text;
  }

  get rest(): string {
    return this.text.slice(this.at);
  }

  get done(): boolean {
    return /^[\s.]*$/.test(this.rest);
  }

  get expected(): string[] {
    return [...this.#expected];
  }

  skip(): void {
    while (/\s/.test(this.text[this.at] ?? '')) this.at++;
  }

  #missed(what: string): void {
    if (this.at > this.furthest) {
      this.furthest = this.at;
      this.#expected = new Set();
    }
    if (this.at === this.furthest && what) this.#expected.add(what);
  }

  /** Eats a pattern at this place; the match, or nothing with the place left as it was. */
  eat(pattern: RegExp, what = ''): RegExpExecArray | undefined {
    this.skip();
    const found = new RegExp(`^(?:${pattern.source})`, 'i').exec(this.rest);
    if (!found) {
      this.#missed(what);
      return undefined;
    }
    this.at += found[0].length;
    return found;
  }

  /** Eats words, however they are spaced and written large or small; whole words only. */
  words(words: string, offer = true): boolean {
    const pattern = words
      .trim()
      .split(/\s+/)
      .map(w => w.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/[’']/g, "[’']"))
      .join('\\s+');
    const end = /\w$/.test(words) ? '(?![\\w’])' : '';
    return this.eat(new RegExp(`${pattern}${end}`), offer ? words : '') !== undefined;
  }

  anyOf(...all: string[]): string | undefined {
    return all.find(words => this.words(words));
  }

  number(): number | undefined {
    const spelt = this.eat(/(?:one|two|three|four|five|six|seven|eight|nine|ten)(?!\w)/);
    if (spelt)
      return (
        ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'].indexOf(
          spelt[0].toLowerCase(),
        ) + 1
      );
    const digits = this.eat(/\d+(?:\.\d+)?/, 'a number');
    return digits ? Number(digits[0]) : undefined;
  }

  /** A name in marks: `“Send back”`, or between straight marks. */
  quoted(): string | undefined {
    this.skip();
    const found = this.eat(/“((?:[^”]|””)*)”(?!”)|"([^"]*)"/);
    if (!found) return undefined;
    return found[1] === undefined ? found[2] : found[1].replace(/””/g, '”');
  }

  /** A formula in marks. */
  marked(): string | undefined {
    const found = this.eat(/‹((?:[^›]|››)*)›(?!›)/);
    return found?.[1].replace(/››/g, '›');
  }

  /** A name in marks, or the longest of the known names that stands here. */
  name<T>(known: readonly { name: string; value: T }[], what: string): T | undefined {
    const start = this.at;
    const words = this.quoted();
    if (words !== undefined) {
      const exact = known.find(k => k.name === words) ?? known.find(k => k.name.toLowerCase() === words.toLowerCase());
      if (exact) return exact.value;
      this.at = start;
      this.#missed(what);
      return undefined;
    }
    this.skip();
    const lower = this.rest.toLowerCase();
    const fitting = known
      .filter(
        k => k.name !== '' && lower.startsWith(k.name.toLowerCase()) && !/^[\w’]/.test(this.rest.slice(k.name.length)),
      )
      .sort((a, b) => b.name.length - a.name.length);
    if (fitting.length === 0) {
      this.#missed(what);
      this.at = start;
      return undefined;
    }
    this.at += fitting[0].name.length;
    return fitting[0].value;
  }

  /** Tries one way of reading; when it finds nothing, the place is as it was. */
  try<T>(read: () => T | undefined): T | undefined {
    const start = this.at;
    const found = read();
    if (found === undefined) this.at = start;
    return found;
  }
}
