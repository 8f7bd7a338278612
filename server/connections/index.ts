/** Ways out of the house. */
export * from './mail.ts';
