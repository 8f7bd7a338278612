/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import type { RequestView } from '@north-pebble/contract';
import type { Definition } from '@north-pebble/core/workflow';
import { act, renderHook } from '@testing-library/react';
import { serve, unserve } from '../../testing/page.tsx';
import { forgetUnsent } from './unsent.ts';
import { useOwnFields } from './Work.tsx';

const definition = {
  name: 'Trip',
  form: {
    fields: [
      { kind: 'text', id: 'legs', label: 'Legs', required: false },
      { kind: 'text', id: 'booking', label: 'Booking', required: false },
    ],
  },
  access: { book: { legs: 'editable', booking: 'editable' } },
  figures: [],
  steps: [
    { verb: 'Ask', id: 'ask' },
    {
      verb: 'Do',
      id: 'book',
      when: null,
      who: { first: { kind: 'asker' }, otherwise: [] },
      task: 'Books',
      limit: null,
    },
  ],
} as unknown as Definition;
type Asked = Pick<RequestView, 'id' | 'unsent' | 'definition' | 'answers'>;
const request = (answers: object, unsent: Record<string, unknown> = {}): Asked => ({
  id: 'R-1',
  unsent,
  definition,
  answers: answers as never,
});
const fields = (asked: Asked, task: string) => renderHook(() => useOwnFields(asked, 'book', task)).result;

beforeEach(() => {
  jest.useFakeTimers();
  serve({ 'PUT /requests/R-1/unsent/fields of R-1.1': {}, 'PUT /requests/R-1/unsent/fields of R-1.2': {} });
});
afterEach(() => {
  jest.useRealTimers();
  forgetUnsent();
  unserve();
});

describe('the fields of a step', () => {
  test('keep what was typed for a task, and only that', () => {
    const first = fields(request({ legs: 'there 15:30' }), 'R-1.1');
    act(() => first.current.setTyped({ legs: 'there 15:30', booking: 'SB-1' }));
    const changed = fields(request({ legs: 'there 18:30' }), 'R-1.1');
    expect(changed.current.answers).toEqual({ legs: 'there 18:30', booking: 'SB-1' });
  });

  test('begin anew when the request comes round to the step again: nothing old is put over what was changed since', () => {
    const first = fields(request({ legs: 'there 15:30' }), 'R-1.1');
    act(() => first.current.setTyped({ legs: 'there 15:30, booked', booking: 'SB-1' }));
    // What a page that was left did not give up is still there, under the task that is over.
    const again = fields(
      request({ legs: 'there 18:30', booking: 'SB-1' }, { 'fields of book': { legs: 'old' } }),
      'R-1.2',
    );
    expect(again.current.answers).toEqual({ legs: 'there 18:30', booking: 'SB-1' });
  });

  test('send as nothing what was emptied, and as it was before what was typed back', () => {
    const hook = fields(request({ legs: 'x', booking: 'SB-1' }), 'R-1.1');
    act(() => hook.current.setTyped({ legs: 'x', booking: '' }));
    expect(hook.current.answers.booking).toBeNull();
    act(() => hook.current.setTyped({ legs: 'x', booking: 'SB-1' }));
    expect(hook.current.answers).toEqual({ legs: 'x', booking: 'SB-1' });
  });
});
