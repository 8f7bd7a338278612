import { describe, expect, test } from '@jest/globals';
import {
  Move,
  MoveClock,
  PreviewInput,
  Publish,
  SaveDraft,
  SendCommand,
  SetPermissions,
  SignIn,
  Submit,
} from './index.ts';

const id = '3f0c9a52-7c56-4b0e-9a55-0d6f4d2a8c11';

describe('what may be sent', () => {
  test.each([
    ['a card', SignIn, { card: 'ines' }],
    ['a password', SignIn, { mail: ' ines@selkie.example ', password: 'x' }],
    ['a request', Submit, { id, workflow: 'annual-leave', answers: {} }],
    ['a decision', SendCommand, { id, command: { kind: 'answer', seen: 3, task: 'R-1.1', outcome: 'approve' } }],
    ['a withdrawal', SendCommand, { id, command: { kind: 'withdraw', seen: 3, note: null } }],
    ['a preview of a change', PreviewInput, { workflow: 'annual-leave', request: 'R-1', answers: {} }],
    ['a draft', SaveDraft, { answers: { dates: null } }],
    ['an hour forward', MoveClock, { days: 0, hours: 1 }],
    ['requests to be moved', Move, { requests: ['R-1'], reason: 'A better limit.' }],
    ['people who may', SetPermissions, { permissions: { edit: ['wren'], publish: [], see: [] } }],
    ['everybody may', SetPermissions, { permissions: null }],
    ['a task that is done', SendCommand, { id, command: { kind: 'complete', seen: 3, task: 'R-1.1' } }],
    ['a publishing', Publish, { revision: 0, comment: 'New limit.' }],
  ])('%s', (_, schema, input) => {
    expect(schema.safeParse(input).success).toBe(true);
  });

  test.each([
    ['a card with more than a card', SignIn, { card: 'ines', rights: ['designer'] }],
    ['an empty password', SignIn, { mail: 'a@b', password: '' }],
    ['a command without an id', SendCommand, { command: { kind: 'withdraw', seen: 1 } }],
    ['an id that is none', Submit, { id: 'R-1', workflow: 'a', answers: {} }],
    ['a timer, which nobody may send', SendCommand, { id, command: { kind: 'timer', task: 'R-1.1', what: 'limit' } }],
    [
      'a decision that saw nothing',
      SendCommand,
      { id, command: { kind: 'answer', task: 'R-1.1', outcome: 'approve' } },
    ],
    ['a note of a whole book', SendCommand, { id, command: { kind: 'withdraw', seen: 1, note: 'x'.repeat(5001) } }],
    ['the clock backwards', MoveClock, { days: -1, hours: 0 }],
    ['the clock not at all', MoveClock, { days: 0, hours: 0 }],
    ['moving without a reason', Move, { requests: ['R-1'], reason: ' ' }],
    ['moving nothing', Move, { requests: [], reason: 'x' }],
    ['nobody said', SetPermissions, {}],
    ['publishing without a word', Publish, { revision: 1, comment: ' ' }],
    ['answers that are a list', SaveDraft, { answers: [] }],
  ])('%s is refused', (_, schema, input) => {
    expect(schema.safeParse(input).success).toBe(false);
  });
});
