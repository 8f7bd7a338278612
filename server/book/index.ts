/** The leave book as it stands in its tables: of some people for a command, of everybody for whoever looks at all. */
export * from './everybody.ts';
export * from './reading.ts';
