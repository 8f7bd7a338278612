/** What browsers have and the pages' stand-in for one has not, and what takes it too long. */
import { TextDecoder, TextEncoder } from 'node:util';

globalThis.TextEncoder ??= TextEncoder;
globalThis.TextDecoder ??= TextDecoder;
const page = globalThis.window;
if (page) {
  page.scrollTo = () => {};
  // Every look at an element by its role asks whether it can be seen, and the stand-in holds it against every rule of every
  // style sheet for that: nearly half of the time of these tests. They see what markup and styles of its own hide; what
  // style sheets hide is for the browser tests, which have a real browser.
  const neverSeen = new Set(['HEAD', 'NOSCRIPT', 'SCRIPT', 'STYLE', 'TEMPLATE']);
  const said = (element, name) => {
    const own = element.style?.getPropertyValue(name);
    if (own) return own;
    if (name === 'display') return element.hidden || neverSeen.has(element.tagName) ? 'none' : 'block';
    return name === 'visibility' ? 'visible' : '';
  };
  page.getComputedStyle = (element, pseudo) =>
    new Proxy(pseudo ? {} : (element.style ?? {}), {
      get(own, key) {
        if (key === 'getPropertyValue') return name => (pseudo ? '' : said(element, name));
        if (typeof key === 'symbol' || typeof own[key] === 'function') return own[key]?.bind?.(own) ?? own[key];
        return pseudo
          ? ''
          : said(
              element,
              key.replace(/[A-Z]/g, letter => `-${letter.toLowerCase()}`),
            );
      },
    });
}
