/** Where a request goes on by itself, and how it ends. */
import type { Go, Step } from '../../definition/definition.ts';
import { readCondition } from './around.ts';
import type { Saying } from './saying.ts';

export function readGo(s: Saying): Go | undefined {
  const { w } = s;
  return w.try(() => {
    w.eat('it|the_request|this');
    if (w.eat('goes|go|carries|carry|continues|continue on', 'goes|go|continues|continue', 'is handled as usual')) {
      if (w.eat('back? to|with step?', 'at step?')) {
        const step = s.known.stepAt(w.peek());
        if (!step) return undefined;
        w.at++;
        return { to: 'step', step };
      }
      return { to: 'next' };
    }
    if (w.eat('skip|skips|jump|jumps to step?')) {
      const step = s.known.stepAt(w.peek());
      if (!step) return undefined;
      w.at++;
      return { to: 'step', step };
    }
    if (
      !w.eat(
        'ends|end|closes|close|is_closed|is_finished|finish|finishes it|the_request|request? as|with',
        'close|end it as',
      )
    )
      return undefined;
    const closing = w.name(s.closings);
    return closing === undefined ? undefined : { to: 'close', closing };
  });
}

/** `if Days is at most 2 go to 5, otherwise go on`; `close as Declined if …`. */
export function chosen(s: Saying): Step[] | undefined {
  const { w } = s;
  const choose = (condition: string, go: Go, otherwise: Go): Step[] => [
    { verb: 'Choose', id: s.id('choose'), when: null, rows: [{ id: 'row-1', condition, go }], otherwise },
  ];
  const otherwise = (): Go | undefined =>
    w.try(() => {
      w.eat(',|;');
      if (!w.eat('otherwise|else', 'or else', 'if not')) return undefined;
      w.eat(',');
      return readGo(s);
    });
  const before = w.try(() => {
    const condition = readCondition(s);
    if (!condition) return undefined;
    w.eat(',|:');
    w.eat('then');
    const go = readGo(s);
    return go && choose(condition, go, otherwise() ?? { to: 'next' });
  });
  if (before) return before;
  return w.try(() => {
    const go = readGo(s);
    if (!go) return undefined;
    w.eat(',');
    const condition = readCondition(s);
    return condition ? choose(condition, go, otherwise() ?? { to: 'next' }) : undefined;
  });
}

export function closed(s: Saying): Step[] | undefined {
  const { w } = s;
  w.eat('the request');
  if (
    !w.eat(
      'closes|close|ends|end|finishes|finish|is_closed|is_ended it|the_request|request? as|with',
      'closes|close|ends|end as',
    )
  ) {
    w.missed('close as');
    return undefined;
  }
  const closing = w.name(s.closings);
  if (closing === undefined) return undefined;
  w.try(() => (w.eat('and the asker gets') ? w.quoted() : undefined));
  return [{ verb: 'Close', id: s.id('close'), closing }];
}
