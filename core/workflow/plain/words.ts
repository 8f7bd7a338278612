/** Plain words as they are typed, cut into pieces and read from left to right, remembering how far anybody got. */

export type Token = {
  readonly text: string;
  /** In small letters with straight marks, as it is compared. */
  readonly low: string;
  readonly from: number;
  readonly to: number;
  /** Set apart by quotation marks: a name, whatever words are in it. */
  readonly quoted: boolean;
};

const piece =
  /“([^”]*)”|"([^"]*)"|‹([^›]*)›|\d{4}-\d{2}-\d{2}|\d+(?:[.,]\d+)?|[\p{L}\p{N}_]+(?:[’'-][\p{L}\p{N}_]+)*[’']?|<=|>=|!=|[<>=]|[^\s]/gu;

const plain = (text: string): string => text.toLowerCase().replace(/[’‘]/g, "'").normalize('NFC');

export function tokensOf(text: string): Token[] {
  return [...text.matchAll(piece)].map(found => {
    const inMarks = found[1] ?? found[2] ?? found[3];
    const from = found.index;
    return {
      text: inMarks ?? found[0],
      low: plain(inMarks ?? found[0]),
      from,
      to: from + found[0].length,
      quoted: inMarks !== undefined,
    };
  });
}

const numbers = [
  'zero',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];

/** A name that may be said, and what it stands for. */
export type Named<T> = { readonly name: string; readonly value: T };

const likeName = (word: string): string => word.replace(/'s$|'$/, '');

export class Words {
  readonly text: string;
  readonly tokens: readonly Token[];
  at = 0;
  /** The furthest piece that was looked at in vain, and what would have been understood there. */
  furthest = 0;
  #expected = new Set<string>();

  constructor(text: string, tokens: readonly Token[] = tokensOf(text)) {
    this.text = text;
    this.tokens = tokens;
  }

  get done(): boolean {
    return this.at >= this.tokens.length;
  }

  get expected(): string[] {
    return [...this.#expected];
  }

  peek(ahead = 0): string {
    return this.tokens[this.at + ahead]?.low ?? '';
  }

  missed(...what: string[]): void {
    if (this.at > this.furthest) {
      this.furthest = this.at;
      this.#expected = new Set();
    }
    if (this.at === this.furthest) for (const one of what) this.#expected.add(one);
  }

  /**
   * Eats a phrase when it stands here: words apart by blanks, `a|b` for either, `a?` for one that may be left out, and
   * `a_b` for two words that are one of several choices.
   * The first of several phrases that fits is taken.
   */
  eat(...phrases: string[]): boolean {
    for (const phrase of phrases) {
      const end = this.#after(phrase.split(' '), 0, this.at);
      if (end !== undefined) {
        this.at = end;
        return true;
      }
    }
    this.missed();
    return false;
  }

  #after(parts: readonly string[], part: number, at: number): number | undefined {
    if (part === parts.length) return at;
    const optional = parts[part].endsWith('?') && parts[part].length > 1;
    const choices = (optional ? parts[part].slice(0, -1) : parts[part]).split('|');
    for (const choice of choices) {
      const words = choice.split('_');
      if (!words.every((word, i) => this.tokens[at + i]?.low === word && !this.tokens[at + i].quoted)) continue;
      const end = this.#after(parts, part + 1, at + words.length);
      if (end !== undefined) return end;
    }
    return optional ? this.#after(parts, part + 1, at) : undefined;
  }

  /** Tries one way of reading; when it finds nothing, the place is as it was. */
  try<T>(read: () => T | undefined): T | undefined {
    const start = this.at;
    const found = read();
    if (found === undefined) this.at = start;
    return found;
  }

  /** What stands here in marks. */
  quoted(): string | undefined {
    const token = this.tokens[this.at];
    if (!token?.quoted) return undefined;
    this.at++;
    return token.text;
  }

  /** A whole or decimal number, in digits or spelt. */
  number(): number | undefined {
    const token = this.tokens[this.at];
    if (!token) {
      this.missed();
      return undefined;
    }
    const spelt = numbers.indexOf(token.low);
    const value =
      spelt >= 0 ? spelt : /^\d+([.,]\d+)?$/.test(token.low) ? Number(token.low.replace(',', '.')) : Number.NaN;
    if (Number.isNaN(value)) {
      this.missed();
      return undefined;
    }
    this.at++;
    return value;
  }

  /**
   * The longest of some names that stands here, in marks or not, large or small; its last word may stand in the plural
   * or own something.
   */
  name<T>(known: readonly Named<T>[], offer = true): T | undefined {
    const token = this.tokens[this.at];
    let best: { value: T; length: number } | undefined;
    for (const { name, value } of known) {
      const words = tokensOf(name).map(one => one.low);
      if (words.length === 0) continue;
      if (token?.quoted) {
        if (token.low === plain(name)) best = { value, length: 1 };
        continue;
      }
      const last = words.length - 1;
      const fits = words.every((word, i) => {
        const here = this.tokens[this.at + i];
        if (!here || here.quoted) return false;
        return here.low === word || (i === last && isSame(here.low, word));
      });
      if (fits && (!best || words.length > best.length)) best = { value, length: words.length };
    }
    if (!best) {
      this.missed(...(offer ? known.slice(0, 40).map(one => one.name) : []));
      return undefined;
    }
    this.at += best.length;
    return best.value;
  }

  /** The text from one piece to another, as it was typed. */
  between(from: number, to: number): string {
    const [first, last] = [this.tokens[from], this.tokens[to - 1]];
    return first && last && to > from ? this.text.slice(first.from, last.to) : '';
  }
}

/** Whether a word is a name in the plural, or owning something: `partners`, `manager's`. */
const isSame = (word: string, name: string): boolean =>
  likeName(word) === name || word === `${name}s` || (name.endsWith('s') && word === `${name}'`);
