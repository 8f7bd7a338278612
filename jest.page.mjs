/** What browsers have and the pages' stand-in for one has not. */
import { TextDecoder, TextEncoder } from 'node:util';

globalThis.TextEncoder ??= TextEncoder;
globalThis.TextDecoder ??= TextDecoder;
if (globalThis.window) globalThis.window.scrollTo = () => {};
