/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import { isTyping } from './typing.ts';

afterEach(() => {
  document.body.innerHTML = '';
});

describe('keys that go into something', () => {
  test.each([
    ['a field', '<input id="it">', true],
    ['a text', '<textarea id="it"></textarea>', true],
    ['a part of a date', '<div role="group"><span role="spinbutton" id="it">02</span></div>', true],
    ['a text with marks', '<div contenteditable="true"><b id="it">x</b></div>', true],
    ['an option of a list', '<ul role="listbox"><li role="option" id="it">x</li></ul>', true],
    ['a button in a dialog', '<div role="dialog"><button id="it">x</button></div>', true],
    ['a button', '<button id="it">x</button>', false],
    ['a link', '<a href="/" id="it">x</a>', false],
    ['words that cannot be changed', '<div contenteditable="false" id="it">x</div>', false],
  ])('%s: %s', (_, html, expected) => {
    document.body.innerHTML = html;
    expect(isTyping(document.getElementById('it'))).toBe(expected);
  });

  test('nothing at all takes no keys', () => {
    expect(isTyping(null)).toBe(false);
    expect(isTyping(document.body)).toBe(false);
  });
});
