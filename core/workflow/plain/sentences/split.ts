/** `Kit and access side by side`: lanes. */
import { idFrom } from '../../../form/index.ts';
import type { Step } from '../../definition/definition.ts';
import type { Saying } from './saying.ts';

export function split(s: Saying): Step[] | undefined {
  const { w } = s;
  const lanes = (names: string[]): Step[] | undefined => {
    if (names.length < 2) return undefined;
    const ids: string[] = [];
    return [
      {
        verb: 'Split',
        id: s.id('split'),
        when: null,
        needs: 'all',
        lanes: names.map(name => {
          const id = idFrom(name, ids);
          ids.push(id);
          return { id, name: name[0].toUpperCase() + name.slice(1), steps: [] };
        }),
      },
    ];
  };
  const names = (end: () => boolean): string[] | undefined => {
    const found: string[] = [];
    let from = w.at;
    const close = () => {
      const name = w.tokens[from]?.quoted ? w.tokens[from].text : w.between(from, w.at).trim();
      if (name) found.push(name);
    };
    for (; ; w.at++) {
      if (w.done || end()) {
        close();
        return found;
      }
      if (/^(,|and)$/.test(w.peek()) && !w.tokens[w.at].quoted) {
        close();
        while (!w.done && /^(,|and)$/.test(w.peek())) w.at++;
        from = w.at;
        w.at--;
      }
    }
  };
  if (w.eat('split|splits|fork|side by side|into :?', 'split|splits :?', 'side by side :?')) {
    w.eat('into|:');
    const found = names(() => /^[.;]$/.test(w.peek()));
    return found && lanes(found);
  }
  return w.try(() => {
    const beside = (ahead: number) =>
      ['work', 'works', 'go', 'run', 'happen', 'do'].includes(w.peek(ahead)) ||
      w.peek(ahead) === 'side' ||
      w.peek(ahead) === 'in';
    const found = names(() => beside(0));
    if (!found || w.done) return undefined;
    w.eat('work|works|go|run|happen|do their? part|work?');
    if (!w.eat('side by side', 'in parallel', 'at the same time')) return undefined;
    return lanes(found);
  });
}
