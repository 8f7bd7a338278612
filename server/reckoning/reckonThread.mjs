/** How the thread begins: what is written in TypeScript is read by the same loader as in the main thread. */
import { register } from 'tsx/esm/api';

register();
await import('./worker.ts');
