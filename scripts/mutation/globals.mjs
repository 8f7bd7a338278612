/** What tests import from Jest, over mocha: the same expectations, the same tables of cases. */
import { bind } from 'jest-each';

const { describe: group, it, before, after, beforeEach, afterEach } = globalThis;

/** Jest tells time limits apart by a third value; here none is needed. */
const named = run => (name, work) => run(name, work && (() => work()));
const withEach = (run, skipped) => Object.assign(run, { each: bind(run), skip: skipped });

export { expect } from 'expect';
export const describe = withEach((name, work) => group(String(name), work), group.skip);
export const test = withEach(named(it), it.skip);
export { after as afterAll, afterEach, before as beforeAll, beforeEach, test as it };
