/** Loaded before the tests of a mutation run: TypeScript is read as it is, and what tests import is what mocha gives. */
import { register } from 'node:module';
import 'tsx/esm';

register('./resolve.mjs', import.meta.url);
