import { expect, test } from '@jest/globals';
import { bodiesOf } from './mail.ts';

test('a mail goes out as plain words and as HTML, with the link below both', () => {
  const { text, html } = bodiesOf({ text: 'Ina <asks>.\nSoon.\n\nReply.', link: 'http://pebble.example/desk?a=1&b=2' });
  expect(text).toBe('Ina <asks>.\nSoon.\n\nReply.\n\nOpen it: http://pebble.example/desk?a=1&b=2');
  expect(html).toBe(
    '<p>Ina &lt;asks&gt;.<br>Soon.</p><p>Reply.</p><p><a href="http://pebble.example/desk?a=1&amp;b=2">Open it in North Pebble</a></p>',
  );
});

test('what was written as rich text stays as it was written', () => {
  expect(bodiesOf({ text: 'Yes', html: '<p><strong>Yes</strong></p>' })).toEqual({
    text: 'Yes',
    html: '<p><strong>Yes</strong></p>',
  });
});
