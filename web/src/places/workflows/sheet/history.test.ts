import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { begin, change, redo, undo } from './history.ts';

describe('undo and redo', () => {
  test('undoing every change leads back to the start, redoing them to the end', () => {
    fc.assert(
      fc.property(fc.array(fc.integer(), { maxLength: 60 }), values => {
        const start = begin(-1);
        const end = values.reduce(change, start);
        const back = values.reduce(undo, end);
        expect(back.now).toBe(-1);
        expect(values.reduce(redo, back).now).toBe(end.now);
      }),
    );
  });

  test('a new change forgets what was undone; with nothing to undo nothing happens', () => {
    const changed = change(undo(change(begin('a'), 'b')), 'c');
    expect(redo(changed).now).toBe('c');
    expect(undo(begin('a')).now).toBe('a');
  });
});
