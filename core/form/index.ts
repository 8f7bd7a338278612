/** Forms: what can be asked, who sees what at which step, and answers read, compared and said. */
export * from './access.ts';
export * from './answers.ts';
export * from './field.ts';
export * from './file.ts';
export * from './list.ts';
