/** Workflows: the definition, its sentences and findings, and how a request runs through it. */
export * from './answers.ts';
export * from './context.ts';
export * from './definition.ts';
export * from './evaluate.ts';
export * from './events.ts';
export * from './findings.ts';
export * from './graph.ts';
export * from './handle.ts';
export * from './letters.ts';
export * from './state.ts';
export * from './trail.ts';
export * from './words.ts';
