/**
 * Patterns of text (XPath and XQuery functions, section 5.6), followed without going back:
 * the work is never more than the length of the text times that of the pattern, whatever either says.
 */

type Step =
  | { kind: 'letter'; fits: (letter: string) => boolean }
  | { kind: 'either'; first: number; second: number }
  | { kind: 'go'; to: number }
  | { kind: 'mark'; at: number }
  | { kind: 'begins' | 'ends' | 'found' };

type Part =
  | { is: 'letter'; fits: (letter: string) => boolean }
  | { is: 'row'; parts: Part[] }
  | { is: 'choice'; parts: Part[] }
  | { is: 'repeat'; of: Part; least: number; most: number; greedy: boolean }
  | { is: 'group'; of: Part; number: number }
  | { is: 'begins' | 'ends' };

class NoPattern extends Error {}

const mostSteps = 5_000;

class Reader {
  readonly #letters: string[];
  readonly #flags: string;
  #at = 0;
  groups = 0;
  constructor(source: string, flags: string) {
    this.#letters = [...source];
    this.#flags = flags;
  }

  read(): Part {
    const part = this.#choice(0);
    if (this.#at < this.#letters.length) throw new NoPattern();
    return part;
  }

  #next(letter: string): boolean {
    if (this.#letters[this.#at] !== letter) return false;
    this.#at += 1;
    return true;
  }

  #choice(depth: number): Part {
    if (depth > 50) throw new NoPattern();
    const parts = [this.#row(depth)];
    while (this.#next('|')) parts.push(this.#row(depth));
    return parts.length === 1 ? parts[0] : { is: 'choice', parts };
  }

  #row(depth: number): Part {
    const parts: Part[] = [];
    while (this.#at < this.#letters.length) {
      const letter = this.#letters[this.#at];
      if (letter === '|' || letter === ')') break;
      parts.push(this.#repeated(this.#one(depth)));
    }
    return { is: 'row', parts };
  }

  #repeated(of: Part): Part {
    const between = this.#times();
    if (!between) return of;
    const greedy = !this.#next('?');
    if (this.#times()) throw new NoPattern();
    return { is: 'repeat', of, ...between, greedy };
  }

  #times(): { least: number; most: number } | undefined {
    if (this.#next('*')) return { least: 0, most: Number.POSITIVE_INFINITY };
    if (this.#next('+')) return { least: 1, most: Number.POSITIVE_INFINITY };
    if (this.#next('?')) return { least: 0, most: 1 };
    if (this.#letters[this.#at] !== '{') return undefined;
    const text = this.#letters.slice(this.#at, this.#at + 12).join('');
    const found = /^\{(\d{1,4})(,(\d{1,4})?)?\}/.exec(text);
    if (!found) throw new NoPattern();
    this.#at += found[0].length;
    const least = Number(found[1]);
    const most = found[2] === undefined ? least : found[3] === undefined ? Number.POSITIVE_INFINITY : Number(found[3]);
    if (most < least) throw new NoPattern();
    return { least, most };
  }

  #one(depth: number): Part {
    const letter = this.#letters[this.#at];
    this.#at += 1;
    switch (letter) {
      case '(': {
        const kept = !(this.#next('?') && (this.#next(':') || this.#refuse()));
        const number = kept ? ++this.groups : 0;
        const of = this.#choice(depth + 1);
        if (!this.#next(')')) throw new NoPattern();
        return kept ? { is: 'group', of, number } : of;
      }
      case '^':
        return { is: 'begins' };
      case '$':
        return { is: 'ends' };
      case '.':
        return { is: 'letter', fits: this.#flags.includes('s') ? () => true : one => one !== '\n' && one !== '\r' };
      case '[':
        return this.#class();
      case '\\':
        return this.#escaped();
      case '*':
      case '+':
      case '?':
      case '{':
      case '}':
      case ']':
        throw new NoPattern();
      default:
        return this.#tested(letter.replace(/[/-]/, '\\$&'), letter);
    }
  }

  #refuse(): never {
    throw new NoPattern();
  }

  /** One letter, tested by the platform’s own words for classes. */
  #tested(source: string, exactly?: string): Part {
    if (exactly !== undefined && !this.#flags.includes('i')) return { is: 'letter', fits: one => one === exactly };
    const test = new RegExp(`^${source}$`, this.#flags.includes('i') ? 'ui' : 'u');
    return { is: 'letter', fits: one => test.test(one) };
  }

  #escaped(): Part {
    const letter = this.#letters[this.#at];
    this.#at += 1;
    if (letter === undefined || /[1-9bBkuxc]/.test(letter)) throw new NoPattern();
    if (letter === 'p' || letter === 'P') {
      const rest = /^\{[A-Za-z_=]{1,40}\}/.exec(this.#letters.slice(this.#at, this.#at + 42).join(''));
      if (!rest) throw new NoPattern();
      this.#at += rest[0].length;
      return this.#tested(`\\${letter}${rest[0]}`);
    }
    if (/[dDwWsSntr]/.test(letter)) return this.#tested(`\\${letter}`);
    return /[A-Za-z0-9]/.test(letter) ? this.#refuse() : this.#tested(`\\${letter}`, letter);
  }

  #class(): Part {
    const from = this.#at - 1;
    this.#next('^');
    this.#next(']');
    while (this.#at < this.#letters.length && this.#letters[this.#at] !== ']') {
      if (this.#letters[this.#at] === '[') throw new NoPattern();
      this.#at += this.#letters[this.#at] === '\\' ? 2 : 1;
    }
    if (!this.#next(']')) throw new NoPattern();
    return this.#tested(this.#letters.slice(from, this.#at).join(''));
  }
}

function steps(part: Part): Step[] {
  const made: Step[] = [];
  const put = (step: Step): number => {
    if (made.length >= mostSteps) throw new NoPattern();
    return made.push(step) - 1;
  };
  const fork = (greedy: boolean, on: number, past: number): Step =>
    greedy ? { kind: 'either', first: on, second: past } : { kind: 'either', first: past, second: on };
  const write = (of: Part): void => {
    switch (of.is) {
      case 'letter':
        put({ kind: 'letter', fits: of.fits });
        return;
      case 'begins':
      case 'ends':
        put({ kind: of.is });
        return;
      case 'row':
        for (const one of of.parts) write(one);
        return;
      case 'group':
        put({ kind: 'mark', at: of.number * 2 });
        write(of.of);
        put({ kind: 'mark', at: of.number * 2 + 1 });
        return;
      case 'choice': {
        const ends: number[] = [];
        of.parts.forEach((one, i) => {
          if (i === of.parts.length - 1) return write(one);
          const at = put({ kind: 'go', to: 0 });
          write(one);
          ends.push(put({ kind: 'go', to: 0 }));
          made[at] = { kind: 'either', first: at + 1, second: made.length };
        });
        for (const end of ends) made[end] = { kind: 'go', to: made.length };
        return;
      }
      case 'repeat': {
        for (let i = 0; i < of.least; i++) write(of.of);
        if (of.most === Number.POSITIVE_INFINITY) {
          const at = put({ kind: 'go', to: 0 });
          write(of.of);
          put({ kind: 'go', to: at });
          made[at] = fork(of.greedy, at + 1, made.length);
          return;
        }
        const forks: number[] = [];
        for (let i = of.least; i < of.most; i++) {
          forks.push(put({ kind: 'go', to: 0 }));
          write(of.of);
        }
        for (const at of forks) made[at] = fork(of.greedy, at + 1, made.length);
        return;
      }
    }
  };
  write(part);
  put({ kind: 'found' });
  return made;
}

/** Where a pattern was found, in letters; `groups[0]` is all of it. */
export type Found = { readonly groups: readonly (readonly [number, number] | null)[] };

export class Pattern {
  readonly #steps: readonly Step[];
  readonly #lines: boolean;
  readonly groups: number;

  private constructor(made: readonly Step[], groups: number, lines: boolean) {
    this.#steps = made;
    this.groups = groups;
    this.#lines = lines;
  }

  /** Reads a pattern; nothing when it is none, or looks back at what it has found. Flags: s, m, i, x, q. */
  static of(source: string, flags = ''): Pattern | null {
    if (source.length > 1_000 || /[^smixq]/.test(flags)) return null;
    let text = source;
    if (flags.includes('q')) text = source.replace(/[\\^$.|?*+()[\]{}]/g, '\\$&');
    else if (flags.includes('x')) text = source.replace(/\s+/g, '');
    try {
      const reader = new Reader(text, flags);
      const part = reader.read();
      return new Pattern(steps(part), reader.groups, flags.includes('m'));
    } catch (fault) {
      // The platform names a class that it does not know with a fault of its own.
      if (fault instanceof NoPattern || fault instanceof SyntaxError) return null;
      throw fault;
    }
  }

  /**
   * The first place at or after `from`, leftmost and as its own choices prefer.
   * @param spend told of the work while it is done, in steps of the pattern; it may throw
   */
  find(letters: readonly string[], from = 0, spend: (work: number) => void = () => {}): Found | null {
    let work = 0;
    type Thread = { at: number; marks: readonly number[] };
    let now: Thread[] = [];
    let best: readonly number[] | undefined;
    const seen = new Int32Array(this.#steps.length).fill(-1);
    const add = (to: Thread[], at: number, marks: readonly number[], place: number): void => {
      const stack: Thread[] = [{ at, marks }];
      for (let top = stack.pop(); top; top = stack.pop()) {
        work += 1;
        if (seen[top.at] === place) continue;
        seen[top.at] = place;
        const step = this.#steps[top.at];
        const go = (next: number, kept = top.marks) => stack.push({ at: next, marks: kept });
        switch (step.kind) {
          case 'go':
            go(step.to);
            break;
          case 'either':
            go(step.second);
            go(step.first);
            break;
          case 'mark': {
            const kept = [...top.marks];
            kept[step.at] = place;
            go(top.at + 1, kept);
            break;
          }
          case 'begins':
            if (place === 0 || (this.#lines && letters[place - 1] === '\n')) go(top.at + 1);
            break;
          case 'ends':
            if (place === letters.length || (this.#lines && letters[place] === '\n')) go(top.at + 1);
            break;
          default:
            to.push(top);
        }
      }
    };
    for (let place = from; place <= letters.length; place++) {
      if (!best) add(now, 0, [place], place);
      const next: Thread[] = [];
      for (const { at, marks } of now) {
        const step = this.#steps[at];
        if (step.kind === 'found') {
          best = [marks[0], place, ...marks.slice(2)];
          break;
        }
        if (step.kind === 'letter' && place < letters.length && step.fits(letters[place]))
          add(next, at + 1, marks, place + 1);
      }
      now = next;
      if (work > 500) {
        spend(work);
        work = 0;
      }
      if (now.length === 0 && best) break;
    }
    spend(work);
    if (!best) return null;
    const marks = best;
    const groups = Array.from({ length: this.groups + 1 }, (_, i): [number, number] | null => {
      const [start, end] = [marks[i * 2], marks[i * 2 + 1]];
      return start === undefined || end === undefined ? null : [start, end];
    });
    return { groups };
  }
}
